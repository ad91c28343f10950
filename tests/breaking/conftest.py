"""A show to break for each module, and those who look on."""

import time

import pytest

from harness.breaking import Editor, Packets
from harness.stack import start_stack

PATH = "/looks/lantern-tunnel/layers/lantern/source/values/width"


def pytest_addoption(parser):
    parser.addoption("--kills", type=int, default=20, help="how often processes are killed at random moments")


def pytest_collection_modifyitems(config, items):
    """Killing many times takes as many times as long."""
    for item in items:
        if item.name == "test_killed_at_random_moments":
            item.add_marker(pytest.mark.timeout(300 + 60 * config.getoption("--kills")))


def width(stack):
    """What stands at PATH."""
    return stack.show()["document"]["looks"][0]["layers"][0]["source"]["values"]["width"]


@pytest.fixture(scope="module")
def stack(tmp_path_factory):
    started = start_stack(tmp_path_factory.mktemp("breaking") / "data")
    time.sleep(10.0)  # What a start still does, a spare among it, is done.
    yield started
    assert started.stop() == 0


@pytest.fixture(scope="module")
def packets(stack):
    made = Packets(stack)
    yield made
    made.close()


@pytest.fixture
def editor(stack):
    made = Editor(stack, PATH)
    yield made
    made.close()
