"""Every process, and each pair, killed and halted while edits come ten a second: silences are short."""

import contextlib
import itertools
import json
import random
import time
from typing import Any

import pytest
from websockets.sync.client import connect

from harness.breaking import engine, hurt, processes, victim
from harness.stack import live, wait_for
from tests.breaking.conftest import width

SILENT_S = {("engine", "kill"): 0.5, ("engine", "halt"): 1.5}
"""Seconds for which lights may be silent; 0.2 where it is somebody else's death."""
BACK_S = 40.0
LOADED_S = 8.0
"""After how long a spare is ready, amply."""


def healthy(stack):
    """All there, all saved, and a spare that has had the time to load everything."""
    status, health = stack.call("GET", "/health")
    engines = processes(stack, "engine")
    loaded = len(engines) > 1 and all(time.time() - one.create_time() > LOADED_S for one in engines)
    return status == 200 and health["engine"] and health["saved"] and loaded


def all_there(stack, editor):
    """The value is the last that was answered, or one that was asked for after that."""
    return width(stack) in editor.asked[editor.asked.index(editor.answered[-1]) :]


def quiet(stack):
    wait_for(lambda: healthy(stack), BACK_S, "health")
    time.sleep(1.0)


CASES = [
    (parts, how)
    for how in ("kill", "halt")
    for parts in [(part,) for part in ("engine", "web", "control", "database", "rig")]
    + list(itertools.combinations(("engine", "web", "control", "database", "rig"), 2))
    if how == "kill" or not {"rig", "database"} & set(parts) or parts == ("database",)
]


@pytest.mark.parametrize(("parts", "how"), CASES, ids=lambda x: x if isinstance(x, str) else "+".join(x))
def test_what_dies_is_back_and_nothing_is_lost(stack, packets, editor, parts, how):
    quiet(stack)
    victims = [victim(stack, part) for part in parts]
    head, since = stack.show()["head"], time.monotonic()
    count = len(editor.answered)
    for process in victims:
        hurt(process, how)
    if how == "halt" and "database" in parts:
        time.sleep(8.0)
        victims[parts.index("database")].resume()
    # A database that was halted goes on; all others are replaced.
    gone = [one for one, part in zip(victims, parts, strict=True) if part != "database"]
    wait_for(lambda: healthy(stack) and not any(one.is_running() for one in gone), BACK_S, "the healing")
    time.sleep(1.0)
    silence = packets.silence(since)
    editor.close()
    print(f"{'+'.join(parts)} {how}: silent {silence:.2f} s, {len(editor.answered) - count} edits")
    assert all_there(stack, editor)
    # One may have been made before the head was read, and answered after.
    assert stack.show()["head"] - head >= len(editor.answered) - count - 1
    allowed = max(SILENT_S.get((part, how), 0.2) for part in parts)
    assert silence <= allowed, f"lights were silent for {silence:.2f} s"


def test_killed_at_random_moments(stack, packets, editor, request):
    """As often as asked: 20 times, or 200."""
    chance = random.Random(7)
    for _ in range(request.config.getoption("--kills")):
        quiet(stack)
        part = chance.choice(("engine", "engine", "web", "database"))
        time.sleep(chance.random())
        head, count = stack.show()["head"], len(editor.answered)
        hurt(victim(stack, part), "kill")
        wait_for(lambda: healthy(stack), BACK_S, f"the healing of {part}")
        wait_for(lambda count=count: len(editor.answered) > count + 2, 10, "edits that go on")
        answered = len(editor.answered)  # Counted before the head is read: edits go on.
        assert stack.show()["head"] - head >= answered - count - 1, part
    editor.close()
    print(f"{len(editor.answered)} edits were answered")
    assert all_there(stack, editor)


def test_a_page_has_frames_again_soon(stack):
    """What a page draws by, while the engine is killed, and while it is halted."""
    for how, allowed in (("kill", 0.7), ("halt", 1.7)):
        quiet(stack)
        times: list[float] = []
        origin: Any = stack.url
        with connect(f"ws://127.0.0.1:{stack.port}/api/v1/live", origin=origin) as socket:
            socket.send(json.dumps({"want": [3]}))
            until, hurt_at = time.monotonic() + 6.0, time.monotonic() + 1.0
            while (now := time.monotonic()) < until:
                if hurt_at and now > hurt_at:
                    hurt(engine(stack), how)
                    hurt_at = 0.0
                with contextlib.suppress(TimeoutError):
                    if isinstance(socket.recv(timeout=0.1), bytes):
                        times.append(time.monotonic())
        gap = max(after - before for before, after in itertools.pairwise(times))
        print(f"engine {how}: a page without frames for {gap:.2f} s")
        assert times[-1] > until - 0.5 and 0.05 < gap <= allowed


def test_the_beat_goes_on_where_it_was(stack):
    """The house band, the engine killed in the middle of a bar: the bar goes on, counted and in time."""
    stack.set("/inputs/main/use", "house")
    quiet(stack)
    time.sleep(8.0)

    def frames():
        return stack.call("GET", "/health")[1]

    before = live(stack, 0.5, [3])[0][-1]
    at = time.monotonic()
    engine(stack).kill()
    wait_for(lambda: frames()["engine"], 10, "the next engine")
    after = live(stack, 0.5, [3])[0][-1]
    gone = time.monotonic() - at
    assert after.time - before.time == pytest.approx(gone, abs=0.4), "the stream's clock goes on"
    assert after.number > before.number
