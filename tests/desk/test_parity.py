"""The two executors draw the same: per shader and for whole looks, on the same rasteriser."""

import base64
import io
import json
import re
from pathlib import Path

import numpy as np
import psutil
import pytest
from PIL import Image

from fulgura.core import wire
from fulgura.core.clock import BLOCK, blocks_due
from fulgura.core.kinds.drawn import Effect, Source
from fulgura.core.performer import Performer
from fulgura.core.picture.plan import Plan
from fulgura.core.picture.shaders import files, shader
from fulgura.core.show.looks import Layer, Look, Stored, StoredClip
from fulgura.core.show.outputs import GuardSettings
from fulgura.core.show.part import Part
from fulgura.demo.looks.matter import ramps
from fulgura.demo.show import demo_show, gallery_show
from fulgura.demo.tracks import lamp_room
from fulgura.media.import_picture import import_picture
from fulgura.media.intra_clip import Writer
from fulgura.render.executor import Executor
from tests.desk.parity_looks import LOOKS, effect, how_many, look, ring, source
from tests.desk.pinned import pinned, small

SIZE = (320, 180)
SECONDS_HEARD = slice(20 * 48_000, 24 * 48_000)
MEAN, TAIL = 1.0, 8.0
"""Mean and 99.9th percentile of the absolute difference, in steps of 1/255 (docs/formats/plan.md)."""


PINNED = pinned()
UNGUARDED = GuardSettings(on=False, why_off="Each kind is compared as it is.")


@pytest.fixture(scope="module")
def bench_page(stack, chromium):
    page = chromium.new_page()
    page.goto(f"{stack.url}/bench")
    page.wait_for_function("typeof window.drawFrames === 'function'")
    yield page
    page.close()


@pytest.fixture(scope="module")
def samples():
    return lamp_room().finished()[SECONDS_HEARD]


def frames(look: Look, samples, count: int) -> tuple[Plan, list[bytes]]:
    """Without the guard, which would hold back what changes from picture to picture."""
    show = demo_show().model_copy(
        update={"looks": [look], "look": look.id, "guard": UNGUARDED, "ramps": ramps()}
    )
    performer, heard, messages = Performer(show), 0, []
    for number in range(1, count + 1):
        while heard < blocks_due(number):
            performer.hear(samples[heard * BLOCK : (heard + 1) * BLOCK])
            heard += 1
        messages.append(wire.encode(performer.packet(performer.tick())))
    return performer.plan, messages


def in_python(plan: Plan, messages: list[bytes], pictures: Path | None = None) -> np.ndarray:
    executor = Executor(*SIZE, pictures)
    try:
        executor.load(plan)
        assert not executor.failed
        for message in messages:
            executor.draw(wire.decode(message))
        return np.array(executor.pixels(), dtype=float)
    finally:
        executor.close()


def in_the_page(page, plan: Plan, messages: list[bytes]) -> np.ndarray:
    raw = page.evaluate(
        "([p, f, w, h]) => drawFrames(p, f, w, h)",
        [plan.model_dump(), [base64.b64encode(m).decode() for m in messages], *SIZE],
    )
    return (
        np.frombuffer(base64.b64decode(raw), np.uint8).reshape(SIZE[1], SIZE[0], 4)[::-1, :, :3].astype(float)
    )


@pytest.mark.parametrize("name", LOOKS)
def test_both_executors_draw_the_same(bench_page, samples, name):
    plan, messages = frames(LOOKS[name], samples, how_many(name))
    python, page = in_python(plan, messages), in_the_page(bench_page, plan, messages)
    difference = np.abs(python - page)
    assert difference.mean() <= MEAN and np.quantile(difference, 0.999) <= TAIL
    if name != "copy.frag":
        assert python.max() > 100, "an empty picture proves nothing"
    # Another version of the rasteriser may draw an edge a little elsewhere; a picture that looks otherwise is
    # another matter.
    off = np.abs(small(python).astype(float) - PINNED[name])
    assert off.mean() <= 2.0 and np.quantile(off, 0.99) <= 24.0, (
        f"“{name}” looks otherwise than tests/desk/pinned.png; if it should, draw that anew"
    )


@pytest.mark.parametrize("fit", ["fill", "whole", "stretch"])
def test_both_executors_show_a_picture_alike(bench_page, stack, tmp_path, fit):
    rng = np.random.default_rng(3)
    drawn = Image.fromarray(
        np.kron(rng.integers(0, 256, (6, 10, 4), dtype=np.uint8), np.ones((20, 20, 1), dtype=np.uint8)),
        "RGBA",
    )
    drawn.save(tmp_path / "squares.png")
    stored = Stored(
        id="p", name="Squares", **import_picture(tmp_path / "squares.png", stack.folders.pictures)
    )
    show = demo_show().model_copy(
        update={
            "looks": [source("picture", file="p", fit=fit, zoom=0.9)],
            "look": "test",
            "pictures": [stored],
        }
    )
    performer = Performer(show)
    performer.hear(np.zeros((BLOCK, 2)))
    messages = [wire.encode(performer.packet(performer.tick()))]
    python, page = (
        in_python(performer.plan, messages, stack.folders.pictures),
        in_the_page(bench_page, performer.plan, messages),
    )
    difference = np.abs(python - page)
    assert python.max() > 100 and difference.mean() <= MEAN and np.quantile(difference, 0.999) <= TAIL


@pytest.mark.parametrize("clear", [False, True])
def test_both_executors_show_the_same_picture_of_a_clip(bench_page, stack, clear):
    """Each unpacks JPEG or WebP with its own decoder."""
    key = f"clip-{'a' if clear else 'b'}{'0' * 23}"
    rng = np.random.default_rng(4)
    with Writer(stack.folders.pictures / f"{key}.zip", 320, 180, 30.0) as intra_clip:
        for _ in range(12):
            intra_clip.add(
                np.kron(
                    rng.integers(0, 256, (9, 16, 4 if clear else 3), dtype=np.uint8),
                    np.ones((20, 20, 1), dtype=np.uint8),
                )
            )
    stored = StoredClip(id="c", name="Squares", key=key, width=320, height=180, frames=12, rate=30.0)
    show = demo_show().model_copy(
        update={"looks": [source("clip", file="c")], "look": "test", "clips": [stored]}
    )
    performer, messages = Performer(show), []
    for _ in range(8):
        performer.hear(np.zeros((BLOCK, 2)))
        messages.append(wire.encode(performer.packet(performer.tick())))
    python, page = (
        in_python(performer.plan, messages, stack.folders.pictures),
        in_the_page(bench_page, performer.plan, messages),
    )
    difference = np.abs(python - page)
    assert python.max() > 100 and difference.mean() <= MEAN and np.quantile(difference, 0.999) <= TAIL
    assert np.abs(python - in_python(performer.plan, messages[:3], stack.folders.pictures)).mean() > 20, (
        "another picture a few frames before"
    )


def test_every_source_and_effect_is_pinned():
    """A picture, a clip and a camera are shown by one shader each, compared above; a group is its layers."""
    kinds = {part.kind for look in LOOKS.values() for part in look.parts()}
    assert PINNED.keys() == LOOKS.keys()
    assert kinds >= (Source.kinds.keys() | Effect.kinds.keys()) - {
        "picture",
        "clip",
        "group",
        "again",
        "so-far",
    }


def test_every_shader_is_compared():
    passes = [p for look in LOOKS.values() for p in frames(look, np.zeros((BLOCK * 8, 2)), 1)[0].passes]
    # Of outputs and of their guard: in a module of their own.
    elsewhere = {"cross.frag", "picture.frag", "wall.frag", "card.frag", "send.frag", "wall.vert"}
    elsewhere |= {name for name in files() if name.startswith("guard_")}
    compared = {p.fragment for p in passes} | {p.vertex for p in passes} | elsewhere
    assert compared == {name for name in files() if name.endswith((".frag", ".vert"))}


@pytest.mark.parametrize("how", ["fade", "both at once", "wipe", "bright last"])
def test_both_executors_cross_from_look_to_look_alike(bench_page, samples, how):
    looks = [LOOKS["ring.frag circle"], effect("edge").model_copy(update={"id": "other"})]
    show = demo_show().model_copy(
        update={
            "looks": [looks[0], rename(looks[1])],
            "look": "test",
            "beside": "other",
            "crossfade": Part(id="crossfade", kind="look-crossfade", values={"share": 0.4, "how": how}),
        }
    )
    performer = Performer(show)
    for block in range(12):
        performer.hear(samples[block * BLOCK : (block + 1) * BLOCK])
    messages = [wire.encode(performer.packet(performer.tick()))]
    difference = np.abs(
        in_python(performer.plan, messages) - in_the_page(bench_page, performer.plan, messages)
    )
    assert difference.mean() <= MEAN and np.quantile(difference, 0.999) <= TAIL


def rename(look: Look) -> Look:
    """The same look with other ids of its parts."""
    return Look.model_validate_json(
        look.model_dump_json().replace('"id":"', '"id":"two-').replace('"two-other"', '"other"')
    )


ONCE = re.compile(r"^once (\w+) (\w+) = ([^;]+);$", re.MULTILINE)


@pytest.mark.parametrize(
    "name",
    [
        "feedback.frag",
        "repeat.frag",
        "layer.frag placed",
        "displace.frag",
        "channels.frag",
        "shape.frag star",
    ],
)
def test_what_is_worked_out_once_is_what_every_pixel_would_work_out(samples, name):
    """The same looks with those lines at the head of the fragment shader's own main()."""
    plan, messages = frames(LOOKS[name], samples, 4)
    texts, found = dict(plan.texts), 0
    for render_pass in plan.passes:
        text = shader(render_pass.fragment)
        lines = ONCE.findall(text)
        if not lines or render_pass.vertex != "quad.vert":
            continue
        found += 1
        # The folded text still says which uniforms are constants.
        folded = re.sub(
            r"^flat in (\w+ \w+);$", r"\1;", plan.texts[render_pass.fragment_text], flags=re.MULTILINE
        )
        first = next(re.finditer(rf"^{lines[0][0]} {lines[0][1]};$", folded, re.MULTILINE))
        folded = folded[: first.start()] + files()["once.glsl"].read_text() + folded[first.start() :]
        texts[render_pass.fragment_text] = folded.replace(
            "void main() {", "void main() {\n" + "\n".join(f"{what} = {how};" for _, what, how in lines), 1
        )
        texts[render_pass.vertex_text] = shader("quad.vert")
    assert found
    difference = np.abs(
        in_python(plan, messages) - in_python(plan.model_copy(update={"texts": texts}), messages)
    )
    assert difference.mean() <= 0.1 and np.quantile(difference, 0.999) <= TAIL


def test_feedback_energy_is_the_geometric_series():
    """A still source of light s under fade f: after n frames s (1 - f^n) / (1 - f) (algebra of the
    series).
    """
    source = ring(radius=0.0, width=1.0, softness=0.0, glow=0.0, level=0.05, tint="#ffffff")
    still = Part(
        id="feedback",
        kind="feedback",
        values={"scale": 1.0, "rotation": 0.0, "fade": 0.8, "hue": 0.0, "how": "light adds up"},
    )
    plan, messages = frames(look(source, [still]), np.zeros((BLOCK * 200, 2)), 12)
    executor = Executor(*SIZE)
    try:
        executor.load(plan)
        for n, message in enumerate(messages, 1):
            executor.draw(wire.decode(message))
            texture = executor.targets["feedback"][1 if n else 0][0]
            light = np.frombuffer(texture.read(), np.float16).reshape(SIZE[1], SIZE[0], 4)[
                SIZE[1] // 2, SIZE[0] // 2, 0
            ]
            assert float(light) == pytest.approx(0.05 * (1 - 0.8**n) / (1 - 0.8), rel=0.01)
    finally:
        executor.close()


def over(blend: str, below: str, above: str, opacity: float = 1.0) -> Look:
    def plain(id, tint, **mix):
        return Layer(
            id=id,
            name=id,
            source=Part(id=f"{id}-plain", kind="solid", values={"tint": tint}),
            mix=Part(id=f"{id}-mix", kind="over", values=mix),
        )

    return Look(
        id="test", name="Two", layers=[plain("a", below), plain("b", above, blend=blend, opacity=opacity)]
    )


COLOURS = [
    ("#c04080", "#30a0e0"),
    ("#204060", "#f0e010"),
    ("#808080", "#402010"),
    ("#ffffff", "#336699"),
    ("#000000", "#aabbcc"),
    ("#10f0a0", "#ff0000"),
]
W3C = {
    "screen": "screen",
    "multiply": "multiply",
    "overlay": "overlay",
    "soft light": "soft-light",
    "hard light": "hard-light",
    "lighten": "lighten",
    "darken": "darken",
    "difference": "difference",
    "exclusion": "exclusion",
    "colour dodge": "color-dodge",
    "colour burn": "color-burn",
    "normal": "normal",
}


def blended(mode: str, b: float, s: float) -> float:
    """W3C Compositing and Blending Level 1, 9.1, written down once more from the standard's text (from
    memory), for two encoded values.
    """

    def hard(b, s):
        return b * 2 * s if s <= 0.5 else b + (2 * s - 1) - b * (2 * s - 1)

    d = ((16 * b - 12) * b + 4) * b if b <= 0.25 else b**0.5
    return {
        "normal": s,
        "screen": b + s - b * s,
        "multiply": b * s,
        "overlay": hard(s, b),
        "hard light": hard(b, s),
        "lighten": max(b, s),
        "darken": min(b, s),
        "difference": abs(b - s),
        "exclusion": b + s - 2 * b * s,
        "soft light": b - (1 - 2 * s) * b * (1 - b) if s <= 0.5 else b + (2 * s - 1) * (d - b),
        "colour dodge": 0.0 if b == 0 else 1.0 if s == 1 else min(1.0, b / (1 - s)),
        "colour burn": 1.0 if b == 1 else 0.0 if s == 0 else 1 - min(1.0, (1 - b) / s),
    }[mode]


@pytest.mark.parametrize("mode", W3C)
def test_blend_modes_are_the_standards_and_chromiums_own(chromium, mode):
    """W3C Compositing and Blending Level 1, by its formulas and by what headless Chromium makes of CSS
    mix-blend-mode, within 2/255.
    """
    shown = chromium.new_page()
    try:
        shown.set_content(
            "<body style='margin:0;background:#000'>"
            + "".join(
                "<div style='position:absolute;isolation:isolate;width:40px;height:40px;"
                f"left:{40 * i}px;background:{below}'><div"
                f" style='width:40px;height:40px;background:{above};mix-blend-mode:{W3C[mode]}'></div></div>"
                for i, (below, above) in enumerate(COLOURS)
            )
        )
        theirs = np.array(Image.open(io.BytesIO(shown.screenshot())).convert("RGB"), dtype=float)
    finally:
        shown.close()
    for i, (below, above) in enumerate(COLOURS):
        plan, messages = frames(over(mode, below, above), np.zeros((BLOCK * 8, 2)), 1)
        ours = in_python(plan, messages)[SIZE[1] // 2, SIZE[0] // 2]
        by_formula = [
            255 * blended(mode, int(below[k : k + 2], 16) / 255, int(above[k : k + 2], 16) / 255)
            for k in (1, 3, 5)
        ]
        np.testing.assert_allclose(ours, by_formula, atol=2.0, err_msg=f"{mode} {below} {above}")
        np.testing.assert_allclose(ours, theirs[20, 40 * i + 20], atol=2.0, err_msg=f"{mode} {below} {above}")


def test_adding_is_of_light():
    plan, messages = frames(over("add", "#404040", "#404040"), np.zeros((BLOCK * 8, 2)), 1)
    light = ((0x40 / 255 + 0.055) / 1.055) ** 2.4
    assert in_python(plan, messages)[90, 160, 0] == pytest.approx(
        255 * (1.055 * (2 * light) ** (1 / 2.4) - 0.055), abs=1.5
    )


def test_a_layer_is_placed_turned_over_and_cut():
    """A gradient from dark to bright across: moved, mirrored and cropped it is where it should be."""

    def row(**mix) -> np.ndarray:
        ramp = Part(
            id="ramp",
            kind="gradient",
            values={
                "rotation": 0.0,
                "from_colour": "#000000",
                "middle_colour": "#bcbcbc",
                "to_colour": "#ffffff",
            },
        )
        plan, messages = frames(
            Look(
                id="test",
                name="Ramp",
                layers=[Layer(id="l", name="l", source=ramp, mix=Part(id="m", kind="over", values=mix))],
            ),
            np.zeros((BLOCK * 8, 2)),
            1,
        )
        return in_python(plan, messages)[90, :, 0]

    plain = row()
    assert (np.diff(plain) >= -1).all() and plain[-1] > 240
    np.testing.assert_allclose(row(flip="left and right"), plain[::-1], atol=3)
    moved = row(x=0.5)
    np.testing.assert_allclose(moved[50:300], plain[5:255], atol=4)
    assert moved[:40].max() == 0 and row(x=0.5, wrap="mirror images")[:40].min() >= 0
    cut = row(left=0.25, right=0.25)
    assert cut[:78].max() == 0 and cut[242:].max() == 0 and cut[100] == pytest.approx(plain[100], abs=2)
    np.testing.assert_allclose(row(scale=0.5)[81:239], plain[2:318:2], atol=4)
    # Sized or turned about another point, that point stays where it is: half a height to the right is pixel
    # 160 + 45.
    assert (
        row(scale=0.5, anchor_x=0.5)[205] == pytest.approx(plain[205], abs=2)
        and abs(row(scale=0.5)[205] - plain[205]) > 10
    )
    assert row(rotation=90.0, anchor_x=0.5)[204] == pytest.approx(plain[204], abs=3)


def test_the_compositing_is_source_over():
    """W3C Compositing Level 1, 9.1.4 source over, premultiplied: co = cs + cb (1 - as)."""
    flat = {"radius": 0.0, "width": 1.0, "softness": 0.0, "glow": 0.0}
    red, blue = (
        Part(id=id, kind="ring", values={**flat, "tint": tint})
        for id, tint in (("ra", "#ff0000"), ("rb", "#0000ff"))
    )
    below, above = Part(id="ma", kind="over"), Part(id="mb", kind="over", values={"opacity": 0.25})
    lower = Layer(id="a", name="A", source=red, mix=below)
    upper = Layer(id="b", name="B", source=blue, mix=above)
    plan, messages = frames(Look(id="test", name="Two", layers=[lower, upper]), np.zeros((BLOCK * 8, 2)), 1)
    middle = in_python(plan, messages)[SIZE[1] // 2, SIZE[0] // 2]

    def encoded(v):
        return 255 * (1.055 * v ** (1 / 2.4) - 0.055)

    np.testing.assert_allclose(middle, [encoded(0.75), 0, encoded(0.25)], atol=1.0)


def test_the_browser_reads_the_shared_wire_vectors(bench_page):
    rows = json.loads((Path(__file__).parents[1] / "vectors" / "frames.json").read_text())
    for row in rows:
        got = bench_page.evaluate(
            "(t) => decodeFrame(t)", base64.b64encode(bytes.fromhex(row["hex"])).decode()
        )
        assert (got["plan"], got["layout"], got["number"], got["time"]) == (
            row["plan"],
            row["layout"],
            row["number"],
            row["time"],
        )
        assert {k: v for k, v in got["blocks"]} == {
            int(k): pytest.approx(v["values"]) for k, v in row["blocks"].items()
        }
    whole = bytes.fromhex(rows[1]["hex"])
    for cut in (3, 20, 35, len(whole) - 5):
        assert bench_page.evaluate("(t) => decodeFrame(t)", base64.b64encode(whole[:cut]).decode()) is None


def test_shaders_compile_under_their_own_version():
    assert all(shader(name).startswith("#version 300 es") for name in files() if name.endswith(".frag"))


def test_looks_come_and_go_without_leaving_anything_behind():
    """Every look of the demo, round after round: as many things on the graphics card after each, and no more
    memory.
    """
    show, executor, rows = gallery_show(), Executor(*SIZE), []
    try:
        for _ in range(6):
            for other in show.looks:
                performer = Performer(show.model_copy(update={"look": other.id}))
                performer.hear(np.zeros((BLOCK, 2)))
                executor.load(performer.plan)
                executor.draw(performer.packet(performer.tick()))
            executor.context.finish()
            rows.append(
                (
                    len(executor.programs),
                    len(executor.targets),
                    len(executor.textures),
                    psutil.Process().memory_info().rss / 2**20,
                )
            )
    finally:
        executor.close()
    assert len({row[:3] for row in rows}) == 1
    assert rows[-1][3] - rows[2][3] < 12.0, f"MB after each round: {[round(row[3]) for row in rows]}"
