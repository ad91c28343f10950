"""``fulgura analyze``: a file through exactly the live analyser, block by block, with no look-ahead."""

import time
from pathlib import Path

import numpy as np

from fulgura.core import BLOCK, SAMPLE_RATE
from fulgura.core.sound import levels
from fulgura.core.sound.analyser import Analyser
from fulgura.engine.audiofile import load

TEMPO_EVERY = 94
"""Blocks between two tempo rows (0.5 s)."""


def analyze(path: Path) -> dict:
    """What the analyser heard in a file, ready for JSON. Times in stream seconds; raises AudioFileError.

    The last piece is filled up with silence to a whole block; nothing printed depends on what follows it.
    """
    samples, rate = load(path)
    Analyser().push(np.zeros(BLOCK))  # Compile before the clock runs.
    analyser = Analyser()
    hits: dict[str, list[dict]] = {detector.name: [] for detector in analyser.detectors}
    tempo: list[dict] = []
    beats: list[dict] = []
    squares, peaks = np.zeros(len(analyser.bands)), np.zeros(len(analyser.bands))
    square = peak = 0.0
    blocks = -(-len(samples) // BLOCK)
    started, worked = time.perf_counter(), time.process_time()
    for i in range(blocks):
        block = samples[i * BLOCK : (i + 1) * BLOCK]
        if len(block) < BLOCK:
            block = np.concatenate([block, np.zeros((BLOCK - len(block), block.shape[1]), dtype=block.dtype)])
        heard = analyser.push(block)
        for hit in heard.hits:
            hits[hit.detector].append({"t": round(hit.t, 4), "at": round(hit.at, 4), "strength": round(hit.strength, 4)})
        for beat in heard.beats:
            beats.append({"t": round(beat.t, 4), "at": round(beat.at, 4), "bar_position": beat.bar_position})
        if i % TEMPO_EVERY == TEMPO_EVERY - 1:
            tempo.append({"t": round(analyser.time, 4), "bpm": round(analyser.beat.bpm, 2), "confidence": round(analyser.beat.confidence, 3)})
        squares += analyser.band_squares
        peaks = np.maximum(peaks, analyser.band_peaks)
        square += analyser.last_mean_square
        peak = max(peak, analyser.peak)
    took, worked = time.perf_counter() - started, time.process_time() - worked
    duration = len(samples) / SAMPLE_RATE
    # Averages are over the sound itself: the silence that fills the last block does not count.
    share = BLOCK / len(samples)
    return {
        "file": str(path), "sample_rate": rate, "hop": BLOCK, "duration_s": round(duration, 4), "realtime_factor": round(duration / took, 1),
        # The same by processor time: what the clock would say on a machine whose host lends it to nobody else.
        "processor_factor": round(duration / max(worked, 1e-9), 1),
        "level": {"rms_dbfs": round(levels.to_dbfs((square * share) ** 0.5), 3), "peak_dbfs": round(levels.peak_dbfs(peak), 3)},
        "bands": [
            {"name": band.name, "low_hz": band.low_hz, "high_hz": band.high_hz,
             "rms_dbfs": round(levels.to_dbfs((squares[i] * share) ** 0.5), 3), "peak_dbfs": round(levels.peak_dbfs(peaks[i]), 3)}
            for i, band in enumerate(analyser.bands)
        ],
        "hits": hits, "tempo": tempo, "beats": beats,
    }
