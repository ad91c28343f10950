from collections.abc import Mapping
from typing import Any, Literal

from fulgura.core.arrays import Array
from fulgura.core.kinds.drawn import Mesh, Own, Source
from fulgura.core.kinds.heard_sound import strided
from fulgura.core.kinds.parameters import Angle, Colour, Length, Milliseconds, Number, Ratio, param
from fulgura.core.kinds.providers import SCOPE, TickInput
from fulgura.core.kinds.sounded import SoundDrawn


class Beam:
    """Where the beam goes: SCOPE samples of the left, then as many of the right, full scale is 1."""

    def __init__(self, seed: int) -> None:
        pass

    def step(self, values: Mapping[str, Any], heard: TickInput) -> Array:
        points = strided(heard.sound_of(values["input"]), values["window"], SCOPE)
        found: Array = (points.T * 10.0 ** (values["gain"] / 20.0)).astype("<f4").reshape(-1)
        return found


class Scope(SoundDrawn, Source):
    """The sound as a beam draws it: left against right, where stereo makes figures, or against time."""

    shader = "beam.frag"
    own = Own("wave", SCOPE, Beam)
    mesh = Mesh("scope.vert", vertices=6, instances=SCOPE - 1)
    trails = True

    shows: Literal["left against right", "against time"] = param(
        "left against right", help="What moves the beam sideways", group="Form"
    )
    swing: Number = param(1.4, 0.0, 12.0, "How far a full-scale sound moves the beam", group="Form")
    rotation: Angle = param(
        45.0,
        -180.0,
        180.0,
        "Angle by which all is turned; at 45 what both sides share moves it up",
        group="Form",
        title="Turn",
    )
    width: Length = param(0.012, 0.002, 0.2, "Thickness of the beam", group="Form")
    thin: Ratio = param(0.6, help="How much thinner and darker it is where it is fast", group="Form")
    window: Milliseconds = param(
        21.33, 5.0, 10_000.0, "How much of the sound is seen at once", group="Sound", useful=200.0
    )
    tint: Colour = param("#8ddc8f", help="Colour of the light", group="Light")
    glow: Ratio = param(0.35, help="Light that spills around the beam", group="Light")
    level: Number = param(1.0, 0.0, 4.0, "Brightness", group="Light")
    trail: Ratio = param(0.7, 0.0, 0.98, "How much of the last picture stays each frame", group="Light")
