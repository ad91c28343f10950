"""Presets and saved chains: kept, recalled, carried over, compared; what is gone is named."""

import pytest

from fulgura.core.show.commands import presets as keeping
from fulgura.core.show.commands.chains import keep_chain, take_chain, users_of, with_chain
from fulgura.core.show.commands.routes import new_route
from fulgura.core.show.document import Show
from fulgura.core.show.edits import EditError, RemoveItem, SetValue, apply, value_at
from fulgura.core.show.part import Part
from fulgura.core.show.routes import NamedModulator
from fulgura.demo.show import demo_show, gallery_show

RADIUS = "/looks/lantern-tunnel/layers/lantern/source/values/radius"


def kept(show: Show, scope: str, path: str, name: str = "Mine") -> tuple[Show, str]:
    edit, id = keeping.keep(show, scope, path, name)
    return apply(show, edit)[0], id


def radius(show: Show) -> float:
    return show.looks[0].layers[0].source.values["radius"]


def test_a_preset_brings_back_values_and_routes_and_is_one_step():
    show, preset = kept(demo_show(), "parameter", "ring.radius")
    assert not keeping.differs(show, keeping.find(show, preset))
    show, _ = apply(show, SetValue(path=RADIUS, value=1.7))
    show, _ = apply(show, RemoveItem(path="/routes/r1"))
    assert keeping.differs(show, keeping.find(show, preset))
    back, undo = apply(show, keeping.recall(show, keeping.find(show, preset)))
    assert radius(back) == 0.3 and {route.id for route in back.routes} == {"r1", "r2", "r3", "r4"}
    assert not keeping.differs(back, keeping.find(back, preset))
    assert apply(back, undo)[0].routes == show.routes


def test_every_part_of_a_show_has_a_place_in_its_document():
    show = gallery_show()
    for part in show.parts():
        path, found = keeping.parts_of(show, "part", part.id)[part.id]
        assert found is part and value_at(show, path) is part


def test_hand_only_takes_away_what_moves_a_place_and_leaves_its_values():
    show, _ = apply(demo_show(), keeping.hand_only(demo_show(), "layer", "lantern"))
    assert [route.id for route in show.routes] == ["r2"] and radius(show) == 0.3
    assert show.chosen == {"layer lantern": "hand"}


def test_a_route_to_several_places_loses_only_the_one_that_is_freed():
    show = demo_show()
    show, _ = apply(show, SetValue(path="/routes/r2/targets", value=["lamp-1.level", "ring.width"]))
    show, _ = apply(show, keeping.hand_only(show, "parameter", "ring.width"))
    assert show.routes[1].targets == ["lamp-1.level"]


def test_a_parameters_preset_fits_another_with_its_range_fitted_again():
    show, preset = kept(demo_show(), "parameter", "ring.radius")
    show, _ = apply(show, keeping.recall(show, keeping.find(show, preset), "lamp-1.level"))
    moved = next(route for route in show.routes if route.targets == ["lamp-1.level"])
    # Radius goes from 0 to 2, level from 0 to 1: 0.22 to 0.62 become 0.11 to 0.31, the hand's 0.3 becomes
    # 0.15.
    assert (moved.low, moved.high) == pytest.approx((0.11, 0.31)) and show.lamps[0].fixture.values[
        "level"
    ] == pytest.approx(0.15)
    with pytest.raises(EditError, match="does not fit"):
        keeping.recall(show, keeping.find(show, preset), "ring.tint")


def test_an_effects_preset_fits_another_of_its_kind():
    show = demo_show()
    other = Part(id="feedback-2", kind="feedback").model_dump()
    show, _ = apply(
        show,
        SetValue(
            path="/looks/lantern-tunnel/finish",
            value=[*[p.model_dump() for p in show.looks[0].finish], other],
        ),
    )
    show, preset = kept(show, "part", "feedback")
    show, _ = apply(show, keeping.recall(show, keeping.find(show, preset), "feedback-2"))
    assert show.looks[0].finish[-1].values == show.looks[0].layers[0].effects[0].values
    assert [route.targets for route in show.routes if route.signal == "band-high"] == [
        ["feedback.hue"],
        ["feedback-2.hue"],
    ]


def test_a_preset_of_what_is_gone_is_named_and_breaks_nothing():
    show, preset = kept(demo_show(), "part", "feedback")
    show, _ = apply(show, RemoveItem(path="/looks/lantern-tunnel/layers/lantern/effects/feedback"))
    found = keeping.find(show, preset)
    assert not keeping.differs(show, found)
    with pytest.raises(EditError, match="not there any more"):
        keeping.recall(show, found)
    show, _ = apply(show, keeping.remove(preset))
    with pytest.raises(EditError, match="not there any more"):
        keeping.find(show, preset)


def test_a_looks_preset_passes_over_parts_that_are_gone():
    show, preset = kept(demo_show(), "look", "lantern-tunnel")
    show, _ = apply(show, RemoveItem(path="/looks/lantern-tunnel/layers/lantern/effects/feedback"))
    show, _ = apply(show, SetValue(path=RADIUS, value=1.0))
    show, _ = apply(show, keeping.recall(show, keeping.find(show, preset)))
    assert radius(show) == 0.3 and "r1" in {route.id for route in show.routes}


def test_a_preset_is_updated_and_marked_when_it_is_not_what_stands_there():
    show, preset = kept(demo_show(), "part", "ring")
    show, _ = apply(show, SetValue(path=RADIUS, value=0.9))
    assert keeping.differs(show, keeping.find(show, preset))
    show, _ = apply(show, keeping.update(show, preset))
    assert (
        not keeping.differs(show, keeping.find(show, preset))
        and keeping.find(show, preset).values["ring.radius"] == 0.9
    )


def test_movers_are_places_too():
    show = demo_show().model_copy(
        update={"modulators": [NamedModulator(id="a", name="Sway", part=Part(id="sway", kind="lfo"))]}
    )
    assert keeping.parts_of(show, "part", "sway")["sway"][0] == "/modulators/a/part"


def test_a_saved_chain_is_taken_by_others_and_they_follow_when_wanted():
    show = demo_show()
    edit, chain = keep_chain(show, show.routes[0], "Soft")
    show, _ = apply(show, edit)
    show, _ = apply(show, take_chain(show, show.routes[2], chain))
    assert show.routes[2].shapers == show.routes[0].shapers and [
        route.id for route in users_of(show, chain)
    ] == ["r1", "r3"]
    show, _ = apply(show, SetValue(path="/routes/r1/shapers/smooth/values/release", value=900.0))
    alone, _ = apply(show, with_chain(show, chain, show.routes[0], users=False))
    assert (
        alone.routes[2].shapers != alone.routes[0].shapers
        and alone.chains[0].shapers == alone.routes[0].shapers
    )
    both, _ = apply(show, with_chain(show, chain, show.routes[0], users=True))
    assert both.routes[2].shapers == both.routes[0].shapers
    with pytest.raises(EditError, match="not there"):
        take_chain(show, show.routes[0], "gone")


def test_new_routes_suit_what_they_move():
    from fulgura.core.routing.indices import indices

    show = demo_show().model_copy(
        update={"modulators": [NamedModulator(id="a", name="Sway", part=Part(id="sway", kind="lfo"))]}
    )
    by_target = {entry.target: entry for entry in indices(show)}
    for target, kind, shapers in (
        ("ring.tint", "level", ["range", "smooth"]),
        ("sway.once", "hits", ["toggle"]),
        ("sway.shape", "hits", ["step"]),
    ):
        edit, route = new_route(show, "hit-kick", kind, [target], by_target[target].parameter, "#000000")
        made = apply(show, edit)[0].routes[-1]
        assert made.id == route and [part.kind for part in made.shapers] == shapers
    edit, _ = new_route(
        show, "hit-kick", "hits", ["ring.radius", "ring.width"], by_target["ring.radius"].parameter, 0.3
    )
    assert [part["kind"] for part in edit.item["shapers"]] == ["cycle", "pulse"]


def test_what_nobody_names_is_named_by_what_moves_it_or_by_where_it_stands():
    show = demo_show()
    for scope, address, names in (
        ("parameter", "ring.radius", ["Low", "Low 2"]),
        ("parameter", "ring.softness", ["By hand", "By hand 2"]),
        ("layer", "lantern", ["Lantern ring"]),
        ("look", "lantern-tunnel", ["Lantern tunnel"]),
        ("part", "feedback", ["Feedback"]),
    ):
        for name in names:
            show, preset = kept(show, scope, address, "")
            assert keeping.find(show, preset).name == name
