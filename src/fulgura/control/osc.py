"""OSC 1.0 over UDP (opensoundcontrol.org, "The Open Sound Control 1.0 Specification", 2002), both ways."""

import heapq
import socket
import threading
import time
from collections.abc import Callable
from itertools import count
from typing import Any

from pythonosc.osc_bundle import OscBundle
from pythonosc.osc_message import OscMessage
from pythonosc.osc_message_builder import build_msg

from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.core.show.events import ControlSaid, Event, TempoSaid

CONTROLLER = "OSC"
MOST_ARGUMENTS, LONGEST_ADDRESS = 16, 100
MOST_WAITING, LONGEST_WAIT_S = 1000, 10.0
"""Messages of bundles with a time still to come; what is later than this counts as now."""
TEMPO, BEAT = "/tempo", "/beat"


def events_of(address: str, arguments: list[Any]) -> list[Event]:
    """What a message says: the tempo, a beat, or what a control does. Each number is a control of its own,
    counted from the second on; a message without any is a press.
    """
    numbers = [value for value in arguments[:MOST_ARGUMENTS] if isinstance(value, bool | int | float)]
    numbers = [value for value in numbers if abs(value) < 1e6]
    if address == TEMPO:
        return [TempoSaid(bpm=float(numbers[0]))] if numbers and 20 <= numbers[0] <= 400 else []
    if address == BEAT:
        return [TempoSaid(beat=int(numbers[0]) if numbers and 0 < numbers[0] <= 64 else 0)]
    source = f"osc {address[:LONGEST_ADDRESS]}"
    if not arguments:
        presses = (True, False)
        return [
            ControlSaid(source=source, controller=CONTROLLER, value=float(down), down=down)
            for down in presses
        ]
    return [
        ControlSaid(
            source=source if at == 0 else f"{source} {at + 1}",
            controller=CONTROLLER,
            value=float(value),
            down=bool(value) if isinstance(value, bool) else None,
        )
        for at, value in enumerate(numbers)
    ]


def messages_of(packet: bytes, now: float) -> list[tuple[float, OscMessage]]:
    """(when it is to act, in seconds since 1970; the message), of a message or a bundle. Raises ValueError,
    or what python-osc raises, for garbage.
    """
    if not OscBundle.dgram_is_bundle(packet):
        return [(now, OscMessage(packet))]
    bundle = OscBundle(packet)
    at = now if bundle.timestamp == 0 else max(now, bundle.timestamp)
    found = []
    for part in bundle:
        if isinstance(part, OscMessage):
            found.append((at, part))
        else:
            found += messages_of(part.dgram, at)
    return found


class OscPort:
    """Listens on a UDP port of loopback in a thread of its own, and sends. A taken port is told of."""

    def __init__(self, port: int, act: Callable[[Event, float], None]) -> None:
        self.act = act
        self.fault: Fault | None = None
        self._socket = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
        self._waiting: list[tuple[float, int, OscMessage]] = []
        self._order = count()
        self._closed = False
        try:
            self._socket.bind(("127.0.0.1", port))
        except OSError:
            self.fault = Fault.of(FaultCode.OSC_PORT_TAKEN, port=port)
            return
        threading.Thread(target=self._listen, daemon=True).start()

    def _listen(self) -> None:
        while not self._closed:
            self._do_due()
            left = self._waiting[0][0] - time.monotonic() if self._waiting else 0.5
            self._socket.settimeout(min(0.5, max(0.001, left)))
            try:
                packet = self._socket.recv(65_536)
            except TimeoutError:
                continue
            except OSError:
                return
            try:
                self._take(packet)
            except Exception:
                continue  # Garbage on the port is nobody's news; python-osc raises whatever it meets.

    def _take(self, packet: bytes) -> None:
        now, clock = time.time(), time.monotonic()
        for at, message in messages_of(packet, now):
            wait = at - now
            if wait <= 0.0 or wait > LONGEST_WAIT_S or len(self._waiting) >= MOST_WAITING:
                self._do(message)
            else:  # From here on by a clock that nobody sets.
                heapq.heappush(self._waiting, (clock + wait, next(self._order), message))

    def _do_due(self) -> None:
        while self._waiting and self._waiting[0][0] <= time.monotonic():
            self._do(heapq.heappop(self._waiting)[2])

    def _do(self, message: OscMessage) -> None:
        at = time.monotonic()
        for event in events_of(message.address, list(message.params)):
            self.act(event, at)

    def send(self, to: str, address: str, value: float | int) -> None:
        """Send one number to "host:port", an address as numbers; what cannot be sent is passed over."""
        host, _, port = to.rpartition(":")
        try:
            socket.inet_aton(host)
            self._socket.sendto(build_msg(address, value).dgram, (host, int(port)))
        except (OSError, ValueError, OverflowError):
            pass

    def close(self) -> None:
        self._closed = True
        self._socket.close()
