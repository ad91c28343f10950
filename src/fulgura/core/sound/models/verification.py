"""Was it that drum: a few small networks that look again, block after block, at what ``drums`` thinks it
hears.

A tom begins as a kick or a snare does, and is told from them by how it goes on. So what sounds like a drum is
watched for a few blocks: told at once when it is beyond doubt, else when enough was heard (a sequential test
after A. Wald, "Sequential tests of statistical hypotheses", Annals of Mathematical Statistics 16(2), 1945).
The networks are multilayer perceptrons that see what those of ``drums`` see and what these log_odds lately;
``training/verification.py`` teaches them.
"""

from numba import njit

from fulgura.core.arrays import Array
from fulgura.core.kinds.listening import DRUMS
from fulgura.core.sound.models import drums, perceptron
from fulgura.core.sound.models.perceptron import Weights

FEATURES = drums.FEATURES + drums.PAST * len(DRUMS)
LIMIT = 8.0
"""Log odds are seen up to here: beyond, sure is sure."""


@njit(cache=True)
def look(features: Array, log_odds: Array, seen: Array) -> None:
    """Put together what the networks see, seen (FEATURES,) float32: features (120,) of ``drums`` and the log
    odds log_odds (PAST, 3), the latest first.
    """
    known = features.shape[0]
    seen[:known] = features
    for k in range(log_odds.shape[0]):
        for i in range(log_odds.shape[1]):
            seen[known] = min(LIMIT, max(-LIMIT, log_odds[k, i]))
            known += 1


@njit(cache=True)
def judge(
    features: Array,
    log_odds: Array,
    seen: Array,
    w1: Array,
    b1: Array,
    w2: Array,
    b2: Array,
    w3: Array,
    b3: Array,
    verified: Array,
) -> None:
    """The networks' mean log odds that what sounds like a drum is it, into verified (3,); seen is filled."""
    look(features, log_odds, seen)
    perceptron.ask(seen, w1, b1, w2, b2, w3, b3, verified)


def weights() -> Weights:
    """(w1, b1, w2, b2, w3, b3) as taught, float32; the first index of each is the network."""
    return perceptron.weights("verification.npz")
