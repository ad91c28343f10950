"""MIDI ports of this machine, and controllers that speak MIDI over a TCP connection. They come and go."""

import re
import socket
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.core.show.events import ControllerGone, Event, MidiSaid
from fulgura.core.timing.midi_stream import MidiStream

NETWORK = "Network MIDI"
OURS = "Fulgura"
Act = Callable[[Event, float], None]


@dataclass
class Port:
    """One controller. send: gives it bytes; False when it took none."""

    name: str
    send: Callable[[bytes], bool]
    stream: MidiStream = field(default_factory=MidiStream)

    def said(self, data: bytes, act: Act) -> None:
        """Bytes came from it, just now."""
        at = time.monotonic()
        for message in self.stream.feed(data):
            act(MidiSaid(controller=self.name, data=message), at)


class MidiPorts:
    """All controllers that are there. look() finds what came and what went."""

    def __init__(self, network_port: int, act: Act) -> None:
        self.act = act
        self.fault: Fault | None = None
        self.ports: dict[str, Port] = {}
        self._lock = threading.Lock()
        self._system = SystemPorts(self)
        self._server: socket.socket | None = None
        if network_port:
            self._listen(network_port)

    def names(self) -> list[str]:
        """Names of controllers that are there."""
        with self._lock:
            return sorted(self.ports)

    def send(self, name: str, data: bytes) -> None:
        """Give bytes to a controller, to every one for "all"; what is not there is passed over."""
        with self._lock:
            meant = [port for port in self.ports.values() if name in ("all", port.name)]
        for port in meant:
            port.send(data)

    def look(self) -> None:
        """See which ports of the machine came and went."""
        self._system.look()

    def add(self, wanted: str, send: Callable[[bytes], bool]) -> Port:
        """A controller came; a second one of a name gets a number."""
        with self._lock:
            name, number = wanted, 2
            while name in self.ports:
                name, number = f"{wanted} {number}", number + 1
            self.ports[name] = port = Port(name, send)
        return port

    def remove(self, port: Port) -> None:
        """A controller went: what it held is let go."""
        with self._lock:
            if self.ports.get(port.name) is not port:
                return
            del self.ports[port.name]
        self.act(ControllerGone(controller=port.name), time.monotonic())

    # -- over the network -----------------------------------------------------------------------------------

    def _listen(self, port: int) -> None:
        self._server = socket.socket(socket.AF_INET, socket.SOCK_STREAM)
        self._server.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            self._server.bind(("127.0.0.1", port))
            self._server.listen(8)
        except OSError:
            self.fault = Fault.of(FaultCode.MIDI_PORT_TAKEN, port=port)
            return
        threading.Thread(target=self._accept, daemon=True).start()

    def _accept(self) -> None:
        assert self._server is not None, "it listens"
        while True:
            try:
                connection, _ = self._server.accept()
            except OSError:
                return
            connection.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
            threading.Thread(target=self._serve, args=(connection,), daemon=True).start()

    def _serve(self, connection: socket.socket) -> None:
        def send(data: bytes) -> bool:
            try:
                connection.send(data, socket.MSG_DONTWAIT)
            except OSError:
                return False  # It reads nothing, or is gone.
            return True

        port = self.add(NETWORK, send)
        try:
            while data := connection.recv(4096):
                port.said(data, self.act)
        except OSError:
            pass
        finally:
            self.remove(port)
            connection.close()

    def close(self) -> None:
        if self._server is not None:
            self._server.close()
        self._system.close()


class SystemPorts:
    """Ports that the machine's sound system has (ALSA or JACK), by python-rtmidi; none where it has none."""

    def __init__(self, ports: MidiPorts) -> None:
        self.ports = ports
        self.open: dict[tuple[int, str], tuple[Port, Any, Any]] = {}
        self._listers: dict[int, Any] = {}

    def look(self) -> None:
        """Open what came, close what went."""
        there: dict[tuple[int, str], int] = {}
        for kind in _kinds():
            try:
                lister = self._lister(kind)
                there |= {
                    (kind, name): at
                    for at, name in enumerate(lister.get_ports())
                    if not name.startswith(OURS)
                }
            except Exception:
                # A sound system that went away: every call fails, each in its own way. Its ports went too.
                self._listers.pop(kind, None)
        for gone in self.open.keys() - there.keys():
            port, incoming, outgoing = self.open.pop(gone)
            self.ports.remove(port)
            for end in (incoming, outgoing):
                end.close_port()
        for (kind, name), at in there.items():
            if (kind, name) not in self.open:
                self._open(kind, name, at)

    def _lister(self, kind: int) -> Any:
        import rtmidi

        if kind not in self._listers:
            self._listers[kind] = rtmidi.MidiIn(kind, OURS)
        return self._listers[kind]

    def _open(self, kind: int, name: str, at: int) -> None:
        import rtmidi

        try:
            incoming = rtmidi.MidiIn(kind, OURS)
            incoming.ignore_types(sysex=True, timing=False, active_sense=True)
            outgoing = rtmidi.MidiOut(kind, OURS)
            back = _way_back(name, outgoing.get_ports())
            if back is not None:
                outgoing.open_port(back)
            incoming.open_port(at)
        except Exception:
            return  # Another program has it, or it is going: it is tried again, and is no port until then.
        port = self.ports.add(_short(name), lambda data: _send(outgoing, data))
        incoming.set_callback(lambda said, _: port.said(bytes(said[0]), self.ports.act))
        self.open[kind, name] = (port, incoming, outgoing)

    def close(self) -> None:
        for _, incoming, outgoing in self.open.values():
            incoming.close_port()
            outgoing.close_port()


def _kinds() -> list[int]:
    """The sound systems that run here: to ask one that does not is slow and loud."""
    import rtmidi

    runs = {rtmidi.API_LINUX_ALSA: Path("/dev/snd/seq").exists(), rtmidi.API_UNIX_JACK: jack_answers()}
    return [kind for kind, there in runs.items() if there]


def jack_answers() -> bool:
    """Whether a JACK server listens on its socket. One that was killed leaves the socket's file behind, and
    who asks it holds up everything else for as long as that takes.
    """
    try:
        sockets = Path("/proc/net/unix").read_text()
    except OSError:
        return False
    return re.search(r" /dev/shm/jack_[^s/][^/]*_0$", sockets, re.MULTILINE) is not None


def _send(outgoing: Any, data: bytes) -> bool:
    try:
        outgoing.send_message(list(data))
    except Exception:
        return False
    return True


def _way_back(name: str, names: list[str]) -> int | None:
    """Which of these ports leads back to the controller of that name: the one that is called the same, or
    else one of the same device.

    >>> _way_back("Booth:out 1", ["Midi Through:0", "Booth:in 1"])
    1
    """
    device = name.partition(":")[0]
    same = [at for at, other in enumerate(names) if other == name]
    near = [at for at, other in enumerate(names) if other.partition(":")[0] == device]
    return next(iter(same + near), None)


def _short(name: str) -> str:
    """A port's name without what the system puts behind it, which changes from start to start.

    >>> _short("Booth pads:Booth pads MIDI 1 20:0")
    'Booth pads MIDI 1'
    """
    head, _, tail = name.partition(":")
    found = tail if tail.startswith(head) else name
    words = found.split(" ")
    return " ".join(words[:-1] if len(words) > 1 and words[-1].replace(":", "").isdigit() else words)[:120]
