"""Set-up: what is missing is found and named; what is there is left alone."""

import os
import subprocess
import sys

import pytest

from fulgura import setup
from fulgura.setup import SetupError


@pytest.fixture
def said():
    return []


def test_a_machine_that_has_everything_is_left_alone(said, monkeypatch):
    monkeypatch.setattr(setup.subprocess, "run", lambda *_, **__: pytest.fail("something was run"))
    setup.ensure(setup.TESTING, said.append)
    assert said == []


def test_missing_system_packages_are_named_where_there_is_no_apt(said, monkeypatch):
    monkeypatch.setattr(setup, "_found", lambda thing: thing != "tshark")
    monkeypatch.setattr(setup.shutil, "which", lambda *_, **__: None)
    with pytest.raises(SetupError, match="tshark"):
        setup._system_packages(setup.TESTING, said.append)
    assert "tshark" in said[0]


def test_missing_system_packages_are_installed_after_one_update(said, monkeypatch):
    calls = []

    def run(command, **_):
        calls.append(command)
        first_install = "install" in command and not any("update" in c for c in calls)
        return subprocess.CompletedProcess(command, 1 if first_install else 0, "", "no list yet")

    monkeypatch.setattr(setup, "_found", lambda thing: thing != "mariadbd")
    monkeypatch.setattr(setup.subprocess, "run", run)
    setup._system_packages(setup.RUNNING, said.append)
    assert [c[-1] for c in calls] == ["mariadb-server-core", "-qq", "mariadb-server-core"]


def test_without_root_and_sudo_the_command_to_run_is_printed(said, monkeypatch):
    monkeypatch.setattr(setup, "_found", lambda thing: thing != "mariadbd")
    monkeypatch.setattr(setup.os, "geteuid", lambda: 1000)
    monkeypatch.setattr(
        setup.shutil, "which", lambda name, **_: None if name == "sudo" else f"/usr/bin/{name}"
    )
    with pytest.raises(SetupError, match="apt-get install mariadb-server-core"):
        setup._system_packages(setup.RUNNING, said.append)


def test_a_failing_step_ends_with_its_own_last_words():
    with pytest.raises(SetupError, match="The analyser could not be made ready.*out of paper"):
        setup._run(["sh", "-c", "echo out of paper; exit 3"], "The analyser")


def test_a_changed_file_changes_the_digest(tmp_path):
    file = tmp_path / "a.ts"
    file.write_text("one")
    before = setup.digest_of(file)
    file.write_text("two")
    assert setup.digest_of(file) != before
    assert setup._desk_digest() == setup._desk_digest()


def test_the_launcher_and_python_agree_on_the_lock_files_digest():
    """The shell script and setup.py both decide from it whether packages are current."""
    script = subprocess.run(
        [
            "bash",
            "-c",
            "{ printf 'requirements.lock\\0'; cat requirements.lock; } | sha256sum | cut -d' ' -f1",
        ],
        cwd=setup.ROOT,
        capture_output=True,
        text=True,
        check=True,
    )
    assert script.stdout.strip() == setup.digest_of(setup.ROOT / "requirements.lock")


def test_what_judges_the_beat_is_compiled_before_a_show_starts():
    """The engine's tick must not stop for a compiler: these are first needed when the second beat has
    sounded.
    """
    check = (
        "from fulgura.core.sound.beat.tempo_filter import lean;"
        "from fulgura.core.sound.models import hypotheses, metre, perceptron, track_change;"
        "print({len(f.signatures) for f in (track_change.features, lean, metre.keep_step,"
        " metre.beat_features, perceptron.ask, hypotheses._strongest, hypotheses.favour)})"
    )
    environment = {**os.environ, "PYTHONPATH": str(setup.ROOT / "src")}
    done = subprocess.run(
        [sys.executable, "-c", f"{setup.WARM_UP}{check}"],
        capture_output=True,
        text=True,
        check=True,
        env=environment,
    )
    assert done.stdout.strip() == "{1}"
