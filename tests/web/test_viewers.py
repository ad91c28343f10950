"""Pages that look on: what many ask for is packed once; those that do not read are let go."""

import asyncio

import numpy as np
import orjson
import pytest

from fulgura.core import wire
from fulgura.core.wire import BlockId
from fulgura.web.live import viewers as module
from fulgura.web.live.viewers import EASY_S, HARD_S, Pace, Viewers


class Socket:
    """A page at the other end. reads: whether it takes what it is sent."""

    def __init__(self, *said):
        self.said, self.got, self.closed = list(said), [], False
        self.reads = asyncio.Event()
        self.reads.set()
        self.leaves = asyncio.Event()

    async def receive(self):
        if self.said:
            return {"type": "websocket.receive", "text": orjson.dumps(self.said.pop(0)).decode()}
        await self.leaves.wait()
        return {"type": "websocket.disconnect"}

    async def send_text(self, text):
        await self.reads.wait()
        self.got.append(orjson.loads(text))

    async def send_bytes(self, message):
        await self.reads.wait()
        self.got.append(message)

    async def close(self, code, reason):
        self.closed = True


def message(number, events=True):
    hit = np.array([0.0, 0.0, number, 1.0, 0.5] if events else [])
    return wire.encode(
        wire.Packet(1, 2, number, number / 60, {BlockId.LIVE: np.ones(4, "<f4"), BlockId.HITS: hit})
    )


@pytest.fixture
def quick(monkeypatch):
    monkeypatch.setattr(module, "MUTE_S", 0.1)
    monkeypatch.setattr(module, "GONE_S", 0.3)


def serve(viewers, socket, greeted):
    return asyncio.create_task(
        viewers.serve(socket, lambda viewer: greeted.append(viewer.name), lambda *_: None, lambda _: None)
    )


WANTED = {"want": [int(BlockId.LIVE), int(BlockId.HITS)]}


def test_a_frame_is_packed_once_for_all_that_want_the_same(monkeypatch):
    packed, keep = [], wire.keep
    monkeypatch.setattr(wire, "keep", lambda *given: packed.append(given) or keep(*given))

    async def run():
        viewers, sockets = Viewers(), [Socket(WANTED) for _ in range(50)] + [Socket({"want": [5]})]
        tasks = [serve(viewers, socket, []) for socket in sockets]
        await asyncio.sleep(0.01)
        viewers.frame(message(1))
        await asyncio.sleep(0.01)
        for socket in sockets:
            socket.leaves.set()
        await asyncio.gather(*tasks)
        return sockets

    sockets = asyncio.run(run())
    assert len(packed) == 2 and all(len(socket.got) == 1 for socket in sockets)
    assert set(wire.decode(sockets[-1].got[0]).blocks) == {BlockId.LIVE}


def test_a_mute_page_is_let_go_and_the_good_one_gets_all(quick):
    async def run():
        viewers, good, greeted = Viewers(), Socket(WANTED), []
        mute = [Socket(WANTED) for _ in range(20)]
        tasks = [serve(viewers, socket, greeted) for socket in [good, *mute]]
        await asyncio.sleep(0.01)
        for socket in mute:
            socket.reads.clear()
        for number in range(1, 61):
            viewers.frame(message(number))
            viewers.tell("state", {"number": number})
            viewers.look_after(0.0)
            await asyncio.sleep(0.01)
        assert len(viewers.connected) == 1 and all(socket.closed for socket in mute)
        good.leaves.set()
        await asyncio.gather(*tasks)
        return good, mute

    good, mute = asyncio.run(run())
    frames = [each for each in good.got if isinstance(each, bytes)]
    assert len(frames) == 60 and len(good.got) == 120 and not any(socket.got for socket in mute)


def test_a_page_that_reads_again_is_told_all_anew_and_loses_no_hit(quick):
    async def run():
        viewers, page, greeted = Viewers(), Socket(WANTED), []
        task = serve(viewers, page, greeted)
        await asyncio.sleep(0.01)
        page.reads.clear()
        for number in range(1, 21):
            viewers.frame(message(number))
            viewers.tell("state", {"number": number})
            await asyncio.sleep(0.01)
        page.reads.set()
        await asyncio.sleep(0.01)
        viewers.frame(message(21))
        await asyncio.sleep(0.01)
        page.leaves.set()
        await task
        return page, greeted

    page, greeted = asyncio.run(run())
    assert len(greeted) == 2 and not page.closed
    hits = [
        row[2]
        for each in page.got
        if isinstance(each, bytes)
        for row in wire.decode(each).blocks[BlockId.HITS].reshape(-1, 5)
    ]
    # What waited when it fell silent is dropped with the news; what was missed since is told.
    assert hits == sorted(hits) and hits[-1] == 21 and len(hits) > 8


def test_pictures_are_shed_by_steps_and_come_back_slowly():
    pace = Pace()
    told = []
    for late in [0.0, HARD_S * 2, HARD_S * 2, HARD_S * 2] + [EASY_S / 2] * 20 + [HARD_S / 2] * 3:
        pace.late(late)
        told.append(pace.every)
    assert told[:4] == [1, 2, 4, 4] and told[-1] == 1 and sorted(told[4:], reverse=True) == told[4:]


def test_what_happened_in_frames_that_were_shed_is_told():
    async def run():
        viewers, page = Viewers(), Socket(WANTED)
        task = serve(viewers, page, [])
        await asyncio.sleep(0.01)
        viewers.pace.step = 2
        for number in range(1, 17):
            viewers.frame(message(number))
            await asyncio.sleep(0.002)
        page.leaves.set()
        await task
        return [wire.decode(each) for each in page.got]

    packets = asyncio.run(run())
    assert [packet.number for packet in packets] == [4, 8, 12, 16]
    assert [row[2] for packet in packets for row in packet.blocks[BlockId.HITS].reshape(-1, 5)] == list(
        range(1, 17)
    )
