"""The Route column as a performer uses it: carried, typed and drawn routes, steps, modulators, presets,
hands, why not.
"""

import pytest
from playwright.sync_api import expect

from fulgura.core.wire import BlockId
from fulgura.demo.show import gallery_show
from harness.browser import pace
from harness.stack import live, told, wait_for
from tests.desk.helpers import ROUTES, act, document, open_column


def value_of(demo, target: str) -> float:
    """The live value of a parameter as the engine publishes it."""
    entry = next(
        entry for entry in demo.call("GET", "/layout")[1]["layout"]["indices"] if entry["target"] == target
    )
    return float(live(demo, 0.15, [BlockId.LIVE])[0][-1].blocks[BlockId.LIVE][entry["index"]])


def carry(page, signal: str, target: str) -> None:
    end = page.locator(f'[data-target="{target}"]').bounding_box()
    page.locator(f"[data-signal={signal}]").first.hover()
    page.mouse.down()
    page.mouse.move(end["x"] + 40, end["y"] + 10, steps=8)
    expect(page.locator(".carried")).to_contain_text("moves")
    page.mouse.up()


def test_a_signal_is_carried_from_the_spine_onto_a_parameter(page, demo):
    open_column(page, "3")
    carry(page, "hit-snare", "ring.width")
    made = wait_for(lambda: document(demo)["routes"][ROUTES], 5, "the route")
    assert (made["signal"], made["targets"], [s["kind"] for s in made["shapers"]]) == (
        "hit-snare",
        ["ring.width"],
        ["pulse"],
    )
    expect(page.locator('[data-target="ring.width"]')).to_contain_text("Snare")
    assert page.locator("[data-column=picture].column").count() == 1  # The pull was no click on the spine.


def test_a_route_is_typed_in_three_words(page, demo):
    open_column(page, "2")
    box = page.get_by_label("Type a route")
    box.fill("kick ring glow")
    expect(page.get_by_role("option").first).to_contain_text("Kick moves Ring · glow")
    box.press("Enter")
    made = wait_for(lambda: document(demo)["routes"][ROUTES], 5, "the route")
    assert (made["signal"], made["targets"]) == ("hit-kick", ["ring.glow"])
    box.fill("xylophone doom")
    expect(page.get_by_role("option", name="Nothing is called that.")).to_be_visible()


def test_a_parameters_socket_connects_and_explains(page, demo):
    open_column(page, "3")
    page.locator('[data-target="ring.width"] .socket').click()
    panel = page.get_by_test_id("parameter-panel")
    expect(panel).to_contain_text("Nothing moves it")
    find = panel.get_by_label("Find a signal to move it")
    find.fill("")
    box = panel.bounding_box()
    assert box["y"] >= 0 and box["y"] + box["height"] <= 800, "all of the panel is on the screen"
    find.fill("hat")
    find.press("Enter")  # The first that fits.
    wait_for(lambda: document(demo)["routes"][ROUTES]["signal"] == "hit-hat", 5, "the route")
    demo.set("/routes/" + document(demo)["routes"][ROUTES]["id"] + "/muted", True)
    expect(panel.get_by_role("button", name="Unmute it")).to_be_visible()
    panel.get_by_role("button", name="Unmute it").click()
    wait_for(lambda: not document(demo)["routes"][ROUTES]["muted"], 5, "the cure")


def test_steps_are_shown_switched_moved_and_fitted(page, demo):
    open_column(page, "2")
    route = page.locator("[data-route=r1]")
    route.get_by_role("button", name="Steps").click()
    expect(route.locator("[data-shaper]")).to_have_count(2)
    expect(route.locator("[data-shaper=range] canvas")).to_have_count(2)
    before = document(demo)["routes"][0]["shapers"][0]["values"]
    page.wait_for_timeout(2500)
    route.get_by_role("button", name="Fit to what comes").click()
    expect(route.locator(".told")).to_contain_text("fitted to the last ten seconds")
    after = document(demo)["routes"][0]["shapers"][0]["values"]
    assert (after["low"], after["high"]) != (before["low"], before["high"]) and after["low"] < after["high"]
    route.get_by_role("button", name="Take it back").click()
    wait_for(lambda: document(demo)["routes"][0]["shapers"][0]["values"] == before, 5, "undo")
    route.get_by_label("smooth off").click()
    wait_for(lambda: not document(demo)["routes"][0]["shapers"][1]["on"], 5, "the switch")
    route.get_by_label("smooth earlier").click()
    wait_for(
        lambda: [s["kind"] for s in document(demo)["routes"][0]["shapers"]] == ["smooth", "range"],
        5,
        "the move",
    )


def test_steps_are_saved_taken_and_their_users_follow(page, demo):
    open_column(page, "2")
    first = page.locator("[data-route=r1]")
    first.get_by_role("button", name="Steps").click()
    first.get_by_label("Name for these steps").fill("Soft")
    first.get_by_role("button", name="Save", exact=True).click()
    wait_for(lambda: document(demo)["chains"][0]["name"] == "Soft", 5, "the chain")
    third = page.locator("[data-route=r3]")
    third.scroll_into_view_if_needed()
    third.get_by_role("button", name="Steps").click()
    act(third, "Take saved steps…", "Soft")
    wait_for(
        lambda: document(demo)["routes"][2]["shapers"] == document(demo)["routes"][0]["shapers"],
        5,
        "the steps",
    )
    demo.set("/routes/r3/shapers/smooth/values/release", 900.0)
    third.get_by_role("button", name="Update “Soft”").click()
    third.get_by_role("button", name="Update it too").click()
    wait_for(lambda: document(demo)["routes"][0]["shapers"][1]["values"]["release"] == 900.0, 5, "its users")


def test_a_modulator_is_made_drawn_and_shows_what_is_wrong(page, demo):
    open_column(page, "2")
    page.get_by_role("tab", name="Modulators").click()
    page.locator("button.button", has_text="Pattern").click()
    made = wait_for(lambda: document(demo)["modulators"][2], 5, "the pattern")
    card = page.locator(f"[data-modulator={made['id']}]")
    step = card.get_by_role("slider", name="Step 2")
    step.focus()
    page.keyboard.press("ArrowUp")
    wait_for(lambda: document(demo)["modulators"][2]["part"]["values"]["steps"][1] == 0.05, 5, "the step")
    page.locator("button.button", has_text="Expression").click()
    made = wait_for(lambda: document(demo)["modulators"][3], 5, "the expression")
    card = page.locator(f"[data-modulator={made['id']}]")
    words = card.get_by_label("Is", exact=True)
    words.fill("low + lwo")
    words.press("Enter")
    expect(card).to_contain_text("There is no signal called “lwo”")
    card.get_by_role("button", name="Write it anew").click()
    wait_for(lambda: document(demo)["modulators"][3]["part"]["values"]["words"] == "low", 5, "the cure")
    words.fill("max(low, 0.5 * kick)")
    words.press("Enter")
    expect(card.get_by_text("There is no signal")).to_have_count(0)


def test_a_grabbed_value_follows_the_hand_and_goes_back(page, demo):
    open_column(page, "3")
    bar = page.locator('[data-target="ring.radius"] .bar')
    bar.hover(position={"x": bar.bounding_box()["width"] * 0.8, "y": 10})
    page.mouse.down()
    wait_for(lambda: value_of(demo, "ring.radius") == pytest.approx(1.6, abs=0.05), 5, "the hand's value")
    page.mouse.up()
    wait_for(lambda: value_of(demo, "ring.radius") < 1.0, 5, "the way back")
    # Frozen with F as long as it is held.
    bar.focus()
    page.keyboard.down("f")
    wait_for(
        lambda: (
            abs(value_of(demo, "ring.radius") - value_of(demo, "ring.radius")) < 1e-9
            and "ring.radius" in held(demo)
        ),
        5,
        "the freeze",
    )
    page.keyboard.up("f")
    wait_for(lambda: not held(demo), 5, "its end")


def held(demo) -> list:
    return told(demo)["overridden"]


def test_escape_held_hands_everything_back(page, demo):
    page.keyboard.down("Escape")
    wait_for(lambda: document(demo)["sound_amount"] == 0.0, 5, "hand back")
    page.keyboard.up("Escape")
    wait_for(lambda: value_of(demo, "ring.radius") == pytest.approx(0.3), 5, "the hand value")


def test_presets_are_kept_recalled_marked_and_compared(page, demo):
    open_column(page, "3")
    page.locator("aside .keeps").get_by_role("button", name="Ring").click()
    presets = page.locator("aside .presets")
    expect(presets.locator(".one").first).to_contain_text("Hand only")
    presets.get_by_label("Name of a new preset").fill("Calm")
    presets.get_by_role("button", name="Keep", exact=True).click()
    expect(presets.locator(".one.chosen")).to_contain_text("Calm")
    demo.set("/looks/lantern-tunnel/layers/lantern/source/values/radius", 1.5)
    expect(presets.get_by_label("changed")).to_be_visible()
    presets.get_by_role("button", name="A/B").click()
    wait_for(
        lambda: document(demo)["looks"][0]["layers"][0]["source"]["values"]["radius"] == 0.3, 5, "the preset"
    )
    presets.get_by_role("button", name="B/A").click()
    wait_for(
        lambda: document(demo)["looks"][0]["layers"][0]["source"]["values"]["radius"] == 1.5,
        5,
        "what was there",
    )
    presets.get_by_role("button", name="Hand only").click()
    wait_for(
        lambda: all("ring." not in route["targets"][0] for route in document(demo)["routes"]), 5, "hand only"
    )


def test_the_map_shows_every_route_and_opens_it(page, demo):
    open_column(page, "2")
    page.get_by_role("tab", name="Map").click()
    expect(page.locator(".map path")).to_have_count(
        sum(len(route.targets) for route in gallery_show().routes)
    )
    expect(page.locator(".map .to").first).to_be_visible()
    # A strand is pointed at in its middle, where nothing else lies.
    page.locator(".map path").nth(3).dispatch_event("click")
    expect(page.locator("[data-route=r4].open")).to_be_visible()


@pytest.mark.alone
def test_only_routes_in_sight_are_drawn(page, demo):
    routes = [
        {
            "id": f"many-{i}",
            "signal": "band-low",
            "targets": ["ring.radius"],
            "low": 0.2,
            "high": 0.6,
            "shapers": [{"id": "range", "kind": "range"}, {"id": "smooth", "kind": "smooth"}],
        }
        for i in range(200)
    ]
    demo.set("/routes", routes)
    open_column(page, "2")
    expect(page.locator("[data-route]")).to_have_count(200)
    drawn = wait_for(lambda: page.locator("[data-column=route] canvas").count(), 5, "the traces")
    assert 6 <= drawn <= 40
    expect(page.locator("[data-route=many-0] canvas").first).to_be_visible()
    assert min(pace(page)[1] for _ in range(5)) < 12.0
