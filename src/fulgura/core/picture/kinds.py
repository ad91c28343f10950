"""The families of picture kinds. A new kind is one class in sources/ or effects/, and one shader file."""

from collections.abc import Callable
from dataclasses import dataclass
from importlib import import_module
from pathlib import Path
from pkgutil import iter_modules
from typing import Any, ClassVar, Literal

from fulgura.core.parameters import Angle, Factor, Kind, LayerRef, Length, Ratio, param
from fulgura.core.picture.makers import Maker
from fulgura.core.picture.plan import Form

SHADERS = Path(__file__).parent / "shaders"


@dataclass(frozen=True)
class Own:
    """A data block that each part of a kind has for itself, made anew each tick; its shaders read it as
    u_own.
    """

    form: Form | Literal["number"]
    """number: no texture, but which picture of a clip is shown."""
    width: int
    maker: Callable[[int], Maker]
    """From a seed."""


@dataclass(frozen=True)
class Mesh:
    """Triangles that a vertex shader places, in as many copies as there are instances."""

    vertex: str
    vertices: int
    instances: int = 1
    each: bool = False
    """Whether every texel of its own data is an instance."""
    blend: Literal["none", "add", "over"] = "add"
    depth: bool = False


@dataclass(frozen=True)
class Stage:
    """A pass before an effect's last one, drawn so many times smaller: what comes before it is u_source."""

    shader: str
    divide: int = 1


class Drawn(Kind):
    """What sources and effects have in common. Shaders read the picture of a layer that a parameter names as
    u_<parameter>.
    """

    abstract: ClassVar[bool] = True
    shader: ClassVar[str]
    data: ClassVar[tuple[str, ...]] = ()
    """Data blocks of the show that the shaders read, each as u_<block> (see data.py)."""
    folds: ClassVar[tuple[str, ...]] = ()
    """Numbers that cost something unless they are as at first: while they are, and nothing moves them, the
    shader is made without them.
    """
    counts: ClassVar[tuple[str, ...]] = ()
    """Whole numbers that a shader's loop runs to: while nothing moves them, the shader is made for exactly so
    many.
    """

    @classmethod
    def data_of(cls, values: dict[str, Any]) -> tuple[str, ...]:
        """The data blocks that a part with these values reads."""
        return cls.data

    @classmethod
    def own_text(cls, values: dict[str, Any]) -> str | None:
        """A fragment shader that stands in the values themselves, without the prelude; none for most."""
        return None


class Source(Drawn):
    """What makes pixels. Its shader writes premultiplied linear light."""

    family: ClassVar[str] = "source"
    own: ClassVar[Own | None] = None
    mesh: ClassVar[Mesh | None] = None
    trails: ClassVar[bool] = False
    """Whether its last picture stays below the new one, by its parameter ``trail``."""
    after: ClassVar[tuple[str, str] | None] = None
    """(one of ``folds``, a shader): while that number is not as at first, this is drawn after it, of what was
    drawn.
    """
    images: ClassVar[tuple[str, ...]] = ()
    """Fixed pictures that its shaders read, by their keys."""


class Effect(Drawn):
    """What changes pixels. Its shader reads u_source."""

    family: ClassVar[str] = "effect"
    feedback: ClassVar[bool] = False
    """True when the shader also reads its own last picture as u_previous."""
    stages: ClassVar[tuple[Stage, ...]] = ()
    """Passes before the last one, which reads the last of these as u_stage."""
    past: ClassVar[tuple[int, ...]] = ()
    """Pictures ago that its shader reads what comes in once more, as u_past_<so many>."""


class Layering(Kind):
    """How a layer lies on what is below it."""

    family: ClassVar[str] = "layering"
    folds: ClassVar[tuple[str, ...]] = (
        "opacity",
        "across",
        "up",
        "scale",
        "turn",
        "anchor_across",
        "anchor_up",
        "left",
        "right",
        "top",
        "bottom",
    )


BLENDS = (
    "normal",
    "add",
    "soft add",
    "screen",
    "multiply",
    "overlay",
    "soft light",
    "hard light",
    "lighten",
    "darken",
    "difference",
    "exclusion",
    "colour dodge",
    "colour burn",
)
"""Adding is of light; from screen on they are the separable modes of W3C Compositing and Blending Level 1."""


class Over(Layering):
    """How the layer lies on what is below it: blend, opacity, and its place."""

    title = "Layer"

    blend: Literal[*BLENDS] = param("normal", help="How it is mixed with what is below")
    opacity: Ratio = param(1.0, help="How much of the layer shows")
    across: Length = param(0.0, -4.0, 4.0, "Move to the right", group="Place")
    up: Length = param(0.0, -2.0, 2.0, "Move up", group="Place")
    scale: Factor = param(1.0, 0.05, 8.0, "Size", group="Place")
    turn: Angle = param(0.0, -180.0, 180.0, "Turn", group="Place")
    anchor_across: Length = param(
        0.0,
        -2.0,
        2.0,
        "The point about which it is sized and turned, to the right of its middle",
        group="Place",
        title="Anchor across",
    )
    anchor_up: Length = param(
        0.0, -1.0, 1.0, "That point, above its middle", group="Place", title="Anchor up"
    )
    flip: Literal["no", "left and right", "top and bottom", "both"] = param(
        "no", help="Mirror image", group="Place"
    )
    beyond: Literal["nothing", "tiles", "mirror images"] = param(
        "nothing", help="What is seen outside the layer's own picture", group="Place"
    )
    left: Ratio = param(0.0, 0.0, 1.0, "Share that is cut off", group="Crop")
    right: Ratio = param(0.0, 0.0, 1.0, "Share that is cut off", group="Crop")
    top: Ratio = param(0.0, 0.0, 1.0, "Share that is cut off", group="Crop")
    bottom: Ratio = param(0.0, 0.0, 1.0, "Share that is cut off", group="Crop")
    mask: LayerRef = param("", help="The layer whose picture says where this one shows", group="Mask")
    masked_by: Literal["brightness", "alpha"] = param(
        "brightness", help="Which of its sides counts", group="Mask", title="By"
    )
    inverted: bool = param(False, help="Shows where the mask does not", group="Mask")


class Crossfade(Kind):
    """How one look goes over into another."""

    family: ClassVar[str] = "crossfade"


class Crossing(Crossfade):
    """How one look goes over into another."""

    title = "Crossfade"

    share: Ratio = param(0.0, help="0 is the look that is shown, 1 the one beside it")
    how: Literal["fade", "both at once", "wipe", "bright last"] = param(
        "fade",
        help=(
            "Fade: light mixes; both at once: in the middle both are there; wipe: from left to right; bright"
            " last: dark parts go first"
        ),
    )


def load() -> None:
    """Import every module that declares kinds, so that dropping a file in is all it takes."""
    for package in ("sources", "effects"):
        for module in iter_modules([str(Path(__file__).parent / package)]):
            import_module(f"fulgura.core.picture.{package}.{module.name}")
