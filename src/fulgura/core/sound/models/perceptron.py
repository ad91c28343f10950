"""Small multilayer perceptrons, run from their weights: two hidden layers of rectified units, several
networks side by side.

Networks that were taught alike from different beginnings differ most where they are wrong, so that their mean
is righter than each (L. K. Hansen, P. Salamon, "Neural network ensembles", IEEE TPAMI 12(10), 1990).
"""

from functools import lru_cache
from importlib.resources import files

import numpy as np
from numba import njit

from fulgura.core.arrays import Array

NAMES = ("w1", "b1", "w2", "b2", "w3", "b3")


@njit(cache=True, fastmath={"contract", "reassoc"})
def _layer(weights: Array, biases: Array, before: Array) -> Array:
    """weights (n, m) times before (m,), plus biases (n,)."""
    rows = weights.shape[0]
    out = np.empty(rows, dtype=np.float32)
    # Four rows at a time, so that what came before is read once for all of them; the last ones may be done
    # twice.
    for i in range(0, rows, 4):
        a, b, c = min(i + 1, rows - 1), min(i + 2, rows - 1), min(i + 3, rows - 1)
        one, two, three, four = weights[i], weights[a], weights[b], weights[c]
        first, second, third, fourth = biases[i], biases[a], biases[b], biases[c]
        for k in range(before.shape[0]):
            first += one[k] * before[k]
            second += two[k] * before[k]
            third += three[k] * before[k]
            fourth += four[k] * before[k]
        out[i], out[a], out[b], out[c] = first, second, third, fourth
    return out


@njit(cache=True)
def _rectified(values: Array) -> Array:
    """What is below 0 becomes 0, in place."""
    for i in range(values.shape[0]):
        values[i] = max(values[i], np.float32(0.0))
    return values


@njit(cache=True)
def ask(
    features: Array, w1: Array, b1: Array, w2: Array, b2: Array, w3: Array, b3: Array, answers: Array
) -> None:
    """The mean of what the networks say, one for each first index of the weights, into answers: the last
    layer as it is.
    """
    networks = w1.shape[0]
    answers[:] = 0.0
    for n in range(networks):
        answers += _layer(
            w3[n], b3[n], _rectified(_layer(w2[n], b2[n], _rectified(_layer(w1[n], b1[n], features))))
        )
    answers /= networks


Weights = tuple[Array, Array, Array, Array, Array, Array]
"""w1, b1, w2, b2, w3, b3: see NAMES."""


@lru_cache
def weights(name: str) -> Weights:
    """The weights by NAMES of the networks in a file of this package, float32; the first index of each is the
    network.
    """
    with files(__package__).joinpath(name).open("rb") as file:
        stored = np.load(file)
        w1, b1, w2, b2, w3, b3 = (np.ascontiguousarray(stored[name], dtype=np.float32) for name in NAMES)
    return w1, b1, w2, b2, w3, b3


def pack(networks: list[list[Array]]) -> dict[str, Array]:
    """What a file of weights holds: each network's (w1, b1, w2, b2, w3, b3), the weights with 16 bits."""
    return {
        name: np.stack(parts).astype(np.float16 if name[0] == "w" else np.float32)
        for name, parts in zip(NAMES, zip(*networks))
    }
