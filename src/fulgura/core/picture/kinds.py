"""The families of picture kinds. A new kind is one class in sources/ or effects/, and one shader file."""

from importlib import import_module
from pathlib import Path
from pkgutil import iter_modules
from typing import ClassVar, Literal

from fulgura.core.parameters import Kind, Ratio, param

SHADERS = Path(__file__).parent / "shaders"


class Source(Kind):
    """What makes pixels. Its shader writes premultiplied linear light."""

    family: ClassVar[str] = "source"
    shader: ClassVar[str]
    data: ClassVar[tuple[Literal["waveform", "spectrum"], ...]] = ()
    """Data blocks that the shader reads, each as a texture one pixel high named u_<block>."""


class Effect(Kind):
    """What changes pixels. Its shader reads u_source."""

    family: ClassVar[str] = "effect"
    shader: ClassVar[str]
    feedback: ClassVar[bool] = False
    """True when the shader also reads its own last picture as u_previous."""


class Layering(Kind):
    """How a layer lies on what is below it."""

    family: ClassVar[str] = "layering"


class Over(Layering):
    """Lies over what is below, as paint does."""

    opacity: Ratio = param(1.0, help="How much of the layer shows")


def load() -> None:
    """Import every module that declares kinds, so that dropping a file in is all it takes."""
    for package in ("sources", "effects"):
        for module in iter_modules([str(Path(__file__).parent / package)]):
            import_module(f"fulgura.core.picture.{package}.{module.name}")


