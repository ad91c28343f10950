"""Shapers: the steps of a route. A new one is one class in one of these modules."""

from fulgura.core.routing.shapers.base import Moment, Shaper
from fulgura.core.routing.shapers.hits import Cycle, Gate, Hold, Pulse, Step, Toggle
from fulgura.core.routing.shapers.levels import Curve, Gain, Invert, Mix, Quantise, Range
from fulgura.core.routing.shapers.times import Delay, Fall, Limit, Smooth

__all__ = [
    "Curve",
    "Cycle",
    "Delay",
    "Fall",
    "Gain",
    "Gate",
    "Hold",
    "Invert",
    "Limit",
    "Mix",
    "Moment",
    "Pulse",
    "Quantise",
    "Range",
    "Shaper",
    "Smooth",
    "Step",
    "Toggle",
]
