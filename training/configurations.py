"""What each network is taught with: pinned, so that a chain that is run again does the same. In the chain's
true order: each may listen with those before it.
"""

from dataclasses import dataclass

PACKAGES = ("numpy", "scipy", "numba", "mido", "soundfile")
"""Python packages of the lock files that lessons are made with."""
TORCH = "2.13.0"
"""PyTorch teaches, and is in no lock file: pip install torch==2.13.0."""

MATERIAL = {
    "timgm6mb-soundfont": ("1.3-5", "GPL-2.0"),
    "fluid-soundfont-gm": ("3.1-5.3", "MIT"),
    "csound-soundfont": ("1:6.18.1+dfsg-1", "LGPL-2.1-or-later"),
    "musescore-general-soundfont": ("0.2.1-1", "MIT"),
    "avldrums.lv2-soundfont": ("0.5.2-2", "CC-BY-SA-3.0"),
    "freepats": ("20060219-4", "GPL-2.0-or-later"),
    "hydrogen-data": ("1.2.0~beta1+dfsg-1", "GPL-2.0-or-later"),
    "hydrogen-drumkits": ("2017.09.19~dfsg-1", "GPL-2.0-or-later and others"),
    "sonic-pi-samples": ("3.2.2~repack-8", "CC0-1.0"),
    "exadrums": ("0.7.0-1", "GPL-3.0-or-later"),
}
"""Debian packages whose sounds kits.py plays: name to (version of Debian 12, licence). Versions after apt;
licences from memory of the packages' copyright files. None of it is part of what ships: it was only listened
to.
"""
PLAYERS = {"fluidsynth": "2.3.1-2", "timidity": "2.14.0-8.1"}
"""Debian programs that render them."""


@dataclass(frozen=True)
class Configuration:
    """clips: lessons of each draw; draws: their seeds; seeds: of the networks' first weights, one network
    each; recorded, own: how often recorded kits count, and how many are synthesised.
    """

    clips: int
    passes: int
    draws: tuple[int, ...]
    seeds: tuple[int, ...]
    recorded: int = 4
    own: int = 40


CONFIGURATIONS = {
    "drums": Configuration(clips=3000, passes=18, draws=(100, 300, 400), seeds=(1, 3, 4), recorded=7, own=72),
    "verification": Configuration(clips=2600, passes=7, draws=(50_000,), seeds=(0, 1, 2), recorded=7, own=72),
    "metre": Configuration(clips=1600, passes=10, draws=(11,), seeds=(1, 2, 3)),
    "hypotheses": Configuration(clips=1600, passes=10, draws=(11,), seeds=(1, 2, 3)),
    "track_change": Configuration(clips=2700, passes=20, draws=(881,), seeds=(1, 2, 3)),
}
SHIPPED = {
    "drums": "Can't be made again bit by bit: the first network was taught before the kits patches and plain"
    " were there and with 32 synthesised kits fewer, each in 18 to 20 passes; the three are the best together"
    " of seven.",
    "verification": "Can't be made again bit by bit: the shipped networks had lessons of this kind of other"
    " seeds, which were not written down.",
    "metre": "Can't be made again bit by bit: the shipped three are the better of two such draws.",
    "hypotheses": "Made by this configuration after the shipped metre; whether the bits are the same was not"
    " tried.",
    "track_change": "Can't be made again bit by bit: the shipped three are of two draws of songs together,"
    " 3510 clips.",
}
"""What is known of the weights that ship."""
