"""What is seen: looks and their layers, pictures and clips, cues."""

import hashlib
from typing import Literal, Self

import orjson
from pydantic import Field, model_validator

from fulgura.core.show.part import AEffect, ALayering, ARamp, ASource, Id, Name, Part, Strict

MOST_LAYERS = 16
MOST_RAMPS = 64


class Layer(Strict):
    """A source, its effects, and how it lies on what is below."""

    id: Id
    name: Name
    visible: bool = True
    """Whether it is laid on the picture. One that is not can still be another's source or mask."""
    solo: bool = False
    inside: Id | Literal[""] = ""
    """The group that it belongs to: a layer of the same look whose source is a group."""
    source: ASource
    effects: list[AEffect] = []
    mix: ALayering

    def parts(self) -> list[Part]:
        return [self.source, *self.effects, self.mix]


class Look(Strict):
    """One complete picture: layers from back to front, and finishing effects."""

    id: Id
    name: Name
    layers: list[Layer] = Field([], max_length=MOST_LAYERS)
    finish: list[AEffect] = []

    def parts(self) -> list[Part]:
        return [part for layer in self.layers for part in layer.parts()] + self.finish

    def fingerprint(self, layer: str = "") -> str:
        """A name for what the look, or one layer of it, looks like: the same as long as its content is. A
        layer may read the others, so that they count too.
        """
        content = [self.model_dump(exclude={"name"}), layer]
        return hashlib.sha256(orjson.dumps(content)).hexdigest()[:24]

    @model_validator(mode="after")
    def _groups(self) -> Self:
        holders = {layer.id: layer.inside for layer in self.layers if layer.source.kind == "group"}
        for layer in self.layers:
            if layer.inside and layer.inside not in holders:
                raise ValueError(f"“{layer.name}” is in a group that is not there")
            above, group = {layer.id}, layer.inside
            while group:
                if group in above:
                    raise ValueError(f"“{layer.name}” would be a group inside itself")
                above.add(group)
                group = holders[group]
        return self


class NamedRamp(Strict):
    """Colours along a line, for whatever takes them."""

    id: Id
    name: Name
    part: ARamp


class Stored(Strict):
    """A picture that the show may use. key: what its file is called, by its content; width, height: its
    texels.
    """

    id: Id
    name: Name
    key: str = Field(pattern=r"^file-[0-9a-f]{24}$")
    width: int = Field(ge=1, le=4096)
    height: int = Field(ge=1, le=4096)


class StoredClip(Stored):
    """A film that the show may use. frames: how many pictures; rate: of them a second at its own speed."""

    key: str = Field(pattern=r"^clip-[0-9a-f]{24}$")
    frames: int = Field(ge=1, le=200_000)
    rate: float = Field(gt=0, le=120)
    track: str = Field("", max_length=120)
    """The library's track that its sound became; empty for a film without, or whose sound was left out."""
