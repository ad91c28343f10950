"""Ramps: colours along a line from 0 to 1, which what draws takes by brightness, loudness, age or pitch."""

from typing import Any, ClassVar, Literal

from pydantic import create_model

from fulgura.core.kinds.drawn import Drawn
from fulgura.core.kinds.parameters import Colour, Count, LayerRef, RampRef, Ratio, param
from fulgura.core.kinds.registry import Kind

LEAST_STOPS, MOST_STOPS = 2, 16
TEXELS = 256
"""A ramp is drawn as a row of so many."""


class Ramp(Kind):
    """Colours along a line."""

    family: ClassVar[str] = "ramp"


class _Stops(Ramp):
    """Colours along a line, each at a place of its own with an opacity of its own."""

    abstract: ClassVar[bool] = True
    title = "Ramp"
    shader: ClassVar[str] = "ramp.frag"
    counts: ClassVar[tuple[str, ...]] = ("count",)

    count: Count = param(
        3.0, float(LEAST_STOPS), float(MOST_STOPS), "How many stops there are", title="Stops"
    )
    mix: Literal["smooth", "in steps"] = param(
        "smooth",
        help="smooth: one runs into the next, and hues stay clean; in steps: each holds until the next",
        title="Between stops",
    )


def _stop(number: int) -> dict[str, Any]:
    first = {1: (0.0, "#120a2a"), 2: (0.5, "#c2416b"), 3: (1.0, "#ffe9a8")}
    place, colour = first.get(number, (1.0, "#ffffff"))
    said: dict[str, Any] = {"group": f"Stop {number}"}
    return {
        f"place_{number}": (Ratio, param(place, help="Where it stands", title=f"Place {number}", **said)),
        f"colour_{number}": (Colour, param(colour, help="Its colour", title=f"Colour {number}", **said)),
        f"opacity_{number}": (
            Ratio,
            param(1.0, help="How much it hides what is below", title=f"Opacity {number}", **said),
        ),
    }


_FIELDS: dict[str, Any] = {
    name: field for number in range(1, MOST_STOPS + 1) for name, field in _stop(number).items()
}
ColourRamp = create_model(
    "ColourRamp", __base__=_Stops, __doc__=_Stops.__doc__, __module__=__name__, **_FIELDS
)


class Ramped(Drawn):
    """What can take its colours from a ramp, or from a row of another layer's picture."""

    abstract: ClassVar[bool] = True

    ramp: RampRef = param("", help="Colours of the show's, kept by name", group="Colours", empty="its own")
    row_of: LayerRef = param(
        "", help="A layer whose picture lends a row of its colours instead", group="Colours", title="Row of"
    )
    row: Ratio = param(0.5, help="How high in that picture the row lies", group="Colours")
