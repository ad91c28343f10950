"""How bright each lamp of a chase is at one moment: no state, any moment can be asked for.

Time is counted in steps: one step from a lamp to the next in the order that the way makes of them.
"""

from math import cos, floor, pi

import numpy as np
from numba import njit

from fulgura.core.arrays import Array
from fulgura.core.kinds.compiled import random_at
from fulgura.core.kinds.lighting import SHAPES, WAYS

FILL, PULSE, RISE, FALL, WAVE, SPARKLE, RANDOM = range(len(SHAPES))
ALONG, BACK, THERE_AND_BACK, FROM_MIDDLE, MIRRORED = range(len(WAYS))
_EXACT = 1e-9
"""So much may a progress lack of a border for a rounding, and still have reached it."""


@njit(cache=True)
def turn_of(way: int, index: int, count: int) -> int:
    """In which step a lamp's turn comes, from 0."""
    if way == BACK:
        return count - 1 - index
    if way == FROM_MIDDLE:
        return int(abs(index - (count - 1) / 2.0))
    if way == MIRRORED:
        return min(index, count - 1 - index)
    return index


@njit(cache=True)
def second_turn_of(way: int, index: int, count: int) -> int:
    """Its other turn in a round, on the way back; -1 for none."""
    if way == THERE_AND_BACK and 0 < index < count - 1:
        return 2 * count - 2 - index
    return -1


@njit(cache=True)
def steps_of(shape: int, way: int, count: int) -> int:
    """How many steps a round has. Filling takes one more, in which all are dark; what is by chance goes
    through all.
    """
    if shape in (SPARKLE, RANDOM):
        return count
    steps = count
    if way in (FROM_MIDDLE, MIRRORED):
        steps = (count + 1) // 2
    elif way == THERE_AND_BACK:
        steps = 2 * count if shape == FILL else max(1, 2 * count - 2)
    return steps + 1 if shape == FILL and way != THERE_AND_BACK else steps


@njit(cache=True)
def _envelope(shape: int, since: float, width: float, fade_in: float, fade_out: float) -> float:
    """A lamp so many steps after its turn began."""
    if since < 0.0 or since >= width + fade_out:
        return 0.0
    inside = min(1.0, since / width)
    value = 1.0
    if shape == RISE:
        value = inside
    elif shape == FALL:
        value = 1.0 - inside
    elif shape == WAVE:
        return 0.5 - 0.5 * cos(2.0 * pi * inside)
    if since < fade_in:
        value *= since / fade_in
    if since >= width:
        value *= 1.0 - (since - width) / fade_out
    return value


@njit(cache=True)
def _repeated(
    shape: int, at: float, turn: int, steps: int, width: float, fade_in: float, fade_out: float
) -> float:
    """The brightest of this round's turn and of those before that still last."""
    value, since = 0.0, at - turn
    if since < 0.0:
        return 0.0
    since -= floor(since / steps) * steps
    gone = at - turn - since
    while since < width + fade_out:
        value = max(value, _envelope(shape, since, width, fade_in, fade_out))
        if gone <= 0.0:
            break
        since, gone = since + steps, gone - steps
    return value


@njit(cache=True)
def filled(way: int, index: int, count: int, progress: float, fade_in: float) -> float:
    """A lamp of a row that fills: progress 0 none is on, at 1 all are. There and back it is full in the
    middle.
    """
    if way == THERE_AND_BACK:
        progress = 1.0 - abs(2.0 * progress - 1.0)
        way = ALONG
    levels = (count + 1) // 2 if way in (FROM_MIDDLE, MIRRORED) else count
    reach = progress * levels - turn_of(way, index, count)
    if fade_in <= 0.0:
        return 1.0 if reach >= 1.0 - _EXACT else 0.0
    return min(1.0, max(0.0, (reach - 1.0 + fade_in) / fade_in))


@njit(cache=True)
def shuffled(seed: float, round: int, count: int) -> Array:
    """The order of one round by chance, shape (count,): each lamp once, and never the one first that was last
    before.

    Fisher-Yates with a row of numbers of its own for each round.
    """
    order = np.arange(count)
    for last in range(count - 1, 0, -1):
        other = int(random_at(seed, round * count + last) * (last + 1))
        order[last], order[other] = order[other], order[last]
    if round > 0 and count > 2:
        # The last of a round stands where it is put here: only the first two change places.
        before = shuffled_last(seed, round - 1, count)
        if order[0] == before:
            order[0], order[1] = order[1], order[0]
    return order


@njit(cache=True)
def shuffled_last(seed: float, round: int, count: int) -> int:
    """Who is last in a round."""
    order = np.arange(count)
    for last in range(count - 1, 0, -1):
        other = int(random_at(seed, round * count + last) * (last + 1))
        order[last], order[other] = order[other], order[last]
    return int(order[count - 1])


@njit(cache=True)
def _by_chance(at: float, width: float, fade_in: float, fade_out: float, seed: float, out: Array) -> None:
    """One lamp after the other by chance, each once a round."""
    count = out.shape[0]
    round = int(floor(at / count))
    for back in (0, 1):
        if round - back < 0:
            continue
        order = shuffled(seed, round - back, count)
        for turn in range(count):
            since = at - ((round - back) * count + turn)
            value = _envelope(PULSE, since, width, fade_in, fade_out)
            out[order[turn]] = max(out[order[turn]], value)


@njit(cache=True)
def _sparkle(at: float, width: float, fade_in: float, fade_out: float, seed: float, out: Array) -> None:
    """In each step so many lamps as the width says, on average."""
    count = out.shape[0]
    step = int(floor(at))
    for index in range(count):
        for back in range(min(step, int(fade_out) + 1) + 1):
            if random_at(seed, (step - back) * count + index) < width / count:
                value = _envelope(PULSE, at - (step - back), 1.0, fade_in, fade_out)
                out[index] = max(out[index], value)


@njit(cache=True)
def brightness(
    shape: int,
    way: int,
    by_value: bool,
    at: float,
    width: float,
    fade_in: float,
    fade_out: float,
    seed: float,
    out: Array,
) -> None:
    """How bright each lamp is, 0..1, into out, shape (lamps,), in the order of the group.

    at: steps since the start, below 0 before it; by_value: instead the progress, 0..1, at whose ends the
    first and the last lamp are in the middle of their turn (filling: none and all are on).
    """
    count = out.shape[0]
    out[:] = 0.0
    if count == 0 or at < 0.0:
        return
    steps = steps_of(shape, way, count)
    if shape == FILL:
        progress = at if by_value else _round_of_filling(at, way, count, steps)
        for index in range(count):
            out[index] = filled(way, index, count, progress, fade_in)
        return
    if by_value:
        at = at * (steps - 1)
    if shape == RANDOM:
        _by_chance(at, width, fade_in, fade_out, seed, out)
    elif shape == SPARKLE:
        _sparkle(at, width, fade_in, fade_out, seed, out)
    else:
        for index in range(count):
            turn, second = turn_of(way, index, count), second_turn_of(way, index, count)
            if by_value:
                since = at + 0.5 * width - turn + _EXACT
                out[index] = _envelope(shape, since, width, fade_in, fade_out)
                if second >= 0:
                    since = at + 0.5 * width - second + _EXACT
                    out[index] = max(out[index], _envelope(shape, since, width, fade_in, fade_out))
            else:
                out[index] = _repeated(shape, at, turn, steps, width, fade_in, fade_out)
                if second >= 0:
                    other = _repeated(shape, at, second, steps, width, fade_in, fade_out)
                    out[index] = max(out[index], other)


@njit(cache=True)
def _round_of_filling(at: float, way: int, count: int, steps: int) -> float:
    """The progress of a row that fills, so many steps after its start: dark for the first step, then one lamp
    more with each.
    """
    within = at - floor(at / steps) * steps
    if way == THERE_AND_BACK:
        return within / steps
    return within / (steps - 1)
