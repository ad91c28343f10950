"""Hits: onsets of kick, snare and hat, caught with an adaptive threshold and a dead time.

The detection function is the rise of a band's log energy over a few blocks (energy-based onset detection with
logarithmic compression: A. Klapuri, "Sound onset detection by applying psychoacoustic knowledge", ICASSP 1999);
the threshold follows its recent mean and recent peaks (causal form of J. P. Bello et al., "A tutorial on onset
detection in music signals", IEEE TSAP 13(5), 2005).
"""

from dataclasses import dataclass, field, replace
from math import exp, log, sqrt
from typing import Literal

from fulgura.core import BLOCK, SAMPLE_RATE

STEP_S = BLOCK / SAMPLE_RATE
FLOOR = 1e-6
"""Mean square below which nothing counts as a hit (-57 dBFS)."""

Reason = Literal["below threshold", "too soon", "masked", "no attack"]


@dataclass(frozen=True)
class Detector:
    """What one kind of hit listens for. Frequencies in Hz, times in seconds.

    share: the share of the sound's total energy that the band must hold when it rises; keeps the splash of
    another drum from counting.
    attack_hz: a second band that must rise at the same moment, by attack times the first band's amplitude: a
    drum starts with a click or a sweep, a bass note does not.
    lateness_s: how much later than the true onset the band's rise is first measured (filter delay).
    """

    name: str
    low_hz: float
    high_hz: float
    sensitivity: float = 0.5
    dead_time_s: float = 0.12
    share: float = 0.0
    attack_hz: tuple[float, float] | None = None
    attack: float = 0.0
    lateness_s: float = 0.0


@dataclass(frozen=True)
class Hit:
    """An onset. t: when it sounded; at: when the detector said so (both stream seconds).

    strength: 0..1 beside the recent loudest. reason: None when it was caught, else why it was not.
    """

    detector: str
    t: float
    at: float
    strength: float
    threshold: float
    reason: Reason | None = None


@dataclass
class HitState:
    """Everything a detector remembers between blocks."""

    envelope: float = 0.0
    energies: list[float] = field(default_factory=lambda: [0.0] * 6)
    reference: float = 0.0
    mean: float = 0.0
    peak: float = 0.0
    rising: float = 0.0
    rising_t: float = 0.0
    rising_share: float = 0.0
    rising_attack: float = 0.0
    attacks: list[float] = field(default_factory=lambda: [0.0] * 4)
    falls: int = 0
    last_t: float = -10.0
    last_rise: float = 0.0


_MEAN_DECAY = exp(-STEP_S / 1.2)
_PEAK_DECAY = exp(-STEP_S / 3.0)
_REFERENCE_DECAY = exp(-STEP_S / 4.0)
_RELEASE = exp(-STEP_S / 0.035)
"""An envelope that falls no faster than this does not ripple with a low drum's own wave."""
_DEPTH = 3.0
"""Compression: the higher, the more a quiet rise counts beside a loud one."""


def detect(detector: Detector, state: HitState, energy: float, attack_energy: float, total: float, t: float) -> Hit | None:
    """One block's step.

    energy, attack_energy, total: mean square of the detector's band, of its attack band and of the whole sound in
    this block; t: stream time of the block's end. Returns a hit, a rejected peak (with a reason), or None. Level does not matter: energy is measured
    against the band's own recent loudest, so the same sound 20 dB quieter gives the same hits.
    """
    state.envelope = max(energy, state.envelope * _RELEASE)
    state.reference = max(state.envelope, state.reference * _REFERENCE_DECAY, FLOOR)
    history = state.energies
    loud = log(1.0 + _DEPTH * sqrt(state.envelope / state.reference))
    before = min(history[-1], history[-2], history[-3])
    rise = max(0.0, loud - before)
    history.append(loud)
    del history[0]
    strike = sqrt(attack_energy)
    attack_rise = (strike - min(state.attacks)) / sqrt(max(state.envelope, FLOOR))
    state.attacks.append(strike)
    del state.attacks[0]

    # The threshold is taken before this block's own rise is learnt, or a lone hit would raise the bar over itself.
    threshold = max(2.2 * state.mean, (1.0 - detector.sensitivity) * 0.9 * state.peak, 0.35)
    state.mean = _MEAN_DECAY * state.mean + (1.0 - _MEAN_DECAY) * rise

    found = None
    if rise > state.rising and energy > FLOOR:
        if state.rising == 0.0:
            state.rising_t = t
        state.rising, state.falls = rise, 0
        state.rising_share = max(state.rising_share, energy / max(total, FLOOR))
        state.rising_attack = max(state.rising_attack, attack_rise)
    elif state.rising > 0.0:
        state.falls += 1
        if state.rising > 0.5 * threshold:
            found = _judge(detector, state, threshold, t)
        state.peak = max(state.peak, state.rising)
        state.rising = state.rising_share = state.rising_attack = 0.0
    state.peak *= _PEAK_DECAY
    return found


def _judge(detector: Detector, state: HitState, threshold: float, now: float) -> Hit | None:
    """Decide on the peak that has just passed."""
    t = max(0.0, state.rising_t - STEP_S - detector.lateness_s)
    reason: Reason | None = None
    if state.rising < threshold:
        reason = "below threshold"
    elif t - state.last_t < detector.dead_time_s:
        reason = "too soon"
    elif state.rising_share < detector.share:
        reason = "masked"
    elif state.rising_attack < detector.attack:
        reason = "no attack"
    else:
        state.last_t = t
    return Hit(detector.name, t, now, min(1.0, state.rising / max(state.peak, state.rising)), threshold, reason)


def tuned(detector: Detector, sensitivity: float, dead_time_s: float) -> Detector:
    """The same detector with the performer's own sensitivity (0..1) and dead time."""
    return replace(detector, sensitivity=sensitivity, dead_time_s=dead_time_s)
