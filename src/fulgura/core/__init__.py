"""The pure instrument: no files, no threads, no clock, no screen.

Time comes in as a sample count, events come in as values, a ``Frame`` comes out.
The same audio, events and seed give the same frames, bit for bit.
"""

SAMPLE_RATE = 48_000
"""Samples a second of everything the core hears; other rates are resampled on the way in."""

BLOCK = 256
"""Samples in one analysis block (5.33 ms)."""

FRAME_RATE = 60
"""Frames a second that a Performer is asked for."""
