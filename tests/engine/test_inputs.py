"""Inputs and the bus: nothing waits, nothing is lost without being counted."""

import time

import numpy as np
import pytest
import soundfile

from fulgura import bus
from fulgura.core import BLOCK, SAMPLE_RATE, wire
from fulgura.demo.show import demo_show
from fulgura.engine.audiofile import AudioFileError, load, resample
from fulgura.engine.inputs import HouseInput, LiveInput, TrackInput
from fulgura.engine.main import Engine
from fulgura.engine.measure import Minute
from tests.conftest import wait_for


@pytest.fixture
def track(tmp_path):
    """A track of ten blocks whose samples count upward, loaded."""
    file = tmp_path / "count.wav"
    soundfile.write(file, np.repeat(np.arange(BLOCK * 10)[:, None] / 1e4, 2, axis=1), SAMPLE_RATE, subtype="FLOAT")
    made = TrackInput(file, "count")
    wait_for(lambda: made.samples is not None, 5, "loading")
    return made


def first(block: np.ndarray) -> int:
    return round(float(block[0, 0]) * 1e4)


def test_a_track_plays_on_and_loops_without_a_gap(track):
    starts = [first(block) for block in track.blocks(25)]
    assert starts == [i * BLOCK % (BLOCK * 10) for i in range(25)]


def test_a_track_that_does_not_fill_its_last_block_loops_to_the_sample(tmp_path):
    file = tmp_path / "odd.wav"
    soundfile.write(file, np.arange(BLOCK + 100) / 1e4, SAMPLE_RATE, subtype="FLOAT")
    made = TrackInput(file, "odd")
    wait_for(lambda: made.samples is not None, 5, "loading")
    played = np.concatenate([block[:, 0] for block in made.blocks(6)])
    np.testing.assert_allclose(played * 1e4, np.arange(6 * BLOCK) % (BLOCK + 100), atol=0.01)


def test_a_paused_track_is_silent_and_keeps_its_place(track):
    track.blocks(3)
    track.playing = False
    assert not np.any(track.blocks(2))
    track.playing = True
    assert first(track.blocks(1)[0]) == 3 * BLOCK


def test_seeking_goes_there_and_never_before_the_start(track):
    track.seek(4 * BLOCK / SAMPLE_RATE)
    assert first(track.blocks(1)[0]) == 4 * BLOCK
    track.seek(-3)
    assert first(track.blocks(1)[0]) == 0


def test_without_loop_a_track_ends_in_silence(track):
    track.loop = False
    blocks = track.blocks(14)
    assert first(blocks[9]) == 9 * BLOCK and not np.any(blocks[10:])


def test_a_track_that_is_gone_is_named_and_silent(tmp_path):
    made = TrackInput(tmp_path / "gone.flac", "gone")
    wait_for(lambda: made.trouble, 5, "the trouble")
    assert "gone.flac" in made.state()["trouble"] and not np.any(made.blocks(2))


def live(samples: int, value: float = 0.5) -> bytes:
    return np.full((samples, 2), value, "<f4").tobytes()


def test_live_sound_comes_out_in_whole_blocks():
    made = LiveInput()
    made.feed(live(BLOCK * 2 + 100), 2)
    assert len(made.blocks(3)) == 2 and len(made.waiting) == 100
    made.feed(live(BLOCK - 100), 2)
    assert len(made.blocks(3)) == 1


def test_a_device_that_delivers_in_bursts_of_300_ms_is_held_to_the_newest():
    made = LiveInput()
    made.feed(live(int(0.3 * SAMPLE_RATE)), 2)
    assert made.dropped == int(0.1 * SAMPLE_RATE) and len(made.waiting) == LiveInput.LONGEST
    taken = sum(len(made.blocks(3)) for _ in range(10))
    assert taken == LiveInput.LONGEST // BLOCK


def test_a_device_that_goes_quiet_becomes_silence_and_is_told():
    made = LiveInput()
    made.feed(live(BLOCK), 2)
    made.blocks(3)
    for _ in range(12):
        assert made.blocks(3) == []  # A short gap is waited out: time stands rather than jumps.
    assert len(made.blocks(3)) == 3 and not np.any(made.blocks(3))
    for _ in range(30):
        made.blocks(3)
    assert "No live sound" in made.state()["trouble"]
    made.feed(live(BLOCK), 2)
    assert made.state()["trouble"] == ""


@pytest.mark.parametrize(("pcm", "channels"), [(b"abc", 1), (live(3)[:-4], 2), (live(4), 7)])
def test_live_pieces_that_are_not_whole_are_left_out(pcm, channels):
    made = LiveInput()
    made.feed(pcm, channels)
    assert len(made.waiting) == 0


def test_mono_becomes_both_sides():
    made = LiveInput()
    made.feed(np.full(BLOCK, 0.25, "<f4").tobytes(), 1)
    assert np.all(made.blocks(1)[0] == 0.25)


def test_resampling_keeps_length_and_level():
    tone = np.sin(2 * np.pi * 1000 * np.arange(96_000) / 96_000)[:, None].astype(np.float32)
    out = resample(tone, 96_000)
    assert len(out) == 48_000 and np.sqrt(np.mean(out[1000:-1000] ** 2)) == pytest.approx(2**-0.5, abs=1e-3)


def test_a_folder_is_not_a_sound_file(tmp_path):
    with pytest.raises(AudioFileError, match="no file"):
        load(tmp_path)


@pytest.fixture
def engine(tmp_path):
    made = Engine(tmp_path, tmp_path)
    yield made
    made.lights.close()
    made.bus.close()


def test_of_several_shows_only_the_newest_is_taken(engine):
    shows = [demo_show().model_copy(update={"name": name}).model_dump() for name in ("one", "two", "three")]
    engine.obey([{"do": "show", "show": show, "revision": i} for i, show in enumerate(shows)])
    assert (engine.performer.show.name, engine.revision) == ("three", 2)


@pytest.mark.parametrize("command", [{"do": "show", "show": {"name": 5}}, {"do": "show"}, {"do": "dance"}, {}, {"do": "seek", "seconds": 3}, {"do": "audio", "pcm": b"x"}])
def test_a_command_that_makes_no_sense_changes_nothing(engine, command):
    engine.obey([command])
    assert engine.performer.show.name == "Nothing yet"


def test_a_track_name_cannot_lead_out_of_the_library(engine, tmp_path):
    show = demo_show()
    show.input.track.track = "../../etc/passwd"
    engine.obey([{"do": "show", "show": show.model_dump(), "revision": 1}])
    assert engine.track.path == tmp_path / "passwd.flac"


def test_the_house_band_plays_when_it_is_chosen(engine):
    show = demo_show().model_copy(update={"input": demo_show().input.model_copy(update={"use": "house"})})
    engine.obey([{"do": "show", "show": show.model_dump(), "revision": 1}])
    assert isinstance(engine.input, HouseInput)
    for tick in range(30):
        engine._tick(3, tick / 60)
    assert engine.performer.analyser.rms > 0.01


def test_a_tick_publishes_a_frame_that_can_be_read(engine, tmp_path):
    import zmq

    listener = engine.bus.context.socket(zmq.SUB)
    listener.subscribe(bus.FRAME)
    listener.connect(bus.addresses(tmp_path)[0])
    time.sleep(0.2)
    engine.obey([{"do": "show", "show": demo_show().model_dump(), "revision": 1}])
    engine._tick(3, 0.0)
    assert listener.poll(2000)
    packet = wire.decode(listener.recv_multipart()[1])
    assert packet.plan == engine.performer.plan.id and set(packet.blocks) == set(wire.BlockId)
    listener.close(0)


def test_commands_wait_while_the_engine_is_away(tmp_path):
    caller = bus.Caller(tmp_path)
    caller.send("seek", seconds=1.5)
    side = bus.EngineSide(tmp_path)
    assert side.take(3.0) == [{"do": "seek", "seconds": 1.5}]
    side.close()
    caller.close()


def test_garbage_on_the_command_socket_is_passed_over(tmp_path):
    side, caller = bus.EngineSide(tmp_path), bus.Caller(tmp_path)
    caller.socket.send(b"\xc1not msgpack")
    caller.socket.send(b"\x05")
    caller.send("hello")
    taken: list = []
    wait_for(lambda: taken.extend(side.take(0.2)) or taken, 5, "the command")
    assert taken == [{"do": "hello"}]
    side.close()
    caller.close()


def test_a_minute_keeps_the_newest_and_knows_its_percentiles():
    minute = Minute(100)
    assert minute.percentiles_ms() == {}
    for n in range(250):
        minute.add(n / 1000)
    row = minute.percentiles_ms()
    assert (row["of"], row["max"]) == (100, pytest.approx(249)) and row["p50"] == pytest.approx(199.5)
    minute.clear()
    minute.add(0.005)
    assert minute.percentiles_ms()["p99"] == pytest.approx(5.0)
