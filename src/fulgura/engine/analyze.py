"""``fulgura analyze``: a file through exactly the live analyser, block by block, with no look-ahead."""

import time
from collections.abc import Iterator
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.kinds.descriptors import DESCRIPTOR_IDS
from fulgura.core.sound import levels
from fulgura.core.sound.analyser import Analyser
from fulgura.media.sound_file import pieces

ROWS_EVERY = 94
"""Blocks between two rows of tempo and of descriptors (0.5 s)."""


def analyze(path: Path) -> dict:
    """What the analyser heard in a file, ready for JSON. Times in stream seconds; raises AudioFileError.

    The last piece is filled up with silence to a whole block; nothing printed depends on what follows it.
    """
    Analyser().push(np.zeros((BLOCK, 1)))  # Compile before the clock runs.
    analyser = Analyser()
    hits: dict[str, list[dict]] = {detector.name: [] for detector in analyser.detectors}
    tempo: list[dict] = []
    beats: list[dict] = []
    described: list[dict] = []
    squares, peaks = np.zeros(len(analyser.bands)), np.zeros(len(analyser.bands))
    square = peak = 0.0
    length = rate = 0
    took = worked = 0.0
    for i, (block, sounding, file_rate) in enumerate(_blocks(path)):
        length, rate = length + sounding, file_rate
        block = block.astype(np.float64)
        started, at_work = time.perf_counter(), time.process_time()
        heard = analyser.push(block)
        # Reading the file and writing down what was heard is not hearing it.
        took, worked = took + time.perf_counter() - started, worked + time.process_time() - at_work
        for hit in heard.hits:
            hits[hit.detector].append(
                {"t": round(hit.t, 4), "at": round(hit.at, 4), "strength": round(hit.strength, 4)}
            )
        for beat in heard.beats:
            beats.append({"t": round(beat.t, 4), "at": round(beat.at, 4), "bar_position": beat.bar_position})
        if i % ROWS_EVERY == ROWS_EVERY - 1:
            tempo.append(
                {
                    "t": round(analyser.time, 4),
                    "bpm": round(analyser.beat.bpm, 2),
                    "confidence": round(analyser.beat.confidence, 3),
                }
            )
            described.append(
                {
                    "t": round(analyser.time, 4),
                    **{
                        name: round(float(v), 4)
                        for name, v in zip(DESCRIPTOR_IDS, analyser.descriptors.values)
                    },
                }
            )
        squares += analyser.band_squares
        peaks = np.maximum(peaks, analyser.band_peaks)
        square += analyser.last_mean_square
        peak = max(peak, analyser.peak)
    loudness = analyser.loudness
    duration = length / SAMPLE_RATE
    # Averages are over the sound itself: the silence that fills the last block does not count.
    share = BLOCK / length
    return {
        "file": str(path),
        "sample_rate": rate,
        "hop": BLOCK,
        "duration_s": round(duration, 4),
        "realtime_factor": round(duration / took, 1),
        # The same by processor time: what the clock would say on a machine whose host lends it to nobody
        # else.
        "processor_factor": round(duration / max(worked, 1e-9), 1),
        "level": {
            "rms_dbfs": round(levels.to_dbfs((square * share) ** 0.5), 3),
            "peak_dbfs": round(levels.peak_dbfs(peak), 3),
        },
        "bands": [
            {
                "name": band.name,
                "low_hz": band.low_hz,
                "high_hz": band.high_hz,
                "rms_dbfs": round(levels.to_dbfs((squares[i] * share) ** 0.5), 3),
                "peak_dbfs": round(levels.peak_dbfs(peaks[i]), 3),
            }
            for i, band in enumerate(analyser.bands)
        ],
        "loudness": {
            "integrated_lufs": round(loudness.integrated, 2),
            "momentary_max_lufs": round(loudness.momentary_max, 2),
            "short_term_max_lufs": round(loudness.short_term_max, 2),
        },
        "hits": hits,
        "tempo": tempo,
        "beats": beats,
        "descriptors": described,
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
