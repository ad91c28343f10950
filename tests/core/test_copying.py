"""Copies of things, with all that moves them: into the same look, another one, another show."""

import json

import pytest

from fulgura.core.performer import Performer
from fulgura.core.show.clipping import MOST_BYTES, VERSION, clip, read
from fulgura.core.show.commands.copying import paste
from fulgura.core.show.commands.layers import new_effect, new_layer
from fulgura.core.show.commands.looks import new_look
from fulgura.core.show.document import Show
from fulgura.core.show.edits import EditError, SetValue, apply
from fulgura.core.show.part import Part
from fulgura.core.show.routes import Route
from fulgura.core.show.starter import starter_show
from fulgura.demo.show import demo_show
from fulgura.render.executor import Executor

LAYER = "/looks/lantern-tunnel/layers/lantern"


def copied(show, *paths, into=None, where=""):
    """(the show after the paste, what pasting made, the edit that takes it back)."""
    found = paste(into or show, read(clip(show, list(paths)).model_dump_json()), where)
    after, back = apply(into or show, found.edit)
    return after, found, back


def test_a_copied_layer_has_ids_of_its_own_and_its_routes_beside_the_firsts():
    show = starter_show("Night")
    after, found, back = copied(show, LAYER)
    look = after.looks[0]
    first, second = look.layers
    assert [layer.name for layer in look.layers] == ["Lantern ring", "Lantern ring 2"]
    assert first == show.looks[0].layers[0] and not {p.id for p in first.parts()} & {
        p.id for p in second.parts()
    }
    assert [part.values for part in second.parts()] == [part.values for part in first.parts()]
    assert [(route.signal, route.targets) for route in after.routes] == [
        ("band-low", ["ring.radius"]),
        ("band-low", [f"{second.source.id}.radius"]),
    ]
    assert found.made == [f"/looks/lantern-tunnel/layers/{second.id}"] and not found.left
    assert apply(after, back)[0] == show


def test_a_copied_layer_draws_the_same_picture():
    """Alone in its look, the copy draws what the first drew, to the last bit."""
    show = starter_show("Night")
    after, _, _ = copied(show, LAYER)
    alone, _ = apply(after, SetValue(path=f"{LAYER}/visible", value=False))
    pictures = []
    for each in (show, alone):
        performer, executor = Performer(each), Executor(160, 90, None)
        executor.load(performer.plan)
        for _ in range(20):
            executor.draw(performer.packet(performer.tick()))
        pictures.append(executor.pixels().copy())
        executor.close()
    assert (pictures[0] == pictures[1]).all() and pictures[0].std() > 1.0


def test_into_another_look_and_another_show_and_what_is_not_there_is_said():
    show = demo_show()
    edit, look = new_look(show, "New")
    other, _ = apply(show, edit)
    after, _, _ = copied(other, LAYER, where=f"/looks/{look}")
    assert [layer.name for layer in after.looks[-1].layers] == ["Lantern ring"]
    empty = Show(name="Empty")
    edit, look = new_look(empty, "First")
    empty, _ = apply(empty, edit)
    after, found, _ = copied(show, LAYER, into=empty)
    assert after.looks[0].layers and not after.routes
    assert any("nothing here is called “Low”" in words for words in found.left)


def test_a_group_takes_along_what_is_in_it_and_masks_follow():
    show = starter_show("Night")
    for source in ("group", "shape", "ring"):
        edit, layer = new_layer(show, "lantern-tunnel", source)
        show, _ = apply(show, edit)
    group, shape, ring = show.looks[0].layers[-3:]
    base = "/looks/lantern-tunnel/layers"
    for path, value in ((f"{shape.id}/inside", group.id), (f"{shape.id}/mix/values/mask", ring.id)):
        show, _ = apply(show, SetValue(path=f"{base}/{path}", value=value))
    after, found, _ = copied(show, f"{base}/{group.id}", f"{base}/{ring.id}")
    new = after.looks[0].layers[-3:]
    assert len(found.made) == 3 and new[1].inside == new[0].id and new[1].mix.values["mask"] == new[2].id
    # Alone, it keeps what it can still see.
    after, _, _ = copied(show, f"{base}/{shape.id}")
    copy = next(layer for layer in after.looks[0].layers if layer.name == "Shape 2")
    assert copy.inside == group.id and copy.mix.values["mask"] == ring.id


def test_effects_bands_routes_cues_groups_and_chases_are_copied():
    show = demo_show()
    edit, effect = new_effect(show, f"{LAYER}/effects", "bloom")
    show, _ = apply(show, edit)
    after, _, _ = copied(show, f"{LAYER}/effects/{effect}")
    assert [part.kind for part in after.looks[0].layers[0].effects][-2:] == ["bloom", "bloom"]
    after, _, _ = copied(show, f"{LAYER}/effects/{effect}", where="/looks/lantern-tunnel/finish")
    assert after.looks[0].finish[-1].kind == "bloom"
    after, _, _ = copied(show, "/bands/low")
    assert [band.name for band in after.bands][-1] == "Low 2" and after.bands[-1].low_hz == after.bands[
        0
    ].low_hz
    after, _, _ = copied(show, "/routes/r1")
    assert after.routes[-1].targets == show.routes[0].targets and after.routes[-1].id != "r1"
    for path, held in (("/cues", show.cues), ("/groups", show.groups), ("/chases", show.chases)):
        if held:
            after, _, _ = copied(show, f"{path}/{held[0].id}")
            names = [each.name for each in getattr(after, path[1:])]
            assert len(names) == len(held) + 1 and len(set(names)) == len(names)


def test_copies_of_what_takes_turns_join_the_cycle():
    show = starter_show("Night")
    turns = Route(
        id="turns",
        signal="hit-kick",
        targets=["ring.radius"],
        low=0,
        high=1,
        shapers=[Part(id="c", kind="cycle"), Part(id="p", kind="pulse")],
    )
    show = show.model_copy(update={"routes": [turns]})
    after, _, _ = copied(show, LAYER)
    after, _, _ = copied(after, LAYER)
    assert len(after.routes) == 1 and len(after.routes[0].targets) == 3


def test_what_moves_a_shaper_is_copied_with_its_route():
    show = starter_show("Night")
    more = Route(id="r2", signal="level", targets=["step@r1@smooth.release"], low=0, high=100)
    show = show.model_copy(update={"routes": [*show.routes, more]})
    after, _, _ = copied(show, "/routes/r1")
    assert after.routes[-1].targets == [f"step@{after.routes[-2].id}@smooth.release"]


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "not copied in Fulgura"),
        ("<svg/>", "not copied in Fulgura"),
        ('{"format": "fulgura-copy", ', "damaged"),
        (json.dumps({"format": "fulgura-copy", "version": VERSION + 1}), "newer Fulgura"),
        (json.dumps({"format": "fulgura-copy", "version": 1, "things": []}), "damaged"),
        (
            json.dumps(
                {"format": "fulgura-copy", "version": 1, "things": [{"what": "layer", "item": {"id": "x"}}]}
            ),
            "damaged",
        ),
        ("fulgura-copy" + "x" * MOST_BYTES, "too large"),
    ],
)
def test_other_clipboards_are_refused_in_a_sentence(text, says):
    with pytest.raises(EditError, match=says):
        read(text)


def test_what_cannot_be_copied_or_is_gone_says_so():
    show = starter_show("Night")
    with pytest.raises(EditError, match="can't be copied"):
        clip(show, ["/inputs/main"])
    with pytest.raises(EditError, match="any more"):
        clip(show, ["/looks/lantern-tunnel/layers/gone"])
