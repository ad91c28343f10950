"""Masks, groups, layers that read layers, and looks that go over into each other."""

import numpy as np
import pytest

from fulgura.core.clock import BLOCK
from fulgura.core.performer import Performer
from fulgura.core.picture.plan import Plan
from fulgura.core.show.commands.layers import without_part
from fulgura.core.show.commands.looks import new_look
from fulgura.core.show.document import Show
from fulgura.core.show.edits import SetValue, apply
from fulgura.core.show.events import EditMade
from fulgura.core.show.looks import Layer, Look
from fulgura.core.show.part import Part
from fulgura.demo.show import demo_show, gallery_show
from tests.core.unguarded import OFF, unguarded


def layer(
    id: str,
    kind: str = "ring",
    inside: str = "",
    visible: bool = True,
    solo: bool = False,
    effects: tuple[Part, ...] = (),
    mask: str = "",
    **values,
) -> Layer:
    mix = Part(id=f"{id}-mix", kind="over", values={"mask": mask})
    return Layer(
        id=id,
        name=id.title(),
        inside=inside,
        visible=visible,
        solo=solo,
        source=Part(id=f"{id}-source", kind=kind, values=values),
        effects=list(effects),
        mix=mix,
    )


def show_of(*layers: Layer, finish: tuple[Part, ...] = ()) -> Show:
    return demo_show().model_copy(
        update={
            "looks": [Look(id="l", name="L", layers=list(layers), finish=list(finish))],
            "look": "l",
            "routes": [],
            "guard": OFF,
        }
    )


def plan_of(*layers: Layer, finish: tuple[Part, ...] = ()) -> Plan:
    return Performer(show_of(*layers, finish=finish)).plan


def names(plan: Plan) -> list[str]:
    return [render_pass.name for render_pass in plan.passes]


def read(plan: Plan, pass_: str, uniform: str):
    return next(
        i
        for render_pass in plan.passes
        if render_pass.name == pass_
        for i in render_pass.inputs
        if i.uniform == uniform
    )


def test_a_hidden_layer_that_masks_is_drawn_and_not_laid_on_the_picture():
    plan = plan_of(layer("stencil", visible=False), layer("cloud", "noise", mask="stencil"))
    assert names(plan) == ["stencil-source", "cloud-source", "cloud-mix", "screen"]
    assert plan.passes[2].fragment == "mask.frag"
    assert read(plan, "cloud-mix", "u_mask").target == "stencil-source" and plan.delayed_inputs == []


def test_what_is_drawn_later_comes_one_frame_late_and_is_said():
    plan = plan_of(
        layer("cloud", "noise", mask="stencil"), layer("stencil", effects=(Part(id="soft", kind="blur"),))
    )
    mask = read(plan, "cloud-mix", "u_mask")
    assert (mask.target, mask.history_offset) == ("soft", 1) and plan.delayed_inputs == ["cloud-mix.mask"]
    assert next(target.history for target in plan.targets if target.name == "soft") == 1


def test_a_layer_may_feed_itself_one_frame_late():
    plan = plan_of(layer("mirror", "again", source="mirror"))
    assert (
        read(plan, "mirror-source", "u_source").target,
        read(plan, "mirror-source", "u_source").history_offset,
    ) == ("mirror-source", 1)
    assert plan.delayed_inputs == ["mirror-source.source"]


def test_a_reference_to_what_is_gone_is_dark_not_an_error():
    assert read(plan_of(layer("cloud", "noise", mask="never")), "cloud-mix", "u_mask").target == "nothing"


def test_a_group_is_mixed_first_and_then_treated_as_one():
    plan = plan_of(
        layer("sea", "noise"),
        layer("boats", "group", effects=(Part(id="fold", kind="fold"),)),
        layer("one", inside="boats"),
        layer("two", inside="boats"),
    )
    assert names(plan) == ["sea-source", "one-source", "two-source", "two-mix", "fold", "boats-mix", "screen"]
    assert read(plan, "fold", "u_source").target == next(
        render_pass.target for render_pass in plan.passes if render_pass.name == "two-mix"
    )


def test_a_solo_in_a_group_shows_it_and_its_group_alone_and_a_solo_group_all_of_its_own():
    inner = plan_of(
        layer("sea", "noise"),
        layer("boats", "group"),
        layer("one", inside="boats", solo=True),
        layer("two", inside="boats"),
    )
    assert names(inner) == ["one-source", "screen"]
    whole = plan_of(
        layer("sea", "noise"),
        layer("boats", "group", solo=True),
        layer("one", inside="boats"),
        layer("two", inside="boats"),
    )
    assert names(whole) == ["one-source", "two-source", "two-mix", "screen"]


def test_a_group_in_itself_and_a_group_that_is_not_there_are_refused_in_words():
    with pytest.raises(ValueError, match="group inside itself"):
        show_of(layer("a", "group", inside="b"), layer("b", "group", inside="a"))
    with pytest.raises(ValueError, match="group that is not there"):
        show_of(layer("a", inside="gone"))
    with pytest.raises(ValueError, match="not a layering"):
        Layer(id="a", name="A", source=Part(id="s", kind="ring"), mix=Part(id="c", kind="look-crossfade"))


def test_the_picture_so_far_is_what_lies_below():
    plan = plan_of(
        layer("sea", "noise"), layer("boat"), layer("all", "so-far", effects=(Part(id="fold", kind="fold"),))
    )
    assert read(plan, "fold", "u_source").target == next(
        render_pass.target for render_pass in plan.passes if render_pass.name == "boat-mix"
    )


def test_another_layers_picture_is_not_copied_unless_it_must_be_kept():
    plan = plan_of(layer("sea", "noise", visible=False), layer("twin", "again", source="sea"))
    assert names(plan) == ["sea-source", "screen"]
    kept = plan_of(
        layer("sea", "noise", visible=False),
        layer("twin", "again", visible=False, source="sea"),
        layer("boat", mask="twin"),
    )
    assert names(kept) == ["sea-source", "twin-source", "boat-source", "boat-mix", "screen"]


def test_effects_read_pictures_of_some_time_ago():
    plan = plan_of(layer("sea", "noise"), finish=(Part(id="late", kind="lag"),))
    assert [
        i.history_offset
        for i in next(render_pass for render_pass in plan.passes if render_pass.name == "late").inputs
    ] == [0, 2, 4, 6, 8]
    assert max(target.history for target in plan.targets) == 8


def test_taking_a_layer_away_lets_go_of_everything_that_read_it():
    show = show_of(
        layer("boats", "group"),
        layer("one", inside="boats", mask="sea"),
        layer("sea", "noise"),
        finish=(Part(id="push", kind="displace", values={"by": "sea"}),),
    )
    without, undo = apply(show, without_part(show, "/looks/l/layers/sea"))
    assert (
        without.looks[0].layers[1].mix.values["mask"] == "" and without.looks[0].finish[0].values["by"] == ""
    )
    alone, _ = apply(show, without_part(show, "/looks/l/layers/boats"))
    assert alone.looks[0].layers[0].inside == ""
    assert apply(without, undo)[0].looks[0].finish[0].values["by"] == "sea"


def test_a_copied_look_reads_its_own_layers():
    show = show_of(layer("boats", "group"), layer("one", inside="boats", mask="sea"), layer("sea", "noise"))
    copied = apply(show, new_look(show, "Copy", "l")[0])[0].looks[1]
    ids = [layer.id for layer in copied.layers]
    assert (
        copied.layers[1].inside == ids[0]
        and copied.layers[1].mix.values["mask"] == ids[2]
        and not set(ids) & {"boats", "one", "sea"}
    )


# -- from look to look ---------------------------------------------------------------------------------------


def two_looks() -> Show:
    show = show_of(layer("a"))
    return show.model_copy(
        update={"looks": [*show.looks, Look(id="m", name="M", layers=[layer("b", "particles")])]}
    )


def share(performer: Performer) -> float:
    return float(performer.router.live[performer.router.index_of["crossfade.share"]])


def test_a_look_goes_over_into_the_next_and_then_is_alone():
    performer = Performer(unguarded(two_looks()))
    performer.act(EditMade(edit=SetValue(path="/look", value="m"), glide_ms=500))
    assert "cross.frag" in performer.plan.fragments and performer.plan.look == "m"
    shares = []
    for _ in range(40):
        performer.hear(np.zeros((BLOCK, 2)))
        performer.tick()
        shares.append(share(performer))
    assert (
        shares[:29] == pytest.approx([n / 30 for n in range(1, 30)])
        and "cross.frag" not in performer.plan.fragments
    )
    assert names(performer.plan) == ["b-source", "b-source", "screen"]


def test_a_look_that_is_changed_at_once_has_no_crossfade():
    performer = Performer(unguarded(two_looks()))
    performer.act(EditMade(edit=SetValue(path="/look", value="m")))
    assert "cross.frag" not in performer.plan.fragments and performer.plan.look == "m"


def test_a_look_beside_is_mixed_by_the_hand_and_by_routes():
    performer = Performer(unguarded(two_looks()))
    performer.act(EditMade(edit=SetValue(path="/beside", value="m")))
    performer.act(EditMade(edit=SetValue(path="/crossfade/values/share", value=0.25)))
    performer.hear(np.zeros((BLOCK, 2)))
    frame = performer.tick()
    uniform = next(
        u
        for render_pass in performer.plan.passes
        if render_pass.fragment == "cross.frag"
        for u in render_pass.uniforms
        if u.name == "u_share"
    )
    assert frame.uniforms[uniform.offset] == 0.25
    before = performer.plan.id
    performer.act(EditMade(edit=SetValue(path="/crossfade/values/how", value="wipe")))
    assert performer.plan.id != before, "another way of crossing is another shader"
    performer.act(EditMade(edit=SetValue(path="/beside", value="l")))
    assert "cross.frag" not in performer.plan.fragments, "a look beside itself is itself"


def test_particles_live_on_while_their_look_comes_and_goes():
    performer = Performer(unguarded(two_looks()))
    performer.act(EditMade(edit=SetValue(path="/beside", value="m")))
    counts = []
    for n in range(60):
        if n == 30:
            performer.act(EditMade(edit=SetValue(path="/look", value="m"), glide_ms=100))
        performer.hear(np.zeros((BLOCK, 2)))
        performer.tick()
        counts.append(performer.picture.providers["particles b-source"].count)
    assert counts == sorted(counts) and counts[-1] > counts[29]


def test_a_look_that_is_left_may_be_taken_away_meanwhile():
    show = two_looks()
    performer = Performer(show)
    performer.act(EditMade(edit=SetValue(path="/look", value="m"), glide_ms=5000))
    performer.configure(performer.show.model_copy(update={"looks": [show.looks[1]]}))
    performer.hear(np.zeros((BLOCK, 2)))
    performer.tick()
    assert "cross.frag" not in performer.plan.fragments


def test_every_block_of_a_plan_is_in_the_frame():
    show = gallery_show()
    for look in show.looks:
        performer = Performer(show.model_copy(update={"look": look.id}))
        performer.hear(np.zeros((BLOCK, 2)))
        packet = performer.packet(performer.tick())
        assert {binding.block for binding in performer.plan.data} <= packet.blocks.keys()
        for binding in performer.plan.data:
            block = packet.blocks[binding.block]
            assert binding.form == "ring" or len(block) % binding.width == 0
