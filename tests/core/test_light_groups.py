"""Groups as targets of routes, spread over their order; curves; palettes."""

import numpy as np
import pytest
from numpy.testing import assert_allclose

from fulgura.core.kinds.shapers.spread import place
from fulgura.core.kinds.tick import TickContext
from fulgura.core.lights.compile import answer_curve
from fulgura.core.performer import Performer
from fulgura.core.routing.router import Router
from fulgura.core.routing.telemetry import Telemetry
from fulgura.core.routing.why import why_parameter
from fulgura.core.show.commands.cues import new_cue, recall_cue
from fulgura.core.show.commands.lamps import park, set_function
from fulgura.core.show.commands.light_groups import new_chase, new_group, start_chase
from fulgura.core.show.commands.palettes import merge, new_palette, recall, recolour, without_palette
from fulgura.core.show.edits import EditError, SetValue
from fulgura.core.show.events import EditMade
from fulgura.core.show.lights import Group
from fulgura.core.show.night import CuePalette, Duration
from fulgura.core.show.part import Part
from tests.core.rigs import changed, lamp, sent, show_of

FIVE = [f"l{i}" for i in range(5)]


def five(shapers=(), targets=("g.level",), signal="modulator-m", **more):
    """Five dimmers as a group, and a route from a fader to it."""
    lamps = [lamp(id, "dimmer", i + 1) for i, id in enumerate(FIVE)]
    route = {
        "id": "r",
        "signal": signal,
        "targets": list(targets),
        "low": 0.0,
        "high": 1.0,
        "shapers": list(shapers),
    }
    fader = {"id": "m", "name": "M", "part": {"id": "fader", "family": "modulator", "kind": "fader"}}
    group = {"id": "g", "name": "G", "members": FIVE}
    return show_of(*lamps, groups=[group], routes=[route], modulators=[fader], **more)


class Player:
    """A router whose fader stands where it is said, tick by tick."""

    def __init__(self, show):
        self.router, self.now = Router(), TickContext()
        self.router.configure(show)
        self.show = show

    def levels(self, value, hits=0):
        values, counts = (
            np.zeros(len(self.router.signals)),
            np.zeros(len(self.router.signals), dtype=np.int64),
        )
        self.router.configure(
            changed(self.show, SetValue(path="/modulators/m/part/values/level", value=value))
        )
        at = self.router.order["level"]
        values[at], counts[at] = value, hits
        self.now.beats += self.now.dt / self.now.beat_s
        live = self.router.tick(values, counts, self.now)
        return [round(float(live[self.router.index_of[f"f-{id}.level"]]), 6) for id in FIVE]


def test_a_route_to_a_group_moves_all_its_lamps_alike():
    player = Player(five())
    assert player.levels(0.5) == [0.5] * 5 and player.levels(1.0) == [1.0] * 5


def test_spread_over_the_order_each_lamp_comes_later_by_its_place():
    spread = {"id": "s", "kind": "spread", "values": {"by": "ms", "ms": 400.0}}
    player = Player(five([spread]))
    player.levels(0.0)
    seen = [player.levels(1.0) for _ in range(30)]
    first = [next(tick for tick, levels in enumerate(seen) if levels[k] == 1.0) for k in range(5)]
    assert first == [0, 6, 12, 18, 24], "100 ms, six ticks, from one to the next"


def test_spread_by_beats_follows_the_tempo():
    spread = {"id": "s", "kind": "spread", "values": {"by": "beats", "beats": 4.0, "way": "back"}}
    player = Player(five([spread]))
    player.now.beat_s = 0.25
    player.levels(0.0)
    seen = [player.levels(1.0) for _ in range(70)]
    first = [next(tick for tick, levels in enumerate(seen) if levels[k] == 1.0) for k in range(5)]
    assert first == [60, 45, 30, 15, 0], "a beat is fifteen ticks"


def test_spread_by_phase_turns_what_runs_round():
    spread = {"id": "s", "kind": "spread", "values": {"by": "phase", "share": 1.0}}
    assert Player(five([spread])).levels(0.6) == [0.6, 0.35, 0.1, 0.85, 0.6]


def test_the_ways_of_spreading_by_hand():
    assert [place("along", i, 3) for i in range(3)] == [0.0, 0.5, 1.0]
    assert [place("back", i, 3) for i in range(3)] == [1.0, 0.5, 0.0]
    assert [place("from the middle", i, 4) for i in range(4)] == pytest.approx([1.0, 1 / 3, 1 / 3, 1.0])
    assert [place("from both ends", i, 5) for i in range(5)] == [0.0, 0.5, 1.0, 0.5, 0.0]
    assert place("along", 0, 1) == 0.0


def test_in_turn_each_hit_goes_to_the_next_lamp():
    cycle = {"id": "c", "kind": "cycle"}
    player = Player(five([cycle], signal="level"))
    assert [player.levels(1.0, hits=1).index(1.0) for _ in range(7)] == [0, 1, 2, 3, 4, 0, 1]


def test_a_group_beside_single_parameters_is_spread_within_itself():
    spread = {"id": "s", "kind": "spread", "values": {"by": "ms", "ms": 400.0}}
    show = five([spread], ["g.level"])
    show = changed(show, SetValue(path="/groups/g/members", value=["l1", "l2"]))
    show = changed(show, SetValue(path="/routes/r/targets", value=["g.level", "f-l4.level"]))
    player = Player(show)
    player.levels(0.0)
    seen = [player.levels(1.0) for _ in range(30)]
    first = [next((tick for tick, levels in enumerate(seen) if levels[k] == 1.0), None) for k in (1, 2, 4)]
    assert first == [0, 24, 0]


def test_a_group_without_lamps_is_told_and_nothing_stops():
    show = changed(five(), SetValue(path="/groups/g/members", value=["gone"]))
    player = Player(show)
    assert player.levels(1.0) == [0.0] * 5
    assert player.router.faults()["r"].code == "target-gone"


def test_a_parameter_of_a_group_stands_where_that_of_its_first_lamp_does():
    router = Router()
    router.configure(five())
    entry = next(entry for entry in router.group_indices() if entry.target == "g.level")
    assert entry.index == router.index_of["f-l0.level"] and len(entry.of) == 5
    assert router.addresses("g.level") == [f"f-{id}.level" for id in FIVE]
    assert router.addresses("g.master") == ["g.master"] and router.addresses("g.pan") == []


def test_a_group_is_made_of_lamps_in_the_order_in_which_they_were_chosen():
    show = show_of(*(lamp(id, "dimmer", i + 1) for i, id in enumerate(FIVE)))
    edit, id = new_group(show, ["l3", "l0"], "Pair")
    group = changed(show, edit).groups[0]
    assert (group.id, group.members, group.name) == (id, ["l3", "l0"], "Pair")
    with pytest.raises(EditError, match="No lamp is chosen"):
        new_group(show, [])


# -- curves --------------------------------------------------------------------------------------------

CURVES = [
    ({"shape": "straight"}, {0: 0, 0.25: 0.25, 0.5: 0.5, 1: 1}),
    ({"shape": "square"}, {0: 0, 0.25: 0.0625, 0.5: 0.25, 1: 1}),
    ({"shape": "s"}, {0: 0, 0.25: 0.15625, 0.5: 0.5, 0.75: 0.84375, 1: 1}),
    ({"shape": "threshold", "threshold": 0.3}, {0: 0, 0.29: 0, 0.31: 0.31, 1: 1}),
    (
        {"shape": "points", "points": [(0, 0), (0.1, 0.4), (1, 1)]},
        {0: 0, 0.05: 0.2, 0.1: 0.4, 0.55: 0.7, 1: 1},
    ),
]


@pytest.mark.parametrize(("values", "table"), CURVES)
def test_curves_against_a_table_by_hand(values, table):
    answer = Part(id="answer", family="answer", kind="answer", values=values)
    for value, wanted in table.items():
        show = show_of(lamp("a", "dimmer", level=value, more={"mode": "16 bit", "answer": answer}))
        coarse, fine = sent(show, 1, 2)
        assert (coarse * 256 + fine) / 65_535 == pytest.approx(wanted, abs=2e-3)


def test_a_groups_curve_comes_before_the_lamps_own_and_ends_are_exact():
    square = {"id": "answer", "family": "answer", "kind": "answer", "values": {"shape": "square"}}
    group = {"id": "g", "name": "G", "members": ["a"], "answer": square}
    show = show_of(lamp("a", "dimmer", level=0.5, more={"answer": Part(**square)}), groups=[group])
    assert sent(show) == [round(255 * 0.5**4)]
    for values, _ in CURVES[1:]:
        curve = answer_curve(Part(id="x", family="answer", kind="answer", values=values))
        assert curve is not None and curve[0] == 0.0 and curve[-1] == 1.0


# -- palettes --------------------------------------------------------------------------------------------


def hand(_):
    """What is shown is what hands say."""
    return None


def painted():
    return show_of(
        lamp("a", "rgb-lamp", 1, level=1.0, colour="#00ff00"),
        lamp("b", "rgbw-lamp", 11, level=1.0, colour="#00ff00"),
        lamp("c", "moving-wash", 21, level=1.0, colour="#ffff00", pan=30.0, zoom=12.0),
        lamp("d", "dimmer", 41, level=1.0),
    )


def test_a_palette_is_made_of_what_lamps_show_and_merged_into():
    show = painted()
    edit, id = new_palette(
        show, "colour", ["a", "b"], lambda target: "#112233" if target == "f-b.colour" else None
    )
    show = changed(show, edit)
    assert show.palettes[0].colours == ["#00ff00", "#112233"], "what is shown goes before what hands say"
    show = changed(show, merge(show, id, ["c"], hand))
    palette = show.palettes[0]
    assert palette.colours == ["#00ff00", "#112233", "#ffff00"] and set(palette.lamps) == {"a", "b", "c"}


def test_recalled_a_lamp_gets_its_own_back_and_others_get_the_colours_in_turn():
    show = painted()
    edit, id = new_palette(show, "colour", [], hand, "Pair", ["#ff0000", "#0000ff"])
    show = changed(show, edit)
    edit, cannot = recall(show, id, ["a", "b", "c", "d"])
    after = changed(show, edit)
    assert [own.fixture.values.get("colour") for own in after.lamps] == [
        "#ff0000",
        "#0000ff",
        "#ff0000",
        None,
    ]
    assert cannot == ["D"]
    with pytest.raises(EditError, match="None of these lamps can take “Pair”"):
        recall(show, id, ["d"])


def test_a_position_leaves_the_colour_and_a_state_takes_all():
    show = painted()
    edit, position = new_palette(show, "position", ["c"], hand)
    show = changed(show, edit)
    edit, state = new_palette(show, "state", ["c"], hand)
    show = changed(
        show, edit, set_function(show, ["c"], "pan", -90.0), set_function(show, ["c"], "colour", "#ffffff")
    )
    back = changed(show, recall(show, position)[0]).lamps[2].fixture.values
    assert (back["pan"], back["colour"]) == (30.0, "#ffffff")
    back = changed(show, recall(show, state)[0]).lamps[2].fixture.values
    assert (back["pan"], back["colour"]) == (30.0, "#ffff00")
    with pytest.raises(EditError, match="None of these lamps has a position"):
        new_palette(show, "position", ["a"], hand)


def test_what_was_set_by_a_palette_follows_it_until_it_is_set_otherwise():
    show = painted()
    edit, id = new_palette(show, "colour", [], hand, "One", ["#ff0000"])
    show = changed(show, edit)
    show = changed(show, recall(show, id, ["a", "b", "c"])[0])
    show = changed(show, set_function(show, ["c"], "colour", "#123456"))
    show = changed(show, recolour(show, id, 0, "#00ffff"))
    assert [own.fixture.values["colour"] for own in show.lamps[:3]] == ["#00ffff", "#00ffff", "#123456"]
    gone = changed(show, without_palette(show, id))
    assert gone.lamps[0].fixture.values["colour"] == "#00ffff" and gone.lamps[0].uses == {}


def test_a_cue_recalls_light_and_passes_over_what_is_gone():
    show = painted().model_copy(update={"groups": []})
    edit, id = new_palette(show, "colour", [], hand, "One", ["#ff0000"])
    look = {"id": "x", "name": "X"}
    cue = {
        "id": "c",
        "name": "C",
        "look": "x",
        "palettes": [{"palette": "gone"}, {"palette": id, "group": "g"}],
    }
    group = {"id": "g", "name": "G", "members": ["a", "gone"]}
    show = changed(show, edit)
    show = show.model_validate(
        {**show.model_dump(), "looks": [look], "look": "x", "cues": [cue], "groups": [group]}
    )
    after = changed(show, recall_cue(show, "c").edit)
    assert [own.fixture.values.get("colour") for own in after.lamps[:2]] == ["#ff0000", "#00ff00"]


def test_a_cue_keeps_the_palettes_that_groups_follow_and_the_chases_that_run():
    show = painted().model_copy(update={"groups": [Group(id="g", name="G", members=["a", "b"])]})
    edit, id = new_palette(show, "colour", [], hand, "One", ["#ff0000"])
    show = changed(show, edit)
    edit, chase = new_chase(show, ["g"])
    show = changed(show, edit)
    show = changed(show, start_chase(show, chase, True), recall(show, id, ["a", "b", "c"])[0])
    look = {"id": "x", "name": "X"}
    show = show.model_validate({**show.model_dump(), "looks": [look], "look": "x"})
    edit, cue = new_cue(show, Duration(amount=2.0))
    kept = changed(show, edit)
    assert kept.cues[0].palettes == [CuePalette(palette=id, group="g")] and kept.cues[0].chases == [chase]
    other = changed(
        kept, start_chase(kept, chase, False), set_function(kept, ["a", "b"], "colour", "#0000ff")
    )
    back = changed(other, recall_cue(other, cue).edit)
    assert [own.fixture.values["colour"] for own in back.lamps[:2]] == ["#ff0000"] * 2
    assert back.chases[0].runs[0].part.values["running"]


# -- why not --------------------------------------------------------------------------------------------


def test_why_a_lamp_does_not_show_what_is_wanted():
    show = five()
    show = changed(show, park(show, ["l0"], "level", 0.3))
    show = changed(
        show,
        SetValue(path="/lights/frozen", value=True),
        SetValue(path="/groups/g/part/values/master", value=0.0),
    )
    told = {reason.text: reason for reason in why_parameter(show, "f-l0.level", Telemetry())}
    for text in ("It is parked.", "All lamps are frozen.", "The master of “G” is down."):
        assert told[text].edit is not None, text
        show = changed(show, told[text].edit)
    left = {reason.text for reason in why_parameter(show, "f-l0.level", Telemetry())}
    assert not left & {"It is parked.", "All lamps are frozen.", "The master of “G” is down."}
    assert not show.lights.frozen and show.lamps[0].parked == {}
    assert_allclose(show.groups[0].part.values["master"], 1.0)


def test_a_master_that_is_dragged_compiles_nothing_and_acts():
    """In a large rig that would hold a tick up; other members do compile."""
    performer = Performer(five())
    performer.hear(np.zeros((256, 2)))
    performer.tick()
    rig, layout, compiled = performer.rig.compiled, performer.layout, performer.router.compiled
    performer.act(EditMade(edit=SetValue(path="/groups/g/part/values/master", value=0.5)))
    assert performer.rig.compiled is rig and performer.layout is layout
    assert performer.router.compiled == compiled
    assert performer.tick() and performer.router.hand[performer.router.index_of["g.master"]] == 0.5
    performer.act(EditMade(edit=SetValue(path="/groups/g/members", value=["l0"])))
    assert performer.rig.compiled is not rig and performer.layout is not layout
