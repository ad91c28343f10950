"""What own shaders have in common: the text, and what its comments make parameters."""

from functools import lru_cache
from typing import Any, ClassVar

from fulgura.core.kinds.drawn import Drawn
from fulgura.core.kinds.own_shader import OwnShaderError, Translated, translate
from fulgura.core.kinds.parameters import Colour, Number, Parameter, param


class OwnText(Drawn):
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


@lru_cache(256)
def _parameters_of(kind: type[OwnText], code: str) -> list[Parameter]:
    return [parameter for parameter in kind.parameters() if parameter.type == "code"] + list(
        _read(code).parameters
    )


def _read(code: str) -> Translated:
    """A text that is no shader at all draws nothing, and has no parameters."""
    try:
        return translate(code)
    except OwnShaderError:
        return Translated("void main() { o_colour = vec4(0.0); }", (), (), False)
