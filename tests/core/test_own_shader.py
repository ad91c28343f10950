"""Own shaders: what their comments make of them, and what becomes of what is wrong."""

import pytest

from fulgura.core.kinds.own_shader import OwnShaderError, translate
from fulgura.core.performer import Performer
from fulgura.core.routing.router import Router
from fulgura.core.show.commands.layers import with_code
from fulgura.core.show.document import Show
from fulgura.core.show.edits import apply
from fulgura.core.show.looks import Layer, Look
from fulgura.core.show.part import Part
from fulgura.core.show.routes import Route
from fulgura.demo.show import demo_show
from fulgura.render.check import check

GOOD = """#version 300 es
precision highp float;
uniform vec2 u_size;
uniform float slow_turn;  // -2 .. 2 = 0.5  How fast it turns
uniform float depth, width; // 1 .. 9
uniform vec3 light;       // #FF8800  Its colour
uniform float bare;
out vec4 fragment;
void main() {
  fragment = vec4(light * slow_turn * depth * width * bare * texture(u_waveform, v_uv).r, 1.0);
}
"""


def test_comments_make_parameters():
    found = translate(GOOD)
    rows = [
        (
            parameter.name,
            parameter.title,
            parameter.type,
            parameter.low,
            parameter.high,
            parameter.default,
            parameter.help,
        )
        for parameter in found.parameters
    ]
    assert rows == [
        ("knob_1", "Slow turn", "number", -2.0, 2.0, 0.5, "How fast it turns"),
        ("knob_2", "Depth", "number", 1.0, 9.0, 1.0, ""),
        ("knob_3", "Width", "number", 1.0, 9.0, 1.0, ""),
        ("colour_1", "Light", "colour", None, None, "#ff8800", "Its colour"),
        ("knob_4", "Bare", "number", 0.0, 1.0, 0.5, ""),
    ]
    assert found.data == ("waveform",) and not found.beats and check(GOOD) == []


def test_lines_keep_their_numbers_through_all_that_is_taken_out():
    broken = GOOD.replace("* bare *", "* missing *")
    faults = check(broken)
    assert [fault["line"] for fault in faults] == [10] * len(faults) and "missing" in faults[0]["text"]


@pytest.mark.parametrize(
    ("code", "line", "words"),
    [
        ("void shade() {}", 0, "no main"),
        ("\nuniform mat4 m;\nvoid main() {}", 2, "cannot be a parameter"),
        ("uniform float a[4];\nvoid main() {}", 1, "cannot be a parameter"),
        ("uniform float a; // 3 .. 1\nvoid main() {}", 1, "no range"),
        ("uniform float a; // 0 .. 1 = 7\nvoid main() {}", 1, "no range"),
        ("".join(f"uniform float a{n};\n" for n in range(9)) + "void main() {}", 9, "more than 8 numbers"),
        ("".join(f"uniform vec3 a{n};\n" for n in range(4)) + "void main() {}", 4, "more than 3 colours"),
    ],
)
def test_what_is_wrong_is_said_at_its_line(code, line, words):
    with pytest.raises(OwnShaderError, match=words) as caught:
        translate(code)
    assert caught.value.line == line
    assert check(code) == [{"line": line, "text": str(caught.value)}]


@pytest.mark.parametrize(
    ("loop", "ends"),
    [
        ("for (int i = 0; i < 8; i++) x += 1.0;", True),
        ("for(float k=1.0;k<=N;k+=0.5){x+=k;}", True),
        ("for (int i = 9; i > 0; --i) { x += 1.0; }", True),
        ("for (;;) { x += 1.0; }", False),
        ("while (x < 3.0) x += 1.0;", False),
        ("do { x += 1.0; } while (x < 2.0);", False),
        ("for (int i = 0; i < int(x) + 9; i++) x += 1.0;", False),
        ("for (int i = 0; i < 8; i += 0 * i) x += 1.0;", False),
        ("// while nobody looks\n  x += 1.0;", True),
    ],
)
def test_a_loop_must_be_seen_to_end(loop, ends):
    code = f"#define N 4.0\nvoid main() {{\n  float x = v_uv.x;\n  {loop}\n  o_colour = vec4(x);\n}}"
    if ends:
        assert check(code) == []
    else:
        assert [(fault["line"], "fixed end" in fault["text"]) for fault in check(code)] == [(4, True)]


def test_a_shader_that_is_too_slow_is_named():
    slow = (
        "void main() { float s = 0.0; for (int i = 0; i < 300; i++) for (int k = 0; k < 300; k++) s +="
        " sin(float(i + k) * v_uv.x); o_colour = vec4(s); }"
    )
    assert "too slow" in check(slow)[0]["text"]


def own_show(**values) -> Show:
    layer = Layer(
        id="l",
        name="L",
        source=Part(id="mine", kind="own-shader", values=values),
        mix=Part(id="m", kind="over"),
    )
    return demo_show().model_copy(
        update={"looks": [Look(id="x", name="X", layers=[layer])], "look": "x", "routes": []}
    )


def test_its_parameters_can_be_moved_like_any_other():
    show = own_show(code=GOOD)
    router = Router()
    router.configure(show)
    assert {entry.target: entry.parameter.title for entry in router.indices if entry.part == "mine"} == {
        "mine.knob_1": "Slow turn",
        "mine.knob_2": "Depth",
        "mine.knob_3": "Width",
        "mine.colour_1": "Light",
        "mine.knob_4": "Bare",
    }
    moved = show.model_copy(
        update={"routes": [Route(id="r", signal="level", targets=["mine.knob_2"], low=1.0, high=9.0)]}
    )
    performer = Performer(moved)
    assert performer.router.faults() == {}
    mine = next(render_pass for render_pass in performer.plan.passes if render_pass.name == "mine")
    assert {u.name for u in mine.uniforms} == {
        "u_knob_1",
        "u_knob_2",
        "u_knob_3",
        "u_knob_4",
        "u_colour_1",
    } and [i.data for i in mine.inputs] == ["waveform"]


def test_a_new_text_keeps_what_has_the_same_name_and_begins_the_rest_anew():
    show = own_show(code=GOOD, knob_1=-1.5, knob_2=4.0, colour_1="#00ff00")
    text = (
        "uniform float depth; // 1 .. 3\nuniform float fresh; // 5 .. 9 = 6\nuniform vec3 light; //"
        " #ffffff\nvoid main() { o_colour = vec4(light * depth * fresh, 1.0); }"
    )
    after, undo = apply(show, with_code(show, "/looks/x/layers/l/source", text))
    values = after.looks[0].layers[0].source.values
    assert (values["knob_1"], values["knob_2"], values["colour_1"]) == (3.0, 6.0, "#00ff00"), (
        "depth stays, as far as its new range goes"
    )
    assert apply(after, undo)[0].looks[0].layers[0].source.values == show.looks[0].layers[0].source.values


def test_a_text_that_is_no_shader_draws_nothing_and_stops_nothing():
    performer = Performer(own_show(code="this is a poem"))
    assert [entry for entry in performer.router.indices if entry.part == "mine"] == []
    assert "mine" in [render_pass.name for render_pass in performer.plan.passes]
    performer.tick()
