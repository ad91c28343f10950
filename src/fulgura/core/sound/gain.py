"""The input's level under control: gain by hand, a floor below which all is silence, and slow following.

Following holds short-term loudness (ITU-R BS.1770) near a target through a night of creeping levels. It is
bounded, slow enough that no single hit moves it, and frozen while nothing plays.
"""

from dataclasses import dataclass, field
from functools import cached_property
from math import log10, sqrt

import numpy as np
from numba import njit

from fulgura.core.arrays import Array
from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.kinds.inputs.level import HIGHEST_FLOOR_DBFS, LOWEST_DBFS, SIDES, LevelSetting
from fulgura.core.sound.levels import coefficient
from fulgura.core.sound.loudness import SILENCE_LUFS
from fulgura.core.sound.low_cut import LowCut

BLOCK_S = BLOCK / SAMPLE_RATE
FASTEST_DB_PER_S = 0.7
"""Following never turns faster: a bar of it is hardly noticed (common practice for riding a fader)."""
EAGERNESS = 0.25
"""Decibels a second for each LU off target: slower than the 3 s that short-term loudness looks back."""
NEAR_LU = 0.5
"""Closer than this to the target, following rests."""
LASTING_S = 3.2
"""How long loudness must have been off before following begins."""
QUIETEST_LUFS = -60.0
"""What is quieter is taken for silence, and following waits."""
HYSTERESIS_DB = 3.0


_GATE_SHARE = coefficient(0.05, 1.0 / BLOCK_S)
"""The gate looks at 50 ms, so that it follows the sound and not its wave."""
OPEN_S, CLOSE_S = 0.005, 0.15
LISTEN_S = 3.0


MARGIN_DB = 6.0
"""How far above the measured room the floor is proposed (common practice)."""


@dataclass
class LevelControl:
    """One input's. ``apply`` each block; ``follow`` whenever loudness was measured anew."""

    settings: LevelSetting = field(default_factory=LevelSetting)
    gain_db: float = 0.0
    """The hand's."""
    followed_db: float = 0.0
    open: bool = True
    _gate: float = 1.0
    _square: float = 0.0
    _gain: float = 1.0
    _error: float = 0.0
    _lasted_s: float = 0.0
    _hand_db: float = 0.0
    _wait_s: float = 0.0
    _low_cut: LowCut = field(default_factory=LowCut)

    def apply(self, block: Array) -> Array:
        """The block (256, channels) as the analyser is to hear it: new array, float64, same shape."""
        chosen = self.settings
        gain = 10 ** ((self.gain_db + self.followed_db) / 20)
        block = self._low_cut.run(block, chosen.low_cut, chosen.low_cut_hz)
        out = np.empty(block.shape)
        gate = self._next_gate()
        square = _turn(
            block.astype(np.float64, copy=False),
            out,
            self._gain,
            gain,
            self._gate,
            gate,
            SIDES.index(chosen.sides),
        )
        self._gain, self._gate = gain, gate
        self._square += _GATE_SHARE * ((square if np.isfinite(square) else 0.0) - self._square)
        level = 10 * log10(2.0 * self._square + 1e-30)
        if chosen.floor_dbfs <= LOWEST_DBFS:
            self.open = True
        else:
            self.open = level > chosen.floor_dbfs + (0.0 if self.open else HYSTERESIS_DB)
        return out

    def _next_gate(self) -> float:
        seconds = OPEN_S if self.open else CLOSE_S
        return self._gate + (float(self.open) - self._gate) * min(1.0, BLOCK_S / seconds)

    def follow(self, momentary: float, short_term: float, seconds: float) -> None:
        """Move the followed gain for so many seconds; loudness in LUFS is that after the present gain.

        The hand's gain lies outside of the loop: what the hand turns stays turned.
        """
        chosen = self.settings
        if not chosen.follow:
            # Given up gradually, so that nothing leaps when following is switched off.
            self.followed_db -= np.clip(self.followed_db, -1.0, 1.0) * min(
                1.0, FASTEST_DB_PER_S * 4 * seconds
            )
            return
        before = momentary - self.gain_db - self.followed_db
        if self.gain_db != self._hand_db:
            # Short-term loudness still holds what was heard before the hand turned.
            self._hand_db, self._lasted_s, self._wait_s = self.gain_db, 0.0, LASTING_S
        self._wait_s = max(0.0, self._wait_s - seconds)
        error = chosen.target_lufs - (short_term - self.gain_db)
        # One loud hit stays in the short-term window for 3 s: only what lasts longer is followed.
        lasting = abs(error) >= NEAR_LU and error * self._error > 0.0
        self._lasted_s, self._error = (self._lasted_s + seconds if lasting else 0.0), error
        if (
            self._wait_s > 0.0
            or self._lasted_s < LASTING_S
            or not self.open
            or before < QUIETEST_LUFS
            or short_term <= SILENCE_LUFS
            or short_term - momentary > 15.0
        ):
            return
        turn = np.clip(EAGERNESS * error, -FASTEST_DB_PER_S, FASTEST_DB_PER_S) * seconds
        self.followed_db = float(np.clip(self.followed_db + turn, -chosen.reach_db, chosen.reach_db))


@njit(cache=True)
def _turn(
    block: Array, out: Array, old_gain: float, gain: float, old_gate: float, gate: float, side: int
) -> float:
    """Gain and gate, gliding over the block so that nothing clicks; returns the mean square before them.

    side 0: all channels as they are; 1, 2: the left or the right one on every channel.
    """
    square = 0.0
    rows, channels = block.shape
    for i in range(rows):
        share = (i + 1.0) / rows
        factor = (old_gain + share * (gain - old_gain)) * (old_gate + share * (gate - old_gate))
        for c in range(channels):
            value = np.float64(block[i, c if side == 0 else min(side - 1, channels - 1)])
            square += value * value
            out[i, c] = value * factor
    found: float = square / (rows * channels)
    return found


@dataclass
class FloorMeasure:
    """Listens to the empty room: ``hear`` each block before gain until ``done``."""

    squares: list[float] = field(default_factory=list)

    def hear(self, block: Array) -> None:
        if not self.done:
            self.squares.append(float(np.mean(np.square(block, dtype=np.float64))))

    @property
    def done(self) -> bool:
        return len(self.squares) * BLOCK_S >= LISTEN_S

    @cached_property
    def room_dbfs(self) -> float:
        """RMS of the room in dBFS (AES17), once done; the loudest tenth of the time is left out: a cough is
        not the room.
        """
        kept = np.sort(self.squares)[: max(1, int(0.9 * len(self.squares)))]
        return max(LOWEST_DBFS, 20 * log10(sqrt(2.0 * float(np.mean(kept))) + 1e-30))

    @property
    def proposed_dbfs(self) -> float:
        """A floor that the room stays below."""
        return min(HIGHEST_FLOOR_DBFS, self.room_dbfs + MARGIN_DB)
