"""From channels to light, by the rig file alone: what a lamp of that kind would show."""

from typing import Any

import numpy as np
from numpy.typing import NDArray

At = dict[str, Any]


class RigLight:
    """The lamps of a rig file (docs/formats/rig.md). Raises ValueError or KeyError for one that is none."""

    def __init__(self, file: dict[str, Any]) -> None:
        if file.get("format") != "fulgura-rig" or file.get("version") != 1:
            raise ValueError("this is no rig file of this version")
        self.lamps: list[dict[str, Any]] = file["lamps"]
        self.cells = sum(len(lamp["cells"]) for lamp in self.lamps)

    def shine(self, universes: dict[int, bytes]) -> tuple[NDArray[np.float32], NDArray[np.float32]]:
        """(light, pose) by what has arrived: light (cells, 4) linear red, green, blue with 1 as the
        strongest, and intensity; pose (lamps, 4) degrees of pan, tilt and width, flashes a second.
        """
        light = np.zeros((self.cells, 4), dtype=np.float32)
        pose = np.zeros((len(self.lamps), 4), dtype=np.float32)
        row = 0
        for number, lamp in enumerate(self.lamps):
            bright = _share(universes, lamp["dimmer"]) if "dimmer" in lamp else 1.0
            for cell in lamp["cells"]:
                colour = _colour(universes, lamp, cell)
                strongest = max(colour)
                intensity = min(1.0, strongest) * bright
                if intensity > 0.0:
                    light[row] = (*(part / strongest for part in colour), intensity)
                row += 1
            for k, name in enumerate(("pan", "tilt", "zoom")):
                if name in lamp:
                    low, high = lamp[name]["low"], lamp[name]["high"]
                    pose[number, k] = low + _share(universes, lamp[name]) * (high - low)
            pose[number, 3] = _flashes(universes, lamp["strobe"]) if "strobe" in lamp else 0.0
        return light, pose


def _byte(universes: dict[int, bytes], at: At, fine: int = 0) -> int:
    channels, slot = universes.get(at["universe"], b""), at["channel"] - 1 + fine
    return channels[slot] if slot < len(channels) else 0


def _share(universes: dict[int, bytes], at: At) -> float:
    if at["bits"] == 16:
        return ((_byte(universes, at) << 8) + _byte(universes, at, 1)) / 65_535
    return _byte(universes, at) / 255


def _colour(universes: dict[int, bytes], lamp: At, cell: At) -> list[float]:
    if "wheel" in lamp:
        byte = _byte(universes, lamp["wheel"])
        slot = [colour for first, colour in lamp["wheel"]["slots"] if first <= byte][-1]
        return [_linear(int(slot[i : i + 2], 16) / 255) for i in (1, 3, 5)]
    if not cell["emitters"]:
        return list(lamp.get("light", (0.0, 0.0, 0.0)))
    shares = [(_share(universes, emitter), emitter["light"]) for emitter in cell["emitters"]]
    return [sum(share * lit[part] for share, lit in shares) for part in range(3)]


def _linear(encoded: float) -> float:
    """IEC 61966-2-1."""
    return encoded / 12.92 if encoded <= 0.04045 else ((encoded + 0.055) / 1.055) ** 2.4


def _flashes(universes: dict[int, bytes], at: At) -> float:
    byte, first, last = _byte(universes, at), at["first"], at["last"]
    if not first <= byte <= last:
        return 0.0
    return float(at["slow"] + (byte - first) / (last - first) * (at["fast"] - at["slow"]))
