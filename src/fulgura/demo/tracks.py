"""The four tracks of *Night at Vesper Point*, synthesised with their true beats and hits beside them."""

from collections.abc import Callable
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray
from scipy.signal import butter, sosfilt

from fulgura.core.clock import SAMPLE_RATE
from fulgura.core.synthesis import kit
from fulgura.demo.media import TITLES


@dataclass
class Score:
    """A stereo canvas and the truth about what was put on it. Times in seconds."""

    seconds: float
    bpm: float | None = None
    samples: NDArray = field(init=False)
    hits: dict[str, list[float]] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self.samples = np.zeros((int(self.seconds * SAMPLE_RATE), 2))

    def at(self, beat: float) -> float:
        """The time of a beat counted from 0."""
        assert self.bpm is not None, "a track without a beat has none to ask for"
        return beat * 60.0 / self.bpm

    def add(
        self, time_s: float, sound: NDArray, gain: float, pan: float = 0.0, name: str | None = None
    ) -> None:
        """Mix a mono sound in at a time; pan from -1 (left) to 1 (right); name it to note it as a hit."""
        start = max(0, int(round(time_s * SAMPLE_RATE)))
        end = min(start + len(sound), len(self.samples))
        if end <= start:
            return
        angle = (pan + 1.0) * np.pi / 4.0
        sides = np.array([np.cos(angle), np.sin(angle)]) * np.sqrt(2.0) * gain
        self.samples[start:end] += sound[: end - start, None] * sides
        if name:
            self.hits.setdefault(name, []).append(round(start / SAMPLE_RATE, 6))

    def beats(self) -> list[float]:
        return (
            []
            if self.bpm is None
            else [round(self.at(b), 6) for b in range(int(self.seconds * self.bpm / 60.0))]
        )

    def finished(self) -> NDArray:
        """Peaks at -1 dBFS through a gentle soft clip; float32, shape (n, 2)."""
        loud = np.tanh(self.samples * 0.9)
        return (loud * (10 ** (-1 / 20) / np.abs(loud).max())).astype(np.float32)


def lamp_room() -> Score:
    """124 BPM, four on the floor, off-beat hats."""
    score = Score(32 * 4 * 60.0 / 124.0, 124.0)
    kick, snare, hat, open_hat = kit.kick(), kit.snare(), kit.hat(), kit.hat(0.2, 0.07)
    roots = [55.0, 55.0, 43.65, 49.0]
    for bar in range(32):
        root, breakdown = roots[bar % 4], bar == 23
        for beat in range(4):
            b = 4 * bar + beat
            if not breakdown:
                score.add(score.at(b), kick, 0.85, name="kick")
                if beat % 2 and bar >= 4:
                    score.add(score.at(b), snare, 0.4, 0.1, name="snare")
            if bar >= 2:
                score.add(score.at(b + 0.5), open_hat if bar >= 8 else hat, 0.42, -0.15, name="hat")
            if bar >= 12:
                for sixteenth in (0.25, 0.75):
                    score.add(score.at(b + sixteenth), hat, 0.2, 0.3, name="hat")
            if bar >= 4:
                score.add(score.at(b + 0.5), kit.bass(root, 60 / 124 * 0.45), 0.3)
        if bar >= 8:
            chord = [root * 4, root * 4 * 1.1892, root * 4 * 1.4983]
            for stab in (0.75, 2.5):
                score.add(score.at(4 * bar + stab), kit.chord(chord, 0.5, 0.004), 0.22, 0.25)
        elif bar >= 4:
            score.add(score.at(4 * bar), kit.chord([root * 4, root * 6], 1.9, 0.4), 0.12, -0.3)
    return score


def fog_signal() -> Score:
    """92 BPM, broken kick and snare, long horn."""
    score = Score(24 * 4 * 60.0 / 92.0, 92.0)
    kick, snare, hat = kit.kick(0.36, 44.0), kit.snare(0.28, 170.0), kit.hat()
    for bar in range(24):
        for beat in (0.0, 1.75, 2.5) if bar % 2 == 0 else (0.0, 0.75, 2.5, 3.75):
            score.add(score.at(4 * bar + beat), kick, 0.85, name="kick")
        for beat in (1.0, 3.0):
            score.add(score.at(4 * bar + beat), snare, 0.6, name="snare")
        for eighth in range(8 if bar >= 2 else 0):
            score.add(score.at(4 * bar + eighth / 2), hat, 0.3 if eighth % 2 == 0 else 0.18, 0.3, name="hat")
        if bar % 4 == 0 and bar >= 4:
            score.add(score.at(4 * bar), kit.horn(110.0 if bar % 8 else 82.4, 5.5), 0.4, -0.2)
        score.add(score.at(4 * bar), kit.bass(41.2 if bar % 4 < 2 else 36.7, 1.2), 0.25)
    return score


def undertow() -> Score:
    """174 BPM, fast broken beat."""
    score = Score(44 * 4 * 60.0 / 174.0, 174.0)
    kick, snare, hat = kit.kick(0.2, 55.0), kit.snare(0.18, 210.0), kit.hat(0.05, 0.014)
    for bar in range(44):
        for beat in (0.0, 2.5) if bar % 2 == 0 else (0.0, 2.5, 3.25):
            score.add(score.at(4 * bar + beat), kick, 0.8, name="kick")
        for beat in (1.0, 3.0):
            score.add(score.at(4 * bar + beat), snare, 0.6, name="snare")
        for eighth in range(8):
            score.add(score.at(4 * bar + eighth / 2), hat, 0.26, -0.2, name="hat")
        if bar >= 4:
            score.add(score.at(4 * bar), kit.bass((36.7, 36.7, 43.7, 49.0)[bar // 2 % 4], 1.3), 0.35)
    return score


def slack_water() -> Score:
    """No beat: drones and stereo figures that draw shapes when left is shown against right."""
    score = Score(56.0)
    t = np.arange(len(score.samples)) / SAMPLE_RATE
    for start, (across, up), base in zip(
        np.arange(0.0, 56.0, 8.0),
        ((1, 1), (1, 2), (2, 3), (3, 4), (3, 5), (4, 5), (1, 3)),
        (110, 110, 98, 82.4, 73.4, 98, 110),
    ):
        inside = np.clip(np.minimum(t - start, start + 9.0 - t) / 1.5, 0.0, 1.0)
        swell = 0.32 + 0.1 * np.sin(2 * np.pi * 0.13 * t)
        turn = 2 * np.pi * 0.07 * t
        score.samples[:, 0] += inside * swell * np.sin(2 * np.pi * base * across * t)
        score.samples[:, 1] += inside * swell * np.sin(2 * np.pi * base * up * t + turn)
    noise = np.random.default_rng(21).standard_normal((len(t), 2))
    wash = sosfilt(butter(1, [300, 1200], "bandpass", fs=SAMPLE_RATE, output="sos"), noise, axis=0)
    score.samples += wash * (0.02 + 0.02 * np.sin(2 * np.pi * 0.05 * t)[:, None] ** 2)
    return score


TRACKS: dict[str, tuple[str, Callable[[], Score]]] = {
    track: (TITLES[track], compose)
    for track, compose in (
        ("lamp-room", lamp_room),
        ("fog-signal", fog_signal),
        ("undertow", undertow),
        ("slack-water", slack_water),
    )
}
"""Track id -> (title, what composes it)."""
