"""A route in a few typed words: “kick ring radius” finds the signal and the parameter that are meant."""

import re
from collections.abc import Collection
from dataclasses import dataclass

from fulgura.core.routing.indices import ParameterIndex
from fulgura.core.show.settings import MARK
from fulgura.core.show.signals import SignalInfo

MOST = 8


@dataclass(frozen=True)
class Meant:
    """One reading of what was typed."""

    signal: str
    target: str
    score: float
    step: bool = False


def _words(text: str) -> list[str]:
    return re.findall(r"[a-z0-9]+", text.lower())


def _fit(asked: list[str], name: list[str]) -> float:
    """How well typed words fit a name: each must begin one of its words; whole words and few left-over ones
    count more. 0: not at all.
    """
    left, score = list(name), 0.0
    for word in asked:
        found = next((candidate for candidate in left if candidate == word), None) or next(
            (candidate for candidate in left if candidate.startswith(word)), None
        )
        if found is None:
            return 0.0
        score += 1.0 if found == word else 0.6 * len(word) / len(found) + 0.2
        left.remove(found)
    return score / (len(asked) + 0.25 * len(left))


BY_STEP = ("by", "step")
UNSEEN, SETTING = 0.5, 0.3
"""What belongs to a look that is not shown, or is itself what listens or routes, is only meant where nothing
that is seen fits as well.
"""


def understand(
    text: str,
    signals: list[SignalInfo],
    indices: list[ParameterIndex],
    part_names: dict[str, str],
    unseen: Collection[str] = (),
) -> list[Meant]:
    """What may be meant, the likeliest first, at most eight. The first words name the signal, the rest the
    parameter; “by step” at the end has each hit go one step on.

    part_names: part id -> what the desk calls it; unseen: ids of parts of looks that are not shown. Little
    words between (“moves”, “to”, “->”) are passed over.
    """
    asked = [word for word in _words(text) if word not in ("moves", "to", "on", "the", "of")]
    step = tuple(asked[-2:]) == BY_STEP
    asked = asked[:-2] if step else asked
    found: dict[tuple[str, str], float] = {}
    for cut in range(1, len(asked)):
        heard = [
            (signal, score) for signal in signals if (score := _fit(asked[:cut], _words(signal.name))) > 0.0
        ]
        if not heard:
            continue
        moved = [
            (entry, score)
            for entry in indices
            if (
                score := _fit(
                    asked[cut:], _words(f"{part_names.get(entry.part, entry.part)} {entry.parameter.title}")
                )
            )
            > 0.0
        ]
        for signal, a in heard:
            for entry, b in moved:
                key = (signal.id, entry.target)
                share = UNSEEN if entry.part in unseen else 1.0
                share = SETTING if MARK in entry.part else share
                found[key] = max(found.get(key, 0.0), a * b * share)
    best = sorted(found.items(), key=lambda pair: -pair[1])[:MOST]
    return [Meant(signal, target, round(score, 3), step) for (signal, target), score in best]
