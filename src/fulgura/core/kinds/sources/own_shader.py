"""A source that the user writes."""

from typing import ClassVar

from fulgura.core.kinds.drawn import Source
from fulgura.core.kinds.own_text import OwnText
from fulgura.core.kinds.parameters import Code, Colour, Number, param

FIRST = """// What comes of each pixel is yours. The comments make parameters.
uniform float waves;   // 1 .. 24 = 7  How many rings there are
uniform float speed;   // -2 .. 2 = 0.4  How fast they run
uniform vec3 light;    // #86c5ff  Their colour

void main() {
  vec2 p = place();
  float heard = texture(u_waveform, vec2(fract(atan(p.y, p.x) / 6.2832), 0.5)).r;
  float ring = sin(length(p) * waves * 3.0 - u_time * speed * 6.0 + heard * 6.0);
  float bright = smoothstep(0.6, 1.0, ring);
  o_colour = vec4(light * bright, bright);
}
"""


class OwnShader(OwnText, Source):
    """A picture of your own: a GLSL ES fragment."""

    title = "Own shader"
    abstract: ClassVar[bool] = False

    code: Code = param(
        FIRST,
        help="uniform float name; // low .. high = first  What it does",
        group="Text",
        title="Fragment shader",
    )
    knob_1: Number = param(7.0, -1e6, 1e6, "A number of the shader", group="Shader")
    knob_2: Number = param(0.4, -1e6, 1e6, "A number of the shader", group="Shader")
    colour_1: Colour = param("#86c5ff", help="A colour of the shader", group="Shader")
