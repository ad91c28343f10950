"""What the desk says when something is away, and how an empty desk begins. These tests stop processes."""

import os
import signal

import psutil
import pytest
from playwright.sync_api import expect

from harness.breaking import engine
from harness.stack import start_stack, wait_for
from tests.api.test_processes import start_stack_for_own_shows


@pytest.fixture
def desk(own, chromium):
    page = chromium.new_page(viewport={"width": 1280, "height": 800})
    page.goto(own.url)
    page.wait_for_selector("[data-column]")
    expect(page.locator(".health")).to_have_text("all saved", timeout=40_000)
    yield page
    page.close()


@pytest.mark.ends_processes
def test_an_engine_that_hangs_is_replaced_and_the_desk_says_so(own, desk):
    engine(own).suspend()
    expect(desk.get_by_text("The engine hung and was replaced")).to_be_visible(timeout=30_000)
    expect(desk.locator(".health")).to_have_text("all saved", timeout=60_000)


@pytest.mark.ends_processes
def test_a_desk_that_is_cut_off_comes_back_by_itself(own, desk):
    own.child("fulgura.web").send_signal(signal.SIGKILL)
    expect(desk.locator(".health")).to_contain_text("cut off", timeout=30_000)
    expect(desk.locator(".health")).to_have_text("all saved", timeout=60_000)
    strip = desk.locator("[data-column=lights] canvas")
    before = strip.evaluate("e => e.toDataURL()")
    wait_for(
        lambda: strip.evaluate("e => e.toDataURL()") != before, 10, "the lamps' moving on the desk's spine"
    )


def test_an_empty_desk_says_what_to_do_and_makes_the_first_show(tmp_path, chromium):
    stack = start_stack_for_own_shows(tmp_path)
    page = chromium.new_page(viewport={"width": 1280, "height": 800})
    try:
        page.goto(stack.url)
        expect(page.get_by_text("Your shows will be listed here")).to_be_visible()
        make = page.get_by_role("button", name="Make it")
        expect(make).to_be_disabled()
        page.get_by_label("Name of a new show").fill("First night")
        make.click()
        expect(page.get_by_test_id("input-name")).to_have_text("House band")
        wait_for(
            lambda: float(page.get_by_test_id("level").inner_text().replace("–∞", "-120")) > -40,
            20,
            "the house band's sound",
        )
        page.get_by_role("button", name="First night").click()
        page.get_by_label("Name of a new show").fill("Second night")
        page.get_by_role("button", name="Make it").click()
        expect(page.locator(".strip strong")).to_have_text("Second night")
        page.get_by_role("button", name="Second night").click()
        page.get_by_role("button", name="First night").click()
        expect(page.locator(".strip strong")).to_have_text("First night")
    finally:
        page.close()
        assert stack.stop() == 0


@pytest.mark.ends_processes
def test_nothing_is_left_behind_when_the_launcher_itself_is_killed(own):
    children = psutil.Process(own.process.pid).children(recursive=True)
    assert len(children) >= 4
    os.kill(own.process.pid, signal.SIGKILL)
    own.process.wait()
    _, alive = psutil.wait_procs(children, timeout=25)
    assert alive == []
    # The folder can be used again at once: no lock, no half-open database is in the way.
    again = start_stack(own.folders.data)
    assert again.show()["document"]["name"] == "Night at Vesper Point"
    assert again.stop() == 0
