"""Fixtures with other than three channels: each lamp shines in its own colour, whatever stands before it."""

from typing import Any

import numpy as np
import pytest
from numpy.typing import NDArray

from fulgura.core.kinds.fixture import Fixture
from fulgura.core.kinds.parameters import Colour, Ratio, param
from fulgura.core.lights.universe import lights
from fulgura.core.performer import Performer
from fulgura.core.show.lights import Lamp
from fulgura.core.show.part import Part
from fulgura.core.wire import BlockId
from fulgura.demo.show import demo_show


@pytest.fixture
def eight_channels():
    """A lamp of eight channels: dimmer, red, green, blue, white, and three that do nothing here."""

    class WideLamp(Fixture):
        """A dimmer, four emitters and three more."""

        channels = 8

        level: Ratio = param(0.5, help="Brightness")
        colour: Colour = param("#00ff00", help="Colour of the light")

        @classmethod
        def channel_values(cls, live: NDArray[Any]) -> NDArray[Any]:
            dimmer, red, green, blue = np.rint(live[:4] * 255.0)
            return np.array([dimmer, red, green, blue, 0, 7, 7, 7], dtype=np.uint8)

        @classmethod
        def light(cls, channel_values: NDArray[Any]) -> tuple[tuple[float, float, float], float]:
            red, green, blue = (float(value) / 255.0 for value in channel_values[1:4])
            return (red, green, blue), float(channel_values[0]) / 255.0

    yield WideLamp
    del Fixture.kinds["wide-lamp"]


def test_a_lamp_of_eight_channels_leaves_the_colour_of_the_next_alone(eight_channels):
    lamps = [
        Lamp(id="wide", name="Wide", address=1, fixture=Part(id="w", kind="wide-lamp")),
        Lamp(
            id="red",
            name="Red",
            address=9,
            fixture=Part(id="r", kind="rgb-lamp", values={"level": 0.5, "colour": "#ff0000"}),
        ),
    ]
    performer = Performer(demo_show().model_copy(update={"lamps": lamps, "routes": []}))
    performer.hear(np.zeros((256, 2)))
    frame = performer.tick()
    assert frame.universes[1][:12].tolist() == [128, 0, 255, 0, 0, 7, 7, 7, 128, 0, 0, 0]
    block = performer.packet(frame).blocks[BlockId.LAMPS].reshape(-1, 4)
    np.testing.assert_allclose(block, [[0, 1, 0, 128 / 255], [1, 0, 0, 128 / 255]], atol=1e-6)


def test_a_dark_lamp_has_no_colour_and_a_bright_one_has_one_as_its_strongest():
    lamp = Lamp(id="a", name="A", address=4, fixture=Part(id="l", kind="rgb-lamp"))
    frame = np.zeros(512, dtype=np.uint8)
    assert lights([lamp], {1: frame}).tolist() == [[0, 0, 0, 0]]
    frame[3:6] = (51, 102, 0)
    np.testing.assert_allclose(lights([lamp], {1: frame}), [[0.5, 1.0, 0.0, 0.4]], atol=1e-6)
