"""Loudness after ITU-R BS.1770-4: K-weighting, momentary (400 ms), short-term (3 s), gated over the
programme.

The windows move in steps of 100 ms, the overlap that BS.1770-4 prescribes for gating. Integrated loudness
keeps a histogram in steps of 0.1 LU (EBU Tech 3341 permits one) with the energy in each step, so that a whole
night takes no more memory than a minute.
"""

from dataclasses import dataclass, field
from math import log10

import numpy as np
from numba import njit

from fulgura.core.arrays import Array
from fulgura.core.clock import SAMPLE_RATE

SEGMENT = SAMPLE_RATE // 10
"""Samples of one 100 ms step."""
MOMENTARY, SHORT_TERM = 4, 30
"""Steps in the momentary and in the short-term window."""
SILENCE_LUFS = -120.0
ABSOLUTE_GATE_LUFS, RELATIVE_GATE_LU = -70.0, -10.0
STEP_LU = 0.1
BINS = int((10.0 - ABSOLUTE_GATE_LUFS) / STEP_LU)

# BS.1770-4, tables 1 and 2: the two filters of the K-weighting at 48 kHz, as (b0, b1, b2, a1, a2).
SHELF = (1.53512485958697, -2.69169618940638, 1.19839281085285, -1.69065929318241, 0.73248077421585)
HIGH_PASS = (1.0, -2.0, 1.0, -1.99004745483398, 0.99007225036621)
_FILTERS = np.array([SHELF, HIGH_PASS])


def to_lufs(energy: float) -> float:
    """Formula over channels of K-weighted mean squares to LUFS: -0.691 + 10 log10 (BS.1770-4, equation 2)."""
    return max(SILENCE_LUFS, -0.691 + 10.0 * log10(energy)) if energy > 0.0 else SILENCE_LUFS


@dataclass
class Loudness:
    """State of one input's loudness. Channels are front left and right: each weighs 1."""

    filters: Array = field(default_factory=lambda: np.zeros((2, 2, 2)))
    """State by channel, filter and delay."""
    partial: Array = field(default_factory=lambda: np.zeros(2))
    """Energy and samples of the step under way."""
    steps: Array = field(default_factory=lambda: np.zeros(SHORT_TERM))
    """Mean energies of the last steps, the newest last."""
    heard: int = 0
    counts: Array = field(default_factory=lambda: np.zeros(BINS))
    energies: Array = field(default_factory=lambda: np.zeros(BINS))
    momentary_max: float = SILENCE_LUFS
    short_term_max: float = SILENCE_LUFS

    def push(self, samples: Array) -> bool:
        """Hear samples (n, channels), at most two channels are heard; returns whether a step of 100
        ms ended.
        """
        ended = weigh(samples, _FILTERS, self.filters, self.partial, self.steps)
        for k in range(ended):
            self._step(ended - 1 - k)
        return ended > 0

    def _step(self, ago: int) -> None:
        """One step is complete, and ago further ones since."""
        self.heard += 1
        end = SHORT_TERM - ago
        if self.heard >= MOMENTARY:
            energy = float(np.mean(self.steps[end - MOMENTARY : end]))
            lufs = to_lufs(energy)
            self.momentary_max = max(self.momentary_max, lufs)
            if lufs > ABSOLUTE_GATE_LUFS:
                at = min(BINS - 1, int((lufs - ABSOLUTE_GATE_LUFS) / STEP_LU))
                self.counts[at] += 1.0
                self.energies[at] += energy
        if self.heard >= SHORT_TERM:
            self.short_term_max = max(self.short_term_max, to_lufs(float(np.mean(self.steps[:end]))))

    @property
    def momentary(self) -> float:
        """LUFS of the last 400 ms; what has not been heard yet counts as silence."""
        return to_lufs(float(np.mean(self.steps[-MOMENTARY:])))

    @property
    def short_term(self) -> float:
        """LUFS of the last 3 s; what has not been heard yet counts as silence."""
        return to_lufs(float(np.mean(self.steps)))

    @property
    def integrated(self) -> float:
        """LUFS of everything heard, gated twice: at -70 LUFS and at 10 LU below what is left."""
        if not self.counts.any():
            return SILENCE_LUFS
        gate = to_lufs(float(self.energies.sum() / self.counts.sum())) + RELATIVE_GATE_LU
        first = max(0, int(np.ceil((gate - ABSOLUTE_GATE_LUFS) / STEP_LU - 0.5)))
        count = self.counts[first:].sum()
        return to_lufs(float(self.energies[first:].sum() / count)) if count else SILENCE_LUFS


@njit(cache=True, fastmath={"contract"})
def weigh(samples: Array, filters: Array, state: Array, partial: Array, steps: Array) -> int:
    """K-weight samples (n, channels) and sum their energy into steps; everything in place. Returns how many
    steps ended.
    """
    channels = min(samples.shape[1], 2)
    b0, b1, b2, a1, a2 = filters[0, 0], filters[0, 1], filters[0, 2], filters[0, 3], filters[0, 4]
    c1, c2 = filters[1, 3], filters[1, 4]
    ended = 0
    start = 0
    while start < samples.shape[0]:
        stop = min(samples.shape[0], start + SEGMENT - int(partial[1]))
        # Both channels side by side: each waits for its own last sample, and the processor has time for the
        # other.
        other = channels - 1
        p0, p1, q0, q1 = state[0, 0, 0], state[0, 0, 1], state[0, 1, 0], state[0, 1, 1]
        r0, r1, s0, s1 = state[other, 0, 0], state[other, 0, 1], state[other, 1, 0], state[other, 1, 1]
        energy, other_energy = 0.0, 0.0
        for i in range(start, stop):
            x, u = samples[i, 0] + 1e-30, samples[i, other] + 1e-30
            y, v = b0 * x + p0, b0 * u + r0
            # What does not wait for y comes first: the recursion then takes two steps, not three.
            p0, r0 = b1 * x + p1 - a1 * y, b1 * u + r1 - a1 * v
            p1, r1 = b2 * x - a2 * y, b2 * u - a2 * v
            z, w = y + q0, v + s0
            q0, s0 = q1 - 2.0 * y - c1 * z, s1 - 2.0 * v - c1 * w
            q1, s1 = y - c2 * z, v - c2 * w
            energy += z * z
            other_energy += w * w
        state[0, 0, 0], state[0, 0, 1], state[0, 1, 0], state[0, 1, 1] = p0, p1, q0, q1
        state[other, 0, 0], state[other, 0, 1], state[other, 1, 0], state[other, 1, 1] = r0, r1, s0, s1
        partial[0] += energy + (other_energy if other > 0 else 0.0)
        partial[1] += stop - start
        if partial[1] >= SEGMENT:
            for k in range(steps.shape[0] - 1):
                steps[k] = steps[k + 1]
            steps[-1] = partial[0] / SEGMENT
            partial[0], partial[1] = 0.0, 0.0
            ended += 1
        start = stop
    return ended
