"""Small rigs for tests, and what they send."""

from typing import Any

import numpy as np
from numpy.typing import NDArray

from fulgura.core.kinds.tick import TickContext
from fulgura.core.lights.rig import LightFrame, Rig
from fulgura.core.routing.router import Router
from fulgura.core.show.document import Show
from fulgura.core.show.edits import Edit, apply
from fulgura.core.show.lights import Lamp
from fulgura.core.show.part import Part


def lamp(
    id: str, kind: str, address: int = 1, universe: int = 1, more: dict[str, Any] | None = None, **values: Any
) -> Lamp:
    """A lamp; values: of its parameters, more: of the lamp itself."""
    fixture = Part(id=f"f-{id}", family="fixture", kind=kind, values=values)
    return Lamp(
        id=id, name=id.capitalize(), address=address, universe=universe, fixture=fixture, **(more or {})
    )


def show_of(*lamps: Lamp, **more: Any) -> Show:
    """A show of these lamps and nothing else."""
    return Show(name="Rig", lamps=list(lamps), **more)


def changed(show: Show, *edits: Edit) -> Show:
    """The show after some edits."""
    for edit in edits:
        show, _ = apply(show, edit)
    return show


class Bench:
    """A rig with its hand values, tick by tick, without anything that is heard."""

    def __init__(self, show: Show) -> None:
        self.router, self.rig, self.now = Router(), Rig(), TickContext()
        self.take(show)

    def take(self, show: Show) -> None:
        self.router.configure(show)
        self.rig.configure(show, self.router.index_of)

    def tick(self, **live: float) -> LightFrame:
        """One tick; live: addresses (a dot as two underlines) that stand elsewhere than at their
        hand values.
        """
        values = self.router.hand.copy()
        for target, value in live.items():
            values[self.router.index_of[target.replace("__", ".").replace("_", "-")]] = value
        self.now.seconds += self.now.dt
        self.now.beats += self.now.dt / self.now.beat_s
        frame, _ = self.rig.tick(values, self.now)
        return frame

    def sent(self, first: int, count: int, universe: int = 1) -> list[int]:
        """Channel values of one tick, from a channel on."""
        return self.tick().universes[universe][first - 1 : first - 1 + count].tolist()


def sent(show: Show, first: int = 1, count: int = 1, universe: int = 1) -> list[int]:
    """What a show's lamps are sent at its hand values."""
    return Bench(show).sent(first, count, universe)


def light(show: Show) -> NDArray[np.float32]:
    """How the cells of a show's lamps shine at its hand values, shape (cells, 4)."""
    return Bench(show).tick().light
