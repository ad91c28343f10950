"""Hand values of all parameters of a show, and where each stands in the live block."""

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.kinds.parameters import Parameter
from fulgura.core.routing.indices import ParameterIndex, as_floats, hand_values, indices
from fulgura.core.show.document import Show
from fulgura.core.show.part import Part
from fulgura.core.show.settings import Setting


class Hands:
    """``take`` takes a show's parts over. values: shape (floats,), the hand values; entries: where they
    stand; by_target: the same by address; index_of: address to first float.
    """

    def __init__(self) -> None:
        self.values: Array = np.zeros(0)
        self.entries: list[ParameterIndex] = []
        self.by_target: dict[str, ParameterIndex] = {}
        self.index_of: dict[str, int] = {}
        self._palette: list[str] = []
        self._parts: list[Part | Setting] = []
        self._shape: list[tuple[str, list[Parameter]]] = []
        self._entries_of: dict[str, list[ParameterIndex]] = {}

    def take(self, show: Show) -> bool:
        """Whether the places are others than before. As long as the parts and their parameters are the same,
        the entries are the very same objects, and only hand values of parts that were edited are read anew.
        """
        parts = show.owners()
        shape = [(part.id, part.parameters()) for part in parts]
        same_shape = len(shape) == len(self._shape) and all(
            a[0] == b[0] and a[1] is b[1] for a, b in zip(shape, self._shape)
        )
        palette, before = show.colours, self._palette
        self._palette = palette
        if same_shape:
            self._read_edited(parts, repainted=palette != before)
        else:
            self.entries = indices(show)
            self.by_target = {entry.target: entry for entry in self.entries}
            self.index_of = {entry.target: entry.index for entry in self.entries}
            self._entries_of = {part.id: [] for part in parts}
            for entry in self.entries:
                self._entries_of[entry.part].append(entry)
            self.values = hand_values(show, self.entries)
        self._parts, self._shape = parts, shape
        return not same_shape

    def _read_edited(self, parts: list[Part | Setting], repainted: bool) -> None:
        """repainted: whether colours that parameters point at are others than before."""
        self.values = self.values.copy()
        for part, was in zip(parts, self._parts):
            edited = part is not was and not _same_holder(part, was)
            if not edited and not repainted:
                continue
            for entry in self._entries_of[part.id]:
                if edited or entry.parameter.type == "colour":
                    self.values[entry.index : entry.index + entry.parameter.size] = as_floats(
                        entry.parameter, part.values[entry.parameter.name], self._palette
                    )

    def carried(self, live: Array, old: dict[str, ParameterIndex]) -> Array:
        """Live values in their new places, shape (floats,): what is new begins at its hand value."""
        moved = self.values.copy()
        for target, entry in self.by_target.items():
            if target in old and len(live):
                was, size = old[target].index, entry.parameter.size
                moved[entry.index : entry.index + size] = live[was : was + size]
        return moved


def _same_holder(part: Part | Setting, was: Part | Setting) -> bool:
    """Whether what listens or routes is what it was: it is found anew in every show."""
    return isinstance(part, Setting) and isinstance(was, Setting) and part.holder is was.holder
