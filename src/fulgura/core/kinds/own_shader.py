"""Own shaders: a GLSL ES fragment that someone wrote; the comments behind its uniforms make parameters of
them.

    uniform float speed;   // 0.1 .. 4 = 1  How fast it turns
    uniform vec3 light;    // #ff8800  Its colour

A number without such a comment goes from 0 to 1. Besides there are u_size (pixels), u_time (seconds),
u_beats, v_uv (0..1), place() (units of half the height), u_waveform, u_stereo and u_spectrum; an effect's
picture is u_source. What it writes into o_colour is linear light, premultiplied by alpha.
"""

import re
from dataclasses import dataclass
from functools import lru_cache

from fulgura.core.kinds.parameters import Parameter

NUMBERS, COLOURS = 8, 3
"""How many uniforms of each can be parameters."""
KNOWN = ("u_size", "u_time", "u_steps", "u_beats", "u_source", "u_waveform", "u_stereo", "u_spectrum", "v_uv")
_UNIFORM = re.compile(
    r"^(\s*)uniform\s+((?:lowp|mediump|highp)\s+)?(\w+)\s+([^;]+);[ \t]*(?://(.*))?$", re.MULTILINE
)
_OUT = re.compile(
    r"^\s*(?:layout\s*\([^)]*\)\s*)?out\s+(?:(?:lowp|mediump|highp)\s+)?vec4\s+(\w+)\s*;", re.MULTILINE
)
_OURS = re.compile(r"^[ \t]*(?:#version.*|precision\s+\w+\s+\w+\s*;|in\s+vec2\s+v_uv\s*;)", re.MULTILINE)
"""What the prelude says already."""
_RANGE = re.compile(r"^\s*(-?\d+(?:\.\d+)?)\s*\.\.\s*(-?\d+(?:\.\d+)?)(?:\s*=\s*(-?\d+(?:\.\d+)?))?\s*(.*)$")
_COLOUR = re.compile(r"^\s*(#[0-9a-fA-F]{6})\s*(.*)$")


class OwnShaderError(ValueError):
    """What is wrong with the text, and at which of its lines (from 1; 0 for none)."""

    def __init__(self, message: str, line: int = 0) -> None:
        super().__init__(message)
        self.line = line


@dataclass(frozen=True)
class Translated:
    """An own shader as the plan needs it. parameters: named knob_1 … and colour_1 …, with the titles that its
    author gave.
    """

    text: str
    parameters: tuple[Parameter, ...]
    data: tuple[str, ...]
    beats: bool


@lru_cache(256)
def translate(code: str) -> Translated:
    """Make a pasted fragment ours. Lines keep their numbers. Raises OwnShaderError."""
    found: list[Parameter] = []
    authors: dict[str, str] = {}

    def take(match: re.Match[str]) -> str:
        kind, line, taken = match[3], code.count("\n", 0, match.start(3)) + 1, []
        for author in (name.strip() for name in match[4].split(",")):
            if author in KNOWN:
                continue  # It is declared already.
            if kind not in ("float", "vec3") or not author.isidentifier():
                raise OwnShaderError(
                    f"“{author}” cannot be a parameter: those are single numbers (float) and colours (vec3).",
                    line,
                )
            what, most = ("knob", NUMBERS) if kind == "float" else ("colour", COLOURS)
            count = sum(parameter.name.startswith(what) for parameter in found) + 1
            if count > most:
                raise OwnShaderError(
                    f"There are more than {most} {'numbers' if what == 'knob' else 'colours'}.", line
                )
            found.append(_parameter(f"{what}_{count}", author, (match[5] or "").strip(), line))
            authors[author] = f"u_{what}_{count}"
            taken.append(f"uniform {kind} u_{what}_{count};")
        return match[1] + " ".join(taken)

    def call(match: re.Match[str]) -> str:
        if match[1] != "o_colour":
            authors[match[1]] = "o_colour"
        return ""

    _loops_end(code)
    body = _UNIFORM.sub(take, code)
    body = _OUT.sub(call, body)
    body = _OURS.sub("", body)
    if not re.search(r"\bvoid\s+main\s*\(", body):
        raise OwnShaderError("There is no main(): it draws each pixel.")
    if "gl_FragColor" in body:
        authors["gl_FragColor"] = "o_colour"

    def speaks_of(name: str) -> bool:
        return re.search(rf"\bu_{name}\b", body) is not None

    data = tuple(name for name in ("waveform", "stereo", "spectrum") if speaks_of(name))
    head = [f"uniform sampler2D u_{name};" for name in (*data, *(["source"] if speaks_of("source") else []))]
    head += ["uniform float u_beats;"] if speaks_of("beats") else []
    head += [f"#define {author} {ours}" for author, ours in authors.items()]
    return Translated("\n".join([*head, "#line 1", body]), tuple(found), data, speaks_of("beats"))


def _loops_end(code: str) -> None:
    """Raises OwnShaderError for a loop of which it cannot be seen that it ends.

    As The OpenGL ES Shading Language 1.00, appendix A.4, had it: only ``for``, from a constant to a constant.
    A graphics card that does not come back takes the whole show with it.
    """
    bare = re.sub(r"//[^\n]*|/\*.*?\*/", lambda found: re.sub(r"[^\n]", " ", found[0]), code, flags=re.DOTALL)
    for found in re.finditer(r"\b(while|do|for)\b\s*(\([^;{]*;[^;]*;[^{]*?\)(?=\s*[{\w+-]))?", bare):
        line = bare.count("\n", 0, found.start()) + 1
        if found[1] != "for" or found[2] is None or not _COUNTS.match(found[2]):
            raise OwnShaderError("Loops must count to a fixed end: for (int i = 0; i < 100; i++).", line)


_COUNTS = re.compile(
    r"^\(\s*(?:int|float|uint)\s+(\w+)\s*=\s*-?(?:[\d.]+|[A-Z]\w*)\s*;\s*\1\s*(?:<|<=|>|>=|!=)\s*-?(?:[\d.]+|[A-Z]\w*)\s*;\s*(?:\1\s*(?:\+\+|--|[+-]=\s*[\d.]+)|(?:\+\+|--)\1)\s*\)$"
)


def _parameter(name: str, author: str, comment: str, line: int) -> Parameter:
    title = author.replace("_", " ").capitalize()
    if name.startswith("colour"):
        match = _COLOUR.match(comment)
        return Parameter(
            name=name,
            title=title,
            type="colour",
            default=match[1].lower() if match else "#ffffff",
            help=match[2] if match else comment,
            group="Shader",
        )
    match = _RANGE.match(comment)
    low, high = (float(match[1]), float(match[2])) if match else (0.0, 1.0)
    default = low if match else 0.5
    if match and match[3]:
        default = float(match[3])
    if not low < high or not low <= default <= high:
        raise OwnShaderError(
            f"“{author}” goes from {low:g} to {high:g} and begins at {default:g}: that is no range.", line
        )
    return Parameter(
        name=name,
        title=title,
        type="number",
        low=low,
        high=high,
        default=default,
        help=match[4] if match else comment,
        group="Shader",
    )
