"""A show under hands, for tests: small, silent, and stepped tick by tick."""

from typing import Any

import numpy as np

from fulgura.core.clock import BLOCK, FRAME_RATE, blocks_due
from fulgura.core.frame import Frame
from fulgura.core.performer import Performer
from fulgura.core.show.document import Show
from fulgura.core.show.events import ControlSaid, Event, MidiSaid, PadPressed, PadReleased
from fulgura.core.show.looks import Layer, Look
from fulgura.core.show.part import Part
from fulgura.core.show.routes import NamedModulator, Route
from fulgura.core.show.surface import Fader, Mapping, Pad, PadPage, Reach

SILENT = np.zeros((BLOCK, 2), dtype=np.float32)


def action(kind: str, id: str = "a", **values: Any) -> Part:
    return Part(id=id, family="action", kind=kind, values=values)


def pad(at: int, *actions: Part, **more: Any) -> Pad:
    return Pad(id=f"pad-{at + 1}", at=at, actions=list(actions), **more)


def look(id: str, ring: str) -> Look:
    layer = Layer(
        id=f"{id}-layer",
        name="Ring",
        source=Part(id=ring, kind="ring", values={"radius": 0.3}),
        mix=Part(id=f"{id}-mix", kind="over"),
    )
    return Look(id=id, name=id.capitalize(), layers=[layer])


def small_show(*pads: Pad, faders: tuple[Fader, ...] = (), **more: Any) -> Show:
    """Two looks, a ring each, a played signal on the first's ring, one page."""
    played = Part(id="m-played", family="modulator", kind="played-signal")
    fields: dict[str, Any] = {
        "name": "Hands",
        "looks": [look("first", "ring-1"), look("second", "ring-2")],
        "look": "first",
        "modulators": [NamedModulator(id="played", name="Played", part=played)],
        "routes": [
            Route(id="r1", signal="modulator-played", targets=["ring-1.radius"], low=0.3, high=1.3),
            Route(id="r2", signal="level", targets=["ring-2.radius"], low=0.0, high=1.0),
        ],
        "pages": [PadPage(id="page", name="Page", pads=list(pads), faders=list(faders))],
    }
    return Show(**(fields | more))


def fader(at: int, *targets: str, low: float = 0.0, high: float = 1.0) -> Fader:
    moves = [Reach(target=target, low=low, high=high) for target in targets]
    return Fader(id=f"fader-{at + 1}", at=at, moves=moves)


class Hands:
    """A performer, and hands on it."""

    def __init__(self, show: Show) -> None:
        self.performer = Performer(show)
        self.blocks = 0

    @property
    def show(self) -> Show:
        return self.performer.show

    @property
    def stage(self):
        return self.performer.surface.stage

    def ticks(self, count: int = 1) -> list[Frame]:
        """Some ticks of silence."""
        frames = []
        for _ in range(count):
            due = blocks_due(self.performer.number + 1)
            for _ in range(due - self.blocks):
                self.performer.hear(SILENT)
            self.blocks = due
            frames.append(self.performer.tick())
        return frames

    def seconds(self, seconds: float) -> list[Frame]:
        return self.ticks(round(seconds * FRAME_RATE))

    def act(self, *events: Event) -> None:
        for event in events:
            self.performer.act(event)

    def press(self, number: int, by: str = "desk", strength: float = 1.0) -> None:
        self.act(PadPressed(pad=f"pad-{number}", by=by, strength=strength))

    def release(self, number: int, by: str = "desk") -> None:
        self.act(PadReleased(pad=f"pad-{number}", by=by))

    def midi(self, *data: int, controller: str = "Box") -> None:
        self.act(MidiSaid(controller=controller, data=list(data)))

    def osc(self, address: str, value: float) -> None:
        self.act(ControlSaid(controller="OSC", source=f"osc {address}", value=value))

    def live(self, address: str) -> float:
        router = self.performer.router
        return float(router.live[router.index_of[address]])

    def lit(self, number: int) -> str:
        return self.performer.surface.lit.get(f"pad-{number}", "")

    def said(self) -> list[str]:
        return list(self.performer.surface.news.said)


def mapping(source: str, does: str, target: str = "", **more: Any) -> Mapping:
    return Mapping(id=more.pop("id", "m"), source=source, does=does, target=target, **more)
