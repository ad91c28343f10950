"""What tests of the desk start from."""

import pytest

from harness.browser import SELDOM
from harness.console import OF_WHAT_IS_GONE, listening


@pytest.fixture(scope="session", autouse=True)
def said():
    with listening() as said:
        yield said


@pytest.fixture(autouse=True)
def console(said, request):
    """No page of a test says that anything went wrong in it, but where the test itself ends a process."""
    said.clear()
    yield
    ends = request.node.get_closest_marker("ends_processes") is not None
    wrong = [words for words in said if not (ends and OF_WHAT_IS_GONE.search(words))]
    assert wrong == []


@pytest.fixture
def page(demo, chromium, request):
    """The desk. Its pictures are drawn seven times a second: it is drawn in software here, and most tests
    look at what stands on it. Those that measure how fast it is see all sixty.
    """
    context = chromium.new_context(viewport={"width": 1280, "height": 800})
    if request.node.get_closest_marker("alone") is None:
        context.add_init_script(SELDOM)
    made = context.new_page()
    made.goto(demo.url)
    made.wait_for_selector("[data-column]")
    made.wait_for_function("document.querySelectorAll('.rail').length === 3")
    yield made
    context.close()
