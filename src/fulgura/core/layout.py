"""What the numbers in a frame mean."""

from pydantic import BaseModel

from fulgura.core.clock import FRAME_RATE
from fulgura.core.kinds.display import DISPLAY_BINS, DISPLAY_HIGH_HZ, DISPLAY_LOW_HZ
from fulgura.core.routing.slots import Slot
from fulgura.core.show.signals import SignalInfo


class LampInfo(BaseModel):
    id: str
    name: str
    universe: int
    address: int


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
    slots: list[Slot]
    routes: list[RouteInfo]
    hits: list[HitInfo]
    reasons: list[str]
    lamps: list[LampInfo]
    spectrum: SpectrumInfo = SpectrumInfo()
    frame_rate: int = FRAME_RATE
