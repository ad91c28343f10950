"""The rig: live values in, universes out, and how every lamp shines by what is sent."""

from collections.abc import Mapping
from dataclasses import dataclass
from zlib import crc32

import numpy as np
from numpy.typing import NDArray

from fulgura.core.arrays import Array
from fulgura.core.clock import FRAME_RATE
from fulgura.core.kinds.fixture import Form
from fulgura.core.kinds.tick import TickContext
from fulgura.core.lights import run
from fulgura.core.lights.calm import calm, no_flashes
from fulgura.core.lights.chase import ChaseRunner, Progress
from fulgura.core.lights.compile import CompiledRig, compile_rig, units_of
from fulgura.core.show.document import Show
from fulgura.core.show.lights import Lamp
from fulgura.core.show.part import same
from fulgura.core.show.patch import CHANNELS

HELD_TICKS = FRAME_RATE
"""How long identifying and what acts only while it is held go on without being said anew."""


@dataclass
class LightFrame:
    """What one tick sends, and how it shines.

    universes: by number, uint8, shape (512,); light: linear red, green, blue and intensity of each cell,
    shape (cells, 4); pose: degrees of pan, tilt and width and flashes a second of each lamp, shape (lamps,
    4); bad: how many values were no numbers.
    """

    universes: dict[int, Array]
    light: NDArray[np.float32]
    pose: NDArray[np.float32]
    bad: int = 0


class Rig:
    """All lamps of a show. ``configure`` takes a show over, ``tick`` makes what is sent."""

    def __init__(self) -> None:
        self.compiled: CompiledRig
        self.chases: list[ChaseRunner] = []
        self.identified: dict[str, int] = {}
        """Ticks that lamps still shine white, by their id."""
        self.held: dict[str, int] = {}
        """Ticks that what acts only while it is held still acts, by its address."""
        self._show: Show | None = None
        self._index_of: Mapping[str, int] = {}
        self._grand = 0
        self._frozen: Array | None = None
        self._holdable: dict[str, int] = {}
        """Address of what acts only while it is held -> its row among the channels."""

    def configure(self, show: Show, index_of: Mapping[str, int]) -> None:
        """Take over an edited show. index_of: parameter address -> place in the live values; the same object
        as long as nothing moved there.
        """
        before = self._show
        moved = before is None or index_of is not self._index_of
        if moved or not self._same_rig(before, show):
            self.compiled = compile_rig(show, index_of)
            self._make_room()
            self._grand = index_of[f"{show.lights.part.id}.grand"]
            self._find_holdable(show)
            moved = True
        if moved or before is None or not same(before.chases, show.chases):
            self._take_chases(show, index_of)
        if not show.lights.frozen:
            self._frozen = None
        self._show, self._index_of = show, index_of

    @staticmethod
    def _same_rig(before: Show | None, show: Show) -> bool:
        """Whether all stands in the rows that an edit could have changed, but for hand values."""
        if before is None or before.lights.parked != show.lights.parked:
            return False
        # A master that is dragged is a hand value: the rows stay.
        if not same(before.groups, show.groups) and _shapes(before) != _shapes(show):
            return False
        if len(before.lamps) != len(show.lamps):
            return False
        return all(a is b or _patch_of(a) == _patch_of(b) for a, b in zip(before.lamps, show.lamps))

    def _make_room(self) -> None:
        rig = self.compiled
        self._level, self._colour = np.zeros(len(rig.cells)), np.zeros((len(rig.cells), 3))
        self._shining = np.zeros(len(rig.lamps), dtype=np.bool_)
        self._flashes = no_flashes(len(rig.lamps))
        self._frozen = None

    def _find_holdable(self, show: Show) -> None:
        rows = self.compiled.channels
        names = {
            lamp: show.lamps[lamp].fixture.id
            for lamp in set(rows["lamp"][rows["form"] == Form.HELD].tolist())
        }
        self._holdable = {
            f"{names[int(rows['lamp'][row])]}.fog": int(row)
            for row in np.flatnonzero(rows["form"] == Form.HELD)
        }

    def _take_chases(self, show: Show, index_of: Mapping[str, int]) -> None:
        old = {runner.id: runner.progress for runner in self.chases}
        groups = {group.id: group for group in show.groups}
        self.chases = []
        for chase in show.chases:
            for each in chase.runs:
                if each.group not in groups:
                    continue
                units = units_of(show, groups[each.group], self.compiled.cells_of)
                name = f"{chase.id} {each.id}"
                seed = crc32(name.encode(), show.seed & 0xFFFFFFFF)
                progress = old.get(name) or Progress()
                self.chases.append(ChaseRunner(chase, each, units, index_of, seed, progress))

    # -- hands ----------------------------------------------------------------------------------------------

    def identify(self, lamps: list[str]) -> None:
        """These shine white for a second from now; none: they are let go."""
        self.identified = dict.fromkeys(lamps, HELD_TICKS)

    def hold(self, target: str) -> bool:
        """What acts only while it is held acts for a second from now; False for what is nothing of
        that kind.
        """
        if target not in self._holdable:
            return False
        self.held[target] = HELD_TICKS
        return True

    def let_go(self, target: str) -> None:
        """It does not act any more."""
        self.held.pop(target, None)

    def held_back(self, seconds: float) -> list[str]:
        """Ids of lamps that would have flashed too often in the two seconds before a moment of the show."""
        show = self._show
        rows = np.flatnonzero(self._flashes["held"] > seconds - 2.0)
        return [show.lamps[row].id for row in rows] if show is not None else []

    def _count_down(self) -> list[str]:
        """One tick less for all that is held; returns what has just run out."""
        for ticks in (self.identified, self.held):
            for name in list(ticks):
                ticks[name] -= 1
        for lamp in [lamp for lamp, left in self.identified.items() if left < 0]:
            del self.identified[lamp]
        ended = [target for target, left in self.held.items() if left < 0]
        for target in ended:
            del self.held[target]
        return ended

    # -- the tick -------------------------------------------------------------------------------------------

    def tick(self, live: Array, now: TickContext) -> tuple[LightFrame, list[str]]:
        """(what is sent in this tick, addresses of what was held too long without a word and is let go).

        live: shape (floats,), after routes and hands.
        """
        rig, show = self.compiled, self._show
        assert show is not None, "a rig is configured before it plays"
        ended = self._count_down()
        self._shining[:] = False
        if self.identified:
            self._shining[:] = [lamp.id in self.identified for lamp in show.lamps]
        rig.channels["held"] = 0
        for target in self.held:
            if target in self._holdable:
                rig.channels["held"][self._holdable[target]] = 1
        run.begin(rig.lamps, live, self._level, self._colour)
        for chase in self.chases:
            chase.step(live, now, self._level, self._colour)
        dark, grand = show.blackout in ("all", "lights"), float(live[self._grand])
        over = (rig.answers, rig.masters, live, grand, dark, self._shining, self._level, self._colour)
        bad = run.finish(rig.lamps, *over)
        if not show.lights.strobe:
            passed = self._shining | ~np.isnan(rig.lamps["parked"])
            calm(rig.lamps, self._level, self._colour, passed, self._flashes, now.seconds)
        out = np.zeros(len(rig.universes) * CHANNELS, dtype=np.uint8)
        made = (
            rig.emitters,
            rig.tables,
            rig.wheels,
            rig.wheel_bytes,
            live,
            show.lights.strobe,
            self._shining,
        )
        run.write(rig.lamps, rig.channels, *made, self._level, self._colour, out)
        if len(rig.parked):
            out[rig.parked[:, 0]] = rig.parked[:, 1]
        if show.lights.frozen:
            self._frozen = out if self._frozen is None else self._frozen
            out = self._frozen.copy()
        return self._seen(out, bad), ended

    def _seen(self, out: Array, bad: int) -> LightFrame:
        rig = self.compiled
        light = np.zeros((len(rig.cells), 4), dtype=np.float32)
        pose = np.zeros((len(rig.lamps), 4), dtype=np.float32)
        run.see(
            rig.lamps,
            rig.cells,
            rig.shown,
            rig.shown_of,
            rig.wheels,
            rig.wheel_bytes,
            rig.beams,
            out,
            light,
            pose,
        )
        rows = out.reshape(-1, CHANNELS)
        return LightFrame(dict(zip(rig.universes, rows)), light, pose, bad)


def _shapes(show: Show) -> list[tuple[object, ...]]:
    """Of each group all that rows are made of."""
    return [(group.id, group.members, group.pixels, group.answer) for group in show.groups]


def _patch_of(lamp: Lamp) -> tuple[object, ...]:
    """Of a lamp, all that its rows are made of: everything but the hand values, the name and the place."""
    fields = ("universe", "address", "mode", "pixels", "limits", "parked", "answer")
    fixture = lamp.fixture
    return (fixture.id, fixture.kind, *(getattr(lamp, name) for name in fields))
