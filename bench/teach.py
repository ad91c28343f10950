"""Teaches the network of ``fulgura.core.sound.drums``: ``python -m bench.teach`` writes its weights anew.

Sounds come from rhythms.py; with the Debian packages that kits.py names installed, sampled kits are among them. Takes
about fifteen minutes; the shipped weights were made with --clips 3000 --passes 20, before the kits patches and
plain were there. Trained by Adam (D. Kingma, J. Ba, ICLR 2015) in plain numpy.
"""

import argparse
import sys
import time
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from bench.kits import HELD_OUT, ONE_KIT, available_kits
from bench.rhythms import Recipe, play, recipes
from fulgura.core import BLOCK, SAMPLE_RATE
from fulgura.core.sound import bands, drums

HIDDEN = (128, 48)
OUT = Path(drums.__file__).with_name("drums.npz")
SECONDS = 16.0


def features(samples: NDArray) -> NDArray:
    """What the network sees of a clip, block by block, shape (blocks, 120)."""
    bank, state = bands.Bank.of(list(drums.BANDS)), drums.new_state()
    squares, peaks = np.zeros(len(drums.BANDS)), np.zeros(len(drums.BANDS))
    seen = np.zeros((len(samples) // BLOCK, drums.FEATURES), dtype=np.float32)
    for i in range(len(seen)):
        bands.filter_bank(bank.sections, bank.state, samples[i * BLOCK : (i + 1) * BLOCK].astype(np.float64), squares, peaks)
        drums.look(state, squares, seen[i])
    return seen


def lesson(recipe: Recipe) -> tuple[NDArray, NDArray, NDArray]:
    """(features, wanted (blocks, 3), counts (blocks, 3)): where counts is 0 either answer is right."""
    clip = play(recipe, SECONDS)
    seen = features(clip.samples)
    wanted = np.zeros((len(seen), 3), dtype=np.float32)
    counts = np.ones((len(seen), 3), dtype=np.float32)
    for column, name in enumerate(drums.DRUMS):
        for times, right in ((clip.either_way.get(name, []), False), (clip.hits.get(name, []), True)):
            for t in times:
                block = int(t * SAMPLE_RATE) // BLOCK
                if right:
                    # Told two to four blocks later, when a drum can be told from another; sooner or longer is no fault.
                    counts[block : block + 2, column] *= wanted[block : block + 2, column]
                    wanted[block + 2 : block + 5, column], counts[block + 2 : block + 5, column] = 1.0, 1.0
                    counts[block + 5 : block + 7, column] *= wanted[block + 5 : block + 7, column]
                else:
                    counts[block : block + 8, column] = 0.0
    return seen.astype(np.float16), wanted.astype(np.float16), counts.astype(np.float16)


def lessons(count: int, seed: int) -> tuple[NDArray, NDArray, NDArray]:
    there = [k for k in available_kits() if not k.startswith(HELD_OUT)]
    # A recorded kit counts as much as a font's seven, which are alike.
    kits = there + 6 * [k for k in there if k.startswith((*ONE_KIT, "set-"))] + 2 * [k for k in there if k.startswith("strokes-")] + [f"own-{i}" for i in range(8, 40)]
    with ProcessPoolExecutor(2) as pool:
        rows = list(pool.map(lesson, recipes(kits, seed, count, teaching=True), chunksize=8))
    return tuple(np.concatenate([row[i] for row in rows]) for i in range(3))


def teach(x: NDArray, y: NDArray, m: NDArray, epochs: int, seed: int = 7) -> list[NDArray]:
    """Weights after so many passes over the lessons."""
    r = np.random.default_rng(seed)
    sizes = (drums.FEATURES, *HIDDEN, 3)
    p: list[NDArray] = []
    mean, spread = x.mean(axis=0, dtype=np.float64).astype(np.float32), x.std(axis=0, dtype=np.float64).astype(np.float32) + 1e-3
    for fan_in, fan_out in zip(sizes, sizes[1:]):
        p += [(r.standard_normal((fan_out, fan_in)) * np.sqrt(2.0 / fan_in)).astype(np.float32), np.zeros(fan_out, dtype=np.float32)]
    first, second = [np.zeros_like(w) for w in p], [np.zeros_like(w) for w in p]
    step, batch = 0, 2048
    steps = epochs * (len(x) // batch)
    for epoch in range(epochs):
        order, loss = r.permutation(len(x)), 0.0
        for start in range(0, len(order) - batch, batch):
            rows = order[start : start + batch]
            a0 = (x[rows].astype(np.float32) - mean) / spread
            want, count = y[rows].astype(np.float32), m[rows].astype(np.float32)
            a1 = np.maximum(a0 @ p[0].T + p[1], 0.0)
            a2 = np.maximum(a1 @ p[2].T + p[3], 0.0)
            out = 1.0 / (1.0 + np.exp(-np.clip(a2 @ p[4].T + p[5], -30, 30)))
            d3 = (out - want) * count / batch
            loss += float(-(count * (want * np.log(out + 1e-7) + (1 - want) * np.log(1 - out + 1e-7))).mean())
            d2 = (d3 @ p[4]) * (a2 > 0)
            d1 = (d2 @ p[2]) * (a1 > 0)
            gradients = [d1.T @ a0, d1.sum(0), d2.T @ a1, d2.sum(0), d3.T @ a2, d3.sum(0)]
            step += 1
            rate = 3e-3 * 0.5 * (1 + np.cos(np.pi * step / steps)) + 1e-5
            for i, g in enumerate(gradients):
                first[i] += 0.1 * (g - first[i])
                second[i] += 0.001 * (g * g - second[i])
                p[i] -= rate * (first[i] / (1 - 0.9 ** step)) / (np.sqrt(second[i] / (1 - 0.999 ** step)) + 1e-8)
        print(f"  pass {epoch + 1}: loss {loss / max(1, len(x) // batch):.5f}", file=sys.stderr, flush=True)
    # The features' scaling goes into the first layer.
    p[1] = p[1] - (p[0] / spread) @ mean
    p[0] = p[0] / spread
    return p


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--clips", type=int, default=1600)
    parser.add_argument("--passes", type=int, default=16)
    chosen = parser.parse_args()
    started = time.time()
    x, y, m = lessons(chosen.clips, 100)
    print(f"  {len(x)} blocks in {time.time() - started:.0f} s", file=sys.stderr, flush=True)
    p = teach(x, y, m, chosen.passes)
    np.savez(OUT, **{name: w.astype(np.float16 if name[0] == "w" else np.float32) for name, w in zip(("w1", "b1", "w2", "b2", "w3", "b3"), p)})


if __name__ == "__main__":
    main()
