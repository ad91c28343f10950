"""The look compiler: what a plan promises its executors."""

import numpy as np
import pytest

from fulgura.core.kinds.descriptors import DESCRIPTOR_IDS
from fulgura.core.kinds.drawn import Effect, Source
from fulgura.core.kinds.parameters import Number, Unit, param
from fulgura.core.kinds.registry import Kind, KindInfo
from fulgura.core.performer import Performer
from fulgura.core.picture.compiler import compile_look
from fulgura.core.picture.plan import Plan
from fulgura.core.picture.plan_builder import readable
from fulgura.core.picture.shaders import files, shader
from fulgura.core.routing.router import Router
from fulgura.core.show.commands.layers import new_effect, new_layer, without_part
from fulgura.core.show.commands.looks import new_look
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, EditError, RemoveItem, apply
from fulgura.core.show.events import EditMade, OverrideReleased, OverrideSet
from fulgura.core.show.looks import Layer, Look
from fulgura.core.show.part import Part
from fulgura.core.show.routes import Route
from fulgura.core.show.signals import pitch_of, signals
from fulgura.demo.show import demo_show, gallery_show
from tests.core.unguarded import unguarded


def compiled(show: Show) -> Plan:
    router = Router()
    router.configure(show)
    return compile_look(show.looks[0], readable(router.index_of, len(router.hand)))


def with_look(**changes) -> Show:
    show = demo_show()
    return show.model_copy(update={"looks": [show.looks[0].model_copy(update=changes)]})


def test_passes_run_from_source_to_screen():
    plan = compiled(demo_show())
    assert [p.fragment for p in plan.passes] == ["ring.frag", "feedback.frag", "grade.frag", "screen.frag"]
    assert plan.passes[-1].target == "screen"
    show = demo_show()
    show.looks[0].layers[0].mix.values["opacity"] = 0.5
    assert [p.fragment for p in compiled(show).passes] == [
        "ring.frag",
        "feedback.frag",
        "layer.frag",
        "grade.frag",
        "screen.frag",
    ], "what is not faded, placed or cut needs no pass to lie on nothing"


def test_a_pass_reads_only_what_was_drawn_before_it():
    plan = compiled(demo_show())
    drawn = {"nothing"}
    for render_pass in plan.passes:
        for source in render_pass.inputs:
            assert source.data or source.image or source.history_offset or source.target in drawn
        drawn.add(render_pass.target)


def test_every_uniform_has_its_own_floats_and_its_own_source():
    plan = compiled(demo_show())
    taken = [
        i
        for render_pass in plan.passes
        for u in render_pass.uniforms
        for i in range(u.offset, u.offset + u.size)
    ]
    assert sorted(taken) == list(range(plan.floats)) and len(plan.gather) == plan.floats


def test_uniforms_carry_the_live_values():
    performer = Performer(demo_show())
    for _ in range(4):
        performer.hear(np.zeros((256, 2)))
    frame = performer.tick()
    ring = next(render_pass for render_pass in performer.plan.passes if render_pass.name == "ring")
    values = {u.name: frame.uniforms[u.offset : u.offset + u.size] for u in ring.uniforms}
    assert values["u_sides"][0] == 8.0 and values["u_width"][0] == pytest.approx(0.02)
    np.testing.assert_allclose(
        values["u_tint"], performer.router.live[performer.router.index_of["ring.tint"] :][:3]
    )


def test_every_uniform_is_declared_in_its_shader():
    plan = compiled(demo_show())
    for render_pass in plan.passes:
        for name in [u.name for u in render_pass.uniforms] + [i.uniform for i in render_pass.inputs]:
            assert name in plan.texts[render_pass.fragment_text] + plan.texts[render_pass.vertex_text], (
                f"{name} is missing in {render_pass.fragment}"
            )


def test_a_value_changes_no_plan_but_an_effect_switched_off_does():
    plan = compiled(demo_show())
    show = demo_show()
    show.looks[0].layers[0].source.values["radius"] = 0.9
    assert compiled(show).id == plan.id
    show.looks[0].layers[0].effects[0].on = False
    off = compiled(show)
    assert off.id != plan.id and "feedback.frag" not in off.fragments


def test_what_is_chosen_and_moved_by_nothing_is_a_constant_of_the_shader():
    faded = demo_show()
    faded.looks[0].layers[0].mix.values["opacity"] = 0.5
    performer = Performer(faded)

    def blend() -> bool:
        """Whether the layer's blend is a uniform."""
        layer_pass = next(
            render_pass for render_pass in performer.plan.passes if render_pass.fragment == "layer.frag"
        )
        text = performer.plan.texts[layer_pass.fragment_text]
        assert ("const float u_blend" in text) is not any(u.name == "u_blend" for u in layer_pass.uniforms)
        return "const float u_blend" not in text

    assert not blend()
    performer.act(OverrideSet(target="lantern-mix.blend", value="add"))
    assert blend(), "a hand that holds it must have its way"
    performer.act(OverrideReleased(target="lantern-mix.blend", glide_ms=0.0))
    route = Route(id="b", signal="hit-kick", targets=["lantern-mix.blend"], low=0.0, high=5.0)
    performer.act(EditMade(edit=AddItem(path="/routes", item=route.model_dump())))
    assert blend(), "a route moves it"
    performer.act(EditMade(edit=RemoveItem(path="/routes/b")))
    assert not blend()


def test_a_count_that_nothing_moves_is_what_the_loop_of_a_shader_runs_to():
    show = with_look(
        layers=[
            Layer(
                id="bells",
                name="Bells",
                source=Part(id="bells-source", kind="rings", values={"count": 3.4}),
                mix=Part(id="bells-mix", kind="over"),
            )
        ]
    )
    performer = Performer(show.model_copy(update={"routes": []}))

    def text() -> str:
        return performer.plan.texts[
            next(
                render_pass for render_pass in performer.plan.passes if render_pass.fragment == "rings.frag"
            ).fragment_text
        ]

    assert "const float u_count = 3.000000000" in text(), (
        "of whole numbers there are few, so few shaders are made"
    )
    performer.act(OverrideSet(target="bells-source.count", value=5.0))
    assert "const float u_count" not in text(), "a hand that holds it must have its way"


def test_numbers_that_are_dear_are_left_out_while_they_are_as_at_first():
    show = demo_show()
    plain = compiled(show)
    show.looks[0].layers[0].effects[0].values["soften"] = 0.2
    soft = compiled(show)
    assert soft.id != plain.id

    def of(plan):
        return {
            u.name
            for render_pass in plan.passes
            if render_pass.fragment == "feedback.frag"
            for u in render_pass.uniforms
        }

    assert of(soft) - of(plain) == {"u_soften"}


def test_stages_of_an_effect_are_small_and_in_order():
    plan = compiled(with_look(finish=[Part(id="soft", kind="blur")]))
    assert [render_pass.fragment for render_pass in plan.passes if render_pass.name == "soft"] == [
        "shrink.frag",
        "blur_first.frag",
        "blur_second.frag",
        "blur.frag",
    ]
    assert sorted(target.divide for target in plan.targets if target.name.startswith("soft")) == [1, 4, 4, 4]


def test_a_hidden_layer_costs_no_pass():
    show = demo_show()
    show.looks[0].layers[0].visible = False
    assert [p.fragment for p in compiled(show).passes] == ["copy.frag", "grade.frag", "screen.frag"]


def test_a_solo_layer_is_drawn_alone():
    layers = [
        Layer(
            id=f"layer-{n}",
            name=str(n),
            solo=n == 1,
            source=Part(id=f"ring-{n}", kind="ring"),
            mix=Part(id=f"mix-{n}", kind="over"),
        )
        for n in range(3)
    ]
    assert [p.name for p in compiled(with_look(layers=layers, finish=[])).passes] == ["ring-1", "screen"]


def test_only_feedback_keeps_its_last_picture():
    plan = compiled(demo_show())
    assert [(t.name, t.history) for t in plan.targets if t.history] == [("feedback", 1)]
    feedback = next(render_pass for render_pass in plan.passes if render_pass.fragment == "feedback.frag")
    assert [i.history_offset for i in feedback.inputs] == [0, 1]


def test_each_layer_reads_what_lies_below_it_and_writes_elsewhere():
    layers = [
        Layer(
            id=f"layer-{n}",
            name=str(n),
            source=Part(id=f"ring-{n}", kind="ring"),
            mix=Part(id=f"mix-{n}", kind="over"),
        )
        for n in range(4)
    ]
    plan = compiled(with_look(layers=layers, finish=[]))
    laid = [render_pass for render_pass in plan.passes if render_pass.fragment == "layer.frag"]
    below = [next(i.target for i in render_pass.inputs if i.uniform == "u_backdrop") for render_pass in laid]
    assert below == ["ring-0", *(render_pass.target for render_pass in laid[:-1])] and all(
        a != b.target for a, b in zip(below, laid)
    )
    assert not any(render_pass.target == "nothing" for render_pass in plan.passes)


def test_a_new_layer_goes_where_it_is_seen_and_a_removed_one_takes_its_routes_along():
    show = demo_show()
    for source in ("noise", "spectrum"):
        edit, layer = new_layer(show, "lantern-tunnel", source)
        show, _ = apply(show, edit)
        assert show.looks[0].layers[-1].id == layer
    assert [layer.mix.values["blend"] for layer in show.looks[0].layers] == ["normal", "screen", "screen"]
    show, undo = apply(show, without_part(show, "/looks/lantern-tunnel/layers/lantern"))
    assert [route.id for route in show.routes] == ["r2"] and len(apply(show, undo)[0].routes) == 4
    edit, effect = new_effect(
        show, f"/looks/lantern-tunnel/layers/{show.looks[0].layers[0].id}/effects", "bloom"
    )
    show, _ = apply(show, edit)
    assert show.looks[0].layers[0].effects[0].id == effect
    for wrong in (
        lambda: new_layer(show, "gone", "noise"),
        lambda: new_layer(show, "lantern-tunnel", "gone"),
        lambda: new_effect(show, "/looks", "gone"),
        lambda: without_part(show, ""),
        lambda: without_part(show, "/looks/lantern-tunnel/layers/lantern/gone"),
    ):
        with pytest.raises(EditError):
            wrong()


def test_a_copied_look_moves_as_the_first_one_does_and_shares_no_part_with_it():
    edit, look = new_look(demo_show(), "Copy", "lantern-tunnel")
    show, _ = apply(demo_show(), edit)
    assert show.look == look and len(show.routes) == 7
    first, second = ({part.id for part in look.parts()} for look in show.looks)
    assert not first & second
    empty, _ = apply(show, new_look(show, "Dark")[0])
    assert empty.looks[-1].layers == []


def test_a_show_without_a_look_is_a_dark_picture_not_an_error():
    performer = Performer(unguarded(Show(name="Empty")))
    performer.hear(np.zeros((256, 2)))
    assert performer.tick().uniforms.tolist() == [1.0] and performer.plan.passes[-1].target == "screen"


def test_every_source_and_effect_names_a_shader_that_exists():
    for family in (Source, Effect):
        for kind in family.kinds.values():
            assert files()[kind.shader].is_file()
            assert shader(kind.shader).count("void main()") == 1


def test_a_new_kind_is_one_declaration():
    """What the README promises: controls, defaults and validation come from the class alone."""

    class Posterise(Effect):
        """Leaves only a few steps of brightness."""

        shader = "copy.frag"
        steps: Number = param(5.0, 2.0, 32.0, "Steps from dark to bright")

    try:
        part = Part(id="p", kind="posterise")
        assert part.values == {"steps": 5.0}
        info = KindInfo.of(Posterise)
        assert (info.family, info.kind, info.parameters[0].high) == ("effect", "posterise", 32.0)
        show = with_look(finish=[part])
        assert compiled(show).passes[-2].uniforms[0].name == "u_steps"
    finally:
        del Effect.kinds["posterise"]


def test_families_do_not_share_kinds():
    assert Source.kinds is not Effect.kinds and "ring" in Source.kinds and "ring" not in Effect.kinds


def test_units_and_groups_reach_the_desk():
    class Lens(Kind):
        """A family of its own."""

        family = "lens"

    class Wide(Lens):
        """A wide one."""

        angle: float = param(60.0, 10.0, 120.0, "Opening", group="Glass", title="Opening angle")

    assert isinstance(Unit("°"), Unit)
    parameter = Wide.parameters()[0]
    assert (
        parameter.title,
        parameter.group,
        parameter.type,
        parameter.low,
        parameter.high,
        parameter.size,
    ) == ("Opening angle", "Glass", "number", 10.0, 120.0, 1)


def test_what_a_kind_has_of_its_own_comes_before_what_it_shares():
    groups = list(dict.fromkeys(parameter.group for parameter in Source.kinds["lattice"].parameters()))
    assert groups[0] == "Form" and set(groups) == {"Form", "Sound", "Light", "Camera", "Second framing"}


def test_pitch_runs_from_ember_to_ice():
    pitches = [pitch_of(30, 60), pitch_of(100, 300), pitch_of(1000, 3000), pitch_of(8000, 16_000)]
    assert pitches == sorted(pitches) and pitches[0] >= 0.0 and pitches[-1] <= 1.0


def test_every_signal_has_a_name_and_a_plain_explanation():
    show = demo_show()
    rows = signals(show)
    assert [row.id for row in rows] == [
        "level",
        "band-low",
        "band-mid",
        "band-high",
        "peak",
        "peak-low",
        "peak-mid",
        "peak-high",
        "hit-kick",
        "hit-snare",
        "hit-hat",
        *DESCRIPTOR_IDS,
        "beat",
        "beat-phase",
        "bar-phase",
        "modulator-tide",
    ]
    assert all(row.name and row.help.endswith(".") for row in rows)


def test_every_look_of_the_demo_compiles_within_fourteen_passes_and_every_route_of_it_finds_its_target():
    show = unguarded(gallery_show())
    performer = Performer(show)
    assert performer.router.faults() == {} and len(show.looks) == 18
    used = {part.kind for look in show.looks for part in look.parts()}
    # A picture and a shader of one's own are what the show does not come with.
    assert used >= (Source.kinds.keys() | Effect.kinds.keys()), (
        "together they use every source and every effect"
    )
    for look in show.looks:
        performer.configure(show.model_copy(update={"look": look.id}))
        assert len(performer.plan.passes) <= 14 and performer.plan.look == look.id


def test_a_look_holds_at_most_sixteen_layers():
    layers = [
        Layer(id=f"l{n}", name="x", source=Part(id=f"s{n}", kind="ring"), mix=Part(id=f"m{n}", kind="over"))
        for n in range(17)
    ]
    with pytest.raises(ValueError, match="at most 16"):
        Look(id="a", name="A", layers=layers)
