"""Starting, stopping, and what happens when a process dies: the others go on, and it is healed."""

import contextlib
import signal
import socket
import subprocess
import sys
import time
from pathlib import Path

import psutil
import pytest
from pythonosc.udp_client import SimpleUDPClient

from fulgura import supervisor
from fulgura.children import Child, child_environment
from fulgura.core.kinds.descriptors import DESCRIPTOR_IDS
from fulgura.folders import ROOT, Folders
from fulgura.supervisor import CannotStart, check_folder
from harness.stack import free_port, live, start_stack, wait_for

RING = "/looks/lantern-tunnel/layers/lantern/source/values"


def frame_number(stack) -> int:
    return live(stack, 0.3, [3])[0][-1].number


def test_the_engine_is_healed_and_gets_its_show_back(own):
    own.set(f"{RING}/width", 0.77)
    victim = own.child("fulgura.engine")
    victim.send_signal(signal.SIGKILL)
    own.set(f"{RING}/glow", 0.33)  # The desk goes on taking edits meanwhile.
    wait_for(lambda: own.call("GET", "/health")[1]["unsaved"] == 0, 10, "the saving")
    wait_for(
        lambda: own.child("fulgura.engine").pid != victim.pid and own.call("GET", "/health")[1]["engine"],
        20,
        "healing",
    )

    def values():
        packets, news = live(own, 0.6, [5])
        layout = next(row["data"]["layout"] for row in reversed(news) if row["type"] == "layout")
        folders = {entry["target"]: entry["index"] for entry in layout["indices"]}
        block = packets[-1].blocks[5]
        return block[folders["ring.width"]] == pytest.approx(0.77) and block[
            folders["ring.glow"]
        ] == pytest.approx(0.33)

    wait_for(values, 10, "the show in the new engine")
    first = own.lamp()
    wait_for(lambda: own.lamp() != first, 10, "the lamp's moving")


def test_controllers_are_heard_again_when_their_process_is_healed(own):
    victim, engine = own.child("fulgura.control"), own.child("fulgura.engine").pid
    victim.send_signal(signal.SIGKILL)
    wait_for(lambda: own.child("fulgura.control").pid != victim.pid, 20, "healing")
    client = SimpleUDPClient("127.0.0.1", own.port)

    def heard() -> bool:
        client.send_message("/healed", 0.5)
        rows = [row for news in live(own, 0.4, [])[1] if news["type"] == "control" for row in news["data"]]
        return any(row["source"] == "osc /healed" for row in rows)

    wait_for(heard, 20, "a message")
    assert own.child("fulgura.engine").pid == engine


def test_lamp_goes_on_while_the_web_process_is_healed(own):
    left = [own.folders.incoming(folder) for folder in (own.folders.tracks, own.folders.pictures)]
    for file in left:
        file.write_bytes(b"half a file")
    victim = own.child("fulgura.web")
    engine = own.child("fulgura.engine").pid
    before = own.show()["document"]
    victim.send_signal(signal.SIGKILL)
    seen = set()
    until = time.monotonic() + 1.0
    while time.monotonic() < until:
        seen.add(tuple(own.lamp()))
        time.sleep(0.05)
    assert len(seen) > 3, "the lamp stood still"
    wait_for(lambda: own.call("GET", "/health")[1]["engine"], 20, "healing")
    assert own.child("fulgura.engine").pid == engine and own.show()["document"] == before
    assert not [file for file in left if file.exists()], "what was being uploaded is cleared away"


def test_the_show_goes_on_without_the_database_and_saving_resumes(own):
    victim = own.child("mariadbd")
    number = frame_number(own)
    victim.send_signal(signal.SIGSTOP)
    victim.send_signal(signal.SIGKILL)
    answer = own.set(f"{RING}/level", 1.5)
    assert frame_number(own) > number
    if not answer["saved"]:
        wait_for(lambda: own.call("GET", "/health")[1]["saved"], 30, "saving again")
    wait_for(lambda: own.child("mariadbd").pid != victim.pid, 20, "the database's healing")
    assert own.set(f"{RING}/level", 1.6)["version"] > answer["version"]
    wait_for(
        lambda: own.call("GET", "/health")[1]["unsaved"] == 0 and own.call("GET", "/shows")[0] == 200,
        20,
        "the database",
    )


def test_the_node_dies_and_the_show_does_not_notice(own):
    victim = own.child("standin rig")
    victim.send_signal(signal.SIGKILL)
    assert frame_number(own) > 0
    wait_for(own.lamp, 20, "the node's healing")


def bare_imports_s() -> float:
    """Seconds that the packages alone take to import here and now: 1.2 on a quiet machine like this one,
    where a later start takes 3.
    """
    started = time.monotonic()
    subprocess.run(
        [sys.executable, "-c", "import fastapi, numba.typed, scipy.signal, pydantic, pymysql"], check=True
    )
    return time.monotonic() - started


def in_time(start_s: float, yardstick_s: float) -> bool:
    return start_s < max(8.0, 5.0 * yardstick_s)


def test_everything_is_as_it_was_after_a_restart(own):
    own.set(f"{RING}/sides", 5.0, "Five sides")
    own.set("/inputs/main/use", "house")
    before = own.show()
    children = psutil.Process(own.process.pid).children(recursive=True)
    assert own.stop() == 0
    assert not [child for child in children if child.is_running() and child.status() != psutil.STATUS_ZOMBIE]
    starts = []
    for _ in range(3):
        # The host may take most of the processors away for a while: a start is also judged by what bare
        # imports take just before it.
        yardstick = bare_imports_s()
        started = time.monotonic()
        again = start_stack(own.folders.data)
        starts.append((time.monotonic() - started, yardstick))
        if in_time(*starts[-1]) or len(starts) == 3:
            break
        assert again.stop() == 0
    try:
        assert again.show()["document"] == before["document"] and again.show()["undo"] == before["undo"]
        again.call("POST", "/show/undo")
        again.call("POST", "/show/undo")
        assert again.show()["document"]["looks"][0]["layers"][0]["source"]["values"]["sides"] != 5.0
        assert in_time(*starts[-1]), (
            f"later starts took (s, with bare imports beside): {starts}; the last"
            f" said:\n{again.output.read_text()}"
        )
        # A second start over the same folder is refused and disturbs nothing.
        second = launch("--data", str(own.folders.data))
        assert second.returncode == 1 and "already runs" in second.stdout
        assert again.call("GET", "/health")[1]["engine"]
    finally:
        assert again.stop() == 0


def test_start_has_no_show_at_first_and_makes_one(tmp_path):
    stack = start_stack_for_own_shows(tmp_path)
    try:
        assert stack.call("GET", "/shows")[1] == [] and stack.call("GET", "/show")[0] == 404
        status, state = stack.call("POST", "/shows", {"name": "Mine"})
        assert (
            status == 201
            and state["document"]["name"] == "Mine"
            and state["document"]["inputs"][0]["use"] == "house"
        )
        wait_for(
            lambda: len(live(stack, 0.4, [4])[0][-1].blocks[4]) == 14 + len(DESCRIPTOR_IDS), 10, "its signals"
        )
    finally:
        assert stack.stop() == 0


def start_stack_for_own_shows(folder: Path):
    port = free_port()
    output = folder / "own.log"
    with open(output, "wb") as log:
        process = subprocess.Popen(
            [sys.executable, "-m", "fulgura", "start", "--port", str(port), "--data", str(folder / "data")],
            stdout=log,
            stderr=log,
            env=child_environment(),
            cwd=ROOT,
        )
    from harness.stack import Stack

    stack = Stack(Folders(folder / "data"), port, None, process, output)
    wait_for(lambda: "ready" in output.read_text() or process.poll() is not None, 60, "the start")
    return stack


def launch(*words: str) -> subprocess.CompletedProcess:
    ports = [] if "--port" in words else ["--port", str(free_port())]
    return subprocess.run(
        [sys.executable, "-m", "fulgura", "start", *words, *ports],
        capture_output=True,
        text=True,
        env=child_environment(),
        timeout=60,
    )


def test_a_taken_port_is_named_and_nothing_is_touched(tmp_path):
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        done = launch("--data", str(tmp_path / "data"), "--port", str(port))
    assert done.returncode == 1 and f"Port {port}" in done.stdout and "Traceback" not in done.stderr
    assert not (tmp_path / "data").exists()


def test_a_foreign_folder_is_left_alone(tmp_path):
    (tmp_path / "photo.jpg").write_bytes(b"precious")
    done = launch("--data", str(tmp_path))
    assert done.returncode == 1 and "not a data folder" in done.stdout
    assert [p.name for p in tmp_path.iterdir()] == ["photo.jpg"]


def test_a_damaged_data_folder_is_named_and_left_alone(tmp_path):
    data = tmp_path / "data"
    (data / "database").mkdir(parents=True)
    (data / "README.fulgura").write_text(supervisor.MARK)
    done = launch("--data", str(data))
    assert done.returncode == 1 and "damaged" in done.stdout
    assert sorted(p.name for p in data.iterdir()) == ["README.fulgura", "database"]


def test_a_first_start_that_was_broken_off_begins_anew(tmp_path):
    """Power went while the database was made: its files are in part there, the mark is not yet."""
    data = tmp_path / "data"
    (data / "database" / "mysql").mkdir(parents=True)
    (data / "database" / "ibdata1").write_bytes(b"")
    (data / supervisor.BEGUN).write_text(supervisor.MARK)
    stack = start_stack(data, "start")
    assert stack.stop() == 0
    assert (data / supervisor.WHOLE).read_text() == supervisor.MARK and not (data / supervisor.BEGUN).exists()


def test_a_full_disk_is_named(tmp_path, monkeypatch):
    monkeypatch.setattr(supervisor.shutil, "disk_usage", lambda _: type("Usage", (), {"free": 1 << 20})())
    with pytest.raises(CannotStart, match="full"):
        check_folder(Folders(tmp_path / "data"))


SLOW = (
    "import socket, sys, time; time.sleep(1.0); socket.create_server(('127.0.0.1',"
    " int(sys.argv[1]))).accept(); time.sleep(60)"
)


@pytest.mark.parametrize(
    ("command", "longest", "words"),
    [
        (SLOW, 60.0, None),
        ("import time; time.sleep(60)", 1.0, "did not answer within 1 s"),
        ("pass", 60.0, "did not start"),
    ],
)
def test_a_desk_that_takes_long_is_waited_for_and_one_that_ended_is_not(
    tmp_path, monkeypatch, command, longest, words
):
    monkeypatch.setattr(supervisor, "LONG_START_S", 0.2)
    monkeypatch.setattr(supervisor, "LONGEST_START_S", longest)
    said = []
    starting = supervisor.Supervisor(Folders(tmp_path), free_port(), None, said.append)
    starting.folders.make()
    command = [sys.executable, "-c", command, str(starting.port)]
    child = starting._start(Child("web", command, tmp_path / "web.log"))
    try:
        with contextlib.nullcontext() if words is None else pytest.raises(CannotStart, match=words):
            starting._wait_for_desk()
        assert words is not None or said == [
            "The desk takes longer than usual on this machine; still waiting for it"
        ]
    finally:
        child.process.kill()
        child.process.wait()


def test_a_missing_package_is_named(tmp_path, monkeypatch):
    from fulgura.store import server
    from fulgura.store.connection import StoreError

    monkeypatch.setattr(server.shutil, "which", lambda *_, **__: None)
    with pytest.raises(StoreError, match="mariadb-server-core"):
        server.program("mariadbd")
