"""The draw plan: everything an executor needs to draw, and nothing it would have to decide."""

from typing import Literal

from pydantic import BaseModel


class Target(BaseModel):
    """A picture in memory: 16-bit float, linear light, premultiplied alpha. history: keep the last one to read."""

    name: str
    history: bool = False


class PassInput(BaseModel):
    """A texture that a pass reads: a target (now or as it was last frame) or a data block."""

    uniform: str
    target: str | None = None
    previous: bool = False
    block: str | None = None


class Uniform(BaseModel):
    """Where in the frame's float block a uniform's values stand."""

    name: str
    offset: int
    size: Literal[1, 3]


class Pass(BaseModel):
    """One full-picture draw."""

    name: str
    fragment: str
    """Key into Plan.fragments."""
    inputs: list[PassInput]
    uniforms: list[Uniform]
    target: str
    """A target's name, or 'screen'."""
    blend: Literal["replace", "over"] = "replace"
    clear: bool = True


class Plan(BaseModel):
    """One look, compiled. The same plan and the same frames give the same picture in both executors."""

    id: int
    look: str
    vertex: str
    fragments: dict[str, str]
    targets: list[Target]
    passes: list[Pass]
    floats: int
    """Length of the frame's uniform block."""
    gather: list[int]
    """For each float of the uniform block, its index in the live parameter block."""
