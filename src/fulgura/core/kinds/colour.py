"""Colour after IEC 61966-2-1 (sRGB): documents hold sRGB, all arithmetic is in linear light."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import ArrayLike

from fulgura.core.arrays import Array


def to_linear(encoded: ArrayLike) -> Array:
    """sRGB-encoded values 0..1 to linear light (IEC 61966-2-1, 5.2)."""
    value = np.asarray(encoded, dtype=np.float64)
    return np.where(value <= 0.04045, value / 12.92, ((value + 0.055) / 1.055) ** 2.4)


def to_encoded(linear: ArrayLike) -> Array:
    """Linear light to sRGB-encoded values, clipped to 0..1 (IEC 61966-2-1, 5.3)."""
    value = np.clip(np.asarray(linear, dtype=np.float64), 0.0, 1.0)
    return np.where(value <= 0.0031308, value * 12.92, 1.055 * value ** (1 / 2.4) - 0.055)


def from_hex(colour: str) -> Array:
    """'#rrggbb' to linear red, green, blue, shape (3,); after IEC 61966-2-1.

    >>> from_hex("#ff8000").round(3).tolist()
    [1.0, 0.216, 0.0]
    """
    return to_linear([int(colour[i : i + 2], 16) / 255.0 for i in (1, 3, 5)])


def resolved(colour: str, palette: Sequence[str]) -> str:
    """The "#rrggbb" of a colour that may be @ and the number of one of a palette's, which are counted round
    and round where it has fewer.

    >>> resolved("@2", ["#000000", "#ffffff"]), resolved("@3", ["#000000", "#ffffff"])
    ('#ffffff', '#000000')
    """
    return palette[(int(colour[1:]) - 1) % len(palette)] if colour.startswith("@") else colour


def to_hex(linear: ArrayLike) -> str:
    """Linear red, green, blue to '#rrggbb'; after IEC 61966-2-1.

    >>> to_hex([1.0, 0.216, 0.0])
    '#ff8000'
    """
    return "#" + "".join(f"{round(float(part) * 255):02x}" for part in to_encoded(linear))


def luminance(linear: ArrayLike) -> Array:
    """Relative luminance of linear RGB in the last axis (WCAG 2.2, from the sRGB primaries).

    >>> float(luminance([1.0, 1.0, 1.0]).round(6))
    1.0
    """
    found: Array = np.asarray(linear) @ np.array([0.2126, 0.7152, 0.0722])
    return found
