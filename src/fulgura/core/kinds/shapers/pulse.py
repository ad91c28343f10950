"""Rise, hold and decay."""

from math import exp, inf
from typing import Literal

from fulgura.core.arrays import Array
from fulgura.core.kinds.counting import LN_TWENTIETH, NO_TRIGGER, TRIGGER, counted
from fulgura.core.kinds.parameters import Beats, Milliseconds, SignalRef, param
from fulgura.core.kinds.shaper import Shaper, compiled_step
from fulgura.core.kinds.tick import BEAT_S, DT


class Pulse(Shaper):
    """Each hit rises, holds and decays: a flash that appears at once and fades. It never stays on."""

    says = "as a pulse, {attack}{attack_beats} up, {decay} down"

    counts_hits = True

    attack: Milliseconds = param(0.0, 0.0, 10_000.0, "Time to rise", title="Up", when=("rises", "ms"))
    hold: Milliseconds = param(0.0, 0.0, 5000.0, "Time at the top", title="Hold")
    decay: Milliseconds = param(
        200.0,
        0.0,
        10_000.0,
        "Time to fall to a twentieth; 200 suits dance music (common practice)",
        title="Down",
    )
    retrigger: bool = param(True, help="Off: a hit that falls into a pulse changes nothing")
    strength: bool = param(True, help="On: as high as the hit was strong; off: always 1")
    trigger: SignalRef = param("", help=TRIGGER, empty=NO_TRIGGER)
    rises: Literal["ms", "beats"] = param("ms", help="What its rise is counted in")
    attack_beats: Beats = param(1.0, 0.0, 16.0, "Time to rise", title="Up", when=("rises", "beats"))

    def start(self, seed: int) -> list[float]:
        return [inf, 0.0, 0.0, 0.0]  # seconds since the hit, its height, where it began, the value

    @compiled_step
    @staticmethod
    def step(
        value: float, hits: int, p: Array, s: Array, now: Array, values: Array, fallen: Array
    ) -> tuple[float, int]:
        attack, hold, decay = p[0] / 1000.0, p[1] / 1000.0, p[2] / 1000.0
        if p[6] == 1:
            attack = p[7] * now[BEAT_S]
        s[0] += now[DT]
        fell = counted(hits, p[5], fallen)
        if fell and (p[3] or s[0] >= attack + hold + decay):
            strength = value if p[5] < 0 else values[int(p[5])]
            s[0], s[1], s[2] = 0.0, strength if p[4] else 1.0, s[3]
        since = s[0]
        if since < attack:
            s[3] = s[2] + (s[1] - s[2]) * since / attack
        elif since <= attack + hold + 1e-9:
            s[3] = s[1]
        elif decay == 0.0 or since - attack - hold >= 3.0 * decay:
            s[3] = 0.0
        else:
            s[3] = s[1] * exp(LN_TWENTIETH * (since - attack - hold) / decay)
        return s[3], fell
