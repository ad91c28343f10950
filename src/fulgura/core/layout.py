"""What the numbers in a frame mean."""

from zlib import crc32

from pydantic import BaseModel

from fulgura.core.clock import FRAME_RATE
from fulgura.core.kinds.display import DISPLAY_BINS, DISPLAY_HIGH_HZ, DISPLAY_LOW_HZ
from fulgura.core.routing.indices import ParameterIndex
from fulgura.core.show.document import Show
from fulgura.core.show.signals import SignalInfo
from fulgura.core.sound.hits import REASONS


class LampInfo(BaseModel):
    """A lamp, in the order of the lamps block."""

    id: str
    name: str
    universe: int
    address: int
    cell: int
    """Its first light in the lamps block."""
    cells: int


class HitInfo(BaseModel):
    """A detector. listens: the drum, or the id of the band, that it listens to in its input."""

    id: str
    input: str
    drum: str
    listens: str


class InputInfo(BaseModel):
    """An input; blocks that have a row for each input have them in this order."""

    id: str
    name: str


class SpectrumInfo(BaseModel):
    """What the display bins are: evenly spaced in log frequency."""

    bins: int = DISPLAY_BINS
    low_hz: float = DISPLAY_LOW_HZ
    high_hz: float = DISPLAY_HIGH_HZ


class RouteInfo(BaseModel):
    """A route, and where its numbers stand in the routes block: what came in, what came out of each shaper,
    what it gives out.
    """

    id: str
    first: int
    shapers: list[str]


class Layout(BaseModel):
    """What the numbers in a frame mean. Sent when it changes; frames name it by id."""

    id: int = 0
    inputs: list[InputInfo]
    signals: list[SignalInfo]
    indices: list[ParameterIndex]
    routes: list[RouteInfo]
    hits: list[HitInfo]
    reasons: list[str]
    lamps: list[LampInfo]
    universes: list[int] = []
    """In the order of the channels block."""
    spectrum: SpectrumInfo = SpectrumInfo()
    frame_rate: int = FRAME_RATE


def lay_out(
    show: Show, signals: list[SignalInfo], indices: list[ParameterIndex], universes: list[int]
) -> Layout:
    """The layout of a show's frames. Its id names its content. universes: that are sent, in their order."""
    routes, first = [], 0
    for route in show.routes:
        routes.append(RouteInfo(id=route.id, first=first, shapers=[shaper.id for shaper in route.shapers]))
        first += len(route.shapers) + 2
    layout = Layout(
        inputs=[InputInfo(id=setting.id, name=setting.name) for setting in show.inputs],
        signals=signals,
        indices=indices,
        routes=routes,
        hits=[HitInfo(id=h.id, input=show.input_of(h), drum=h.drum, listens=h.listens) for h in show.hits],
        reasons=[reason or "" for reason in REASONS],
        lamps=_lamps(show),
        universes=universes,
    )
    return layout.model_copy(update={"id": crc32(layout.model_dump_json().encode())})


def _lamps(show: Show) -> list[LampInfo]:
    found, cell = [], 0
    for lamp in show.lamps:
        info = {"id": lamp.id, "name": lamp.name, "universe": lamp.universe, "address": lamp.address}
        found.append(LampInfo(**info, cell=cell, cells=lamp.cells))
        cell += lamp.cells
    return found
