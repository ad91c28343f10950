from fulgura.core.kinds.drawn import Effect
from fulgura.core.kinds.parameters import Angle, Colour, Factor, Number, Ratio, param


class Grade(Effect):
    """The finishing colour: exposure, contrast, saturation, hue, a tint, and a vignette."""

    title = "Finishing colour"
    shader = "grade.frag"
    specialised = ("gamma", "contrast", "saturation", "hue")

    exposure: Number = param(0.0, -4.0, 4.0, "Brightness in stops: +1 doubles the light", group="Light")
    gamma: Factor = param(1.0, 0.3, 3.0, "Below 1 lifts what is dark, above 1 sinks it", group="Light")
    contrast: Factor = param(1.0, 0.5, 2.0, "Spread of light around middle grey", group="Light")
    saturation: Factor = param(1.0, 0.0, 2.0, "0 is grey", group="Colour")
    hue: Angle = param(0.0, -180.0, 180.0, "Turn of all hues", group="Colour")
    tint: Colour = param("#ffffff", help="Colour that everything is lit with", group="Colour")
    vignette: Ratio = param(0.2, help="How dark the corners are", group="Light")
