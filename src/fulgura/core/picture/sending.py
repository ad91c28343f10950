"""All that outputs show beside what plays: further pictures, and how each output fits its wall."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from fulgura.core.arrays import Array
from fulgura.core.kinds.providers import TickInput
from fulgura.core.picture.data import FIRST_FIT, display_levels, first_of, first_own, uniforms_of
from fulgura.core.picture.fitting import end_of, fit_of, now_of
from fulgura.core.picture.plan import End, Plan
from fulgura.core.picture.shown import ShownPicture
from fulgura.core.show.document import Show
from fulgura.core.show.inputs import MAIN
from fulgura.core.show.looks import Look
from fulgura.core.show.outputs import Output

MOST_FURTHER = 8
"""Looks, each with an input, that outputs show beside what plays."""


@dataclass
class FurtherPicture:
    """A picture beside what plays: a look of its own, or the sound of another input drawn."""

    input: str
    shown: ShownPicture


@dataclass
class Heard:
    """What a picture's shaders are told of an input's sound."""

    waveform: Array
    spectrum: Array
    stereo: Array
    tick: TickInput


@dataclass
class Sending:
    """further: the pictures beside what plays, from number 1 on; ends: of each output; version: another one
    for every other list of ends; fits: each output with what its walls and masks come to, which is worked out
    when it is edited, not in every tick.
    """

    further: dict[tuple[str, str], FurtherPicture] = field(default_factory=dict)
    ends: list[End] = field(default_factory=list)
    version: int = 0
    fits: list[tuple[Output, Array]] = field(default_factory=list)

    def configure(self, show: Show, before: Show | None) -> bool:
        """Take over what outputs show; whether a picture came or went."""
        wanted = _wanted(show)
        changed = list(self.further) != wanted
        if changed:
            self.further = {key: self._kept(key, number) for number, key in enumerate(wanted, 1)}
        if changed or before is None or before.outputs is not show.outputs:
            numbers = {key: number for number, key in enumerate(wanted, 1)}
            ends = [
                end_of(output, at, numbers.get((_look(show, output.look), _input(show, output.input)), 0))
                for at, output in enumerate(show.outputs)
            ]
            # What is dragged changes no plan.
            if ends != self.ends:
                self.ends, self.version = ends, self.version + 1
            there = {id(output): fit for output, fit in self.fits}
            self.fits = [
                (output, there[id(output)] if id(output) in there else fit_of(output))
                for output in show.outputs
            ]
        return changed

    def _kept(self, key: tuple[str, str], number: int) -> FurtherPicture:
        look, heard = key
        there = self.further.get(key)
        if there is not None and there.shown.number == number:
            return there
        return FurtherPicture(heard, ShownPicture(number, look))

    def leave(self, look: Look | None, seconds: float) -> None:
        """What plays goes over from a look: so does every picture of it."""
        for picture in self.further.values():
            if not picture.shown.fixed:
                picture.shown.leave(look, seconds)

    def cross(self, live: Array, dt: float) -> bool:
        """One tick further from one look to the next, in the pictures of what plays; whether it is over."""
        return any([picture.shown.cross(live, dt) for picture in self.further.values()])

    def compile(self, show: Show, index_of: Mapping[str, int], floats: int, moved: frozenset[str]) -> None:
        """Make the plans of all further pictures."""
        for picture in self.further.values():
            picture.shown.compile(show, index_of, floats, moved)

    @property
    def plans(self) -> list[Plan]:
        """Of the further pictures, from number 1 on."""
        return [picture.shown.plan for picture in self.further.values()]

    def blocks(
        self, live: Array, light: float, standing: Array, heard: Mapping[str, Heard]
    ) -> dict[int, Array]:
        """What a frame tells of outputs and further pictures, by block; see data.py.

        standing: the frame's picture block; heard: by input.
        """
        found = {}
        for at, (output, fit) in enumerate(self.fits):
            block = fit.copy()
            block[:4] = now_of(output, standing)
            found[FIRST_FIT + at] = block
        for picture in self.further.values():
            shown, sound = picture.shown, heard[picture.input]
            first = first_of(shown.number)
            found[uniforms_of(shown.number)] = shown.uniforms(live, sound.tick.context.beats, light)
            found[first + 1], found[first + 3] = sound.waveform, sound.stereo
            found[first + 2] = display_levels(sound.spectrum)
            own = shown.step(live, sound.tick)
            found |= {first_own(shown.number) + at: block for at, block in enumerate(own)}
        return found


def _wanted(show: Show) -> list[tuple[str, str]]:
    """(look, input) of each further picture, in the order of the outputs."""
    keys = [(_look(show, output.look), _input(show, output.input)) for output in show.outputs]
    return list(dict.fromkeys(key for key in keys if key != ("", MAIN)))[:MOST_FURTHER]


def _look(show: Show, look: str) -> str:
    """A fixed look that is there; empty for what plays."""
    return look if any(other.id == look for other in show.looks) else ""


def _input(show: Show, wanted: str) -> str:
    return wanted if any(other.id == wanted for other in show.inputs) else MAIN
