"""A film's own sound against the place of its picture: at every speed, and where it turns."""

import numpy as np
import pytest
import soundfile

from fulgura.core.clock import BLOCK, FRAME_RATE, SAMPLE_RATE
from fulgura.core.kinds.providers import ClipLength, TickInput
from fulgura.core.kinds.sources.clip import GOES, Clip, Playing
from fulgura.core.kinds.tick import TickContext
from fulgura.engine.film_input import FilmInput
from harness.stack import wait_for

SECONDS = 8
CLIP = ClipLength(frames=SECONDS * 25, rate=25.0)
DT = 1.0 / FRAME_RATE


@pytest.fixture
def film(tmp_path):
    """A sound that says where it is: a ramp from -1 to 1 over the film."""
    ramp = np.linspace(-1.0, 1.0, SECONDS * SAMPLE_RATE)
    path = tmp_path / "film.flac"
    soundfile.write(path, np.repeat(ramp[:, None], 2, axis=1) * 0.999, SAMPLE_RATE, subtype="PCM_16")
    made = FilmInput(path)
    wait_for(lambda: made._samples is not None, 10, "the film's sound")
    yield made
    made.close()


def values(**more):
    given, found = Clip(file="film", **more), {}
    for parameter in given.parameters():
        value = getattr(given, parameter.name)
        found[parameter.name] = float(parameter.choices.index(value)) if parameter.type == "choice" else value
    return found


def play(film, ticks, **more):
    """(where the picture is at the end of each tick, where the sound then is), in seconds of film."""
    playing, chosen, heard, seen = Playing(1), values(**more), [], []
    owed = 0.0
    for tick in range(ticks):
        film.at_s = playing.seconds if tick else None
        owed += SAMPLE_RATE * DT / BLOCK
        due, owed = int(owed), owed % 1.0
        blocks = film.blocks(due)
        now = TickContext(dt=DT, beats=tick * DT * 2.0)
        playing.step(chosen, TickInput(now, clips={"film": CLIP}))
        # Beyond the film's end it is silent for the few milliseconds until it turns.
        last = float(blocks[-1][-1, 0]) if due and blocks[-1][-1, 0] else np.nan
        heard.append((last / 0.999 + 1.0) / 2.0 * SECONDS)
        seen.append(playing.seconds)
    return np.array(seen), np.array(heard)


@pytest.mark.parametrize("speed", [-2.0, 0.25, 1.0, 4.0])
def test_sound_and_picture_are_within_twenty_milliseconds(film, speed):
    """Counted in the room's time; the film runs around its end meanwhile, which takes a tick."""
    seen, heard = play(film, 300, speed=speed)
    apart = np.abs(heard - seen)[10:]
    apart = np.minimum(apart, SECONDS - apart) / abs(speed)
    # A block is 5.3 ms long: the sound ends up to one before the tick does.
    apart = apart[np.isfinite(apart)]
    assert len(apart) > 270 and (apart > 0.020).mean() < 0.02 and np.median(apart) < 0.012


def test_at_both_turning_points_of_back_and_forth(film):
    seen, heard = play(film, int(2.6 * SECONDS * FRAME_RATE), goes=GOES[1], speed=1.0)
    turns = np.flatnonzero(np.diff(np.sign(np.diff(seen))) != 0)
    assert len(turns) >= 2
    for turn in turns:
        around = np.abs(heard - seen)[turn - 5 : turn + 12]
        assert np.nanmax(around) < 0.045  # The tick of the turn itself runs on by as much as it lasts.
        assert np.abs(heard - seen)[turn + 3] < 0.020


def test_a_jump_takes_the_sound_along_at_once(film):
    film.at_s = 1.0
    film.blocks(3)
    film.at_s = 1.0 + DT
    film.blocks(3)
    film.at_s = 6.0
    film.blocks(3)
    film.at_s = 6.0 + DT
    blocks = film.blocks(3)
    assert (float(blocks[-1][-1, 0]) / 0.999 + 1.0) / 2.0 * SECONDS == pytest.approx(6.0 + 2 * DT, abs=0.02)


def test_what_stands_still_or_is_hidden_is_silent_and_the_desk_is_told(film):
    for at in (2.0, None, None):
        film.at_s = at
        blocks = film.blocks(3)
    assert np.abs(np.concatenate(blocks)).max() == 0.0 and film.state()["fault"].code == "film-hidden"
    film.at_s = 2.0
    film.blocks(3)
    assert np.abs(np.concatenate(film.blocks(3))).max() == 0.0 and film.state()["fault"] is None
    film.at_s = 2.0 - DT
    film.blocks(3)
    told = film.state()["film"]
    assert told["at_s"] == film.at_s and told["speed"] == pytest.approx(-1.0) and told["track"] == "film"


def test_a_film_without_sound_says_so_and_six_channels_are_two(tmp_path):
    silent = FilmInput(None)
    silent.at_s = 1.0
    assert silent.state()["fault"].code == "film-silent" and len(silent.blocks(2)) == 2
    path = tmp_path / "six.flac"
    soundfile.write(path, np.full((SAMPLE_RATE, 6), 0.25), SAMPLE_RATE, subtype="PCM_16")
    six = FilmInput(path)
    wait_for(lambda: six._samples is not None, 10, "the film's sound")
    assert six._samples.shape[1] == 2
    six.close()


def test_a_damaged_file_is_named(tmp_path):
    path = tmp_path / "broken.flac"
    path.write_bytes(b"no sound at all")
    broken = FilmInput(path)
    wait_for(lambda: broken.fault is not None, 10, "the fault")
    assert broken.fault.code == "track-unreadable"
