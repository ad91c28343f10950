"""What turns round and round, by the clock or by the beat."""

from typing import ClassVar

from fulgura.core.kinds.modulator import Modulator, State
from fulgura.core.kinds.parameters import SignalRef, param
from fulgura.core.kinds.tick import TickContext


class Turning(Modulator):
    """What turns round and round, by the clock or by the beat. Not a kind itself."""

    abstract: ClassVar[bool] = True

    once: bool = param(
        False, help="On: one turn for each hit of a signal, then rest; off: on and on", title="Once"
    )
    trigger: SignalRef = param("", help="Whose hits begin a turn", when=("once", "true"))

    def refers_to(self) -> tuple[str, ...]:
        return (self.trigger,) if self.once and self.trigger else ()

    def start(self, seed: int) -> State:
        # Turns at the anchor, the clock there, the clock, the rate there, seconds since the hit or none,
        # seed.
        return [0.0, 0.0, 0.0, None, None, seed]

    def turned(self, state: State, now: TickContext, rate: float, by_beat: bool) -> float | None:
        """Turns so far, whole and part; None while a single turn has ended. rate: turns a second, or beats a
        turn.
        """
        state[2] += now.dt
        clock: float = now.beats if by_beat else state[2]
        if self.once:
            if now.hits_of(self.trigger):
                state[4] = clock
            if state[4] is None:
                return None
            gone: float = (clock - state[4]) / rate if by_beat else (clock - state[4]) * rate
            return gone if gone < 1.0 else None
        if by_beat:
            return clock / rate
        if state[3] != rate:  # The rate is being moved: go on from here, so that the phase never leaps.
            state[0] += (state[2] - now.dt - state[1]) * (state[3] or 0.0)
            state[1], state[3] = state[2] - now.dt, rate
        # From the anchor, not from the last tick: a million ticks add up no error.
        turns: float = state[0] + (state[2] - state[1]) * rate
        return turns
