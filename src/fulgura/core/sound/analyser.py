"""The streaming analyser: blocks of 256 samples in, everything that was heard out. It never looks ahead."""

from dataclasses import dataclass, field

import numpy as np
from numba import njit
from numpy.typing import NDArray

from fulgura.core import BLOCK, SAMPLE_RATE
from fulgura.core.sound import bands as filters
from fulgura.core.sound import hits as hitting
from fulgura.core.sound import levels, spectrum
from fulgura.core.sound import tempo as beating
from fulgura.core.sound.bands import filter_bank
from fulgura.core.sound.levels import measure

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


USUAL_BANDS = (
    BandSetting("low", 30.0, 150.0),
    BandSetting("mid", 300.0, 2_000.0),
    BandSetting("high", 6_000.0, 16_000.0),
)
"""Common practice: the first three bands everyone makes."""

USUAL_DETECTORS = (
    hitting.Detector("kick", 40.0, 150.0, dead_time_s=0.13, share=0.15, attack_hz=(350.0, 2_000.0), attack=0.17),
    hitting.Detector("snare", 1_500.0, 5_500.0, dead_time_s=0.12, attack_hz=(140.0, 320.0), attack=0.6),
    hitting.Detector("hat", 7_500.0, 20_000.0, sensitivity=0.65, dead_time_s=0.06),
)
"""Common practice: where a kick, a snare's noise and hats are found, and how soon the next can come."""


@dataclass
class Heard:
    """What one block brought."""

    hits: list[hitting.Hit] = field(default_factory=list)
    rejected: list[hitting.Hit] = field(default_factory=list)
    beats: list[beating.Beat] = field(default_factory=list)
    repaired: int = 0


class Analyser:
    """Hears one input.

    Feed blocks with ``push``; read ``band_levels``, ``rms``, ``peak`` and ``beat`` between. Feeding the same
    samples gives the same results whatever was asked in between.
    """

    def __init__(self, bands: tuple[BandSetting, ...] = USUAL_BANDS, detectors: tuple[hitting.Detector, ...] = USUAL_DETECTORS) -> None:
        self.blocks = 0
        self.recent = np.zeros(spectrum.POINTS)
        self.mean_square = 0.0
        self.last_mean_square = self.rms = self.peak = 0.0
        self.beat = beating.BeatState()
        self.detectors: tuple[hitting.Detector, ...] = ()
        self._states = hitting.new_states(0)
        self.bands: tuple[BandSetting, ...] = ()
        self.band_levels = np.zeros(0)
        self._bank = filters.Bank.of([])
        self.configure(bands, detectors)

    @property
    def time(self) -> float:
        """Stream time at the end of the last block, in seconds."""
        return self.blocks * BLOCK / SAMPLE_RATE

    def configure(self, bands: tuple[BandSetting, ...], detectors: tuple[hitting.Detector, ...]) -> None:
        """Change what is listened for. What stays the same keeps its state: moving one band disturbs no other."""
        edges, old_edges = _edges(bands, detectors), _edges(self.bands, self.detectors)
        bank = filters.Bank.of(edges)
        for i, edge in enumerate(edges):
            if edge in old_edges:
                bank.state[i] = self._bank.state[old_edges.index(edge)]
        old_levels = dict(zip((b.name for b in self.bands), self.band_levels))
        self.band_levels = np.array([old_levels.get(b.name, 0.0) for b in bands])
        self._configure_hits(bands, detectors)
        self.bands, self.detectors, self._bank = bands, detectors, bank
        self._gain = np.array([10 ** (b.gain_db / 20) for b in bands])
        self._up = np.array([levels.coefficient(b.attack_s, BLOCK_RATE) for b in bands])
        self._down = np.array([levels.coefficient(b.release_s, BLOCK_RATE) for b in bands])
        self._squares, self._peaks = np.zeros(len(edges)), np.zeros(len(edges))

    def _configure_hits(self, bands: tuple[BandSetting, ...], detectors: tuple[hitting.Detector, ...]) -> None:
        old = {detector.name: i for i, detector in enumerate(self.detectors)}
        states = hitting.new_states(len(detectors))
        for i, detector in enumerate(detectors):
            if detector.name in old:
                states[i] = self._states[old[detector.name]]
        self._states, self._settings = states, hitting.settings_of(detectors, len(bands))
        self._found = np.zeros(len(detectors), dtype=hitting.FOUND)

    def push(self, block: NDArray) -> Heard:
        """Hear one block: shape (256,) or (256, channels), full scale = 1; channels are averaged.

        Raises ValueError for any other length.
        """
        if block.shape[0] != BLOCK:
            raise ValueError(f"A block has {BLOCK} samples, not {block.shape[0]}.")
        heard = Heard()
        mono = _mono(block)
        bank = self._bank
        measured = _hear(mono, self.recent, bank.sections, bank.state, self._squares, self._peaks, self.band_levels, self._gain, self._up, self._down)
        if measured[2]:
            heard.repaired = measured[2]
            measured = _hear(levels.repair(mono), self.recent, bank.sections, bank.state, self._squares, self._peaks, self.band_levels, self._gain, self._up, self._down)
        total, peak, _ = measured
        self.blocks += 1
        now = self.time
        self.mean_square += _METER * (total - self.mean_square)
        self.last_mean_square, self.rms, self.peak = total, self.mean_square ** 0.5, peak
        if hitting.detect(self._settings, self._states, self._squares, total, now, self._found):
            for detector, found in zip(self.detectors, self._found.tolist()):
                reason, t, strength, threshold = found
                if reason != hitting.NOTHING:
                    hit = hitting.Hit(detector.name, t, now, strength, threshold, hitting.REASONS[reason])
                    (heard.rejected if reason else heard.hits).append(hit)
        if self.blocks % (beating.HOP // BLOCK) == 0:
            beat = beating.track(self.beat, self.recent[-beating.WINDOW:], now)
            if beat is not None:
                heard.beats.append(beat)
        return heard

    def display_spectrum(self) -> NDArray:
        """The last 2048 samples as display levels in dBFS, shape (96,)."""
        return spectrum.display(spectrum.amplitudes(self.recent))

    @property
    def band_squares(self) -> NDArray:
        """Mean square of each band in the last block, before its gain, shape (bands,)."""
        return self._squares[: len(self.bands)]

    @property
    def band_peaks(self) -> NDArray:
        """Largest absolute sample of each band in the last block, before its gain, shape (bands,)."""
        return self._peaks[: len(self.bands)]


def _mono(block: NDArray) -> NDArray:
    """Channels averaged (common practice when one channel will do), float64, shape (256,)."""
    if block.ndim == 1:
        return block.astype(np.float64, copy=False)
    if block.shape[1] == 2:
        return (block[:, 0] + block[:, 1]) * 0.5 if block.dtype == np.float64 else (block[:, 0].astype(np.float64) + block[:, 1]) * 0.5
    return block.mean(axis=1, dtype=np.float64)


_METER = levels.coefficient(0.3, BLOCK_RATE)
"""The level meter's integration time is 0.3 s."""


@njit(cache=True)
def _hear(mono: NDArray, recent: NDArray, sections: NDArray, state: NDArray, squares: NDArray, peaks: NDArray, band_levels: NDArray, gain: NDArray, up: NDArray, down: NDArray) -> tuple[float, float, int]:
    """One block through level, bank and band followers, all in place; returns what ``levels.measure`` does.

    Compiled in one piece: so short a block costs more in calls than in arithmetic. A damaged block changes nothing.
    """
    measured = measure(mono)
    if measured[2]:
        return measured
    kept = recent.shape[0] - mono.shape[0]
    for i in range(kept):
        recent[i] = recent[i + mono.shape[0]]
    recent[kept:] = mono
    filter_bank(sections, state, mono, squares, peaks)
    for i in range(band_levels.shape[0]):
        # RMS of a full-scale sine in the band reads 1, whatever the crest of the sound.
        level = np.sqrt(2.0 * squares[i]) * gain[i]
        band_levels[i] += (up[i] if level > band_levels[i] else down[i]) * (level - band_levels[i])
    return measured


def _edges(bands: tuple[BandSetting, ...], detectors: tuple[hitting.Detector, ...]) -> list[tuple[float, float]]:
    """The filters that are needed, in order: the bands, then what each detector listens to."""
    return [(band.low_hz, band.high_hz) for band in bands] + [edge for detector in detectors for edge in hitting.edges(detector)]
