"""What tests of the desk start from."""

import pytest


@pytest.fixture
def page(demo, chromium):
    context = chromium.new_context(viewport={"width": 1280, "height": 800})
    made = context.new_page()
    errors = []
    made.on("pageerror", lambda error: errors.append(error.stack))
    made.goto(demo.url)
    made.wait_for_selector("[data-column]")
    made.wait_for_function("document.querySelectorAll('.rail').length === 3")
    yield made
    context.close()
    assert errors == []
