"""The look compiler: what a plan promises its executors."""

import numpy as np
import pytest

from fulgura.core.parameters import Kind, KindInfo, Number, Unit, param
from fulgura.core.performer import Performer
from fulgura.core.picture.compiler import compile_look, shader
from fulgura.core.picture.kinds import SHADERS, Effect, Source
from fulgura.core.picture.plan import Plan
from fulgura.core.routing.router import Router
from fulgura.core.show.document import Layer, Look, Part, Show
from fulgura.core.signals.table import pitch_of, signals
from fulgura.demo.show import demo_show


def compiled(show: Show) -> Plan:
    router = Router()
    router.configure(show)
    return compile_look(show.looks[0], router.places)


def with_look(**changes) -> Show:
    show = demo_show()
    return show.model_copy(update={"looks": [show.looks[0].model_copy(update=changes)]})


def test_passes_run_from_source_to_screen():
    plan = compiled(demo_show())
    assert [p.fragment for p in plan.passes] == ["ring.frag", "feedback.frag", "layer.frag", "grade.frag", "screen.frag"]
    assert plan.passes[-1].target == "screen"


def test_a_pass_reads_only_what_was_drawn_before_it():
    plan = compiled(demo_show())
    drawn: set[str] = set()
    for one in plan.passes:
        for source in one.inputs:
            assert source.block or source.previous or source.target in drawn
        drawn.add(one.target)


def test_every_uniform_has_its_own_floats_and_its_own_source():
    plan = compiled(demo_show())
    taken = [i for one in plan.passes for u in one.uniforms for i in range(u.offset, u.offset + u.size)]
    assert sorted(taken) == list(range(plan.floats)) and len(plan.gather) == plan.floats


def test_uniforms_carry_the_live_values():
    performer = Performer(demo_show())
    for _ in range(4):
        performer.hear(np.zeros((256, 2)))
    frame = performer.tick()
    ring = next(one for one in performer.plan.passes if one.name == "ring")
    values = {u.name: frame.uniforms[u.offset : u.offset + u.size] for u in ring.uniforms}
    assert values["u_sides"][0] == 8.0 and values["u_width"][0] == pytest.approx(0.02)
    np.testing.assert_allclose(values["u_tint"], performer.router.live[performer.router.places["ring.tint"] :][:3])


def test_every_uniform_is_declared_in_its_shader():
    plan = compiled(demo_show())
    for one in plan.passes:
        for name in [u.name for u in one.uniforms] + [i.uniform for i in one.inputs]:
            assert name in plan.fragments[one.fragment], f"{name} is missing in {one.fragment}"


def test_a_value_changes_no_plan_but_an_effect_switched_off_does():
    plan = compiled(demo_show())
    show = demo_show()
    show.looks[0].layers[0].source.values["radius"] = 0.9
    assert compiled(show).id == plan.id
    show.looks[0].layers[0].effects[0].on = False
    off = compiled(show)
    assert off.id != plan.id and "feedback.frag" not in off.fragments


def test_a_hidden_layer_costs_no_pass():
    show = demo_show()
    show.looks[0].layers[0].visible = False
    assert [p.fragment for p in compiled(show).passes] == ["copy.frag", "grade.frag", "screen.frag"]


def test_only_feedback_keeps_its_last_picture():
    plan = compiled(demo_show())
    assert [t.name for t in plan.targets if t.history] == ["feedback"]
    feedback = next(one for one in plan.passes if one.fragment == "feedback.frag")
    assert [i.previous for i in feedback.inputs] == [False, True]


def test_layers_lie_over_each_other_and_only_the_first_clears():
    layers = [
        Layer(id=f"layer-{n}", name=str(n), source=Part(id=f"ring-{n}", kind="ring"), mix=Part(id=f"mix-{n}", kind="over"))
        for n in range(3)
    ]
    plan = compiled(with_look(layers=layers, finish=[]))
    laid = [one for one in plan.passes if one.blend == "over"]
    assert [one.clear for one in laid] == [True, False, False] and {one.target for one in laid} == {"canvas"}


def test_a_show_without_a_look_is_a_dark_picture_not_an_error():
    performer = Performer(Show(name="Empty"))
    performer.hear(np.zeros((256, 2)))
    assert performer.tick().uniforms.size == 0 and performer.plan.passes[-1].target == "screen"


def test_every_source_and_effect_names_a_shader_that_exists():
    for family in (Source, Effect):
        for kind in family.kinds.values():
            assert (SHADERS / kind.shader).is_file()
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
    one = Wide.parameters()[0]
    assert (one.title, one.group, one.type, one.low, one.high, one.size) == ("Opening angle", "Glass", "number", 10.0, 120.0, 1)


def test_pitch_runs_from_ember_to_ice():
    pitches = [pitch_of(30, 60), pitch_of(100, 300), pitch_of(1000, 3000), pitch_of(8000, 16_000)]
    assert pitches == sorted(pitches) and pitches[0] >= 0.0 and pitches[-1] <= 1.0


def test_every_signal_has_a_name_and_a_plain_explanation():
    show = demo_show()
    rows = signals(show.bands, show.hits)
    assert [row.id for row in rows] == ["level", "band-low", "band-mid", "band-high", "hit-kick", "hit-snare", "hit-hat", "beat", "beat-phase", "bar-phase"]
    assert all(row.name and row.help.endswith(".") for row in rows)


def test_a_look_holds_at_most_sixteen_layers():
    layers = [Layer(id=f"l{n}", name="x", source=Part(id=f"s{n}", kind="ring"), mix=Part(id=f"m{n}", kind="over")) for n in range(17)]
    with pytest.raises(ValueError, match="at most 16"):
        Look(id="a", name="A", layers=layers)
