"""What arrives of the light protocols: counted, kept, and judged by the rules of each."""

import socket
import struct
import threading
import time
from collections import deque
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Literal

from fulgura.core.lights import artnet, e131

LATE = 236
"""Sequence numbers so far ahead are late ones: those up to 20 behind are discarded (ANSI E1.31, 6.7.2)."""
IP_MULTICAST_ALL = 49
"""Linux, <linux/in.h>: off, a socket gets only groups that it joined itself."""
GROUPS_A_SOCKET = 20
"""One socket joins so many multicast groups on Linux."""
Protocol = Literal["sacn", "art-net"]


@dataclass
class Stream:
    """One universe from one source."""

    protocol: Protocol
    universe: int
    source: str
    priority: int = 0
    packets: int = 0
    lost: int = 0
    late: int = 0
    sequence: int = -1
    longest_gap_s: float = 0.0
    at: float = 0.0
    ended: bool = False
    channels: bytes = b""
    times: deque[float] = field(default_factory=lambda: deque(maxlen=512))

    def take(self, sequence: int, channels: bytes, now: float) -> bool:
        """Note one packet; False for one that came too late to count."""
        ahead = 1 if self.sequence < 0 else self._ahead(sequence)
        if ahead == 0 or ahead > LATE:
            self.late += 1
            return False
        if self.packets:
            self.lost += ahead - 1 if ahead < 128 else 0
            self.longest_gap_s = max(self.longest_gap_s, now - self.at)
        self.packets += 1
        self.sequence, self.channels, self.at = sequence, channels, now
        self.times.append(now)
        return True

    def _ahead(self, sequence: int) -> int:
        """How far a number is ahead of the last one: Art-Net counts from 1 to 255, sACN from 0."""
        if self.protocol == "art-net":
            return (sequence - self.sequence) % 255 if sequence else 1
        return (sequence - self.sequence) % 256

    def state(self, now: float) -> str:
        """How it is, in words."""
        if self.ended:
            return "ended by its source"
        return "receiving" if now - self.at < e131.LOST_AFTER_S else "no data: holding the last levels"

    def a_second(self, now: float) -> float:
        """Packets a second, of the last two."""
        return len([t for t in self.times if now - t < 2.0]) / 2.0


Heard = Callable[[Stream, float], None]


class Receiver:
    """Receives both protocols on UDP ports, in a thread of its own. heard: called with each stream that got a
    packet, and when (monotonic seconds). groups: universes whose multicast groups are joined, on loopback
    too.
    """

    def __init__(
        self,
        host: str,
        sacn_port: int,
        artnet_port: int | None = None,
        groups: range = range(0),
        heard: Heard | None = None,
    ) -> None:
        self.streams: dict[tuple[str, int, bytes], Stream] = {}
        self.strange = 0
        """Packets that are none of either protocol, or broken."""
        self.lock = threading.Lock()
        self.heard = heard
        self.stop = False
        self.sockets: list[tuple[Protocol, socket.socket]] = [("sacn", _bound(host, sacn_port, bool(groups)))]
        if artnet_port is not None:
            self.sockets.append(("art-net", _bound(host, artnet_port)))
        for first in range(groups.start, groups.stop, GROUPS_A_SOCKET):
            joined = _bound("", sacn_port, True)
            for universe in range(first, min(first + GROUPS_A_SOCKET, groups.stop)):
                _join(joined, e131.multicast_group(universe), host)
            self.sockets.append(("sacn", joined))
        self.threads = [
            threading.Thread(target=self._listen, args=each, daemon=True) for each in self.sockets
        ]
        for thread in self.threads:
            thread.start()

    def _listen(self, protocol: Protocol, opened: socket.socket) -> None:
        while not self.stop:
            try:
                raw, sender = opened.recvfrom(2048)
            except TimeoutError:
                continue
            except OSError:
                return
            self.take(protocol, raw, time.monotonic(), sender[0])

    def take(self, protocol: Protocol, raw: bytes, now: float, sender: str = "") -> None:
        """Note one packet that arrived at a time (monotonic seconds)."""
        try:
            stream, counted = self._sacn(raw, now) if protocol == "sacn" else self._artnet(raw, now, sender)
        except ValueError:
            self.strange += 1
            return
        if counted and self.heard is not None:
            self.heard(stream, now)

    def _stream(self, protocol: Protocol, universe: int, component: bytes, source: str) -> Stream:
        return self.streams.setdefault((protocol, universe, component), Stream(protocol, universe, source))

    def _sacn(self, raw: bytes, now: float) -> tuple[Stream, bool]:
        said = e131.read(raw)
        with self.lock:
            stream = self._stream("sacn", said.universe, said.component, said.source)
            if said.start_code != 0 or said.options & e131.PREVIEW:
                return stream, False
            counted = stream.take(said.sequence, said.channels, now)
            stream.priority, stream.ended = said.priority, said.terminated
            return stream, counted

    def _artnet(self, raw: bytes, now: float, sender: str) -> tuple[Stream, bool]:
        said = artnet.read(raw)
        with self.lock:
            stream = self._stream("art-net", said.port_address, sender.encode(), sender)
            return stream, stream.take(said.sequence, said.channels, now)

    def universes(self, protocol: Protocol | None = None) -> dict[int, bytes]:
        """What holds for each universe: of the source of the highest priority that has not ended,
        the newest.
        """
        best: dict[int, Stream] = {}
        with self.lock:
            for stream in self.streams.values():
                if protocol not in (None, stream.protocol) or stream.ended:
                    continue
                now = best.get(stream.universe)
                if now is None or (stream.priority, stream.at) > (now.priority, now.at):
                    best[stream.universe] = stream
            return {universe: stream.channels for universe, stream in best.items()}

    def close(self) -> None:
        self.stop = True
        for thread in self.threads:
            thread.join(1.0)
        for _, opened in self.sockets:
            opened.close()


def _bound(host: str, port: int, shared: bool = False) -> socket.socket:
    """shared: several sockets of this process have the port, each for groups of its own."""
    made = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
    if shared:
        made.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    if not host:
        made.setsockopt(socket.IPPROTO_IP, IP_MULTICAST_ALL, 0)
    made.setsockopt(socket.SOL_SOCKET, socket.SO_RCVBUF, 1 << 21)
    made.settimeout(0.2)
    made.bind((host, port))
    return made


def _join(joined: socket.socket, group: str, host: str) -> None:
    membership = struct.pack("4s4s", socket.inet_aton(group), socket.inet_aton(host))
    joined.setsockopt(socket.IPPROTO_IP, socket.IP_ADD_MEMBERSHIP, membership)
