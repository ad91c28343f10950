"""Which picture of a clip is shown: by its own speed, by the beat, by hand, by hits."""

import numpy as np
import pytest

from fulgura.core.kinds.drawn import Source
from fulgura.core.kinds.providers import ClipLength, TickInput
from fulgura.core.kinds.sources.clip import GOES, JUMPS, STARTS, Playing
from fulgura.core.kinds.tick import TickContext

CLIP = ClipLength(frames=100, rate=30.0)
AT_FIRST = {
    parameter.name: parameter.choices.index(parameter.default)
    if parameter.type == "choice"
    else parameter.default
    for parameter in Source.kinds["clip"].parameters()
}


def shown(
    ticks: int,
    hits: set[int] = frozenset(),
    bars: set[int] = frozenset(),
    beat_s: float = 0.5,
    seed: int = 1,
    **values,
) -> list[int]:
    """The number of the picture in each tick of a 60th of a second; hits, bars: the ticks in which
    one falls.
    """
    playing, found = Playing(seed), []
    for name, names in (("goes", GOES), ("jump", JUMPS), ("starts", STARTS)):
        if name in values:
            values[name] = names.index(values[name])
    for tick in range(ticks):
        moment = TickContext(
            beats=tick / 60.0 / beat_s,
            beat_s=beat_s,
            bars=int(tick in bars),
            hits=np.array([int(tick in hits)]),
            order={"hit-kick": 0},
        )
        found.append(
            int(
                playing.step(
                    AT_FIRST | {"file": "a", "jump_by": "hit-kick"} | values,
                    TickInput(moment, clips={"a": CLIP}),
                )[0]
            )
        )
    return found


def test_at_its_own_speed_every_picture_stands_for_two_ticks_and_it_begins_again():
    found = shown(420)
    assert found[:6] == [0, 0, 1, 1, 2, 2] and found[200:202] == [0, 0]
    assert sorted(set(found)) == list(range(100)) and max(np.abs(np.diff(found[:199]))) == 1


@pytest.mark.parametrize(("speed", "step"), [(2.0, 1), (4.0, 2), (-2.0, -1), (0.0, 0)])
def test_speed_is_a_factor_and_below_nothing_it_runs_backward(speed, step):
    found = np.array(shown(40, speed=speed))
    assert set((np.diff(found) + 50) % 100 - 50) == {step}


def test_back_and_forth_turns_at_both_ends_and_once_stays_at_the_last():
    there_and_back = shown(410, goes="back and forth")
    assert there_and_back[199] in (98, 99) and there_and_back[220] < 95 and there_and_back[399] <= 1
    assert max(np.abs(np.diff(there_and_back))) == 1
    assert shown(300, goes="once")[-60:] == [99] * 60


def test_a_loop_of_so_many_beats_takes_just_that_long_at_any_tempo():
    for beat_s in (0.35, 0.5, 0.8):
        found = shown(int(4 * beat_s * 60 * 3), beats=4.0, beat_s=beat_s)
        falls = [i for i in range(1, len(found)) if found[i] < found[i - 1]]
        assert np.diff([0, *falls]) == pytest.approx(4 * beat_s * 60, abs=1.5)


def test_in_and_out_bound_it_also_when_they_are_turned_about():
    for bounds in ({"begins": 0.25, "ends": 0.5}, {"begins": 0.5, "ends": 0.25}):
        found = shown(300, **bounds)
        assert (min(found), max(found)) == (25, 49)
    assert set(shown(10, begins=0.5, ends=0.5)) == {50}, "nothing between them: one picture"


def test_by_hand_it_stands_where_it_is_put():
    assert [shown(1, goes="by hand", place=at)[0] for at in (0.0, 0.5, 1.0)] == [0, 50, 99]


def test_hits_make_it_jump_to_its_start_or_anywhere_or_a_quarter_on():
    assert shown(101, hits={100})[100] == 0
    assert shown(101, hits={100}, jump="a quarter on")[100] == pytest.approx(shown(101)[100] + 25, abs=1)
    places = {shown(101, hits={100}, jump="anywhere", seed=seed)[100] for seed in range(20)}
    assert len(places) > 10 and shown(101, hits={100}, jump="anywhere", seed=3) == shown(
        101, hits={100}, jump="anywhere", seed=3
    )


def test_on_the_bar_it_waits_for_the_bar_to_start_and_to_jump():
    found = shown(200, bars={60, 180}, hits={100}, starts="on the bar")
    assert set(found[:61]) == {0} and found[70] > 0
    assert found[179] > found[110] > found[99] and found[180] == 0


def test_what_lasts_beats_starts_on_the_bar_and_what_does_not_at_once():
    lasting = shown(120, bars={60}, beats=8.0)
    assert set(lasting[:61]) == {0} and lasting[90] > 0
    assert shown(120, bars={60})[30] > 0 and shown(120, bars={60}, beats=8.0, starts="at once")[30] > 0


def test_a_clip_that_is_gone_shows_nothing_and_breaks_nothing():
    assert shown(3, file="gone") == [0, 0, 0]


def test_live_and_replayed_it_is_the_same_picture():
    assert shown(600, hits=set(range(0, 600, 37)), jump="anywhere", speed=1.7) == shown(
        600, hits=set(range(0, 600, 37)), jump="anywhere", speed=1.7
    )
