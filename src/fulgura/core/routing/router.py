"""The router: hand values and routes in, live values out."""

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel

from fulgura.core.parameters import Parameter
from fulgura.core.picture.colour import from_hex
from fulgura.core.routing.shapers import Shaper
from fulgura.core.show.document import Route, Show
from fulgura.core.signals.table import SignalInfo, signals


class Slot(BaseModel):
    """Where a parameter's live value stands in the live block."""

    target: str
    part: str
    parameter: Parameter
    index: int


def slots(show: Show) -> list[Slot]:
    """All parameters of a show in the order of the live block."""
    found, index = [], 0
    for part in show.parts():
        for parameter in part.family.kinds[part.kind].parameters():
            found.append(Slot(target=f"{part.id}.{parameter.name}", part=part.id, parameter=parameter, index=index))
            index += parameter.size
    return found


def hand_values(show: Show, table: list[Slot]) -> NDArray:
    """The hand values as the live block holds them: numbers, toggles as 0 or 1, choices by place, colours linear."""
    values = {part.id: part.values for part in show.parts()}
    block: list[float] = []
    for slot in table:
        value = values[slot.part][slot.parameter.name]
        if slot.parameter.type == "colour":
            block += list(from_hex(value))
        elif slot.parameter.type == "choice":
            block.append(float(slot.parameter.choices.index(value)))
        else:
            block.append(float(value))
    return np.array(block)


@dataclass
class Runner:
    """One compiled route and what it remembers."""

    route: Route
    chain: list[Shaper]
    memory: list[tuple[float, ...]]
    signal: int
    slot: Slot | None
    trouble: str = ""
    incoming: float = 0.0
    outgoing: float = 0.0
    peak: float = 0.0
    span: tuple[float, float] = (0.0, 0.0)


def _compile(route: Route, order: dict[str, int], by_target: dict[str, Slot], old: Runner | None) -> Runner:
    parts = [part for part in route.shapers if part.on]
    chain = [part.model() for part in parts]
    slot = by_target.get(route.target)
    trouble = ""
    if route.signal not in order:
        trouble = "Its signal is gone."
    elif slot is None:
        trouble = "What it moved is gone."
    elif slot.parameter.type not in ("number", "toggle"):
        trouble, slot = f"{slot.parameter.title} is not a number, so a route cannot move it yet.", None
    memory = [shaper.rest for shaper in chain]
    if old is not None:
        # A shaper that stays keeps its memory, so that an edit while playing makes no jump.
        kept = {part.id: m for part, m in zip([p for p in old.route.shapers if p.on], old.memory)}
        memory = [kept[p.id] if p.id in kept and len(kept[p.id]) == len(m) else m for p, m in zip(parts, memory)]
    runner = Runner(route, chain, memory, order.get(route.signal, -1), slot, trouble)
    if old is not None:
        runner.incoming, runner.outgoing, runner.peak, runner.span = old.incoming, old.outgoing, old.peak, old.span
    return runner


PEAK_FADE_S = 4.0


@dataclass
class Router:
    """All routes of a show."""

    signals: list[SignalInfo] = field(default_factory=list)
    slots: list[Slot] = field(default_factory=list)
    hand: NDArray = field(default_factory=lambda: np.zeros(0))
    live: NDArray = field(default_factory=lambda: np.zeros(0))
    runners: list[Runner] = field(default_factory=list)
    sound_amount: float = 1.0

    def configure(self, show: Show) -> None:
        """Take over a show; routes that did not change keep running as they are."""
        self.signals = signals(show.bands, show.hits)
        order = {signal.id: i for i, signal in enumerate(self.signals)}
        self.slots = slots(show)
        by_target = {slot.target: slot for slot in self.slots}
        self.hand = hand_values(show, self.slots)
        old = {runner.route.id: runner for runner in self.runners}
        self.runners = [_compile(route, order, by_target, old.get(route.id)) for route in show.routes]
        self.live = self.hand.copy()
        self.sound_amount = show.sound_amount

    @property
    def places(self) -> dict[str, int]:
        """Parameter address -> index of its first float in the live block."""
        return {slot.target: slot.index for slot in self.slots}

    def tick(self, values: NDArray, dt: float) -> NDArray:
        """One tick: signal values (in the order of ``signals``) to live values, shape (floats,).

        Each route pulls its parameter from the hand value toward its own; several on one parameter add up,
        and the result is clamped to the parameter's range.
        """
        live = self.hand.copy()
        fade = max(0.0, 1.0 - dt / PEAK_FADE_S)
        for runner in self.runners:
            if runner.signal < 0 or runner.slot is None:
                continue
            value = runner.incoming = float(values[runner.signal])
            for i, shaper in enumerate(runner.chain):
                value, runner.memory[i] = shaper.step(value, runner.memory[i], dt)
            if not -1e6 < value < 1e6:
                value, runner.trouble = 0.0, "Its shapers made a number too large to use."
            route, index = runner.route, runner.slot.index
            runner.outgoing = route.low + value * (route.high - route.low)
            runner.peak = max(runner.incoming, runner.peak * fade)
            low, high = runner.span
            drift = (high - low) * dt / PEAK_FADE_S
            runner.span = (min(runner.outgoing, low + drift), max(runner.outgoing, high - drift))
            if not route.muted:
                live[index] += self.sound_amount * route.amount * (runner.outgoing - self.hand[index])
        for runner in self.runners:
            if runner.slot is not None:
                parameter = runner.slot.parameter
                live[runner.slot.index] = min(max(live[runner.slot.index], parameter.low or 0.0), parameter.high if parameter.high is not None else 1.0)
        self.live = live
        return live

    def explain(self) -> list[str]:
        """For each route, in words, why its parameter does not move; empty when it does."""
        return [_why(runner, self.sound_amount) for runner in self.runners]


def _why(runner: Runner, sound_amount: float) -> str:
    route = runner.route
    if runner.trouble:
        return runner.trouble
    if route.muted:
        return "Muted."
    if sound_amount == 0.0:
        return "Sound amount is 0."
    if route.amount == 0.0:
        return "Its amount is 0."
    if route.low == route.high:
        return "Its range has no width."
    if runner.peak < 0.002:
        return "Nothing comes in."
    for shaper in runner.chain:
        name = shaper.name()
        if name == "range" and runner.peak < min(shaper.low, shaper.high):
            return f"Peaks at {runner.peak:.2f}, below its range from {min(shaper.low, shaper.high):.2f}."
        if name == "gate" and runner.peak < shaper.threshold:
            return f"The gate never opened: peak {runner.peak:.2f} of {shaper.threshold:.2f}."
    if runner.span[1] - runner.span[0] < 0.005 * abs(route.high - route.low):
        return "What comes out does not change."
    return ""
