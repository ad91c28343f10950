"""An engine that goes on where another one ended."""

import time

import numpy as np
import pytest

from fulgura.core import wire
from fulgura.core.clock import blocks_due
from fulgura.core.lights import e131
from fulgura.core.wire import BlockId
from fulgura.demo.show import demo_show
from fulgura.engine import kept_state
from fulgura.engine.handover import EVERY, LEAP, SOONEST, parts_of, take_over
from fulgura.engine.kept_state import HEAD, keep, left
from fulgura.engine.main import Engine


def house_show():
    show = demo_show()
    return show.model_copy(update={"inputs": [show.inputs[0].model_copy(update={"use": "house"})]})


@pytest.fixture
def path(tmp_path):
    return tmp_path / "state"


def opened(folder, path):
    folder.mkdir(exist_ok=True)
    made = Engine(folder, folder, path)
    made.frames = []
    made.bus.publish = lambda topic, message: made.frames.append(message) if topic == b"F" else None
    return made


def play(engine, first, count):
    for number in range(first, first + count):
        engine.due_at, engine.next_due = [], time.monotonic()
        engine._tick(blocks_due(number) - blocks_due(number - 1), number / 60.0)
        engine.handover.leave(engine)
    engine.handover.finish()
    found, engine.frames = [wire.decode(frame) for frame in engine.frames], []
    return found


def test_the_next_one_goes_on_with_the_same_beat_hits_and_lights(tmp_path, path):
    first = opened(tmp_path / "one", path)
    first.obey([{"do": "show", "show": house_show().model_dump(), "revision": 7}])
    play(first, 1, 4 * EVERY)
    keep(path, parts_of(first))
    parts, _ = left(path)
    assert parts["performer"].number == first.performer.number
    second = opened(tmp_path / "two", path)
    sequence = {**next(iter(first.lights.sequences.values()))}
    take_over(second, parts)
    assert second.revision == 7 and second.performer.show == first.performer.show
    for one, other in zip(play(first, 4 * EVERY + 1, 120), play(second, 4 * EVERY + 1, 120), strict=True):
        assert one.number == other.number and one.time == other.time
        for block in (BlockId.SIGNALS, BlockId.LIVE, BlockId.HITS, BlockId.BEATS, BlockId.LAMPS):
            assert np.array_equal(one.blocks[block], other.blocks[block])
    # The same source, and numbers that a receiver takes for newer (ANSI E1.31, 6.7.2).
    sender = next(iter(second.lights.senders.values()))
    universe, packet = next(iter(sender.packets.items()))
    ahead = (packet[e131.SEQUENCE_AT] - sequence[universe]) % 256
    assert LEAP < ahead <= LEAP + 120
    for engine in (first, second):
        engine.lights.close()
        engine.bus.close()


def test_missed_ticks_are_made_up_for_at_once(tmp_path, path):
    first = opened(tmp_path / "one", path)
    first.obey([{"do": "show", "show": house_show().model_dump(), "revision": 1}])
    play(first, 1, 2 * EVERY)
    parts, _ = left(path)
    assert parts["performer"].number >= SOONEST
    second = opened(tmp_path / "two", path)
    begun = time.monotonic()
    take_over(second, parts)
    number = second.performer.number
    second.catch_up(begun - 0.5)
    gone = (time.monotonic() - begun + 0.5) * 60
    assert second.performer.number - number == pytest.approx(gone, abs=2)
    for engine in (first, second):
        engine.lights.close()
        engine.bus.close()


def test_what_is_not_whole_ours_of_this_version_and_fresh_is_passed_over(path, monkeypatch):
    keep(path, {"revision": 3})
    assert left(path)[0] == {"revision": 3}
    raw = path.read_bytes()
    for length in (0, 5, HEAD.size, len(raw) - 1):
        path.write_bytes(raw[:length])
        assert left(path) is None
    for at in (0, 8, HEAD.size - 8, len(raw) - 2):
        turned = bytearray(raw)
        turned[at] ^= 1
        path.write_bytes(turned)
        assert left(path) is None
    path.write_bytes(raw)
    monkeypatch.setattr(kept_state.time, "monotonic", lambda: 1e9)
    assert left(path) is None
    monkeypatch.undo()
    monkeypatch.setattr(kept_state.os, "geteuid", lambda: 12345)
    assert left(path) is None
    monkeypatch.undo()
    path.unlink()
    assert left(path) is None


def test_what_cannot_be_left_ends_nothing(tmp_path, capfd):
    engine = opened(tmp_path / "one", tmp_path / "nowhere" / "state")
    engine.obey([{"do": "show", "show": house_show().model_dump(), "revision": 1}])
    assert len(play(engine, 1, 2 * EVERY)) == 2 * EVERY
    assert capfd.readouterr().err.count("cannot be left") == 1
    engine.lights.close()
    engine.bus.close()
