"""Teaches the networks of ``fulgura.core.sound.models.verification``; training/chain.py runs it.

What the networks of ``drums`` notice, on lessons like their own and on songs of grooves.py of which a third
are full of toms, is right or wrong by the clip's truth; each is looked at as long as it is when it counts.
Meanwhile a part of what is seen and held is left out by chance (N. Srivastava et al., "Dropout", JMLR 15,
2014). Takes about twenty minutes, and PyTorch (see configurations.py). The shipped networks had lessons so
made, of other seeds.
"""

import sys
import time
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import replace
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.kinds.listening import DRUMS
from fulgura.core.sound import hit_steps
from fulgura.core.sound.models import drums, perceptron, verification
from training.configurations import Configuration
from training.drums import SECONDS, features, go_over, taught_kits, weights_of
from training.material.recipes import grooves, recipes
from training.material.rhythms import GROOVE, LabelledClip, Recipe, play

BATCH, MOST_RATE = 1024, 2e-3
LEFT_OUT = (0.05, 0.25)
"""The shares of what is seen and of the first layer that are left out."""
HIDDEN = (128, 48)
OUT = Path(verification.__file__).with_name("verification.npz")
TOMS = 0.35
"""The share of the songs that are of the style of this name."""
NEAR_S = 0.05
"""How far from a true hit what is noticed may be for it."""
RIGHT, WRONG, EITHER = 1, 0, -1


def heard(clip: LabelledClip) -> tuple[NDArray, NDArray]:
    """What the second look sees of a clip, (blocks, FEATURES) float16, and the log odds of the first,
    (blocks, 3).
    """
    rows, said, weights = features(clip.samples), drums.unasked_log_odds(), drums.weights()
    seen, odds = (np.zeros((len(rows), verification.FEATURES), np.float32), np.zeros((len(rows), len(DRUMS))))
    for i, row in enumerate(rows):
        perceptron.ask(row, *weights, odds[i])
        said = np.concatenate([odds[i : i + 1], said[:-1]])
        verification.look(row, said, seen[i])
    return seen.astype(np.float16), odds


def noticed(odds: NDArray) -> Iterator[int]:
    """The blocks in which a drum is noticed that has these log odds (blocks,), as ``hits`` does."""
    waiting = False
    for i, odd in enumerate(odds[: -hit_steps.LOOKS]):
        if not waiting and odd >= hit_steps.NOTICED:
            waiting = True
            yield i
        elif waiting and odd < hit_steps.CALM:
            waiting = False


def lesson(recipe: Recipe) -> tuple[NDArray, NDArray, NDArray]:
    """(what is seen (n, FEATURES), which drum it is about (n,), RIGHT or WRONG (n,)) of a clip."""
    clip = play(recipe, SECONDS)
    x, about, y = [], [], []
    if not np.isfinite(clip.samples).all():  # A kit that has none of the song's voices is silent.
        return np.array(x), np.array(about), np.array(y)
    seen, odds = heard(clip)
    for drum, name in enumerate(DRUMS):
        for i in noticed(odds[:, drum]):
            right = answer(clip, name, (i + 1) * BLOCK / SAMPLE_RATE - hit_steps.LATENESS_S[drum])
            if right != EITHER:
                x += list(seen[i : i + hit_steps.LOOKS])
                about += [drum] * hit_steps.LOOKS
                y += [right] * hit_steps.LOOKS
    return np.array(x), np.array(about), np.array(y)


def answer(clip: LabelledClip, name: str, t: float) -> int:
    """Whether what was noticed at t seconds was the drum of that name."""
    for times, what in ((clip.hits, RIGHT), (clip.either_way, EITHER)):
        if len(times.get(name, ())) and np.abs(times[name] - t).min() <= NEAR_S:
            return what
    return WRONG


def chosen(clips: int, songs: int, true_songs: int, seed: int) -> list[Recipe]:
    """Patterns and songs like the lessons of ``drums``, on kits that are varied; and songs on sampled kits,
    of which half are as they are.
    """
    kits, sampled = (
        taught_kits(7, 72),
        [kit for kit in taught_kits(1, 0) if not kit.startswith(("own-", "strokes-"))],
    )
    r = np.random.default_rng(seed)
    plain = [
        replace(with_tom, vary=False, kit=with_tom.kit.split("+")[0]) if r.random() < 0.5 else with_tom
        for with_tom in with_toms(sampled, seed + 1, true_songs)
    ]
    return [*with_toms(kits, seed + 2, songs), *recipes(kits, seed + 3, clips, teaching=True), *plain]


def with_toms(kits: list[str], seed: int, count: int) -> list[Recipe]:
    r = np.random.default_rng(seed + 9)
    return [
        replace(groove, pattern=GROOVE + "toms") if r.random() < TOMS else groove
        for groove in grooves(kits, seed, count)
    ]


def lessons(what: list[Recipe]) -> tuple[NDArray, NDArray, NDArray]:
    with ProcessPoolExecutor(2) as pool:
        rows = [row for row in pool.map(lesson, what, chunksize=8) if len(row[0])]
    return tuple(np.concatenate([row[i] for row in rows]) for i in range(3))


def teach(x: NDArray, about: NDArray, y: NDArray, passes: int, seed: int) -> list[NDArray]:
    """One network's weights (w1, b1, w2, b2, w3, b3) after so many passes over the lessons."""
    import torch

    torch.manual_seed(seed)
    mean, spread = x[::7].astype(np.float32).mean(axis=0), x[::7].astype(np.float32).std(axis=0) + 1e-3
    seen, drum, right = (
        torch.from_numpy((x - mean) / spread).half(),
        torch.from_numpy(about)[:, None],
        torch.from_numpy(y.astype(np.float32)),
    )
    layers = [
        torch.nn.Linear(*sizes) for sizes in zip((verification.FEATURES, *HIDDEN), (*HIDDEN, len(DRUMS)))
    ]
    network = torch.nn.Sequential(
        torch.nn.Dropout(LEFT_OUT[0]),
        layers[0],
        torch.nn.ReLU(),
        torch.nn.Dropout(LEFT_OUT[1]),
        layers[1],
        torch.nn.ReLU(),
        layers[2],
    )
    adam = torch.optim.AdamW(network.parameters(), lr=MOST_RATE, weight_decay=0.01)
    pace = torch.optim.lr_scheduler.OneCycleLR(adam, MOST_RATE, total_steps=passes * (len(x) // BATCH) + 1)

    def loss_of(rows):
        return torch.nn.functional.binary_cross_entropy_with_logits(
            network(seen[rows].float()).gather(1, drum[rows])[:, 0], right[rows]
        )

    go_over(len(x), BATCH, passes, adam, pace, loss_of)
    return weights_of(layers, mean, spread)


def run(configuration: Configuration) -> None:
    """Teach as the configuration says, and write the weights; more than a quarter of the clips are patterns,
    the others songs.
    """
    started, clips = time.time(), configuration.clips
    x, about, y = lessons(
        chosen(27 * clips // 100, 35 * clips // 100, 38 * clips // 100, configuration.draws[0])
    )
    print(f"  {len(x)} rows in {time.time() - started:.0f} s", file=sys.stderr, flush=True)
    taught = [teach(x, about, y, configuration.passes, seed) for seed in configuration.seeds]
    np.savez(OUT, **perceptron.pack(taught))
