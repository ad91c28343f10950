"""Outputs over the API: made, fitted, looked at, drawn; and what pages say of themselves."""

import io
import json
import time

import numpy as np
import pytest
from PIL import Image
from websockets.sync.client import connect

from fulgura.core.wire import BlockId
from fulgura.web.live.flash_minute import FlashMinute
from harness.stack import live, told, wait_for


def outputs(demo):
    return {output["id"]: output for output in demo.show()["document"]["outputs"]}


def call(demo, method, path, body=None, status=200):
    found, answer = demo.call(method, path, body)
    assert found == status, answer
    return answer


class Page:
    """A page that shows an output."""

    def __init__(self, demo, address):
        url = f"ws://127.0.0.1:{demo.port}/api/v1/live?output={address}"
        self.socket = connect(url, origin=demo.url)
        self.news = {}

    def hear(self, kind, seconds=5.0):
        """The next news of a kind."""
        while True:
            heard = self.socket.recv(timeout=seconds)
            if isinstance(heard, str):
                news = json.loads(heard)
                if news["type"] == kind:
                    return news["data"]

    def report(self, **how):
        self.socket.send(json.dumps({"report": how}))

    def close(self):
        self.socket.close()


@pytest.fixture
def page(demo):
    made = Page(demo, "tower")
    yield made
    made.close()


def state(demo, output):
    return call(demo, "GET", "/outputs/states")[output]


def test_outputs_are_made_named_addressed_copied_and_taken_away(demo):
    head = demo.show()["head"]
    id = call(demo, "POST", "/outputs", {"name": "Boat house"}, 201)["id"]
    assert outputs(demo)[id]["address"] == "boat-house"
    again = call(demo, "POST", "/outputs", {"name": "Boat house"}, 201)["id"]
    assert (outputs(demo)[again]["name"], outputs(demo)[again]["address"]) == ("Boat house 2", "boat-house-2")
    call(demo, "PUT", f"/outputs/{again}/address", {"text": "shed"}, 204)
    copy = call(demo, "POST", f"/outputs/{again}/copies", status=201)["id"]
    assert outputs(demo)[copy]["address"] == "boat-house-2-copy"
    overlay = call(demo, "POST", "/outputs", {"overlay": True}, 201)["id"]
    assert outputs(demo)[overlay]["ground"] == "transparent"
    for each in (id, again, copy, overlay):
        call(demo, "DELETE", f"/outputs/{each}", status=204)
    assert not {id, again, copy, overlay} & outputs(demo).keys()
    assert demo.show()["head"] == head + 9


@pytest.mark.parametrize(
    ("method", "path", "body", "words"),
    [
        ("PUT", "/outputs/tower/name", {"text": "Hall"}, "called “Hall” already"),
        ("PUT", "/outputs/tower/address", {"text": "main"}, "has the address “main” already"),
        ("PUT", "/outputs/tower/address", {"text": "a b"}, "lower-case letters"),
        ("PUT", "/outputs/gone/name", {"text": "X"}, "not there any more"),
        ("PUT", "/outputs/tower/walls/wall-1/grid", {"columns": 12, "rows": 2}, "from 2 to 9 points"),
        ("POST", "/outputs/gone/walls", {}, "not there any more"),
    ],
)
def test_what_cannot_be_is_said_in_a_sentence(demo, method, path, body, words):
    status, answer = demo.call(method, path, body)
    assert status == 422 and words in answer["detail"], answer


@pytest.mark.parametrize(
    ("path", "value", "words"),
    [
        ("width", 0, "from 16 to 8192"),
        ("height", 20_000, "from 16 to 8192"),
        ("walls/wall-1/corners", [[0, 0], [1, 1], [1, 0], [0, 1]], "would cross"),
        (
            "walls/wall-1/grid",
            {"columns": 3, "rows": 2, "points": [[0, 0], [1.4, 0], [1, 0], [0, 1], [0.5, 1], [1, 1]]},
            "fold over itself",
        ),
        ("cut", {"x": 0.8, "y": 0, "width": 0.5, "height": 1}, "lie within it"),
    ],
)
def test_a_fitting_that_cannot_be_leaves_everything_as_it_was(demo, path, value, words):
    before = outputs(demo)["tower"]
    edit = {"edit": {"edit": "set", "path": f"/outputs/tower/{path}", "value": value}, "name": "Fit"}
    status, answer = demo.call("POST", "/show/edits", edit)
    assert status == 422 and words in answer["detail"], answer
    assert outputs(demo)["tower"] == before


def test_a_fitting_is_copied_bent_and_straightened(demo):
    call(demo, "PUT", "/outputs/main/fitting", {"like": "tower"}, 204)
    assert outputs(demo)["main"]["walls"] == outputs(demo)["tower"]["walls"]
    call(demo, "PUT", "/outputs/main/walls/wall-1/grid", {"columns": 4, "rows": 3}, 204)
    grid = outputs(demo)["main"]["walls"][0]["grid"]
    assert (grid["columns"], grid["rows"], len(grid["points"])) == (4, 3, 12)
    grid["points"][5] = [0.4, 0.45]
    demo.set("/outputs/main/walls/wall-1/grid", grid)
    call(demo, "PUT", "/outputs/main/walls/wall-1/grid", {"columns": 7, "rows": 5}, 204)
    finer = outputs(demo)["main"]["walls"][0]["grid"]["points"]
    assert finer[2 * 7 + 2] == pytest.approx([0.4, 0.45], abs=1e-6), "it is bent as before"
    wall = call(demo, "POST", "/outputs/main/walls", {}, 201)["id"]
    mask = call(demo, "POST", "/outputs/main/masks", {"shape": "round"}, 201)["id"]
    made = outputs(demo)["main"]
    assert wall in [each["id"] for each in made["walls"]] and mask in [each["id"] for each in made["masks"]]
    call(demo, "DELETE", "/outputs/main/fitting", status=204)
    assert (outputs(demo)["main"]["walls"], outputs(demo)["main"]["masks"]) == ([], [])


def test_a_page_is_told_its_output_and_its_plan_and_says_how_it_goes(demo, page):
    assert page.hear("output")["output"]["name"] == "Tower"
    plan = page.hear("layout")["plan"]
    assert [each["fragment"] for each in plan["passes"]][-3:] == ["wall.frag", "wall.frag", "send.frag"]
    assert state(demo, "tower")["pages"] == 1 and "Nobody looks" in state(demo, "main")["words"]
    page.report(drawn=58.0, width=1024, height=1024, late_ms=21.0)
    wait_for(lambda: state(demo, "tower")["drawn"] == 58.0, 3, "its report")
    assert state(demo, "tower")["words"] == "All is well."
    page.report(drawn=22.0, width=512, height=512)
    wait_for(lambda: "Slow: 22 of 60 a second" in state(demo, "tower")["words"], 3, "the slow page")
    page.report(drawn=60.0, late_ms=400.0, width=1024, height=1024)
    wait_for(lambda: "400 ms behind the sound" in state(demo, "tower")["words"], 3, "the late page")
    page.report(drawn=0.0, hidden=True)
    wait_for(lambda: "hidden or asleep" in state(demo, "tower")["words"], 3, "the hidden page")
    page.report(drawn=60.0, held=0.3)
    wait_for(lambda: told(demo, "outputs")["tower"]["held"] == 0.3, 3, "what the guard holds")


def test_the_last_minute_tells_each_second_that_ended():
    at = [100.0]
    minute = FlashMinute(lambda: at[0])
    assert minute.add([(1, 0.0), (3, 0.25)]) is None
    at[0] = 100.5
    assert minute.add([(2, 0.5)]) is None
    at[0] = 101.2
    assert minute.add([]) == [(0, 0.0)] * 59 + [(3, 0.5)]
    at[0] = 162.0
    assert minute.add([]) == [(0, 0.0)] * 60, "a minute later it is forgotten"


def test_an_output_opened_many_times_is_said(demo):
    pages = [Page(demo, "main") for _ in range(20)]
    try:
        for page in pages:
            page.report(drawn=60.0)
        wait_for(lambda: "Open 20 times" in state(demo, "main")["words"], 5, "the pages")
    finally:
        for page in pages:
            page.close()
    wait_for(lambda: state(demo, "main")["pages"] == 0, 5, "their end")


def test_a_report_that_is_none_is_answered_and_not_believed(demo, page):
    for bad in ({"drawn": -1}, {"held": 7}, {"drawn": "many"}, 5):
        page.socket.send(json.dumps({"report": bad}))
        assert page.hear("problem")["title"] == "That message was not understood"
    assert state(demo, "tower")["drawn"] == 0


def test_an_address_that_is_nobodys_is_said_and_found_once_there_is_one(demo):
    page = Page(demo, "shed")
    try:
        said = page.hear("output")
        assert said["output"] is None and "no output with the address “shed”" in said["why"]
        call(demo, "POST", "/outputs", {"name": "Shed"}, 201)
        while page.hear("output")["output"] is None:
            pass
        while page.hear("layout")["plan"] is None:  # The engine has still to make it.
            pass
    finally:
        page.close()


def test_identify_reaches_the_pages_of_that_output_alone(demo, page):
    other = Page(demo, "main")
    try:
        call(demo, "POST", "/outputs/tower/identify", status=204)
        assert page.hear("identify") == "Tower"
        until = time.monotonic() + 1.0
        while time.monotonic() < until:
            heard = other.socket.recv(timeout=2)
            assert not isinstance(heard, str) or json.loads(heard)["type"] != "identify"
    finally:
        other.close()


def test_what_is_dragged_moves_without_a_new_plan(demo, page):
    plan = page.hear("layout")["plan"]
    block = next(data["block"] for data in plan["data"] if data["name"] == "fit")

    def numbers() -> list[float]:
        """All but the first four numbers, which are a frame's."""
        return live(demo, 0.2, [block])[0][-1].blocks[block][4:].tolist()

    before = numbers()
    corners = outputs(demo)["tower"]["walls"][0]["corners"]
    demo.set("/outputs/tower/walls/wall-1/corners", [[0.25, 0.2], *corners[1:]])
    wait_for(lambda: numbers() != before, 5, "the corner in the frames")
    assert call(demo, "GET", "/outputs/tower/plan")["id"] == plan["id"]


def test_further_pictures_are_in_the_frames(demo):
    plan = call(demo, "GET", "/outputs/bars/plan")
    packets, _ = live(demo, 0.3, [BlockId.PICTURES, plan["uniforms"], *[d["block"] for d in plan["data"]]])
    newest = packets[-1].blocks
    assert plan["drawn"] in newest[BlockId.PICTURES].astype(np.int64).tolist()
    assert len(newest[plan["uniforms"]]) == plan["floats"]


def picture(demo, output, width=320, height=180):
    raw = demo.raw(f"/outputs/{output}/picture.png?width={width}&height={height}")
    return Image.open(io.BytesIO(raw))


def test_this_moment_is_drawn_with_alpha_where_the_ground_is_clear(demo):
    bars = picture(demo, "bars")
    assert (bars.mode, bars.size) == ("RGBA", (320, 180))
    alpha = np.asarray(bars)[..., 3]
    assert alpha[60:120].max() == 0 and alpha.max() > 100, "clear in the middle, bars at the edges"
    tower = picture(demo, "tower", 200, 200)
    assert (tower.mode, tower.size) == ("RGB", (200, 200))
    assert np.asarray(tower)[5, 5].max() == 0, "nothing beside the walls"
    assert demo.call("GET", "/outputs/tower/picture.png?width=9")[0] == 422


def test_the_guard_goes_off_only_with_a_sentence(demo):
    edit = {"edit": "set", "path": "/guard", "value": {"on": False, "why_off": "no"}}
    status, answer = demo.call("POST", "/show/edits", {"edit": edit, "name": "Guard"})
    assert status == 422 and "a sentence that says why" in answer["detail"]
    demo.set("/guard", {"on": False, "why_off": "Everyone in the room was asked."})
    assert demo.show()["document"]["guard"]["why_off"] == "Everyone in the room was asked."
    wait_for(lambda: not call(demo, "GET", "/outputs/main/plan")["tally"], 5, "a plan without it")
    passes = call(demo, "GET", "/outputs/main/plan")["passes"]
    assert not [each for each in passes if each["fragment"].startswith("guard")]


def test_flashes_are_counted_beforehand(demo):
    found = call(demo, "POST", "/guard/report", {"look": "signal-rose", "seconds": 2})
    (row,) = found["looks"]
    assert row["name"] == "Signal rose" and row["guarded"]["safe"] and len(row["strip"]) == 8
    page = demo.raw("/guard/report.html").decode()
    assert "Signal rose" in page and "WCAG 2.2" in page
    assert demo.call("POST", "/guard/report", {"look": "nothing"})[0] == 404
    assert demo.call("POST", "/guard/report", {"track": "nothing"})[0] == 404
