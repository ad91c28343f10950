"""How a layer lies on what is below it, and how one look goes over into another."""

from typing import ClassVar, Literal

from fulgura.core.kinds.parameters import Angle, Factor, LayerRef, Length, Ratio, param
from fulgura.core.kinds.registry import Kind


class Layering(Kind):
    """How a layer lies on what is below it."""

    family: ClassVar[str] = "layering"
    specialised: ClassVar[tuple[str, ...]] = (
        "opacity",
        "x",
        "y",
        "scale",
        "rotation",
        "anchor_x",
        "anchor_y",
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

    blend: Literal[*BLENDS] = param("normal", help="How it is mixed with what is below")  # type: ignore[valid-type]
    opacity: Ratio = param(1.0, help="How much of the layer shows")
    x: Length = param(0.0, -4.0, 4.0, "Move to the right", group="Place", title="Across")
    y: Length = param(0.0, -2.0, 2.0, "Move up", group="Place", title="Up")
    scale: Factor = param(1.0, 0.05, 8.0, "Size", group="Place")
    rotation: Angle = param(0.0, -180.0, 180.0, "Turn", group="Place", title="Turn")
    anchor_x: Length = param(
        0.0,
        -2.0,
        2.0,
        "The point about which it is sized and turned, to the right of its middle",
        group="Place",
        title="Anchor across",
    )
    anchor_y: Length = param(0.0, -1.0, 1.0, "That point, above its middle", group="Place", title="Anchor up")
    flip: Literal["no", "left and right", "top and bottom", "both"] = param(
        "no", help="Mirror image", group="Place"
    )
    wrap: Literal["nothing", "tiles", "mirror images"] = param(
        "nothing", help="What is seen outside the layer's own picture", group="Place", title="Beyond"
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


class LookCrossfade(Crossfade):
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
