"""When a picture flashes: WCAG 2.2, success criterion 2.3.1, and its definitions of general and red flash.

The figures are from memory of that text. A flash is a pair of opposing changes; more than three in any
second, over more than a quarter of any ten degrees of what is seen, can set off seizures.
"""

import numpy as np

from fulgura.core.arrays import Array

STEP = 0.1
"""Change of relative luminance that counts, of the greatest there is."""
DARKER_BELOW = 0.8
"""A change counts only where the darker of both is darker than this."""
RED_SHARE = 0.8
"""A colour is a saturated red from this share of red, of red, green and blue together, in linear light."""
RED_STEP = 0.2
"""Change of chromaticity to or from a saturated red that counts, in CIE 1976 u'v'."""
GLOW_STEP = 20 / 320
"""Change of how much more red than green and blue together a saturated red is, in linear light, that counts:
the working definition of WCAG 2.0 and 2.1, by which others judge still.
"""
MOST_FLASHES = 3
MOST_CHANGES = 2 * MOST_FLASHES
AREA = 0.25
"""Share of ten degrees of what is seen over which flashes count."""
FIELD = (341 / 1024, 256 / 768)
"""Ten degrees of what is seen, as shares of the picture's width and height."""
LUMINANCE = (0.2126, 0.7152, 0.0722)
"""Of linear red, green and blue: IEC 61966-2-1."""
DARK = 1e-4
"""What gives less light than this has no colour: it counts as white."""
WHITE = (0.19784, 0.46834)
"""u'v' of white, D65."""


def luminance(light: Array) -> Array:
    """Relative luminance, shape (...,), of linear light, shape (..., 3)."""
    found: Array = light @ np.array(LUMINANCE)
    return found


def chromaticity(light: Array) -> Array:
    """CIE 1976 u'v', shape (..., 2), of linear light by IEC 61966-2-1, shape (..., 3)."""
    red, green, blue = light[..., 0], light[..., 1], light[..., 2]
    x = 0.4124 * red + 0.3576 * green + 0.1805 * blue
    y = 0.2126 * red + 0.7152 * green + 0.0722 * blue
    z = 0.0193 * red + 0.1192 * green + 0.9505 * blue
    whole = x + 15.0 * y + 3.0 * z
    dark = whole < 15.0 * DARK
    whole = np.where(dark, 1.0, whole)
    return np.stack(
        [np.where(dark, WHITE[0], 4.0 * x / whole), np.where(dark, WHITE[1], 9.0 * y / whole)], axis=-1
    )


def saturated_red(light: Array) -> Array:
    """Whether linear light, shape (..., 3), is a saturated red."""
    whole = light.sum(axis=-1)
    found: Array = (whole > DARK) & (light[..., 0] >= RED_SHARE * whole)
    return found


def red_glow(light: Array) -> Array:
    """How much more red than anything else a saturated red is; nothing for other colours."""
    glow = np.maximum(light[..., 0] - light[..., 1] - light[..., 2], 0.0)
    return np.where(saturated_red(light), glow, 0.0)


def decoded(shown: Array) -> Array:
    """Linear light, 0..1, of sRGB bytes: IEC 61966-2-1."""
    return _DECODED[shown]


_STEPS = np.arange(256) / 255.0
_DECODED = np.where(_STEPS <= 0.04045, _STEPS / 12.92, ((_STEPS + 0.055) / 1.055) ** 2.4)
