"""The pure instrument: no files, no threads, no clock, no screen.

Time comes in as a sample count, events come in as values, a ``Frame`` comes out.
The same audio, events and seed give the same frames, bit for bit.
"""
