"""The house band: a built-in performer that plays with no file at all, block by block."""

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.kinds.inputs.house_band import HouseBandSettings
from fulgura.core.synthesis import kit

# (sound, place in sixteenths, density from which it is played, gain, pan)
PATTERN = (
    *(
        ("kick", step, needed, 0.85, 0.0)
        for step, needed in ((0, 0.0), (4, 0.1), (8, 0.0), (12, 0.1), (7, 0.8), (14, 0.95))
    ),
    *(("snare", step, needed, 0.5, 0.1) for step, needed in ((4, 0.25), (12, 0.25), (15, 0.9))),
    *(
        ("hat", step, 0.35 if step % 4 == 2 else 0.7, 0.28 if step % 4 == 2 else 0.16, -0.3)
        for step in range(1, 16)
    ),
    *(("bass", step, 0.45, 0.28, 0.0) for step in (2, 6, 10, 14)),
)


LOOP_BARS = 8


def bar_seconds(settings: HouseBandSettings) -> float:
    """How long a bar of it lasts."""
    return 240.0 / settings.tempo_bpm


def loop(settings: HouseBandSettings) -> Array:
    """Eight bars that join their own beginning, for who listens elsewhere: float64, shape (samples, 2)."""
    band, count = HouseBand(), round(LOOP_BARS * bar_seconds(settings) * SAMPLE_RATE)
    # What rings on from the bars before belongs to the beginning.
    blocks = [band.block(settings) for _ in range(-(-2 * count // BLOCK))]
    return np.concatenate(blocks)[count : 2 * count]


class HouseBand:
    """Generates stereo blocks of 256 samples. The same settings at the same blocks give the same sound."""

    def __init__(self, seed: int = 1) -> None:
        self.sounds = {
            "kick": kit.kick(),
            "snare": kit.snare(),
            "hat": kit.hat(),
            "bass": kit.bass(55.0, 0.25),
        }
        self.noise = np.random.default_rng(seed)
        self.sixteenth = -1
        self.phase = 1.0
        self.blocks = 0
        self.creep_db = 0.0
        self.tail = np.zeros((SAMPLE_RATE // 2, 2))
        self.played: list[tuple[str, int]] = []
        """(sound, sample) of what was played, the newest 256: the truth for tests."""

    @property
    def bar_place(self) -> float:
        """How far it is through its bar, 0..1."""
        return (max(0, self.sixteenth) + min(1.0, self.phase)) / 16.0 % 1.0

    def block(self, settings: HouseBandSettings) -> Array:
        """The next 256 samples, float64, shape (256, 2)."""
        per_sample = settings.tempo_bpm / 60.0 * 4.0 / SAMPLE_RATE
        offset = 0
        while True:
            until = int(np.ceil((1.0 - self.phase) / per_sample))
            if offset + until >= BLOCK:
                self.phase += (BLOCK - offset) * per_sample
                break
            offset += max(until, 0)
            self.phase = 0.0
            self.sixteenth = (self.sixteenth + 1) % 16
            self._strike(offset, settings.density)
        self.creep_db = float(
            np.clip(self.creep_db + settings.creep_db_per_min * BLOCK / SAMPLE_RATE / 60.0, -24.0, 24.0)
        )
        out = self.tail[:BLOCK] * 10 ** ((settings.level_db + self.creep_db) / 20)
        self.tail[:-BLOCK] = self.tail[BLOCK:]
        self.tail[-BLOCK:] = 0.0
        out += self.noise.standard_normal((BLOCK, 2)) * 10 ** (settings.noise_db / 20)
        self.blocks += 1
        return np.clip(out, -1.0, 1.0)

    def _strike(self, offset: int, density: float) -> None:
        for name, step, needed, gain, pan in PATTERN:
            if step != self.sixteenth or density < needed:
                continue
            sound = self.sounds[name]
            angle = (pan + 1.0) * np.pi / 4.0
            self.tail[offset : offset + len(sound)] += (
                sound[:, None] * np.array([np.cos(angle), np.sin(angle)]) * np.sqrt(2.0) * gain
            )
            self.played = [*self.played[-255:], (name, self.blocks * BLOCK + offset)]
