"""The real desk in headless Chromium, as a performer uses it."""

import io
import json
import re
import shutil
import time

import numpy as np
import pytest
import soundfile
from PIL import Image
from playwright.sync_api import expect

from fulgura.core.synthesis import kit
from harness.browser import CHROMIUM, drag, pace
from harness.stack import wait_for
from tests.desk.helpers import ROUTES, SHOWN, act, document, open_column


def settled(page, read):
    """What is read once it stays the same for a while, however slow the page is."""
    last = read()
    for _ in range(20):
        page.wait_for_timeout(700)
        last, before = read(), last
        if last == before:
            return last
    raise AssertionError(f"it never came to rest: {last}")


@pytest.mark.alone
def test_a_newcomer_sees_picture_and_lamp_move_within_ten_seconds(demo, chromium):
    """The best of three: on a host that is lent to others a browser may take ten seconds for its
    first line.
    """
    for _ in range(3):
        context = chromium.new_context(viewport={"width": 1280, "height": 800})
        try:
            page = context.new_page()
            started = time.monotonic()
            page.goto(demo.url)
            expect(page.get_by_text("Night at Vesper Point")).to_be_visible()
            expect(page.get_by_test_id("input-name")).to_have_text("Lamp Room")
            strip = page.locator("[data-column=lights] canvas")
            seen, pictures = set(), set()
            while time.monotonic() - started < 10 and (len(seen) < 3 or len(pictures) < 3):
                seen.add(strip.evaluate("e => e.toDataURL()"))
                pictures.add(page.locator("[data-column=picture] canvas").screenshot())
            if len(seen) < 3 or len(pictures) < 3:
                continue
            expect(page.get_by_test_id("tempo")).to_have_text(re.compile(r"12[345]\.\d"), timeout=30_000)
            expect(page.get_by_test_id("level")).not_to_have_text("–∞")
            return
        finally:
            context.close()
    pytest.fail(f"Of lamp and picture {len(seen)} and {len(pictures)} states were seen within ten seconds.")


def test_a_band_is_dragged_on_the_score(page, demo):
    rail = page.locator(".rail[data-band=low]")
    before = document(demo)["bands"][0]
    drag(page, rail, by=(0, -60))
    wait_for(lambda: document(demo)["bands"][0]["low_hz"] > before["low_hz"] * 1.2, 5, "the band's move")
    after = settled(page, lambda: document(demo)["bands"][0])  # The drag's last edit is through.
    assert after["high_hz"] / after["low_hz"] == pytest.approx(before["high_hz"] / before["low_hz"], rel=0.02)
    # One drag is one step: a single undo takes it back, in this page and after a reload alike.
    page.reload()
    page.wait_for_selector(".rail[data-band=low]")
    page.keyboard.press("Control+z")
    wait_for(lambda: document(demo)["bands"][0] == before, 5, "undo")
    page.keyboard.press("Control+Shift+z")
    wait_for(lambda: document(demo)["bands"][0] == after, 5, "redo")


def test_the_input_changes_to_the_house_band_and_back(page, demo):
    page.get_by_role("button", name="House band").click()
    wait_for(lambda: document(demo)["inputs"][0]["use"] == "house", 5, "the house band")
    expect(page.get_by_test_id("input-name")).to_have_text("House band")
    for title in ("Tempo", "Density", "Level", "Noise", "Level creep"):
        expect(page.get_by_role("slider", name=title, exact=True)).to_be_visible()
    slider = page.get_by_role("slider", name="Tempo", exact=True)
    slider.focus()
    page.keyboard.press("Shift+ArrowRight")
    wait_for(lambda: document(demo)["inputs"][0]["house"]["tempo_bpm"] == pytest.approx(140), 5, "the tempo")
    page.get_by_role("button", name="Track", exact=True).click()
    wait_for(lambda: document(demo)["inputs"][0]["use"] == "track", 5, "the track")


def test_routes_read_as_sentences_and_a_range_acts_at_once(page, demo):
    open_column(page, "2")
    # What moves only looks that are not shown is out of the way until it is asked for.
    expect(page.locator("[data-route]")).to_have_count(SHOWN)
    page.get_by_role(
        "button", name=f"{ROUTES - SHOWN} more routes belong to looks that are not shown"
    ).click()
    expect(page.locator("[data-route]")).to_have_count(ROUTES)
    sentence = page.locator("[data-route=r1]")
    sentence.scroll_into_view_if_needed()
    expect(sentence).to_contain_text("Low")
    expect(sentence).to_contain_text("Ring · radius")
    high = sentence.get_by_role("spinbutton", name="High end")
    high.click()
    page.keyboard.type("1.8")
    page.keyboard.press("Enter")
    wait_for(lambda: document(demo)["routes"][0]["high"] == 1.8, 5, "the range")
    # Typing that is given up changes nothing.
    high.click()
    page.keyboard.type("0.5")
    page.keyboard.press("Escape")
    expect(high).to_have_text(re.compile("1.8"))
    assert document(demo)["routes"][0]["high"] == 1.8
    drag(page, sentence.get_by_role("spinbutton", name="smooth Down"), by=(50, 0), at=(10, 10))
    wait_for(lambda: document(demo)["routes"][0]["shapers"][1]["values"]["release"] > 500, 5, "the smoothing")


def test_a_route_is_muted_and_says_so(page, demo):
    open_column(page, "2")
    page.locator("[data-route=r2]").get_by_role("button", name="Mute").click()
    wait_for(lambda: document(demo)["routes"][1]["muted"], 5, "the mute")
    expect(page.locator("[data-route=r2]")).to_contain_text("Muted.")
    # What is left is the swell over the whole rail; without it the lamp rests at its hand value: #ff9a3d is
    # 1.0, 0.3231, 0.0467 in linear light, of which 0.0467 is white's, at a tenth.
    demo.call("PUT", "/chases/swell/running", {"running": False})
    wait_for(lambda: demo.lamp() == [24, 7, 0], 5, "the lamp's rest at its hand value")


def test_a_new_route_is_made_and_shaped(page, demo):
    open_column(page, "2")
    page.locator(".top").get_by_role("button", name="New route").click()
    page.get_by_label("Signal", exact=True).click()
    page.get_by_role("option", name="Snare").click()
    page.get_by_label("Parameter", exact=True).click()
    page.get_by_role("option", name="Ring · width", exact=True).click()
    page.get_by_role("button", name="Add it").click()
    made = wait_for(lambda: document(demo)["routes"][ROUTES], 5, "the route")
    assert (made["signal"], made["targets"]) == ("hit-snare", ["ring.width"])
    # It is open at once, so that it can be shaped; a menu closes while the page scrolls to it.
    page.wait_for_timeout(800)
    act(page.locator(f"[data-route={made['id']}]"), "Add a step…", re.compile("^Gate"))
    wait_for(
        lambda: [s["kind"] for s in document(demo)["routes"][ROUTES]["shapers"]] == ["pulse", "gate"],
        5,
        "the gate",
    )
    page.locator(f"[data-route={made['id']}]").get_by_label("Remove route").click()
    wait_for(lambda: len(document(demo)["routes"]) == ROUTES, 5, "the removal")


def test_every_parameter_shows_hand_and_live_value(page, demo):
    open_column(page, "3")
    radius = page.locator("[data-parameter=radius]")
    expect(radius.locator(".hand")).to_have_text("0.30")
    expect(radius.locator(".chip")).to_have_text("Low")
    seen = set()
    for _ in range(20):
        seen.add(radius.locator(".live").inner_text())
        page.wait_for_timeout(80)
    assert len(seen) > 4, "the live value stands still"
    slider = page.get_by_role("slider", name="Width", exact=True)
    slider.focus()
    page.keyboard.press("Shift+ArrowRight")
    wait_for(
        lambda: document(demo)["looks"][0]["layers"][0]["source"]["values"]["width"] > 0.1, 5, "the width"
    )
    for step in ("Feedback", "normal 100 %", "Finishing colour"):
        page.locator(".part", has_text=step).click()
        assert page.locator("aside [data-parameter]").count() >= 1


def test_a_lamp_that_is_set_on_the_desk_is_so_on_the_wire(page, demo):
    open_column(page, "4")
    demo.set("/sound_amount", 0.0)
    demo.call("PUT", "/chases/swell/running", {"running": False})
    page.locator("[data-tile=group][data-id=rail] .face").click()
    page.locator("[data-function=level] [role=slider]").press("End")
    page.locator("[data-function=colour] input").fill("#00ff00")
    wait_for(lambda: demo.lamp() == [0, 255, 0], 8, "green light on the wire")
    demo.set("/lamps/gallery-1/fixture/values/level", 0.5)
    wait_for(lambda: demo.lamp() == [0, 128, 0], 8, "half of it")


def test_a_key_that_a_list_takes_is_no_key_of_the_desk(page, demo):
    """B in a list that is searched by typing looks for what begins with B; it never blacks the show out."""
    open_column(page, "3")
    page.locator("[data-layer=lantern]").get_by_role("button", name="normal 100 %").click()
    blend = page.locator("aside").get_by_role("combobox", name="Blend", exact=True)
    blend.focus()
    page.keyboard.press("b")
    blend.click()
    expect(page.get_by_role("listbox")).to_be_visible()
    page.keyboard.press("b")
    page.keyboard.press("4")
    page.keyboard.press("Escape")
    assert document(demo)["blackout"] == "off" and page.locator("[data-column=picture].column").count() == 1
    page.locator("[data-layer=lantern] .grip").focus()
    page.keyboard.press("b")
    wait_for(lambda: document(demo)["blackout"] == "all", 5, "the blackout, where no list has the focus")
    page.keyboard.press("b")
    wait_for(lambda: document(demo)["blackout"] == "off", 5, "light again")


def test_all_keys_stand_in_a_dialog_that_fits_the_screen(page, demo):
    page.keyboard.press("?")
    dialog = page.get_by_role("dialog", name="Keys")
    expect(dialog).to_contain_text("Blackout: lamps and pictures go dark")
    expect(dialog).to_contain_text("Ctrl+Shift+Z")
    page.wait_for_timeout(400)
    box = dialog.bounding_box()
    assert box["x"] >= 0 and box["x"] + box["width"] <= 1280 and box["y"] + box["height"] <= 800
    page.keyboard.press("b")
    page.keyboard.press("Escape")
    expect(dialog).to_be_hidden()
    assert document(demo)["blackout"] == "off"


def test_lights_or_pictures_alone_go_dark_from_the_menu(page, demo):
    act(page, "What goes dark", "Pictures alone")
    wait_for(lambda: document(demo)["blackout"] == "pictures", 5, "dark pictures")
    expect(page.get_by_role("button", name="Pictures dark")).to_be_visible()
    wait_for(lambda: max(demo.lamp()) > 0, 5, "lamps that are lit")
    act(page, "What goes dark", "Lights alone")
    wait_for(lambda: demo.lamp() == [0, 0, 0], 5, "dark lamps")
    page.get_by_role("button", name="Lights dark").click()
    wait_for(lambda: document(demo)["blackout"] == "off", 5, "everything lit")


def test_arrow_keys_go_along_a_row_of_tabs(page, demo):
    open_column(page, "2")
    page.get_by_role("tab", name="Routes").focus()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("tab", name="Modulators")).to_have_attribute("aria-selected", "true")
    page.keyboard.press("End")
    expect(page.get_by_role("tab", name="Kept")).to_have_attribute("aria-selected", "true")


@pytest.mark.alone
def test_the_output_page_stays_in_step(page, demo, chromium):
    open_column(page, "3")
    output = chromium.new_page(viewport={"width": 640, "height": 360})
    output.goto(f"{demo.url}/output")
    output.wait_for_selector("canvas")
    demo.set("/blackout", "off")
    shots = set()
    for _ in range(6):
        shots.add(output.locator("canvas").screenshot())
        output.wait_for_timeout(150)
    assert len(shots) >= 4, "the output stands still"
    demo.set("/looks/lantern-tunnel/finish/finish/values/exposure", -4.0)
    demo.set("/looks/lantern-tunnel/finish/finish/values/tint", "#000000")

    def dark():
        both = [np.frombuffer(_pixels(p), np.uint8).max() for p in (page, output)]
        return max(both) < 30

    wait_for(dark, 8, "both pages' going dark")
    output.close()


def _pixels(page) -> bytes:
    raw = page.get_by_label(re.compile("^The (live picture|picture of this output)$")).screenshot()
    image = Image.open(io.BytesIO(raw)).convert("RGB")
    width, height = image.size
    return image.crop((width // 4, height // 4, width * 3 // 4, height * 3 // 4)).tobytes()


def test_two_desks_see_each_others_edits(page, demo, chromium):
    other = chromium.new_page()
    other.goto(demo.url)
    other.wait_for_selector("[data-column]")
    open_column(page, "2")
    other.keyboard.press("2")
    page.locator("[data-route=r3]").get_by_role("button", name="Mute").click()
    expect(other.locator("[data-route=r3]").get_by_role("button", name="Muted")).to_be_visible()
    other.close()


@pytest.mark.alone
def test_the_score_leaves_room_in_a_sixtieth_of_a_second(page):
    assert min(pace(page)[1] for _ in range(5)) < 8.0


def test_a_hidden_panel_asks_for_nothing(page):
    asked = page.evaluate("""() => new Promise((resolve) => {
        const send = WebSocket.prototype.send
        const seen = []
        WebSocket.prototype.send = function (data) { seen.push(data); return send.call(this, data) }
        dispatchEvent(new KeyboardEvent('keydown', { key: '4', bubbles: true }))
        setTimeout(() => resolve(seen), 800)
    })""")
    # With Hear closed nobody draws the score: its spectrum, hits and beats are not asked for any more.
    assert asked and not {7, 8, 9} & set(json.loads(asked[-1])["want"])


def test_every_control_can_be_reached_by_keyboard(page):
    reached = set()
    for _ in range(60):
        page.keyboard.press("Tab")
        reached.add(
            page.evaluate(
                "document.activeElement.getAttribute('aria-label') || document.activeElement.innerText.trim()"
            )
        )
    assert {"Gain", "Sound amount", "Blackout", "Low band"} <= reached


def test_a_refused_edit_is_explained_on_the_desk(page, demo):
    open_column(page, "4")
    page.get_by_role("button", name="Patch", exact=True).click()
    field = page.get_by_label("Address of Gallery rail 1", exact=True)
    field.fill("1.600")
    field.press("Tab")
    expect(page.get_by_text("channels from 1 to 512")).to_be_visible()


@pytest.fixture
def live_page(demo, playwright_driver):
    """A page with the live input chosen, in a browser of its own: fake devices are set when a browser
    starts.
    """
    opened = []

    def make(*flags: str):
        browser = playwright_driver.chromium.launch(
            executable_path=shutil.which("chromium"), args=[*CHROMIUM, *flags]
        )
        opened.append(browser)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(demo.url)
        page.wait_for_selector("[data-column]")
        page.get_by_role("button", name="Live", exact=True).click()
        page.get_by_role("button", name="Start listening").click()
        return page

    yield make
    for browser in opened:
        browser.close()


@pytest.mark.alone
def test_a_microphone_is_heard(live_page, tmp_path):
    """A WAV file as the browser's fake microphone: getUserMedia, AudioWorklet, socket, engine."""
    sound, hit = np.zeros(48_000 * 4), kit.kick()
    for start in range(0, len(sound) - len(hit), 24_000):
        sound[start : start + len(hit)] += hit * 0.7
    soundfile.write(tmp_path / "room.wav", sound, 48_000, subtype="PCM_16")
    page = live_page(
        "--use-fake-device-for-media-stream",
        "--use-fake-ui-for-media-stream",
        f"--use-file-for-fake-audio-capture={tmp_path}/room.wav",
    )
    expect(page.get_by_test_id("microphone")).to_contain_text("Sending", timeout=30_000)
    wait_for(
        lambda: float(page.get_by_test_id("level").inner_text().replace("–∞", "-120")) > -30,
        10,
        "the microphone's level",
    )
    expect(page.get_by_test_id("tempo")).to_have_text(re.compile(r"1(19|20|21)\.\d|60\.\d"), timeout=40_000)


@pytest.mark.parametrize(
    ("flags", "words"),
    [
        (["--use-fake-device-for-media-stream", "--deny-permission-prompts"], "refused"),
        ([], "No such device"),
    ],
)
def test_without_a_microphone_the_desk_says_what_to_do(live_page, flags, words):
    page = live_page(*flags)
    expect(page.get_by_test_id("microphone")).to_contain_text(words, timeout=30_000)
    expect(page.get_by_test_id("input-name")).to_have_text("No sound", timeout=30_000)


def test_a_shared_page_is_heard(demo, playwright_driver):
    """Another page's sound through getDisplayMedia; the browser is told which, where a performer would
    choose.
    """
    browser = playwright_driver.chromium.launch(
        executable_path=shutil.which("chromium"),
        args=[
            *CHROMIUM,
            "--auto-select-tab-capture-source-by-title=Night radio",
            "--autoplay-policy=no-user-gesture-required",
        ],
        ignore_default_args=["--mute-audio"],
    )
    context = browser.new_context(viewport={"width": 1280, "height": 800})
    radio = context.new_page()
    radio.goto(f"{demo.url}/api/v1/health")
    radio.evaluate(
        """() => {
            document.title = 'Night radio'
            const context = new AudioContext()
            const tone = new OscillatorNode(context, { frequency: 440 })
            tone.connect(context.destination)
            tone.start()
        }"""
    )
    page = context.new_page()
    page.goto(demo.url)
    page.wait_for_selector("[data-column]")
    demo.set("/inputs/main/live/device", "shared")
    demo.set("/inputs/main/use", "live")
    page.get_by_role("button", name="Start listening").click()
    expect(page.get_by_test_id("microphone")).to_contain_text("Sending", timeout=30_000)
    wait_for(
        lambda: float(page.get_by_test_id("level").inner_text().replace("–∞", "-120")) > -12,
        10,
        "the other page's level",
    )
    radio.close()
    expect(page.get_by_test_id("microphone")).to_contain_text("not shared any more", timeout=30_000)
    browser.close()
