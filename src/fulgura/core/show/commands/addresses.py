"""Where in the document a parameter's hand value stands."""

from typing import Any

from fulgura.core.kinds.parameters import Parameter
from fulgura.core.show.commands.presets import parts_of
from fulgura.core.show.document import Show
from fulgura.core.show.settings import place_of


def value_path(show: Show, target: str) -> str:
    """The path of a parameter's hand value, by its address; empty for what is gone."""
    part, _, name = target.partition(".")
    found = parts_of(show, "part", part).get(part)
    return place_of(*found, name) if found is not None and name in found[1].values else ""


def parameter_at(show: Show, target: str) -> Parameter | None:
    """The parameter that an address names; None for what is gone."""
    part, _, name = target.partition(".")
    found = parts_of(show, "part", part).get(part)
    if found is None:
        return None
    return next((parameter for parameter in found[1].parameters() if parameter.name == name), None)


def fits(parameter: Parameter | None, value: Any) -> bool:
    """Whether a parameter can have this hand value. What is written, like a text, is not looked into."""
    if parameter is None:
        return False
    match parameter.type:
        case "number":
            low = -1e9 if parameter.low is None else parameter.low
            high = 1e9 if parameter.high is None else parameter.high
            return isinstance(value, int | float) and not isinstance(value, bool) and low <= value <= high
        case "toggle":
            return isinstance(value, bool)
        case "choice":
            return value in parameter.choices
        case "colour":
            return isinstance(value, str) and (value.startswith("@") or len(value) == 7 and value[0] == "#")
        case _:
            return isinstance(value, str | list)


def as_value(parameter: Parameter, number: float, colour: str) -> Any:
    """A number, or a colour, as this parameter's hand value, kept within its range.

    >>> from fulgura.core.kinds.parameters import Parameter
    >>> as_value(Parameter(name="x", title="X", type="number", low=0.0, high=1.0, default=0.0), 7.0, "")
    1.0
    """
    match parameter.type:
        case "number":
            low = number if parameter.low is None else parameter.low
            high = number if parameter.high is None else parameter.high
            return min(high, max(low, number))
        case "toggle":
            return number >= 0.5
        case "choice":
            return parameter.choices[min(len(parameter.choices) - 1, max(0, round(number)))]
        case _:
            return colour
