"""What tests of the desk start from."""

import pytest

from harness.browser import SELDOM
from harness.console import listen


@pytest.fixture
def page(demo, chromium, request):
    """The desk. Its pictures are drawn fifteen times a second: it is drawn in software here, and most tests
    look at what stands on it. Those that measure how fast it is see all sixty.
    """
    context = chromium.new_context(viewport={"width": 1280, "height": 800})
    if request.node.get_closest_marker("alone") is None:
        context.add_init_script(SELDOM)
    made = context.new_page()
    said = listen(made)
    made.goto(demo.url)
    made.wait_for_selector("[data-column]")
    made.wait_for_function("document.querySelectorAll('.rail').length === 3")
    yield made
    context.close()
    assert said == []
