"""Steps on the beat."""

from math import floor

from fulgura.core.kinds.modulator import Modulator, State
from fulgura.core.kinds.parameters import Beats, Ratio, Steps, param
from fulgura.core.kinds.tick import TickContext


class Pattern(Modulator):
    """A row of steps that are gone through on the beat. A step above 0 is a hit of that strength, too."""

    steps: Steps = param(
        [1.0, 0.0, 0.5, 0.0, 1.0, 0.0, 0.5, 0.25], help="Height of each step; from 4 to 64 of them"
    )
    beats: Beats = param(0.25, 0.0625, 8.0, "Beats of one step", title="Step every")
    length: Ratio = param(1.0, 0.05, 1.0, "Share of its step for which it sounds")
    glide: bool = param(False, help="On: runs from each height to the next")

    def start(self, seed: int) -> State:
        return [None]

    def step(self, state: State, now: TickContext) -> tuple[float, int]:
        count = len(self.steps)
        position = now.beats / self.beats
        whole = floor(position)
        last, state[0] = state[0], whole
        value = self.steps[whole % count]
        fell = 0
        if last is not None and whole > last:
            # Steps may be shorter than a tick: each is counted.
            fell = sum(1 for step in range(last + 1, whole + 1) if self.steps[step % count] > 0.0)
        if self.glide:
            return value + (self.steps[(whole + 1) % count] - value) * (position - whole), fell
        return (value if position - whole < self.length else 0.0), fell
