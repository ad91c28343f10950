"""A voice for each hit: against a slow reference that keeps every hit's own life, and in pixels."""

import numpy as np
import pytest

from fulgura.core.kinds.providers import TickInput
from fulgura.core.kinds.sources.voices import MOST_VOICES, Sounding, Voices
from fulgura.core.kinds.tick import TickContext
from fulgura.core.performer import Performer
from fulgura.core.show.part import Part
from tests.core.drawing import Drawn

DT = 1.0 / 60.0
KICK = {"kick": 0}


def values(**more):
    given = Voices(by="kick", **more)
    found = {}
    for parameter in given.parameters():
        value = getattr(given, parameter.name)
        found[parameter.name] = float(parameter.choices.index(value)) if parameter.type == "choice" else value
    return found


def run(hits, ticks, beat_s=0.5, **more):
    """Shares of all voices in each tick, shape (ticks, 64). hits: tick -> how many."""
    provider, given, shares = Sounding(1), values(**more), []
    for tick in range(ticks):
        count = hits.get(tick, 0)
        now = TickContext(
            dt=DT, beats=tick * DT / beat_s, values=np.array([0.8]), hits=np.array([count]), order=KICK
        )
        shares.append(provider.step(given, TickInput(now)).reshape(MOST_VOICES, 4)[:, 0])
    return np.array(shares)


def kicks(count, every=29):
    """124 beats a minute: one in 29 ticks."""
    return {tick * every + 3: 1 for tick in range(count)}


@pytest.mark.parametrize("when_full", ["nothing new starts", "the oldest gives way"])
def test_32_kicks_and_five_voices_as_a_slow_reference_has_them(when_full):
    """Lives of 2 s, kicks every 484 ms: at most five sound. Each life is exact to a tick."""
    life, hits = 120, kicks(32)
    shares = run(hits, 32 * 29 + 200, most=5.0, life=2000.0, when_full=when_full)
    sounding: list[int] = []
    for tick, row in enumerate(shares):
        sounding = [born for born in sounding if tick - born < life]
        if tick in hits:
            if len(sounding) == 5 and when_full != "nothing new starts":
                sounding.pop(0)
            if len(sounding) < 5:
                sounding.append(tick)
        wanted = sorted((tick - born) / life for born in sounding)
        assert sorted(row[row >= 0.0]) == pytest.approx(wanted, abs=1e-5), tick


def test_none_begins_anew_before_its_end():
    """Too many hits for two voices: those that sound go on as they were, the others are not heard."""
    shares = run(
        dict.fromkeys(range(0, 400, 7), 1), 400, most=2.0, life=1500.0, when_full="nothing new starts"
    )
    for voice in shares.T[:2]:
        steps = np.diff(voice[voice >= 0.0])
        falls = steps[steps < 0]
        # It falls only from its end: 89 of 90 ticks are over.
        ends = voice[np.flatnonzero((voice[:-1] >= 0) & (voice[1:] < voice[:-1]))]
        assert (ends > 88.5 / 90).all() and len(falls) <= len(ends)


def test_several_hits_in_one_tick_start_as_many():
    assert (run({5: 3}, 6)[5] >= 0.0).sum() == 3


def test_a_life_in_beats_follows_the_beat():
    shares = run({0: 1}, 100, beat_s=0.5, lasts="beats", life_beats=2.0)
    assert shares[30, 0] == pytest.approx(0.5, abs=1e-4) and shares[59, 0] > 0.98 and shares[60, 0] < 0.0
    slow = run({0: 1}, 200, beat_s=1.0, lasts="beats", life_beats=2.0)
    assert slow[60, 0] == pytest.approx(0.5, abs=1e-4)


def test_fewer_at_once_takes_the_rest_away_and_a_replay_is_the_same():
    hits = kicks(12, every=5)
    first, again = run(hits, 80, most=64.0), run(hits, 80, most=64.0)
    assert (first == again).all() and (first[-1] >= 0.0).sum() == 12
    assert (run(hits, 80, most=3.0)[-1] >= 0.0).sum() == 3


def draw_at(share, **more):
    """A picture of one voice at this share of its life."""
    given = {"by": "beat", "strength": 0.0, "tint": "#ffffff", "end_tint": "#ffffff", "fades": 0.0} | more
    drawn = Drawn(Part(id="voices", kind="voices", values=given), size=(320, 180))
    provider = drawn.performer.picture.providers["voices voices"]
    provider.step = lambda values, heard: cells(share)
    light = drawn.next().astype(float)
    drawn.close()
    return light


def cells(share):
    found = np.zeros((MOST_VOICES, 4), dtype=np.float32)
    found[:, 0] = -1.0
    found[0] = share, 1.0, 1.0, 0.0
    return found.reshape(-1)


@pytest.mark.parametrize("share", [0.0, 0.5, 0.9])
def test_a_ring_grows_and_thins_by_its_age(share):
    """Plain geometry: the outline's extent is its diameter and its width."""
    light = draw_at(share, radius=0.2, end_radius=0.8, width=0.12, end_width=0.02, softness=0.0)
    radius, width = 0.2 + 0.6 * share, 0.12 - 0.1 * share
    row = light[90] > 100
    columns = np.flatnonzero(row)
    assert np.ptp(columns) + 1 == pytest.approx((2 * radius + width) * 90, abs=3)
    assert row.sum() / 2 == pytest.approx(width * 90, abs=1.5)


def test_a_filled_square_turns_over_its_life():
    """A square with a corner up is a square on its side after an eighth of a turn."""
    for share, wide in ((0.0, 1.0), (1.0 - 1e-6, 2**-0.5)):
        light = draw_at(share, shows="filled", sides=4.0, radius=0.5, end_radius=0.5, end_rotation=45.0)
        columns = np.flatnonzero(light.max(axis=0) > 100)
        assert np.ptp(columns) + 1 == pytest.approx(2 * 0.5 * wide * 90, abs=3)


@pytest.mark.parametrize("by", ["the palette by hit", "the palette by chance"])
def test_each_keeps_one_colour_of_the_palette_and_the_next_has_another(by):
    provider, given, last = Sounding(3), values(coloured_by=by, most=64.0, life=20_000.0), -1
    dealt = []
    for tick in range(60):
        now = TickContext(
            dt=DT, values=np.array([1.0]), hits=np.array([1]), order=KICK, palette=np.ones((4, 3))
        )
        found = provider.step(given, TickInput(now)).reshape(MOST_VOICES, 4)
        colours = found[: tick + 1, 3].astype(int)
        assert (colours[:-1] == dealt).all() and colours[-1] != last
        dealt, last = colours, colours[-1]
    assert set(dealt) == {0, 1, 2, 3}


def test_it_is_silent_without_a_signal():
    drawn = Drawn(Part(id="voices", kind="voices", values={"by": ""}))
    assert isinstance(drawn.performer, Performer) and drawn.go(5).max() == 0
    drawn.close()
