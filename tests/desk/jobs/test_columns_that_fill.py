"""Three columns of six lamps that fill with low, mid and high, from green through yellow to red."""

import numpy as np
from playwright.sync_api import expect

from harness.stack import wait_for
from tests.desk.helpers import act
from tests.desk.jobs.conftest import tone
from tests.desk.jobs.test_three_lamps_that_bands_switch import typed_route

GREEN, YELLOW, RED = (0.0, 1.0, 0.0), (1.0, 1.0, 0.0), (1.0, 0.0, 0.0)
PLACES = [GREEN, GREEN, GREEN, YELLOW, YELLOW, RED]


def chases(job):
    return job.document()["chases"]


def test_columns_fill_with_the_music_in_the_colours_of_their_places(job):
    page = job.page
    job.play(np.zeros(48_000), "Silence")
    ids = job.hang("RGB lamp", 18, "Column ##")
    columns = [ids[:6], ids[6:12], ids[12:]]
    job.tell_rig()
    for column, name in zip(columns, ("Low column", "Mid column", "High column")):
        job.choose(column)
        page.get_by_role("button", name="Make a group", exact=True).click()
        wait_for(lambda c=column: len(job.document()["groups"]) == columns.index(c) + 1, 10, "the group")
        box = page.get_by_label("Name of the group")
        expect(box).to_be_visible()
        box.fill(name)
        box.press("Enter")
        wait_for(lambda name=name: job.document()["groups"][-1]["name"] == name, 10, "its name")
    assert [group["members"] for group in job.document()["groups"]] == columns
    # One chase that is driven by a value, with three colours laid over the column.
    page.locator("[data-tile=group]").first.locator(".face").click()
    page.get_by_role("button", name="Make a chase").click()
    wait_for(lambda: len(chases(job)) == 1, 10, "the chase")
    expect(page.get_by_label("Name of the chase")).to_be_visible()
    panel = page.locator("aside")
    for parameter, option in (("Shape", "fill"), ("By", "value")):
        panel.get_by_role("combobox", name=parameter, exact=True).click()
        page.get_by_role("option", name=option, exact=True).click()
    wait_for(lambda: chases(job)[0]["part"]["values"]["driven"] == "value", 10, "what drives it")
    for number, colour in enumerate(("#00ff00", "#ffff00", "#ff0000"), start=1):
        panel.get_by_role("button", name="Lay on a colour").click()
        panel.get_by_label(f"Colour {number}", exact=True).fill(colour)
        wait_for(lambda n=number, c=colour: chases(job)[0]["colours"][n - 1]["colour"] == c, 10, "the colour")
    job.stack.set(f"/chases/{chases(job)[0]['id']}/colours", _borders(job))
    panel.get_by_role("button", name="Start", exact=True).click()
    wait_for(lambda: chases(job)[0]["runs"][0]["part"]["values"]["running"], 10, "the start")
    # Copied with the group exchanged.
    for name in ("Mid column", "High column"):
        page.locator("[data-tile=chase]").first.get_by_role("button", name="Open the chase").click()
        expect(page.get_by_label("Name of the chase")).to_have_value(chases(job)[0]["name"])
        act(panel, "Copy it to", name)
        wait_for(lambda name=name: chases(job)[-1]["name"].endswith(name), 10, "the copy")
    assert [len(chase["colours"]) for chase in chases(job)] == [3, 3, 3]
    for tile in page.locator("[data-tile=chase]").all()[1:]:
        tile.locator(".face").click()
    wait_for(
        lambda: all(own["runs"][0]["part"]["values"]["running"] for own in chases(job)), 10, "all running"
    )
    # Each tested by hand: a fader owns the progress.
    for column, chase in zip(columns, chases(job)):
        page.locator(f"[data-tile=chase][data-id={chase['id']}]").get_by_role(
            "button", name="Open the chase"
        ).click()
        expect(page.get_by_label("Name of the chase")).to_have_value(chase["name"])
        bar = panel.locator("[data-run] [data-parameter=progress] [role=slider]")
        for key, lit in (("End", 6), ("Home", 0)):
            bar.press(key)
            wait_for(
                lambda c=column, n=lit: job.intensities(c) == [1.0] * n + [0.0] * (6 - n), 10, f"{lit} lit"
            )
        job.stack.set(f"/chases/{chase['id']}/runs/{chase['runs'][0]['id']}/part/values/progress", 0.5)
        wait_for(lambda c=column: job.intensities(c) == [1.0] * 3 + [0.0] * 3, 10, "three, each full")
        bar.press("End")
        wait_for(lambda c=column: job.colours(c) == PLACES, 10, "the colours of the places")
        bar.press("Home")
    # Each band moves one progress.
    page.keyboard.press("2")
    routes = []
    for band, chase in zip(("low", "mid", "high"), chases(job)):
        routes.append(typed_route(job, f"{band} {chase['name'].lower().replace(',', '')} progress"))
        assert job.document()["routes"][-1]["targets"] == [f"{chase['runs'][0]['part']['id']}.progress"]
        job.stack.set(f"/routes/{routes[-1]}/high", 1.0)
    job.play(np.concatenate([np.zeros(24_000), tone(70.0, 8.0, 0.9)]), "Low")
    wait_for(lambda: sum(job.intensities(columns[0])) >= 4, 15, "the low column")
    assert sum(job.intensities(columns[1])) == 0 and sum(job.intensities(columns[2])) == 0
    # Quiet parts do nothing, until the curve is lifted by points of its own.
    quiet = np.concatenate([np.zeros(24_000), tone(70.0, 20.0, 0.1)])
    job.play(quiet, "Quiet")
    wait_for(lambda: sum(job.intensities(columns[0])) == 0, 10, "dark lamps for a quiet sound")
    page.wait_for_timeout(1500)
    assert sum(job.intensities(columns[0])) == 0
    lifted = {
        "id": "lift",
        "kind": "curve",
        "values": {"shape": "points", "points": [[0, 0], [0.05, 0.3], [1, 1]]},
    }
    job.stack.set(f"/routes/{routes[0]}/shapers", [lifted])
    wait_for(lambda: sum(job.intensities(columns[0])) >= 1, 10, "a lamp for a quiet sound")
    # A private universe is not sent; stop, and all are dark.
    job.stack.set("/lights/private", [1])
    wait_for(lambda: job.universe(1)["state"] == "ended by its source", 5, "the end of the stream")
    sent = job.universe(1)["packets"]
    page.wait_for_timeout(1200)
    assert job.universe(1)["packets"] == sent
    job.stack.set("/lights/private", [])
    page.keyboard.press("4")
    for tile in page.locator("[data-tile=chase]").all():
        tile.locator(".face").click()
    wait_for(lambda: job.intensities(ids) == [0.0] * 18, 10, "all dark")


def _borders(job):
    """Green to the middle, yellow, red for the last."""
    colours = [laid["colour"] for laid in chases(job)[0]["colours"]]
    return [{"at": at, "colour": colour} for at, colour in zip((0.0, 0.5, 0.85), colours)]
