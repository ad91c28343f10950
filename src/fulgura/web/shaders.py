"""Own shaders are tried in a process of their own: one that never ends ends with it."""

import tempfile
from pathlib import Path

import orjson
from pydantic import BaseModel

from fulgura.web.children import ChildFailed, run

LONGEST_S = 12.0
"""Starting takes most of it."""


class ShaderFault(BaseModel):
    line: int
    text: str


async def check(code: str) -> list[ShaderFault]:
    """What is wrong with a shader's text; empty when it can be played."""
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "shader.glsl"
        file.write_text(code)
        try:
            return [
                ShaderFault(**row)
                for row in orjson.loads(await run("check-shader", str(file), longest_s=LONGEST_S))
            ]
        except ChildFailed as error:
            return [
                ShaderFault(
                    line=0,
                    text=(
                        "It never ends, or takes far too long." if "longer than" in str(error) else str(error)
                    ),
                )
            ]
