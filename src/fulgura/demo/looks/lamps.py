"""Looks of lamps and what circles them."""

from fulgura.core.show.looks import Look
from fulgura.demo.looks.parts import layer, part


def signal_rose() -> Look:
    """Signal rose."""
    return Look(
        id="signal-rose",
        name="Signal rose",
        layers=[
            layer(
                "petals",
                "Petals",
                "spectrum",
                {
                    "form": "round",
                    "gap": 0.15,
                    "height": 1.1,
                    "radius": 0.2,
                    "floor": -76.5,
                    "low_colour": "#ff5c7a",
                    "high_colour": "#ffd84d",
                    "level": 0.8,
                },
                (part("petal-fold", "fold", count=5.0),),
            ),
            layer(
                "bells",
                "Bells",
                "rings",
                {
                    "radius": 0.12,
                    "spacing": 0.13,
                    "width": 0.02,
                    "rest": 0.12,
                    "outer": "#c2416b",
                    "glow": 0.25,
                    "sides": 10.0,
                    "twist": 9.0,
                },
                blend="screen",
            ),
        ],
        finish=[
            part("rose-bloom", "bloom", threshold=0.3, radius=0.3),
            part("rose-channels", "channels", apart=0.012, outward=1.0),
        ],
    )


def lamp_swarm() -> Look:
    """Lamp swarm."""
    return Look(
        id="lamp-swarm",
        name="Lamp swarm",
        layers=[
            layer(
                "moths",
                "Moths",
                "particles",
                {
                    "rate": 260.0,
                    "burst_by": "hit-kick",
                    "burst": 420.0,
                    "most": 5000.0,
                    "begins": "soft ball",
                    "extent": 0.22,
                    "life": 3.2,
                    "speed": 0.9,
                    "drag": 1.1,
                    "swirl": 1.3,
                    "swirl_size": 0.9,
                    "pull": 0.28,
                    "sprite": "streak",
                    "sprite_size": 0.022,
                    "tint": "#ffe2a0",
                    "end_tint": "#b8441c",
                    "level": 0.7,
                    "trail": 0.8,
                    "depth": 0.5,
                },
            ),
            layer(
                "wick",
                "Wick",
                "ring",
                {"radius": 0.0, "width": 0.1, "softness": 1.0, "glow": 0.5, "tint": "#ffcf7a", "level": 1.3},
                blend="add",
            ),
            layer(
                "panes",
                "Panes",
                "so-far",
                {},
                (
                    part("panes-key", "key", threshold=0.3, softness=0.25),
                    part("panes-mosaic", "mosaic", cells=36.0, tones=32.0),
                ),
                blend="add",
                opacity=0.4,
            ),
        ],
        finish=[
            part("swarm-bloom", "bloom", threshold=0.3, radius=0.2, amount=1.0),
            part("swarm-grade", "grade", gamma=1.05, vignette=0.5),
        ],
    )


def slack_figures() -> Look:
    """Slack figures."""
    return Look(
        id="slack-figures",
        name="Slack figures",
        layers=[
            layer("slack", "Slack water", "solid", {"tint": "#04070d"}),
            layer(
                "figure",
                "Figure",
                "scope",
                {"swing": 2.6, "width": 0.01, "glow": 0.25, "tint": "#9fe8d2", "level": 0.7, "trail": 0.8},
                (
                    part(
                        "figure-feedback",
                        "feedback",
                        scale=1.012,
                        rotation=0.5,
                        fade=0.9,
                        hue=2.2,
                        soften=0.35,
                        how="the brighter wins",
                    ),
                ),
                blend="add",
            ),
            layer(
                "answer",
                "Answer",
                "again",
                {"source": "figure"},
                (part("answer-fold", "fold", form="kaleidoscope", count=6.0),),
                blend="screen",
                opacity=0.55,
                scale=1.5,
            ),
        ],
        finish=[part("slack-lag", "lag", red=0.0, green=2.0, blue=5.0, amount=0.7)],
    )
