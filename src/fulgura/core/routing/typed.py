"""A route in a few typed words: “kick ring radius” finds the signal and the parameter that are meant."""

import re
from collections.abc import Collection
from dataclasses import dataclass
from typing import Any

from fulgura.core.routing.indices import ParameterIndex
from fulgura.core.show.commands.routes import LONGEST_BEATS, LONGEST_MS, LONGEST_SWING, Wish
from fulgura.core.show.settings import MARK
from fulgura.core.show.signals import SignalInfo, SignalKind

MOST = 8


@dataclass(frozen=True)
class Meant:
    """One reading of what was typed."""

    signal: str
    target: str
    score: float
    wish: Wish = Wish()


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


NUMBER = r"-?\d*\.?\d+(?:/\d*\.?\d+)?"


def _time(units: str) -> str:
    return rf"(?P<time>{NUMBER})\s*(?P<unit>{units})"


TAILS = {
    "way": re.compile(rf"\s+(by step(?:\s+(?P<size>{NUMBER}))?|by chance|in turn)$"),
    "ends": re.compile(rf"\s+(?:from\s+(?P<low>{NUMBER})\s+)?to\s+(?P<high>{NUMBER})$"),
    "rise": re.compile(rf"\s+over\s+{_time('ms|s|beats?')}$"),
    "fall": re.compile(rf"\s+falling\s+{_time('ms|s')}$"),
}
"""What may stand behind the parameter, in any order."""
SWINGS = re.compile(rf"^lfo\s+(?P<every>{NUMBER})\s*(?P<unit>s|beats?)\s+")
"""An LFO that is made for it."""
LARGEST = 1e9
"""What is typed larger than that is as good as this."""


def _number(text: str | None) -> float | None:
    if text is None:
        return None
    above, _, below = text.partition("/")
    value = float(above) / (float(below) or 1.0) if below else float(above)
    return min(LARGEST, max(-LARGEST, value))


def _said(what: str, found: re.Match[str]) -> dict[str, Any]:
    """What words behind the parameter wish; too much of it is as much as there can be."""
    match what:
        case "way":
            way = {"by s": "step", "by c": "chance", "in t": "turns"}[found.group(1)[:4]]
            size = _number(found["size"])
            return {"way": way, "size": None if size is None else min(1.0, max(-1.0, size))}
        case "ends":
            return {"low": _number(found["low"]), "high": _number(found["high"])}
    time = max(0.0, _number(found["time"]) or 0.0)
    if found["unit"].startswith("beat"):
        return {f"{what}_beats": min(LONGEST_BEATS, time)}
    return {f"{what}_ms": min(LONGEST_MS, time * (1000.0 if found["unit"] == "s" else 1.0))}


def wished(text: str) -> tuple[str, Wish]:
    """(the words that name signal and parameter, what else is said of the route).

    >>> words, wish = wished("kick ring width from 0.05 to 0 over 2 s in turn")
    >>> words, wish.way, wish.low, wish.high, wish.rise_ms
    ('kick ring width', 'turns', 0.05, 0.0, 2000.0)
    >>> wished("lfo 40 s lattice orbit")[1].every
    40.0
    """
    text, said = " ".join(text.lower().split()), dict[str, Any]()
    while found := next(((what, it) for what, tail in TAILS.items() if (it := tail.search(text))), None):
        what, it = found
        said |= _said(what, it)
        text = text[: it.start()]
    if swing := SWINGS.search(text):
        every = max(0.0, _number(swing["every"]) or 0.0)
        said |= {"every": min(LONGEST_SWING, every), "unit": "s" if swing["unit"] == "s" else "beats"}
        text = text[swing.end() :]
    return text, Wish(**said)


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
    parameter; behind them may stand “from 0.1 to 0.9”, “over 2 s”, “falling 300 ms”, and “by step”,
    “by chance” or “in turn”. An LFO that is still to be made is meant by “lfo 40 s”; its signal is empty.

    part_names: part id -> what the desk calls it; unseen: ids of parts of looks that are not shown. Little
    words between (“moves”, “to”, “->”) are passed over.
    """
    text, wish = wished(text)
    asked = [word for word in _words(text) if word not in ("moves", "to", "on", "the", "of")]
    found: dict[tuple[str, str], float] = {}
    for cut in (0,) if wish.every else range(1, len(asked)):
        heard = [
            (signal.id, score)
            for signal in signals
            if (score := _fit(asked[:cut], _words(signal.name))) > 0.0
        ] or ([("", 1.0)] if wish.every else [])
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
                key = (signal, entry.target)
                share = UNSEEN if entry.part in unseen else 1.0
                share = SETTING if MARK in entry.part else share
                found[key] = max(found.get(key, 0.0), a * b * share)
    best = sorted(found.items(), key=lambda pair: -pair[1])[:MOST]
    kinds: dict[str, SignalKind] = {signal.id: signal.kind for signal in signals}
    parameters = {entry.target: entry.parameter for entry in indices}
    return [
        Meant(signal, target, round(score, 3), wish.of(kinds.get(signal, "modulator"), parameters[target]))
        for (signal, target), score in best
    ]
