"""The two executors draw the same: per shader and for whole looks, on the same rasteriser."""

import base64
import json
from pathlib import Path

import numpy as np
import pytest

from fulgura.core import BLOCK, wire
from fulgura.core.performer import Performer, blocks_due
from fulgura.core.picture.compiler import shader
from fulgura.core.picture.kinds import SHADERS
from fulgura.core.picture.plan import Plan
from fulgura.core.show.document import Layer, Look, Part
from fulgura.demo.show import demo_show
from fulgura.demo.tracks import lamp_room
from fulgura.render.executor import Executor

SIZE = (320, 180)
MEAN, TAIL = 1.0, 8.0
"""Mean and 99.9th percentile of the absolute difference, in steps of 1/255 (docs/formats/plan.md)."""


@pytest.fixture(scope="module")
def bench_page(stack, chromium):
    page = chromium.new_page()
    page.goto(f"{stack.url}/bench")
    page.wait_for_function("typeof window.drawFrames === 'function'")
    yield page
    page.close()


@pytest.fixture(scope="module")
def samples():
    return lamp_room().finished()[20 * 48_000 : 24 * 48_000]


def frames(look: Look, samples, count: int) -> tuple[Plan, list[bytes]]:
    show = demo_show().model_copy(update={"looks": [look], "look": look.id})
    performer, heard, messages = Performer(show), 0, []
    for number in range(1, count + 1):
        while heard < blocks_due(number):
            performer.hear(samples[heard * BLOCK : (heard + 1) * BLOCK])
            heard += 1
        messages.append(wire.encode(performer.packet(performer.tick())))
    return performer.plan, messages


def in_python(plan: Plan, messages: list[bytes]) -> np.ndarray:
    executor = Executor(*SIZE)
    try:
        executor.load(plan)
        for message in messages:
            executor.draw(wire.decode(message))
        return np.array(executor.pixels(), dtype=float)
    finally:
        executor.close()


def in_the_page(page, plan: Plan, messages: list[bytes]) -> np.ndarray:
    raw = page.evaluate("([p, f, w, h]) => drawFrames(p, f, w, h)", [plan.model_dump(), [base64.b64encode(m).decode() for m in messages], *SIZE])
    return np.frombuffer(base64.b64decode(raw), np.uint8).reshape(SIZE[1], SIZE[0], 4)[::-1, :, :3].astype(float)


def ring(**values) -> Part:
    return Part(id="ring", kind="ring", values={"radius": 0.5, "width": 0.1, **values})


def look(source: Part, effects=(), finish=()) -> Look:
    return Look(id="test", name="Test", layers=[Layer(id="layer", name="Layer", source=source, effects=list(effects), mix=Part(id="mix", kind="over", values={"opacity": 0.8}))], finish=list(finish))


LOOKS = {
    "ring.frag circle": look(ring()),
    "ring.frag polygon bent by the sound": look(ring(sides=5.0, ripple=0.6, turn=20.0, glow=1.0)),
    "feedback.frag": look(ring(width=0.02), [Part(id="feedback", kind="feedback", values={"turn": 3.0, "across": 1.0, "hue": 20.0})]),
    "grade.frag": look(ring(level=4.0, glow=1.0), finish=[Part(id="grade", kind="grade", values={"exposure": 1.0, "contrast": 1.6, "saturation": 0.4, "hue": 90.0, "tint": "#80c0ff", "vignette": 1.0})]),
    "layer.frag and screen.frag": look(ring(tint="#40ff80")),
    "copy.frag": Look(id="test", name="Nothing to show"),
    "the demo look": demo_show().looks[0],
}


@pytest.mark.parametrize("name", LOOKS)
def test_both_executors_draw_the_same(bench_page, samples, name):
    plan, messages = frames(LOOKS[name], samples, 40)
    python, page = in_python(plan, messages), in_the_page(bench_page, plan, messages)
    difference = np.abs(python - page)
    assert difference.mean() <= MEAN and np.quantile(difference, 0.999) <= TAIL
    if "copy" not in name:
        assert python.max() > 100, "an empty picture proves nothing"


def test_every_shader_is_compared():
    drawn = {p.fragment for one in LOOKS.values() for p in frames(one, np.zeros((BLOCK * 8, 2)), 1)[0].passes}
    assert drawn == {path.name for path in SHADERS.glob("*.frag")}


def test_feedback_energy_is_the_geometric_series():
    """A still source of light s under fade f: after n frames s (1 - f^n) / (1 - f) (algebra of the series)."""
    source = ring(radius=0.0, width=1.0, softness=0.0, glow=0.0, level=0.05, tint="#ffffff")
    still = Part(id="feedback", kind="feedback", values={"scale": 1.0, "turn": 0.0, "fade": 0.8, "hue": 0.0})
    plan, messages = frames(look(source, [still]), np.zeros((BLOCK * 200, 2)), 12)
    executor = Executor(*SIZE)
    try:
        executor.load(plan)
        for n, message in enumerate(messages, 1):
            executor.draw(wire.decode(message))
            texture = executor.targets["feedback"][1 if n else 0][0]
            light = np.frombuffer(texture.read(), np.float16).reshape(SIZE[1], SIZE[0], 4)[SIZE[1] // 2, SIZE[0] // 2, 0]
            assert float(light) == pytest.approx(0.05 * (1 - 0.8**n) / (1 - 0.8), rel=0.01)
    finally:
        executor.close()


def test_the_compositing_is_source_over():
    """W3C Compositing Level 1, 9.1.4 source over, premultiplied: co = cs + cb (1 - as)."""
    lower = Layer(id="a", name="A", source=Part(id="ra", kind="ring", values={"radius": 0.0, "width": 1.0, "softness": 0.0, "glow": 0.0, "tint": "#ff0000"}), mix=Part(id="ma", kind="over"))
    upper = Layer(id="b", name="B", source=Part(id="rb", kind="ring", values={"radius": 0.0, "width": 1.0, "softness": 0.0, "glow": 0.0, "tint": "#0000ff"}), mix=Part(id="mb", kind="over", values={"opacity": 0.25}))
    plan, messages = frames(Look(id="test", name="Two", layers=[lower, upper]), np.zeros((BLOCK * 8, 2)), 1)
    middle = in_python(plan, messages)[SIZE[1] // 2, SIZE[0] // 2]
    encoded = lambda v: 255 * (1.055 * v ** (1 / 2.4) - 0.055)  # noqa: E731
    np.testing.assert_allclose(middle, [encoded(0.75), 0, encoded(0.25)], atol=1.0)


def test_the_browser_reads_the_shared_wire_vectors(bench_page):
    rows = json.loads((Path(__file__).parents[1] / "vectors" / "frames.json").read_text())
    for row in rows:
        got = bench_page.evaluate("(t) => decodeFrame(t)", base64.b64encode(bytes.fromhex(row["hex"])).decode())
        assert (got["plan"], got["layout"], got["number"], got["time"]) == (row["plan"], row["layout"], row["number"], row["time"])
        assert {k: v for k, v in got["blocks"]} == {int(k): pytest.approx(v["values"]) for k, v in row["blocks"].items()}
    whole = bytes.fromhex(rows[1]["hex"])
    for cut in (3, 20, 35, len(whole) - 5):
        assert bench_page.evaluate("(t) => decodeFrame(t)", base64.b64encode(whole[:cut]).decode()) is None


def test_shaders_compile_under_their_own_version():
    assert all(shader(path.name).startswith("#version 300 es") for path in SHADERS.glob("*.frag"))
