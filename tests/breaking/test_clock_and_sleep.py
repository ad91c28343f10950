"""A clock that is set by an hour, both ways, and a machine that sleeps for a minute: the beat, what goes by
it and lights are right again within two bars, and nothing old goes out.
"""

import contextlib
import signal
import time

import numpy as np
import psutil
import pytest
from pythonosc.osc_bundle_builder import OscBundleBuilder
from pythonosc.osc_message_builder import build_msg
from pythonosc.udp_client import SimpleUDPClient

from fulgura.core.picture.shown import BEATS_WRAP
from fulgura.core.wire import BlockId
from harness.box import Box
from harness.breaking import Packets
from harness.shim import Shim
from harness.stack import live, start_stack, told, wait_for
from tests.breaking.conftest import PATH

HOUR_S = 3600
SLEEP_S = 60.0
BPM = 131.0
TWO_BARS_S = 8 * 60.0 / BPM


@pytest.fixture(scope="module")
def shim(tmp_path_factory):
    return Shim(tmp_path_factory.mktemp("shim"))


@pytest.fixture(scope="module")
def stack(tmp_path_factory, shim):
    started = start_stack(tmp_path_factory.mktemp("clock") / "data", environment=shim.environment)
    time.sleep(10.0)
    yield started
    assert started.stop() == 0


@pytest.fixture(scope="module")
def clocked(stack):
    """The stand-in controller gives the show its tempo; it neither sleeps nor believes another time."""
    box = Box(stack)
    wait_for(lambda: "Network MIDI" in told(stack)["ports"].get("controllers", []), 10, "the MIDI line")
    stack.set("/tempo/mode", "midi")
    box.put("/clock", bpm=BPM)
    wait_for(lambda: abs(tempo(stack)["midi"] - BPM) < 0.5, 10, "the clock's tempo")
    time.sleep(TWO_BARS_S)
    yield stack
    box.close()


def tempo(stack) -> dict[str, float]:
    return {row["source"]: row["bpm"] for row in told(stack, "surface", 0.3)["tempo"]["sources"]}


def watched(stack) -> tuple[float, float, float]:
    """(the show's beat in the frame that came last, when it came, frames a second), of a second."""
    packets = live(stack, 1.0, [int(BlockId.PICTURE)])[0]
    return float(packets[-1].blocks[BlockId.PICTURE][2]), time.monotonic(), float(len(packets))


def astray(before, after) -> float:
    """By how many beats the show is off from where the clock has brought it, in a bar of four."""
    went = (after[0] - before[0]) % BEATS_WRAP
    return (went - BPM / 60.0 * (after[1] - before[1]) + 2.0) % 4.0 - 2.0


def a_second(packets, since: float) -> list[float]:
    """Packets of a universe in each second since then."""
    universes = len({raw[113:115] for raw in packets.packets})
    times = np.array([at for at in packets.times if at >= since]) - since
    return list(np.bincount(times.astype(int)) / universes)


@pytest.mark.parametrize("ahead_s", [HOUR_S, 0, -HOUR_S, 0])
def test_a_clock_that_is_set_is_felt_by_nobody(clocked, shim, ahead_s):
    stack, packets = clocked, Packets(clocked)
    try:
        before, said, running = watched(stack), stack.output.read_text(), stack.call("GET", "/health")[1]
        later = f"osc /later/{time.monotonic_ns()}"
        bundle = OscBundleBuilder(time.time() + shim.ahead_s + 2.0)
        bundle.add_content(build_msg(later.removeprefix("osc "), 0.7))
        SimpleUDPClient("127.0.0.1", stack.port).send(bundle.build())
        sent = time.monotonic()
        time.sleep(0.3)
        jumped = time.monotonic()
        shim.say(ahead_s=ahead_s)
        assert stack.set(PATH, 0.25 + ahead_s / 1e5)["saved"]
        wait_for(lambda: any(row["source"] == later for row in heard(stack)), 4, "what was to come later")
        assert 1.5 < time.monotonic() - sent < 3.5
        time.sleep(TWO_BARS_S)
        after, each = watched(stack), a_second(packets, jumped)
        off, silent = astray(before, after), packets.silence(jumped)
    finally:
        packets.close()
    print(
        f"clock at {ahead_s:+} s: {off:+.2f} beats off, silent {silent:.2f} s,"
        f" {max(each):.0f} packets at most in a second, {after[2]:.0f} frames"
    )
    assert abs(off) < 0.2 and abs(tempo(stack)["midi"] - BPM) < 0.5
    assert silent <= 0.2 and max(each) < 60 and after[2] > 50
    assert stack.output.read_text() == said, "nobody was replaced"
    assert stack.call("GET", "/health")[1] == running


def heard(stack) -> list[dict]:
    """What controls said lately."""
    return [row for news in live(stack, 0.2, [])[1] if news["type"] == "control" for row in news["data"]]


def test_a_machine_that_slept_is_right_again_within_two_bars(clocked):
    stack, packets = clocked, Packets(clocked)
    try:
        all_of_it = [psutil.Process(stack.process.pid)]
        all_of_it += all_of_it[0].children(recursive=True)
        before, running, said = watched(stack), stack.call("GET", "/health")[1], stack.output.read_text()
        for process in all_of_it:
            # The engine's copies of itself live for moments.
            with contextlib.suppress(psutil.NoSuchProcess):
                process.send_signal(signal.SIGSTOP)
        time.sleep(SLEEP_S)
        woke = time.monotonic()
        for process in reversed(all_of_it):
            with contextlib.suppress(psutil.NoSuchProcess):
                process.send_signal(signal.SIGCONT)
        time.sleep(TWO_BARS_S)
        after, each, silent = watched(stack), a_second(packets, woke), packets.silence(woke)
    finally:
        packets.close()
    off = astray(before, after)
    print(
        f"slept {SLEEP_S:.0f} s: {off:+.2f} beats off two bars later, packets in each second"
        f" {[round(count) for count in each]}, silent {silent:.2f} s, {after[2]:.0f} frames a second"
    )
    assert max(each) < 60, "old packets went out in a burst"
    assert silent < 0.5 and after[2] > 50
    assert abs(off) < 0.2 and abs(tempo(stack)["midi"] - BPM) < 0.5
    assert stack.call("GET", "/health")[1] == running
    assert stack.output.read_text() == said, "nobody was taken for hung"
