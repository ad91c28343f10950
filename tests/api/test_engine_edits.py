"""From the arrival of an edit at the engine to the first frame that has it."""

import itertools
import subprocess
import sys
import time

import numpy as np
import pytest
import zmq

from fulgura import bus
from fulgura.children import child_environment
from fulgura.core import wire
from fulgura.core.routing.indices import indices
from fulgura.core.show.edits import SetValue
from fulgura.core.show.events import EditMade
from fulgura.core.wire import BlockId
from fulgura.demo.show import demo_show
from fulgura.folders import Folders
from harness.measuring import once_good

TRIES = 60


@pytest.fixture
def engine(tmp_path):
    """An engine process that plays the demo show, and both ends of its bus: (Caller, SUB socket)."""
    folders = Folders(tmp_path / "data")
    folders.make()
    process = subprocess.Popen(
        [sys.executable, "-m", "fulgura.engine", str(folders.data)], env=child_environment()
    )
    context = zmq.Context()
    caller, frames = bus.Caller(folders.run, context), context.socket(zmq.SUB)
    frames.connect(bus.addresses(folders.run)[0])
    frames.subscribe(bus.FRAME)
    show = demo_show()
    try:
        caller.send(
            "show",
            show=show.model_copy(
                update={"inputs": [show.inputs[0].model_copy(update={"use": "house"})]}
            ).model_dump(),
            revision=1,
        )
        yield caller, frames
    finally:
        process.terminate()
        process.wait(20)
        context.destroy(linger=0)


def newest(frames: zmq.Socket) -> wire.Packet:
    """The last frame that has been published: the newest of those that wait, or the next one when the
    machine held the engine up and none waits.
    """
    last = frames.recv_multipart()[1]
    while frames.poll(0):
        last = frames.recv_multipart()[1]
    return wire.decode(last)


@pytest.mark.alone
def test_an_edit_is_on_the_output_within_two_frames_of_its_arrival(engine):
    caller, frames = engine
    index = next(entry.index for entry in indices(demo_show()) if entry.target == "ring.ripple")
    until = time.monotonic() + 60
    while time.monotonic() < until:
        assert frames.poll(60_000)
        now = wire.decode(frames.recv_multipart()[1])
        if len(now.blocks.get(BlockId.LIVE, ())) > index:
            break
    rng, revisions = np.random.default_rng(4), itertools.count(1)

    def waited() -> list[int]:
        return [taken(next(revisions)) for _ in range(TRIES)]

    def taken(revision: int) -> int:
        wanted = round(0.1 + 0.01 * (revision % TRIES), 3)
        time.sleep(0.05 + float(rng.random()) / 30)  # At any moment within a tick.
        sent = newest(frames)
        event = EditMade(
            edit=SetValue(path="/looks/lantern-tunnel/layers/lantern/source/values/ripple", value=wanted)
        ).model_dump()
        caller.send("edit", event=event, revision=revision + 1, **{"from": revision})
        while True:
            then = wire.decode(frames.recv_multipart()[1])
            assert then.number < sent.number + 60, f"edit {revision} did not arrive"
            if abs(float(then.blocks[BlockId.LIVE][index]) - wanted) < 1e-5:
                return then.number - sent.number

    found = once_good(waited, lambda found: np.percentile(found, 90) <= 2)
    assert np.percentile(found, 90) <= 2, found
