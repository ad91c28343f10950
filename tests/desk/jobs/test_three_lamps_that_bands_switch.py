"""Low, mid and high each switch a lamp of their own between its colour and white: on screen, then on the
wire.
"""

import re
import time
from urllib.parse import parse_qs, urlsplit

import numpy as np

from harness.stack import wait_for
from tests.desk.helpers import act, choose_kind
from tests.desk.jobs.conftest import tone

COLOURS = {"low": "#ff0000", "mid": "#0000ff", "high": "#00ff00"}
HZ = {"low": 70.0, "mid": 800.0, "high": 9000.0}


def typed_route(job, words):
    """Type a route in Route, and take the first that is offered; its id."""
    page = job.page
    before = {route["id"] for route in job.document()["routes"]}
    box = page.get_by_label("Type a route", exact=True)
    box.click()
    # What is offered for fewer words may be something else: the answer to all of them is waited for.
    with page.expect_response(lambda answer: parse_qs(urlsplit(answer.url).query).get("text") == [words]):
        box.press_sequentially(words)
    page.wait_for_timeout(400)
    box.press("Enter")
    made = wait_for(lambda: {r["id"] for r in job.document()["routes"]} - before, 10, f"the route “{words}”")
    return made.pop()


def make_it_switch(job, route, colour):
    """A gate at half of full, then on and off by turns, between a colour and white."""
    row = job.page.locator(f"[data-route={route}]")
    row.get_by_label("Low colour").fill(colour)
    row.get_by_label("High colour").fill("#ffffff")
    # A route that was just typed opens by itself, as soon as its answer is here.
    for kind in ("Gate", "Toggle"):
        act(row, "Add a step…", re.compile(f"^{kind}"))
        wait_for(
            lambda kind=kind: any(s["kind"] == kind.lower() for s in steps(job, route)),
            10,
            f"the step {kind}",
        )
    gate = next(step["id"] for step in steps(job, route) if step["kind"] == "gate")
    job.stack.set(f"/routes/{route}/shapers/{gate}/values/threshold", 0.2)


def steps(job, route):
    return next(own for own in job.document()["routes"] if own["id"] == route)["shapers"]


def test_each_band_switches_its_own_lamp_and_the_others_never(job):
    page = job.page
    job.play(np.zeros(48_000), "Silence")
    # On screen: three round shapes of a look of their own.
    page.keyboard.press("3")
    for _ in COLOURS:
        choose_kind(page, "Add a layer", "shape")
        page.wait_for_timeout(400)
    shapes = [
        layer["source"]
        for layer in job.document()["looks"][0]["layers"]
        if layer["source"]["kind"] == "shape"
    ]
    assert len(shapes) == 3
    # In the room: three fixtures.
    page.keyboard.press("4")
    ids = job.hang("RGB lamp", 3, "Club #")
    job.tell_rig()
    job.choose(ids)
    page.locator("[data-function=level] [role=slider]").press("End")
    wait_for(lambda: all(_lamp(job, id)["fixture"]["values"]["level"] == 1.0 for id in ids), 10, "full level")
    page.keyboard.press("2")
    fixtures = {name: _lamp(job, id)["fixture"]["id"] for name, id in zip(COLOURS, ids)}
    for number, (name, colour) in enumerate(COLOURS.items(), start=1):
        route = typed_route(job, f"{name} club {number} colour")
        assert job.stack.show()["document"]["routes"][-1]["targets"] == [f"{fixtures[name]}.colour"]
        make_it_switch(job, route, colour)
        # The same route on the picture.
        job.stack.set(
            f"/routes/{route}/targets", [f"{fixtures[name]}.colour", f"{shapes[number - 1]['id']}.tint"]
        )
    wait_for(
        lambda: job.colours(ids) == [(1.0, 0.0, 0.0), (0.0, 0.0, 1.0), (0.0, 1.0, 0.0)], 10, "the colours"
    )
    # Eight bursts of low sound, nothing else.
    burst = np.concatenate([tone(HZ["low"], 0.5), np.zeros(24_000)])
    job.play(np.concatenate([np.zeros(24_000), *[burst] * 8, np.zeros(48_000)]), "Bursts")
    seen, changed = [tuple(job.colours(ids))], time.monotonic()
    until = changed + 40
    while (at := time.monotonic()) < until and not (len(seen) > 8 and at - changed > 3.0):
        now = tuple(job.colours(ids))
        if now != seen[-1]:
            seen.append(now)
            changed = at
        time.sleep(0.03)
    low = [colours[0] for colours in seen]
    assert len(low) == 9, f"eight hits change it eight times: {low}"
    assert set(low) == {(1.0, 0.0, 0.0), (1.0, 1.0, 1.0)}, "its colour or white, nothing between"
    assert {colours[1:] for colours in seen} == {((0.0, 0.0, 1.0), (0.0, 1.0, 0.0))}, "the others never"
    # In silence all hold still, and picture and packets say the same.
    page.wait_for_timeout(1000)
    before = job.colours(ids)
    page.wait_for_timeout(1000)
    assert job.colours(ids) == before == [(1.0, 0.0, 0.0), (0.0, 0.0, 1.0), (0.0, 1.0, 0.0)]


def _lamp(job, id):
    return next(lamp for lamp in job.document()["lamps"] if lamp["id"] == id)
