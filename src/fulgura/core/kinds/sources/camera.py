from typing import Literal

from fulgura.core.kinds.drawn import Source
from fulgura.core.kinds.parameters import CameraRef, Colour, Factor, Number, param


class Camera(Source):
    """What a camera of the browser sees now. Until one is chosen, and where there is none, a moving test card
    stands in for it.
    """

    shader = "camera.frag"

    device: CameraRef = param(
        "", help="Which camera; every page that shows the picture asks for it", group="Camera", title="Camera"
    )
    fit: Literal["fill", "whole", "stretch"] = param(
        "fill",
        help="fill: cut where it is too long; whole: with room around it; stretch: out of shape",
        group="Camera",
    )
    mirrored: bool = param(False, help="As a mirror shows it", group="Camera")
    zoom: Factor = param(1.0, 0.1, 8.0, "Size within its place", group="Camera")
    tint: Colour = param("#ffffff", help="Colour that it is lit with", group="Light")
    level: Number = param(1.0, 0.0, 4.0, "Brightness", group="Light")
