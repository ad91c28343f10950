"""The draw plan: everything an executor needs to draw, and nothing it would have to decide."""

from typing import Literal

from pydantic import BaseModel

from fulgura.core.kinds.drawn import Form


class Target(BaseModel):
    """A picture in memory: 16-bit float, linear light, premultiplied alpha.

    history: how many of its last pictures are kept to read; depth: what is nearer hides what is farther.
    """

    name: str
    divide: int = 1
    """How many times smaller it is than the picture, each way."""
    history: int = 0
    depth: bool = False


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

    @property
    def fragments(self) -> set[str]:
        """The fragment shaders' files."""
        return {render_pass.fragment for render_pass in self.passes}
