"""Sound of a device of this machine, through PortAudio. A device that goes away is asked for again until it
is back.
"""

import threading
from collections import deque
from collections.abc import Iterator
from contextlib import contextmanager

import numpy as np
from numpy.typing import NDArray
from soxr import ResampleStream

from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.core.show.inputs import DeviceSettings
from fulgura.engine.inputs import LiveInput

RETRY_S = 1.0
STALLED_S = 2.0
"""A device that has brought nothing for this long counts as gone: pulled plugs are seldom told of."""


_portaudio = threading.Lock()
_streams: set[int] = set()
"""Inputs of this process that have a stream open, or are closing it."""


@contextmanager
def _counted(owner: "DeviceInput") -> Iterator[None]:
    with _portaudio:
        _streams.add(id(owner))
    try:
        yield
    finally:
        with _portaudio:
            _streams.discard(id(owner))


def names() -> list[dict]:
    """[{"name", "channels"}] of every device that sound can come from; empty without a sound system."""
    try:
        import sounddevice
    except OSError:  # PortAudio itself is missing.
        return []
    try:
        return [
            {"name": device["name"], "channels": device["max_input_channels"]}
            for device in sounddevice.query_devices()
            if device["max_input_channels"] > 0
        ]
    except sounddevice.PortAudioError:
        return []


class DeviceInput(LiveInput):
    """One device, two of its channels. A thread of its own opens it, and PortAudio's brings the sound; a tick
    waits for neither.
    """

    def __init__(self, setting: DeviceSettings) -> None:
        super().__init__()
        self.setting = setting
        self.looking = ""
        """Why it is not open; empty while it is."""
        self._come: deque[NDArray] = deque(maxlen=4_000)
        self._closed = threading.Event()
        self._heard = threading.Event()
        threading.Thread(target=self._keep_open, daemon=True).start()

    def close(self) -> None:
        self._closed.set()

    def blocks(self, due: int) -> list[NDArray]:
        while self._come:
            self.take(self._come.popleft())
        return super().blocks(due)

    def state(self) -> dict:
        state = super().state()
        if self.looking and not state["arriving"]:
            device = self.setting.device or "The default device"
            state["fault"] = Fault.of(FaultCode.DEVICE_GONE, device=device, why=self.looking)
        return state

    def _keep_open(self) -> None:
        while not self._closed.is_set():
            try:
                self._listen()
            except Exception as error:  # Whatever a sound system says, the next try may find it well.
                self.looking = " ".join(str(error).split())[:120] or type(error).__name__
            self._closed.wait(RETRY_S)

    def _listen(self) -> None:
        """Open it and stay until it stalls or is let go. Raises whatever PortAudio does when that fails."""
        import sounddevice

        with _portaudio:
            if not _streams:
                # PortAudio looks for devices only when it starts: one that was plugged in since is found by
                # starting it anew. That ends every stream, so it waits until there is none.
                sounddevice._terminate()
                sounddevice._initialize()
        device = self.setting.device or None
        found = sounddevice.query_devices(device, "input")
        wanted = max(self.setting.left, self.setting.right)
        channels = min(wanted, found["max_input_channels"])
        rate = SAMPLE_RATE
        try:
            sounddevice.check_input_settings(device, channels, "float32", samplerate=rate)
        except sounddevice.PortAudioError:
            rate = int(found["default_samplerate"])
        resample = (
            ResampleStream(rate, SAMPLE_RATE, 2, dtype="float32").resample_chunk
            if rate != SAMPLE_RATE
            else None
        )
        sides = [min(self.setting.left, channels) - 1, min(self.setting.right, channels) - 1]

        def come(sound: NDArray, frames: int, time: object, status: object) -> None:
            pair = np.ascontiguousarray(sound[:, sides])
            self._come.append(pair if resample is None else resample(pair))
            self._heard.set()

        with (
            _counted(self),
            sounddevice.InputStream(
                samplerate=rate,
                blocksize=BLOCK,
                device=device,
                channels=channels,
                dtype="float32",
                latency="low",
                callback=come,
            ) as stream,
        ):
            while not self._closed.is_set() and stream.active:
                self._heard.clear()
                if not self._heard.wait(STALLED_S):
                    # Said before it is closed: closing a stalled device can take as long as it stalls.
                    self.looking = "it brings no sound"
                    raise OSError(self.looking)
                self.looking = ""
                self._closed.wait(0.1)
        if not self._closed.is_set():
            raise OSError("it stopped")
