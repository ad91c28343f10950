"""Puts a plan together, pass by pass."""

from collections.abc import Collection, Mapping, Sequence, Set
from math import floor
from typing import Any
from zlib import crc32

from fulgura.core.kinds.drawn import Drawn, Mesh, Source
from fulgura.core.kinds.parameters import Parameter
from fulgura.core.kinds.ramps import TEXELS, Ramp
from fulgura.core.kinds.registry import Kind
from fulgura.core.picture.data import first_own, shared_of, uniforms_of
from fulgura.core.picture.plan import ClipBinding, Data, Image, Pass, PassInput, Plan, Target, Uniform
from fulgura.core.picture.shaders import folded, once_a_vertex, shader, uniform_names
from fulgura.core.show.looks import Look, NamedRamp, Stored, StoredClip
from fulgura.core.show.part import Part

BEATS, LIGHT = "show.beats", "show.light"
"""What shaders can read that is no parameter: the beats since the show began, as u_beats, and the light of
the whole picture, 0 in a blackout, as u_light. They stand behind the live block.
"""
NOTHING = "nothing"
"""A target that is never drawn: what lies below the lowest layer."""
_SHOW_WIDE = {"u_beats": BEATS, "u_light": LIGHT}


def readable(index_of: Mapping[str, int], floats: int) -> dict[str, int]:
    """Address -> index of all that shaders can read: the live block, which has so many floats, and what
    stands behind it.
    """
    return {**index_of, BEATS: floats, LIGHT: floats + 1}


def provided_parts(look: Look) -> list[Part]:
    """The sources of a look that have a data block of their own, in the order of the blocks."""
    return [layer.source for layer in look.layers if Source.kinds[layer.source.kind].own is not None]


def constant(parameter: Parameter, kind: type[Kind]) -> bool:
    """Whether shaders are made anew for its value while nothing moves it: a choice, a toggle, and what a kind
    says is expensive.
    """
    if parameter.type in ("choice", "toggle"):
        return True
    return parameter.name in (*getattr(kind, "specialised", ()), *getattr(kind, "counts", ()))


class PlanBuilder:
    """The targets, passes and texts of a plan so far.

    number: which of the pictures that are drawn at once it is. looks: what is drawn; index_of: parameter
    address -> index in the live block; moved: addresses of choices and the like that something moves;
    pictures, clips, ramps: those of the show.
    """

    def __init__(
        self,
        looks: Sequence[Look],
        index_of: Mapping[str, int],
        moved: Collection[str],
        pictures: Sequence[Stored],
        clips: Sequence[StoredClip],
        number: int = 0,
        ramps: Sequence[NamedRamp] = (),
    ) -> None:
        self.pictures = {
            picture.id: Image(
                name=picture.key, key=picture.key, width=picture.width, height=picture.height, form="colour"
            )
            for picture in pictures
        }
        self.clips = {clip.id: clip for clip in clips}
        self.ramps = {ramp.id: ramp.part for ramp in ramps}
        self.looks, self.index_of, self.moved = looks, index_of, moved
        self.texts: dict[str, str] = {}
        self.targets: dict[str, Target] = {}
        self.passes: list[Pass] = []
        self.gather: list[int] = []
        self.delayed_inputs: list[str] = []
        self.images: dict[str, Image] = {}
        self.clip_bindings: dict[str, ClipBinding] = {}
        self.number, self.end, self.tally = number, NOTHING, ""
        own = [part for look in looks for part in provided_parts(look)]
        self.blocks = {part.id: first_own(number) + at for at, part in enumerate(own)}
        self.own: dict[str, Data] = {}
        for part in own:
            need = Source.kinds[part.kind].own
            if need is not None and need.form != "number":
                block = self.blocks[part.id]
                self.own[part.id] = Data(name=part.id, block=block, form=need.form, width=need.width)
        self.target(NOTHING)

    def plan(self) -> Plan:
        """The plan. Its id names its content, so that an executor that has it already does nothing."""
        read = {i.data for p in self.passes for i in p.inputs} | {p.each for p in self.passes}
        shared = shared_of(self.number)
        plan = Plan(
            id=0,
            look=self.looks[-1].id,
            texts=self.texts,
            targets=list(self.targets.values()),
            passes=self.passes,
            floats=len(self.gather),
            gather=self.gather,
            data=[data for data in (*shared.values(), *self.own.values()) if data.name in read],
            images=list(self.images.values()),
            clips=list(self.clip_bindings.values()),
            delayed_inputs=self.delayed_inputs,
            uniforms=uniforms_of(self.number),
            number=self.number,
            end=self.end,
            tally=self.tally,
        )
        return plan.model_copy(update={"id": crc32(plan.model_dump_json().encode())})

    def target(self, name: str, history: int = 0, depth: bool = False, divide: int = 1, **more: Any) -> str:
        """Make a target, or see to it that one which is there already keeps so many of its pictures. more:
        what else a new one is, see Target.
        """
        before = self.targets.get(name, Target(name=name, **more))
        self.targets[name] = before.model_copy(
            update={
                "history": max(history, before.history),
                "depth": depth or before.depth,
                "divide": max(divide, before.divide),
            }
        )
        return name

    def ramp(self, id: str) -> str:
        """Draws one of the show's ramps, once; the target that holds it. Nothing for one that is gone."""
        part = self.ramps.get(id)
        if part is None:
            return NOTHING
        if part.id not in self.targets:
            kind = Ramp.kinds[part.kind]
            self.add("ramp.frag", part, [], self.target(part.id, size=(TEXELS, 1)), kind=kind)
        return part.id

    def add(
        self,
        fragment: str,
        part: Part | None,
        inputs: list[PassInput],
        target: str,
        *,
        kind: type[Kind] | None = None,
        mesh: Mesh | None = None,
        clear: bool = False,
        fixed: Mapping[str, float] | None = None,
    ) -> str:
        """Add a pass that draws a part into a target; returns the target. fixed: constants of its shaders."""
        vertex = mesh.vertex if mesh is not None else "quad.vert"
        drawn = kind is not None and issubclass(kind, Drawn) and part is not None
        own = kind.own_text(part.values) if drawn else None  # type: ignore[union-attr]
        named = uniform_names(fragment, own) | uniform_names(vertex)
        known = {name: value for name, value in (fixed or {}).items() if name in named}
        uniforms, constants = self._uniforms(part, kind, named - known.keys())
        constants += known.items()
        texts = (
            self._folded(vertex, constants),
            self._folded(fragment, constants) if own is None else shader("") + own,
        )
        if mesh is None and own is None:
            texts = once_a_vertex(*texts)
        placed = (
            {
                "vertices": mesh.vertices,
                "instances": self._instances(mesh, part, kind),
                "each": part.id if mesh.each and part is not None else "",
                "blend": mesh.blend,
                "depth": mesh.depth,
                "thinned": bool(mesh.counted),
            }
            if mesh is not None
            else {}
        )
        self.passes.append(
            Pass(
                name=part.id if part else fragment.removesuffix(".frag"),
                fragment=fragment,
                vertex=vertex,
                vertex_text=self._text(vertex, texts[0]),
                fragment_text=self._text(fragment, texts[1]),
                inputs=inputs,
                uniforms=uniforms,
                target=target,
                clear=clear,
                **placed,
            )
        )
        return target

    def _instances(self, mesh: Mesh, part: Part | None, kind: type[Kind] | None) -> int:
        """How many copies of a mesh are drawn."""
        if not mesh.counted or part is None or kind is None:
            return mesh.instances
        count = next(parameter for parameter in kind.parameters() if parameter.name == mesh.counted)
        fixed = self.fixed(part, count, kind)
        return int(fixed if fixed is not None else count.high or 1)

    def _uniforms(
        self, part: Part | None, kind: type[Kind] | None, named: Set[str]
    ) -> tuple[list[Uniform], list[tuple[str, float]]]:
        """The uniforms of a pass, and what is a constant instead, of those that its shaders name."""
        uniforms: list[Uniform] = []
        constants: list[tuple[str, float]] = []
        for parameter in kind.parameters_of(part.values) if kind is not None and part is not None else ():
            name = f"u_{parameter.name}"
            if part is None or kind is None or not parameter.size or name not in named:
                continue
            fixed = self.fixed(part, parameter, kind)
            if fixed is not None:
                constants.append((name, fixed))
            else:
                first = self.index_of[f"{part.id}.{parameter.name}"]
                uniforms.append(self._uniform(name, first, parameter.size))
        for name, address in _SHOW_WIDE.items():
            if name in named:
                uniforms.append(self._uniform(name, self.index_of[address], 1))
        return uniforms, constants

    def _uniform(self, name: str, first: int, size: int) -> Uniform:
        offset = len(self.gather)
        self.gather.extend(range(first, first + size))
        return Uniform(name=name, offset=offset, size=3 if size == 3 else 1)

    def fixed(self, part: Part, parameter: Parameter, kind: type[Kind]) -> float | None:
        """The value that a parameter has as a constant of the shader; None when it is a uniform."""
        value = part.values[parameter.name]
        if not constant(parameter, kind) or f"{part.id}.{parameter.name}" in self.moved:
            return None
        if parameter.name in getattr(kind, "counts", ()):
            return float(floor(value + 0.5))
        if parameter.type == "number" and value != parameter.default:
            return None
        return float(parameter.choices.index(value)) if parameter.type == "choice" else float(value)

    def _folded(self, name: str, constants: list[tuple[str, float]]) -> str:
        known = uniform_names(name)
        return folded(name, tuple(sorted(constant for constant in constants if constant[0] in known)))

    def _text(self, name: str, text: str) -> str:
        """Keeps a shader's text; its key."""
        key = f"{name} {crc32(text.encode()):08x}"
        self.texts[key] = text
        return key
