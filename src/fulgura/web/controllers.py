"""Controllers: OSC 1.0 over UDP, and MIDI as browsers pass it on. What moves is bound, and moves what it is
bound to.
"""

import asyncio
import logging
import time
from collections.abc import Callable
from math import isfinite
from typing import Any

from pythonosc.dispatcher import Dispatcher
from pythonosc.osc_server import AsyncIOOSCUDPServer

from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.core.show.commands.mappings import bind
from fulgura.core.show.document import Mapping, Show
from fulgura.core.show.edits import Edit, EditError, SetValue, value_at
from fulgura.core.timing.pickup import Pickup

LONGEST_SOURCE = 120


class Controllers:
    """Takes what controllers say to the open show.

    show: gives the open show; commit: makes an edit of it (edit, name, gesture).
    """

    def __init__(self, show: Callable[[], Show | None], commit: Callable[[Edit, str, str], None]) -> None:
        self.show, self.commit = show, commit
        self.pickup = Pickup()
        self.learning = ""
        """The place that the next fader to move is bound to."""
        self.last = ""
        self.waits = ""
        """Which binding's fader has not picked its value up yet."""
        self.fault: Fault | None = None

    async def listen(self, port: int) -> None:
        """Take OSC on a UDP port of loopback until cancelled; a taken port is told of, and all else
        goes on.
        """
        dispatcher = Dispatcher()
        dispatcher.set_default_handler(self._osc)
        loop: Any = asyncio.get_running_loop()
        server = AsyncIOOSCUDPServer(("127.0.0.1", port), dispatcher, loop)
        try:
            transport, _ = await server.create_serve_endpoint()
        except OSError:
            self.fault = Fault.of(FaultCode.OSC_PORT_TAKEN, port=port)
            return
        # python-osc logs each message that it cannot read; garbage on the port is nobody's news.
        logging.getLogger("pythonosc").setLevel(logging.CRITICAL)
        try:
            await asyncio.Event().wait()
        finally:
            transport.close()

    def _osc(self, address: str, *values: object) -> None:
        if values and isinstance(values[0], (int, float)):
            self.moved(f"osc {address}", float(values[0]))

    def moved(self, source: str, position: float) -> None:
        """A fader moved: source names it, position is 0..1. What makes no sense is passed over."""
        show = self.show()
        if show is None or not isfinite(position) or not 0 < len(source) <= LONGEST_SOURCE:
            return
        self.last = source
        if self.learning:
            target, self.learning = self.learning, ""
            try:
                self.commit(bind(show, source, target), "Controller", "")
            except EditError:
                return
        for mapping in (self.show() or show).mappings:
            if mapping.source == source:
                self._turn(self.show() or show, mapping, position)

    def _turn(self, show: Show, mapping: Mapping, position: float) -> None:
        # Ids are given again when a binding goes; a fader and what it moves are not mistaken for others.
        fader = f"{mapping.source} {mapping.target}"
        try:
            value = self.pickup.move(
                fader, position, float(value_at(show, mapping.target)), mapping.low, mapping.high
            )
            if value is None:
                self.waits = mapping.id
                return
            if self.waits == mapping.id:
                self.waits = ""
            edit = SetValue(path=mapping.target, value=round(value, 4))
            self.commit(edit, "Controller", self.pickup.gesture(fader, time.monotonic()))
        except (EditError, TypeError, ValueError):
            return  # What it moved is gone: the binding stays, and acts again when it is back.

    def news(self) -> dict[str, str]:
        """What desks show of it."""
        return {"learning": self.learning, "last": self.last, "waits": self.waits}
