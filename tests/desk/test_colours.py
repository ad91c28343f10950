"""Ramps and the palette in use, as a performer handles them on the desk."""

import pytest
from playwright.sync_api import expect

from harness.browser import drag
from harness.stack import wait_for
from tests.desk.helpers import choose, choose_kind, document, open_column


@pytest.fixture
def gradient(page, demo):
    """A gradient whose parameters are open; its values."""
    open_column(page, "3")
    choose_kind(page, "Add a layer", "gradient")
    wait_for(lambda: document(demo)["looks"][0]["layers"][1], 5, "the layer")
    return lambda: document(demo)["looks"][0]["layers"][1]["source"]["values"]


def test_a_ramp_is_made_its_stops_pulled_added_and_taken_away(page, demo, gradient):
    panel, before = page.locator("aside"), len(document(demo)["ramps"])
    choose(panel, "Ramp", "a new ramp")
    wait_for(lambda: len(document(demo)["ramps"]) == before + 1 and gradient()["ramp"], 5, "the ramp")

    def stops():
        return document(demo)["ramps"][-1]["part"]["values"]

    bar = panel.locator("[data-ramp]")
    expect(bar.locator(".stop")).to_have_count(3)
    drag(page, bar.locator(".stop").nth(1), by=(60, 0))
    wait_for(lambda: stops()["place_2"] > 0.55, 5, "the pull")
    width = bar.bounding_box()["width"]
    bar.click(position={"x": 0.25 * width, "y": 6})
    wait_for(lambda: stops()["count"] == 4 and abs(stops()["place_4"] - 0.25) < 0.03, 5, "another stop")
    expect(bar.locator(".stop")).to_have_count(4)
    panel.get_by_role("button", name="Take stop 4 away").click()
    wait_for(lambda: stops()["count"] == 3, 5, "one stop less")
    # Its name, and its end: what took its colours has its own again.
    panel.get_by_label("Name of the ramp").fill("Dusk")
    page.keyboard.press("Enter")
    wait_for(lambda: document(demo)["ramps"][-1]["name"] == "Dusk", 5, "the name")
    panel.get_by_role("button", name="Remove the ramp Dusk").click()
    wait_for(lambda: len(document(demo)["ramps"]) == before and gradient()["ramp"] == "", 5, "the removal")


def test_a_colour_points_at_the_palette_in_use_and_follows_it(page, demo, gradient):
    page.get_by_role("button", name="From colour: colour 2 of the palette").click()
    wait_for(lambda: gradient()["from_colour"] == "@2", 5, "the entry")
    choose(page, "Palette in use", "Frost")
    frost = next(palette for palette in document(demo)["palettes"] if palette["name"] == "Frost")
    wait_for(lambda: document(demo)["palette"] == frost["id"], 5, "the palette")
    swatch = page.locator("aside [data-parameter=from_colour] .swatch")
    red, green, blue = (int(frost["colours"][1][i : i + 2], 16) for i in (1, 3, 5))
    expect(swatch).to_have_css("background-color", f"rgb({red}, {green}, {blue})")
