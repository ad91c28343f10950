"""The Hear column as a performer uses it: level, bands, beat, descriptors, the library."""

import io
import re
import time

import numpy as np
import pytest
import soundfile
from playwright.sync_api import expect

from harness.browser import drag
from harness.stack import PATIENCE, wait_for
from tests.desk.helpers import act, choose


@pytest.fixture
def hear(page):
    """The Hear column, open, over the running demo."""
    page.keyboard.press("1")
    expect(page.get_by_role("tab", name="Bands", exact=True)).to_be_visible()
    return page


def open_panel(page, name: str) -> None:
    page.get_by_role("tab", name=name, exact=True).click()


def band_ids(demo) -> list[str]:
    return [band["id"] for band in demo.show()["document"]["bands"]]


def test_loudness_is_shown_and_following_can_be_switched_on(demo, hear):
    open_panel(hear, "Level")
    expect(hear.get_by_text("Short-term")).to_be_visible()
    wait_for(lambda: hear.locator(".meter .num").first.inner_text() not in ("–∞", ""), 10, "a reading")
    hear.locator("[data-parameter=follow] [role=switch]").click()
    wait_for(lambda: demo.show()["document"]["inputs"][0]["level"]["follow"], 5, "following")
    expect(hear.get_by_test_id("following")).to_contain_text("Following", timeout=30_000)


def test_the_empty_room_is_measured_and_becomes_the_floor(demo, hear):
    open_panel(hear, "Level")
    hear.get_by_role("button", name="Listen to the empty room").click()
    floor = hear.get_by_role("button", name="Floor to")
    expect(floor).to_be_visible(timeout=30_000)
    floor.click()
    wait_for(lambda: demo.show()["document"]["inputs"][0]["level"]["floor_dbfs"] > -90, 5, "the floor")


def test_a_band_is_made_named_placed_and_removed(demo, hear):
    open_panel(hear, "Bands")
    hear.get_by_role("button", name="New band").click()
    wait_for(lambda: len(band_ids(demo)) == 4, 5, "a fourth band")
    expect(hear.locator(".rail")).to_have_count(4)
    hear.get_by_label("Name", exact=True).fill("Bell")
    hear.get_by_label("Name", exact=True).press("Enter")
    expect(hear.get_by_role("slider", name="Bell band")).to_be_visible()
    hear.get_by_label("Hz", exact=True).fill("900")
    hear.get_by_label("Hz", exact=True).press("Enter")
    wait_for(lambda: demo.show()["document"]["bands"][-1]["low_hz"] == 900, 5, "its place")
    hear.get_by_role("button", name="Catch hits of this band").click()
    expect(hear.get_by_text("▼ Bell hits").first).to_be_visible(timeout=30_000)
    hear.get_by_role("button", name="Remove Bell").click()
    wait_for(
        lambda: band_ids(demo) == ["low", "mid", "high"] and len(demo.show()["document"]["hits"]) == 3,
        5,
        "its removal, with its hits",
    )


def test_a_set_of_eight_bands_fits_the_score(demo, hear):
    open_panel(hear, "Bands")
    act(hear, "Sets of bands…", "Eight octaves")
    expect(hear.locator(".rail")).to_have_count(8, timeout=30_000)
    boxes = [rail.bounding_box() for rail in hear.locator(".rail").all()]
    column = hear.locator("[data-column=hear] aside").bounding_box()
    assert all(box["x"] + box["width"] <= column["x"] + 1 for box in boxes), "a rail lies over the settings"
    expect(hear.locator(".names strong")).to_have_count(6)  # More lanes could not be read.


def test_find_it_proposes_a_band_where_the_score_is_clicked(demo, hear):
    open_panel(hear, "Bands")
    score = hear.locator("canvas[aria-label^='The score']")
    hear.wait_for_timeout(3000)
    for share in (0.45, 0.5, 0.55, 0.6, 0.65) * 3:  # Somewhere there a snare stands out.
        hear.get_by_role("button", name="Find it").click()
        box = score.bounding_box()
        score.click(position={"x": box["width"] * share, "y": 120})
        until = time.monotonic() + 0.7 * PATIENCE
        while len(band_ids(demo)) < 4 and time.monotonic() < until:
            hear.wait_for_timeout(100)
        if len(band_ids(demo)) == 4:
            break
    assert len(band_ids(demo)) == 4
    expect(hear.locator(".why")).to_contain_text("stands out by")


def test_the_score_keeps_what_it_showed_when_its_place_changes(hear):
    """Most of it is drawn once and then only moved: a plot of another size, or other lanes, must be drawn
    from what is kept.
    """

    def lit() -> float:
        """Share of lit pixels from one and a half to four seconds ago, in the lower half of the spectrogram
        and in the lanes.
        """
        return hear.evaluate("""() => {
            const c = document.querySelector(".score canvas"), second = c.width / 8.8
            const g = c.getContext('2d')
            const p = g.getImageData(4 * second, c.height * 0.3, 2.5 * second, c.height * 0.6).data
            let n = 0
            for (let i = 0; i < p.length; i += 4) n += p[i] + p[i + 1] + p[i + 2] > 120
            return n / (p.length / 4)
        }""")

    wait_for(lambda: lit() > 0.05, 20, "four seconds of score")
    before = lit()
    hear.set_viewport_size({"width": 1180, "height": 700})
    hear.wait_for_timeout(400)
    assert lit() > 0.5 * before
    open_panel(hear, "Bands")
    act(hear, "Sets of bands…", "Eight octaves")
    expect(hear.locator(".names strong")).to_have_count(6, timeout=30_000)
    hear.wait_for_timeout(400)
    assert lit() > 0.3 * before


def test_taps_hold_a_tempo_and_hearing_anew_lets_go(demo, hear):
    open_panel(hear, "Beat")
    for _ in range(4):
        hear.locator(".tap").dispatch_event("pointerdown")
        hear.wait_for_timeout(500)
    wait_for(lambda: demo.show()["document"]["tempo"]["mode"] == "held", 5, "the held tempo")
    choose(hear, "Mode", "auto")
    hear.get_by_role("button", name="Now is the one").click()
    expect(hear.get_by_role("button", name="Hear it anew")).to_be_visible(timeout=30_000)
    hear.get_by_role("button", name="Hear it anew").click()
    expect(hear.get_by_role("button", name="Hear it anew")).to_be_hidden(timeout=30_000)


def test_the_meter_changes_the_lamps_of_the_bar(demo, hear):
    open_panel(hear, "Beat")
    choose(hear, "Meter", "3/4")
    expect(hear.locator(".strip .beat")).to_have_count(3, timeout=30_000)


def test_only_a_one_that_is_sure_is_round(demo, hear):
    open_panel(hear, "Beat")
    choose(hear, "Meter", "4/4")
    expect(hear.locator(".strip .beat")).to_have_count(4)
    hear.get_by_role("button", name="Now is the one").click()
    expect(hear.get_by_text("The one is where you marked it")).to_be_visible()
    expect(hear.locator(".beats .one")).to_have_count(1)
    # Another meter is counted anew: nothing is known of its one yet.
    choose(hear, "Meter", "3/4")
    expect(hear.get_by_text("Which beat is the one is unsure")).to_be_visible()
    expect(hear.locator(".beats .one")).to_have_count(0)
    choose(hear, "Meter", "4/4")


def test_a_held_tempo_that_does_not_fit_is_said_to(demo, hear):
    demo.set("/tempo/bpm", 93.0)
    demo.set("/tempo/mode", "held")
    open_panel(hear, "Beat")
    expect(hear.get_by_text("The tempo is held, but what plays does not fit it.")).to_be_visible(
        timeout=60_000
    )
    expect(hear.locator(".strip .tempo")).to_have_text(re.compile("93.0.*unsure"))
    demo.set("/tempo/mode", "auto")
    expect(hear.get_by_text("Tempo and beat are heard.")).to_be_visible(timeout=60_000)
    expect(hear.locator(".strip .tempo")).to_contain_text("BPM")


def test_every_descriptor_has_a_live_trace(demo, hear):
    open_panel(hear, "More")
    expect(hear.locator("aside canvas")).to_have_count(9)
    brightness = hear.get_by_label("Brightness, live")
    before = brightness.evaluate("c => c.toDataURL()")
    wait_for(lambda: brightness.evaluate("c => c.toDataURL()") != before, 8, "the trace's moving")


def test_a_track_is_added_drawn_and_its_stretch_dragged(demo, hear):
    sound = io.BytesIO()
    soundfile.write(sound, np.sin(np.arange(48_000 * 6) / 8) * 0.4, 48_000, format="WAV")
    hear.locator(".library input[type=file]").set_input_files(
        {"name": "Low Tide.wav", "mimeType": "audio/wav", "buffer": sound.getvalue()}
    )
    wait_for(
        lambda: demo.show()["document"]["inputs"][0]["track"]["track"] == "low-tide",
        20,
        "the new track's playing",
    )
    outline = hear.get_by_label("Place in the track")
    expect(outline).to_have_attribute("aria-valuemax", "6", timeout=30_000)
    width = outline.bounding_box()["width"]
    drag(hear, outline, by=(width / 4, 0), at=(width / 4, 20))

    def track():
        return demo.show()["document"]["inputs"][0]["track"]

    wait_for(lambda: track()["loop_to_s"] == pytest.approx(3.0, abs=0.1), 5, "the stretch")
    assert track()["loop_from_s"] == pytest.approx(1.5, abs=0.1)
    hear.get_by_role("button", name="Whole track").click()
    wait_for(lambda: demo.show()["document"]["inputs"][0]["track"]["loop_to_s"] == 0, 5, "the whole track")
    demo.set("/inputs/main/track/track", "lamp-room")
    demo.call("DELETE", "/tracks/low-tide")


def test_a_file_that_is_no_sound_is_refused_on_the_desk(hear):
    hear.locator(".library input[type=file]").set_input_files(
        {"name": "notes.wav", "mimeType": "audio/wav", "buffer": b"only words"}
    )
    expect(hear.get_by_text("That file cannot be played")).to_be_visible(timeout=30_000)


def test_one_more_input_is_opened_shown_named_and_closed(demo, hear):
    hear.get_by_role("button", name="One more input").click()
    second = hear.get_by_role("tab", name="Input 2")
    expect(second).to_have_attribute("aria-selected", "true", timeout=30_000)
    hear.get_by_label("Name", exact=True).fill("Voice")
    hear.get_by_label("Name", exact=True).press("Enter")
    hear.get_by_role("button", name="House band", exact=True).click()
    wait_for(
        lambda: [input_["use"] for input_ in demo.show()["document"]["inputs"]] == ["track", "house"],
        5,
        "the house band beside the track",
    )
    open_panel(hear, "Bands")
    act(hear, "Sets of bands…", "Five")
    expect(hear.locator(".rail")).to_have_count(5, timeout=30_000)
    # Its own level, and its own hits, in its own score; the main input's stay as they were.
    open_panel(hear, "Level")
    wait_for(lambda: hear.locator(".meter .num").nth(2).inner_text() not in ("–∞", ""), 10, "its level")
    expect(hear.locator(".names")).to_contain_text(re.compile(r"Kick \d+/bar"), timeout=30_000)
    hear.get_by_role("tab", name="Main").click()
    expect(hear.locator(".rail")).to_have_count(3, timeout=30_000)
    hear.get_by_role("tab", name="Voice").click()
    open_panel(hear, "Input")
    hear.get_by_role("button", name="Close Voice").click()
    wait_for(lambda: len(demo.show()["document"]["inputs"]) == 1, 5, "its end")
    expect(hear.get_by_role("tab", name="Main")).to_be_hidden(timeout=30_000)


def test_a_detector_that_finds_nothing_is_spoken_of(demo, hear):
    demo.set("/hits/kick/least_dbfs", 0.0)
    expect(hear.locator(".why")).to_contain_text("Not one hit in eight bars", timeout=80_000)
    expect(hear.locator(".names .wrong")).to_contain_text("Kick")


def test_recording_shows_its_time_and_ends_in_the_library(demo, hear):
    before = {track["id"] for track in demo.call("GET", "/tracks")[1]}
    hear.get_by_role("button", name="Record this input").click()
    expect(hear.get_by_role("button", name="Recording 0:02")).to_be_visible(timeout=30_000)
    hear.get_by_role("button", name="Recording").click()
    made = wait_for(
        lambda: {track["id"] for track in demo.call("GET", "/tracks")[1]} - before, 20, "the recording"
    )
    hear.get_by_label("Track", exact=True).click()
    expect(hear.get_by_role("option", name=re.compile("^Main 20"))).to_be_visible(timeout=30_000)
    demo.call("DELETE", f"/tracks/{made.pop()}")


def test_the_track_is_trimmed_to_its_beat_and_what_is_heard_is_kept(demo, hear):
    hear.get_by_role("button", name="Trim to the beat").click()
    wait_for(lambda: demo.show()["document"]["inputs"][0]["track"]["loop_to_s"] > 30, 30, "the stretch")
    with hear.expect_download(timeout=60_000) as kept:
        act(hear, "Save what is heard", "MIDI")
    assert kept.value.suggested_filename == "lamp-room.mid"


def test_a_threshold_can_be_a_fixed_level(demo, hear):
    open_panel(hear, "Bands")
    expect(hear.locator("[data-parameter=sensitivity]")).to_be_visible()
    choose(hear, "Threshold", "absolute")
    expect(hear.locator("[data-parameter=absolute_dbfs]")).to_be_visible(timeout=30_000)
    expect(hear.locator("[data-parameter=sensitivity]")).to_be_hidden()
    wait_for(lambda: demo.show()["document"]["hits"][0]["threshold"] == "absolute", 5, "the edit")


def test_gain_goes_on_a_midi_fader(demo, chromium):
    """A stand-in for the browser's MIDI access, which speaks MIDI 1.0 control changes as a device would."""
    page = chromium.new_page(viewport={"width": 1280, "height": 800})
    page.add_init_script("""
      const input = { name: 'Box', state: 'connected', onmidimessage: null }
      const access = { inputs: new Map([['one', input]]), outputs: new Map(), onstatechange: null }
      navigator.requestMIDIAccess = async () => access
      window.turn = (value) => input.onmidimessage({ data: new Uint8Array([0xb2, 7, value]) })
    """)
    page.goto(demo.url)
    page.wait_for_selector("[data-column=hear]")
    page.keyboard.press("1")
    open_panel(page, "Level")
    page.get_by_role("button", name="Gain on a fader").click()
    expect(page.get_by_role("button", name="Now move a fader…")).to_be_visible(timeout=30_000)
    page.evaluate("turn(20)")
    expect(page.get_by_text("midi 3 cc 7")).to_be_visible(timeout=30_000)
    page.evaluate("turn(22)")
    expect(page.get_by_text("Move the fader past the value")).to_be_visible(timeout=30_000)
    for value in (50, 70, 90):
        page.evaluate(f"turn({value})")
    wait_for(
        lambda: (
            demo.show()["document"]["inputs"][0]["gain_db"] == pytest.approx(-40 + 80 * 90 / 127, abs=0.01)
        ),
        5,
        "the gain",
    )
    page.get_by_role("button", name="Gain: let the fader go").click()
    wait_for(lambda: not demo.show()["document"]["mappings"], 5, "its freedom")
    page.close()
