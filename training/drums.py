"""Teaches the networks of ``fulgura.core.sound.models.drums``; training/chain.py runs it.

Each has lessons of its own (L. Breiman, "Bagging predictors", Machine Learning 24, 1996), on sounds from
rhythms.py; with the Debian packages that kits.py names installed, sampled kits are among them. Takes about
twenty minutes a network, and PyTorch, which nothing else here needs (pip install torch==2.13.0). Trained by
Adam (D. Kingma, J. Ba, ICLR 2015). What is known of the
shipped ones stands in configurations.py.
"""

import sys
import time
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.kinds.listening import DRUMS
from fulgura.core.sound import bands
from fulgura.core.sound.models import drums, perceptron
from training.configurations import Configuration
from training.material.kits import HELD_OUT, available_kits
from training.material.recipes import recipes
from training.material.rhythms import Recipe, play
from training.material.sampled import ONE_KIT

BATCH, MOST_RATE = 4096, 3e-3
HIDDEN = (128, 48)
OUT = Path(drums.__file__).with_name("drums.npz")
SECONDS = 16.0


def features(samples: NDArray) -> NDArray:
    """What the network sees of a clip, block by block, shape (blocks, 120)."""
    bank, state = bands.Bank.of(list(drums.BANDS)), drums.new_state()
    squares, peaks = np.zeros(len(drums.BANDS)), np.zeros(len(drums.BANDS))
    seen = np.zeros((len(samples) // BLOCK, drums.FEATURES), dtype=np.float32)
    for i in range(len(seen)):
        bands.filter_bank(
            bank.rows, bank.state, samples[i * BLOCK : (i + 1) * BLOCK].astype(np.float64), squares, peaks
        )
        drums.look(state, squares, seen[i])
    return seen


def lesson(recipe: Recipe) -> tuple[NDArray, NDArray, NDArray]:
    """(features, wanted (blocks, 3), counts (blocks, 3)): where counts is 0 either answer is right."""
    clip = play(recipe, SECONDS)
    seen = features(clip.samples)
    wanted = np.zeros((len(seen), 3), dtype=np.float32)
    counts = np.ones((len(seen), 3), dtype=np.float32)
    for column, name in enumerate(DRUMS):
        for times, right in ((clip.either_way.get(name, []), False), (clip.hits.get(name, []), True)):
            for t in times:
                block = int(t * SAMPLE_RATE) // BLOCK
                if right:
                    # Told two to four blocks later, when a drum can be told from another; sooner or longer is
                    # no fault.
                    counts[block : block + 2, column] *= wanted[block : block + 2, column]
                    wanted[block + 2 : block + 5, column], counts[block + 2 : block + 5, column] = 1.0, 1.0
                    counts[block + 5 : block + 7, column] *= wanted[block + 5 : block + 7, column]
                else:
                    counts[block : block + 8, column] = 0.0
    return seen.astype(np.float16), wanted.astype(np.float16), counts.astype(np.float16)


def lessons(configuration: Configuration, draw: int) -> tuple[NDArray, NDArray, NDArray]:
    """Of one draw: what is seen, what is wanted, what counts."""
    kits = taught_kits(configuration.recorded, configuration.own)
    with ProcessPoolExecutor(2) as pool:
        rows = list(pool.map(lesson, recipes(kits, draw, configuration.clips, teaching=True), chunksize=8))
    return tuple(np.concatenate([row[i] for row in rows]) for i in range(3))


def teach(x: NDArray, y: NDArray, m: NDArray, passes: int, seed: int) -> list[NDArray]:
    """One network's weights (w1, b1, w2, b2, w3, b3) after so many passes over the lessons."""
    import torch

    torch.manual_seed(seed)
    seen, wanted, counts = (torch.from_numpy(array) for array in (x, y, m))
    some = seen[::37].float()
    mean, spread = some.mean(dim=0), some.std(dim=0) + 1e-3
    layers = [torch.nn.Linear(*sizes) for sizes in zip((drums.FEATURES, *HIDDEN), (*HIDDEN, len(DRUMS)))]
    network = torch.nn.Sequential(layers[0], torch.nn.ReLU(), layers[1], torch.nn.ReLU(), layers[2])
    steps = len(x) // BATCH
    adam = torch.optim.Adam(network.parameters(), lr=MOST_RATE)
    pace = torch.optim.lr_scheduler.OneCycleLR(
        adam, MOST_RATE, total_steps=passes * steps + 1, pct_start=0.05
    )

    def loss_of(rows):
        losses = torch.nn.functional.binary_cross_entropy_with_logits(
            network((seen[rows].float() - mean) / spread), wanted[rows].float(), reduction="none"
        )
        return (losses * counts[rows].float()).mean()

    go_over(len(x), BATCH, passes, adam, pace, loss_of)
    return weights_of(layers, mean.numpy(), spread.numpy())


def go_over(count: int, batch: int, passes: int, adam, pace, loss_of: Callable) -> None:
    """So many passes over the lessons, a batch at a time in random order; loss_of: the loss of the rows of a
    batch.
    """
    import torch

    for number in range(passes):
        order, steps, loss_sum = torch.randperm(count), count // batch, 0.0
        for step in range(steps):
            loss = loss_of(order[step * batch : (step + 1) * batch])
            adam.zero_grad()
            loss.backward()
            adam.step()
            pace.step()
            loss_sum += loss.item()
        print(f"  pass {number + 1}: loss {loss_sum / steps:.5f}", file=sys.stderr, flush=True)


def weights_of(layers: list, mean: NDArray, spread: NDArray) -> list[NDArray]:
    """(w1, b1, w2, b2, w3, b3) of a network whose features were scaled: the scaling goes into the first
    layer.
    """
    p = [tensor.detach().numpy().copy() for layer in layers for tensor in (layer.weight, layer.bias)]
    p[1] -= (p[0] / spread) @ mean
    p[0] /= spread
    return p


def taught_kits(recorded: int, own: int) -> list[str]:
    """Kits that lessons may be played on. A recorded kit counts so many times as much as a font's seven,
    which are alike; own: synthesised kits.
    """
    there = [k for k in available_kits() if not k.startswith(HELD_OUT)]
    return (
        there
        + (recorded - 1) * [k for k in there if k.startswith((*ONE_KIT, "set-"))]
        + 2 * [k for k in there if k.startswith("strokes-")]
        + [f"own-{i}" for i in range(8, own)]
    )


def run(configuration: Configuration) -> None:
    """Teach as the configuration says, and write the weights."""
    taught = []
    for draw, seed in zip(configuration.draws, configuration.seeds):
        started = time.time()
        x, y, m = lessons(configuration, draw)
        print(f"  {len(x)} blocks in {time.time() - started:.0f} s", file=sys.stderr, flush=True)
        taught.append(teach(x, y, m, configuration.passes, seed))
    np.savez(OUT, **perceptron.pack(taught))
