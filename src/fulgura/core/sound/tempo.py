"""Tempo and beat, causally: a hidden Markov model over tempo and beat phase, run forward only.

State space and transitions after F. Krebs, S. Böck, G. Widmer, "An efficient state-space model for joint tempo
and meter tracking", ISMIR 2015; observations after N. Whiteley, A. T. Cemgil, S. Godsill, "Bayesian modelling of
temporal structure in musical audio", ISMIR 2006, fed by a log-compressed spectral flux instead of a trained
network. A phase-locked clock rides on the filter, so that beats are announced before they sound.
"""

from dataclasses import dataclass, field
from functools import lru_cache
from math import exp

import numpy as np
from numba import njit
from numpy.typing import NDArray
from scipy.fft import rfft, rfftfreq

from fulgura.core import SAMPLE_RATE
from fulgura.core.sound.spectrum import hann

HOP = 512
"""Samples between two steps of the beat filter (10.7 ms)."""
RATE = SAMPLE_RATE / HOP
WINDOW = 1024
LOWEST_BPM, HIGHEST_BPM = 56.0, 215.0
USUAL_BPM, USUAL_SPREAD = 125.0, 0.55
"""Where tempi lie before anything was heard: log-normal, spread in natural log. Common practice: default 120."""
PULL = 3.0
"""How strongly each new beat leans toward the usual tempi: settles what the grid leaves open, half or double."""
CHANGE_RATE = 90.0
"""How unlikely tempo changes are between two beats (lambda of Krebs et al.)."""
EXPECTED = np.array([0.03, 0.12, 0.4, 0.8])
"""How likely an onset is off the grid, on a sixteenth, on an eighth, on the beat (tuned on synthesised rhythms)."""
SHARPNESS, USUAL_ONSET = 5.0, 0.06
"""How fast the evidence for an onset grows with the onset curve, and the height at which it says nothing."""
MIX = (1.0, 0.1)
"""Weights of the whole onset curve and of its low end."""
LEAK = 1e-4
"""How much of the belief is spread anew each step, so that a new record can win."""
SETTLE_EVERY = 4
"""Steps between two normalisations; a factor of at most 60 a step does no harm meanwhile."""
HORIZON_S = 0.06
"""How long before a beat sounds it is announced."""
FLUX_LATENESS_S = 0.012
"""From an onset to the middle of the step whose flux it raises most: measured on clicks, see the tests."""


@lru_cache
def flux_bands() -> NDArray:
    """Weights (24, 513) that gather the transform's bins into log-spaced bands from 30 Hz to 12 kHz."""
    edges = np.geomspace(30.0, 12_000.0, 26)
    hz = rfftfreq(WINDOW, 1.0 / SAMPLE_RATE)
    rows = []
    for low, centre, high in zip(edges, edges[1:], edges[2:]):
        rows.append(np.clip(np.minimum((hz - low) / (centre - low), (high - hz) / (high - centre)), 0.0, None))
        if rows[-1].sum() == 0.0:
            rows[-1][np.argmin(np.abs(hz - centre))] = 1.0
    weights = np.array(rows)
    return weights / weights.sum(axis=1, keepdims=True)


@lru_cache
def _window() -> NDArray:
    return hann(WINDOW)


_LOW_WEIGHT = np.linspace(1.7, 0.5, 24)


@dataclass
class Flux:
    """State of the onset curve: last band levels, and the loudest lately (sets the compression)."""

    bands: NDArray = field(default_factory=lambda: np.zeros((2, 24)))
    loudest: float = 1e-4
    height: float = 1e-3


def flux(state: Flux, samples: NDArray) -> tuple[float, float]:
    """One step's onset strength from the last 1024 samples: (whole, low end), each about 0..1.

    Compression follows the recent loudest band, so that the curve does not depend on the level.
    """
    weights, first, last = _sparse_bands()
    state.loudest *= _FORGET_LOUDEST
    whole, low, state.loudest = _rise(rfft(samples * _window()), weights, first, last, state.bands, state.loudest, _LOW_WEIGHT)
    state.height = max(whole, state.height * _FORGET_HEIGHT, 4.0)
    return whole / state.height, low / state.height


_FORGET_LOUDEST, _FORGET_HEIGHT = exp(-1.0 / (8.0 * RATE)), exp(-1.0 / (6.0 * RATE))


@lru_cache
def _sparse_bands() -> tuple[NDArray, NDArray, NDArray]:
    """The weights with the first and one past the last bin of each band: most of the matrix is zero."""
    weights = flux_bands()
    first = (weights > 0.0).argmax(axis=1)
    return weights, first, weights.shape[1] - (weights[:, ::-1] > 0.0).argmax(axis=1)


@njit(cache=True)
def _rise(spectrum: NDArray, weights: NDArray, first: NDArray, last: NDArray, before: NDArray, loudest: float, low_weight: NDArray) -> tuple[float, float, float]:
    """Band levels, compressed, less those of two steps ago, summed over the bands that rose.

    Compiled: as array operations these few hundred numbers cost more in calls than in arithmetic.
    """
    levels = np.empty(weights.shape[0])
    for band in range(levels.shape[0]):
        total = 0.0
        for k in range(first[band], last[band]):
            total += weights[band, k] * abs(spectrum[k])
        levels[band] = total
        loudest = max(loudest, total)
    loudest = max(loudest, 1e-3)
    whole, low = 0.0, 0.0
    for band in range(levels.shape[0]):
        compressed = np.log1p(levels[band] * (200.0 / loudest))
        rise = max(0.0, compressed - before[0, band]) * low_weight[band]
        before[0, band], before[1, band] = before[1, band], compressed
        whole += rise
        if band < 8:
            low += rise
    return whole, low, loudest


@lru_cache
def _space() -> tuple[NDArray, NDArray, NDArray, NDArray]:
    """Intervals in steps (n,), offset of each tempo's states (n + 1,), tempo transitions (n, n), prior (n,)."""
    intervals = np.arange(round(60 * RATE / HIGHEST_BPM), round(60 * RATE / LOWEST_BPM) + 1)
    offsets = np.concatenate([[0], np.cumsum(intervals)])
    ratio = intervals[None, :] / intervals[:, None]
    change = np.exp(-CHANGE_RATE * np.abs(ratio - 1.0))
    distance = np.log(60 * RATE / intervals / USUAL_BPM) / USUAL_SPREAD
    prior = np.exp(-0.5 * distance ** 2)
    pull = np.exp(-0.5 * PULL * distance ** 2)
    return intervals, offsets, change / change.sum(axis=1, keepdims=True) * pull[None, :], prior / prior.sum()


@lru_cache
def _grid() -> NDArray:
    """For every state, the place in the beat it stands for: an index into EXPECTED, shape (states,).

    A beat is heard one or two steps long; a finer metrical grid than the beat keeps a syncopated rhythm from
    passing for another tempo (4:3 errors).
    """
    places = []
    for n in _space()[0]:
        step = np.arange(n)
        place = np.zeros(n, dtype=np.int64)
        for sixteenth, kind in ((0, 3), (1, 1), (2, 2), (3, 1)):
            away = np.abs((step - sixteenth * n / 4 + n / 2) % n - n / 2)
            place[away <= (1.5 if kind == 3 else 1.0)] = kind
        places.append(place)
    return np.concatenate(places)


@njit(cache=True)
def _advance(belief: NDArray, offsets: NDArray, change: NDArray, grid: NDArray, likely: NDArray) -> None:
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
            entering += arriving[i] * change[i]
    for s in range(belief.shape[0] - 1, 0, -1):
        belief[s] = belief[s - 1] * likely[grid[s]]
    for j in range(count):
        belief[offsets[j]] = entering[j] * likely[grid[offsets[j]]]


@njit(cache=True)
def _settle(belief: NDArray, offsets: NDArray, prior: NDArray, leak: float) -> None:
    """Make the belief sum to 1 again, and spread a little of it anew, so that a new record can win."""
    scale = (1.0 - leak) / belief.sum()
    for i in range(offsets.shape[0] - 1):
        spread = leak * prior[i] / (offsets[i + 1] - offsets[i])
        for s in range(offsets[i], offsets[i + 1]):
            belief[s] = belief[s] * scale + spread


@njit(cache=True)
def _read(belief: NDArray, offsets: NDArray, near: float) -> tuple[float, float, float, float]:
    """The strongest tempo and the phase there.

    Returns (interval in steps, phase 0..1, share of belief near that tempo, how sharp the phase is 0..1).
    """
    count = offsets.shape[0] - 1
    mass = np.zeros(count)
    for i in range(count):
        for s in range(offsets[i], offsets[i + 1]):
            mass[i] += belief[s]
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
    centre = offsets[best + 1] - offsets[best]
    share, interval, x, y = 0.0, 0.0, 0.0, 0.0
    for i in range(count):
        length = offsets[i + 1] - offsets[i]
        if abs(length / centre - 1.0) > near:
            continue
        share += mass[i]
        interval += mass[i] * length
        for s in range(offsets[i], offsets[i + 1]):
            angle = 2.0 * np.pi * (s - offsets[i]) / length
            x += belief[s] * np.cos(angle)
            y += belief[s] * np.sin(angle)
    phase = np.arctan2(y, x) / (2.0 * np.pi)
    return interval / share, phase - np.floor(phase), share / total, np.sqrt(x * x + y * y) / share


@dataclass(frozen=True)
class Beat:
    """A predicted beat. t: when it will sound; at: when it was announced; bar_position: 1..4."""

    t: float
    at: float
    bar_position: int


@dataclass
class BeatState:
    """Everything the beat tracker remembers between steps."""

    belief: NDArray = field(default_factory=lambda: _first_belief())
    flux: Flux = field(default_factory=Flux)
    steps: int = 0
    interval_s: float = 0.5
    phase: float = 0.0
    """Beats since the last announced beat's place; 0..1 between beats, may pass 1 a little before it wraps."""
    confidence: float = 0.0
    next_t: float = -1.0
    """Stream time of the next beat; below 0 while there is none."""
    last_t: float = -10.0
    count: int = 0
    astray: int = 0
    accents: NDArray = field(default_factory=lambda: np.zeros(4))
    one: int = 1
    recent_low: list[float] = field(default_factory=lambda: [0.0] * 24)
    pending_accents: list[tuple[float, int]] = field(default_factory=list)
    heard: float = 0.0
    mean_flux: float = 0.0
    mean_square_flux: float = 0.0

    @property
    def bpm(self) -> float:
        return 60.0 / self.interval_s


def _first_belief() -> NDArray:
    intervals, offsets, _, prior = _space()
    return np.concatenate([np.full(n, p / n) for n, p in zip(intervals, prior)])


def track(state: BeatState, samples: NDArray, now: float) -> Beat | None:
    """One step of the tracker.

    samples: the last 1024 samples; now: stream time at their end, in seconds. Call every 512 samples.
    Returns a beat when one is due within 60 ms and has not been announced.
    """
    _, offsets, change, prior = _space()
    whole, low = flux(state.flux, samples)
    state.recent_low.append(low)
    del state.recent_low[0]
    sounding = float(np.dot(samples, samples)) / len(samples) > 1e-7
    state.heard += (float(sounding) - state.heard) / (4.0 * RATE)
    state.mean_flux += (whole - state.mean_flux) / (3.0 * RATE)
    state.mean_square_flux += (whole * whole - state.mean_square_flux) / (3.0 * RATE)
    onset = MIX[0] * whole + MIX[1] * low if sounding else USUAL_ONSET
    likely = 1.0 + EXPECTED * (exp(SHARPNESS * (min(onset, 1.0) - USUAL_ONSET)) - 1.0)
    _advance(state.belief, offsets, change, _grid(), likely)
    state.steps += 1
    if state.steps % SETTLE_EVERY == 0:
        _settle(state.belief, offsets, prior, LEAK * SETTLE_EVERY)
    steps, phase, share, sharp = _read(state.belief, offsets, 0.08)
    _steer(state, steps / RATE, phase, share, sharp, now)
    return _announce(state, now)


def _steer(state: BeatState, interval_s: float, phase: float, share: float, sharp: float, now: float) -> None:
    """Pull the clock toward the filter: gently while they agree, at once when they have parted for a beat."""
    # The beat region spans the first twelfth of the period, so the filter's phase runs that much ahead.
    heard_t = now - WINDOW / 2 / SAMPLE_RATE - FLUX_LATENESS_S + HOP / SAMPLE_RATE
    due = heard_t + (1.0 - phase) * interval_s
    # Onsets make the curve uneven; that of noise or of a held tone stays near its mean, and has no beats to trust.
    spread = max(0.0, state.mean_square_flux - state.mean_flux ** 2) ** 0.5 / max(state.mean_flux, 1e-6)
    lively = min(1.0, max(0.0, (spread - 0.5) / 0.4))
    target = share * sharp * min(1.0, state.heard * 1.5) * lively
    state.confidence += (target - state.confidence) * 0.03
    if state.next_t < 0.0:
        state.interval_s, state.next_t = interval_s, due
        return
    off = (due - state.next_t) / interval_s
    off -= round(off)
    ratio = interval_s / state.interval_s
    if abs(off) < 0.12 and 0.94 < ratio < 1.06:
        state.astray = 0
        state.interval_s *= ratio ** 0.06
        state.next_t += 0.06 * off * interval_s
    else:
        state.astray += 1
        if state.astray > interval_s * RATE * 0.75:
            state.astray = 0
            state.interval_s = interval_s
            state.next_t += off * interval_s if 0.94 < ratio < 1.06 else 0.0
            if not 0.94 < ratio < 1.06:
                state.next_t = due
            while state.next_t < state.last_t + 0.5 * interval_s:
                state.next_t += interval_s


def _announce(state: BeatState, now: float) -> Beat | None:
    _learn_accents(state, now)
    if state.next_t - now > HORIZON_S:
        return None
    t = state.next_t
    state.next_t += state.interval_s
    if t < now - HORIZON_S or t < state.last_t + 0.5 * state.interval_s:
        return None
    state.last_t = t
    state.count += 1
    state.pending_accents.append((t, state.count % 4))
    return Beat(t, now, _bar_position(state, state.count))


def _learn_accents(state: BeatState, now: float) -> None:
    """Note how heavy the low end was around each beat, a moment after it: the heaviest of four is the one."""
    while state.pending_accents and now > state.pending_accents[0][0] + 0.1:
        _, place = state.pending_accents.pop(0)
        weight = max(state.recent_low[-18:])
        state.accents *= 0.97
        state.accents[place] += weight
        best = int(np.argmax(state.accents))
        # The one moves only for a clearly heavier beat: four equal kicks must not make it wander.
        if state.accents[best] > 1.25 * state.accents[state.one]:
            state.one = best


def _bar_position(state: BeatState, count: int) -> int:
    return (count - state.one) % 4 + 1


def beat_phase(state: BeatState, t: float) -> float:
    """Share of the present beat that has gone by at stream time t, 0 <= phase < 1; 0 while there is no beat."""
    if state.next_t < 0.0:
        return 0.0
    beats = (t - state.next_t) / state.interval_s
    return beats % 1.0
