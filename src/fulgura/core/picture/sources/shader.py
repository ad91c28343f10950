from functools import lru_cache
from typing import Any, ClassVar

from fulgura.core.parameters import Code, Colour, Number, Parameter, param
from fulgura.core.picture.kinds import Drawn, Effect, Source
from fulgura.core.picture.own import OwnShaderError, Translated, translate

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
FIRST_EFFECT = """// The picture that comes in is u_source.
uniform float amount;  // 0 .. 1 = 0.5  How far it is bent
void main() {
  vec2 at = v_uv + 0.05 * amount * sin(v_uv.yx * 20.0 + u_beats * 3.1416);
  o_colour = texture(u_source, at);
}
"""


class Written(Drawn):
    """What own shaders have in common: the text, and numbers and colours that it names."""

    abstract: ClassVar[bool] = True
    shader = "copy.frag"

    knob_1: Number = param(0.0, -1e6, 1e6, "A number of the shader", group="Shader")
    knob_2: Number = param(0.0, -1e6, 1e6, "A number of the shader", group="Shader")
    knob_3: Number = param(0.0, -1e6, 1e6, "A number of the shader", group="Shader")
    knob_4: Number = param(0.0, -1e6, 1e6, "A number of the shader", group="Shader")
    knob_5: Number = param(0.0, -1e6, 1e6, "A number of the shader", group="Shader")
    knob_6: Number = param(0.0, -1e6, 1e6, "A number of the shader", group="Shader")
    knob_7: Number = param(0.0, -1e6, 1e6, "A number of the shader", group="Shader")
    knob_8: Number = param(0.0, -1e6, 1e6, "A number of the shader", group="Shader")
    colour_1: Colour = param("#ffffff", help="A colour of the shader", group="Shader")
    colour_2: Colour = param("#ffffff", help="A colour of the shader", group="Shader")
    colour_3: Colour = param("#ffffff", help="A colour of the shader", group="Shader")

    @classmethod
    def parameters_of(cls, values: dict[str, Any]) -> list[Parameter]:
        """The text, and what its own comments make parameters."""
        return _parameters_of(cls, values["code"])

    @classmethod
    def data_of(cls, values: dict[str, Any]) -> tuple[str, ...]:
        return _read(values["code"]).data

    @classmethod
    def own_text(cls, values: dict[str, Any]) -> str | None:
        return _read(values["code"]).text


class OwnShader(Written, Source):
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


class OwnEffect(Written, Effect):
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


@lru_cache(256)
def _parameters_of(kind: type[Written], code: str) -> list[Parameter]:
    return [one for one in kind.parameters() if one.type == "code"] + list(_read(code).parameters)


def _read(code: str) -> Translated:
    """A text that is no shader at all draws nothing, and has no parameters."""
    try:
        return translate(code)
    except OwnShaderError:
        return Translated("void main() { o_colour = vec4(0.0); }", (), (), False)
