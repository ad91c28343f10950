"""Tries an own shader before a show gets it: does it compile, and is it fast enough to be played with?"""

import re
import time
from typing import Any

import moderngl
import numpy as np

from fulgura.core.kinds.own_shader import OwnShaderError, translate
from fulgura.core.picture.shaders import shader

SIZE = (160, 90)
SLOWEST_S = 0.25
"""For one picture of 160x90 in software: a hundred times what the demo's sources take."""
_MESSAGE = re.compile(r"^\s*\d+:(\d+)\(\d+\):\s*(error|warning):\s*(.*)$", re.MULTILINE)


def check(code: str) -> list[dict]:
    """What is wrong with it: rows of {line (0 for the whole), text}; none when it can be played.

    One that never ends never returns from here: call it in a process of its own, and give that a time.
    """
    try:
        translated = translate(code)
    except OwnShaderError as error:
        return [{"line": error.line, "text": str(error)}]
    context = moderngl.create_context(standalone=True, backend="egl")  # type: ignore[arg-type]
    try:
        try:
            program = context.program(
                vertex_shader=shader("quad.vert"), fragment_shader=shader("") + translated.text
            )
        except moderngl.Error as error:
            rows = [
                {"line": int(line), "text": text}
                for line, kind, text in _MESSAGE.findall(str(error))
                if kind == "error"
            ]
            return rows or [{"line": 0, "text": str(error).strip().splitlines()[-1]}]
        seconds = _seconds(context, program)
        if seconds <= SLOWEST_S:
            return []
        return [{"line": 0, "text": f"It is too slow: a small picture takes {1000 * seconds:.0f} ms."}]
    finally:
        context.release()


def _seconds(context: moderngl.Context, program: moderngl.Program) -> float:
    """What one picture takes, the first left out: then it is compiled for this processor."""
    for name, value in (
        ("u_size", tuple(map(float, SIZE))),
        ("u_time", 12.3),
        ("u_steps", 1.0),
        ("u_beats", 7.5),
    ):
        if name in program:
            uniform: Any = program[name]
            uniform.value = value
    texture = context.texture((64, 64), 4, np.full((64, 64, 4), 0.5, "f2").tobytes(), dtype="f2")
    texture.use(0)
    context.simple_framebuffer(SIZE, components=4, dtype="f2").use()
    array = context.vertex_array(program, [])
    for _ in range(2):
        started = time.perf_counter()
        array.render(moderngl.TRIANGLES, vertices=3)
        context.finish()
    return time.perf_counter() - started
