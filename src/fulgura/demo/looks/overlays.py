"""Looks that lie over a camera's picture on a stream: most of them is clear."""

from fulgura.core.show.looks import Look
from fulgura.demo.looks.parts import layer


def bar_frame() -> Look:
    """Bars along the lower edge, and hung from the upper one, which frame whoever speaks."""
    bars = {
        "scale": "by octaves",
        "mirrored": False,
        "grows": "upward",
        "count": 48.0,
        "gap": 0.35,
        "rounded": True,
        "height": 0.42,
        "floor": -45.0,
        "low_colour": "#ff7d5c",
        "high_colour": "#86c5ff",
        "level": 0.8,
    }
    return Look(
        id="bar-frame",
        name="Bar frame",
        layers=[
            layer("frame-low", "Standing bars", "spectrum", bars, y=-0.78),
            layer("frame-high", "Hung bars", "spectrum", bars, y=0.78, flip="top and bottom"),
        ],
    )


def keepers_line() -> Look:
    """A thin line that says what is heard now, below the middle."""
    return Look(
        id="keepers-line",
        name="Keeper's line",
        layers=[layer("line-wave", "Line", "waveform", {"width": 0.008, "height": 0.5}, y=-0.72, scale=0.9)],
    )


def harbour_pulse() -> Look:
    """A pulse of colour at the edge of the picture with every kick."""
    return Look(
        id="harbour-pulse",
        name="Harbour pulse",
        layers=[
            layer(
                "pulse-ring", "Edge", "ring", {"radius": 1.25, "width": 0.3, "tint": "#c2416b"}, opacity=0.05
            )
        ],
    )


def overlays() -> list[Look]:
    """Three of them."""
    return [bar_frame(), keepers_line(), harbour_pulse()]
