"""Python's executor of draw plans: moderngl on EGL. The browser's is desk/src/picture/executor.ts; both draw
the same.
"""

import time
from pathlib import Path
from typing import Any

import moderngl
import numpy as np
from numpy.typing import NDArray

from fulgura.core.kinds import ring
from fulgura.core.picture.images import texels
from fulgura.core.picture.plan import ClipBinding, Data, Image, Pass, Plan, Target
from fulgura.core.wire import BlockId, Packet
from fulgura.media.intra_clip import IntraClips, NoIntraClip

FORMS = {
    "level": (1, "f1", "u1"),
    "wave": (1, "f2", "f2"),
    "cells": (4, "u2", "u2"),
    "rows": (4, "f4", "f4"),
    "ring": (1, "f1", "u1"),
}
"""Of each form of data: components, moderngl's type, numpy's type."""
SRGB8_ALPHA8 = 0x8C43


class Executor:
    """Draws frames of one plan at one size. Use in one thread; call close() at the end."""

    def __init__(self, width: int, height: int, pictures: Path | None = None) -> None:
        """pictures: the folder of those that were taken in."""
        self.size, self.pictures = (width, height), pictures
        self.intra_clips = IntraClips(pictures) if pictures is not None else None
        self.shown: dict[str, tuple[str, int]] = {}
        """Of each clip's texture: the clip and the picture that are in it."""
        # moderngl's stub calls its settings a dict; they are keywords.
        self.context = moderngl.create_context(standalone=True, backend="egl")  # type: ignore[arg-type]
        self.screen = self.context.simple_framebuffer(self.size, components=4)
        self.plan: Plan | None = None
        self.programs: dict[tuple[str, str], tuple[moderngl.Program, moderngl.VertexArray]] = {}
        self.targets: dict[str, list[tuple[moderngl.Texture, moderngl.Framebuffer]]] = {}
        self.drawn, self.clears, self.scale = False, 0.0, (1.0, 1.0)
        self.made: dict[str, Target] = {}
        self.textures: dict[str, moderngl.Texture] = {}
        self.newest: dict[str, int] = {}
        """Of each ring the number of its newest line."""
        self.failed: list[str] = []
        """What the driver said of shaders that it could not make."""

    def load(self, plan: Plan) -> None:
        """Take a plan over. What it has in common with the last one stays, so that feedback goes on where it
        was.
        """
        wanted = {(plan.texts[p.vertex_text], plan.texts[p.fragment_text]) for p in plan.passes}
        for text in wanted - self.programs.keys():
            try:
                program = self.context.program(vertex_shader=text[0], fragment_shader=text[1])
            except moderngl.Error as error:
                self.failed.append(str(error))  # It leaves its own place dark; all else is drawn.
                continue
            self.programs[text] = program, self.context.vertex_array(program, [])
        for text in self.programs.keys() - wanted:
            for thing in self.programs.pop(text):
                thing.release()
        targets = {target.name: target for target in plan.targets}
        if plan.scale != self.scale:
            self.scale = plan.scale
            for name in [name for name, made in self.made.items() if made.size is None]:
                self._drop(name)
        for name in [name for name, made in self.made.items() if targets.get(name) != made]:
            self._drop(name)
        for name, target in targets.items():
            if name not in self.made:
                self.made[name] = target
                self.targets[name] = [self._target(target) for _ in range(target.history + 1)]
        needed = {d.name for d in plan.data} | {i.name for i in plan.images} | {c.name for c in plan.clips}
        for name in self.textures.keys() - needed:
            self.textures.pop(name).release()
            self.shown.pop(name, None)
            self.newest.pop(name, None)
        for image in plan.images:
            self._image(image)
        self.plan = plan

    def _target(self, target: Target) -> tuple[moderngl.Texture, moderngl.Framebuffer]:
        size = target.pixels(self.size, self.scale)
        texture = self.context.texture(size, 4, dtype="f4" if target.exact else "f2")
        if target.exact:
            texture.filter = moderngl.NEAREST, moderngl.NEAREST
        texture.repeat_x = texture.repeat_y = False
        framebuffer = self.context.framebuffer(
            [texture], self.context.depth_renderbuffer(size) if target.depth else None
        )
        framebuffer.clear()
        return texture, framebuffer

    def _drop(self, name: str) -> None:
        del self.made[name]
        for texture, framebuffer in self.targets.pop(name):
            if framebuffer.depth_attachment is not None:
                framebuffer.depth_attachment.release()
            framebuffer.release()
            texture.release()

    def draw(self, packet: Packet, steps: int = 1) -> None:
        """Draw one frame. steps: engine frames since the last draw, at least 1. Frames of another plan are
        left out.
        """
        if self.plan is None or _id_of(packet, self.plan.number) != self.plan.frames_id:
            return
        frozen, clears = packet.blocks.get(self.plan.standing, (0.0, self.clears))[:2]
        if frozen and self.drawn and clears == self.clears:
            return  # What is cleared while it stands still is drawn once more.
        if self.drawn and clears != self.clears:
            for name, rows in self.targets.items():
                for _, framebuffer in rows if not self.made[name].lasting else ():
                    framebuffer.clear()
        self.drawn, self.clears = True, clears
        values = packet.blocks[self.plan.uniforms]
        counts = self._upload(self.plan, packet)
        for render_pass in self.plan.passes:
            self._draw_pass(self.plan, render_pass, values, packet.time, steps, counts)
        for kept in self.targets.values():
            kept.insert(0, kept.pop())  # What was just drawn is now one picture ago.

    def _draw_pass(
        self,
        plan: Plan,
        render_pass: Pass,
        values: NDArray,
        seconds: float,
        steps: int,
        counts: dict[str, int],
    ) -> None:
        made = self.programs.get((plan.texts[render_pass.vertex_text], plan.texts[render_pass.fragment_text]))
        if made is None:
            return
        program, array = made
        for unit, read in enumerate(render_pass.inputs):
            texture = (
                self.textures[read.data or read.image or read.clip or ""]
                if read.target is None
                else self.targets[read.target][read.history_offset][0]
            )
            texture.use(unit)
            _set(program, read.uniform, unit)
            if read.data in self.newest:
                _set(program, f"{read.uniform}_newest", float(self.newest[read.data] % ring.LINES))
        for uniform in render_pass.uniforms:
            value = values[uniform.offset : uniform.offset + uniform.size]
            _set(
                program,
                uniform.name,
                float(value[0]) if uniform.size == 1 else tuple(float(v) for v in value),
            )
        _set(program, "u_steps", float(steps))
        _set(program, "u_time", seconds)
        framebuffer = (
            self.screen if render_pass.target == "screen" else self.targets[render_pass.target][0][1]
        )
        framebuffer.use()
        _set(program, "u_size", tuple(float(v) for v in framebuffer.size))
        if render_pass.clear:
            framebuffer.clear()
        self.context.enable_only(
            (moderngl.BLEND if render_pass.blend != "none" else 0)
            | (moderngl.DEPTH_TEST if render_pass.depth else 0)
        )
        if render_pass.blend != "none":
            self.context.blend_func = (
                moderngl.ONE,
                moderngl.ONE if render_pass.blend == "add" else moderngl.ONE_MINUS_SRC_ALPHA,
            )
        array.render(
            moderngl.TRIANGLES,
            vertices=render_pass.vertices,
            instances=counts[render_pass.each] if render_pass.each else render_pass.instances,
        )

    def _upload(self, plan: Plan, packet: Packet) -> dict[str, int]:
        """Put what this frame brings into its textures; how many texels each data block has."""
        for clip in plan.clips:
            self._clip(clip, int(packet.blocks[clip.block][0]))
        return {data_block.name: self._data(data_block, packet) for data_block in plan.data}

    def _data(self, data_block: Data, packet: Packet) -> int:
        """Put a data block into its texture; how many texels it has."""
        if data_block.form == "ring":
            return self._ring(data_block.name, ring.read(packet.blocks[data_block.block]))
        components, kind, dtype = FORMS[data_block.form]
        values = packet.blocks[data_block.block].astype(dtype)
        size = data_block.width, len(values) // (data_block.width * components)
        texture = self.textures.get(data_block.name)
        # The same name may be another source's in the next plan.
        if texture is None or (texture.size, texture.components, texture.dtype) != (size, components, kind):
            if texture is not None:
                texture.release()
            texture = self.textures[data_block.name] = self.context.texture(size, components, dtype=kind)
            texture.repeat_x = texture.repeat_y = False
            if data_block.form in ("cells", "rows"):
                texture.filter = moderngl.NEAREST, moderngl.NEAREST
        texture.write(values.tobytes())
        return size[0] * size[1]

    def _ring(self, name: str, block: ring.Read) -> int:
        """Add the newest lines to those of before; what was missed is as the oldest of them."""
        width = block.lines.shape[1]
        texture = self.textures.get(name)
        if texture is None or texture.size != (width, ring.LINES):
            if texture is not None:
                texture.release()
            texture = self.context.texture((width, ring.LINES), 1, bytes(width * ring.LINES), alignment=1)
            texture.repeat_x = False
            self.textures[name], self.newest[name] = texture, block.number
        new = min(ring.LINES, max(len(block.lines), (block.number - self.newest[name]) % 2**32 + 1))
        for back in range(new):
            line = block.lines[min(back, len(block.lines) - 1)]
            at = (block.number - back) % ring.LINES
            texture.write(line.tobytes(), viewport=(0, at, width, 1), alignment=1)
        self.newest[name] = block.number
        return width * ring.LINES

    def _clip(self, binding: ClipBinding, number: int) -> None:
        """Show one picture of a clip; where that cannot be read, what was there stays."""
        texture = self.textures.get(binding.name)
        if texture is None or texture.size != (binding.width, binding.height):
            if texture is not None:
                texture.release()
            texture = self.textures[binding.name] = self.context.texture(
                (binding.width, binding.height),
                4,
                bytes(binding.width * binding.height * 4),
                alignment=1,
                internal_format=SRGB8_ALPHA8,
            )
            texture.repeat_x = texture.repeat_y = False
        if self.intra_clips is None or self.shown.get(binding.name) == (binding.key, number):
            return
        try:
            pixels = self.intra_clips.intra_clip(binding.key).texels(number)
        except NoIntraClip:
            return
        if pixels.shape[:2] == (binding.height, binding.width):
            texture.write(pixels.tobytes())
            self.shown[binding.name] = binding.key, number

    def _image(self, image: Image) -> None:
        """Put a fixed picture into its texture, once."""
        if image.name in self.textures:
            return
        data, size = self._texels_of(image), (image.width, image.height)
        if data is None:
            size, data = (1, 1), bytes(4)  # It is gone: nothing is shown in its place.
        if image.form == "level":
            texture = self.context.texture(size, 1, data, alignment=1)
        else:
            texture = self.context.texture(size, 4, data, alignment=1, internal_format=SRGB8_ALPHA8)
        texture.repeat_x = texture.repeat_y = False
        self.textures[image.name] = texture

    def _texels_of(self, image: Image) -> bytes | None:
        """A fixed picture's texels; None for what is not here: a browser's camera, a file that is gone."""
        if image.form == "level":
            return texels(image.key)
        if self.pictures is None or image.form != "colour":
            return None
        file = self.pictures / f"{image.key}.rgba"
        return file.read_bytes() if file.is_file() else None

    def pixels(self, components: int = 3) -> NDArray:
        """The screen, uint8, shape (height, width, components), top row first; a fourth is alpha, and the
        others are premultiplied by it.
        """
        raw = np.frombuffer(self.screen.read(components=components, alignment=1), np.uint8)
        return raw.reshape(self.size[1], self.size[0], components)[::-1]

    def target_values(self, name: str) -> NDArray:
        """What a target holds now, after the last draw: float32, shape (height, width, 4), bottom
        row first.
        """
        # Targets took a turn since: what was drawn last is the first of before.
        kept = self.targets[name]
        framebuffer = kept[1 % len(kept)][1]
        raw = np.frombuffer(framebuffer.read(components=4, dtype="f4", alignment=1), np.float32)
        return raw.reshape(framebuffer.size[1], framebuffer.size[0], 4)

    def time_pass(self, name: str, packet: Packet, repeats: int = 30) -> float:
        """Median milliseconds of one draw of a pass, by its fragment shader's name, for the bench."""
        plan = self._loaded()
        render_pass = next(p for p in plan.passes if p.fragment == name)
        return float(np.median(self._times(plan, render_pass, packet, self._upload(plan, packet), repeats)))

    def time_passes(self, packet: Packet, repeats: int = 12) -> list[float]:
        """Least milliseconds of one draw of each pass of the plan, in order, for the bench."""
        plan = self._loaded()
        counts = self._upload(plan, packet)
        return [min(self._times(plan, render_pass, packet, counts, repeats)) for render_pass in plan.passes]

    def _loaded(self) -> Plan:
        assert self.plan is not None, "a plan is loaded before it is measured"
        return self.plan

    def _times(
        self, plan: Plan, render_pass: Pass, packet: Packet, counts: dict[str, int], repeats: int
    ) -> list[float]:
        times = []
        for _ in range(repeats):
            self.context.finish()
            started = time.perf_counter()
            self._draw_pass(plan, render_pass, packet.blocks[plan.uniforms], packet.time, 1, counts)
            self.context.finish()
            times.append((time.perf_counter() - started) * 1000.0)
        return times

    def close(self) -> None:
        for name in list(self.made):
            self._drop(name)
        if self.intra_clips is not None:
            self.intra_clips.close()
        self.context.release()


def _id_of(packet: Packet, number: int) -> int:
    """The id of the plan by which a packet's picture of this number is drawn."""
    if number == 0:
        return packet.plan
    ids = packet.blocks.get(BlockId.PICTURES, ())
    return int(ids[number - 1]) if number <= len(ids) else 0


def _set(program: moderngl.Program, name: str, value: object) -> None:
    # A shader's compiler drops uniforms that do not reach its output.
    if name in program:
        uniform: Any = program[name]
        uniform.value = value
