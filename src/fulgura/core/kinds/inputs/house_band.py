"""The house band's settings."""

from fulgura.core.kinds.input import InputKind
from fulgura.core.kinds.parameters import Creep, Decibels, Ratio, Tempo, param


class HouseBandSettings(InputKind):
    """The house band plays without any file: for trying things, and for a sound check with nobody on
    stage.
    """

    title = "House band"

    tempo_bpm: Tempo = param(120.0, 40.0, 240.0, "Beats a minute", title="Tempo")
    density: Ratio = param(0.6, help="How many of the possible hits are played")
    level_db: Decibels = param(-9.0, -60.0, 0.0, "Peak of the loudest hits", title="Level")
    noise_db: Decibels = param(-70.0, -90.0, -10.0, "Room noise under the music", title="Noise")
    creep_db_per_min: Creep = param(
        0.0, -12.0, 12.0, "How the level drifts through the night", title="Level creep"
    )
