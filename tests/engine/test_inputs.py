"""Inputs and the bus: nothing waits, nothing is lost without being counted."""

import time

import numpy as np
import pytest
import soundfile

from fulgura import bus
from fulgura.core import wire
from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.kinds.faults import FaultCode
from fulgura.core.picture.data import FIRST_FIT
from fulgura.demo.show import demo_show
from fulgura.engine.inputs import HouseInput, LiveInput, TrackInput
from fulgura.engine.main import Engine
from fulgura.engine.measure import Minute
from fulgura.media.sound_file import AudioFileError, load, pieces
from harness.stack import wait_for


@pytest.fixture
def track(tmp_path):
    """A track of ten blocks whose samples count upward, loaded."""
    file = tmp_path / "count.wav"
    soundfile.write(
        file, np.repeat(np.arange(BLOCK * 10)[:, None] / 1e4, 2, axis=1), SAMPLE_RATE, subtype="FLOAT"
    )
    made = TrackInput(file, "count")
    wait_for(lambda: made.ready, 5, "reading")
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
    wait_for(lambda: made.ready, 5, "reading")
    played = np.concatenate([block[:, 0] for block in made.blocks(6)])
    np.testing.assert_allclose(played * 1e4, np.arange(6 * BLOCK) % (BLOCK + 100), atol=0.01)


def test_a_paused_track_is_silent_and_keeps_its_place(track):
    track.blocks(3)
    track.playing = False
    assert not np.any(track.blocks(2))
    track.playing = True
    assert first(track.blocks(1)[0]) == 3 * BLOCK


def again(track: TrackInput) -> np.ndarray:
    """The next block once the reading thread has caught up."""
    wait_for(lambda: track.ready, 5, "reading")
    return track.blocks(1)[0]


def test_seeking_goes_there_and_never_before_the_start(track):
    track.seek(4 * BLOCK / SAMPLE_RATE)
    assert first(again(track)) == 4 * BLOCK and track.position == 5 * BLOCK
    track.seek(-3)
    assert first(again(track)) == 0


def test_without_loop_a_track_ends_in_silence(track):
    track.arrange(loop=False)
    blocks = [again(track), *track.blocks(13)]
    assert first(blocks[9]) == 9 * BLOCK and not np.any(blocks[10:])
    assert track.position == track.length


def test_a_stretch_loops_to_the_sample(track):
    first_sample, last_sample = 2 * BLOCK, 5 * BLOCK + 100
    track.arrange(True, first_sample / SAMPLE_RATE, last_sample / SAMPLE_RATE)
    track.seek(first_sample / SAMPLE_RATE)
    played = np.concatenate([again(track)[:, 0], *(block[:, 0] for block in track.blocks(15))])
    wanted = first_sample + np.arange(16 * BLOCK) % (last_sample - first_sample)
    np.testing.assert_allclose(played * 1e4, wanted, atol=0.01)


@pytest.mark.parametrize("stretch", [(0.02, 0.02), (0.04, 0.01), (5.0, 9.0), (0.0, 1e9)])
def test_an_impossible_stretch_plays_the_track(track, stretch):
    track.arrange(True, *stretch)
    track.seek(0.0)
    assert first(again(track)) == 0 and np.any(track.blocks(30)[-1])


def test_an_hour_takes_no_more_memory_than_a_minute(tmp_path):
    """What is read ahead is bounded, whatever the length; a tick that finds nothing read gets silence, at
    once.
    """
    file = tmp_path / "long.flac"
    with soundfile.SoundFile(file, "w", SAMPLE_RATE, 2, format="FLAC", subtype="PCM_16") as out:
        for _ in range(60):
            out.write(np.full((SAMPLE_RATE, 2), 0.1))
    made = TrackInput(file, "long", 30.0)
    assert len(made.blocks(3)) == 3  # Even before anything was read.
    wait_for(lambda: len(made._queue) >= made.AHEAD, 5, "reading ahead")
    assert len(made._queue) < made.AHEAD + 2 * made.PIECE
    assert made.position / SAMPLE_RATE == pytest.approx(30.0, abs=0.1)
    made.close()


def test_a_track_that_is_gone_is_named_and_silent(tmp_path):
    made = TrackInput(tmp_path / "gone.flac", "gone")
    wait_for(lambda: made.fault, 5, "the fault")
    assert "gone.flac" in made.state()["fault"].text and not np.any(made.blocks(2))


def live(samples: int, value: float = 0.5) -> bytes:
    return np.full((samples, 2), value, "<f4").tobytes()


def test_live_sound_comes_out_in_whole_blocks():
    made = LiveInput()
    made.feed(live(BLOCK * 2 + 100), 2)
    assert len(made.blocks(3)) == 2 and len(made.waiting) == 100
    made.feed(live(BLOCK - 100), 2)
    assert len(made.blocks(3)) == 1


def test_a_device_that_delivers_in_bursts_of_300_ms_loses_nothing_and_is_told():
    made, heard = LiveInput(), 0
    piece = int(0.3 * SAMPLE_RATE)
    for tick in range(18 * 8):
        if tick % 18 == 0:
            made.feed(live(piece), 2)
        blocks = made.blocks(3)
        heard += len(blocks)
        assert all(np.any(block) for block in blocks)  # No silence is put in between.
    assert made.dropped == 0 and heard == 8 * piece // BLOCK
    assert "bursts of 0.30 s" in made.state()["warning"]


def test_a_steady_device_is_not_complained_of():
    made = LiveInput()
    for _ in range(60):
        made.feed(live(512), 2)
        made.feed(live(288), 2)
        made.blocks(3)
    assert made.state()["warning"] == "" and made.state()["fault"] is None


def test_a_device_that_is_far_too_fast_is_held_to_the_newest():
    made = LiveInput()
    made.feed(live(SAMPLE_RATE), 2)
    assert made.dropped == SAMPLE_RATE - LiveInput.LONGEST and len(made.waiting) == LiveInput.LONGEST


def test_a_device_that_goes_quiet_becomes_silence_and_is_told():
    made = LiveInput()
    made.feed(live(BLOCK), 2)
    assert len(made.blocks(3)) == 1
    for _ in range(LiveInput.GAP_TICKS - 1):
        assert made.blocks(3) == []  # A short gap is waited out: time stands rather than jumps.
    assert len(made.blocks(3)) == 3 and not np.any(made.blocks(3))
    for _ in range(LiveInput.GONE_TICKS):
        made.blocks(3)
    assert made.state()["fault"].code == FaultCode.LIVE_GONE
    made.feed(live(BLOCK), 2)
    assert made.state()["fault"] is None


@pytest.mark.parametrize(("pcm", "channels"), [(b"abc", 1), (live(3)[:-4], 2), (live(4), 7)])
def test_live_pieces_that_are_not_whole_are_left_out(pcm, channels):
    made = LiveInput()
    made.feed(pcm, channels)
    assert len(made.waiting) == 0


def test_mono_becomes_both_sides():
    made = LiveInput()
    made.feed(np.full(BLOCK, 0.25, "<f4").tobytes(), 1)
    assert np.all(made.blocks(1)[0] == 0.25)


@pytest.mark.parametrize("rate", [8_000, 44_100, 96_000, 192_000])
@pytest.mark.parametrize("channels", [1, 2])
def test_any_rate_comes_at_48_khz_with_its_length_and_level(tmp_path, rate, channels):
    file = tmp_path / "tone.wav"
    tone = np.sin(2 * np.pi * 1000 * np.arange(rate * 12) / rate)
    soundfile.write(file, np.repeat(tone[:, None], channels, axis=1) * 0.5, rate)
    read = list(pieces(file))
    out = np.concatenate([samples for samples, _ in read])
    assert out.shape == (pytest.approx(12 * SAMPLE_RATE, abs=2), channels) and {r for _, r in read} == {rate}
    assert np.sqrt(np.mean(out[2000:-2000] ** 2)) == pytest.approx(0.5 * 2**-0.5, abs=1e-3)
    assert max(len(samples) for samples, _ in read) <= 11 * SAMPLE_RATE


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


@pytest.mark.parametrize(
    "command",
    [
        {"do": "show", "show": {"name": 5}},
        {"do": "show"},
        {"do": "dance"},
        {},
        {"do": "seek", "seconds": 3},
        {"do": "audio", "pcm": b"x"},
    ],
)
def test_a_command_that_makes_no_sense_changes_nothing(engine, command):
    engine.obey([command])
    assert engine.performer.show.name == "Nothing yet"


def test_a_track_name_cannot_lead_out_of_the_library(engine, tmp_path):
    show = demo_show()
    show.input.track.track = "../../etc/passwd"
    engine.obey([{"do": "show", "show": show.model_dump(), "revision": 1}])
    assert engine.players["main"].track.path == tmp_path / "passwd.flac"


def test_the_house_band_plays_when_it_is_chosen(engine):
    show = demo_show().model_copy(update={"inputs": [demo_show().input.model_copy(update={"use": "house"})]})
    engine.obey([{"do": "show", "show": show.model_dump(), "revision": 1}])
    assert isinstance(engine.players["main"].input, HouseInput)
    for tick in range(30):
        engine._tick(3, tick / 60)
    assert engine.performer.main.analyser.rms > 0.01


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
    assert packet.plan == engine.performer.plan.id and set(packet.blocks) - {FIRST_FIT} == set(wire.BlockId)
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
