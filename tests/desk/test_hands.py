"""From a thought to a moving picture: what is typed, carried, copied and opened, without a stumble."""

import json

import pytest
from playwright.sync_api import expect

from harness.stack import wait_for
from tests.desk.helpers import choose_kind, document, open_column


def shown(demo):
    found = document(demo)
    return next(look for look in found["looks"] if look["id"] == found["look"])


def ring(demo):
    return next(layer["source"] for layer in shown(demo)["layers"] if layer["source"]["kind"] == "ring")


def delayed(page, seconds):
    """Every change takes so long to be answered, half of it on the way there; what is asked comes at once."""
    page.evaluate(
        """seconds => {
          const real = window.fetch
          const wait = () => new Promise((resolve) => setTimeout(resolve, seconds * 500))
          window.fetch = async (url, options) => {
            if ((options?.method ?? 'GET') === 'GET') return real(url, options)
            await wait()
            const answer = await real(url, options)
            await wait()
            return answer
          }
        }""",
        seconds,
    )


@pytest.mark.parametrize(
    ("text", "radius"),
    [("0.5", 0.5), ("1/3", 1 / 3), ("2*(0.04+0.06)", 0.2), ("-6 dB", 0.501187), ("40 %", 0.4), ("9", 2.0)],
)
def test_numbers_are_typed_with_units_and_in_sums(page, demo, text, radius):
    open_column(page, "3")
    page.locator(".layer .step").first.click()
    page.locator("aside [data-parameter=radius] .read").click()
    page.keyboard.type(text)
    page.keyboard.press("Enter")
    wait_for(lambda: abs(ring(demo)["values"]["radius"] - radius) < 1e-5, 5, "the typed radius")
    # The focus is left: the keys are the desk's again.
    page.keyboard.press("2")
    expect(page.locator("[data-column=route].column")).to_be_visible()


def test_tab_goes_on_escape_leaves_and_nonsense_is_said(page, demo):
    open_column(page, "3")
    page.locator(".layer .step").first.click()
    page.locator("aside [data-parameter=radius] .read").click()
    page.keyboard.type("0.6")
    page.keyboard.press("Tab")
    page.keyboard.type("0.11")
    page.keyboard.press("Enter")
    wait_for(
        lambda: (ring(demo)["values"]["radius"], ring(demo)["values"]["width"]) == (0.6, 0.11), 5, "both"
    )
    page.locator("aside [data-parameter=radius] .read").click()
    page.keyboard.type("loud")
    page.keyboard.press("Enter")
    expect(page.locator("input.typed[aria-invalid=true]")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.locator("input.typed")).to_have_count(0)
    assert ring(demo)["values"]["radius"] == 0.6
    # Gone to by keys, a value is typed at once; a double click brings it back to rest.
    page.locator("aside [data-parameter=radius] .socket").focus()
    page.keyboard.press("Tab")
    page.keyboard.type("0.7")
    page.keyboard.press("Enter")
    wait_for(lambda: ring(demo)["values"]["radius"] == 0.7, 5, "the typed radius")
    page.locator("aside [data-parameter=radius] [role=slider]").dblclick()
    wait_for(lambda: ring(demo)["values"]["radius"] == 0.4, 5, "its rest")


def test_milliseconds_take_seconds_and_beats(page, demo):
    open_column(page, "2")
    card = page.locator("article[data-route=r1]")
    for text, wanted in (("0.3 s", 300.0), ("1/4 beats", None)):
        card.get_by_label("smooth Down").first.click()
        page.keyboard.type(text)
        page.keyboard.press("Enter")
        if wanted:
            wait_for(lambda w=wanted: released(demo) == w, 5, "the typed time")
    # A quarter of a beat at about 124 BPM.
    wait_for(lambda: 110 < released(demo) < 130, 5, "a share of a beat")


def released(demo):
    shapers = document(demo)["routes"][0]["shapers"]
    return next(part["values"]["release"] for part in shapers if part["kind"] == "smooth")


@pytest.mark.parametrize("seconds", [0, 1.5, 5])
def test_no_letter_of_a_new_looks_name_is_lost_however_late_the_answers_are(page, demo, seconds):
    """A look, its name and a layer, typed and clicked at once: all of it goes there, nothing elsewhere."""
    before = {look["id"]: look for look in document(demo)["looks"]}
    open_column(page, "3")
    delayed(page, seconds)
    page.get_by_role("button", name="New look", exact=True).click()
    page.keyboard.type("Quay seven", delay=30)
    page.keyboard.press("Enter")
    choose_kind(page, "Add a layer", "shape")
    if seconds:
        expect(page.locator("[role=status].health")).to_have_text("saving…")
        expect(page.get_by_text("Shape is on its way")).to_be_visible()
    wait_for(lambda: shown(demo)["name"] == "Quay seven" and shown(demo)["layers"], 30, "look and layer")
    assert [layer["name"] for layer in shown(demo)["layers"]] == ["Shape"]
    after = {look["id"]: look for look in document(demo)["looks"] if look["id"] in before}
    assert after == before
    expect(page.locator(".layer .step.chosen")).to_contain_text("Shape")
    expect(page.locator("[role=status].health")).to_have_text("all saved", timeout=15_000)


def test_new_layers_lie_on_top_open_and_are_moved_by_keys(page, demo):
    open_column(page, "3")
    for kind in ("ring", "noise"):
        choose_kind(page, "Add a layer", kind)
        expect(page.locator(".layer").first.locator(".step.chosen")).to_be_visible()
    names = [layer["name"] for layer in shown(demo)["layers"]]
    assert names[-2:] == ["Ring", "Noise"]
    page.locator(".layer").first.locator(".grip").focus()
    page.keyboard.press("Alt+ArrowDown")
    wait_for(
        lambda: [layer["name"] for layer in shown(demo)["layers"]][-2:] == ["Noise", "Ring"], 5, "the move"
    )
    choose_kind(page, "Add an effect to Ring", "bloom")
    expect(page.locator("aside h2")).to_have_text("Bloom")
    # Nothing of it lies below the edge of the screen.
    box = page.locator("[data-layer=finish]").bounding_box()
    assert box["y"] + box["height"] <= 760


def test_two_columns_stand_open_and_are_kept_by_show(page, demo):
    open_column(page, "3")
    page.keyboard.press("Shift+Digit2")
    expect(page.locator(".column")).to_have_count(2)
    widths = [box.bounding_box()["width"] for box in page.locator(".column").all()]
    assert abs(widths[0] - widths[1]) < 12
    border = page.get_by_role("separator")
    at = border.bounding_box()
    page.mouse.move(at["x"] + 4, at["y"] + 200)
    page.mouse.down()
    page.mouse.move(at["x"] + 124, at["y"] + 200, steps=5)
    page.mouse.up()
    wider = page.locator("[data-column=route]").bounding_box()["width"]
    assert abs(wider - widths[0] - 120) < 14
    page.reload()
    expect(page.locator(".column")).to_have_count(2)
    assert abs(page.locator("[data-column=route]").bounding_box()["width"] - wider) < 4
    page.keyboard.press("Shift+Digit2")
    expect(page.locator(".column")).to_have_count(1)
    expect(page.locator("[data-column=picture].column")).to_be_visible()


def test_the_cause_is_tuned_where_the_route_shows(page, demo):
    open_column(page, "2")
    card = page.locator("article[data-route=r1]")
    card.get_by_role("button", name="Steps").click()
    edge = card.get_by_label("Low ends; arrows move it")
    before = document(demo)["bands"][0]["high_hz"]
    edge.focus()
    for _ in range(3):
        page.keyboard.press("ArrowLeft")
    wait_for(lambda: document(demo)["bands"][0]["high_hz"] < before * 0.95, 5, "the band's edge")
    gain = card.locator("[data-parameter=gain_db]")
    gain.locator(".read").click()
    page.keyboard.type("-3 dB")
    page.keyboard.press("Enter")
    wait_for(lambda: document(demo)["bands"][0]["gain_db"] == -3.0, 5, "the band's gain")


def carry(page, start, end):
    # Under the picture, which stays in sight, it could not be taken hold of.
    start.evaluate("element => element.scrollIntoView({ block: 'end' })")
    a, b = start.bounding_box(), end.bounding_box()
    page.mouse.move(a["x"] + a["width"] / 2, a["y"] + a["height"] / 2)
    page.mouse.down()
    page.mouse.move(b["x"] + b["width"] / 2, b["y"] + 14, steps=8)
    page.mouse.up()


def test_a_signal_onto_a_route_and_a_parameter_onto_a_route(page, demo):
    open_column(page, "3")
    page.locator(".layer .step").first.click()
    page.keyboard.press("Shift+Digit2")
    card = page.locator("article[data-route=r1]")
    expect(card).to_be_visible()
    carry(page, page.locator("[data-column=hear] [data-signal=band-mid]"), card)
    wait_for(lambda: document(demo)["routes"][0]["signal"] == "band-mid", 5, "the other signal")
    carry(page, page.locator("aside [data-parameter=width] .name"), card)
    wait_for(lambda: document(demo)["routes"][0]["targets"][-1] == "ring.width", 5, "one more target")
    expect(card).to_contain_text("and 1 more")


def test_a_route_onto_a_shaper_by_its_socket(page, demo):
    open_column(page, "2")
    card = page.locator("article[data-route=r1]")
    card.get_by_role("button", name="Steps").click()
    card.get_by_role("button", name="What moves smooth Down").click()
    panel = page.get_by_test_id("parameter-panel")
    panel.get_by_placeholder("Find a signal").fill("level")
    page.keyboard.press("Enter")
    wait_for(
        lambda: any(route["targets"] == ["step@r1@smooth.release"] for route in document(demo)["routes"]),
        5,
        "the route onto the shaper",
    )
    expect(panel).to_contain_text("one frame later")
    page.keyboard.press("Escape")
    expect(card.get_by_role("button", name="What moves smooth Down")).to_contain_text("Level")


def test_the_panel_of_a_parameter_covers_neither_it_nor_the_strip_and_edits_what_moves_it(page, demo):
    open_column(page, "3")
    page.locator(".layer .step").first.click()
    for name in ("radius", "rotation"):
        control = page.locator(f"aside [data-parameter={name}]")
        control.get_by_role("button", name="What moves").click()
        panel = page.locator(".p-popover")
        expect(panel).to_be_visible()
        page.wait_for_timeout(400)
        a, b = panel.bounding_box(), control.bounding_box()
        assert a["x"] + a["width"] <= b["x"] or a["x"] >= b["x"] + b["width"], name
        assert a["y"] >= 48 and a["y"] + a["height"] <= 800
        if name == "radius":
            row = panel.locator(".mover").first
            row.get_by_role("button", name="Mute").click()
            wait_for(lambda: document(demo)["routes"][0]["muted"], 5, "the muted route")
            row.get_by_label("High end").click()
            page.keyboard.type("0.9")
            page.keyboard.press("Enter")
            wait_for(lambda: document(demo)["routes"][0]["high"] == 0.9, 5, "the other end")
        page.keyboard.press("Escape")
        expect(panel).to_have_count(0)


def test_layers_are_copied_by_keys_and_through_the_clipboard(page, demo):
    page.context.grant_permissions(["clipboard-read", "clipboard-write"])
    open_column(page, "3")
    count = len(shown(demo)["layers"])
    moved = len(document(demo)["routes"])
    page.locator(".layer .step").first.click()
    page.keyboard.press("Control+d")
    wait_for(lambda: len(shown(demo)["layers"]) == count + 1, 5, "the copy")
    assert len(document(demo)["routes"]) > moved
    page.keyboard.press("Control+z")
    wait_for(lambda: len(shown(demo)["layers"]) == count, 5, "all of it taken back")
    assert len(document(demo)["routes"]) == moved
    page.locator(".layer .step").first.click()
    page.keyboard.press("Control+c")
    expect(page.locator(".p-toast")).to_contain_text("Copied")
    text = page.evaluate("navigator.clipboard.readText()")
    assert json.loads(text)["format"] == "fulgura-copy"
    page.get_by_role("button", name="New look", exact=True).click()
    page.keyboard.type("Other")
    page.keyboard.press("Enter")
    wait_for(lambda: shown(demo)["name"] == "Other", 5, "the other look")
    page.keyboard.press("Control+v")
    wait_for(lambda: len(shown(demo)["layers"]) == 1, 5, "the layer in the other look")


def test_another_programs_clipboard_is_refused_in_a_sentence(page, demo):
    open_column(page, "3")
    head = demo.show()["head"]
    page.evaluate(
        """() => {
          const data = new DataTransfer()
          data.setData('text/plain', '<svg/>')
          document.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }))
        }"""
    )
    expect(page.locator(".p-toast")).to_contain_text("not copied in Fulgura")
    assert demo.show()["head"] == head


@pytest.mark.parametrize("delay_s", [0.0, 1.0])
def test_a_typed_route_is_taken_however_quick_enter_is(page, demo, delay_s):
    """Words and Enter in one go, before anybody has answered what they mean."""
    page.evaluate(
        """late => {
            const real = window.fetch
            window.fetch = async (url, ...rest) => {
                if (String(url).includes('understood')) await new Promise(go => setTimeout(go, late))
                return real(url, ...rest)
            }
        }""",
        delay_s * 1000,
    )
    open_column(page, "2")
    before = {route["id"] for route in document(demo)["routes"]}
    box = page.get_by_label("Type a route")
    box.click()
    page.keyboard.type("low ring softness from 0.1 to 0.7")
    page.keyboard.press("Enter")
    wait_for(lambda: page.wait_for_timeout(50) or len(document(demo)["routes"]) > len(before), 5, "the route")
    made = next(route for route in document(demo)["routes"] if route["id"] not in before)
    assert made["targets"] == ["ring.softness"] and made["signal"] == "band-low"
    assert [
        (each["values"]["low"], each["values"]["high"]) for each in made["shapers"] if each["kind"] == "range"
    ]
    expect(box).to_have_value("")
    expect(page.locator(".p-autocomplete-overlay")).to_be_hidden()
    page.keyboard.press("3")  # The keys are the desk's again.
    expect(page.locator("[data-column=picture].column")).to_be_visible()


def test_a_typed_route_into_a_look_that_is_not_shown_asks_first(page, demo):
    open_column(page, "2")
    count = len(document(demo)["routes"])
    box = page.get_by_label("Type a route")
    box.click()
    page.keyboard.type("low noise fog contrast")
    expect(page.locator(".p-autocomplete-option").first).to_contain_text("Fog bank")
    page.keyboard.press("Enter")
    question = page.get_by_role("alert").filter(has_text="which is not shown")
    expect(question).to_be_visible()
    assert len(document(demo)["routes"]) == count
    question.get_by_role("button", name="Join it all the same").click()
    wait_for(lambda: len(document(demo)["routes"]) == count + 1, 5, "the route")


def test_the_sentence_says_that_it_is_fitted_and_fits_again(page, demo):
    open_column(page, "2")
    card = page.locator("article[data-route=r1]")
    again = card.get_by_role("button", name="Fit range again").first
    expect(again).to_have_text("fit ")
    again.click()
    wait_for(lambda: document(demo)["routes"][0].get("fitted"), 5, "the fit")
    expect(again).to_have_text("fitted ")


def test_what_a_route_moves_is_added_taken_away_and_exchanged(page, demo):
    open_column(page, "2")
    card = page.locator("article[data-route=r1]")
    card.get_by_role("button", name="Steps").click()
    card.get_by_role("combobox", name="And one more").click()
    page.get_by_role("option", name="Ring · width", exact=True).click()
    wait_for(lambda: document(demo)["routes"][0]["targets"][-1] == "ring.width", 5, "one more")
    card.get_by_role("button", name="In turn").click()
    wait_for(lambda: document(demo)["routes"][0]["shapers"][0]["kind"] == "cycle", 5, "turns")
    card.get_by_role("button", name="No more: Ring · width").click()
    wait_for(lambda: document(demo)["routes"][0]["targets"] == ["ring.radius"], 5, "one less")
    card.get_by_role("combobox", name="What the route hears").click()
    page.get_by_role("option", name="High", exact=True).click()
    wait_for(lambda: document(demo)["routes"][0]["signal"] == "band-high", 5, "the other signal")


def test_the_house_band_can_be_heard_here(page, demo):
    with page.expect_response(lambda answer: "/house-band/audio" in answer.url, timeout=30_000):
        demo.set("/inputs/main/use", "house")
    # A browser that nobody has touched yet asks first; one that was goes on by itself.
    asked, on = page.get_by_text("Let me hear it"), page.get_by_role("button", name="Sound is on here")
    expect(asked.or_(on)).to_be_visible()
    page.wait_for_timeout(500)
    if asked.count():
        asked.click()
    expect(on).to_be_visible()
    with page.expect_response(lambda answer: "/house-band/audio" in answer.url, timeout=15_000) as heard:
        demo.set("/inputs/main/house/tempo_bpm", 132.0)
    assert heard.value.status == 200
