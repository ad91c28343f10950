"""A performer as bytes, and back: for one that goes on where another one ended."""

import copyreg
import io
import pickle

from numba.typed import List

from fulgura.core.routing.run import steps


class _Pickler(pickle.Pickler):
    # The compiled steps are the same in every process.
    dispatch_table = {**copyreg.dispatch_table, List: lambda _: (steps, ())}


def as_bytes(kept: object) -> bytes:
    """A performer, alone or with what refers to it. What it heard lately is left out: windows of sound begin
    in silence, everything else goes on.
    """
    # Protocol 4: arrays that compiled functions made cannot be written by the next.
    out = io.BytesIO()
    _Pickler(out, 4).dump(kept)
    return out.getvalue()


def from_bytes(raw: bytes) -> object:
    """What ``as_bytes`` was given. Only for bytes that a process of our own has written."""
    return pickle.loads(raw)
