"""One look's passes, within a plan."""

from fulgura.core.kinds.drawn import Drawn, Effect, Source
from fulgura.core.kinds.layering import Layering
from fulgura.core.kinds.parameters import Parameter
from fulgura.core.kinds.ramps import Ramped
from fulgura.core.picture.images import image
from fulgura.core.picture.plan import ClipBinding, Image, PassInput
from fulgura.core.picture.plan_builder import NOTHING, PlanBuilder
from fulgura.core.show.looks import Layer, Look
from fulgura.core.show.part import Part


class LookCompiler:
    """One look's passes, within a plan."""

    def __init__(self, builder: PlanBuilder, look: Look) -> None:
        self.builder, self.look = builder, look
        self.layers = {layer.id: layer for layer in look.layers}
        self.drawn: dict[str, str] = {}
        """Layer id -> the target that holds its picture, of those drawn so far in this frame."""
        alone = {layer.id for layer in look.layers if layer.solo}
        alone |= {
            layer.id for layer in look.layers if any(holder in alone for holder in self._holders(layer))
        } | {holder for id in alone for holder in self._holders(self.layers[id])}
        self.shown = {layer.id for layer in look.layers if layer.visible and (not alone or layer.id in alone)}
        self.wanted = {named for layer in look.layers for named in self._references(layer)}

    def picture(self) -> str:
        """Draws the look; the target that it ends in."""
        target = self._stack("", self._name("canvas"))
        if target == NOTHING:
            target = self.builder.add(
                "copy.frag",
                None,
                [PassInput(uniform="u_source", target=NOTHING)],
                self.builder.target(self._name("canvas-0")),
            )
        for effect in self.look.finish:
            target = self._effect(effect, target)
        return target

    def _name(self, name: str) -> str:
        return name if self.look is self.builder.looks[0] else f"{name}-into"

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
                picture = self.builder.add(
                    "mask.frag",
                    layer.mix,
                    [PassInput(uniform="u_source", target=picture), mask],
                    self.builder.target(f"{layer.mix.id}-masked"),
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
                self.builder.target(name)
            target = self.builder.add(
                "layer.frag", layer.mix, below, name, kind=Layering.kinds[layer.mix.kind]
            )
            number += 1
        return target

    def _lies_as_it_is(self, mix: Part) -> bool:
        """Whether a layer with nothing below it is its own picture, whatever its blend: nothing is faded,
        placed or cut.
        """
        kind = Layering.kinds[mix.kind]
        return all(
            self.builder.fixed(mix, parameter, kind) is not None
            and (parameter.name == "blend" or mix.values[parameter.name] == parameter.default)
            for parameter in kind.parameters()
            if parameter.size and parameter.name not in ("masked_by", "inverted")
        )

    def _layer(self, layer: Layer, below: str) -> str:
        part = layer.source
        if part.kind == "group":
            picture = self._stack(layer.id, f"{part.id}-canvas")
            if (
                layer.id in self.wanted
            ):  # Its canvases are drawn over again next frame: a picture of its own can be kept.
                picture = self.builder.add(
                    "copy.frag",
                    part,
                    [PassInput(uniform="u_source", target=picture)],
                    self.builder.target(part.id),
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
        if of.history_offset == 0 and layer.id not in self.wanted and of.target is not None:
            return of.target
        return self.builder.add(
            "copy.frag", layer.source, [of], self.builder.target(layer.source.id, history=of.history_offset)
        )

    def _inputs(self, part: Part, kind: type[Drawn]) -> list[PassInput]:
        """What a part's shaders read beside its uniforms and what lies before it."""
        inputs = [PassInput(uniform=f"u_{name}", data=name) for name in kind.data_of(part.values)]
        return inputs + [
            self._reference(part, parameter.name)
            for parameter in kind.parameters()
            if parameter.type == "layer" and parameter.name != "row_of"
        ]

    def _given(self, part: Part, kind: type[Drawn]) -> dict[str, float]:
        """For each layer that a part may name, whether there is one."""
        return {
            f"u_{parameter.name}_given": float(part.values[parameter.name] in self.layers)
            for parameter in kind.parameters()
            if parameter.type == "layer"
        }

    def _moved(self, part: Part, kind: type[Drawn]) -> set[str]:
        """Choices and the like of a part that something moves."""
        names = (parameter.name for parameter in kind.parameters())
        return {name for name in names if f"{part.id}.{name}" in self.builder.moved}

    def _past(self, part: Part, kind: type[Source]) -> list[PassInput]:
        """Pictures of before of layers that a source names."""
        found = []
        for name, ago in kind.past_of(part.values, self._moved(part, kind)).items():
            now = self._reference(part, name)
            target = now.target or NOTHING
            for more in ago:
                offset = 0 if target == NOTHING else now.history_offset + more
                self.builder.target(target, history=offset)
                found.append(PassInput(uniform=f"u_{name}_{more}", target=target, history_offset=offset))
        return found

    def _ramp(self, part: Part, kind: type[Drawn]) -> tuple[list[PassInput], dict[str, float]]:
        """What a part takes its colours from instead of its own, and what its shaders are told of that."""
        if not issubclass(kind, Ramped):
            return [], {}
        if part.values["row_of"] in self.layers:
            row = self._reference(part, "row_of").model_copy(update={"uniform": "u_ramp"})
            return [row], {"u_ramped": 1.0}
        target = self.builder.ramp(part.values["ramp"])
        ramped = {"u_ramped": float(target != NOTHING)}
        return [PassInput(uniform="u_ramp", target=target)], ramped

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
        self.builder.delayed_inputs.append(f"{part.id}.{parameter}")
        return PassInput(uniform=uniform, target=self.builder.target(target, history=1), history_offset=1)

    def _last_target(self, layer: Layer) -> str:
        """Where a layer's picture will end up: its last effect that is on, else its source."""
        return next((effect.id for effect in reversed(layer.effects) if effect.on), layer.source.id)

    def _source(self, part: Part) -> str:
        kind: type[Source] = Source.kinds[part.kind]
        ramp, told = self._ramp(part, kind)
        told |= self._given(part, kind)
        mesh = kind.mesh_of(part.values, self._moved(part, kind))
        inputs = self._inputs(part, kind) + self._past(part, kind) + ramp
        if part.id in self.builder.own:
            inputs.append(PassInput(uniform="u_own", data=part.id))
        for number, key in enumerate(kind.images):
            self.builder.images[key] = image(key)
            inputs.append(PassInput(uniform=f"u_image{number or ''}", image=key))
        inputs += [
            self._taken(part, parameter)
            for parameter in kind.parameters()
            if parameter.type in ("picture", "clip", "camera")
        ]
        after = (
            kind.after
            if kind.after is not None
            and self.builder.fixed(
                part,
                next(parameter for parameter in kind.parameters() if parameter.name == kind.after[0]),
                kind,
            )
            is None
            else None
        )
        target = self.builder.target(
            f"{part.id}-sharp" if after else part.id,
            history=int(kind.trails),
            depth=mesh is not None and mesh.depth,
        )
        if kind.trails:
            self.builder.add(
                "trail.frag",
                part,
                [PassInput(uniform="u_previous", target=target, history_offset=1)],
                target,
                kind=kind,
            )
        self.builder.add(
            kind.shader,
            part,
            inputs,
            target,
            kind=kind,
            mesh=mesh,
            clear=mesh is not None and not kind.trails,
            fixed=told,
        )
        if not after:
            return target
        sharp, soft = [PassInput(uniform="u_source", target=target)], self.builder.target(part.id)
        return self.builder.add(after[1], part, sharp, soft, kind=kind)

    def _taken(self, part: Part, parameter: Parameter) -> PassInput:
        """What a parameter names of the show's own pictures and clips, or of a browser's cameras."""
        uniform, named = f"u_{parameter.name}", part.values[parameter.name]
        if parameter.type == "camera":
            camera = Image(name=f"camera {named}", key=named, width=1, height=1, form="camera")
            self.builder.images[camera.name] = camera
            return PassInput(uniform=uniform, image=camera.name)
        if parameter.type == "clip" and (clip := self.builder.clips.get(named)) is not None:
            self.builder.clip_bindings[part.id] = ClipBinding(
                name=part.id,
                key=clip.key,
                width=clip.width,
                height=clip.height,
                frames=clip.frames,
                block=self.builder.blocks[part.id],
            )
            return PassInput(uniform=uniform, clip=part.id)
        if parameter.type == "picture" and (stored := self.builder.pictures.get(named)) is not None:
            self.builder.images[stored.key] = stored
            return PassInput(uniform=uniform, image=stored.key)
        return PassInput(uniform=uniform, target=NOTHING)

    def _effect(self, part: Part, before: str) -> str:
        if not part.on:
            return before
        kind: type[Effect] = Effect.kinds[part.kind]
        target = self.builder.target(part.id, history=int(kind.feedback))
        ramp, told = self._ramp(part, kind)
        inputs = [PassInput(uniform="u_source", target=before), *self._inputs(part, kind), *ramp]
        inputs += [
            PassInput(
                uniform=f"u_past_{history_offset}",
                target=self.builder.target(before, history=history_offset),
                history_offset=history_offset,
            )
            for history_offset in kind.past
        ]
        stage = before
        for number, render_stage in enumerate(kind.stages):
            small = self.builder.target(f"{part.id}-{number}", divide=render_stage.divide)
            stage = self.builder.add(
                render_stage.shader, part, [PassInput(uniform="u_source", target=stage)], small, kind=kind
            )
        if kind.stages:
            inputs.append(PassInput(uniform="u_stage", target=stage))
        if kind.feedback:
            inputs.append(PassInput(uniform="u_previous", target=target, history_offset=1))
        return self.builder.add(
            kind.shader, part, inputs, target, kind=kind, fixed=told | self._given(part, kind)
        )
