"""A show's rig as rows of numbers, for the compiled loops of run.py."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.kinds.colour import from_hex, resolved
from fulgura.core.kinds.fixture import Channel, Form
from fulgura.core.kinds.parameters import Parameter
from fulgura.core.lights.colour import emitter_colours, mix_form
from fulgura.core.show.document import Show
from fulgura.core.show.lights import Group, Lamp
from fulgura.core.show.part import Part
from fulgura.core.show.patch import CHANNELS, Patched, patched, read_address

LAMP = np.dtype(
    [
        (name, "i8")
        for name in ("level", "colour", "cell", "cell_end", "emitter", "emitter_end", "form", "wheel")
    ]
    + [(name, "i8") for name in ("wheel_end", "answer", "answer_end", "master", "master_end")]
    + [(name, "f8") for name in ("least", "most", "parked", "red", "green", "blue")]
)
"""level, colour: places in the live values, -1 for none; cells, emitters, slots of a wheel, answers and
masters as ranges of rows; least, most: limits of the level; parked: its level, red to blue: its colour; nan
for none.
"""
CHANNEL = np.dtype(
    [(name, "i8") for name in ("lamp", "cell", "form", "index", "at", "fine", "table", "held")]
    + [(name, "f8") for name in ("low", "high", "first", "last", "open", "least", "most", "parked", "dimmed")]
)
"""index: place in the live values, or number of the emitter; at, fine: places among all slots, -1 for none;
dimmed: 1 where the brightness is made by the emitters themselves, 2 where they stay behind the brightest of
their lamp, else 0.
"""
CELL = np.dtype([(name, "i8") for name in ("lamp", "dimmer", "dimmer_fine", "wheel")])
"""Where a cell's brightness and its colour wheel stand among the slots, -1 for none."""


@dataclass
class CompiledRig:
    """All lamps as rows. shown: for each cell and emitter (slot, red, green, blue) of what is to be seen of
    it.
    """

    lamps: Array
    channels: Array
    cells: Array
    emitters: Array
    shown: Array
    shown_of: Array
    """First and last row of ``shown`` for each cell, shape (cells, 2)."""
    tables: Array
    wheels: Array
    wheel_bytes: Array
    answers: Array
    masters: Array
    beams: Array
    """For each lamp (slot, fine, low, high) of pan, tilt and zoom and (slot, first, last, low, high) of
    flashes.
    """
    universes: list[int]
    parked: Array
    """(slot among all, value) of parked channels, shape (n, 2)."""
    cells_of: dict[str, tuple[int, int]] = field(default_factory=dict)


ANSWER_POINTS = 1025
"""A curve is read off from so many points; a straight line between them."""


def compile_rig(show: Show, index_of: Mapping[str, int]) -> CompiledRig:
    """The rig of a show. index_of: parameter address -> place in the live values."""
    return _Compiler(show, index_of).run()


def units_of(show: Show, group: Group, cells_of: Mapping[str, tuple[int, int]]) -> Array:
    """First and last cell of each of a group's lamps, or of each of their pixels, shape (n, 2)."""
    spans = [cells_of[lamp.id] for lamp in show.members(group) if lamp.id in cells_of]
    if group.pixels:
        spans = [(cell, cell + 1) for first, last in spans for cell in range(first, last)]
    return np.array(spans, dtype=np.int64).reshape(-1, 2)


def answer_curve(part: Part) -> Array | None:
    """A curve at ANSWER_POINTS places from 0 to 1; None for the straight one."""
    values, x = part.values, np.linspace(0.0, 1.0, ANSWER_POINTS)
    shapes: dict[str, Callable[[], Array]] = {
        "square": lambda: x * x,
        "s": lambda: x * x * (3.0 - 2.0 * x),
        "threshold": lambda: np.where(x >= values["threshold"], x, 0.0),
        "points": lambda: np.interp(x, *np.array(values["points"]).T),
    }
    return shapes[values["shape"]]() if values["shape"] in shapes else None


class _Compiler:
    def __init__(self, show: Show, index_of: Mapping[str, int]) -> None:
        self.show, self.index_of = show, index_of
        self.channels: list[tuple[Any, ...]] = []
        self.lamps: list[tuple[Any, ...]] = []
        self.cells: list[tuple[int, ...]] = []
        self.emitters: list[Array] = []
        self.shown: list[tuple[float, ...]] = []
        self.shown_of: list[tuple[int, int]] = []
        self.tables: list[float] = []
        self.wheels: list[Array] = []
        self.wheel_bytes: list[int] = []
        self.answers: list[Array] = []
        self.answer_of: list[int] = []
        self.masters: list[int] = []
        self.beams: list[list[float]] = []
        self.cells_of: dict[str, tuple[int, int]] = {}
        patches = {lamp.id: patched(lamp) for lamp in show.lamps}
        parked = [(*read_address(address), value) for address, value in show.lights.parked.items()]
        used = {row.universe for rows in patches.values() for row in rows} | {row[0] for row in parked}
        self.universes = sorted(used)
        self.row_of = {universe: i for i, universe in enumerate(self.universes)}
        self.parked = [
            (self.row_of[universe] * CHANNELS + address - 1, value) for universe, address, value in parked
        ]
        self.patches = patches
        self.groups_of: dict[str, list[Group]] = {}
        for group in show.groups:
            for member in group.members:
                self.groups_of.setdefault(member, []).append(group)

    def run(self) -> CompiledRig:
        for lamp in self.show.lamps:
            self._lamp(lamp, self.patches[lamp.id])
        return CompiledRig(
            lamps=np.array(self.lamps, dtype=LAMP),
            channels=np.array(self.channels, dtype=CHANNEL),
            cells=np.array(self.cells, dtype=CELL),
            emitters=np.array(self.emitters, dtype=np.float64).reshape(-1, 3),
            shown=np.array(self.shown, dtype=np.float64).reshape(-1, 4),
            shown_of=np.array(self.shown_of, dtype=np.int64).reshape(-1, 2),
            tables=np.array(self.tables, dtype=np.float64),
            wheels=np.array(self.wheels, dtype=np.float64).reshape(-1, 3),
            wheel_bytes=np.array(self.wheel_bytes, dtype=np.int64),
            answers=np.array(self.answers, dtype=np.float64).reshape(-1, ANSWER_POINTS),
            masters=np.array(self.masters, dtype=np.int64),
            beams=np.array(self.beams, dtype=np.float64).reshape(-1, 17),
            universes=self.universes,
            parked=np.array(self.parked, dtype=np.int64).reshape(-1, 2),
            cells_of=self.cells_of,
        )

    def _slot(self, row: Patched, fine: int = 0) -> int:
        """A channel's place among all slots; -1 for one that is past the end of its universe."""
        slot = row.slot + fine
        return self.row_of[row.universe] * CHANNELS + slot if slot < CHANNELS else -1

    def _lamp(self, lamp: Lamp, rows: Sequence[Patched]) -> None:
        number, first_cell = len(self.lamps), len(self.cells)
        kind, part = lamp.profile, lamp.fixture
        parameters = {parameter.name: parameter for parameter in kind.parameters()}
        behind = 2.0 if lamp.cells > 1 else 0.0
        own_dimmer = next((row for row in rows if row.channel.form == Form.DIMMER), None)
        wheel = next((row for row in rows if row.channel.form == Form.WHEEL), None)
        emitter, wheel_first = len(self.emitters), len(self.wheels)
        self.emitters += list(emitter_colours(kind))
        if wheel is not None:
            self.wheels += [from_hex(colour) for _, colour in wheel.channel.wheel]
            self.wheel_bytes += [value for value, _ in wheel.channel.wheel]
        answer, master = len(self.answers), len(self.masters)
        for curve in (*(group.answer for group in self.groups_of.get(lamp.id, [])), lamp.answer):
            points = answer_curve(curve)
            if points is not None:
                self.answers.append(points)
        self.masters += [self.index_of[f"{group.id}.master"] for group in self.groups_of.get(lamp.id, [])]
        least, most = lamp.limits.get("level", (0.0, 1.0))
        colour = lamp.parked.get("colour")
        self.lamps.append(
            (
                self.index_of.get(f"{part.id}.level", -1),
                self.index_of.get(f"{part.id}.colour", -1),
                *(first_cell, first_cell + lamp.cells, emitter, len(self.emitters), mix_form(kind)),
                *(wheel_first, len(self.wheels), answer, len(self.answers), master, len(self.masters)),
                *(least, most, lamp.parked.get("level", np.nan)),
                *(from_hex(resolved(colour, self.show.colours)) if colour else (np.nan,) * 3),
            )
        )
        self._cells(lamp, rows, own_dimmer, wheel, number)
        for row in rows:
            self._channel(lamp, row, number, first_cell, parameters, 1.0 if own_dimmer is None else behind)
        self.beams.append(self._beam(rows))
        self.cells_of[lamp.id] = (first_cell, first_cell + lamp.cells)

    def _cells(
        self,
        lamp: Lamp,
        rows: Sequence[Patched],
        own_dimmer: Patched | None,
        wheel: Patched | None,
        number: int,
    ) -> None:
        """Where each cell's light is to be read from what is sent."""
        colours = dict(zip(lamp.profile.emitters, emitter_colours(lamp.profile)))
        emitting: dict[int, list[Patched]] = {}
        for row in rows:
            if row.channel.form in (Form.EMITTER, Form.OWN):
                emitting.setdefault(row.pixel, []).append(row)
        for pixel in range(lamp.cells):
            first = len(self.shown)
            for row in emitting.get(pixel, []):
                light = colours[row.channel.of] if row.channel.form == Form.EMITTER else (0.15, 0.0, 0.5)
                self.shown.append((self._slot(row), *light))
            if not emitting and wheel is None and colours:
                self.shown.append((-1.0, *next(iter(colours.values()))))
            self.shown_of.append((first, len(self.shown)))
            dimmer = (-1, -1)
            if own_dimmer is not None:
                fine = self._slot(own_dimmer, 1) if own_dimmer.channel.bits == 16 else -1
                dimmer = (self._slot(own_dimmer), fine)
            self.cells.append((number, *dimmer, self._slot(wheel) if wheel is not None else -1))

    def _channel(
        self,
        lamp: Lamp,
        row: Patched,
        number: int,
        cell: int,
        parameters: Mapping[str, Parameter],
        dimmed: float,
    ) -> None:
        channel: Channel = row.channel
        index = self.index_of.get(f"{lamp.fixture.id}.{channel.of}", -1)
        if channel.form == Form.EMITTER:
            index = lamp.profile.emitters.index(channel.of)
        table = len(self.tables)
        self.tables += [float(step) for step in channel.steps]
        least, most = lamp.limits.get(channel.of, (-np.inf, np.inf))
        parked = (
            lamp.parked.get(channel.of, np.nan) if channel.form not in (Form.DIMMER, Form.WHEEL) else np.nan
        )
        if channel.form == Form.STEPS and isinstance(parked, str):
            parked = float(parameters[channel.of].choices.index(parked))
        self.channels.append(
            (
                *(number, cell + row.pixel, int(channel.form), index, self._slot(row)),
                *(self._slot(row, 1) if channel.bits == 16 else -1, table, 0),
                *(channel.low, channel.high, channel.first, channel.last, channel.open),
                *(least, most, parked, dimmed),
            )
        )

    def _beam(self, rows: Sequence[Patched]) -> list[float]:
        """Where pan, tilt, zoom and flashes are to be read from what is sent."""
        found = {row.channel.of: row for row in rows if row.channel.form in (Form.SPAN, Form.STROBE)}
        numbers: list[float] = []
        for name in ("pan", "tilt", "zoom"):
            row = found.get(name)
            if row is None:
                numbers += [-1.0, -1.0, 0.0, 0.0]
            else:
                fine = self._slot(row, 1) if row.channel.bits == 16 else -1
                numbers += [self._slot(row), fine, row.channel.low, row.channel.high]
        flash = found.get("strobe")
        if flash is None:
            return [*numbers, -1.0, 0.0, 0.0, 0.0, 0.0]
        channel = flash.channel
        return [*numbers, self._slot(flash), channel.first, channel.last, channel.low, channel.high]
