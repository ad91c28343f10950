"""What the engine says of itself, some times a second."""

import time
from typing import TYPE_CHECKING, Any

from fulgura.engine.published import unix_ms
from fulgura.engine.told import told

if TYPE_CHECKING:
    from fulgura.engine.main import Engine


def report(engine: "Engine") -> dict[str, Any]:
    """Its state as the web process and the desks take it."""
    performer = engine.performer
    return {
        "needs_show": engine.revision < 0,
        "revision": engine.revision,
        "inputs": {
            input_id: {
                "use": player.use,
                **told(player.input.state()),
                "room": performer.listeners[input_id].room(),
                "hits": performer.listeners[input_id].watched(),
                "recording": told(engine.recorders.of[input_id].state())
                if input_id in engine.recorders.of
                else None,
            }
            for input_id, player in engine.players.items()
        },
        "lights": {**told(engine.lights.state(time.monotonic())), "held_back": performer.lamps_held_back()},
        "guard": {"causes": [cause.model_dump() for cause in performer.flash_causes]},
        "faults": told(performer.router.faults()),
        "modulator_faults": told(performer.router.modulator_faults()),
        "overridden": list(performer.router.overrides.active),
        "beat": performer.main.beat_state(),
        "ports": engine.surface.ports,
        "repaired": performer.main.repaired,
        "frame": performer.number,
        "clock": {"number": performer.number, "unix_ms": unix_ms(engine.next_due)},
        "measured": engine.measured,
        "unplayed": engine.unplayed,
    }
