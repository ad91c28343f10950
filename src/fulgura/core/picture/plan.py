"""The draw plan: everything an executor needs to draw, and nothing it would have to decide."""

from collections.abc import Mapping
from math import floor
from typing import Any, Literal
from zlib import crc32

from pydantic import BaseModel

from fulgura.core.kinds.drawn import Form
from fulgura.core.wire import BlockId


class Target(BaseModel):
    """A picture in memory: 16-bit float, linear light, premultiplied alpha.

    history: how many of its last pictures are kept to read; depth: what is nearer hides what is farther;
    size: its width and height in pixels, where that does not follow from the picture's; exact: 32-bit float,
    read without looking between texels.
    """

    name: str
    divide: int = 1
    """How many times smaller it is than the picture, each way."""
    history: int = 0
    depth: bool = False
    size: tuple[int, int] | None = None
    exact: bool = False
    of: Literal["picture", "screen"] = "picture"
    """Whether its size is that of the picture, or that of the screen, which may show a piece of it."""
    lasting: bool = False
    """Whether it stays as it is when feedback is cleared."""

    def pixels(self, screen: tuple[int, int], scale: tuple[float, float]) -> tuple[int, int]:
        """Its width and height. scale: see Plan."""
        if self.size is not None:
            return self.size
        factors = scale if self.of == "picture" else (1.0, 1.0)
        width, height = (floor(side * factor / self.divide + 1e-6) for side, factor in zip(screen, factors))
        return max(1, width), max(1, height)


class Data(BaseModel):
    """A block of the frame as a texture: so many texels a line, and as many lines as the block fills."""

    name: str
    block: int
    form: Form
    width: int


class Image(BaseModel):
    """A fixed picture. key: by which Python makes it, the same bytes every time (see images.py), or what a
    browser calls its camera.
    """

    name: str
    key: str
    width: int
    height: int
    form: Literal["level", "colour", "camera"]
    """level: one byte a texel, 0..1; colour: four, sRGB, premultiplied; camera: what a camera of the browser
    sees now. Where there is none, and in Python, it has a single clear texel.
    """


class ClipBinding(BaseModel):
    """Pictures that follow each other: four bytes a texel, sRGB, premultiplied. Which one is shown, its block
    of the frame says.

    name: of the part that shows it; key: what its file is called, by its content.
    """

    name: str
    key: str
    width: int
    height: int
    frames: int
    block: int


class PassInput(BaseModel):
    """A texture that a pass reads: a target (as it is, or so many drawn pictures ago), a data block, a fixed
    picture or a clip's.
    """

    uniform: str
    target: str | None = None
    history_offset: int = 0
    data: str | None = None
    image: str | None = None
    clip: str | None = None


class Uniform(BaseModel):
    """Where in the frame's float block a uniform's values stand."""

    name: str
    offset: int
    size: Literal[1, 3]


class Pass(BaseModel):
    """One draw: of a triangle that covers the picture, or of a mesh that the vertex shader places by its
    numbers alone.
    """

    name: str
    vertex: str = "quad.vert"
    fragment: str
    """The shaders' files, for people."""
    vertex_text: str = ""
    fragment_text: str = ""
    """Keys into Plan.texts."""
    inputs: list[PassInput]
    uniforms: list[Uniform]
    target: str
    """A target's name, or 'screen'."""
    vertices: int = 3
    instances: int = 1
    each: str = ""
    """Name of the data block of which every texel is an instance, when that says how many there are."""
    blend: Literal["none", "add", "over"] = "none"
    """How it is laid on what the target holds: add: light adds up; over: by alpha."""
    clear: bool = False
    """Whether the target is emptied first."""
    depth: bool = False
    thinned: bool = False
    """Whether fewer instances may be drawn where a machine cannot draw all in time."""


class Plan(BaseModel):
    """One look, compiled. The same plan and the same frames give the same picture in both executors."""

    id: int
    look: str
    texts: dict[str, str]
    """Shaders: GLSL ES 3.00."""
    targets: list[Target]
    data: list[Data]
    images: list[Image]
    clips: list[ClipBinding] = []
    passes: list[Pass]
    floats: int
    """Length of the frame's uniform block."""
    gather: list[int]
    """For each float of the uniform block, its index in the live parameter block."""
    delayed_inputs: list[str]
    """Addresses of what takes another layer's picture one frame late, because that is drawn after it, or from
    it.
    """
    uniforms: int = BlockId.UNIFORMS
    """The block that the uniforms stand in."""
    standing: int = BlockId.PICTURE
    """The block that says whether the picture stands still, and how often feedback was cleared."""
    number: int = 0
    """Which of the pictures that are drawn at once it is of: 0 for what plays."""
    drawn: int = 0
    """The id by which frames name it, where that is not its own."""
    end: str = ""
    """The target that holds the finished picture, in linear light."""
    tally: str = ""
    """The target in which the guard says what changed, and what it holds back; see guard_gates.frag."""
    scale: tuple[float, float] = (1.0, 1.0)
    """How many times the screen's width and height the picture has."""
    clear_ground: bool = False
    """Whether what is behind it shines through where nothing is drawn."""

    @property
    def frames_id(self) -> int:
        """The id by which frames name it."""
        return self.drawn or self.id

    @property
    def remembers(self) -> bool:
        """Whether a picture depends on those drawn before it."""
        return any(target.history for target in self.targets) or any(
            each.form == "ring" for each in self.data
        )

    @property
    def fragments(self) -> set[str]:
        """The fragment shaders' files."""
        return {render_pass.fragment for render_pass in self.passes}


class End(BaseModel):
    """What follows a picture on an output: its passes in place of the one that shows the picture as it is.

    picture: its number among those that are drawn at once; source: how the end's passes call the picture.
    """

    output: str
    picture: int
    texts: dict[str, str]
    targets: list[Target]
    data: list[Data]
    passes: list[Pass]
    standing: int
    scale: tuple[float, float]
    clear_ground: bool

    def after(self, plan: Plan) -> Plan:
        """The plan of the output: the picture's, and this end."""
        passes = [
            each.model_copy(update={"inputs": [_joined(i, plan.end) for i in each.inputs]})
            for each in self.passes
        ]
        joined = plan.model_copy(
            update={
                "texts": plan.texts | self.texts,
                "targets": plan.targets + self.targets,
                "data": plan.data + self.data,
                "passes": plan.passes[:-1] + passes,
                "standing": self.standing,
                "scale": self.scale,
                "clear_ground": self.clear_ground,
                "drawn": plan.frames_id,
            }
        )
        return joined.model_copy(update={"id": crc32(f"{plan.id} {self.model_dump_json()}".encode())})


def plan_of(published: Mapping[str, Any], output: str) -> Plan | None:
    """The plan of an output by its id, of what the engine published; None where it knows of none."""
    found = next((end for end in published.get("ends", []) if end["output"] == output), None)
    if found is None:
        return None
    end = End.model_validate(found)
    return end.after(Plan.model_validate([published["plan"], *published["pictures"]][end.picture]))


PICTURE = "picture"
"""How an end calls the picture that it follows."""


def _joined(read: PassInput, end: str) -> PassInput:
    return read.model_copy(update={"target": end}) if read.target == PICTURE else read
