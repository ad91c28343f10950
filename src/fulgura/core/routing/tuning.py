"""What listens and routes is moved itself: bands, hits, gains, shapers, amounts take their live values.

A tick hears, routes, and moves these: so what a route makes of them acts from the next frame on, and nothing
can feed back into itself within one.
"""

from math import log2
from typing import Any

from fulgura.core.arrays import Array
from fulgura.core.kinds.parameters import Parameter
from fulgura.core.routing.router import Router
from fulgura.core.show.document import Show
from fulgura.core.show.inputs import NARROWEST
from fulgura.core.show.settings import MARK, SOUND

STEPS_AN_OCTAVE = 24
"""How finely edges of bands are moved: each place is a filter to be designed."""
GRAINS = {"dB": 0.1, "dBFS": 0.1, "LUFS": 0.1, "ms": 1.0}
FINE = 0.002
LISTENING = ("input", "level", "band", "hit")


def _grain(parameter: Parameter, value: float) -> float:
    """A value as finely as listening is moved, within its range."""
    if parameter.unit == "Hz":
        value = float(2.0 ** (round(log2(max(value, 1e-3)) * STEPS_AN_OCTAVE) / STEPS_AN_OCTAVE))
    else:
        grain = GRAINS.get(parameter.unit, FINE)
        value = round(value / grain) * grain
    low, high = parameter.low, parameter.high
    value = value if low is None else max(low, value)
    return round(value if high is None else min(high, value), 6)


class Tuning:
    """``configure`` with an edited show; ``step`` each tick, when its live values are there."""

    def __init__(self) -> None:
        self._routed: frozenset[str] = frozenset()
        self._acting: set[str] = set()
        self._heard: dict[str, dict[str, float]] = {}
        """What listens otherwise than by hand: id -> its numbers."""

    def configure(self, show: Show) -> None:
        """Take over what routes move of this kind."""
        self._routed = frozenset(
            target for route in show.routes if not route.muted for target in route.targets if MARK in target
        )

    def step(self, live: Array, router: Router) -> bool:
        """Lead live values to where they act; whether something listens otherwise than before."""
        held = router.overrides
        moved = {target for kept in (held.active, held.gliding) for target in kept if MARK in target}
        acting = moved | self._routed
        if not acting and not self._acting:
            return False
        heard: dict[str, dict[str, float]] = {}
        for target in acting | self._acting:
            entry = router.by_target.get(target)
            if entry is None:
                continue
            value = float(live[entry.index])
            what = entry.part.partition(MARK)[0]
            if entry.part == SOUND:
                router.sound_amount = value
            elif what in LISTENING:
                # A glide over everything leads most from where they are to there: that changes nothing.
                if value != router.hand[entry.index]:
                    heard.setdefault(entry.part, {})[entry.parameter.name] = _grain(entry.parameter, value)
            else:
                router.tune(entry.part, entry.parameter.name, value)
        self._acting = acting
        changed, self._heard = heard != self._heard, heard
        return changed

    def listens(self, show: Show) -> Show:
        """The show as it listens now."""
        if not self._heard:
            return show

        def tuned(what: str, item: Any) -> Any:
            found = self._heard.get(f"{what}{MARK}{item.id}")
            return item.model_copy(update=found) if found else item

        bands = [_in_order(tuned("band", band)) for band in show.bands]
        hits = [tuned("hit", hit) for hit in show.hits]
        inputs = []
        for given in show.inputs:
            level = self._heard.get(f"level{MARK}{given.id}")
            given = tuned("input", given)
            if level:
                given = given.model_copy(update={"level": given.level.model_copy(update=level)})
            inputs.append(given)
        return show.model_copy(update={"bands": bands, "hits": hits, "inputs": inputs})


def _in_order(band: Any) -> Any:
    """Edges that are moved past one another leave the narrowest band."""
    if band.high_hz >= band.low_hz * NARROWEST:
        return band
    return band.model_copy(update={"high_hz": band.low_hz * NARROWEST})
