"""A colour on the emitters that a lamp has: what each gives, and how near it comes."""

from typing import NamedTuple

import numpy as np
from numba import njit

from fulgura.core.arrays import Array
from fulgura.core.kinds.colour import from_hex, to_encoded
from fulgura.core.kinds.fixture import EMITTERS, Channel, Fixture, Form

NOTHING, ADDITIVE, TWO_WHITES, ON_WHEEL = range(4)
"""How a lamp makes a colour."""
NEAR = 0.12
"""Largest difference of one channel in sRGB, 0..1, at which a lamp still shows the colour (common practice).
"""


@njit(cache=True)
def mix(form: int, emitters: Array, colour: Array, out: Array) -> None:
    """How much of each emitter makes a colour: emitters (n, 3) and colour (3,) in linear light, out (n,),
    0..1.

    Additive: what is common to a mixed emitter's parts is given to it, in their order, and what is left to
    the single ones; so white takes the grey, amber the orange, and the sum is the colour itself. Two whites:
    the least squares of both that are not negative.
    """
    count = emitters.shape[0]
    out[:count] = 0.0
    if form == ADDITIVE:
        rest = colour.copy()
        for single in (False, True):
            for e in range(count):
                parts = 0
                share = 1.0
                for c in range(3):
                    if emitters[e, c] > 0.0:
                        parts += 1
                        share = min(share, max(0.0, rest[c]) / emitters[e, c])
                if (parts == 1) == single:
                    out[e] = share
                    for c in range(3):
                        rest[c] -= share * emitters[e, c]
    elif form == TWO_WHITES:
        a, b = emitters[0], emitters[1]
        aa, bb, ab = (a * a).sum(), (b * b).sum(), (a * b).sum()
        at, bt = (a * colour).sum(), (b * colour).sum()
        first, second = (at * bb - bt * ab) / (aa * bb - ab * ab), (bt * aa - at * ab) / (aa * bb - ab * ab)
        if first < 0.0:
            first, second = 0.0, bt / bb
        elif second < 0.0:
            first, second = at / aa, 0.0
        out[0], out[1] = min(1.0, max(0.0, first)), min(1.0, max(0.0, second))
    elif count:
        out[:count] = 1.0


@njit(cache=True)
def nearest(colours: Array, colour: Array) -> int:
    """Which of these, shape (n, 3), comes nearest to a colour, both as bright as they can be."""
    best, least = 0, np.inf
    strongest = max(colour[0], colour[1], colour[2], 1e-9)
    for i in range(colours.shape[0]):
        far = 0.0
        own = max(colours[i, 0], colours[i, 1], colours[i, 2], 1e-9)
        for c in range(3):
            far += (colours[i, c] / own - colour[c] / strongest) ** 2
        if far < least:
            best, least = i, far
    return best


class Reached(NamedTuple):
    """What a lamp makes of a colour: shown, and whether it is near enough."""

    shown: str
    near: bool


def emitter_colours(kind: type[Fixture]) -> Array:
    """Its emitters' light, shape (n, 3), linear."""
    return np.array([EMITTERS[name] for name in kind.emitters]).reshape(-1, 3)


def mix_form(kind: type[Fixture]) -> int:
    """How lamps of a kind make a colour."""
    if wheel_channels(kind):
        return ON_WHEEL
    if not any(parameter.name == "colour" for parameter in kind.parameters()):
        return NOTHING
    return TWO_WHITES if set(kind.emitters) == {"warm", "cold"} else ADDITIVE


def wheel_channels(kind: type[Fixture]) -> list[Channel]:
    """Channels of its usual mode that hold a colour wheel."""
    return [channel for channel in kind.mode("").head if channel.form == Form.WHEEL]


def reached(kind: type[Fixture], colour: str) -> Reached:
    """What lamps of a kind make of a colour, as bright as they can; the colour is "#rrggbb".

    >>> from fulgura.core.kinds.registry import load
    >>> load()
    >>> [reached(Fixture.kinds[kind], "#0000ff").near for kind in ("rgbw-lamp", "two-white-lamp")]
    [True, False]
    """
    wanted, form = from_hex(colour), mix_form(kind)
    if form == ON_WHEEL:
        slots = np.array([from_hex(hex) for _, hex in wheel_channels(kind)[0].wheel])
        shown = slots[nearest(slots, wanted)]
    else:
        emitters = emitter_colours(kind)
        amounts = np.zeros(len(emitters))
        mix(form, emitters, wanted, amounts)
        shown = amounts @ emitters if len(emitters) else np.zeros(3)
    a, b = (to_encoded(light / max(float(light.max()), 1e-9)) for light in (shown, wanted))
    text = "#" + "".join(f"{round(float(part) * 255):02x}" for part in a)
    return Reached(text, bool(wanted.max() == 0.0 or np.abs(a - b).max() <= NEAR))
