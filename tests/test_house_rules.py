"""Rules of the house that a machine can check."""

import ast
import json
import re
import subprocess

import pytest
from PIL import Image

from fulgura.core.wire import BlockId
from fulgura.folders import ROOT
from fulgura.gates import GATES

TRACKED = [
    ROOT / name
    for name in subprocess.run(
        ["git", "ls-files"], cwd=ROOT, capture_output=True, text=True, check=True
    ).stdout.splitlines()
]


def test_ci_passes_the_gates_before_the_long_tests():
    """./fulgura test is what .ci/run calls; it runs every tool that the hooks run."""
    assert "./fulgura test" in (ROOT / ".ci/run").read_text()
    hooks = (ROOT / ".pre-commit-config.yaml").read_text()
    for name in (
        "ruff check",
        "ruff format",
        "lint-imports",
        "mypy",
        "run --silent lint",
        "run --silent check",
    ):
        assert name in hooks, name
    words = [" ".join(words) for words in GATES.values()]
    for name in ("ruff check", "ruff format --check", "lint-imports", "mypy", "lint", "check", "test"):
        assert any(name in line for line in words), name


SHORT = [
    path
    for path in TRACKED
    if path.suffix in {".py", ".ts", ".vue"}
    and path.is_file()
    and path.name != "api-types.ts"
    and path.relative_to(ROOT).parts[0] in {"src", "bench", "training", "harness", "desk"}
]
LONGEST_MODULE, LONGEST_COMPONENT, LONGEST_FUNCTION = 350, 250, 60


def test_modules_components_and_functions_are_short():
    """Modules under 350 lines, components under 250, functions of Python under 60 (eslint holds those of the
    desk to the same).
    """
    for path in SHORT:
        most = LONGEST_COMPONENT if path.suffix == ".vue" else LONGEST_MODULE
        assert path.read_text().count("\n") < most, path
        if path.suffix == ".py":
            for node in ast.walk(ast.parse(path.read_text())):
                if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef):
                    assert node.end_lineno - node.lineno < LONGEST_FUNCTION, (path, node.name)


def test_nothing_in_python_chooses_in_a_choice():
    """No conditional expression stands in another's branches (eslint has the desk's rule)."""
    for path in SHORT:
        if path.suffix != ".py":
            continue
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.IfExp):
                nested = isinstance(node.body, ast.IfExp) or isinstance(node.orelse, ast.IfExp)
                assert not nested, (path, node.lineno)


def test_handlers_in_templates_are_no_longer_than_a_call():
    """One call or one assignment; what chooses or does two things has a name in the script."""
    for path in (ROOT / "desk/src").rglob("*.vue"):
        template = path.read_text().partition("<template>")[2].partition("<style")[0]
        for name, code in re.findall(r'\s@([\w:.-]+)="([^"]*)"', template):
            outside = re.sub(r"\([^()]*\)|`[^`]*`|=>", "", re.sub(r"\([^()]*\)|`[^`]*`", "", code))
            assert not re.search(r";|&&|\|\||\s\?\s", outside), (path.name, name, code)


def test_the_core_reads_no_clock_and_touches_no_outside():
    forbidden = {"time", "threading", "socket", "subprocess", "asyncio", "datetime", "os", "random"}
    for path in (ROOT / "src/fulgura/core").rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            names = [a.name for a in node.names] if isinstance(node, ast.Import) else []
            names += [node.module or ""] if isinstance(node, ast.ImportFrom) else []
            assert not {name.split(".")[0] for name in names} & forbidden, path


def test_public_functions_of_the_core_say_what_they_do():
    bare = []
    for path in (ROOT / "src/fulgura/core").rglob("*.py"):
        for node in ast.parse(path.read_text()).body:
            if (
                isinstance(node, ast.FunctionDef | ast.ClassDef)
                and not node.name.startswith("_")
                and not ast.get_docstring(node)
            ):
                bare.append(f"{path.name}: {node.name}")
    assert bare == []


def test_lock_files_hold_versions_and_hashes_but_no_addresses():
    for name in ("requirements.lock", "requirements-test.lock", "requirements-flashes.lock"):
        text = (ROOT / name).read_text()
        assert "://" not in text and text.count("--hash=sha256:") > 100
        for line in re.findall(r"^[A-Za-z0-9][^\n]*", text, re.M):
            assert "==" in line, line
    packages = json.loads((ROOT / "desk/package-lock.json").read_text())["packages"]
    assert len(packages) > 50 and not [name for name, row in packages.items() if "resolved" in row]


def test_every_dependency_is_locked():
    import tomllib

    project = tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]
    locked = (
        ((ROOT / "requirements.lock").read_text() + (ROOT / "requirements-test.lock").read_text())
        .lower()
        .replace("_", "-")
    )
    for requirement in [
        *project["dependencies"],
        *(r for extra in project["optional-dependencies"].values() for r in extra),
    ]:
        name = re.match(r"[A-Za-z0-9_.-]+", requirement)[0].lower().replace("_", "-")
        assert re.search(rf"^{re.escape(name)}==", locked, re.M), name


def test_the_page_and_python_agree_on_block_ids():
    text = (ROOT / "desk/src/live/wire.ts").read_text()
    theirs = dict(re.findall(r"(\w+): (\d+)", re.search(r"Block = \{(.*?)\}", text, re.S)[1]))
    assert {name: int(value) for name, value in theirs.items()} == {
        block.name.lower(): int(block) for block in BlockId
    }


def test_the_browser_holds_no_shader_text():
    for path in (ROOT / "desk/src").rglob("*"):
        if path.suffix in {".ts", ".vue"} and path.name != "api-types.ts":
            assert "gl_Position" not in path.read_text() and "void main" not in path.read_text(), path


def test_screenshots_are_shown_in_the_readme_and_have_the_desks_size():
    readme = (ROOT / "README.md").read_text()
    shots = list((ROOT / "docs/screenshots").glob("*.png"))
    assert 4 <= len(shots) < 20
    for shot in shots:
        assert shot.name in readme
        assert Image.open(shot).width == 1280


@pytest.mark.parametrize("link", re.findall(r"\]\((?!http)([^)]+)\)", (ROOT / "README.md").read_text()))
def test_links_of_the_readme_lead_somewhere(link):
    assert (ROOT / link).exists(), link


def test_notices_name_every_package_that_runs():
    notices = (ROOT / "THIRD-PARTY-NOTICES.md").read_text()
    for line in re.findall(r"^([A-Za-z0-9_.-]+)==", (ROOT / "requirements.lock").read_text(), re.M):
        assert f"| {line} |" in notices, line
    for name in json.loads((ROOT / "desk/package.json").read_text())["dependencies"]:
        assert f"| {name} |" in notices, name


def run(*words: str) -> subprocess.CompletedProcess:
    return subprocess.run([ROOT / "fulgura", *words], capture_output=True, text=True, timeout=200)


def test_the_launcher_lists_its_commands():
    text = run("--help").stdout
    for command in ("demo", "start", "setup", "test", "analyze", "still", "bench", "standin", "doctor"):
        assert command in text
    assert "rig" in run("standin", "--help").stdout


def test_the_doctor_finds_this_machine_well():
    done = run("doctor")
    assert done.returncode == 0 and "missing" not in done.stdout, done.stdout


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (["--look", "no such look", "out.png"], "There is no look"),
        (["--look", "lantern-tunnel", "out.txt"], "must end in .png"),
        (["--look", "lantern-tunnel", "--size", "big", "out.png"], "not a size"),
        (["--look", "lantern-tunnel", "--size", "9x9", "out.png"], "from 16x16"),
    ],
)
def test_a_still_that_cannot_be_drawn_says_why(words, said):
    done = run("still", *words)
    assert done.returncode == 1 and said in done.stdout and "Traceback" not in done.stderr


def test_two_stills_of_the_same_moment_are_the_same_file(tmp_path):
    for name in ("a.png", "b.png"):
        done = run(
            "still", "--look", "Lantern tunnel", "--at", "1.5", "--size", "160x90", str(tmp_path / name)
        )
        assert done.returncode == 0, done.stdout + done.stderr
    assert (tmp_path / "a.png").read_bytes() == (tmp_path / "b.png").read_bytes()
    picture = Image.open(tmp_path / "a.png")
    assert picture.size == (160, 90) and max(high for _, high in picture.getextrema()) > 100
