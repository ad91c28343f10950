"""Chases: against slow loops that say the same in other words; progress; hits; colours; live equals
offline.
"""

from math import cos, floor, pi

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from numpy.testing import assert_allclose

from fulgura.core.kinds.lighting import SHAPES, WAYS
from fulgura.core.lights.chase_shape import brightness, shuffled, steps_of
from fulgura.core.performer import Performer
from fulgura.core.show.commands.light_groups import copy_chase, new_chase, run_on, start_chase, without_group
from fulgura.core.show.edits import EditError, SetValue
from tests.core.rigs import Bench, changed, lamp, show_of

COUNTS = st.integers(1, 17)
MOVING = ("pulse", "rise", "fall", "wave")


def levels(shape, way, at, count, width=1.0, fade_in=0.0, fade_out=0.0, by_value=False, seed=3.0):
    out = np.zeros(count)
    brightness(SHAPES.index(shape), WAYS.index(way), by_value, at, width, fade_in, fade_out, seed, out)
    return out


def turns(way, count):
    """For each step of a round which lamps have their turn: written out, lamp by lamp."""
    row = list(range(count))
    if way == "back":
        return [[k] for k in reversed(row)]
    if way == "there and back":
        return [[k] for k in row + row[-2:0:-1]]
    if way == "mirrored":
        return [sorted({k, count - 1 - k}) for k in range((count + 1) // 2)]
    if way == "from the middle":
        return turns("mirrored", count)[::-1]
    return [[k] for k in row]


def envelope(shape, since, width, fade_in, fade_out):
    if since < 0 or since >= width + fade_out:
        return 0.0
    share = min(1.0, since / width)
    value = {"pulse": 1.0, "rise": share, "fall": 1.0 - share, "wave": 0.5 - 0.5 * cos(2 * pi * share)}[shape]
    if shape == "wave":
        return value
    if since < fade_in:
        value *= since / fade_in
    if since > width:
        value *= (width + fade_out - since) / fade_out
    return value


def slow(shape, way, at, count, width, fade_in, fade_out):
    """Every turn of every round since the start, one after the other."""
    found = np.zeros(count)
    order = turns(way, count)
    for step in range(int(floor(at)) + 1):
        for k in order[step % len(order)]:
            found[k] = max(found[k], envelope(shape, at - step, width, fade_in, fade_out))
    return found


@settings(max_examples=300)
@given(
    st.sampled_from(MOVING),
    st.sampled_from(WAYS),
    st.floats(0.0, 90.0),
    COUNTS,
    st.floats(0.1, 20.0),
    st.floats(0.0, 1.0),
    st.floats(0.0, 8.0),
)
def test_moving_shapes_equal_a_slow_loop_over_all_turns(shape, way, at, count, width, fade_in, fade_out):
    found = levels(shape, way, at, count, width, fade_in, fade_out)
    assert_allclose(found, slow(shape, way, at, count, width, fade_in, fade_out), atol=1e-9)


@given(st.sampled_from(WAYS), COUNTS)
def test_every_lamp_has_its_turn_in_order_and_none_is_skipped(way, count):
    order = turns(way, count)
    assert steps_of(SHAPES.index("pulse"), WAYS.index(way), count) == len(order)
    for step, wanted in enumerate(order + order):
        assert np.flatnonzero(levels("pulse", way, step + 0.5, count)).tolist() == wanted


@given(st.sampled_from(WAYS), COUNTS, st.floats(0.0, 1.0), st.floats(0.0, 1.0))
def test_filling_by_a_value_is_a_count_of_borders_passed(way, count, progress, fade_in):
    found = levels("fill", way, progress, count, fade_in=fade_in, by_value=True)
    if way == "there and back":
        progress, way = 1 - abs(2 * progress - 1), "along"
    order = turns(way, count)
    for step, lamps in enumerate(order):
        over = progress * len(order) - step
        wanted = (
            float(over >= 1 - 1e-9) if fade_in == 0 else min(1.0, max(0.0, (over - 1 + fade_in) / fade_in))
        )
        assert_allclose(found[lamps], wanted, atol=1e-6)


@given(st.sampled_from(WAYS), COUNTS, st.floats(0.0, 1.0))
def test_progress_0_and_1_are_exact(way, count, fade_in):
    end = 0.5 if way == "there and back" else 1.0
    assert not levels("fill", way, 0.0, count, fade_in=fade_in, by_value=True).any()
    assert (levels("fill", way, end, count, fade_in=fade_in, by_value=True) == 1.0).all()
    order = turns(way, count)
    for progress, step in ((0.0, 0), (1.0, -1)):
        lit = np.flatnonzero(levels("pulse", way, progress, count, by_value=True))
        assert lit.tolist() == order[step]


def test_of_six_lamps_a_half_lights_three_and_each_is_full():
    for progress, lit in ((0.0, 0), (0.1, 0), (1 / 6, 1), (0.5, 3), (0.99, 5), (1.0, 6)):
        assert levels("fill", "along", progress, 6, by_value=True).tolist() == [1.0] * lit + [0.0] * (6 - lit)


@given(COUNTS, st.integers(0, 60), st.floats(0.01, 0.99))
def test_filling_in_time_begins_dark_and_takes_one_lamp_more_with_each_step(count, step, share):
    found = levels("fill", "along", step + share, count)
    assert found.sum() == step % (count + 1)
    assert set(found) <= {0.0, 1.0} and (np.diff(found) <= 0).all()


@given(st.integers(3, 17), st.integers(0, 40), st.floats(0, 2**31))
def test_by_chance_each_lamp_comes_once_a_round_and_none_twice_running(count, round, seed):
    first, second = shuffled(seed, round, count).tolist(), shuffled(seed, round + 1, count).tolist()
    assert sorted(first) == list(range(count)) == sorted(second)
    assert first[-1] != second[0]
    for turn in (0, count // 2, count - 1):
        lit = levels("random", "along", round * count + turn + 0.5, count, seed=seed)
        assert np.flatnonzero(lit).tolist() == [first[turn]]


@given(st.integers(2, 17), st.floats(0, 2**31))
def test_sparkle_lights_as_many_as_it_is_wide_on_average_and_changes_with_the_step(count, seed):
    seen = [levels("sparkle", "along", step + 0.5, count, width=count / 4, seed=seed) for step in range(400)]
    assert np.mean(seen) == pytest.approx(0.25, abs=0.06)
    again = levels("sparkle", "along", 7.5, count, width=count / 4, seed=seed)
    assert (again == seen[7]).all(), "the same moment looks the same"


# -- on a rig ------------------------------------------------------------------------------------------


def row(count=6, chase=None, colours=(), **more):
    """A row of RGB lamps with a chase on it, that runs."""
    lamps = [lamp(f"l{i}", "rgb-lamp", 1 + 3 * i, level=0.0, colour="#ffffff") for i in range(count)]
    show = show_of(*lamps, groups=[{"id": "g", "name": "G", "members": [own.id for own in lamps]}], **more)
    edit, id = new_chase(show, ["g"], "Chase", chase or {})
    show = changed(show, edit)
    show = changed(show, start_chase(show, id, True))
    return changed(
        show, SetValue(path=f"/chases/{id}/colours", value=[dict(zip(("at", "colour"), c)) for c in colours])
    )


def lit(frame, count=6):
    return np.flatnonzero(frame.light[:count, 3] > 0.5).tolist()


def test_time_moves_it_across_in_the_seconds_that_are_said():
    rig = Bench(row(chase={"seconds": 1.0}))
    seen = [lit(rig.tick()) for _ in range(60)]
    for step in range(6):
        assert seen[10 * step + 5] == [step], "a lamp every sixth of a second"


def test_beats_move_it_whatever_the_tempo():
    rig = Bench(row(chase={"driven": "beats", "beats": 6.0}))
    rig.now.beat_s = 0.25
    seen = [lit(rig.tick()) for _ in range(90)]
    assert [seen[15 * beat + 7] for beat in range(6)] == [[0], [1], [2], [3], [4], [5]]


def test_each_hit_is_one_step_and_nothing_is_lit_before_the_first():
    rig = Bench(row(chase={"driven": "hits", "signal": "kick"}))
    rig.now.order = {"kick": 0}

    def tick(hits):
        rig.now.hits = np.array([hits])
        return lit(rig.tick())

    assert [tick(0) for _ in range(3)] == [[], [], []]
    assert tick(1) == [0] and [tick(0) for _ in range(40)] == [[0]] * 40
    assert tick(1) == [1] and tick(2) == [3], "two hits in one tick are two steps"
    assert [tick(1)[0] for _ in range(4)] == [4, 5, 0, 1]


def test_a_value_owns_the_progress_and_colours_lie_where_their_borders_are():
    colours = [(0.0, "#00ff00"), (0.5, "#ffff00"), (0.8, "#ff0000")]
    show = row(chase={"shape": "fill", "driven": "value"}, colours=colours)
    rig = Bench(show)
    run = show.chases[0].runs[0].part.id.replace("-", "_")
    for level, count in ((0.0, 0), (0.5, 3), (1.0, 6)):
        frame = rig.tick(**{f"{run}__progress": level})
        assert lit(frame) == list(range(count)) and (frame.light[:count, 3] == 1.0).all()
    wanted = [[0, 1, 0]] * 3 + [[1, 1, 0]] * 2 + [[1, 0, 0]]
    assert frame.light[:, :3].tolist() == wanted, "places 1/12, 3/12, 5/12, 7/12, 9/12 and 11/12"


@pytest.mark.parametrize(
    ("how", "base", "amount", "wanted"),
    [
        ("instead", 0.4, 1.0, (1.0, 0.0)),
        ("instead", 0.4, 0.5, (0.7, 0.2)),
        ("highest", 0.4, 1.0, (1.0, 0.4)),
        ("highest", 0.4, 0.3, (0.4, 0.4)),
        ("times", 0.4, 1.0, (0.4, 0.0)),
        ("times", 0.4, 0.5, (0.4, 0.2)),
    ],
)
def test_what_a_chase_makes_of_the_light_that_is_there(how, base, amount, wanted):
    show = row(2, {"how": how, "seconds": 2.0})
    rig = Bench(show)
    run = show.chases[0].runs[0].part.id.replace("-", "_")
    rig.tick()
    frame = rig.tick(**{"f_l0__level": base, "f_l1__level": base, f"{run}__amount": amount})
    assert_allclose(frame.light[:, 3], wanted, atol=1 / 255)


def test_stop_puts_all_back_and_start_begins_anew():
    show = row(chase={"seconds": 1.0})
    rig = Bench(show)
    for _ in range(35):
        rig.tick()
    chase = show.chases[0].id
    rig.take(changed(show, start_chase(show, chase, False)))
    assert lit(rig.tick()) == []
    rig.take(show)
    assert lit(rig.tick()) == [0]


def test_each_group_has_a_progress_of_its_own_and_a_copy_exchanges_the_group():
    show = row(4, {"shape": "fill", "driven": "value"}, [(0.0, "#00ff00")])
    show = changed(show, *_second_group(show))
    chase = show.chases[0].id
    show = changed(show, run_on(show, chase, "h"))
    with pytest.raises(EditError, match="on that group already"):
        run_on(show, chase, "h")
    edit, copy = copy_chase(show, chase, "h")
    show = changed(show, edit)
    made = next(own for own in show.chases if own.id == copy)
    assert made.part.values == show.chases[0].part.values and made.colours == show.chases[0].colours
    assert [run.group for run in made.runs] == ["h"] and not made.runs[0].part.values["running"]
    gone = changed(show, without_group(show, "h"))
    assert [[run.group for run in own.runs] for own in gone.chases] == [["g"], []]


def _second_group(show):
    from fulgura.core.show.edits import AddItem

    return [AddItem(path="/groups", item={"id": "h", "name": "H", "members": ["l3", "l2"]})]


def test_pixels_of_bars_count_each_by_themselves_where_the_group_says_so():
    bars = [lamp(f"b{i}", "pixel-bar", 1 + 12 * i, more={"pixels": 4}, level=0.0) for i in range(2)]
    group = {"id": "g", "name": "G", "members": ["b0", "b1"], "pixels": True}
    show = show_of(*bars, groups=[group])
    edit, id = new_chase(show, ["g"], values={"seconds": 1.0})
    show = changed(show, edit)
    rig = Bench(changed(show, start_chase(show, id, True)))
    seen = [lit(rig.tick(), 8) for _ in range(60)]
    assert [seen[int(7.5 * step) + 4] for step in range(8)] == [[step] for step in range(8)]


def test_a_chase_over_a_group_without_lamps_does_nothing():
    show = row(3, {"shape": "random"})
    empty = changed(show, SetValue(path="/groups/g/members", value=["gone"]))
    assert lit(Bench(empty).tick(), 3) == []


def test_live_equals_offline_bit_for_bit_through_edits():
    """The same show in one go, and with edits of other things between its ticks."""
    chase = {"shape": "random", "driven": "beats", "beats": 3.0, "fade_out": 2.0}
    first, second = Performer(row(8, chase)), Performer(row(8, chase))
    rng = np.random.default_rng(2)
    for number in range(240):
        block = rng.normal(0, 0.1, (256, 2))
        for performer in (first, second):
            performer.hear(block)
        if number % 20 == 7:
            second.configure(changed(second.show, SetValue(path="/lamps/l0/name", value=f"Lamp {number}")))
        a, b = first.tick(), second.tick()
        assert a.universes[1].tobytes() == b.universes[1].tobytes(), number
        assert a.light.tobytes() == b.light.tobytes()
