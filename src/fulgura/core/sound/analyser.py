"""The streaming analyser: blocks of 256 samples in, everything that was heard out. It never looks ahead."""

from dataclasses import dataclass, field
from typing import Any

import numpy as np
from numba import njit

from fulgura.core.arrays import Array
from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.kinds.listening import DEAD_TIME_MS, DRUMS
from fulgura.core.sound import bands as filters
from fulgura.core.sound import hits as hitting
from fulgura.core.sound import levels, spectrum
from fulgura.core.sound.bands import filter_bank, filter_steep
from fulgura.core.sound.beat import beat_clock, beat_state, onset_curve
from fulgura.core.sound.descriptors import Descriptors
from fulgura.core.sound.levels import measure
from fulgura.core.sound.loudness import Loudness
from fulgura.core.sound.models import drums, verification

BLOCK_RATE = SAMPLE_RATE / BLOCK


@dataclass(frozen=True)
class BandSetting:
    """One band as the analyser needs it. Frequencies in Hz, times in seconds, gain in dB."""

    name: str
    low_hz: float
    high_hz: float
    gain_db: float = 0.0
    attack_s: float = 0.0
    release_s: float = 0.12
    slope: str = "usual"


USUAL_BANDS = (
    BandSetting("low", 30.0, 150.0),
    BandSetting("mid", 300.0, 2_000.0),
    BandSetting("high", 6_000.0, 16_000.0),
)
"""Common practice: the first three bands everyone makes."""

USUAL_DETECTORS = tuple(
    hitting.Detector(drum, drum, dead_time_s=milliseconds / 1000.0)
    for drum, milliseconds in DEAD_TIME_MS.items()
)
"""The three drums, and how soon the next can come: sooner than a sixteenth of 174 BPM (86 ms), or fast kicks
would be lost.
"""


@dataclass
class Heard:
    """What one block brought."""

    hits: list[hitting.Hit] = field(default_factory=list)
    rejected: list[hitting.Hit] = field(default_factory=list)
    beats: list[beat_state.Beat] = field(default_factory=list)
    repaired: int = 0
    loudness: bool = False
    """Whether loudness was measured anew (every 100 ms)."""


class Analyser:
    """Hears one input.

    Feed blocks with ``push``; read ``band_levels``, ``rms``, ``peak`` and ``beat`` between. Feeding the same
    samples gives the same results whatever was asked in between.
    """

    def __init__(
        self,
        bands: tuple[BandSetting, ...] = USUAL_BANDS,
        detectors: tuple[hitting.Detector, ...] = USUAL_DETECTORS,
    ) -> None:
        self.blocks = 0
        self.recent = np.zeros(spectrum.POINTS)
        self._mono = np.zeros(BLOCK)
        self.mean_square = 0.0
        self.last_mean_square = self.rms = self.peak = 0.0
        self.beat = beat_state.BeatState()
        self.loudness, self.descriptors = Loudness(), Descriptors()
        self.detectors: tuple[hitting.Detector, ...] = ()
        self._states = hitting.new_states(0)
        self._drum_state, self._features, self._activations = (
            drums.new_state(),
            np.zeros(drums.FEATURES, np.float32),
            np.zeros(len(DRUMS)),
        )
        self._log_odds, self._verified, self._seen = (
            drums.unasked_log_odds(),
            np.zeros(len(DRUMS)),
            np.zeros(verification.FEATURES, np.float32),
        )
        self._weights, self._second_weights = drums.weights(), verification.weights()
        self.bands: tuple[BandSetting, ...] = ()
        self.band_levels = np.zeros(0)
        self._bank, self._edges = filters.Bank.of([]), list[tuple[Any, ...]]()
        self.configure(bands, detectors)

    @property
    def time(self) -> float:
        """Stream time at the end of the last block, in seconds."""
        return self.blocks * BLOCK / SAMPLE_RATE

    def configure(self, bands: tuple[BandSetting, ...], detectors: tuple[hitting.Detector, ...]) -> None:
        """Change what is listened for. What stays the same keeps its state: moving one band disturbs no
        other.
        """
        edges, old_edges = _edges(bands), self._edges
        bank = filters.Bank.of(edges)
        for i, edge in enumerate(edges):
            if edge in old_edges:
                bank.take_over(i, self._bank, old_edges.index(edge))
            elif self.blocks:
                # Its edges are being moved: it has heard what was just heard, or a band that is led by a
                # signal
                # would begin anew in every frame.
                bank.listen_back(i, edge, self.recent)
        old_levels = dict(zip((b.name for b in self.bands), self.band_levels))
        self.band_levels = np.array([old_levels.get(b.name, 0.0) for b in bands])
        self._configure_hits(bands, detectors)
        self.bands, self.detectors, self._bank, self._edges = bands, detectors, bank, edges
        self._gain = np.array([10 ** (b.gain_db / 20) for b in bands])
        self._up = np.array([levels.coefficient(b.attack_s, BLOCK_RATE) for b in bands])
        self._down = np.array([levels.coefficient(b.release_s, BLOCK_RATE) for b in bands])
        self._squares, self._peaks = np.zeros(len(edges)), np.zeros(len(edges))

    def _configure_hits(
        self, bands: tuple[BandSetting, ...], detectors: tuple[hitting.Detector, ...]
    ) -> None:
        old = {detector.name: i for i, detector in enumerate(self.detectors)}
        states = hitting.new_states(len(detectors))
        for i, detector in enumerate(detectors):
            if detector.name in old:
                states[i] = self._states[old[detector.name]]
        self._states, self._settings = (
            states,
            hitting.settings_of(detectors, tuple(band.name for band in bands)),
        )
        self._found = np.zeros(len(detectors), dtype=hitting.FOUND)
        rows = [(int(row["drum"]), int(row["band"])) for row in self._settings]
        self._ranges = [
            tuple((hitting.OWN_BANDS[drum] + len(bands)).tolist()) if drum >= 0 else (band, band + 1)
            for drum, band in rows
        ]

    def push(self, block: Array) -> Heard:
        """Hear one block: shape (256,) or (256, channels), full scale = 1; channels are averaged.

        Raises ValueError for any other length.
        """
        if block.shape[0] != BLOCK:
            raise ValueError(f"A block has {BLOCK} samples, not {block.shape[0]}.")
        heard = Heard()
        mono, block = self._mono, block if block.ndim == 2 else block[:, None]
        _mono(block, mono)
        total, peak, repaired = self._measure(mono)
        if repaired:
            heard.repaired = repaired
            block = levels.repair(block)
            total, peak, _ = self._measure(levels.repair(mono))
        self.blocks += 1
        now = self.time
        heard.loudness = self.loudness.push(block)
        self.descriptors.hear(block, mono)
        self.mean_square += _METER * (total - self.mean_square)
        self.last_mean_square, self.rms, self.peak = total, self.mean_square**0.5, peak
        self._catch_hits(now, heard)
        if self.blocks % (onset_curve.HOP // BLOCK) == 0:
            drums.lately(self._log_odds, self._activations)
            beat = beat_clock.track(self.beat, self.recent[-onset_curve.WINDOW :], now, self._activations)
            if beat is not None:
                heard.beats.append(beat)
            flux = self.beat.flux
            self.descriptors.step(flux.sizes, flux.levels, flux.onset, total)
        return heard

    def _measure(self, mono: Array) -> tuple[float, float, int]:
        """(mean square, peak, damaged samples) of a block; its bands are followed."""
        bank = self._bank
        filters = (bank.rows, bank.state, bank.steep, bank.more, bank.more_state)
        found: tuple[float, float, int] = _hear(
            mono,
            self.recent,
            *filters,
            self._squares,
            self._peaks,
            self.band_levels,
            self._gain,
            self._up,
            self._down,
        )
        return found

    def _catch_hits(self, now: float, heard: Heard) -> None:
        drums.hear(
            self._drum_state, self._squares[len(self.bands) :], self._features, *self._weights, self._log_odds
        )
        if hitting.needs_verification(self._settings, self._states, self._log_odds[0]):
            verification.judge(
                self._features, self._log_odds, self._seen, *self._second_weights, self._verified
            )
        told = hitting.detect(
            self._settings,
            self._states,
            self._squares,
            len(self.bands),
            self._log_odds[0],
            self._verified,
            now,
            self._found,
        )
        for detector, reason, t, strength, threshold in self._found[:told].tolist() if told else ():
            name = self.detectors[detector].name
            hit = hitting.Hit(name, t, now, strength, threshold, hitting.REASONS[reason])
            (heard.rejected if reason else heard.hits).append(hit)

    def display_spectrum(self) -> Array:
        """The last 2048 samples as display levels in dBFS, shape (96,)."""
        return spectrum.display(spectrum.amplitudes(self.recent))

    @property
    def band_squares(self) -> Array:
        """Mean square of each band in the last block, before its gain, shape (bands,)."""
        return self._squares[: len(self.bands)]

    def detector_squares(self) -> list[float]:
        """Mean square of each detector's own range in the last block."""
        squares = self._squares.tolist()
        return [sum(squares[first:last]) for first, last in self._ranges]

    @property
    def band_peaks(self) -> Array:
        """Largest absolute sample of each band in the last block, after its gain, shape (bands,)."""
        peaks: Array = self._peaks[: len(self.bands)] * self._gain
        return peaks


@njit(cache=True)
def _mono(block: Array, mono: Array) -> None:
    """Channels averaged (common practice when one channel will do) into mono, shape (256,)."""
    channels = block.shape[1]
    for i in range(mono.shape[0]):
        total = 0.0
        for c in range(channels):
            total += block[i, c]
        mono[i] = total / channels


_METER = levels.coefficient(0.3, BLOCK_RATE)
"""The level meter's integration time is 0.3 s."""


@njit(cache=True)
def _hear(
    mono: Array,
    recent: Array,
    rows: Array,
    state: Array,
    steep: Array,
    more: Array,
    more_state: Array,
    squares: Array,
    peaks: Array,
    band_levels: Array,
    gain: Array,
    up: Array,
    down: Array,
) -> tuple[float, float, int]:
    """One block through level, bank and band followers, all in place; returns what ``levels.measure`` does.

    Compiled in one piece: so short a block costs more in calls than in arithmetic. A damaged block changes
    nothing.
    """
    measured = measure(mono)
    if measured[2]:
        return measured
    kept = recent.shape[0] - mono.shape[0]
    for i in range(kept):
        recent[i] = recent[i + mono.shape[0]]
    recent[kept:] = mono
    filter_bank(rows, state, mono, squares, peaks)
    if steep.shape[0]:
        filter_steep(steep, more, more_state, mono, squares, peaks)
    for i in range(band_levels.shape[0]):
        # RMS of a full-scale sine in the band reads 1, whatever the crest of the sound.
        level = np.sqrt(2.0 * squares[i]) * gain[i]
        band_levels[i] += (up[i] if level > band_levels[i] else down[i]) * (level - band_levels[i])
    return measured


def _edges(bands: tuple[BandSetting, ...]) -> list[tuple[Any, ...]]:
    """The filters that are needed, in order: the bands, then those that drums are heard in, whose pulse the
    beat needs.
    """
    return [(band.low_hz, band.high_hz, band.slope) for band in bands] + list(drums.BANDS)
