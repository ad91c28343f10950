"""Teaches the networks of ``fulgura.core.sound.models.hypotheses``; training/chain.py runs it.

Lessons are those of training/metre.py. At moments of chance, soon after the beginning and after a jump of
tempo more often than else, rows of even beats that end there are laid over what was heard: at the true tempo,
on the beat and half way between; at half and twice of it; and at others, most of them those that a listener
falls for, as three for two, or the tempo from before the jump. Takes about forty minutes, and PyTorch (see
teach.py).
"""

from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from fulgura.core.sound.beat import onset_curve, tempo_filter
from fulgura.core.sound.models import hypotheses, metre
from training.configurations import Configuration
from training.material.rhythms import SECONDS, Recipe
from training.metre import OFF_S, heard, in_steps, write

MOMENTS, WRONG_ONES = 50, 3
"""Of each clip, and how many rows at a wrong tempo for each of these."""
RATIOS = tuple(
    a / b for a, b in ((2, 3), (3, 2), (3, 4), (4, 3)) * 2 + ((4, 5), (5, 4), (1, 3), (3, 1), (5, 3), (3, 5))
)
"""Of a wrong beat's length to the true one's; so many more are by chance between the two ends of ANY."""
ANY, RATIO_SHARE = (0.55, 1.85), 0.75
PLACES = (0.0, 0.0, 0.25, 1 / 3, 0.5, 2 / 3, 0.75)
"""Where in a true beat a row at a wrong tempo ends; one in three ends anywhere."""
DRIFT = 0.006
"""How far off the filter's tempo is, by standard deviation."""
APART = 0.06
"""Tempi that differ by less than this share are not to be told apart."""
SHORTEST_S, LONGEST_S = 60.0 / tempo_filter.HIGHEST_BPM, 60.0 / tempo_filter.LOWEST_BPM
OUT = Path(hypotheses.__file__).with_name("hypotheses.npz")


def lesson(recipe: Recipe) -> tuple[NDArray, NDArray]:
    """(features (n, 224), what each row is: ON, OFF, LEVEL or WRONG) of a clip."""
    (clip, ring), r = heard(recipe), np.random.default_rng(recipe.seed)
    beats = clip.beats[clip.beats < SECONDS - 0.7]
    x, y = [], []
    for _ in range(MOMENTS):
        for now, end, interval, kind in _rows_at(beats, _moment(beats, clip.change_s, r), clip.change_s, r):
            if SHORTEST_S <= interval <= LONGEST_S:
                end += interval * np.floor((now - end) / interval)
                seen = np.zeros((metre.BEATS, metre.PARTS * metre.HEARD), np.float32)
                metre.beat_features(
                    ring, int(in_steps(now)), float(in_steps(end)), interval / onset_curve.HOP_S, seen
                )
                x.append(seen.ravel())
                y.append(kind)
    return np.array(x), np.array(y)


def _moment(beats: NDArray, change_s: float, r: np.random.Generator) -> int:
    """The number of a beat."""
    if change_s and r.random() < 0.5:
        return min(int(np.searchsorted(beats, change_s) + r.integers(2, 10)), len(beats) - 2)
    return int(r.integers(3, 11 if r.random() < 0.2 else len(beats) - 1))


def _rows_at(
    beats: NDArray, i: int, change_s: float, r: np.random.Generator
) -> list[tuple[float, float, float, int]]:
    """(now, where a row ends or would, seconds between its beats, what it is), all within the beat after the
    one of a number.
    """
    true = beats[i] - beats[i - 1]
    now, at, near = (
        beats[i] + r.uniform(0.02, 1.0) * true,
        beats[i] + r.normal(0.0, OFF_S),
        true * (1.0 + r.normal(0.0, DRIFT)),
    )
    rows = [(now, at, near, hypotheses.ON), (now, at - 0.5 * near, near, hypotheses.OFF)]
    if r.random() < 0.35:
        rows.append(
            (
                now,
                at + float(r.choice((0.0, 0.5))) * near,
                near * float(r.choice((0.5, 2.0))),
                hypotheses.LEVEL,
            )
        )
    for _ in range(WRONG_ONES):
        if change_s and 0.0 < beats[i] - change_s < 8.0 and r.random() < 0.4:
            last = int(np.searchsorted(beats, change_s - 1e-6)) - 1
            end, interval = (
                beats[last] + r.normal(0.0, OFF_S),
                (beats[last] - beats[last - 1]) * (1.0 + r.normal(0.0, DRIFT)),
            )
        else:
            ratio = (
                float(r.choice(RATIOS))
                if r.random() < RATIO_SHARE
                else float(np.exp(r.uniform(*np.log(ANY))))
            )
            interval = true * ratio * (1.0 + r.normal(0.0, DRIFT))
            end = at + true * (float(r.choice(PLACES)) if r.random() < 0.66 else r.random())
        if min(abs(interval / true / level - 1.0) for level in (0.5, 1.0, 2.0)) > APART:
            rows.append((now, end, interval, hypotheses.WRONG))
    return rows


def run(configuration: Configuration) -> None:
    """Teach as the configuration says, and write the weights."""
    write(lesson, 4, OUT, configuration)
