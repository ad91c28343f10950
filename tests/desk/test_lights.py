"""The Lights column as a light operator uses it: hang, choose, set, group, colour, chase, patch, and look at
the wire.
"""

import re

import pytest
from playwright.sync_api import expect

from harness.stack import wait_for
from tests.desk.helpers import act, document, open_column
from tests.desk.jobs.conftest import Job


@pytest.fixture
def lights(page, demo):
    """The column open over the running demo, with hands for its drawing."""
    open_column(page, "4")
    expect(page.locator("[data-rig] canvas")).to_be_visible()
    return Job(demo, page)


def values(demo, id):
    return next(lamp for lamp in document(demo)["lamps"] if lamp["id"] == id)["fixture"]["values"]


def group_tile(page, id):
    return page.locator(f"[data-tile=group][data-id={id}] .face")


def test_a_lamp_is_chosen_on_the_drawing_set_by_keys_and_pulled_elsewhere(page, demo, lights):
    place = next(lamp for lamp in document(demo)["lamps"] if lamp["id"] == "foot-1")["place"]
    x, y = lights.at(place["x"], place["z"])
    page.mouse.click(x, y)
    expect(page.locator("aside")).to_contain_text("Foot 1")
    page.locator("[data-function=zoom] [role=slider]").press("End")
    wait_for(lambda: values(demo, "foot-1")["zoom"] == 50.0, 5, "the zoom")
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 40, y - 30, steps=6)
    page.mouse.up()

    def moved():
        now = next(lamp for lamp in document(demo)["lamps"] if lamp["id"] == "foot-1")["place"]
        return now["x"] > place["x"] + 0.5 and now["z"] > place["z"] + 0.4 and now["y"] == place["y"]

    wait_for(moved, 5, "the new place")


def test_a_box_chooses_several_and_one_row_sets_them_all_or_each_by_as_much(page, demo, lights):
    ids = [f"gallery-{number}" for number in (1, 2, 3)]
    demo.set("/lamps/gallery-2/fixture/values/level", 0.3)
    lights.choose(ids)
    expect(page.locator(".count")).to_have_text("3 chosen")
    row = page.locator("[data-function=level]")
    expect(row).to_contain_text("0.10 to 0.30")
    page.get_by_role("switch", name="Each by as much").click()
    row.get_by_role("slider").press("Shift+ArrowRight")
    wait_for(
        lambda: [round(values(demo, id)["level"], 3) for id in ids] == [0.2, 0.4, 0.2], 5, "each by a tenth"
    )
    page.get_by_role("switch", name="Each by as much").click()
    row.get_by_role("slider").press("End")
    wait_for(lambda: [values(demo, id)["level"] for id in ids] == [1.0] * 3, 5, "all at full")
    act(page, "Choose lamps", re.compile("^Every second"))
    expect(page.locator(".count")).to_have_text("2 chosen")
    act(page, "Choose lamps", re.compile("^Mirror image"))
    expect(page.locator(".count")).to_have_text("2 chosen")
    act(page, "Choose lamps", re.compile("^The row"))
    expect(page.locator(".count")).to_have_text("12 chosen")


def test_a_signal_carried_onto_a_groups_row_moves_the_whole_group(page, demo, lights):
    routes = len(document(demo)["routes"])
    group_tile(page, "rail").click()
    expect(page.get_by_label("Name of the group")).to_have_value("Rail")
    from_box = page.locator("[data-column=hear]").get_by_text("Snare").bounding_box()
    to_box = page.locator("[data-function=level]").bounding_box()
    page.mouse.move(from_box["x"] + 8, from_box["y"] + 8)
    page.mouse.down()
    page.mouse.move(to_box["x"] + 60, to_box["y"] + 30, steps=8)
    page.mouse.up()
    made = wait_for(lambda: document(demo)["routes"][routes], 5, "the route")
    assert (made["signal"], made["targets"]) == ("hit-snare", ["rail.level"])
    expect(page.locator("[data-function=level] .chip", has_text="Snare")).to_be_visible()


def test_a_palette_is_pressed_for_the_chosen_and_changed_under_those_that_use_it(page, demo, lights):
    group_tile(page, "foot").click()
    page.locator("[data-tile=palette][data-id=signal-fire] .face").click()
    wait_for(lambda: values(demo, "foot-1")["colour"] == "#ff4a1c", 5, "the colour")
    assert values(demo, "foot-2")["colour"] == "#ff3f8e", "the colours in turn"
    page.locator("[data-tile=palette][data-id=signal-fire]").get_by_role(
        "button", name="Open the palette"
    ).click()
    page.get_by_label("Colour 1 of Signal fire").fill("#00ff88")
    wait_for(lambda: values(demo, "foot-1")["colour"] == "#00ff88", 5, "those that use it")


def test_a_palette_is_pulled_onto_a_group_and_one_is_kept_of_what_is_shown(page, demo, lights):
    count = len(document(demo)["palettes"])
    kelp = page.locator("[data-tile=palette][data-id=kelp] .face")
    kelp.scroll_into_view_if_needed()
    tile = kelp.bounding_box()
    onto = group_tile(page, "door").bounding_box()
    page.mouse.move(tile["x"] + 30, tile["y"] + 20)
    page.mouse.down()
    page.mouse.move(onto["x"] + 30, onto["y"] + 20, steps=8)
    page.mouse.up()
    wait_for(lambda: values(demo, "door-1")["colour"] == "#2fbf5b", 5, "the palette on the door")
    group_tile(page, "door").click()
    act(page, "Keep what the chosen lamps show as a palette", "Their colours")
    made = wait_for(lambda: document(demo)["palettes"][count], 5, "the palette")
    assert set(made["lamps"]) == {"door-1", "door-2"}
    expect(page.get_by_label("Name of the palette")).to_be_visible()


def test_a_chase_starts_and_stops_under_a_thumb_and_says_so(page, demo, lights):
    tile = page.locator("[data-tile=chase][data-id=sparks]")
    expect(tile.locator(".face")).to_have_attribute("aria-pressed", "false")
    tile.locator(".face").click()
    expect(tile.locator(".face")).to_have_attribute("aria-pressed", "true")
    assert document(demo)["chases"][3]["runs"][0]["part"]["values"]["running"]
    tile.locator(".face").click()
    expect(tile.locator(".face")).to_have_attribute("aria-pressed", "false")


def test_identify_shines_white_until_it_is_let_go(page, demo, lights):
    group_tile(page, "foot").click()
    demo.set("/blackout", "lights")
    page.get_by_role("button", name="Identify").hover()
    page.mouse.down()

    def foot():
        return [lamp["cells"][0] for lamp in lights.node("/lamps") if lamp["name"].startswith("Foot")]

    wait_for(lambda: foot() == [[1.0, 1.0, 1.0, 1.0]] * 4, 5, "white")
    page.wait_for_timeout(1500)
    assert foot() == [[1.0, 1.0, 1.0, 1.0]] * 4, "as long as it is held"
    page.mouse.up()
    wait_for(lambda: max(cell[3] for cell in foot()) == 0.0, 5, "dark again")


def test_a_clash_is_shown_and_cured_in_the_patch(page, demo, lights):
    page.get_by_role("button", name="Patch", exact=True).click()
    address = page.get_by_label("Address of Gallery rail 2")
    address.fill("1.3")
    with page.expect_response("**/lamps/address"):
        address.press("Enter")
    row = page.get_by_role("row", name=re.compile("^2 Gallery rail 2"))
    demo.set("/lamps/gallery-2/address", 3)
    expect(row).to_contain_text("On the channels of “Gallery rail 1”")
    row.get_by_role("button", name="To the next that is free").click()
    expect(page.get_by_text("On the channels of")).to_have_count(0)
    lamp = next(lamp for lamp in document(demo)["lamps"] if lamp["id"] == "gallery-2")
    assert lamp["address"] > 3


def test_the_channels_say_whose_they_are_and_can_be_parked(page, demo, lights):
    page.get_by_role("button", name="Channels", exact=True).click()
    sheet = page.locator(".p-drawer")
    sheet.get_by_role("button", name="Channel 50", exact=True).click()
    expect(sheet).to_contain_text("Foot 1 · pan fine")
    sheet.get_by_role("button", name="Channel 500", exact=True).click()
    expect(sheet).to_contain_text("nobody’s")
    sheet.get_by_role("button", name="Full").click()
    wait_for(lambda: document(demo)["lights"]["parked"] == {"1.500": 255}, 5, "the park")
    expect(sheet.locator(".value")).to_have_text("255")


def test_the_wire_says_what_is_wrong_with_a_place(page, demo, lights):
    page.get_by_role("button", name="Wire", exact=True).click()
    card = page.locator("[data-output=output-1]")
    expect(card).to_contain_text("packets a second")
    card.get_by_label("To", exact=True).fill("lamps.example")
    card.get_by_label("To", exact=True).press("Enter")
    expect(card.get_by_role("alert")).to_contain_text("“lamps.example” is not a network address")
    act(page, "One more place", re.compile("^Art-Net"))
    wait_for(lambda: document(demo)["light_outputs"][1]["protocol"] == "art-net", 5, "the second place")


def test_a_curve_is_drawn_with_the_value_of_now_on_it(page, demo, lights):
    group_tile(page, "foot").click()
    page.get_by_text("Its order, its curve").click()
    curve = page.locator("svg.curve")
    expect(curve).to_be_visible()
    before = curve.locator("polyline").get_attribute("points")
    demo.set("/groups/foot/answer/values/shape", "square")
    wait_for(lambda: curve.locator("polyline").get_attribute("points") != before, 5, "the other curve")

    def on_the_line():
        x, y = curve.locator("circle").first.evaluate("e => [e.cx.baseVal.value, e.cy.baseVal.value]")
        return 90 - y == pytest.approx(90 * (x / 240) ** 2, abs=2.5)

    wait_for(on_the_line, 5, "the dot on the line")


def test_the_stand_ins_page_draws_the_rig_in_both_views_and_counts_what_arrives(page, demo):
    page.goto(f"http://127.0.0.1:{demo.node_port}/")
    row = page.locator("[data-universe='1']").filter(has_text="sACN")
    expect(row).to_contain_text("receiving")
    canvas = page.locator("canvas")

    def lit():
        return page.evaluate(
            "() => { const c = document.querySelector('canvas'); const d = c.getContext('2d')"
            ".getImageData(0, 0, c.width, c.height).data; let n = 0;"
            " for (let i = 0; i < d.length; i += 4) n += d[i] + d[i + 1] + d[i + 2] > 300; return n }"
        )

    expect(canvas).to_be_visible()
    wait_for(lambda: lit() > 400, 10, "light on the drawing")
    page.get_by_role("button", name="Top").click()
    wait_for(lambda: lit() > 200, 10, "light from above")
    expect(page.locator("header")).to_contain_text("from packet to screen")


def test_the_drawing_out_of_sight_asks_for_nothing(page, demo, lights):
    page.wait_for_timeout(500)
    open_column(page, "1")
    page.wait_for_timeout(300)
    page.evaluate("window.fulguraSpent.length = 0")
    page.wait_for_timeout(800)
    assert page.evaluate("window.fulguraSpent.length") == 0
