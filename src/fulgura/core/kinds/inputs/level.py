"""How an input's level is kept."""

from typing import Literal

from fulgura.core.kinds.input import InputKind
from fulgura.core.kinds.parameters import Decibels, Frequency, FullScale, Loudness, param

SIDES = ("both", "left", "right")
LOW_CUTS = {"off": 0, "12 dB an octave": 2, "24 dB an octave": 4}
"""How a low cut falls -> the order of its filter."""

LOWEST_DBFS, HIGHEST_FLOOR_DBFS = -90.0, -20.0
"""Where the floor may lie; at the lowest it closes nothing."""


class LevelSetting(InputKind):
    """How the input's level is kept."""

    title = "Level"

    floor_dbfs: FullScale = param(
        LOWEST_DBFS,
        LOWEST_DBFS,
        HIGHEST_FLOOR_DBFS,
        "What is quieter counts as silence; at -90 everything is let through",
        title="Floor",
    )
    follow: bool = param(
        False,
        help=(
            "Keeps the loudness near the target through a night of creeping levels: slowly, and never while"
            " nothing plays"
        ),
    )
    target_lufs: Loudness = param(
        -16.0, -40.0, -6.0, "Short-term loudness that following aims at", title="Target"
    )
    reach_db: Decibels = param(
        12.0, 0.0, 24.0, "How far following may turn the gain either way", title="Reach"
    )
    low_cut: Literal[*LOW_CUTS] = param(  # type: ignore[valid-type]
        "off", help="Keeps the lows out, before anything listens: for a microphone beside bass bins"
    )
    low_cut_hz: Frequency = param(
        80.0, 20.0, 200.0, "Where the low cut begins; there it is 3 dB down", title="Low cut from"
    )
    sides: Literal["both", "left", "right"] = param("both", help="Which channels are heard")
