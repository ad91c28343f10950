"""The performer: the same sound and edits give the same frames, bit for bit; frames survive the wire."""

import json
from hashlib import sha256
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fulgura.core import wire
from fulgura.core.clock import BLOCK, SAMPLE_RATE, blocks_due
from fulgura.core.performer import Performer
from fulgura.core.show.edits import SetValue, apply
from fulgura.core.wire import BlockId, Packet
from fulgura.demo.show import demo_show
from fulgura.demo.tracks import lamp_room

VECTORS = Path(__file__).parents[1] / "vectors" / "frames.json"


@pytest.fixture(scope="module")
def samples():
    return lamp_room().finished()[: 8 * SAMPLE_RATE]


def perform(samples, seconds, edit_at=None, chunk=1):
    """Hash of every frame's bytes. chunk only changes how blocks are cut from memory, never what they
    hold.
    """
    performer, sums, heard = Performer(demo_show()), sha256(), 0
    for number in range(1, int(seconds * 60) + 1):
        if number == edit_at:
            performer.configure(apply(performer.show, SetValue(path="/routes/r1/high", value=0.9))[0])
        while heard < blocks_due(number):
            block = samples[heard * BLOCK : (heard + 1) * BLOCK]
            performer.hear(block.copy() if chunk == 1 else np.ascontiguousarray(block[::1]))
            heard += 1
        sums.update(wire.encode(performer.packet(performer.tick())))
    return sums.hexdigest()


def test_the_same_sound_and_edits_give_the_same_frames_bit_for_bit(samples):
    assert perform(samples, 4, edit_at=100) == perform(samples, 4, edit_at=100, chunk=2)
    assert perform(samples, 4, edit_at=100) != perform(samples, 4)


def test_blocks_follow_the_frame_clock_without_drift():
    assert blocks_due(60) == SAMPLE_RATE // BLOCK
    assert blocks_due(60 * 3600) == 3600 * SAMPLE_RATE // BLOCK


def test_the_picture_and_the_lamp_move_with_the_low_end(samples):
    performer, radii, lamps, heard = Performer(demo_show()), [], [], 0
    index = performer.router.index_of["ring.radius"]
    for number in range(1, 8 * 60):
        while heard < blocks_due(number):
            performer.hear(samples[heard * BLOCK : (heard + 1) * BLOCK])
            heard += 1
        frame = performer.tick()
        radii.append(frame.live[index])
        lamps.append(int(frame.universes[1][0]))
    assert max(radii) - min(radii) > 0.1
    assert max(lamps) > 200 and min(lamps[120:]) < 120


def test_a_hit_reaches_exactly_one_frame(samples):
    performer, heard, frames, hits = Performer(demo_show()), 0, 0, 0
    index = next(i for i, s in enumerate(performer.router.signals) if s.id == "hit-kick")
    for number in range(1, 6 * 60):
        while heard < blocks_due(number):
            performer.hear(samples[heard * BLOCK : (heard + 1) * BLOCK])
            heard += 1
        frame = performer.tick()
        frames += frame.signals[index] > 0
        hits += sum(h.reason is None and h.detector == "kick" for h in frame.hits)
    assert frames == hits > 5


@pytest.mark.parametrize(
    ("blackout", "lamps_lit", "pictures_lit"),
    [("off", True, True), ("all", False, False), ("lights", False, True), ("pictures", True, False)],
)
def test_blackout_darkens_lamps_and_pictures_or_one_of_both(samples, blackout, lamps_lit, pictures_lit):
    """Zeros are sent: the lamps' stream does not stop. The picture is dimmed by its light."""
    performer = Performer(demo_show().model_copy(update={"blackout": blackout}))
    performer.hear(samples[:BLOCK])
    frame = performer.tick()
    last = next(each for each in performer.plan.passes if each.fragment == "guard_held.frag")
    light = last.uniforms[-1]
    assert light.name == "u_light" and frame.uniforms[light.offset] == float(pictures_lit)
    assert bool(frame.universes[1].sum()) == lamps_lit == bool(frame.light[0, 3])


BLOCKS = st.dictionaries(
    st.sampled_from(list(BlockId)),
    st.one_of(
        st.lists(st.floats(width=32, allow_nan=False), max_size=20).map(lambda v: np.array(v, "<f4")),
        st.binary(max_size=33).map(lambda v: np.frombuffer(v, "u1")),
        st.lists(st.floats(allow_nan=False), max_size=9).map(lambda v: np.array(v, "<f8")),
    ),
)


@given(BLOCKS, st.integers(0, 2**32 - 1), st.integers(0, 2**63))
def test_a_packet_survives_the_wire(blocks, plan, number):
    packet = wire.decode(wire.encode(Packet(plan, 7, number, 1.5, blocks)))
    assert (packet.plan, packet.layout, packet.number, packet.time) == (plan, 7, number, 1.5)
    assert packet.blocks.keys() == blocks.keys()
    for block, values in blocks.items():
        np.testing.assert_array_equal(packet.blocks[block], values)


@given(BLOCKS, st.sets(st.sampled_from([int(b) for b in BlockId])))
def test_only_wanted_blocks_are_kept(blocks, wanted):
    kept = wire.decode(wire.keep(wire.encode(Packet(1, 2, 3, 4.0, blocks)), wanted))
    assert kept.blocks.keys() == blocks.keys() & wanted


@given(st.binary(max_size=200))
def test_garbage_on_the_wire_is_refused_not_read(raw):
    try:
        wire.decode(raw)
    except ValueError:
        return
    assert raw[:4] == b"FULG"


def test_a_cut_frame_is_refused():
    whole = wire.encode(Packet(1, 2, 3, 4.0, {BlockId.LIVE: np.ones(5, "<f4")}))
    for end in range(len(whole) - 4):
        with pytest.raises(ValueError):
            wire.decode(whole[:end])


def test_the_shared_vectors_are_what_python_writes():
    """tests/desk reads the same file in the browser: both sides are held together by it."""
    for row in json.loads(VECTORS.read_text()):
        types = {"f4": "<f4", "u1": "u1", "f8": "<f8"}
        blocks = {int(k): np.array(v["values"], types[v["type"]]) for k, v in row["blocks"].items()}
        assert (
            wire.encode(Packet(row["plan"], row["layout"], row["number"], row["time"], blocks)).hex()
            == row["hex"]
        )


def test_a_viewer_that_loses_frames_loses_no_hit_and_no_beat():
    def hit(t):
        return np.array([0.0, 0.0, t, 1.0, 0.5])

    def frame(number, layout=7):
        return Packet(
            1,
            layout,
            number,
            number / 60,
            {
                BlockId.LIVE: np.full(3, number, "<f4"),
                BlockId.HITS: hit(number),
                BlockId.BEATS: np.array([number, 1.0, 0.0]),
            },
        )

    joined = wire.encode(frame(1))
    for number in range(2, 900):
        joined = wire.with_events(*wire.events_of(joined), wire.encode(frame(number)))
    packet = wire.decode(joined)
    assert packet.number == 899 and packet.blocks[BlockId.LIVE][0] == 899
    assert list(packet.blocks[BlockId.HITS].reshape(-1, 5)[:, 2]) == list(range(900 - wire.MOST_EVENTS, 900))
    # Detectors are told by their place in the layout: those of another one would be taken for something else.
    other = wire.encode(frame(900, layout=8))
    assert wire.with_events(*wire.events_of(joined), other) == other
