"""Universes onto the network, to any number of places at once: sACN (ANSI E1.31) and Art-Net 4. Nothing here
waits.
"""

import socket
from abc import ABC, abstractmethod
from collections import deque
from collections.abc import Mapping
from uuid import UUID, uuid5

from numpy.typing import NDArray

from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.core.lights import artnet, e131
from fulgura.core.show.lights import PORTS, LightOutput, LightSettings

SOURCE_NAME = "Fulgura"
COMPONENT = uuid5(UUID("6ba7b810-9dad-11d1-80b4-00c04fd430c8"), "fulgura.engine")
"""The component identifier (CID): the same after a restart, so that receivers see one source."""
KEEP_ALIVE_S = 0.9
"""Unchanged levels are repeated within a second, well inside the 2.5 s data-loss time-out."""
SPARE = 1.75
"""Frames that may have been saved up: ticks come sixty a second, and no second has more frames than its rate.
"""
RETRY_S = 1.0
"""After how long a network that took no packet is tried again."""


class Wire(ABC):
    """How a protocol says it."""

    @abstractmethod
    def packet(self, settings: LightOutput, universe: int, channels: NDArray) -> bytearray:
        """A packet of a universe, its sequence still open."""

    @abstractmethod
    def address(self, settings: LightOutput, universe: int) -> str:
        """Where it goes."""

    @abstractmethod
    def count(self, packet: bytearray, last: int) -> int:
        """Write the sequence number after the last one; returns it."""

    def farewell(self, packet: bytearray) -> bool:
        """Mark a packet as the last of its stream; False where the protocol knows none."""
        return False

    header: int
    """Octets before the first channel."""


class Sacn(Wire):
    header = e131.HEADER

    def packet(self, settings: LightOutput, universe: int, channels: NDArray) -> bytearray:
        return e131.data_packet(COMPONENT, SOURCE_NAME, universe, settings.priority, channels)

    def address(self, settings: LightOutput, universe: int) -> str:
        return settings.host or e131.multicast_group(universe)

    def count(self, packet: bytearray, last: int) -> int:
        packet[e131.SEQUENCE_AT] = (last + 1) % 256
        return packet[e131.SEQUENCE_AT]

    def farewell(self, packet: bytearray) -> bool:
        packet[e131.OPTIONS_AT] |= e131.TERMINATED
        return True


class ArtNet(Wire):
    header = artnet.HEADER

    def packet(self, settings: LightOutput, universe: int, channels: NDArray) -> bytearray:
        return artnet.dmx_packet(universe, channels)

    def address(self, settings: LightOutput, universe: int) -> str:
        return settings.host or "255.255.255.255"

    def count(self, packet: bytearray, last: int) -> int:
        packet[artnet.SEQUENCE_AT] = artnet.next_sequence(last)
        return packet[artnet.SEQUENCE_AT]


WIRES: dict[str, Wire] = {"sacn": Sacn(), "art-net": ArtNet()}


class Sender:
    """Sends universes to one place."""

    def __init__(self, settings: LightOutput, sequences: dict[int, int]) -> None:
        self.settings, self.wire = settings, WIRES[settings.protocol]
        self.sequences = sequences
        """The last sequence number of each universe that was ever sent: receivers count on from it, whatever
        becomes of a show (ANSI E1.31, 6.7.2).
        """
        self.packets: dict[int, bytearray] = {}
        self.saved: dict[int, float] = {}
        self.seen_at: dict[int, float] = {}
        self.sent_at: dict[int, float] = {}
        self.sent = self.failed = 0
        self.lately: deque[float] = deque(maxlen=4096)
        self.fault: Fault | None = None
        self.retry_at = 0.0
        self.socket: socket.socket | None = None
        self._check()

    def _check(self) -> None:
        for address in filter(None, (self.settings.host, self.settings.interface)):
            try:
                socket.inet_pton(socket.AF_INET, address)
            except (OSError, ValueError):
                self.fault = Fault.of(FaultCode.LIGHT_ADDRESS, host=address)

    @property
    def misaddressed(self) -> bool:
        """Whether it can't send at all until somebody types another address."""
        return self.fault is not None and self.fault.code == FaultCode.LIGHT_ADDRESS

    def _open(self) -> socket.socket:
        made = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
        made.setblocking(False)
        made.setsockopt(socket.SOL_SOCKET, socket.SO_BROADCAST, 1)
        made.setsockopt(socket.SOL_SOCKET, socket.SO_SNDBUF, 1 << 20)
        if self.settings.interface:
            card = socket.inet_aton(self.settings.interface)
            made.setsockopt(socket.IPPROTO_IP, socket.IP_MULTICAST_IF, card)
            made.bind((self.settings.interface, 0))
        return made

    def takes(self, universe: int) -> bool:
        """Whether this universe is sent there."""
        on_wire = universe + self.settings.shift
        last = artnet.LAST_PORT_ADDRESS if self.settings.protocol == "art-net" else 63_999
        first = 0 if self.settings.protocol == "art-net" else 1
        wanted = not self.settings.universes or universe in self.settings.universes
        return wanted and first <= on_wire <= last

    def send(self, frames: Mapping[int, NDArray], now: float) -> None:
        """Send what changed, and repeat what did not before it is taken for lost. now: monotonic seconds."""
        if not self.settings.on or self.misaddressed or now < self.retry_at:
            return
        for universe in [universe for universe in self.packets if universe not in frames]:
            self._end(universe)
        rate = self.settings.rate * (1.0 - 1.0 / 44.0)
        for universe, channels in frames.items():
            if not self.takes(universe):
                continue
            packet = self.packets.get(universe)
            if packet is None:
                on_wire = universe + self.settings.shift
                packet = self.packets[universe] = self.wire.packet(self.settings, on_wire, channels)
                self.saved[universe], self.sent_at[universe] = SPARE, -1.0
            gone = now - self.seen_at.get(universe, now)
            self.seen_at[universe] = now
            self.saved[universe] = min(SPARE, self.saved[universe] + gone * rate)
            raw = channels.tobytes()
            still = packet[self.wire.header :] == raw and now - self.sent_at[universe] < KEEP_ALIVE_S
            if self.saved[universe] < 1.0 or (still and self.sent_at[universe] >= 0.0):
                continue
            packet[self.wire.header :] = raw
            if not self._put(universe, packet, now):
                return
            self.saved[universe] -= 1.0
            self.sent_at[universe] = now

    def _put(self, universe: int, packet: bytearray, now: float) -> bool:
        self.sequences[universe] = self.wire.count(packet, self.sequences.get(universe, 0))
        address = self.wire.address(self.settings, universe + self.settings.shift)
        try:
            if self.socket is None:
                self.socket = self._open()
            self.socket.sendto(packet, (address, self.settings.port or PORTS[self.settings.protocol]))
        except OSError as error:
            self.failed += 1
            self.fault = Fault.of(FaultCode.LIGHT_NETWORK, why=error.strerror or str(error))
            self.retry_at = now + RETRY_S
            self.shut()
            return False
        self.sent += 1
        self.lately.append(now)
        self.fault = None
        return True

    def _end(self, universe: int) -> None:
        """Three packets with the stream-terminated bit (ANSI E1.31, 6.2.6), where the protocol has one."""
        packet = self.packets.pop(universe)
        if not self.misaddressed and self.wire.farewell(packet):
            for _ in range(3):
                self._put(universe, packet, self.sent_at.get(universe, 0.0))
        self.sent_at.pop(universe, None)

    def shut(self) -> None:
        """Close the socket; the streams are not ended."""
        if self.socket is not None:
            self.socket.close()
            self.socket = None

    def close(self) -> None:
        """End all streams."""
        for universe in list(self.packets):
            self._end(universe)
        self.shut()

    def state(self, now: float) -> dict:
        """What the desk shows of it. now: monotonic seconds."""
        while self.lately and now - self.lately[0] > 2.0:
            self.lately.popleft()
        lately = len(self.lately) / 2.0
        told = {
            "sent": self.sent,
            "failed": self.failed,
            "a_second": lately,
            "universes": sorted(self.packets),
        }
        return {**told, "fault": self.fault}


class LightOutputs:
    """All places that universes are sent to."""

    def __init__(self) -> None:
        self.senders: dict[str, Sender] = {}
        self.sequences: dict[tuple[str, str], dict[int, int]] = {}
        self.private: frozenset[int] = frozenset()
        self.sent_before = 0

    def configure(self, outputs: list[LightOutput], settings: LightSettings) -> None:
        """Take over settings; what is not sent any more is ended at once."""
        self.private = frozenset(settings.private)
        wanted = {output.id: output for output in outputs if output.on}
        for gone in [id for id, sender in self.senders.items() if wanted.get(id) != sender.settings]:
            sender = self.senders.pop(gone)
            self.sent_before += sender.sent
            if _same_stream(sender.settings, wanted.get(gone)):
                sender.shut()
            else:
                sender.close()
        for output in wanted.values():
            if output.id not in self.senders:
                sequences = self.sequences.setdefault((output.id, output.protocol), {})
                self.senders[output.id] = Sender(output, sequences)

    def send(self, frames: Mapping[int, NDArray], now: float) -> None:
        """Send what is due. now: monotonic seconds."""
        if self.private:
            frames = {universe: row for universe, row in frames.items() if universe not in self.private}
        for sender in self.senders.values():
            sender.send(frames, now)

    def state(self, now: float) -> dict:
        """What the desk shows of them: all together, and each."""
        each = {id: sender.state(now) for id, sender in self.senders.items()}
        faults = [state["fault"] for state in each.values() if state["fault"] is not None]
        return {
            "sent": self.sent_before + sum(state["sent"] for state in each.values()),
            "failed": sum(state["failed"] for state in each.values()),
            "fault": faults[0] if faults else None,
            "outputs": each,
        }

    def close(self) -> None:
        for sender in self.senders.values():
            sender.close()


def _same_stream(before: LightOutput, now: LightOutput | None) -> bool:
    """Whether a receiver hears the same stream go on: then it is not ended."""
    fields = ("protocol", "host", "port", "interface", "universes", "shift")
    return now is not None and all(getattr(before, name) == getattr(now, name) for name in fields)
