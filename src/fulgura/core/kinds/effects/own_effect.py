"""An effect that the user writes."""

from typing import ClassVar

from fulgura.core.kinds.drawn import Effect
from fulgura.core.kinds.own_text import OwnText
from fulgura.core.kinds.parameters import Code, Number, param

FIRST_EFFECT = """// The picture that comes in is u_source.
uniform float amount;  // 0 .. 1 = 0.5  How far it is bent
void main() {
  vec2 at = v_uv + 0.05 * amount * sin(v_uv.yx * 20.0 + u_beats * 3.1416);
  o_colour = texture(u_source, at);
}
"""


class OwnEffect(OwnText, Effect):
    """An effect of your own: a GLSL ES fragment that reads u_source."""

    title = "Own effect"
    abstract: ClassVar[bool] = False

    code: Code = param(
        FIRST_EFFECT,
        help="uniform float name; // low .. high = first  What it does",
        group="Text",
        title="Fragment shader",
    )
    knob_1: Number = param(0.5, -1e6, 1e6, "A number of the shader", group="Shader")
