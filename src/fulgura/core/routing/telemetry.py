"""What is known of a show that plays: measured by the engine, read by the explanations."""

from dataclasses import dataclass, field
from typing import Literal

from pydantic import BaseModel

from fulgura.core.kinds.faults import Fault
from fulgura.core.show.edits import Edit
from fulgura.core.show.signals import SignalInfo

Action = Literal["", "give-back", "connect", "hear", "open", "fit"]
"""What a cure does that is no edit: let go, choose a signal, look in Hear, look at the steps, fit one."""


class Reason(BaseModel):
    """text: why; cure: what the button says; edit or action: what it does. shaper: the one that is fitted."""

    text: str
    cure: str = ""
    edit: Edit | None = None
    action: Action = ""
    shaper: str = ""


@dataclass
class RouteTelemetry:
    """What the engine measured of a route; see Router.facts."""

    peak: float = 0.0
    moved: float = 0.0
    clamped: float = 0.0
    fault: Fault | None = None


@dataclass
class Telemetry:
    """What the engine measured lately. peaks: of signals; levels_dbfs, faults: of inputs; overridden: targets
    under a hand.
    """

    routes: dict[str, RouteTelemetry] = field(default_factory=dict)
    peaks: dict[str, float] = field(default_factory=dict)
    levels_dbfs: dict[str, float] = field(default_factory=dict)
    faults: dict[str, Fault] = field(default_factory=dict)
    modulators: dict[str, Fault] = field(default_factory=dict)
    playing: dict[str, bool] = field(default_factory=dict)
    held_back: set[str] = field(default_factory=set)
    """Lamps that would have flashed too often."""
    sure_of_beat: bool = True
    overridden: set[str] = field(default_factory=set)
    signals: dict[str, SignalInfo] = field(default_factory=dict)
    """The show's signals by id."""
