"""Live sound from pages, on to the engine."""

import numpy as np
from fastapi import WebSocket, WebSocketDisconnect
from soxr import ResampleStream

from fulgura.core.clock import SAMPLE_RATE
from fulgura.web.live.engine_client import EngineClient

LARGEST = 1 << 20
"""Bytes of one message."""


class AudioIn:
    """Takes live sound for inputs. Of several pages that send for one, the one that came last is heard."""

    def __init__(self, engine: EngineClient) -> None:
        self.engine = engine
        self.owner: dict[str, WebSocket] = {}

    async def listen(self, socket: WebSocket, input_id: str, channels: int, rate: int) -> None:
        """Take sound of one page until it goes: interleaved float32."""
        resampler = (
            ResampleStream(rate, SAMPLE_RATE, channels, dtype="float32") if rate != SAMPLE_RATE else None
        )
        self.owner[input_id] = socket
        try:
            while True:
                message = await socket.receive()
                if message["type"] == "websocket.disconnect":
                    break
                pcm = message.get("bytes")
                if pcm is None or len(pcm) > LARGEST or len(pcm) % (4 * channels):
                    await socket.close(1003, "Live sound is whole float32 samples.")
                    break
                if self.owner.get(input_id) is not socket:
                    await socket.close(4000, "Another page sends live sound now.")
                    break
                if resampler is not None:
                    samples = np.frombuffer(pcm, "<f4").reshape(-1, channels)
                    pcm = resampler.resample_chunk(samples).tobytes()
                self.engine.send("audio", input=input_id, pcm=pcm, channels=channels)
        except (WebSocketDisconnect, RuntimeError):
            pass
