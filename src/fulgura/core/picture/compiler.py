"""Looks are compiled in Python into draw plans; executors only draw them."""

from functools import lru_cache
from zlib import crc32

from fulgura.core.parameters import Kind
from fulgura.core.picture import kinds
from fulgura.core.picture.kinds import SHADERS, Effect, Source
from fulgura.core.picture.plan import Pass, PassInput, Plan, Target, Uniform
from fulgura.core.show.document import Look, Part

kinds.load()


@lru_cache
def shader(name: str) -> str:
    """A fragment shader's whole text, prelude first."""
    return (SHADERS / "prelude.glsl").read_text() + (SHADERS / name).read_text()


def compile_look(look: Look, places: dict[str, int]) -> Plan:
    """Compile a look.

    places: parameter address ("ring1.radius") -> index of its first float in the live parameter block.
    """
    return _Compiler(look, places).plan()


class _Compiler:
    def __init__(self, look: Look, places: dict[str, int]) -> None:
        self.look, self.places = look, places
        self.targets: list[Target] = []
        self.passes: list[Pass] = []
        self.gather: list[int] = []

    def plan(self) -> Plan:
        self.targets.append(Target(name="canvas"))
        shown = [layer for layer in self.look.layers if layer.visible]
        for layer in shown:
            target = self._source(layer.source)
            for effect in layer.effects:
                target = self._effect(effect, target)
            self._add("layer.frag", layer.mix, [PassInput(uniform="u_source", target=target)], "canvas", blend="over", clear=layer is shown[0])
        if not shown:
            self._add("copy.frag", None, [PassInput(uniform="u_source", target="canvas", previous=True)], "canvas")
            self.targets[0].history = True
        target = "canvas"
        for effect in self.look.finish:
            target = self._effect(effect, target)
        self._add("screen.frag", None, [PassInput(uniform="u_source", target=target)], "screen")
        fragments = {p.fragment: shader(p.fragment) for p in self.passes}
        plan = Plan(
            id=0, look=self.look.id, vertex=(SHADERS / "quad.vert").read_text(), fragments=fragments,
            targets=self.targets, passes=self.passes, floats=len(self.gather), gather=self.gather,
        )
        # The id names the content, so an executor that has this plan already does nothing.
        return plan.model_copy(update={"id": crc32(plan.model_dump_json().encode())})

    def _source(self, part: Part) -> str:
        kind: type[Source] = Source.kinds[part.kind]
        inputs = [PassInput(uniform=f"u_{block}", block=block) for block in kind.data]
        return self._add(kind.shader, part, inputs, self._target(part.id), kind=kind)

    def _effect(self, part: Part, before: str) -> str:
        if not part.on:
            return before
        kind: type[Effect] = Effect.kinds[part.kind]
        target = self._target(part.id, history=kind.feedback)
        inputs = [PassInput(uniform="u_source", target=before)]
        if kind.feedback:
            inputs.append(PassInput(uniform="u_previous", target=target, previous=True))
        return self._add(kind.shader, part, inputs, target, kind=kind)

    def _target(self, name: str, history: bool = False) -> str:
        self.targets.append(Target(name=name, history=history))
        return name

    def _add(self, fragment: str, part: Part | None, inputs: list[PassInput], target: str, *, kind: type[Kind] | None = None, blend: str = "replace", clear: bool = True) -> str:
        uniforms = []
        if part is not None:
            for parameter in (kind or kinds.Layering.kinds[part.kind]).parameters():
                first = self.places[f"{part.id}.{parameter.name}"]
                uniforms.append(Uniform(name=f"u_{parameter.name}", offset=len(self.gather), size=parameter.size))
                self.gather.extend(range(first, first + parameter.size))
        self.passes.append(Pass(name=part.id if part else fragment.removesuffix(".frag"), fragment=fragment, inputs=inputs, uniforms=uniforms, target=target, blend=blend, clear=clear))
        return target
