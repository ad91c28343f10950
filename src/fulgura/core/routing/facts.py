"""What is known of a show that plays: measured by the engine, read by the explanations."""

from dataclasses import dataclass, field

from pydantic import BaseModel

from fulgura.core.show.edits import Edit
from fulgura.core.show.signals import SignalInfo


class Reason(BaseModel):
    """text: why; cure: what the button says; edit or action: what it does (actions: "give-back", "hear",
    "play").
    """

    text: str
    cure: str = ""
    edit: Edit | None = None
    action: str = ""


@dataclass
class RouteFacts:
    """What the engine measured of a route; see Router.facts."""

    peak: float = 0.0
    moved: float = 0.0
    clamped: float = 0.0
    trouble: str = ""


@dataclass
class Facts:
    """What the engine measured lately. peaks: of signals; levels_dbfs, troubles: of inputs; held: targets
    under a hand.
    """

    routes: dict[str, RouteFacts] = field(default_factory=dict)
    peaks: dict[str, float] = field(default_factory=dict)
    levels_dbfs: dict[str, float] = field(default_factory=dict)
    troubles: dict[str, str] = field(default_factory=dict)
    movers: dict[str, str] = field(default_factory=dict)
    playing: dict[str, bool] = field(default_factory=dict)
    sure_of_beat: bool = True
    held: set[str] = field(default_factory=set)
    signals: dict[str, SignalInfo] = field(default_factory=dict)
    """The show's signals by id."""
