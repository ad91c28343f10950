from typing import Literal

from fulgura.core.kinds.drawn import Source
from fulgura.core.kinds.parameters import Colour, Factor, Number, PictureRef, param


class Picture(Source):
    """A picture of your own: a photograph, a drawing, a logo with a clear ground."""

    shader = "picture.frag"

    file: PictureRef = param(
        "", help="Which of the show's pictures; add one with the button", group="Picture", title="File"
    )
    fit: Literal["fill", "whole", "stretch"] = param(
        "whole",
        help="fill: cut where it is too long; whole: with room around it; stretch: out of shape",
        group="Picture",
    )
    zoom: Factor = param(1.0, 0.1, 8.0, "Size within its place", group="Picture")
    tint: Colour = param("#ffffff", help="Colour that it is lit with", group="Light")
    level: Number = param(1.0, 0.0, 4.0, "Brightness", group="Light")
