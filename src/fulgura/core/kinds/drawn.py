"""What makes pixels and what changes them. A new one is a class in sources/ or effects/, its shader
beside it.
"""

from collections.abc import Callable, Collection, Mapping
from dataclasses import dataclass
from typing import Any, ClassVar, Literal

from fulgura.core.kinds.providers import DataProvider
from fulgura.core.kinds.registry import Kind

Form = Literal["level", "wave", "cells", "rows", "ring"]
"""How a data block stands in a texture. level: bytes as 0..1, one a texel; wave: numbers, one a texel, as
16-bit floats; cells: 16-bit whole numbers, four a texel; rows: 32-bit floats, four a texel; ring: bytes that
are added as new lines to those of before (see ring.py). Levels, waves and rings are filtered, the others are
not.
"""


@dataclass(frozen=True)
class Own:
    """A data block that each part of a kind has for itself, made anew each tick; its shaders read it as
    u_own.
    """

    form: Form | Literal["number"]
    """number: no texture, but which picture of a clip is shown."""
    width: int
    provider: Callable[[int], DataProvider]
    """From a seed."""


@dataclass(frozen=True)
class Mesh:
    """Triangles that a vertex shader places, in as many copies as there are instances."""

    vertex: str
    vertices: int
    instances: int = 1
    each: bool = False
    """Whether every texel of its own data is an instance."""
    counted: str = ""
    """The number of its part that says how many instances there are, at most as many as its range allows."""
    blend: Literal["none", "add", "over"] = "add"
    depth: bool = False


@dataclass(frozen=True)
class Stage:
    """A pass before an effect's last one, drawn so many times smaller: what comes before it is u_source."""

    shader: str
    divide: int = 1


class Drawn(Kind):
    """What sources and effects have in common. Shaders read the picture of a layer that a parameter names as
    u_<parameter>; u_<parameter>_given says whether it names one.
    """

    abstract: ClassVar[bool] = True
    shader: ClassVar[str]
    data: ClassVar[tuple[str, ...]] = ()
    """Data blocks of the show that the shaders read, each as u_<block> (see data.py)."""
    specialised: ClassVar[tuple[str, ...]] = ()
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
    """(one of ``specialised``, a shader): while that number is not as at first, this is drawn after it, of
    what was drawn.
    """
    images: ClassVar[tuple[str, ...]] = ()
    """Fixed pictures that its shaders read, by their keys."""

    @classmethod
    def mesh_of(cls, values: dict[str, Any], moved: Collection[str]) -> Mesh | None:
        """The mesh of a part with these values. moved: parameters whose values are others at times."""
        return cls.mesh

    @classmethod
    def past_of(cls, values: dict[str, Any], moved: Collection[str]) -> Mapping[str, tuple[int, ...]]:
        """Pictures ago that a layer which a parameter names is read once more, as u_<parameter>_<so many>."""
        return {}


class Effect(Drawn):
    """What changes pixels. Its shader reads u_source."""

    family: ClassVar[str] = "effect"
    feedback: ClassVar[bool] = False
    """True when the shader also reads its own last picture as u_previous."""
    stages: ClassVar[tuple[Stage, ...]] = ()
    """Passes before the last one, which reads the last of these as u_stage."""
    past: ClassVar[tuple[int, ...]] = ()
    """Pictures ago that its shader reads what comes in once more, as u_past_<so many>."""
