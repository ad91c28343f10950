"""Looks are compiled in Python into draw plans; executors only draw them."""

from collections.abc import Collection, Sequence
from math import floor
from zlib import crc32

from fulgura.core.kinds.drawn import Drawn, Effect, Mesh, Source
from fulgura.core.kinds.layering import Crossfade, Layering
from fulgura.core.kinds.parameters import Parameter
from fulgura.core.kinds.registry import Kind
from fulgura.core.picture.data import FIRST_OWN, SHARED
from fulgura.core.picture.images import image
from fulgura.core.picture.plan import Clip, Data, Image, Pass, PassInput, Plan, Target, Uniform
from fulgura.core.picture.shaders import folded, once_a_vertex, shader, uniform_names
from fulgura.core.show.looks import Layer, Look, Stored, StoredClip
from fulgura.core.show.part import Part

BEATS = "show.beats"
"""Where among the places the beats since the show began stand: the one live value that is no parameter."""
NOTHING = "nothing"
"""A target that is never drawn: what lies below the lowest layer."""


def made_parts(look: Look) -> list[Part]:
    """The sources of a look that have a data block of their own, in the order of the blocks."""
    return [layer.source for layer in look.layers if Source.kinds[layer.source.kind].own is not None]


def constant(parameter: Parameter, kind: type[Kind]) -> bool:
    """Whether shaders are made anew for its value while nothing moves it: a choice, a toggle, and what a kind
    says is dear.
    """
    return parameter.type in ("choice", "toggle") or parameter.name in (
        *getattr(kind, "folds", ()),
        *getattr(kind, "counts", ()),
    )


def compile_look(
    look: Look,
    places: dict[str, int],
    into: Look | None = None,
    crossing: Part | None = None,
    moved: Collection[str] = (),
    pictures: Sequence[Stored] = (),
    clips: Sequence[StoredClip] = (),
) -> Plan:
    """Compile a look.

    places: parameter address ("ring1.radius") -> index of its first float in the live parameter block. into:
    a look that this one goes over into, by what the part ``crossing`` says. moved: addresses of choices and
    the like that something moves. pictures, clips: those of the show.
    """
    return _Compiler([look] if into is None else [look, into], places, moved, pictures, clips).plan(crossing)


class _Compiler:
    def __init__(
        self,
        looks: Sequence[Look],
        places: dict[str, int],
        moved: Collection[str],
        pictures: Sequence[Stored],
        clips: Sequence[StoredClip],
    ) -> None:
        self.pictures = {
            one.id: Image(name=one.key, key=one.key, width=one.width, height=one.height, form="colour")
            for one in pictures
        }
        self.clips = {one.id: one for one in clips}
        self.looks, self.places, self.moved = looks, places, moved
        self.texts: dict[str, str] = {}
        self.targets: dict[str, Target] = {}
        self.passes: list[Pass] = []
        self.gather: list[int] = []
        self.late: list[str] = []
        self.images: dict[str, Image] = {}
        self.reels: dict[str, Clip] = {}
        own = [part for look in looks for part in made_parts(look)]
        self.blocks = {part.id: FIRST_OWN + number for number, part in enumerate(own)}
        needs = {one.id: Source.kinds[one.kind].own for one in own}
        self.own = {
            id: Data(name=id, block=self.blocks[id], form=need.form, width=need.width)
            for id, need in needs.items()
            if need.form != "number"
        }

    def plan(self, crossing: Part | None) -> Plan:
        self.target(NOTHING)
        pictures = [_LookCompiler(self, look).picture() for look in self.looks]
        last = pictures[0]
        if crossing is not None:
            ends = [
                PassInput(uniform=name, target=target)
                for name, target in zip(("u_source", "u_into"), pictures)
            ]
            last = self.add(
                "cross.frag", crossing, ends, self.target("crossing"), kind=Crossfade.kinds[crossing.kind]
            )
        self.add("screen.frag", None, [PassInput(uniform="u_source", target=last)], "screen")
        read = {i.data for p in self.passes for i in p.inputs} | {p.each for p in self.passes}
        plan = Plan(
            id=0,
            look=self.looks[-1].id,
            texts=self.texts,
            targets=list(self.targets.values()),
            passes=self.passes,
            floats=len(self.gather),
            gather=self.gather,
            data=[one for one in (*SHARED.values(), *self.own.values()) if one.name in read],
            images=list(self.images.values()),
            clips=list(self.reels.values()),
            late=self.late,
        )
        # The id names the content, so an executor that has this plan already does nothing.
        return plan.model_copy(update={"id": crc32(plan.model_dump_json().encode())})

    def target(self, name: str, history: int = 0, depth: bool = False, divide: int = 1) -> str:
        """Make a target, or see to it that one which is there already keeps so many of its pictures."""
        before = self.targets.get(name, Target(name=name))
        self.targets[name] = Target(
            name=name,
            history=max(history, before.history),
            depth=depth or before.depth,
            divide=max(divide, before.divide),
        )
        return name

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
    ) -> str:
        uniforms: list[Uniform] = []
        own: str | None = None
        constants: list[tuple[str, float]] = []
        vertex = mesh.vertex if mesh is not None else "quad.vert"
        if part is not None and kind is not None:
            own = kind.own_text(part.values) if issubclass(kind, Drawn) else None
            named = uniform_names(fragment, own) | uniform_names(vertex)
            for parameter in kind.parameters_of(part.values):
                if not parameter.size or f"u_{parameter.name}" not in named:
                    continue
                fixed = self.fixed(part, parameter, kind)
                if fixed is not None:
                    constants.append((f"u_{parameter.name}", fixed))
                else:
                    first = self.places[f"{part.id}.{parameter.name}"]
                    uniforms.append(
                        Uniform(name=f"u_{parameter.name}", offset=len(self.gather), size=parameter.size)
                    )
                    self.gather.extend(range(first, first + parameter.size))
            if "u_beats" in named:
                uniforms.append(Uniform(name="u_beats", offset=len(self.gather), size=1))
                self.gather.append(self.places[BEATS])
        texts = (
            self._folded(vertex, constants),
            self._folded(fragment, constants) if own is None else shader("") + own,
        )
        if mesh is None and own is None:
            texts = once_a_vertex(*texts)
        drawn = Pass(
            name=part.id if part else fragment.removesuffix(".frag"),
            fragment=fragment,
            vertex=vertex,
            vertex_text=self._text(vertex, texts[0]),
            fragment_text=self._text(fragment, texts[1]),
            inputs=inputs,
            uniforms=uniforms,
            target=target,
            clear=clear,
        )
        if mesh is not None:
            drawn = drawn.model_copy(
                update={
                    "vertices": mesh.vertices,
                    "instances": mesh.instances,
                    "each": part.id if mesh.each else "",
                    "blend": mesh.blend,
                    "depth": mesh.depth,
                }
            )
        self.passes.append(drawn)
        return target

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
        return folded(name, tuple(sorted(one for one in constants if one[0] in uniform_names(name))))

    def _text(self, name: str, text: str) -> str:
        """Keeps a shader's text; its key."""
        key = f"{name} {crc32(text.encode()):08x}"
        self.texts[key] = text
        return key


class _LookCompiler:
    """One look's passes, within a plan."""

    def __init__(self, whole: _Compiler, look: Look) -> None:
        self.whole, self.look = whole, look
        self.layers = {layer.id: layer for layer in look.layers}
        self.drawn: dict[str, str] = {}
        """Layer id -> the target that holds its picture, of those drawn so far in this frame."""
        alone = {layer.id for layer in look.layers if layer.solo}
        alone |= {layer.id for layer in look.layers if any(one in alone for one in self._holders(layer))} | {
            one for id in alone for one in self._holders(self.layers[id])
        }
        self.shown = {layer.id for layer in look.layers if layer.visible and (not alone or layer.id in alone)}
        self.wanted = {named for layer in look.layers for named in self._references(layer)}

    def picture(self) -> str:
        """Draws the look; the target that it ends in."""
        target = self._stack("", self._name("canvas"))
        if target == NOTHING:
            target = self.whole.add(
                "copy.frag",
                None,
                [PassInput(uniform="u_source", target=NOTHING)],
                self.whole.target(self._name("canvas-0")),
            )
        for effect in self.look.finish:
            target = self._effect(effect, target)
        return target

    def _name(self, name: str) -> str:
        return name if self.look is self.whole.looks[0] else f"{name}-into"

    def _holders(self, layer: Layer) -> list[str]:
        """The groups that a layer is in, innermost first."""
        found = []
        while layer.inside:
            found.append(layer.inside)
            layer = self.layers[layer.inside]
        return found

    def _references(self, layer: Layer) -> list[str]:
        return [
            named
            for part in layer.parts()
            for parameter in part.parameters()
            if parameter.type == "layer" and (named := part.values[parameter.name])
        ]

    def _stack(self, group: str, canvas: str) -> str:
        """The layers of a group (or, with an empty id, those of none) on each other; the target that they end
        in.
        """
        target, number = NOTHING, 0
        for layer in self.look.layers:
            if layer.inside != group or not (layer.id in self.shown or layer.id in self.wanted):
                continue
            picture = self._layer(layer, target)
            if layer.id not in self.shown:
                continue
            if layer.mix.values["mask"]:
                mask = self._reference(layer.mix, "mask")
                kind = Layering.kinds[layer.mix.kind]
                picture = self.whole.add(
                    "mask.frag",
                    layer.mix,
                    [PassInput(uniform="u_source", target=picture), mask],
                    self.whole.target(f"{layer.mix.id}-masked"),
                    kind=kind,
                )
            if target == NOTHING and self._lies_as_it_is(layer.mix):
                target = picture
                continue
            # Two canvases in turn: a pass cannot read what it writes.
            below = [
                PassInput(uniform="u_source", target=picture),
                PassInput(uniform="u_backdrop", target=target),
            ]
            name = f"{canvas}-{number % 2}"
            if number < 2:
                self.whole.target(name)
            target = self.whole.add("layer.frag", layer.mix, below, name, kind=Layering.kinds[layer.mix.kind])
            number += 1
        return target

    def _lies_as_it_is(self, mix: Part) -> bool:
        """Whether a layer with nothing below it is its own picture, whatever its blend: nothing is faded,
        placed or cut.
        """
        kind = Layering.kinds[mix.kind]
        return all(
            self.whole.fixed(mix, one, kind) is not None
            and (one.name == "blend" or mix.values[one.name] == one.default)
            for one in kind.parameters()
            if one.size and one.name not in ("masked_by", "inverted")
        )

    def _layer(self, layer: Layer, below: str) -> str:
        part = layer.source
        if part.kind == "group":
            picture = self._stack(layer.id, f"{part.id}-canvas")
            if (
                layer.id in self.wanted
            ):  # Its canvases are drawn over again next frame: a picture of its own can be kept.
                picture = self.whole.add(
                    "copy.frag",
                    part,
                    [PassInput(uniform="u_source", target=picture)],
                    self.whole.target(part.id),
                )
        elif part.kind == "so-far":
            picture = self._copy(layer, PassInput(uniform="u_source", target=below))
        elif part.kind == "again":
            picture = self._copy(layer, self._reference(layer.source, "source"))
        else:
            picture = self._source(part)
        for effect in layer.effects:
            picture = self._effect(effect, picture)
        self.drawn[layer.id] = picture
        return picture

    def _copy(self, layer: Layer, of: PassInput) -> str:
        """A layer that is nothing but another picture: that very one, where it is there and nobody needs it
        to be kept.
        """
        if of.ago == 0 and layer.id not in self.wanted:
            return of.target
        return self.whole.add(
            "copy.frag", layer.source, [of], self.whole.target(layer.source.id, history=of.ago)
        )

    def _inputs(self, part: Part, kind: type[Drawn]) -> list[PassInput]:
        """What a part's shaders read beside its uniforms and what lies before it."""
        inputs = [PassInput(uniform=f"u_{name}", data=name) for name in kind.data_of(part.values)]
        return inputs + [
            self._reference(part, parameter.name)
            for parameter in kind.parameters()
            if parameter.type == "layer"
        ]

    def _reference(self, part: Part, parameter: str) -> PassInput:
        """The picture of a layer that a part names: this frame's if it is there already, else the
        last one.
        """
        uniform, named = f"u_{parameter}", self.layers.get(part.values[parameter])
        if named is None:
            return PassInput(uniform=uniform, target=NOTHING)
        if named.id in self.drawn:
            return PassInput(uniform=uniform, target=self.drawn[named.id])
        target = self._last_target(named)
        self.whole.late.append(f"{part.id}.{parameter}")
        return PassInput(uniform=uniform, target=self.whole.target(target, history=1), ago=1)

    def _last_target(self, layer: Layer) -> str:
        """Where a layer's picture will end up: its last effect that is on, else its source."""
        return next((effect.id for effect in reversed(layer.effects) if effect.on), layer.source.id)

    def _source(self, part: Part) -> str:
        kind: type[Source] = Source.kinds[part.kind]
        inputs = self._inputs(part, kind)
        if part.id in self.whole.own:
            inputs.append(PassInput(uniform="u_own", data=part.id))
        for number, key in enumerate(kind.images):
            self.whole.images[key] = image(key)
            inputs.append(PassInput(uniform=f"u_image{number or ''}", image=key))
        inputs += [
            self._taken(part, one) for one in kind.parameters() if one.type in ("picture", "clip", "camera")
        ]
        after = (
            kind.after
            if kind.after is not None
            and self.whole.fixed(
                part, next(one for one in kind.parameters() if one.name == kind.after[0]), kind
            )
            is None
            else None
        )
        target = self.whole.target(
            f"{part.id}-sharp" if after else part.id,
            history=int(kind.trails),
            depth=kind.mesh is not None and kind.mesh.depth,
        )
        if kind.trails:
            self.whole.add(
                "trail.frag", part, [PassInput(uniform="u_previous", target=target, ago=1)], target, kind=kind
            )
        self.whole.add(
            kind.shader,
            part,
            inputs,
            target,
            kind=kind,
            mesh=kind.mesh,
            clear=kind.mesh is not None and not kind.trails,
        )
        return (
            self.whole.add(
                after[1],
                part,
                [PassInput(uniform="u_source", target=target)],
                self.whole.target(part.id),
                kind=kind,
            )
            if after
            else target
        )

    def _taken(self, part: Part, parameter: Parameter) -> PassInput:
        """What a parameter names of the show's own pictures and clips, or of a browser's cameras."""
        uniform, named = f"u_{parameter.name}", part.values[parameter.name]
        if parameter.type == "camera":
            camera = Image(name=f"camera {named}", key=named, width=1, height=1, form="camera")
            self.whole.images[camera.name] = camera
            return PassInput(uniform=uniform, image=camera.name)
        if parameter.type == "clip" and (clip := self.whole.clips.get(named)) is not None:
            self.whole.reels[part.id] = Clip(
                name=part.id,
                key=clip.key,
                width=clip.width,
                height=clip.height,
                frames=clip.frames,
                block=self.whole.blocks[part.id],
            )
            return PassInput(uniform=uniform, clip=part.id)
        if parameter.type == "picture" and (stored := self.whole.pictures.get(named)) is not None:
            self.whole.images[stored.key] = stored
            return PassInput(uniform=uniform, image=stored.key)
        return PassInput(uniform=uniform, target=NOTHING)

    def _effect(self, part: Part, before: str) -> str:
        if not part.on:
            return before
        kind: type[Effect] = Effect.kinds[part.kind]
        target = self.whole.target(part.id, history=int(kind.feedback))
        inputs = [PassInput(uniform="u_source", target=before), *self._inputs(part, kind)]
        inputs += [
            PassInput(uniform=f"u_past_{ago}", target=self.whole.target(before, history=ago), ago=ago)
            for ago in kind.past
        ]
        stage = before
        for number, one in enumerate(kind.stages):
            small = self.whole.target(f"{part.id}-{number}", divide=one.divide)
            stage = self.whole.add(
                one.shader, part, [PassInput(uniform="u_source", target=stage)], small, kind=kind
            )
        if kind.stages:
            inputs.append(PassInput(uniform="u_stage", target=stage))
        if kind.feedback:
            inputs.append(PassInput(uniform="u_previous", target=target, ago=1))
        return self.whole.add(kind.shader, part, inputs, target, kind=kind)
