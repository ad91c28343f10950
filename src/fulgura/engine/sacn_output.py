"""Universes onto the network as sACN (ANSI E1.31). Never waits; never sends more than 44 frames a second."""

import socket
from uuid import UUID, uuid5

from numpy.typing import NDArray
from sacn.messages.data_packet import DataPacket

from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.core.lights.universe import CHANNELS
from fulgura.core.show.lights import LightOutput

SOURCE_NAME = "Fulgura"
COMPONENT = uuid5(UUID("6ba7b810-9dad-11d1-80b4-00c04fd430c8"), "fulgura.engine")
"""The component identifier (CID): the same after a restart, so that receivers see one source."""
SEQUENCE_AT, OPTIONS_AT, CHANNELS_AT = 111, 112, 126
"""Octets of a data packet, ANSI E1.31 table 4-1."""
TERMINATED = 0x40
SHORTEST_S = 1 / 44
KEEP_ALIVE_S = 0.9
"""Unchanged levels are repeated within a second, well inside the 2.5 s data-loss time-out."""


class SacnOutput:
    """Sends universes to one address."""

    def __init__(self) -> None:
        self.settings = LightOutput()
        self.socket = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
        self.socket.setblocking(False)
        self.packets: dict[int, bytearray] = {}
        self.sequences: dict[int, int] = {}
        """The last sequence number of each universe that was ever sent: receivers count on from it, whatever
        becomes of a show (ANSI E1.31, 6.7.2).
        """
        self.sent_at: dict[int, float] = {}
        self.sent = self.failed = 0
        self.fault: Fault | None = None

    def configure(self, settings: LightOutput, universes: set[int]) -> None:
        """Take over settings; universes that are no longer used are terminated at once."""
        if settings.priority != self.settings.priority:
            self.packets.clear()
        for universe in set(self.packets) - (universes if settings.on else set()):
            self._terminate(universe)
        self.settings = settings
        self.fault = None
        try:
            socket.inet_aton(settings.host)
        except OSError:
            self.fault = Fault.of(FaultCode.LIGHT_ADDRESS, host=settings.host)

    def send(self, frames: dict[int, NDArray], now: float) -> None:
        """Send what changed, and repeat what did not before it is taken for lost. now: monotonic seconds."""
        if not self.settings.on or (self.fault is not None and self.fault.code == FaultCode.LIGHT_ADDRESS):
            return
        for universe, channel_values in frames.items():
            packet = self.packets.get(universe)
            if packet is None:
                made = DataPacket(
                    cid=tuple(COMPONENT.bytes),
                    sourceName=SOURCE_NAME,
                    universe=universe,
                    dmxData=(0,) * CHANNELS,
                    priority=self.settings.priority,
                )
                packet = self.packets[universe] = bytearray(made.getBytes())
                self.sent_at[universe] = -1.0
            since = now - self.sent_at[universe]
            raw = channel_values.tobytes()
            if since < SHORTEST_S or (packet[CHANNELS_AT:] == raw and since < KEEP_ALIVE_S):
                continue
            packet[CHANNELS_AT:] = raw
            self._put(universe, packet)
            self.sent_at[universe] = now

    def _put(self, universe: int, packet: bytearray) -> None:
        packet[SEQUENCE_AT] = self.sequences[universe] = (self.sequences.get(universe, 0) + 1) % 256
        try:
            self.socket.sendto(packet, (self.settings.host, self.settings.port))
            self.sent += 1
            self.fault = None
        except OSError as error:
            self.failed += 1
            self.fault = Fault.of(FaultCode.LIGHT_NETWORK, why=error.strerror)

    def _terminate(self, universe: int) -> None:
        """Three packets with the stream-terminated bit (ANSI E1.31, 6.2.6)."""
        packet = self.packets.pop(universe)
        self.sent_at.pop(universe, None)
        packet[OPTIONS_AT] |= TERMINATED
        for _ in range(3):
            self._put(universe, packet)

    def close(self) -> None:
        for universe in list(self.packets):
            self._terminate(universe)
        self.socket.close()
