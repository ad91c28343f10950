"""Rates, the block, and which blocks a frame closes with. Nothing here reads a clock: time is a count
of samples.
"""

SAMPLE_RATE = 48_000
"""Samples a second of everything the core hears; other rates are resampled on the way in."""

BLOCK = 256
"""Samples in one analysis block (5.33 ms)."""

FRAME_RATE = 60
"""Frames a second that a Performer is asked for."""


def blocks_due(frame: int) -> int:
    """How many blocks have been heard when frame number ``frame`` (from 1) closes.

    >>> [blocks_due(frame) for frame in (1, 2, 3, 60)]
    [3, 6, 9, 187]
    """
    return frame * SAMPLE_RATE // (FRAME_RATE * BLOCK)
