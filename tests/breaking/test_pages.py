"""Pages that never read, read slowly, or come and go: the good page and the edits do not feel them."""

import base64
import os
import socket
import struct
import threading
import time

import numpy as np
import psutil

from fulgura.core.wire import BlockId
from harness.breaking import processes
from harness.stack import live
from tests.breaking.conftest import PATH

ALL = [int(block) for block in BlockId]


class Page:
    """A page by hand (RFC 6455): it asks for everything, and reads as it likes."""

    def __init__(self, stack) -> None:
        self.socket = socket.create_connection(("127.0.0.1", stack.port), 30)
        self.socket.setsockopt(socket.SOL_SOCKET, socket.SO_RCVBUF, 16_384)
        key = base64.b64encode(os.urandom(16)).decode()
        self.socket.sendall(
            f"GET /api/v1/live HTTP/1.1\r\nHost: 127.0.0.1:{stack.port}\r\nUpgrade: websocket\r\n"
            f"Connection: Upgrade\r\nSec-WebSocket-Key: {key}\r\nSec-WebSocket-Version: 13\r\n\r\n".encode()
        )
        said = b""
        while b"\r\n\r\n" not in said:
            said += self.socket.recv(1)
        assert b" 101 " in said
        self.say(f'{{"want": {ALL}}}'.encode())

    def say(self, text: bytes) -> None:
        length = (
            bytes([0x80 | len(text)])
            if len(text) < 126
            else bytes([0x80 | 126]) + struct.pack(">H", len(text))
        )
        self.socket.sendall(b"\x81" + length + b"\0\0\0\0" + text)

    def close(self) -> None:
        self.socket.close()


def connected(stack):
    """How many pages the web process is connected to."""
    links = processes(stack, "web")[0].net_connections("tcp")
    return sum(link.status == psutil.CONN_ESTABLISHED for link in links)


def frames_a_second(stack, seconds=5.0):
    packets, _ = live(stack, seconds, [int(BlockId.LIVE)])
    return len(packets) / (packets[-1].time - packets[0].time)


def edits(stack, count=30):
    """Seconds that each took to be answered."""
    took = []
    for number in range(count):
        begun = time.monotonic()
        assert stack.set(PATH, 0.1 + number / 1000)["saved"]
        took.append(time.monotonic() - begun)
        time.sleep(0.05)
    return np.array(took)


def test_edits_are_answered_at_once_and_are_on_disk(stack):
    took = edits(stack, 100)
    print(f"edits: p50 {np.median(took) * 1000:.1f} ms, p95 {np.quantile(took, 0.95) * 1000:.1f} ms")
    assert np.median(took) < 0.015 and np.quantile(took, 0.95) < 0.04


def test_two_hundred_pages_that_never_read(stack):
    alone = frames_a_second(stack)
    pages = [Page(stack) for _ in range(200)]
    time.sleep(4.0)
    beside, took = frames_a_second(stack), edits(stack)
    print(
        f"a good page: {alone:.1f} frames a second alone, {beside:.1f} beside 200 mute ones; edits p95"
        f" {np.quantile(took, 0.95) * 1000:.0f} ms"
    )
    assert beside > 58.0 and np.quantile(took, 0.95) < 0.2
    time.sleep(14.0)
    assert not connected(stack)
    for page in pages:
        page.close()
    assert frames_a_second(stack) > 58.0


def test_twenty_pages_that_read_slowly(stack):
    pages, stop = [Page(stack) for _ in range(20)], threading.Event()

    def read():
        while not stop.is_set():
            for page in pages:
                page.socket.setblocking(False)
                try:
                    page.socket.recv(20_000)
                except OSError:
                    pass
            time.sleep(0.5)

    reading = threading.Thread(target=read)
    reading.start()
    time.sleep(3.0)
    beside, took = frames_a_second(stack), edits(stack)
    stop.set()
    reading.join()
    for page in pages:
        page.close()
    print(f"beside 20 slow: {beside:.1f} frames a second, edits p95 {np.quantile(took, 0.95) * 1000:.0f} ms")
    assert beside > 58.0 and np.quantile(took, 0.95) < 0.2


def test_ten_thousand_connections_come_and_go(stack):
    web = processes(stack, "web")[0]
    before, files = web.memory_info().rss, web.num_fds()
    for number in range(10_000):
        if number % 10 == 0:
            Page(stack).close()
        else:
            socket.create_connection(("127.0.0.1", stack.port), 30).close()
    time.sleep(3.0)
    assert stack.call("GET", "/health")[0] == 200
    grown = (web.memory_info().rss - before) / 2**20
    print(f"after 10,000 connections web has grown by {grown:.1f} MB")
    assert web.num_fds() <= files + 5 and grown < 20 and isinstance(web, psutil.Process)
