"""The belief in tempo and beat phase, run forward step by step."""

from functools import lru_cache

import numpy as np
from numba import njit

from fulgura.core.arrays import Array
from fulgura.core.sound.beat.onset_curve import RATE

LOWEST_BPM, HIGHEST_BPM = 56.0, 215.0
USUAL_BPM, USUAL_SPREAD = 116.0, 0.5
"""Where tempi lie before anything was heard: log-normal, spread in natural log. Common practice: default 120.
"""
CHOSEN_SPREAD = 0.2
"""The same once the performer has halved or doubled the tempo."""
PULL = 2.5
"""How strongly each new beat leans toward the usual tempi: settles what the grid leaves open, half or double.
"""
CHANGE_RATE = 77.0
"""How unlikely tempo changes are between two beats (lambda of Krebs et al.)."""
CUT = 0.2
"""How much of the belief lets any tempo begin with a beat, as when a new record is cut in: so that only what
was heard in the next beats decides, and what compares tempi (hypotheses.py).
"""
EXPECTED = np.array([0.06, 0.06, 0.21, 0.4])
"""How likely an onset is off the grid, on a sixteenth, on an eighth, on the beat (tuned on synthesised
rhythms).
"""
SHARPNESS, USUAL_ONSET = 5.65, 0.06
"""How fast the evidence for an onset grows with the onset curve, and the height at which it says nothing."""
MIX = (1.0, 0.1)
"""Weights of the whole onset curve and of its low end."""
DRUM_WEIGHT = np.array([3.06, 2.59, 0.49])
"""How much a kick, a snare and a hat that the network is sure of speak for the places where they are
expected.
"""
DRUM_EXPECTED = np.array([[0.06, 0.04, 0.31, 0.9], [0.06, 0.19, 0.1, 0.69], [0.18, 0.3, 0.45, 0.66]])
"""How likely each of them is at each kind of place, as in EXPECTED."""
LEAK = 1e-4
"""How much of the belief is spread anew each step, so that a new record can win."""
SETTLE_EVERY = 4
"""Steps between two normalisations; a factor of at most 60 a step does no harm meanwhile."""


NEAR = 0.08
"""Tempi that differ by less than this share belong together."""


@lru_cache(16)
def state_space(centre_bpm: float = USUAL_BPM) -> tuple[Array, Array, Array, Array]:
    """Intervals in steps (n,), offset of each tempo's states (n + 1,), tempo transitions (n, n), prior (n,).

    centre_bpm: the tempo that is leaned toward; one that was chosen by hand is leaned toward more.
    """
    intervals = np.arange(round(60 * RATE / HIGHEST_BPM), round(60 * RATE / LOWEST_BPM) + 1)
    offsets = np.concatenate([[0], np.cumsum(intervals)])
    ratio = intervals[None, :] / intervals[:, None]
    change = np.exp(-CHANGE_RATE * np.abs(ratio - 1.0))
    distance = np.log(60 * RATE / intervals / centre_bpm) / (
        USUAL_SPREAD if centre_bpm == USUAL_BPM else CHOSEN_SPREAD
    )
    prior = np.exp(-0.5 * distance**2)
    pull = np.exp(-0.5 * PULL * distance**2)
    prior /= prior.sum()
    change = (1.0 - CUT) * change / change.sum(axis=1, keepdims=True) + CUT * prior
    return intervals, offsets, change * pull[None, :], prior


@lru_cache
def beat_grid() -> Array:
    """For every state, the place in the beat it stands for: an index into EXPECTED, shape (states,).

    A beat is heard one or two steps long; a finer metrical grid than the beat keeps a syncopated rhythm from
    passing for another tempo (4:3 errors).
    """
    all_kinds = []
    for n in state_space()[0]:
        step = np.arange(n)
        kinds = np.zeros(n, dtype=np.int64)
        for sixteenth, kind in ((0, 3), (1, 1), (2, 2), (3, 1)):
            away = np.abs((step - sixteenth * n / 4 + n / 2) % n - n / 2)
            kinds[away <= (1.5 if kind == 3 else 1.0)] = kind
        all_kinds.append(kinds)
    # Unsigned: an index that could be negative costs a question at every state.
    return np.concatenate(all_kinds).astype(np.uint8)


NO_DRUMS = np.zeros(3)


@njit(cache=True)
def weigh(onset: float, drums: Array, likely: Array) -> None:
    """How well what was heard fits each kind of place, into likely (4,)."""
    evidence = np.exp(SHARPNESS * (min(onset, 1.0) - USUAL_ONSET)) - 1.0
    for quarter in range(4):
        likely[quarter] = 1.0 + EXPECTED[quarter] * evidence
        for k in range(3):
            if drums[k] > 0.1:
                likely[quarter] *= 1.0 + DRUM_EXPECTED[k, quarter] * DRUM_WEIGHT[k] * drums[k]


@njit(cache=True, fastmath={"contract", "reassoc"})
def advance(belief: Array, offsets: Array, change: Array, grid: Array, likely: Array) -> None:
    """Move the belief one step on, in place, and weigh it with what was heard; it is not normalised.

    belief: (states,). likely: how well what was heard fits each kind of place, shape (4,).
    """
    count = offsets.shape[0] - 1
    arriving = np.empty(count)
    for i in range(count):
        arriving[i] = belief[offsets[i + 1] - 1]
    # Near-zero tempi add nothing that could be seen; leaving them out saves most of the work.
    entering = np.zeros(count)
    least = 1e-9 * arriving.max()
    for i in range(count):
        if arriving[i] > least:
            share, row = arriving[i], change[i]
            for j in range(count):
                entering[j] += share * row[j]
    for s in range(belief.shape[0] - 1, 0, -1):
        belief[s] = belief[s - 1] * likely[grid[s]]
    for j in range(count):
        belief[offsets[j]] = entering[j] * likely[grid[offsets[j]]]


@njit(cache=True, fastmath={"contract", "reassoc"})
def settle(belief: Array, offsets: Array, prior: Array, leak: float) -> None:
    """Make the belief sum to 1 again, and spread a little of it anew, so that a new record can win."""
    scale = (1.0 - leak) / belief.sum()
    for i in range(offsets.shape[0] - 1):
        part = belief[offsets[i] : offsets[i + 1]]
        spread = leak * prior[i] / part.shape[0]
        for k in range(part.shape[0]):
            part[k] = part[k] * scale + spread


@lru_cache
def circle_of() -> Array:
    """For every state, where its phase lies on the unit circle, shape (2, states)."""
    angles = np.concatenate([2.0 * np.pi * np.arange(n) / n for n in state_space()[0]])
    return np.stack([np.cos(angles), np.sin(angles)])


@njit(cache=True, fastmath={"contract", "reassoc"})
def read_belief(
    belief: Array, offsets: Array, circle: Array, near: float, wanted: float
) -> tuple[float, float, float, float]:
    """The strongest tempo and the phase there; or, with a wanted interval in steps, the phase at that tempo.

    Returns (interval in steps, phase 0..1, share of belief near that tempo, how sharp the phase is 0..1).
    """
    count = offsets.shape[0] - 1
    mass = np.zeros(count)
    for i in range(count):
        # By parts: what runs from 0 to a length is summed several states at a time.
        part, total = belief[offsets[i] : offsets[i + 1]], 0.0
        for k in range(part.shape[0]):
            total += part[k]
        mass[i] = total
    best, best_mass = 0, 0.0
    for i in range(count):
        around = mass[i]
        if i > 0:
            around += mass[i - 1]
        if i < count - 1:
            around += mass[i + 1]
        if around > best_mass:
            best, best_mass = i, around
    total = mass.sum()
    centre = wanted if wanted > 0.0 else float(offsets[best + 1] - offsets[best])
    share, interval, x, y = 0.0, 0.0, 0.0, 0.0
    for i in range(count):
        length = offsets[i + 1] - offsets[i]
        if abs(length / centre - 1.0) > near:
            continue
        share += mass[i]
        interval += mass[i] * length
        part = belief[offsets[i] : offsets[i + 1]]
        right, up = circle[0, offsets[i] : offsets[i + 1]], circle[1, offsets[i] : offsets[i + 1]]
        for k in range(part.shape[0]):
            x += part[k] * right[k]
            y += part[k] * up[k]
    phase = np.arctan2(y, x) / (2.0 * np.pi)
    share = max(share, 1e-300)
    return (
        wanted if wanted > 0.0 else interval / share,
        phase - np.floor(phase),
        share / total,
        np.sqrt(x * x + y * y) / share,
    )


def first_belief(centre_bpm: float = USUAL_BPM) -> Array:
    """The belief before anything was heard, shape (states,): every place in the beat is as likely."""
    intervals, _, _, prior = state_space(centre_bpm)
    return np.concatenate([np.full(n, p / n) for n, p in zip(intervals, prior)])


@njit(cache=True)
def lean(
    belief: Array, offsets: Array, circle: Array, interval: float, phase: float, strength: float
) -> None:
    """Move what is believed at tempi near an interval (in steps) toward a phase, or away when strength is
    below 0: the log of how much likelier it becomes there. How likely those tempi are together stays.
    """
    right, up = np.cos(2.0 * np.pi * phase), np.sin(2.0 * np.pi * phase)
    before, after, low, high = 0.0, 0.0, belief.shape[0], 0
    for i in range(offsets.shape[0] - 1):
        if abs((offsets[i + 1] - offsets[i]) / interval - 1.0) < NEAR:
            low, high = min(low, offsets[i]), offsets[i + 1]
            for s in range(offsets[i], offsets[i + 1]):
                before += belief[s]
                belief[s] *= np.exp(strength * (circle[0, s] * right + circle[1, s] * up))
                after += belief[s]
    if after > 0.0:
        belief[low:high] *= before / after
