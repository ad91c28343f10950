"""Where each parameter's live value stands, and its hand value as numbers."""

from collections.abc import Sequence
from math import isfinite
from typing import Any

import numpy as np
from pydantic import BaseModel

from fulgura.core.arrays import Array
from fulgura.core.kinds.colour import from_hex, resolved, to_hex
from fulgura.core.kinds.parameters import Parameter
from fulgura.core.show.document import Show
from fulgura.core.show.part import Part
from fulgura.core.show.settings import Setting


class ParameterIndex(BaseModel):
    """Where a parameter's live value stands in the live block."""

    target: str
    part: str
    parameter: Parameter
    index: int
    of: list[str] = []
    """Of a group's parameter: those of its lamps."""


def indices(show: Show) -> list[ParameterIndex]:
    """All parameters of a show that have a live value, in the order of the live block."""
    return _placed(show.owners())


def addressable(show: Show) -> list[ParameterIndex]:
    """All that a route could move: what has a live value, and what gets one when a route moves it."""
    known = indices(show)
    there = {entry.target for entry in known}
    return known + [entry for entry in _placed(show.settings()) if entry.target not in there]


def _placed(owners: Sequence[Part | Setting]) -> list[ParameterIndex]:
    found, index = [], 0
    for part in owners:
        for parameter in part.parameters():
            if parameter.size:
                found.append(
                    ParameterIndex(
                        target=f"{part.id}.{parameter.name}", part=part.id, parameter=parameter, index=index
                    )
                )
                index += parameter.size
    return found


def as_floats(parameter: Parameter, value: Any, palette: Sequence[str]) -> list[float]:
    """A value as the live block holds it: a number, a toggle as 0 or 1, a choice by its place, a colour as
    three in linear light. palette: the colours that it may point at.

    Raises ValueError or TypeError for what is no value of this parameter.
    """
    match parameter.type:
        case "colour":
            if not isinstance(value, str):
                raise TypeError("no colour")
            return list(from_hex(resolved(value, palette)))
        case "choice":
            return [float(parameter.choices.index(value))]
    if not isfinite(float(value)):
        raise ValueError("not a finite number")
    return [float(value)]


def as_value(parameter: Parameter, floats: Array) -> Any:
    """What stands in the live block as a value of the document; the other way of ``as_floats``."""
    match parameter.type:
        case "colour":
            return to_hex(floats)
        case "choice":
            return parameter.choices[min(len(parameter.choices) - 1, max(0, round(float(floats[0]))))]
        case "toggle":
            return bool(floats[0] >= 0.5)
    # The block holds 32 bits: no digits that are none.
    return round(float(floats[0]), 5)


def bounds(parameter: Parameter) -> tuple[float, float]:
    """The least and largest live value."""
    if parameter.type == "choice":
        return 0.0, float(len(parameter.choices) - 1)
    return (
        parameter.low if parameter.low is not None else 0.0,
        parameter.high if parameter.high is not None else 1.0,
    )


def hand_values(show: Show, table: list[ParameterIndex]) -> Array:
    """The hand values of all slots, shape (floats,)."""
    values, palette = {part.id: part.values for part in show.owners()}, show.colours
    return np.array(
        [
            number
            for entry in table
            for number in as_floats(entry.parameter, values[entry.part][entry.parameter.name], palette)
        ]
    )
