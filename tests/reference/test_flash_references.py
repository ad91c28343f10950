"""The guard as it is drawn, judged by our own analyser and by iris-pse-detection 1.1.2; walls beside
OpenCV's.
"""

import numpy as np
import pytest

from fulgura.core.clock import blocks_due
from fulgura.core.performer import Performer
from fulgura.core.safety.analyser import FlashAnalyser
from fulgura.core.safety.guard import CELLS, CellGuard
from fulgura.core.show.document import Show
from fulgura.core.show.looks import Layer, Look
from fulgura.core.show.outputs import GuardSettings
from fulgura.core.show.part import Part
from fulgura.core.show.walls import homography
from fulgura.demo.show import gallery_show
from fulgura.render.executor import Executor
from fulgura.render.flashes import house_band, measure
from harness.elsewhere import iris, opencv_homographies

OFF = GuardSettings(on=False, why_off="It is drawn without, to compare.")
SECONDS = 2.5
# Of own shaders: each says how bright the picture is at a moment and a place.
MADE = {
    "ten a second": "vec3(step(0.5, fract(u_time * 10.0)))",
    "four a second, dim": "vec3(0.2 * step(0.5, fract(u_time * 4.0)))",
    "halves against each other": "vec3(step(0.5, fract(u_time * 8.0 + 0.5 * floor(v_uv.x * 2.0))))",
    "columns, one after the other": "vec3(0.7 * step(0.5, fract(u_time * 7.0 + 0.3 * floor(v_uv.x * 7.0))))",
    "drifting bars": "vec3(0.8 * step(0.5, fract(v_uv.x * 8.0 - u_time * 6.0)))",
    "red and green": "mix(vec3(0.05, 0.25, 0.05), vec3(0.9, 0.02, 0.02), step(0.5, fract(u_time * 6.0)))",
    "noise": "vec3(step(0.5, hash(floor(v_uv * 20.0) + floor(u_time * 60.0))))",
}


def own(expression: str) -> Layer:
    code = f"void main() {{ o_colour = vec4({expression}, 1.0); }}"
    source = Part(id="made", family="source", kind="own-shader", values={"code": code})
    return Layer(id="made-layer", name="Made", source=source, mix=Part(id="made-mix", kind="over"))


def drawn(show: Show, seconds: float = SECONDS, target: str = "") -> list[np.ndarray]:
    """Its pictures: uint8 (144, 256, 3), or what a target holds, in linear light, rows from the lowest on."""
    performer, executor, heard, kept = Performer(show), Executor(*CELLS), 0, []
    band = house_band(1)
    try:
        executor.load(performer.plan)
        assert not executor.failed, executor.failed
        for number in range(1, round(seconds * 60) + 1):
            while heard < blocks_due(number):
                performer.hear(next(band))
                heard += 1
            executor.draw(performer.packet(performer.tick()))
            name = target or performer.plan.end
            values = executor.target_values(name)[..., :3] if target else executor.pixels()
            kept.append(np.array(values))
    finally:
        executor.close()
    return kept


def made(expression: str, guard: GuardSettings) -> Show:
    look = Look(id="made", name="Made", layers=[own(expression)])
    return Show(name="Made", looks=[look], look="made", guard=guard)


def safe(pictures: list[np.ndarray]) -> bool:
    analyser = FlashAnalyser()
    for number, picture in enumerate(pictures):
        analyser.add(np.ascontiguousarray(picture), number / 60)
    return analyser.safe


@pytest.mark.parametrize("name", MADE)
def test_made_sequences_are_safe_by_both_judges(name, tmp_path):
    assert not safe(drawn(made(MADE[name], OFF))), "it has to flash without"
    pictures = drawn(made(MADE[name], GuardSettings()))
    assert safe(pictures)
    said = iris(np.array(pictures), tmp_path)
    assert not said["fails"] and max(said["transitions"], said["red"]) <= 6, said


def test_the_other_judge_refuses_them_unguarded(tmp_path):
    said = iris(np.array(drawn(made(MADE["ten a second"], OFF))), tmp_path)
    assert said["fails"] and said["transitions"] > 6


@pytest.mark.parametrize("name", ["ten a second", "halves against each other", "red and green"])
def test_the_shaders_do_what_python_does(name):
    """In pictures as large as the guard's cells are many. 16-bit floats round by a thousandth, and where a
    cell is just at a limit both may decide otherwise: of such there are few.
    """
    guard = CellGuard()
    before = drawn(made(MADE[name], OFF), 1.5, "made")
    after = drawn(made(MADE[name], GuardSettings()), 1.5, "guard")
    off = np.array([np.abs(guard.step(a.astype(float)) - b).max(axis=-1) for a, b in zip(before, after)])
    assert off.mean() <= 0.002 and (off > 0.01).mean() <= 0.01


def strobed(show: Show, look: Look) -> Show:
    """A look of the demo under a strobe."""
    flash = own("vec3(0.9 * step(0.5, fract(u_time * 9.0)))")
    flash.mix.values["blend"] = "screen"
    lit = look.model_copy(update={"layers": [*look.layers, flash]})
    return show.model_copy(update={"looks": [lit], "look": look.id})


@pytest.mark.parametrize("look", gallery_show().looks, ids=lambda look: look.id)
def test_every_look_of_the_demo_is_safe_under_a_strobe(look, tmp_path):
    pictures = drawn(strobed(gallery_show(), look), 2.0)
    assert safe(pictures)
    assert not iris(np.array(pictures), tmp_path)["fails"]


@pytest.mark.parametrize("look", ["lantern-tunnel", "open-sea", "lamp-swarm"])
def test_looks_that_do_not_flash_are_changed_by_two_in_a_hundred_at_most(look):
    show = gallery_show()
    looks = [each for each in show.looks if each.id == look]
    with np.errstate(invalid="raise"):
        found = measure(show, looks, ("the house band", lambda: house_band(1)), 4.0).looks[0]
    assert found.alone.safe and found.guarded.safe and found.change <= 0.02


def test_walls_are_mapped_as_opencv_maps_them():
    """It is given 32-bit corners: they agree to their rounding."""
    some = np.random.default_rng(2)
    square = np.array([(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)])
    corners = [
        (square + some.uniform(-0.2, 0.2, (4, 2))).astype(np.float32).astype(float).tolist()
        for _ in range(20)
    ]
    for own_corners, theirs in zip(corners, opencv_homographies(corners)):
        assert np.allclose(homography(own_corners), theirs, atol=1e-6)
