"""What the beat tracker remembers, and what can be read from it."""

from dataclasses import dataclass, field

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.sound.beat.onset_curve import Flux
from fulgura.core.sound.beat.tempo_filter import USUAL_BPM, first_belief
from fulgura.core.sound.models.hypotheses import TempoHypotheses
from fulgura.core.sound.models.metre import Metre
from fulgura.core.sound.models.track_change import TrackChange

FITS_SHARE, LEAST_SURE = 0.25, 0.25
"""How much of how well the beats fit is new with each beat; how sure the filter may be when they fit nothing
that was heard.
"""

SOONEST = 0.4
"""Beats after one that was told before which none is told: less than half, for when half the tempo turns out
to be right.
"""


@dataclass(frozen=True)
class Beat:
    """A predicted beat. t: when it will sound; at: when it was announced; bar_position: 1..4."""

    t: float
    at: float
    bar_position: int


@dataclass
class BeatState:
    """Everything the beat tracker remembers between steps."""

    belief: Array = field(default_factory=lambda: first_belief())
    flux: Flux = field(default_factory=Flux)
    likely: Array = field(default_factory=lambda: np.ones(4))
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
    track_change: TrackChange = field(default_factory=TrackChange)
    hypotheses: TempoHypotheses = field(default_factory=TempoHypotheses)
    told: list[tuple[float, int]] = field(default_factory=list)
    """Beats that are not judged yet: time, and place in the bar by count."""
    ones: Array = field(default_factory=lambda: np.zeros(4))
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
    heard_s: float = 0.0
    """Seconds between the beats that are heard, whatever is held; 0 before any."""
    shift_s: float = 0.0
    """Nudged by hand: how much later the beat is told than it is heard."""

    @property
    def bpm(self) -> float:
        return 60.0 / self.interval_s


def downbeat_likelihood(state: BeatState) -> float:
    """How likely the beat that is counted as the one is it, 0..1; 1 when it was marked by hand."""
    if state.marked:
        return 1.0
    odds = np.exp(state.ones[: state.beats_a_bar] - state.ones[: state.beats_a_bar].max())
    return float(odds[state.one] / odds.sum())


def bar_position(state: BeatState, count: int) -> int:
    """Place of a counted beat in its bar, from 1 on."""
    return (count - state.one) % state.beats_a_bar + 1


def beat_phase(state: BeatState, t: float) -> float:
    """Share of the present beat that has gone by at stream time t, 0 <= phase < 1; 0 while there is
    no beat.
    """
    if state.next_t < 0.0:
        return 0.0
    beats = (t - state.next_t) / state.interval_s
    return beats % 1.0
