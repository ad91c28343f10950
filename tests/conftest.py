"""What many tests share: the whole application over a fresh data folder, and a browser that can draw."""

import shutil
from collections.abc import Iterator

import pytest
from hypothesis import settings
from playwright.sync_api import Browser, Playwright, expect, sync_playwright

from harness.browser import CHROMIUM
from harness.stack import PATIENCE, Stack, start_stack

# How long an example takes says more about the machine than about what is tested.
settings.register_profile("any machine", deadline=None)
settings.load_profile("any machine")


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """What needs the running demo comes last, so that it does not take a processor from the rest.

    What plays in real time is tried twice more when it fails, some seconds later: on a host that lends its
    processors to others engine and browser may stand still for as long. The summary names what needed it.
    """
    items.sort(key=lambda item: "stack" in item.fixturenames)
    for item in items:
        plays = {"stack", "own", "chromium"} & set(item.fixturenames)
        if plays and item.get_closest_marker("flaky") is None:
            item.add_marker(pytest.mark.flaky(reruns=2, reruns_delay=5))


expect.set_options(timeout=PATIENCE * 5_000)


@pytest.fixture(scope="session")
def stack(tmp_path_factory) -> Iterator[Stack]:
    """The demo, started once for all tests that leave it as they found it."""
    started = start_stack(tmp_path_factory.mktemp("stack") / "data")
    yield started
    assert started.stop() == 0


@pytest.fixture(scope="module")
def own(tmp_path_factory):
    """A stack of its own, whose processes may be killed."""
    started = start_stack(tmp_path_factory.mktemp("own") / "data")
    yield started
    if started.process.poll() is None:
        started.stop()


@pytest.fixture
def demo(stack) -> Iterator[Stack]:
    """The running demo; afterwards every step that the test made is undone."""
    head = stack.show()["head"]
    yield stack
    while stack.show()["head"] > head:
        stack.call("POST", "/show/undo")


@pytest.fixture(scope="session")
def playwright_driver() -> Iterator[Playwright]:
    with sync_playwright() as playwright:
        yield playwright


@pytest.fixture(scope="session")
def chromium(playwright_driver) -> Iterator[Browser]:
    browser = playwright_driver.chromium.launch(executable_path=shutil.which("chromium"), args=CHROMIUM)
    yield browser
    browser.close()
