"""What is known of the show that plays, and why what rests does not move."""

from typing import Any

from fulgura.core import wire
from fulgura.core.kinds.faults import Fault
from fulgura.core.routing.telemetry import RouteTelemetry, Telemetry
from fulgura.core.routing.why import of_modulator_fault, why_route
from fulgura.core.show.document import Show
from fulgura.core.show.signals import SignalInfo, signals
from fulgura.core.sound.listener import SURE_ENOUGH
from fulgura.web.live.engine_client import EngineClient
from fulgura.web.live.frame_history import FrameHistory


class Diagnosis:
    """Puts together what the engine measured, by the names of the show."""

    def __init__(self, engine: EngineClient, history: FrameHistory) -> None:
        self.engine, self.history = engine, history
        self._signals: tuple[int, dict[str, SignalInfo]] = (-1, {})

    def telemetry(self, show: Show, version: int) -> Telemetry:
        """What was measured lately. version: of the show, so that its signals are named once for each."""
        if self._signals[0] != version:
            self._signals = (version, {signal.id: signal for signal in signals(show)})
        state = self.engine.state
        inputs, faults = state.get("inputs", {}), _faults(state.get("faults", {}))
        telemetry = Telemetry(
            modulators=_faults(state.get("modulator_faults", {})),
            overridden=set(state.get("overridden", [])),
            held_back=set(state.get("lights", {}).get("held_back", [])),
            signals=self._signals[1],
            faults=_faults(
                {
                    input_id: audio_input["fault"]
                    for input_id, audio_input in inputs.items()
                    if audio_input.get("fault")
                }
            ),
            playing={
                input_id: audio_input["playing"]
                for input_id, audio_input in inputs.items()
                if "playing" in audio_input
            },
            routes={route: RouteTelemetry(fault=fault) for route, fault in faults.items()},
        )
        packet = self.history.newest(self.engine.layout)
        if packet is None or self.engine.layout is None:
            return telemetry
        layout = self.engine.layout["layout"]
        measured = packet.blocks[wire.BlockId.TELEMETRY].tolist()
        for i, route in enumerate(layout["routes"]):
            peak, moved, clamped = measured[3 * i : 3 * i + 3]
            telemetry.routes[route["id"]] = RouteTelemetry(peak, moved, clamped, faults.get(route["id"]))
        peaks = measured[3 * len(layout["routes"]) :]
        telemetry.peaks = dict(zip((signal["id"] for signal in layout["signals"]), peaks))
        rows = packet.blocks[wire.BlockId.STATUS].reshape(len(layout["inputs"]), -1)
        telemetry.levels_dbfs = {entry["id"]: float(row[0]) for entry, row in zip(layout["inputs"], rows)}
        telemetry.sure_of_beat = bool(rows[0][5] > SURE_ENOUGH)
        return telemetry

    def why(self, show: Show, version: int) -> dict[str, dict[str, Any]]:
        """Of each route that moves nothing, and of each modulator that is faulty, by their ids: why, and what
        cures it.
        """
        telemetry = self.telemetry(show, version)
        routes = {route.id: why_route(show, route, telemetry) for route in show.routes}
        return {
            "why": {route: reason.model_dump() for route, reason in routes.items() if reason is not None},
            "why_modulators": {
                modulator.id: of_modulator_fault(modulator, fault).model_dump()
                for modulator in show.modulators
                if (fault := telemetry.modulators.get(modulator.part.id)) is not None
            },
        }


def _faults(told: dict[str, Any]) -> dict[str, Fault]:
    return {name: Fault.model_validate(fault) for name, fault in told.items()}
