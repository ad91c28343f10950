"""``fulgura analyze``: a file through exactly the live analyser, block by block, with no look-ahead."""

import time
from collections.abc import Iterator
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.kinds.descriptors import DESCRIPTOR_IDS
from fulgura.core.sound import levels
from fulgura.core.sound.analyser import Analyser, Heard
from fulgura.media.sound_file import pieces

ROWS_EVERY = 94
"""Blocks between two rows of tempo and of descriptors (0.5 s)."""


def analyze(path: Path) -> dict:
    """What the analyser heard in a file, ready for JSON. Times in stream seconds; raises AudioFileError.

    The last piece is filled up with silence to a whole block; nothing printed depends on what follows it.
    """
    Analyser().push(np.zeros((BLOCK, 1)))  # Compile before the clock runs.
    account = Account()
    length = rate = 0
    took = worked = 0.0
    for block, sounding, file_rate in _blocks(path):
        length, rate = length + sounding, file_rate
        block = block.astype(np.float64)
        started, at_work = time.perf_counter(), time.process_time()
        heard = account.analyser.push(block)
        # Reading the file and writing down what was heard is not hearing it.
        took, worked = took + time.perf_counter() - started, worked + time.process_time() - at_work
        account.note(heard)
    duration = length / SAMPLE_RATE
    return {
        "file": str(path),
        "sample_rate": rate,
        "hop": BLOCK,
        "duration_s": round(duration, 4),
        "realtime_factor": round(duration / took, 1),
        # The same by processor time: what the clock would say on a machine whose host lends it to nobody
        # else.
        "processor_factor": round(duration / max(worked, 1e-9), 1),
        # Averages are over the sound itself: the silence that fills the last block does not count.
        **account.levels(BLOCK / length),
        "hits": account.hits,
        "tempo": account.tempo,
        "beats": account.beats,
        "descriptors": account.described,
    }


class Account:
    """What an analyser heard, written down as it goes; times in stream seconds."""

    def __init__(self) -> None:
        self.analyser = Analyser()
        bands = len(self.analyser.bands)
        self.hits: dict[str, list[dict]] = {detector.name: [] for detector in self.analyser.detectors}
        self.tempo: list[dict] = []
        self.beats: list[dict] = []
        self.described: list[dict] = []
        self.squares, self.peaks = np.zeros(bands), np.zeros(bands)
        self.square = self.peak = 0.0
        self.blocks = 0

    def note(self, heard: Heard) -> None:
        """What the block that was just pushed brought."""
        analyser = self.analyser
        for hit in heard.hits:
            row = {"t": hit.t, "at": hit.at, "strength": hit.strength}
            self.hits[hit.detector].append({name: round(v, 4) for name, v in row.items()})
        for beat in heard.beats:
            self.beats.append(
                {"t": round(beat.t, 4), "at": round(beat.at, 4), "bar_position": beat.bar_position}
            )
        self.blocks += 1
        if self.blocks % ROWS_EVERY == 0:
            self._row()
        self.squares += analyser.band_squares
        self.peaks = np.maximum(self.peaks, analyser.band_peaks)
        self.square += analyser.last_mean_square
        self.peak = max(self.peak, analyser.peak)

    def _row(self) -> None:
        analyser = self.analyser
        now = {"t": round(analyser.time, 4)}
        beat = {"bpm": round(analyser.beat.bpm, 2), "confidence": round(analyser.beat.confidence, 3)}
        self.tempo.append({**now, **beat})
        values = zip(DESCRIPTOR_IDS, analyser.descriptors.values)
        self.described.append({**now, **{name: round(float(v), 4) for name, v in values}})

    def levels(self, share: float) -> dict:
        """Level, bands and loudness. share: of a mean over blocks that one block is."""
        loudness = self.analyser.loudness

        def dbfs(square: float) -> float:
            return round(levels.to_dbfs((square * share) ** 0.5), 3)

        return {
            "level": {"rms_dbfs": dbfs(self.square), "peak_dbfs": round(levels.peak_dbfs(self.peak), 3)},
            "bands": [
                {
                    "name": band.name,
                    "low_hz": band.low_hz,
                    "high_hz": band.high_hz,
                    "rms_dbfs": dbfs(self.squares[i]),
                    "peak_dbfs": round(levels.peak_dbfs(self.peaks[i]), 3),
                }
                for i, band in enumerate(self.analyser.bands)
            ],
            "loudness": {
                "integrated_lufs": round(loudness.integrated, 2),
                "momentary_max_lufs": round(loudness.momentary_max, 2),
                "short_term_max_lufs": round(loudness.short_term_max, 2),
            },
        }


def _blocks(path: Path) -> Iterator[tuple[NDArray, int, int]]:
    """(block (256, channels), how many of its samples are the file's, the file's rate); the last is filled
    with silence.
    """
    rest: NDArray | None = None
    rate = 0
    for samples, rate in pieces(path):
        samples = samples if rest is None else np.concatenate([rest, samples])
        whole = len(samples) // BLOCK * BLOCK
        for start in range(0, whole, BLOCK):
            yield samples[start : start + BLOCK], BLOCK, rate
        rest = samples[whole:]
    if rest is not None and len(rest):
        yield (
            np.concatenate([rest, np.zeros((BLOCK - len(rest), rest.shape[1]), dtype=rest.dtype)]),
            len(rest),
            rate,
        )


def told(heard: dict) -> Iterator[str]:
    """What was heard, in lines for people."""
    last = heard["tempo"][-1] if heard["tempo"] else {"bpm": 0.0, "confidence": 0.0}
    length, factor = heard["duration_s"], heard["realtime_factor"]
    yield f"{heard['file']}: {length:.1f} s, heard at {factor:.0f} times real time"
    level, loudness = heard["level"], heard["loudness"]["integrated_lufs"]
    rms, peak = level["rms_dbfs"], level["peak_dbfs"]
    yield f"level {rms:.1f} dBFS, peak {peak:.1f} dBFS, loudness {loudness:.1f} LUFS"
    for band in heard["bands"]:
        edges = f"{band['low_hz']:.0f} to {band['high_hz']:.0f} Hz"
        yield f"{band['name']}: {edges}, {band['rms_dbfs']:.1f} dBFS"
    counts = ", ".join(f"{len(rows)} {name}" for name, rows in heard["hits"].items())
    yield f"{counts}, {len(heard['beats'])} beats"
    yield f"tempo at the end {last['bpm']:.1f} BPM (confidence {last['confidence']:.2f})"
