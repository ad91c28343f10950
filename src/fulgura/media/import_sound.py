"""Takes a sound file into the library: whatever it was, it becomes 48 kHz stereo FLAC with its picture and
tempo.

Runs as a process of its own (``python -m fulgura import-sound``), so that a damaged file hurts nothing else;
it holds a few seconds of the sound at a time, however long the file is.
"""

import json
import shutil
from collections.abc import Iterable
from contextlib import ExitStack
from pathlib import Path

import numpy as np
import soundfile
from numpy.typing import NDArray

from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.sound.analyser import Analyser
from fulgura.kept_file import put_in_place, sync
from fulgura.media.sound_file import UNKNOWN_LENGTH, pieces

COLUMN = SAMPLE_RATE // 20
"""Samples behind one column of the finest overview."""
MOST_COLUMNS = 1_200
TEMPO_FROM_S = 90
"""Tempo is read from the first minute and a half: enough to be sure, and soon done."""
SURE = 0.4


def import_sound(source: Path, target: Path) -> dict:
    """Write the library's file; returns seconds, bpm (None when there is no steady beat) and peaks 0..1.

    Raises AudioFileError when it cannot be read, OSError when it cannot be written (a full disk).
    """
    peaks: list[float] = []
    tempi: list[float] = []
    analyser, length = Analyser(), 0
    rest = np.zeros((0, 2), dtype=np.float32)
    draft = target.with_suffix(".new")
    try:
        with ExitStack() as opened:
            if _is_ready(source):
                # It already is as the library keeps its tracks, and may be finer: every bit stays.
                shutil.copyfile(source, draft)
                file = None
            else:
                file = opened.enter_context(
                    soundfile.SoundFile(draft, "w", SAMPLE_RATE, 2, format="FLAC", subtype="PCM_16")
                )
            for samples, _ in pieces(source):
                stereo = (
                    np.repeat(samples, 2, axis=1)
                    if samples.shape[1] == 1
                    else np.ascontiguousarray(samples[:, :2])
                )
                stereo = np.clip(np.nan_to_num(stereo), -1.0, 1.0)
                if file is not None:
                    file.write(stereo)
                length += len(stereo)
                rest = np.concatenate([rest, stereo])
                whole = len(rest) // COLUMN * COLUMN
                peaks += np.abs(rest[:whole]).reshape(-1, COLUMN * 2).max(axis=1).tolist()
                rest = rest[whole:]
                if length <= TEMPO_FROM_S * SAMPLE_RATE:
                    tempi += _tempi(analyser, stereo)
        wave = target.with_suffix(".wave.json")
        wave.write_text(json.dumps({"seconds": length / SAMPLE_RATE, "peaks": thinned(peaks)}))
        sync(wave)
        put_in_place(draft, target)
    finally:
        draft.unlink(missing_ok=True)
    return {
        "seconds": length / SAMPLE_RATE,
        "bpm": round(float(np.median(tempi)), 1) if len(tempi) > 20 else None,
    }


def _is_ready(source: Path) -> bool:
    """Whether a file is 48 kHz stereo FLAC, and whole."""
    try:
        with soundfile.SoundFile(str(source)) as file:
            return (file.format, file.samplerate, file.channels) == (
                "FLAC",
                SAMPLE_RATE,
                2,
            ) and file.frames < UNKNOWN_LENGTH
    except (soundfile.LibsndfileError, OSError):
        return False


def _tempi(analyser: Analyser, stereo: NDArray) -> Iterable[float]:
    """Tempi that the live analyser was sure of, one a second."""
    found = []
    for i in range(len(stereo) // BLOCK):
        analyser.push(stereo[i * BLOCK : (i + 1) * BLOCK].astype(np.float64))
        if analyser.blocks % 47 == 0 and analyser.time > 8 and analyser.beat.confidence > SURE:
            found.append(analyser.beat.bpm)
    return found


def thinned(peaks: list[float]) -> list[float]:
    """At most 1200 columns, each the largest of those it stands for."""
    if len(peaks) <= MOST_COLUMNS:
        return [round(p, 3) for p in peaks]
    edges = np.linspace(0, len(peaks), MOST_COLUMNS + 1).astype(int)
    return [round(max(peaks[a:b]), 3) for a, b in zip(edges, edges[1:])]
