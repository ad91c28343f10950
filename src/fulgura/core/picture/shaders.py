"""The texts of shaders: put together, with constants folded in."""

import re
from functools import lru_cache
from pathlib import Path

from fulgura.core import kinds, picture, safety


@lru_cache
def files() -> dict[str, Path]:
    """Every shader's file, by its name: they lie beside what uses them."""
    found: dict[str, Path] = {}
    for folder in (*kinds.__path__, *safety.__path__, *picture.__path__):
        for ending in ("frag", "vert", "glsl"):
            for path in sorted(Path(folder).rglob(f"*.{ending}")):
                if path.name in found:
                    raise RuntimeError(f"two shaders are called {path.name}")
                found[path.name] = path
    return found


def _read(name: str) -> str:
    return files()[name].read_text()


@lru_cache
def shader(name: str) -> str:
    """A shader's whole text: a fragment shader has the prelude first; ``#include "name"`` puts another file
    in.
    """
    if not name:  # The prelude alone, for a text that comes from elsewhere.
        return _read("prelude.glsl")
    text = _read(name)
    text = re.sub(r'^#include "([a-z_.]+)"$', lambda found: _read(found[1]), text, flags=re.MULTILINE)
    return _read("prelude.glsl") + text if name.endswith(".frag") else text


@lru_cache
def folded(name: str, constants: tuple[tuple[str, float], ...]) -> str:
    """A shader's text in which some of its uniforms are constants: what they rule out need not be drawn."""
    text, wanted = shader(name), dict(constants)

    def without(found: re.Match[str]) -> str:
        names = [name.strip() for name in found[1].split(",")]
        kept = [name for name in names if name not in wanted]
        fixed = "".join(f"const float {name} = {wanted[name]:.9f};\n" for name in names if name in wanted)
        return fixed + (f"uniform float {', '.join(kept)};" if kept else "")

    return re.sub(r"^uniform float ([^;]+);", without, text, flags=re.MULTILINE) if wanted else text


_ONCE = re.compile(r"^once (\w+ (\w+)) = ([^;]+);$", re.MULTILINE)


@lru_cache(512)
def once_a_vertex(vertex: str, fragment: str) -> tuple[str, str]:
    """Both texts of a pass over the whole picture; what the fragment shader wants worked out once and not for
    every pixel (``once float name = ...;``, of uniforms and such lines before it) is done by the vertex
    shader, for its three corners.
    """
    lines = list(_ONCE.finditer(fragment))
    if not lines:
        return vertex, fragment
    known = re.findall(r"^(?:uniform|const) (?:float|vec[23]) [^;]+;", fragment, re.MULTILINE)
    head = [*known, shader("once.glsl"), *(f"flat out {line[1]};" for line in lines)]
    version, body = vertex.split("\n", 1)
    body = body.replace(
        "void main() {", "void main() {\n" + "\n".join(f"  {line[2]} = {line[3]};" for line in lines), 1
    )
    return "\n".join([version, *head, body]), _ONCE.sub(r"flat in \1;", fragment)


@lru_cache(512)
def uniform_names(name: str, own: str | None = None) -> frozenset[str]:
    """The uniforms that a shader speaks of."""
    return frozenset(re.findall(r"\bu_\w+", shader(name) if own is None else own))
