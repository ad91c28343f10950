"""What hands play."""

from typing import Literal

from fulgura.core.kinds.modulator import Modulator, State
from fulgura.core.kinds.parameters import param
from fulgura.core.kinds.tick import TickContext


class PlayedSignal(Modulator):
    """What a pad, a note or a message plays: a hit each, as strong as it was played; or the value that was
    said last.
    """

    title = "Played"
    made_by = "hand"

    gives: Literal["hits", "the last value"] = param(
        "hits", help="hits: each for one frame; the last value: it stays until the next"
    )

    def start(self, seed: int) -> State:
        return [0.0]

    def step(self, state: State, now: TickContext) -> tuple[float, int]:
        if now.mine.hits:
            state[0] = now.mine.value
        held = self.gives == "the last value"
        return (state[0] if held or now.mine.hits else 0.0), now.mine.hits
