"""The control process: controllers come in by MIDI and OSC, and hear what they are to show; the tempo goes
out. A driver that hangs or dies takes nothing else with it.
"""

import os
import signal
import sys
import time
from pathlib import Path
from typing import Any

import msgpack
import zmq

from fulgura import bus
from fulgura.alive import Heart
from fulgura.control.clock_out import ClockOut
from fulgura.control.engine_link import EngineLink
from fulgura.control.midi_ports import MidiPorts
from fulgura.control.osc import OscPort

LOOK_EVERY_S = 1.0


class Control:
    """Joins the ports, the clock and the engine; run() goes on until stop is set."""

    def __init__(self, folder: Path, osc_port: int, midi_port: int) -> None:
        self.heart = Heart()
        self.link = EngineLink(folder)
        self.osc = OscPort(osc_port, self.link.act)
        self.ports = MidiPorts(midi_port, self.link.act)
        self.clock = ClockOut(self.ports.send, self.osc.send)
        self.stop = False
        self.osc_to = ""
        self._told: dict[str, Any] = {}
        self._news: zmq.Socket[bytes] = zmq.Context.instance().socket(zmq.SUB)
        for topic in (bus.FEEDBACK, bus.TEMPO):
            self._news.subscribe(topic)
        self._news.connect(bus.addresses(folder)[0])

    def run(self) -> None:
        """Hear the engine, and look after the ports."""
        looked = 0.0
        while not self.stop:
            self.heart.beat()
            if self._news.poll(100):
                topic, message = self._news.recv_multipart()
                self._take(topic, msgpack.unpackb(message))
            if time.monotonic() - looked > LOOK_EVERY_S:
                looked = time.monotonic()
                self.ports.look()
                self._tell()
        self.clock.close()
        self.ports.close()
        self.osc.close()
        self.link.close()

    def _take(self, topic: bytes, data: Any) -> None:
        if topic == bus.TEMPO:
            self.osc_to = data["osc_to"]
            self.clock.lead(data)
            return
        for controller, source, value, message in data:
            if source.startswith("osc ") and self.osc_to:
                self.osc.send(self.osc_to, source.removeprefix("osc ").partition(" ")[0], float(value))
            if message:
                self.ports.send(controller or "all", bytes(message))

    def _tell(self) -> None:
        fault = self.osc.fault or self.ports.fault
        state = {
            "controllers": self.ports.names(),
            "fault": fault.model_dump(mode="json") if fault is not None else None,
            "clock": self.clock.state(),
        }
        self.link.ports(state)


def _prefer_this_process() -> None:
    """It does little, and that in time: it goes before all others where that is allowed, and none of its own
    threads keeps the one that ticks waiting.
    """
    sys.setswitchinterval(0.0005)
    try:
        os.sched_setscheduler(0, os.SCHED_RR, os.sched_param(11))
    except (OSError, AttributeError):
        try:
            os.nice(-15)
        except OSError:
            pass


def main(folder: Path, osc_port: int, midi_port: int) -> None:
    """Run it until SIGTERM or SIGINT. midi_port: TCP, 0 for none."""
    _prefer_this_process()
    control = Control(folder, osc_port, midi_port)

    def stop(*_: object) -> None:
        control.stop = True

    signal.signal(signal.SIGTERM, stop)
    signal.signal(signal.SIGINT, stop)
    control.run()
