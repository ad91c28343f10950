"""The compiled loops of a tick: live values to light, light to channels, and back to what is to be seen of
them.
"""

from typing import Any

import numpy as np
from numba import njit

from fulgura.core.arrays import Array
from fulgura.core.kinds.fixture import Form
from fulgura.core.lights.colour import mix, nearest

DIMMER, EMITTER, SPAN, STROBE, STEPS, FIXED, WHEEL, HELD, OWN = (int(form) for form in Form)
SAFE_FLASHES = 3.0
"""Flashes a second that are allowed without asking (WCAG 2.2, SC 2.3.1)."""


@njit(cache=True)
def begin(lamps: Array, live: Array, level: Array, colour: Array) -> None:
    """What hands and routes want: level (cells,) and colour (cells, 3), linear."""
    for lamp in lamps:
        own = live[lamp.level] if lamp.level >= 0 else 0.0
        for cell in range(lamp.cell, lamp.cell_end):
            level[cell] = own
            for c in range(3):
                colour[cell, c] = live[lamp.colour + c] if lamp.colour >= 0 else 1.0


@njit(cache=True)
def answered(curve: Array, value: float) -> float:
    """A value along a curve that is read at even places, straight between them."""
    last = curve.shape[0] - 1
    at = min(1.0, max(0.0, value)) * last
    left = min(last - 1, int(at))
    found: float = curve[left] + (curve[left + 1] - curve[left]) * (at - left)
    return found


@njit(cache=True)
def finish(
    lamps: Array,
    answers: Array,
    masters: Array,
    live: Array,
    grand: float,
    dark: bool,
    shining: Array,
    level: Array,
    colour: Array,
) -> int:
    """Curves, limits, masters, blackout, parking and identifying, in place; returns how many values were
    none.

    shining: (lamps,) those that are identified: white, whatever else is wanted. A parked lamp hears no
    master.
    """
    bad = 0
    for number in range(lamps.shape[0]):
        lamp = lamps[number]
        over = 0.0 if dark else grand
        for row in range(lamp.master, lamp.master_end):
            over *= live[masters[row]]
        for cell in range(lamp.cell, lamp.cell_end):
            value = level[cell]
            if not np.isfinite(value):
                value, bad = 0.0, bad + 1
            for row in range(lamp.answer, lamp.answer_end):
                value = answered(answers[row], value)
            value = min(lamp.most, max(lamp.least, min(1.0, max(0.0, value)))) * over
            if not np.isnan(lamp.parked):
                value = lamp.parked
            if not np.isnan(lamp.red):
                colour[cell, 0], colour[cell, 1], colour[cell, 2] = lamp.red, lamp.green, lamp.blue
            if shining[number]:
                value = 1.0
                colour[cell, :] = 1.0
            level[cell] = value
            for c in range(3):
                part = colour[cell, c]
                colour[cell, c] = min(1.0, max(0.0, part)) if np.isfinite(part) else 0.0
    return bad


@njit(cache=True)
def _flashes(channel: Any, live: Array, allowed: bool) -> float:
    """The byte of so many flashes a second; more than three need leave."""
    wanted = live[channel.index] if np.isnan(channel.parked) else channel.parked
    wanted = min(channel.most, max(channel.least, wanted)) if np.isfinite(wanted) else 0.0
    if not allowed:
        wanted = min(wanted, SAFE_FLASHES)
    if wanted < 0.5 * channel.low:
        return float(channel.open)
    share = min(1.0, max(0.0, (wanted - channel.low) / (channel.high - channel.low)))
    # Down, so that it never flashes faster than it may.
    return float(channel.first + np.floor(share * (channel.last - channel.first)))


@njit(cache=True)
def _share(channel: Any, live: Array) -> float:
    """A parameter as a share of what its channel goes over."""
    value = live[channel.index] if np.isnan(channel.parked) else channel.parked
    if not np.isfinite(value):
        return 0.0
    value = min(channel.most, max(channel.least, value))
    return float(min(1.0, max(0.0, (value - channel.low) / (channel.high - channel.low))))


@njit(cache=True)
def write(
    lamps: Array,
    channels: Array,
    emitters: Array,
    tables: Array,
    wheels: Array,
    wheel_bytes: Array,
    live: Array,
    flashes_allowed: bool,
    shining: Array,
    level: Array,
    colour: Array,
    out: Array,
) -> None:
    """Channel values into out (slots,), uint8. Two that want one channel: the highest takes precedence."""
    out[:] = 0
    amounts = np.zeros(16)
    mixed, peak = -1, 0.0
    for row in range(channels.shape[0]):
        channel = channels[row]
        lamp, cell, form = lamps[channel.lamp], channel.cell, channel.form
        share, byte = 0.0, -1.0
        if form == EMITTER:
            if mixed != cell:
                mix(lamp.form, emitters[lamp.emitter : lamp.emitter_end], colour[cell], amounts)
                mixed = cell
            share = amounts[channel.index]
            if channel.dimmed == 1.0:
                share *= level[cell]
            elif channel.dimmed == 2.0:
                share *= level[cell] / peak if peak > 0.0 else 0.0
        elif form == DIMMER:
            # One dimmer for many pixels: the brightest of them, and the others stay behind it.
            for each in range(lamp.cell, lamp.cell_end):
                share = max(share, level[each])
            peak = share
        elif form == SPAN:
            share = _share(channel, live)
        elif form == OWN:
            share = _share(channel, live) * (level[cell] if channel.dimmed == 1.0 else 1.0)
        elif form == HELD:
            share = _share(channel, live) if channel.held else 0.0
        elif form == STROBE:
            byte = channel.open if shining[channel.lamp] else _flashes(channel, live, flashes_allowed)
        elif form == STEPS:
            wanted = live[channel.index] if np.isnan(channel.parked) else channel.parked
            byte = tables[channel.table + int(wanted)]
        elif form == WHEEL:
            byte = wheel_bytes[lamp.wheel + nearest(wheels[lamp.wheel : lamp.wheel_end], colour[cell])]
        else:
            byte = channel.first
        if channel.at < 0:
            continue
        if channel.fine >= 0:
            number = int(np.rint(share * 65535.0))
            if number > (out[channel.at] << 8) + out[channel.fine]:
                out[channel.at], out[channel.fine] = number >> 8, number & 255
        else:
            out[channel.at] = max(out[channel.at], int(np.rint(share * 255.0)) if byte < 0.0 else int(byte))


@njit(cache=True)
def _number(out: Array, at: float, fine: float) -> float:
    """A channel, or two that are one, as a share of full."""
    if at < 0.0:
        return 0.0
    if fine >= 0.0:
        return float(((int(out[int(at)]) << 8) + int(out[int(fine)])) / 65535.0)
    return float(out[int(at)] / 255.0)


@njit(cache=True)
def see(
    lamps: Array,
    cells: Array,
    shown: Array,
    shown_of: Array,
    wheels: Array,
    wheel_bytes: Array,
    beams: Array,
    out: Array,
    light: Array,
    pose: Array,
) -> None:
    """How lamps shine by what is sent: light (cells, 4): linear red, green and blue, the strongest of which
    is 1, and intensity; pose (lamps, 4): degrees of pan, tilt and width, and flashes a second.
    """
    for number in range(cells.shape[0]):
        cell = cells[number]
        red = green = blue = 0.0
        for row in range(shown_of[number, 0], shown_of[number, 1]):
            amount = 1.0 if shown[row, 0] < 0.0 else out[int(shown[row, 0])] / 255.0
            red, green, blue = (
                red + amount * shown[row, 1],
                green + amount * shown[row, 2],
                blue + amount * shown[row, 3],
            )
        if cell.wheel >= 0:
            lamp = lamps[cell.lamp]
            slot = lamp.wheel
            for each in range(lamp.wheel, lamp.wheel_end):
                if wheel_bytes[each] <= out[cell.wheel]:
                    slot = each
            red, green, blue = wheels[slot, 0], wheels[slot, 1], wheels[slot, 2]
        strongest = max(red, green, blue)
        bright = _number(out, cell.dimmer, cell.dimmer_fine) if cell.dimmer >= 0 else 1.0
        light[number, 3] = min(1.0, strongest) * bright
        scale = 1.0 / strongest if strongest > 0.0 and light[number, 3] > 0.0 else 0.0
        light[number, 0], light[number, 1], light[number, 2] = red * scale, green * scale, blue * scale
    for number in range(beams.shape[0]):
        beam = beams[number]
        for k in range(3):
            at = 4 * k
            share = _number(out, beam[at], beam[at + 1])
            pose[number, k] = beam[at + 2] + share * (beam[at + 3] - beam[at + 2]) if beam[at] >= 0.0 else 0.0
        pose[number, 3] = 0.0
        if beam[12] >= 0.0:
            byte = out[int(beam[12])]
            if beam[13] <= byte <= beam[14]:
                share = (byte - beam[13]) / (beam[14] - beam[13])
                pose[number, 3] = beam[15] + share * (beam[16] - beam[15])
