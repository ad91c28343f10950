"""Outputs in both executors: walls, masks, blending, test cards and transparent grounds, and what they should
be.
"""

import base64

import numpy as np
import pytest

from fulgura.core import wire
from fulgura.core.clock import BLOCK, blocks_due
from fulgura.core.performer import Performer
from fulgura.core.show.document import Show
from fulgura.core.show.looks import Layer, Look
from fulgura.core.show.outputs import Blend, Cut, Grid, GuardSettings, Mask, Output, Wall, regular
from fulgura.core.show.part import Part
from fulgura.core.show.walls import homography, placed
from fulgura.render.executor import Executor
from tests.desk.test_parity import MEAN, TAIL, bench_page  # noqa: F401

SIZE = (320, 180)
BENT = regular(4, 3)
BENT[5], BENT[6] = (0.4, 0.42), (0.6, 0.58)
CORNERS = [(0.1, 0.05), (0.95, 0.1), (0.85, 0.9), (0.05, 0.8)]
BOX = [
    Wall(
        id="left",
        name="Left",
        cut=Cut(width=0.5),
        corners=[(0.2, 0.2), (0.5, 0.1), (0.5, 0.9), (0.2, 0.8)],
        grid=Grid(columns=4, rows=3, points=BENT),
    ),
    Wall(
        id="right",
        name="Right",
        cut=Cut(x=0.5, width=0.5),
        corners=[(0.5, 0.1), (0.85, 0.25), (0.85, 0.75), (0.5, 0.9)],
    ),
]
MASKS = [
    Mask(id="kept", name="Kept", points=[(0.1, 0.1), (0.9, 0.1), (0.5, 0.95)], soft=0.1),
    Mask(id="door", name="Door", keeps="outside", points=[(0.4, 0.5), (0.6, 0.5), (0.6, 1.0), (0.4, 1.0)]),
]
OUTPUTS = {
    "as it is": {},
    "a piece": {"cut": Cut(x=0.25, y=0.1, width=0.5, height=0.6)},
    "level and gamma": {"level": 0.5, "gamma": 1.6},
    "four corners": {"walls": [Wall(id="wall", name="Wall", corners=CORNERS)]},
    "a box, bent": {"walls": BOX},
    "masks": {"masks": MASKS},
    "blended": {"blend": Blend(left=0.3, top=0.2)},
    "transparent": {"ground": "transparent"},
    "a grid on a box": {"card": "grid", "walls": BOX},
    "circles": {"card": "circle"},
    "colours": {"card": "colours"},
}


def layer(id: str, kind: str, **values) -> Layer:
    return Layer(
        id=id,
        name=id,
        source=Part(id=f"{id}-source", kind=kind, values=values),
        mix=Part(id=f"{id}-mix", kind="over", values={"opacity": 0.7}),
    )


def show_of(**fields) -> Show:
    look = Look(id="look", name="Look", layers=[layer("ring", "ring", radius=0.5, width=0.2)])
    output = Output(id="o", name="O", address="o", **({"width": SIZE[0], "height": SIZE[1]} | fields))
    return Show(name="Outputs", looks=[look], look="look", outputs=[output])


def frames(show: Show, count: int = 3):
    performer, heard, messages = Performer(show), 0, []
    for number in range(1, count + 1):
        while heard < blocks_due(number):
            performer.hear(np.zeros((BLOCK, 2)))
            heard += 1
        messages.append(wire.encode(performer.packet(performer.tick())))
    return performer.sending.ends[0].after(performer.plan), messages


def in_python(show: Show, count: int = 3) -> np.ndarray:
    """RGBA, premultiplied, top row first, after so many frames."""
    plan, messages = frames(show, count)
    executor = Executor(*SIZE)
    try:
        executor.load(plan)
        assert not executor.failed, executor.failed
        for message in messages:
            executor.draw(wire.decode(message))
        return np.array(executor.pixels(4), dtype=float)
    finally:
        executor.close()


def in_the_page(page, show: Show, count: int = 3) -> np.ndarray:
    plan, messages = frames(show, count)
    raw = page.evaluate(
        "([p, f, w, h]) => drawFrames(p, f, w, h)",
        [plan.model_dump(), [base64.b64encode(m).decode() for m in messages], *SIZE],
    )
    return np.frombuffer(base64.b64decode(raw), np.uint8).reshape(SIZE[1], SIZE[0], 4)[::-1].astype(float)


@pytest.mark.parametrize("name", OUTPUTS)
def test_both_executors_send_the_same(bench_page, name):  # noqa: F811
    show = show_of(**OUTPUTS[name])
    mine = in_python(show)
    assert mine[..., :3].max() > 60, "there is something to see"
    difference = np.abs(mine - in_the_page(bench_page, show))
    assert difference.mean() <= MEAN and np.quantile(difference, 0.999) <= TAIL


def test_both_executors_hold_back_the_same(bench_page):  # noqa: F811
    """Ten flashes a second: the guard of the page and that of Python let the same through."""
    code = "void main() { o_colour = vec4(vec3(step(0.5, fract(u_time * 10.0))), 1.0); }"
    strobe = Look(id="look", name="Look", layers=[layer("strobe", "own-shader", code=code)])
    strobe.layers[0].mix.values["opacity"] = 1.0
    show = show_of().model_copy(update={"looks": [strobe]})
    off = GuardSettings(on=False, why_off="It is drawn without, to compare.")
    alone = show.model_copy(update={"guard": off})
    held = []
    for count in (44, 47):
        mine = in_python(show, count)
        assert np.abs(mine - in_the_page(bench_page, show, count)).max() <= 3.0
        held.append(np.abs(mine - in_python(alone, count))[..., :3].max())
    assert max(held) > 30, "it held something back"


def test_a_straight_wall_over_the_whole_output_is_the_picture_itself():
    whole = in_python(show_of())
    walled = in_python(show_of(walls=[Wall(id="wall", name="Wall")]))
    gridded = in_python(
        show_of(walls=[Wall(id="wall", name="Wall", grid=Grid(columns=5, rows=4, points=regular(5, 4)))])
    )
    assert np.abs(whole - walled).max() <= 2 and np.abs(whole - gridded).max() <= 2


def test_a_place_of_the_picture_lands_where_the_map_says():
    """The card's middle, where its cross is, and its corner squares, through four corners."""
    drawn = in_python(show_of(card="circle", walls=[Wall(id="wall", name="Wall", corners=CORNERS)]))
    straight = in_python(show_of(card="circle"))
    matrix = homography(CORNERS)
    for u, v in [(0.5, 0.5), (0.5, 0.25), (0.25, 0.5), (0.5, 0.02)]:
        x, y = placed(matrix, np.array([[u, v]]))[0] * SIZE
        seen = drawn[int(y) - 1 : int(y) + 2, int(x) - 1 : int(x) + 2, :3].max()
        there = straight[int(v * SIZE[1]), int(u * SIZE[0]), :3].max()
        assert there > 90 and seen > 0.5 * there, (u, v)
    assert drawn[2, 2, :3].max() == 0, "nothing outside of the wall"


def test_two_outputs_that_blend_add_up():
    """A white picture, in light, by the gamma of what throws it; the two overlap by three tenths of each.
    What is sent is dithered to eight bits, by another amount from row to row: an eye, and this, takes a
    column's mean.
    """
    layers = [layer("white", "own-shader", code="void main() { o_colour = vec4(1.0); }")]
    layers[0].mix.values["opacity"] = 1.0
    look = {"looks": [Look(id="look", name="Look", layers=layers)]}
    left, right = (
        in_python(show_of(blend=blend).model_copy(update=look))[..., :3].mean(axis=0)
        for blend in (Blend(right=0.3, gamma=2.2), Blend(left=0.3, gamma=2.2))
    )
    wide = round(0.3 * SIZE[0])
    light = (left[SIZE[0] - wide :] / 255) ** 2.2 + (right[:wide] / 255) ** 2.2
    assert np.abs(light - 1.0).max() <= 1 / 255
    assert left[: SIZE[0] - wide].min() > 254.5 and right[wide:].min() > 254.5
    assert np.all(np.diff(right[:wide, 0]) >= 0) and right[0, 0] < 40, "from dark to bright"


@pytest.mark.parametrize("behind", [0.0, 1.0, 0.4])
def test_a_transparent_ground_lies_rightly_over_anything(behind):
    """Premultiplied: what is laid over a ground is its own colour plus what shows through."""
    clear, black = in_python(show_of(ground="transparent")) / 255, in_python(show_of()) / 255
    laid = clear[..., :3] + behind * (1.0 - clear[..., 3:])
    assert laid.min() >= -1e-6 and laid.max() <= 1.0 + 1 / 255
    away = clear[..., 3] == 0.0
    assert away.any() and np.allclose(laid[away], behind), "where nothing is drawn, the ground is as it was"
    if behind == 0.0:
        full = clear[..., 3] > 0.99
        assert np.abs(laid - black[..., :3])[full].max(initial=0.0) <= 2 / 255


def test_a_black_output_and_a_masked_place_send_nothing():
    assert in_python(show_of(black=True))[..., :3].max() == 0
    masked = in_python(show_of(card="colours", masks=[MASKS[1]]))
    assert masked[150, 160, :3].max() == 0 and masked[40, 300, :3].max() > 200
