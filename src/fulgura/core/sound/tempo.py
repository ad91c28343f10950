"""Tempo and beat, causally: a hidden Markov model over tempo and beat phase, run forward only.

State space and transitions after F. Krebs, S. Böck, G. Widmer, "An efficient state-space model for joint
tempo and meter tracking", ISMIR 2015; observations after N. Whiteley, A. T. Cemgil, S. Godsill, "Bayesian
modelling of temporal structure in musical audio", ISMIR 2006, fed by a log-compressed spectral flux instead
of a trained network. Beats that have gone by are judged by networks: one counts the bar and keeps the filter
off the off-beat (metre.py), one says which of the likeliest tempi what was heard fits (rivals.py), and one
whether another record was cut in (cut.py). A phase-locked clock rides on the filter, so that beats are
announced before they sound.
"""

from dataclasses import dataclass, field
from functools import lru_cache
from math import exp

import numpy as np
from numba import njit
from numpy.typing import NDArray
from scipy.fft import rfft, rfftfreq

from fulgura.core.clock import SAMPLE_RATE
from fulgura.core.sound import cut, rivals
from fulgura.core.sound.cut import Cut
from fulgura.core.sound.metre import BEAT, LEAST, ONE, Metre, heard_any, judge, note, on_beat, only_lately
from fulgura.core.sound.rivals import Rivals
from fulgura.core.sound.spectrum import hann

HOP = 512
"""Samples between two steps of the beat filter (10.7 ms)."""
RATE = SAMPLE_RATE / HOP
WINDOW = 1024
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
was heard in the next beats decides, and what compares tempi (rivals.py).
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
READ_EVERY = 2
"""Steps between two looks at what the filter believes: the clock runs on by itself between."""
NEAR = 0.08
"""Tempi that differ by less than this share belong together."""
HEARD_SHARE = 0.15
"""How much of the belief must lie near a held tempo before the beat is put in step with what is heard."""
ONE_KEPT, SURE_ONE = 0.95, 4.0
"""Share that is left of what spoke for each beat of the bar when the next is heard; log odds by which another
must be likelier to be the one before it moves: what is the same from two beats must not make it wander.
"""
MOST_SAID = 8.0
"""Log odds that a single beat may count for."""
BEGAN_AFTER_S = 4.0
"""Sound that begins after a second of silence or more begins with the one (common practice: most pieces do,
some have an upbeat). That is said so much later, once the tempo has settled, and for as much as a single beat
may count.
"""
LEAN, MOST_LEAN = 0.25, 12.0
"""How much the belief leans to where beats are judged to lie rather than half way between, for each of log
odds; and the most of these that one beat counts for. All of these were chosen on other clips than those of
the tables.
"""
DOUBT, MOST_DOUBT = 0.7, 4.0
"""How much less likely a tempo becomes with each beat for each of the log odds against it, and the most of
these that count. One that fits is not helped: what has just ended fits for some beats more.
"""
FITS_SHARE, LEAST_SURE = 0.25, 0.25
"""How much of how well the beats fit is new with each beat; how sure the filter may be when they fit nothing
that was heard.
"""
PATIENCE = 0.75
"""Beats for which the clock and the filter have been apart when the clock gives in."""
SOONEST = 0.4
"""Beats after one that was told before which none is told: less than half, for when half the tempo turns out
to be right.
"""
BY_HAND_S = 0.03
"""A beat that was nudged by more than this is where the performer wants it."""
HORIZON_S = 0.06
"""How long before a beat sounds it is announced."""
FLUX_LATENESS_S = 0.012
"""From an onset to the middle of the step whose flux it raises most: measured on clicks, see the tests."""
HOP_S = HOP / SAMPLE_RATE
HEARD_LATE_S = WINDOW / 2 / SAMPLE_RATE + FLUX_LATENESS_S - HOP_S
"""How long ago that which a step hears sounded."""


@lru_cache
def flux_bands() -> NDArray:
    """Weights (24, 513) that gather the transform's bins into log-spaced bands from 30 Hz to 12 kHz."""
    edges = np.geomspace(30.0, 12_000.0, 26)
    hz = rfftfreq(WINDOW, 1.0 / SAMPLE_RATE)
    rows = []
    for low, centre, high in zip(edges, edges[1:], edges[2:]):
        rows.append(
            np.clip(np.minimum((hz - low) / (centre - low), (high - hz) / (high - centre)), 0.0, None)
        )
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
    """State of the onset curve: last band levels, and the loudest lately (sets the compression).

    sizes, levels, rises: magnitudes of the last step's transform (513,), of its bands (24,), and by how much
    each of these rose, compressed; onset: whether one began.
    """

    bands: NDArray = field(default_factory=lambda: np.zeros((2, 24)))
    loudest: float = 1e-4
    height: float = 1e-3
    sizes: NDArray = field(default_factory=lambda: np.zeros(WINDOW // 2 + 1))
    levels: NDArray = field(default_factory=lambda: np.zeros(24))
    rises: NDArray = field(default_factory=lambda: np.zeros(24))
    onset: bool = False
    ready: bool = True


def flux(state: Flux, samples: NDArray) -> tuple[float, float]:
    """One step's onset strength from the last 1024 samples: (whole, low end), each about 0..1.

    Compression follows the recent loudest band, so that the curve does not depend on the level.
    """
    weights, first, last = _sparse_bands()
    state.loudest *= _FORGET_LOUDEST
    whole, low, state.loudest = _rise(
        samples,
        _window(),
        weights,
        first,
        last,
        state.bands,
        state.loudest,
        _LOW_WEIGHT,
        state.sizes,
        state.levels,
        state.rises,
    )
    state.height = max(whole, state.height * _FORGET_HEIGHT, 4.0)
    state.onset = state.ready and whole > 0.3 * state.height
    state.ready = not state.onset and (state.ready or whole < 0.15 * state.height)
    return whole / state.height, low / state.height


_FORGET_LOUDEST, _FORGET_HEIGHT = exp(-1.0 / (8.0 * RATE)), exp(-1.0 / (6.0 * RATE))


@lru_cache
def _sparse_bands() -> tuple[NDArray, NDArray, NDArray]:
    """The weights with the first and one past the last bin of each band: most of the matrix is zero."""
    weights = flux_bands()
    first = (weights > 0.0).argmax(axis=1)
    return weights, first, weights.shape[1] - (weights[:, ::-1] > 0.0).argmax(axis=1)


@njit(cache=True, fastmath={"contract", "reassoc"})
def _rise(
    samples: NDArray,
    window: NDArray,
    weights: NDArray,
    first: NDArray,
    last: NDArray,
    before: NDArray,
    loudest: float,
    low_weight: NDArray,
    size: NDArray,
    levels: NDArray,
    rises: NDArray,
) -> tuple[float, float, float]:
    """Band levels, compressed, less those of two steps ago, summed over the bands that rose.

    samples: (1024,). Fills size (513,), levels and rises (bands,). Compiled: as array operations these few
    hundred numbers cost more in calls than in arithmetic, and so does the transform (rocket-fft is what lets
    compiled code call scipy's).
    """
    spectrum = rfft(samples * window)
    for k in range(size.shape[0]):
        size[k] = np.sqrt(spectrum[k].real ** 2 + spectrum[k].imag ** 2)
    for band in range(levels.shape[0]):
        total = 0.0
        part, weight = size[first[band] : last[band]], weights[band, first[band] : last[band]]
        for k in range(part.shape[0]):
            total += weight[k] * part[k]
        levels[band] = total
        loudest = max(loudest, total)
    loudest = max(loudest, 1e-3)
    whole, low = 0.0, 0.0
    for band in range(levels.shape[0]):
        compressed = np.log1p(levels[band] * (200.0 / loudest))
        rises[band] = max(0.0, compressed - before[0, band])
        rise = rises[band] * low_weight[band]
        before[0, band], before[1, band] = before[1, band], compressed
        whole += rise
        if band < 8:
            low += rise
    return whole, low, loudest


@lru_cache(16)
def _space(centre_bpm: float = USUAL_BPM) -> tuple[NDArray, NDArray, NDArray, NDArray]:
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
    # Unsigned: an index that could be negative costs a question at every state.
    return np.concatenate(places).astype(np.uint8)


_NO_DRUMS = np.zeros(3)


@njit(cache=True)
def _weigh(onset: float, drums: NDArray, likely: NDArray) -> None:
    """How well what was heard fits each kind of place, into likely (4,)."""
    evidence = np.exp(SHARPNESS * (min(onset, 1.0) - USUAL_ONSET)) - 1.0
    for place in range(4):
        likely[place] = 1.0 + EXPECTED[place] * evidence
        for k in range(3):
            if drums[k] > 0.1:
                likely[place] *= 1.0 + DRUM_EXPECTED[k, place] * DRUM_WEIGHT[k] * drums[k]


@njit(cache=True, fastmath={"contract", "reassoc"})
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
            share, row = arriving[i], change[i]
            for j in range(count):
                entering[j] += share * row[j]
    for s in range(belief.shape[0] - 1, 0, -1):
        belief[s] = belief[s - 1] * likely[grid[s]]
    for j in range(count):
        belief[offsets[j]] = entering[j] * likely[grid[offsets[j]]]


@njit(cache=True, fastmath={"contract", "reassoc"})
def _settle(belief: NDArray, offsets: NDArray, prior: NDArray, leak: float) -> None:
    """Make the belief sum to 1 again, and spread a little of it anew, so that a new record can win."""
    scale = (1.0 - leak) / belief.sum()
    for i in range(offsets.shape[0] - 1):
        part = belief[offsets[i] : offsets[i + 1]]
        spread = leak * prior[i] / part.shape[0]
        for k in range(part.shape[0]):
            part[k] = part[k] * scale + spread


@lru_cache
def _circle() -> NDArray:
    """For every state, where its phase lies on the unit circle, shape (2, states)."""
    angles = np.concatenate([2.0 * np.pi * np.arange(n) / n for n in _space()[0]])
    return np.stack([np.cos(angles), np.sin(angles)])


@njit(cache=True, fastmath={"contract", "reassoc"})
def _read(
    belief: NDArray, offsets: NDArray, circle: NDArray, near: float, wanted: float
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
    likely: NDArray = field(default_factory=lambda: np.ones(4))
    steps: int = 0
    interval_s: float = 0.5
    phase: float = 0.0
    """Beats since the last announced beat's place; 0..1 between beats, may pass 1 a little before it wraps.
    """
    confidence: float = 0.0
    next_t: float = -1.0
    """Stream time of the next beat; below 0 while there is none."""
    last_t: float = -10.0
    count: int = 0
    astray: int = 0
    metre: Metre = field(default_factory=Metre)
    cut: Cut = field(default_factory=Cut)
    rivals: Rivals = field(default_factory=Rivals)
    told: list[tuple[float, int]] = field(default_factory=list)
    """Beats that are not judged yet: time, and place in the bar by count."""
    ones: NDArray = field(default_factory=lambda: np.zeros(4))
    """For each beat of the bar, how much speaks for its being the one, in log odds."""
    one: int = 1
    silent_s: float = 1.0
    began_t: float = 0.0
    beginning: bool = False
    """How long it has been silent; when sound last began after silence, and whether what that says is still
    to be used.
    """
    fits: float = 1.0
    """How well the last beats fit what was heard, 0..1."""
    heard: float = 0.0
    mean_flux: float = 0.0
    mean_square_flux: float = 0.0
    mode: str = "auto"
    """auto: tempo and phase are heard; held: the tempo is given, the phase heard; locked: both run on."""
    held_s: float = 0.5
    """Seconds between beats that are held."""
    beats_a_bar: int = 4
    centre_bpm: float = USUAL_BPM
    """Tempo that the filter leans toward; halving and doubling move it."""
    marked: bool = False
    """Whether the one was marked by hand: accents move it no more."""
    shift_s: float = 0.0
    """Nudged by hand: how much later the beat is told than it is heard."""

    @property
    def bpm(self) -> float:
        return 60.0 / self.interval_s


def _first_belief(centre_bpm: float = USUAL_BPM) -> NDArray:
    intervals, _, _, prior = _space(centre_bpm)
    return np.concatenate([np.full(n, p / n) for n, p in zip(intervals, prior)])


def track(state: BeatState, samples: NDArray, now: float, drums: NDArray | None = None) -> Beat | None:
    """One step of the tracker.

    samples: the last 1024 samples; now: stream time at their end, in seconds; drums: activations of kick,
    snare and hat since the last step, shape (3,). Call every 512 samples. Returns a beat when one is due
    within 60 ms and has not been announced.
    """
    whole, low = flux(state.flux, samples)
    note(state.metre.ring, state.steps, state.flux.rises, _NO_DRUMS if drums is None else drums)
    return follow(state, whole, low, float(np.dot(samples, samples)) / len(samples) > 1e-7, now, drums)


def follow(
    state: BeatState, whole: float, low: float, sounding: bool, now: float, drums: NDArray | None = None
) -> Beat | None:
    """One step of the tracker from the onset curve; see ``track``."""
    _, offsets, change, prior = _space(state.centre_bpm)
    if sounding and state.silent_s >= 1.0:
        state.began_t, state.beginning = now - HEARD_LATE_S, True
        cut.begin(state.cut)
    state.silent_s = 0.0 if sounding else state.silent_s + HOP_S
    state.heard += (float(sounding) - state.heard) / (4.0 * RATE)
    state.mean_flux += (whole - state.mean_flux) / (3.0 * RATE)
    state.mean_square_flux += (whole * whole - state.mean_square_flux) / (3.0 * RATE)
    onset = MIX[0] * whole + MIX[1] * low if sounding else USUAL_ONSET
    _weigh(onset, drums if drums is not None and sounding else _NO_DRUMS, state.likely)
    _advance(state.belief, offsets, change, _grid(), state.likely)
    state.steps += 1
    if state.steps % SETTLE_EVERY == 0:
        _settle(state.belief, offsets, prior, LEAK * SETTLE_EVERY)
    another = cut.heard(state.cut, state.flux.levels, state.flux.loudest, state.likely)
    if another > 0.0 and state.mode == "auto":
        _begin_anew(state, another)
    if state.steps % READ_EVERY == 0:
        wanted = state.held_s * RATE if state.mode == "held" else 0.0
        steps, phase, share, sharp = _read(state.belief, offsets, _circle(), NEAR, wanted)
        _steer(state, steps / RATE, phase, share, sharp, now)
    _count(state, now)
    return _announce(state, now)


def _begin_anew(state: BeatState, likely: float) -> None:
    """Another record seems to have been cut in: so much is believed what one would who had heard nothing
    before it.
    """
    _, offsets, change, prior = _space(state.centre_bpm)
    anew = _first_belief(state.centre_bpm)
    for step, evidence in enumerate(cut.lately(state.cut), 1):
        _advance(anew, offsets, change, _grid(), evidence)
        if step % SETTLE_EVERY == 0:
            _settle(anew, offsets, prior, LEAK * SETTLE_EVERY)
    state.belief *= (1.0 - likely) / state.belief.sum()
    state.belief += anew * (likely / anew.sum())
    only_lately(state.metre.ring, state.steps - 1, cut.STEPS, 1.0 - likely)
    state.told.clear()


def _steer(state: BeatState, interval_s: float, phase: float, share: float, sharp: float, now: float) -> None:
    """Pull the clock toward the filter: gently while they agree, at once when they have parted for a beat."""
    # The beat region spans the first twelfth of the period, so the filter's phase runs that much ahead.
    heard_t = now - HEARD_LATE_S
    due = heard_t + (1.0 - phase) * interval_s + state.shift_s
    # Onsets make the curve uneven; that of noise or of a held tone stays near its mean, and has no beats to
    # trust.
    spread = max(0.0, state.mean_square_flux - state.mean_flux**2) ** 0.5 / max(state.mean_flux, 1e-6)
    lively = min(1.0, max(0.0, (spread - 0.5) / 0.4))
    # A beat that was locked by hand is sure in silence too: what runs on it runs on.
    target = (
        1.0
        if state.mode == "locked"
        else share
        * sharp
        * min(1.0, state.heard * 1.5)
        * lively
        * (LEAST_SURE + (1.0 - LEAST_SURE) * state.fits)
    )
    state.confidence += (target - state.confidence) * 0.06
    if state.next_t < 0.0:
        state.interval_s, state.next_t = interval_s, due
        return
    if state.mode == "locked" or (state.mode == "held" and share < HEARD_SHARE):
        # Nothing is heard at the tempo that was given, or nothing is to be listened to: run on.
        return
    off = (due - state.next_t) / interval_s
    off -= round(off)
    ratio = interval_s / state.interval_s
    if abs(off) < 0.12 and 0.94 < ratio < 1.06:
        state.astray = 0
        state.interval_s *= ratio**0.12
        state.next_t += 0.12 * off * interval_s
    else:
        state.astray += READ_EVERY
        if state.astray > interval_s * RATE * PATIENCE:
            state.astray = 0
            # What spoke for a one spoke for another count; the one stays where it is until something speaks
            # against it.
            state.ones[:] = 0.0
            state.interval_s = interval_s
            state.next_t += off * interval_s if 0.94 < ratio < 1.06 else 0.0
            if not 0.94 < ratio < 1.06:
                state.next_t = due
            while state.next_t < state.last_t + SOONEST * interval_s:
                state.next_t += interval_s


def _announce(state: BeatState, now: float) -> Beat | None:
    if state.next_t - now > HORIZON_S:
        return None
    t = state.next_t
    state.next_t += state.interval_s
    if t < now - HORIZON_S or t < state.last_t + SOONEST * state.interval_s:
        return None
    state.last_t = t
    state.count += 1
    state.told.append((t, state.count % state.beats_a_bar))
    return Beat(t, now, _bar_position(state, state.count))


def _count(state: BeatState, now: float) -> None:
    """Judge each beat as soon as the next has sounded: is it the one, and is it a beat rather than half way
    between two?
    """
    while len(state.told) > 1 and now > state.told[1][0]:
        (first, place), (last, _) = state.told.pop(0), state.told[0]
        newest, interval = state.steps - 1, state.interval_s / HOP_S
        # In steps and where it was heard, without what is nudged by hand.
        end = newest + (last - state.shift_s - now + HEARD_LATE_S) / HOP_S
        beat, between = judge(state.metre, newest, end, interval)
        if not heard_any(state.metre):
            continue
        state.ones *= ONE_KEPT
        since = round((first - state.began_t) / state.interval_s)
        if since >= LEAST:
            state.ones[place] += _bounded(beat[ONE] - beat[BEAT], MOST_SAID)
        if state.beginning and first - state.began_t > BEGAN_AFTER_S:
            state.ones[(place - since) % state.beats_a_bar] += MOST_SAID
            state.beginning = False
        by_hand, apart = (
            state.mode == "locked" or state.marked or abs(state.shift_s) >= BY_HAND_S,
            on_beat(beat) - on_beat(between),
        )
        fits = 1.0 if by_hand else _likely(0.5 * apart)
        if state.mode != "locked":
            fits *= _likely(_compare_tempi(state))
        state.fits += FITS_SHARE * (fits - state.fits)
        best = int(np.argmax(state.ones[: state.beats_a_bar]))
        if not state.marked and state.ones[best] - state.ones[state.one] > SURE_ONE:
            state.one = best
        if not by_hand:
            _lean(
                state.belief,
                _space(state.centre_bpm)[1],
                _circle(),
                interval,
                (newest - end) / interval,
                LEAN * _bounded(apart, MOST_LEAN),
            )


def _compare_tempi(state: BeatState) -> float:
    """Doubt the tempi that what was heard does not fit, unless one is given; whether half or twice is right
    is for the performer, once chosen.

    Returns the log odds of the tempo that is told.
    """
    offsets = _space(state.centre_bpm)[1]
    chosen = state.mode == "held" or state.centre_bpm != USUAL_BPM
    rivals.compare(
        state.rivals,
        state.metre.ring,
        state.steps - 1,
        state.belief,
        offsets,
        _circle(),
        NEAR,
        1.0 if chosen else rivals.LEVEL_RIGHT,
    )
    if state.mode == "auto":
        rivals.favour(
            state.belief, offsets, state.rivals.belongs, DOUBT * np.clip(state.rivals.odds, -MOST_DOUBT, 0.0)
        )
    return rivals.odds_of(state.rivals, state.interval_s / HOP_S, NEAR)


def _likely(log_odds: float) -> float:
    return 1.0 / (1.0 + exp(-log_odds))


def _bounded(log_odds: float, most: float) -> float:
    return min(max(float(log_odds), -most), most)


@njit(cache=True)
def _lean(
    belief: NDArray, offsets: NDArray, circle: NDArray, interval: float, phase: float, strength: float
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


def one_likelihood(state: BeatState) -> float:
    """How likely the beat that is counted as the one is it, 0..1; 1 when it was marked by hand."""
    if state.marked:
        return 1.0
    odds = np.exp(state.ones[: state.beats_a_bar] - state.ones[: state.beats_a_bar].max())
    return float(odds[state.one] / odds.sum())


def _bar_position(state: BeatState, count: int) -> int:
    return (count - state.one) % state.beats_a_bar + 1


def choose(state: BeatState, mode: str, bpm: float, beats_a_bar: int) -> None:
    """Take over how the beat is to be found (see BeatState.mode); bpm counts when it is held."""
    if mode == "held" and (state.mode != "held" or state.held_s != 60.0 / bpm):
        state.interval_s = state.held_s = 60.0 / bpm
    if beats_a_bar != state.beats_a_bar:
        state.beats_a_bar, state.one, state.marked = beats_a_bar, 0, False
        state.ones[:] = 0.0
        state.told.clear()
    state.mode = mode


def scale_tempo(state: BeatState, factor: float) -> None:
    """Halve (0.5) or double (2) the tempo that is heard: the filter leans toward the new one from now on."""
    bpm = min(max(state.bpm * factor, LOWEST_BPM), HIGHEST_BPM)
    state.centre_bpm = round(bpm, 1)
    state.belief = _first_belief(state.centre_bpm)
    state.interval_s = 60.0 / bpm


def align(state: BeatState, t: float, interval_s: float) -> None:
    """Put a beat at stream time t, and the next ones at the interval: what tapping asks for."""
    state.interval_s, state.shift_s = interval_s, 0.0
    state.next_t = t + interval_s
    while state.next_t < state.last_t + SOONEST * interval_s:
        state.next_t += interval_s


def nudge(state: BeatState, seconds: float) -> None:
    """Tell every beat so much later (or sooner), from now on."""
    state.shift_s += seconds
    state.next_t += seconds


def mark_one(state: BeatState, now: float) -> None:
    """The beat nearest to now is the first of the bar, until the sound's own accents are trusted again."""
    nearest = state.count if abs(now - state.last_t) <= abs(state.next_t - now) else state.count + 1
    state.one, state.marked = nearest % state.beats_a_bar, True


def listen_anew(state: BeatState) -> None:
    """Forget what was chosen by hand: tempo, nudge and the marked one."""
    state.centre_bpm, state.shift_s, state.marked = USUAL_BPM, 0.0, False


TAP_GAP_S = 2.0
"""A longer pause between taps begins a new count."""


@dataclass
class Taps:
    """Taps on the beat: ``tap`` each; the tempo is that of the median gap (robust against one slip)."""

    times: list[float] = field(default_factory=list)

    def tap(self, t: float) -> float | None:
        """Note a tap at time t in seconds; the tempo in BPM from the third tap on, when it is one."""
        if self.times and not 0.0 < t - self.times[-1] < TAP_GAP_S:
            self.times.clear()
        self.times = [*self.times[-7:], t]
        if len(self.times) < 3:
            return None
        bpm = 60.0 / float(np.median(np.diff(self.times)))
        return bpm if 40.0 <= bpm <= 240.0 else None


def beat_phase(state: BeatState, t: float) -> float:
    """Share of the present beat that has gone by at stream time t, 0 <= phase < 1; 0 while there is
    no beat.
    """
    if state.next_t < 0.0:
        return 0.0
    beats = (t - state.next_t) / state.interval_s
    return beats % 1.0
