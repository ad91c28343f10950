from collections.abc import Mapping
from typing import Any, Literal

from fulgura.core.arrays import Array
from fulgura.core.kinds.drawn import Own, Source
from fulgura.core.kinds.heard_sound import window_of
from fulgura.core.kinds.parameters import Angle, Colour, Length, Milliseconds, Number, Ratio, param
from fulgura.core.kinds.providers import TickInput
from fulgura.core.kinds.sounded import SoundDrawn

POINTS = 512


class Wave:
    """The wave at so many points, both channels' mean, full scale is 1; shape (POINTS,)."""

    def __init__(self, seed: int) -> None:
        pass

    def step(self, values: Mapping[str, Any], heard: TickInput) -> Array:
        points = window_of(heard.sound_of(values["input"]), values["window"], POINTS)
        found: Array = (points.mean(axis=1) * 10.0 ** (values["gain"] / 20.0)).astype("<f4")
        return found


class Waveform(SoundDrawn, Source):
    """The sound's own wave, as it is now."""

    shader = "waveform.frag"
    own = Own("wave", POINTS, Wave)

    style: Literal["line", "area", "mirrored area", "points"] = param(
        "line", help="How the wave is shown", group="Form"
    )
    form: Literal["straight", "round"] = param(
        "straight", help="Along the picture, or around a circle", group="Form"
    )
    height: Length = param(0.8, 0.0, 3.0, "How far a full-scale wave swings", group="Form")
    width: Length = param(0.02, 0.002, 0.3, "Thickness of the line", group="Form")
    radius: Length = param(0.5, 0.0, 1.5, "Radius of the circle", group="Form")
    rotation: Angle = param(0.0, -180.0, 180.0, "Angle by which all is turned", group="Form", title="Turn")
    window: Milliseconds = param(
        10.67, 5.0, 10_000.0, "How much of the sound is seen at once", group="Sound", useful=500.0
    )
    tint: Colour = param("#8ddc8f", help="Colour of the light", group="Light")
    glow: Ratio = param(0.2, help="Light that spills around the line", group="Light")
    level: Number = param(1.0, 0.0, 4.0, "Brightness", group="Light")
