"""Python's executor of draw plans: moderngl on EGL. The browser's is desk/src/picture/executor.ts; both draw the same."""

import time

import moderngl
import numpy as np
from numpy.typing import NDArray

from fulgura.core.picture.plan import Pass, Plan
from fulgura.core.wire import BlockId, Packet

BLOCKS = {"waveform": BlockId.WAVEFORM, "spectrum": BlockId.SPECTRUM}


class Executor:
    """Draws frames of one plan at one size. Use in one thread; call close() at the end."""

    def __init__(self, width: int, height: int) -> None:
        self.size = (width, height)
        self.context = moderngl.create_context(standalone=True, backend="egl")
        self.screen = self.context.simple_framebuffer(self.size, components=4)
        self.plan: Plan | None = None
        self.owned: list = []
        self.blocks: dict[str, moderngl.Texture] = {}

    def load(self, plan: Plan) -> None:
        """Take a plan over; the pictures that feedback remembers start black."""
        self._release()
        self.plan = plan
        self.programs, self.arrays = {}, {}
        for name, fragment in plan.fragments.items():
            program = self.context.program(vertex_shader=plan.vertex, fragment_shader=fragment)
            self.programs[name], self.arrays[name] = program, self.context.vertex_array(program, [])
            self.owned += [program, self.arrays[name]]
        self.targets = {t.name: [self._target() for _ in range(2 if t.history else 1)] for t in plan.targets}

    def _target(self) -> tuple[moderngl.Texture, moderngl.Framebuffer]:
        texture = self.context.texture(self.size, 4, dtype="f2")
        texture.repeat_x = texture.repeat_y = False
        framebuffer = self.context.framebuffer([texture])
        framebuffer.clear()
        self.owned += [texture, framebuffer]
        return texture, framebuffer

    def draw(self, packet: Packet, steps: int = 1) -> None:
        """Draw one frame. steps: engine frames since the last draw, at least 1. Frames of another plan are left out."""
        if self.plan is None or packet.plan != self.plan.id:
            return
        values = packet.blocks[BlockId.UNIFORMS]
        for one in self.plan.passes:
            self._draw_pass(one, values, packet, steps)
        for pair in self.targets.values():
            pair.reverse()

    def _draw_pass(self, one: Pass, values: NDArray, packet: Packet, steps: int) -> None:
        program = self.programs[one.fragment]
        for unit, source in enumerate(one.inputs):
            if source.block:
                texture = self._block(source.block, packet)
            else:
                pair = self.targets[source.target]
                texture = pair[-1 if source.previous else 0][0]
            texture.use(unit)
            _set(program, source.uniform, unit)
        for uniform in one.uniforms:
            value = values[uniform.offset : uniform.offset + uniform.size]
            _set(program, uniform.name, float(value[0]) if uniform.size == 1 else tuple(float(v) for v in value))
        _set(program, "u_size", tuple(float(v) for v in self.size))
        _set(program, "u_steps", float(steps))
        framebuffer = self.screen if one.target == "screen" else self.targets[one.target][0][1]
        framebuffer.use()
        if one.blend == "over":
            if one.clear:
                framebuffer.clear()
            self.context.enable(moderngl.BLEND)
            self.context.blend_func = moderngl.ONE, moderngl.ONE_MINUS_SRC_ALPHA
        else:
            self.context.disable(moderngl.BLEND)
        self.arrays[one.fragment].render(moderngl.TRIANGLES, vertices=3)

    def _block(self, name: str, packet: Packet) -> moderngl.Texture:
        values = packet.blocks[BLOCKS[name]]
        half = values.astype(np.float16) if values.dtype != np.uint8 else (values / 255.0).astype(np.float16)
        texture = self.blocks.get(name)
        if texture is None or texture.width != len(half):
            texture = self.blocks[name] = self.context.texture((len(half), 1), 1, dtype="f2")
            texture.repeat_x = texture.repeat_y = False
        texture.write(half.tobytes())
        return texture

    def pixels(self) -> NDArray:
        """The screen, uint8, shape (height, width, 3), top row first."""
        raw = np.frombuffer(self.screen.read(components=3, alignment=1), np.uint8)
        return raw.reshape(self.size[1], self.size[0], 3)[::-1]

    def time_pass(self, fragment: str, repeats: int = 30) -> float:
        """Median milliseconds of one draw of a pass's shader (or of 'copy.frag'), for the bench."""
        one = next(p for p in self.plan.passes if p.fragment == fragment)
        packet = Packet(self.plan.id, 0, 0, 0.0, {BlockId.UNIFORMS: np.full(self.plan.floats, 0.5, "f4"), BlockId.WAVEFORM: np.zeros(512, "f4")})
        times = []
        for _ in range(repeats):
            self.context.finish()
            started = time.perf_counter()
            self._draw_pass(one, packet.blocks[BlockId.UNIFORMS], packet, 1)
            self.context.finish()
            times.append((time.perf_counter() - started) * 1000.0)
        return float(np.median(times))

    def _release(self) -> None:
        for thing in self.owned:
            thing.release()
        self.owned = []

    def close(self) -> None:
        self._release()
        self.context.release()


def _set(program: moderngl.Program, name: str, value: object) -> None:
    # A shader's compiler drops uniforms that do not reach its output.
    if name in program:
        program[name].value = value
