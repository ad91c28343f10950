"""What one tick decided, and how it goes on the wire."""

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import ArrayLike

from fulgura.core.arrays import Array
from fulgura.core.layout import Layout
from fulgura.core.picture.data import FIRST_OWN, display_levels
from fulgura.core.sound import hits as hitting
from fulgura.core.sound.beat.beat_state import Beat
from fulgura.core.wire import BlockId, Packet


@dataclass
class Frame:
    """Everything that one tick decided. Arrays are not reused afterwards."""

    number: int
    time: float
    signals: Array
    live: Array
    uniforms: Array
    waveform: Array
    stereo: Array
    spectrum: Array
    own: list[Array]
    """What the shown sources have for themselves, in the order of their blocks."""
    routes: Array
    telemetry: Array
    hits: list[hitting.Hit]
    beats: list[list[Beat]]
    """Of each input."""
    status: Array
    universes: dict[int, Array]
    """What is sent: by number, uint8, shape (512,)."""
    light: Array
    """How each cell of the lamps shines, shape (cells, 4)."""
    pose: Array
    """How each lamp stands, shape (lamps, 4)."""
    picture: Array
    """Whether the picture stands still, how often feedback was cleared, and the show's beat."""
    palette: Array
    """The colours of the palette in use, shape (MOST_COLOURS, 4)."""
    sent: dict[int, Array] = field(default_factory=dict)
    """What outputs and further pictures are told, by block."""


def _f4(values: ArrayLike) -> Array:
    return np.ascontiguousarray(values, dtype="<f4")


def packet_of(frame: Frame, plan_id: int, layout: Layout, further: Sequence[int] = ()) -> Packet:
    """A frame as it goes on the wire; rounding to 32 bits happens only here. further: ids of the plans of
    further pictures.
    """
    order = {hit.id: i for i, hit in enumerate(layout.hits)}
    hits = [
        (order.get(hit.detector, 0), hitting.REASONS.index(hit.reason), hit.t, hit.strength, hit.threshold)
        for hit in frame.hits
    ]
    beats = [
        (beat.t, beat.bar_position, input_index)
        for input_index, rows in enumerate(frame.beats)
        for beat in rows
    ]
    blocks: dict[int, Array] = {
        BlockId.UNIFORMS: _f4(frame.uniforms),
        BlockId.WAVEFORM: _f4(frame.waveform),
        BlockId.STATUS: _f4(frame.status).reshape(-1),
        BlockId.SIGNALS: _f4(frame.signals),
        BlockId.LIVE: _f4(frame.live),
        BlockId.ROUTES: _f4(frame.routes),
        BlockId.TELEMETRY: _f4(frame.telemetry),
        BlockId.SPECTRUM: display_levels(frame.spectrum),
        BlockId.HITS: np.array(hits, dtype="<f8").reshape(-1),
        BlockId.BEATS: np.array(beats, dtype="<f8").reshape(-1),
        BlockId.LAMPS: _f4(frame.light).reshape(-1),
        BlockId.STEREO: _f4(frame.stereo).reshape(-1),
        BlockId.POSE: _f4(frame.pose).reshape(-1),
        BlockId.CHANNELS: np.concatenate([*frame.universes.values(), np.zeros(0, np.uint8)]),
        BlockId.PICTURE: _f4(frame.picture),
        BlockId.PALETTE: _f4(frame.palette).reshape(-1),
        BlockId.PICTURES: np.array(further, dtype="<f8"),
        **{FIRST_OWN + number: block for number, block in enumerate(frame.own)},
        **{id: _f4(block).reshape(-1) if block.dtype == float else block for id, block in frame.sent.items()},
    }
    return Packet(plan_id, layout.id, frame.number, frame.time, blocks)
