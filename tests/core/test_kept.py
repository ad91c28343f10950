"""A performer as bytes: read back, it goes on bit for bit, but for windows of sound that it has not heard."""

import numpy as np
import pytest

from fulgura.core import wire
from fulgura.core.clock import blocks_due
from fulgura.core.kept import as_bytes, from_bytes
from fulgura.core.kinds.inputs.house_band import HouseBandSettings
from fulgura.core.performer import Performer
from fulgura.core.show.events import OverrideSet
from fulgura.core.synthesis.house_band import HouseBand
from fulgura.core.wire import BlockId
from fulgura.demo.show import demo_show, gallery_show

SOUND = {BlockId.WAVEFORM, BlockId.STEREO}
"""What is drawn of sound that was heard before."""


@pytest.mark.parametrize("make", [demo_show, gallery_show])
def test_it_goes_on_bit_for_bit(make):
    show = make()
    first, band, settings = Performer(show), HouseBand(show.seed), HouseBandSettings()

    def play(number, *performers):
        blocks = [band.block(settings) for _ in range(blocks_due(number) - blocks_due(number - 1))]
        for performer in performers:
            for block in blocks:
                performer.hear(block)
        return [performer.packet(performer.tick()) for performer in performers]

    for number in range(1, 200):
        play(number, first)
    target = first.router.indices[0].target
    first.act(OverrideSet(target=target, value=first.router.indices[0].parameter.high))
    second = from_bytes(as_bytes(first))
    assert second.show == first.show and list(second.router.overrides.active) == [target]
    for number in range(200, 320):
        one, other = play(number, first, second)
        assert (one.number, one.time, one.plan, one.layout) == (
            other.number,
            other.time,
            other.plan,
            other.layout,
        )
        for block in one.blocks.keys() - SOUND:
            if block < 64:  # From there on sources draw sound for themselves.
                same = one.blocks[block] == other.blocks[block]
                names = [s.word for s in first.router.signals] if block == BlockId.SIGNALS else []
                assert same.all(), (BlockId(block), number, np.flatnonzero(~same), names)
    assert wire.encode(other)


def test_it_is_small_enough_to_be_kept_often():
    """Without the ten seconds of sound that it has heard, which alone are 7.7 MB."""
    assert len(as_bytes(Performer(demo_show()))) < 3_000_000
