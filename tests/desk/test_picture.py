"""The Picture column as a performer uses it: layers and effects made, ordered, blended, hidden, taken away;
looks copied.
"""

import io
import shutil
import subprocess
import time

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import expect

from harness.browser import CHROMIUM, drag
from harness.stack import PATIENCE, wait_for
from tests.desk.helpers import LOOKS, ROUTES, choose, choose_kind, document, open_column


def layers(demo) -> list[dict]:
    return document(demo)["looks"][0]["layers"]


def test_a_layer_is_made_blended_and_taken_away(page, demo):
    open_column(page, "3")
    choose_kind(page, "Add a layer", "spectrum")
    made = wait_for(lambda: layers(demo)[1], 5, "the layer")
    row = page.locator(f"[data-layer={made['id']}]")
    row.get_by_role("button", name="screen 100 %").click()
    choose(page.locator("aside"), "Blend", "difference")
    wait_for(lambda: layers(demo)[1]["mix"]["values"]["blend"] == "difference", 5, "the blend")
    expect(row).to_contain_text("difference 100 %")
    choose_kind(row, "Add an effect to Spectrum", "blur")
    wait_for(lambda: layers(demo)[1]["effects"][0]["kind"] == "blur", 5, "the effect")
    row.get_by_label("Hide Spectrum").click()
    wait_for(lambda: not layers(demo)[1]["visible"], 5, "the hiding")
    row.get_by_label("Remove Spectrum").click()
    wait_for(lambda: len(layers(demo)) == 1, 5, "the removal")
    page.keyboard.press("Control+z")
    wait_for(lambda: len(layers(demo)) == 2, 5, "undo")


def test_layers_are_put_in_order_by_drag_and_by_keys(page, demo):
    open_column(page, "3")
    for source in ("shape", "waveform"):
        choose_kind(page, "Add a layer", source)
        wait_for(
            lambda source=source: source in [layer["source"]["kind"] for layer in layers(demo)],
            5,
            "the layer",
        )
    grips = page.locator(".layer .grip")
    expect(grips).to_have_count(3)
    down = grips.nth(2).bounding_box()["y"] - grips.nth(0).bounding_box()["y"]
    drag(page, grips.nth(0), by=(0, down + 2), at=(10, 10))
    wait_for(
        lambda: [layer["source"]["kind"] for layer in layers(demo)] == ["waveform", "ring", "shape"],
        5,
        "the order",
    )
    page.locator("[data-layer=lantern] .grip").focus()
    page.keyboard.press("ArrowUp")
    wait_for(
        lambda: [layer["source"]["kind"] for layer in layers(demo)] == ["waveform", "shape", "ring"],
        5,
        "the order by keys",
    )


def test_a_look_is_copied_with_all_that_moves_it_and_shown(page, demo):
    open_column(page, "3")
    page.get_by_role("button", name="Copy").click()
    wait_for(
        lambda: (
            len(document(demo)["looks"]) == LOOKS + 1
            and document(demo)["look"] == document(demo)["looks"][-1]["id"]
        ),
        5,
        "the copy",
    )
    assert len(document(demo)["routes"]) == ROUTES + 4
    expect(page.get_by_role("tab", name="Lantern tunnel 2")).to_have_attribute("aria-selected", "true")
    page.get_by_role("tab", name="Lantern tunnel", exact=True).click()
    wait_for(lambda: document(demo)["look"] == "lantern-tunnel", 5, "the first look")


def test_cues_are_gone_through_by_key_kept_renamed_and_taken_away(page, demo):
    open_column(page, "3")
    line = page.get_by_label("Cues", exact=True)
    expect(line.get_by_role("button", name="Go Doors")).to_be_visible()
    page.keyboard.press("g")
    wait_for(
        lambda: document(demo)["cue"] == "cue-1" and document(demo)["look"] == "fog-bank", 5, "the first cue"
    )
    expect(line.locator(".there")).to_have_text("Doors")
    line.get_by_role("button", name="Go Lamp lit").click()
    wait_for(lambda: document(demo)["look"] == "lantern-tunnel", 5, "the next")
    line.get_by_role("button", name="+ cue").click()
    wait_for(
        lambda: len(document(demo)["cues"]) == 8 and document(demo)["cues"][2]["look"] == "lantern-tunnel",
        5,
        "the new cue, after the one recalled last",
    )
    line.get_by_label("Name of the cue Cue 8").fill("Encore")
    line.get_by_label("Name of the cue Cue 8").press("Enter")
    wait_for(lambda: document(demo)["cues"][2]["name"] == "Encore", 5, "its name")
    line.get_by_role("button", name="Encore earlier").click()
    wait_for(lambda: document(demo)["cues"][1]["name"] == "Encore", 5, "its place")
    line.get_by_role("button", name="Remove the cue Encore").click()
    wait_for(lambda: len(document(demo)["cues"]) == 7, 5, "the removal")


def test_a_look_is_renamed_and_taken_away_and_comes_back(page, demo):
    open_column(page, "3")
    name = page.get_by_label("Name of the shown look")
    name.fill("First lamp")
    page.wait_for_timeout(1500)
    expect(name).to_have_value("First lamp")  # What is drawn anew every second must not take it away again.
    name.press("Enter")
    wait_for(lambda: document(demo)["looks"][0]["name"] == "First lamp", 5, "the name")
    name.fill("  ")
    name.press("Enter")
    expect(name).to_have_value("First lamp")
    page.get_by_role("button", name="Remove the look First lamp").click()
    wait_for(
        lambda: len(document(demo)["looks"]) == LOOKS - 1 and document(demo)["look"] == "harbour-lights",
        5,
        "the removal",
    )
    page.keyboard.press("Control+z")
    wait_for(lambda: document(demo)["looks"][0]["name"] == "First lamp", 5, "undo")


def test_a_look_opens_at_a_part_that_has_something_to_turn(page, demo):
    demo.set("/look", "lamp-swarm")
    open_column(page, "3")
    expect(page.get_by_label("Name of the shown look")).to_have_value("Lamp swarm")
    expect(
        page.get_by_role("slider", name="Threshold")
    ).to_be_visible()  # Of the key: the picture so far, before it, has nothing.


def test_a_source_is_found_by_what_it_does(page, demo):
    open_column(page, "3")
    page.get_by_role("button", name="Add a layer", exact=True).click()
    dialog = page.get_by_role("dialog", name="Add a layer")
    expect(dialog.locator(".kind")).not_to_have_count(1)
    page.keyboard.type("polygon")
    expect(dialog.locator(".kind").first).to_contain_text("Ring")
    expect(dialog.locator(".kind img").first).to_be_visible(timeout=30_000)
    page.keyboard.press("Enter")
    wait_for(lambda: layers(demo)[1]["source"]["kind"] == "ring", 5, "the layer")


def test_a_look_whose_top_is_a_group_opens_with_controls(page, demo):
    demo.set("/look", "spyglass")
    open_column(page, "3")
    wait_for(lambda: page.locator("aside [data-parameter]").count() >= 1, 10, "something to turn")


def test_a_look_lies_beside_the_shown_one_and_is_mixed_by_hand(page, demo):
    open_column(page, "3")
    page.get_by_label("Fog bank beside the shown look").click(force=True)
    wait_for(lambda: document(demo)["beside"] == "fog-bank", 5, "the look beside")
    share = page.get_by_test_id("beside").get_by_role("slider", name="Share")
    share.focus()
    page.keyboard.press("End")
    wait_for(lambda: document(demo)["crossfade"]["values"]["share"] == 1.0, 5, "the share")
    page.get_by_label("Fog bank beside the shown look").click(force=True)
    wait_for(lambda: document(demo)["beside"] == "", 5, "alone again")


def test_a_layer_is_masked_by_another_that_comes_one_frame_late_and_says_so(page, demo):
    open_column(page, "3")
    choose_kind(page, "Add a layer", "text")
    made = wait_for(lambda: layers(demo)[1], 5, "the layer")
    page.locator("[data-layer=lantern]").get_by_role("button", name="normal 100 %").click()
    page.locator("aside summary", has_text="Mask").click()
    choose(page.locator("aside"), "Mask", made["name"])
    wait_for(lambda: layers(demo)[0]["mix"]["values"]["mask"] == made["id"], 5, "the mask")
    expect(page.locator("aside [data-parameter=mask]")).to_contain_text("one frame late")
    page.locator(f"[data-layer={made['id']}]").get_by_label("Remove Text").click()
    wait_for(lambda: layers(demo)[0]["mix"]["values"]["mask"] == "", 5, "the mask's end")


def test_an_own_shader_says_what_is_wrong_at_its_line_and_is_used_once_it_is_right(page, demo):
    open_column(page, "3")
    choose_kind(page, "Add a layer", "own-shader")
    made = wait_for(lambda: layers(demo)[1], 5, "the layer")
    page.locator(f"[data-layer={made['id']}]").get_by_role("button", name="Own shader", exact=True).click()
    text = page.get_by_label("Fragment shader")
    text.fill("uniform float sway; // 0 .. 3 = 1  How far\nvoid main() {\n  o_colour = vec4(sawy);\n}")
    page.get_by_role("button", name="Use it").click()
    expect(page.get_by_role("button", name="line 3").first).to_be_visible(timeout=60_000)
    text.fill("uniform float sway; // 0 .. 3 = 1  How far\nvoid main() {\n  o_colour = vec4(sway);\n}")
    page.get_by_role("button", name="Use it").click()
    expect(page.get_by_role("slider", name="Sway")).to_be_visible(timeout=60_000)
    assert layers(demo)[1]["source"]["values"]["knob_1"] == 1.0
    steps = demo.show()["head"]
    text.press("Control+End")
    text.press_sequentially("// g b 1")
    text.press("Control+z")
    expect(text).to_be_visible()
    now = document(demo)
    assert demo.show()["head"] == steps and (now["blackout"], now["cue"]) == ("off", ""), (
        "what is typed into a text is no key of the desk"
    )


def test_rings_are_fed_in_turn_by_hits(page, demo):
    open_column(page, "3")
    choose_kind(page, "Add a layer", "rings")
    part = wait_for(lambda: layers(demo)[1]["source"]["id"], 5, "the layer")
    targets = [f"{part}.level_{n}" for n in range(1, 6)]
    status, made = demo.call("POST", "/routes", {"signal": "hit-kick", "targets": targets})
    assert status == 201
    route = next(route for route in document(demo)["routes"] if route["id"] == made["id"])
    assert [shaper["kind"] for shaper in route["shapers"]] == ["cycle", "pulse"]


def test_a_film_is_added_with_progress_and_shown(page, demo, tmp_path):
    subprocess.run(
        "ffmpeg -v error -f lavfi -i testsrc2=s=320x180:r=25:d=2 -c:v libx264 -pix_fmt yuv420p"
        f" {tmp_path / 'gulls.mp4'}",
        shell=True,
        check=True,
    )
    open_column(page, "3")
    choose_kind(page, "Add a layer", "clip")
    made = wait_for(lambda: layers(demo)[1], 5, "the layer")
    page.locator(f"[data-layer={made['id']}]").get_by_role("button", name="Clip", exact=True).click()
    page.locator("aside [data-parameter=file] input[type=file]").set_input_files(tmp_path / "gulls.mp4")
    clip = wait_for(
        lambda: next(clip for clip in document(demo)["clips"] if clip["name"] == "gulls"), 20, "the clip"
    )
    wait_for(lambda: layers(demo)[1]["source"]["values"]["file"] == clip["id"], 5, "its being chosen")
    expect(page.locator("aside").get_by_role("combobox", name="File", exact=True)).to_have_text(clip["name"])
    # The test film's corners are colourful; the ring below it never is so all over.
    wait_for(
        lambda: (
            np.array(Image.open(io.BytesIO(page.locator(".picture").first.screenshot())).convert("HSV"))[
                ..., 1
            ].mean()
            > 90
        ),
        10,
        "the film",
    )
    (tmp_path / "words.mp4").write_text("no film")
    page.locator("aside [data-parameter=file] input[type=file]").set_input_files(tmp_path / "words.mp4")
    expect(page.get_by_text("That film cannot be shown")).to_be_visible()


def test_a_camera_is_seen_once_it_is_chosen_and_the_test_card_until_then(playwright_driver, demo):
    browser = playwright_driver.chromium.launch(
        executable_path=shutil.which("chromium"),
        args=[*CHROMIUM, "--use-fake-device-for-media-stream", "--use-fake-ui-for-media-stream"],
    )
    try:
        view = browser.new_page(viewport={"width": 1280, "height": 800})
        view.goto(demo.url)
        view.wait_for_selector("[data-column]")
        open_column(view, "3")
        choose_kind(view, "Add a layer", "camera")
        made = wait_for(lambda: layers(demo)[1], 5, "the layer")
        view.locator(f"[data-layer={made['id']}]").get_by_role("button", name="Camera", exact=True).click()

        def seen(green: bool) -> bool:
            """Chromium's stand-in for a camera is green (its own file, fake_video_capture_device.cc, from
            memory); the test card is of all colours.
            """
            colour = np.array(
                Image.open(io.BytesIO(view.locator(".picture").first.screenshot())).convert("RGB"),
                dtype=float,
            ).mean(axis=(0, 1))
            return colour.mean() > 30 and (colour[1] > 1.5 * max(colour[0], colour[2])) == green

        wait_for(lambda: seen(green=False), 10, "the test card")
        choose(view.locator("aside"), "Camera", "this browser’s camera")
        wait_for(lambda: seen(green=True), 20, "the camera")
        assert view.get_by_role("alert").count() == 0
        choose(view.locator("aside"), "Camera", "none: the test card")
        wait_for(lambda: seen(green=False), 10, "the test card again")
    finally:
        browser.close()


def test_a_camera_that_is_refused_is_said_with_a_cure(page, demo):
    open_column(page, "3")
    choose_kind(page, "Add a layer", "camera")
    made = wait_for(lambda: layers(demo)[1], 5, "the layer")
    page.locator(f"[data-layer={made['id']}]").get_by_role("button", name="Camera", exact=True).click()
    choose(page.locator("aside"), "Camera", "this browser’s camera")
    expect(page.locator("aside").get_by_role("alert")).to_contain_text("the test card is shown")


def brightest(page) -> float:
    """The brightest place of the live picture as it is seen, 0..255."""
    return float(
        np.array(Image.open(io.BytesIO(page.locator(".picture").first.screenshot())).convert("L")).max()
    )


@pytest.mark.alone
def test_a_lost_context_is_taken_up_again_within_two_seconds(page, demo):
    open_column(page, "3")
    wait_for(lambda: brightest(page) > 60, 10, "the picture")
    # Again if need be: a busy browser may just have lost and restored it of its own accord.
    lose = (
        "() => { const gl = document.querySelector('.picture canvas').getContext('webgl2'); if"
        " (!gl.isContextLost()) { window.lost = gl.getExtension('WEBGL_lose_context');"
        " window.lost.loseContext() } }"
    )
    wait_for(lambda: page.evaluate(lose) is None and brightest(page) < 40, 5, "the loss")
    page.evaluate("() => window.lost.restoreContext()")
    started = time.monotonic()
    wait_for(lambda: brightest(page) > 60, 5, "the picture again")
    assert time.monotonic() - started < 2.0 * PATIENCE
    assert page.get_by_role("alert").count() == 0


def test_a_browser_that_cannot_draw_is_shown_what_python_draws(playwright_driver, demo):
    browser = playwright_driver.chromium.launch(
        executable_path=shutil.which("chromium"), args=["--no-sandbox", "--disable-3d-apis"]
    )
    try:
        view = browser.new_page(viewport={"width": 640, "height": 360})
        view.goto(f"{demo.url}/output")
        picture = view.get_by_alt_text("The picture of this output, drawn in Python")
        expect(picture).to_be_visible()
        wait_for(lambda: picture.evaluate("one => one.naturalWidth") == 640, 20, "a picture")
        shots = [
            np.array(Image.open(io.BytesIO(picture.screenshot())).convert("L"), dtype=float)
            for _ in range(2)
            if time.sleep(0.7) is None
        ]
        assert shots[0].max() > 60 and np.abs(shots[0] - shots[1]).max() > 20, "it moves"
    finally:
        browser.close()
