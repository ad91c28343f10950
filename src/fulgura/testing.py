"""``./fulgura test`` after the gates: all tests, as many at once as disturb nobody.

First what only computes. Then what runs in real time, the API beside the desk and each with a show of its
own: such tests mostly wait. Last those that measure how fast something is, with the processors to themselves.

Whole jobs of the desk play half an hour of music in real time: they are run by their folder,
``./fulgura test tests/desk/jobs``, before something is handed over. Of what breaks things, by ``./fulgura
break``, those that kill processes at random moments are run here.
"""

import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor

from fulgura.children import child_environment
from fulgura.folders import ROOT

API, DESK, JOBS, BREAKING = "tests/api", "tests/desk", "tests/desk/jobs", "tests/breaking"
BESIDE = tuple(f"{DESK}/test_{name}.py" for name in ("lights", "output_parity", "parity", "run", "send"))
"""Of the desk's what goes with the API's, which are fewer: both then take about as long."""
COMPUTING = (
    "tests",
    f"--ignore={API}",
    f"--ignore={DESK}",
    f"--ignore={BREAKING}",
    # The examples in the words of the core.
    "--doctest-modules",
    "src/fulgura/core",
    # A process a processor. What the hot loops of these tests take is what the engine gives them: set-up has
    # compiled it, and processes that compile one function at once can spoil what numba keeps on disk.
    "--numprocesses=auto",
    "--dist=loadfile",
)
ALONE, SHARED = ("-m", "alone"), ("-m", "not alone")


def run(words: list[str]) -> int:
    """Give words to pytest, or run everything; 0 when all is well."""
    if words:
        return _run(*words).returncode
    codes = [_run(*COMPUTING).returncode, *_side_by_side()]
    codes += [_run(API, DESK, *ALONE).returncode, _run(BREAKING, "-k", "random or goes_on").returncode]
    return max(codes, key=abs)


def _run(*words: str, keeps: int | None = None) -> subprocess.CompletedProcess[str]:
    """keeps: where what it says goes; shown as it comes without."""
    return subprocess.run(
        (sys.executable, "-m", "pytest", *words),
        cwd=ROOT,
        env=child_environment(),
        text=True,
        stdout=keeps,
        stderr=keeps and subprocess.STDOUT,
    )


def _side_by_side() -> list[int]:
    """Run both at once; what the API's said is told after the desk's."""
    with ThreadPoolExecutor(1) as pool:
        api = pool.submit(_run, API, *BESIDE, *SHARED, keeps=subprocess.PIPE)
        desk = _run(DESK, *(f"--ignore={each}" for each in (JOBS, *BESIDE)), *SHARED)
        print(api.result().stdout, flush=True)
    return [desk.returncode, api.result().returncode]
