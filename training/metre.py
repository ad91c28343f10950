"""Teaches the networks of ``fulgura.core.sound.models.metre``; training/chain.py runs it.

Lessons are the grooves of grooves.py on all kits but those that listening.py keeps back, neither the patterns
of the tables nor the pieces that people wrote. Each is heard through the live analyser; then at its beats, a
little off as a tracker is, what must be said is which of them are ones, and half way between them that there
is no beat. Takes about half an hour, and PyTorch (see configurations.py). The shipped three are the better of
two such draws, told apart by little on clips that are not those of the tables (and on the recorded loops,
which are). Trained by AdamW (I. Loshchilov, F. Hutter, ICLR 2019) with dropout (N. Srivastava et al., JMLR
15, 2014).
"""

import sys
import time
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from bench.listening import listen
from fulgura.core.sound.analyser import Analyser
from fulgura.core.sound.beat import onset_curve
from fulgura.core.sound.models import metre, perceptron
from training.configurations import Configuration
from training.drums import go_over, taught_kits, weights_of
from training.material.recipes import grooves
from training.material.rhythms import SECONDS, LabelledClip, Recipe, play

BATCH, MOST_RATE, DROPOUT, DECAY = 512, 2e-3, 0.3, 1e-2
HIDDEN = (96, 32)
OFF_S = 0.008
"""How far, by standard deviation, the beats that are judged lie from where they are: each, and all together.
"""
FIRST = metre.LEAST
"""Beats of a lesson before the first that is asked about."""
OUT = Path(metre.__file__).with_name("metre.npz")


def heard(recipe: Recipe) -> tuple[LabelledClip, NDArray]:
    """A clip, and what the live analyser keeps of every step of it, shape (steps, 7)."""
    clip, analyser = play(recipe), Analyser()
    ring = analyser.beat.metre.ring = np.zeros(
        (len(clip.samples) // onset_curve.HOP, metre.HEARD), np.float32
    )
    listen(clip.samples, analyser)
    return clip, ring


def in_steps(t: NDArray | float) -> NDArray | float:
    """At which step, counted from 0 and in parts of one, that which sounds at a time in seconds is heard."""
    return (t + onset_curve.HEARD_LATE_S) / onset_curve.HOP_S - 1.0


def lesson(recipe: Recipe) -> tuple[NDArray, NDArray]:
    """(features (n, 224), what each is: OFF, BEAT or ONE), of a clip's beats and of as many places half way
    between.
    """
    (clip, ring), r = heard(recipe), np.random.default_rng(recipe.seed)
    kinds = np.where(np.arange(len(clip.beats)) % clip.beats_a_bar == 0, metre.ONE, metre.BEAT)
    # From any beat on: that a clip begins with a one is not to be learnt.
    start = int(r.integers(2 * clip.beats_a_bar))
    beats, kinds = clip.beats[start:], kinds[start:]
    rows = [
        _rows(ring, at + r.normal(0.0, OFF_S, len(at)) + r.normal(0.0, OFF_S))
        for at in (beats, beats[:-1] + 0.5 * np.diff(beats))
    ]
    said = [kinds[: len(rows[0]) + FIRST][FIRST:], np.full(len(rows[1]), metre.OFF)]
    return np.concatenate(rows), np.concatenate(said)


def _rows(ring: NDArray, beats: NDArray) -> NDArray:
    """What the network sees of each beat from FIRST on but the last."""
    at = in_steps(beats)
    seen = np.zeros((metre.BEATS - 1 + len(at) - 1, metre.PARTS * metre.HEARD), np.float32)
    for i in range(len(at) - 1):
        metre.part_features(ring, len(ring) - 1, at[i], at[i + 1], seen[metre.BEATS - 1 + i])
    return np.stack([seen[i : i + metre.BEATS].ravel() for i in range(FIRST, len(at) - 1)])


def teach(x: NDArray, y: NDArray, kinds: int, passes: int, seed: int) -> list[NDArray]:
    """One network's weights (w1, b1, w2, b2, w3, b3) after so many passes over the lessons; y: which of so
    many kinds each is.
    """
    import torch
    from torch.nn import Dropout, Linear, ReLU, Sequential

    torch.manual_seed(seed)
    seen, wanted = torch.from_numpy(x), torch.from_numpy(y)
    mean, spread = seen.mean(dim=0), seen.std(dim=0) + 1e-3
    layers = [Linear(*sizes) for sizes in zip((x.shape[1], *HIDDEN), (*HIDDEN, kinds))]
    network = Sequential(layers[0], ReLU(), Dropout(DROPOUT), layers[1], ReLU(), layers[2])
    steps = len(x) // BATCH
    adam = torch.optim.AdamW(network.parameters(), lr=MOST_RATE, weight_decay=DECAY)
    pace = torch.optim.lr_scheduler.OneCycleLR(adam, MOST_RATE, total_steps=passes * steps + 1)
    go_over(
        len(x),
        BATCH,
        passes,
        adam,
        pace,
        lambda rows: torch.nn.functional.cross_entropy(network((seen[rows] - mean) / spread), wanted[rows]),
    )
    return weights_of(layers, mean.numpy(), spread.numpy())


def run(configuration: Configuration) -> None:
    """Teach as the configuration says, and write the weights."""
    write(lesson, 3, OUT, configuration)


def write(lesson: Callable, kinds: int, out: Path, configuration: Configuration) -> None:
    """Lessons, networks, and the file of their weights. kinds: how many answers there are."""
    started = time.time()
    kits = taught_kits(configuration.recorded, configuration.own)
    with ProcessPoolExecutor(2) as pool:
        songs = grooves(kits, configuration.draws[0], configuration.clips)
        parts = list(pool.map(lesson, songs, chunksize=8))
    x, y = (np.concatenate([part[i] for part in parts]) for i in range(2))
    took = time.time() - started
    print(f"  {len(x)} rows of {SECONDS:.0f} s clips in {took:.0f} s", file=sys.stderr, flush=True)
    taught = [teach(x, y, kinds, configuration.passes, seed) for seed in configuration.seeds]
    np.savez(out, **perceptron.pack(taught))
