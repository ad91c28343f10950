"""Colours that point at the palette in use, and ramps, in live values and in pixels."""

import numpy as np
import pytest

from fulgura.core.kinds.colour import from_hex
from fulgura.core.kinds.palettes import FALLBACK, SHIPPED
from fulgura.core.kinds.shapers.pick import Pick
from fulgura.core.kinds.tick import TickContext
from fulgura.core.performer import Performer
from fulgura.core.show.commands.cues import recall_cue
from fulgura.core.show.commands.ramps import new_ramp, new_stop, without_ramp, without_stop
from fulgura.core.show.edits import AddItem, EditError, SetValue, apply
from fulgura.core.show.events import EditMade
from fulgura.core.show.night import Cue
from fulgura.core.show.part import Part
from fulgura.core.show.routes import Route
from fulgura.core.show.starter import starter_show

TINT = "ring.tint"


def performer(**more):
    show = starter_show("Night")
    ring = show.looks[0].layers[0].source
    values = ring.values | {"tint": "@3"}
    layer = show.looks[0].layers[0].model_copy(update={"source": ring.model_copy(update={"values": values})})
    look = show.looks[0].model_copy(update={"layers": [layer]})
    return Performer(show.model_copy(update={"looks": [look], "routes": [], **more}))


def live(played, target=TINT):
    at = played.router.index_of[target]
    return played.tick().live[at : at + 3]


def test_a_colour_points_at_the_palette_in_use_and_follows_it():
    played = performer()
    oil, sea = list(SHIPPED.values())[0], list(SHIPPED.values())[2]
    assert live(played) == pytest.approx(from_hex(oil[2]))
    played.act(EditMade(edit=SetValue(path="/palette", value="palette-3")))
    assert live(played) == pytest.approx(from_hex(sea[2]))


def test_a_palette_comes_over_the_time_that_it_is_given():
    played = performer()
    live(played)
    played.act(EditMade(edit=SetValue(path="/palette", value="palette-6"), glide_ms=500.0))
    way = [live(played) for _ in range(40)]
    start, end = from_hex(FALLBACK[2]), from_hex(SHIPPED["Frost"][2])
    shares = [float(np.dot(at - start, end - start) / np.dot(end - start, end - start)) for at in way]
    assert shares == sorted(shares) and 0.2 < shares[14] < 0.8 and way[-1] == pytest.approx(end)


def test_an_entry_that_a_smaller_palette_does_not_have_is_counted_round():
    played = performer(palettes=[], palette="gone")
    assert live(played) == pytest.approx(from_hex(FALLBACK[2]))
    show = played.show
    two = {"id": "two", "name": "Two", "kind": "colour", "colours": ["#ff0000", "#00ff00"]}
    played.configure(type(show).model_validate(show.model_dump() | {"palettes": [two], "palette": "two"}))
    assert live(played) == pytest.approx(from_hex("#ff0000"))


@pytest.mark.parametrize("way", ["the next", "another"])
def test_each_hit_takes_another_colour_never_the_same_twice(way):
    colours = np.array([from_hex(colour) for colour in SHIPPED["Lamp oil"]])
    moments = [TickContext(palette=colours)] * 400
    values, _ = Pick(way=way).run([0.0] * 400, [1] * 400, moments, seed=7)
    which = np.round(values * (len(colours) - 1)).astype(int)
    assert set(which) == set(range(len(colours)))
    assert (np.diff(which) != 0).all()
    if way == "the next":
        assert which[:6].tolist() == [0, 1, 2, 3, 4, 0]
    else:
        assert len(set(np.diff(which) % len(colours))) == len(colours) - 1


def test_a_route_gives_a_colour_of_the_palette_itself():
    """Between its ends there would be a mixture; with the palette there is exactly one of its colours."""
    deal = Route(
        id="deal",
        signal="beat",
        targets=[TINT],
        low="#000000",
        high="#ffffff",
        shapers=[Part(id="pick", family="shaper", kind="pick")],
    )
    played = performer(routes=[deal])
    colours = [from_hex(colour) for colour in SHIPPED["Lamp oil"]]
    seen = [live(played) for _ in range(5)]
    assert all(any(np.allclose(at, colour) for colour in colours) for at in seen)


def test_what_is_no_entry_is_refused_in_words():
    with pytest.raises(ValueError, match="@ and its number"):
        Part(id="ring", kind="ring", values={"tint": "@0"})


def test_a_pad_and_a_cue_take_a_palette_into_use():
    played = performer()
    live(played)
    played.surface.stage.use_palette("palette-3", 0.0)
    assert live(played) == pytest.approx(from_hex(list(SHIPPED.values())[2][2]))
    assert played.surface.stage.palette_is("palette-3")
    cue = Cue(id="c", name="Frost", palette="palette-6")
    played.configure(played.show.model_copy(update={"cues": [cue]}))
    played.act(EditMade(edit=recall_cue(played.show, "c").edit))
    assert live(played) == pytest.approx(from_hex(SHIPPED["Frost"][2]))
    played.surface.stage.use_palette("gone", 0.0)
    assert played.show.palette == "palette-6"


def test_a_lamp_and_a_route_follow_the_palette_as_pictures_do():
    low = Route(id="low", signal="level", targets=[TINT], low="@1", high="@4")
    played = performer(routes=[low])
    played.tick()
    lamp = played.show.lamps[0].fixture
    edit = SetValue(path=f"/lamps/{played.show.lamps[0].id}/fixture/values/colour", value="@2")
    played.act(EditMade(edit=edit))
    oil, sea = list(SHIPPED.values())[0], list(SHIPPED.values())[2]
    assert live(played, f"{lamp.id}.colour") == pytest.approx(from_hex(oil[1]))
    # In silence the route stands at its lower end.
    assert live(played) == pytest.approx(from_hex(oil[0]))
    played.act(EditMade(edit=SetValue(path="/palette", value="palette-3")))
    assert live(played, f"{lamp.id}.colour") == pytest.approx(from_hex(sea[1]))
    assert live(played) == pytest.approx(from_hex(sea[0]))


def test_ramps_are_made_copied_and_taken_away():
    show = starter_show("Night")
    first, one = new_ramp(show)
    show = apply(show, first)[0]
    show = apply(show, SetValue(path=f"/ramps/{one}/part/values/colour_1", value="#123456"))[0]
    second, two = new_ramp(show, like=one)
    show = apply(show, second)[0]
    assert [ramp.part.values["colour_1"] for ramp in show.ramps] == ["#123456", "#123456"] and one != two
    look = show.looks[0]
    map = {"id": "map", "kind": "gradient-map", "values": {"ramp": one}}
    show = apply(show, AddItem(path=f"/looks/{look.id}/finish", item=map))[0]
    show = apply(show, without_ramp(show, one))[0]
    assert [ramp.id for ramp in show.ramps] == [two] and show.looks[0].finish[-1].values["ramp"] == ""
    with pytest.raises(EditError, match="not there any more"):
        without_ramp(show, one)


def test_a_stop_is_as_the_nearest_and_those_behind_one_that_goes_move_up():
    show = starter_show("Night")
    edit, ramp = new_ramp(show)
    show = apply(show, edit)[0]

    def stops():
        values = show.ramps[0].part.values
        return [(values[f"place_{n}"], values[f"colour_{n}"]) for n in range(1, round(values["count"]) + 1)]

    three = stops()
    show = apply(show, new_stop(show, ramp, 0.9))[0]
    assert stops() == [*three, (0.9, three[2][1])]
    show = apply(show, without_stop(show, ramp, 1))[0]
    assert stops() == [*three[1:], (0.9, three[2][1])]
    show = apply(show, without_stop(show, ramp, 3))[0]
    with pytest.raises(EditError, match="at least 2"):
        without_stop(show, ramp, 1)
    with pytest.raises(EditError, match="not there any more"):
        without_stop(show, ramp, 7)
    for _ in range(14):
        show = apply(show, new_stop(show, ramp, 0.3))[0]
    with pytest.raises(EditError, match="at most 16"):
        new_stop(show, ramp, 0.3)
