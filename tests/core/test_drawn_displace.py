"""How far a layer pushes another, measured in pixels."""

import numpy as np
import pytest

from fulgura.core.kinds.tick import TickContext
from fulgura.core.show.commands.routes import new_route
from fulgura.core.show.part import Part
from fulgura.core.show.starter import starter_show
from tests.core.drawing import Drawn

SIZE, UNIT = (320, 180), 90.0
"""Pixels, and how many of them one length is."""


def pushed(bright, **values):
    """How far an upright bar has gone to the right, in lengths; bright: of what pushes, on a display."""
    grey = f"{round(bright * 255):02x}" * 3
    by = Part(id="by", kind="solid", values={"tint": f"#{grey}"})
    bar = Part(id="bar", kind="shape", values={"sides": 4.0, "radius": 0.1, "glow": 0.0, "softness": 0.0})
    drawn = Drawn(bar, Part(id="push", kind="displace", values={"by": "by"} | values), size=SIZE, read=[by])
    _, columns = np.nonzero(drawn.next() > 60)
    drawn.close()
    return (columns.mean() - SIZE[0] / 2) / UNIT


def test_the_centre_pushes_nothing_and_the_rest_by_how_far_it_lies_from_it():
    assert pushed(0.5, centre=0.5, amount=0.4) == pytest.approx(0.0, abs=0.03)
    assert pushed(1.0, centre=1.0, amount=0.4) == pytest.approx(0.0, abs=0.02)
    assert pushed(1.0, centre=0.0, amount=0.4) == pytest.approx(0.4, abs=0.03)
    assert pushed(0.0, centre=1.0, amount=0.4) == pytest.approx(-0.4, abs=0.03)


def test_only_so_many_different_pushes_are_left():
    """Of three levels, 0, a half and 1, whatever pushes."""
    ways = {round(pushed(bright, centre=0.0, amount=0.6, levels=3.0), 2) for bright in np.linspace(0, 1, 21)}
    assert len(ways) == 3
    assert sorted(ways) == pytest.approx([0.0, 0.3, 0.6], abs=0.03)


def test_a_hit_takes_a_noise_to_its_next_pattern():
    """20 hits, 20 patterns on: it steps, and does not come back."""
    noise = Part(id="noise", kind="noise")
    pattern = next(parameter for parameter in noise.parameters() if parameter.name == "seed")
    edit, _ = new_route(starter_show("Night"), "hit-kick", "hits", ["noise.seed"], pattern, 0.0)
    shaper = edit.item["shapers"][-1]
    step = Part(**shaper, family="shaper").model()
    memory = np.array(step.start(1))
    memory[2] = edit.item["high"] - edit.item["low"]
    numbers, now = np.array(step.numbers({})), TickContext()
    seen = []
    for tick in range(80):
        value, _ = type(step).step(
            0.0, int(tick % 4 == 0), numbers, memory, now.numbers(), now.values, now.hits
        )
        seen.append(edit.item["low"] + value * memory[2])
    assert seen[-1] == pytest.approx(20.0) and (np.diff(seen) >= 0).all()
