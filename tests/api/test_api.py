"""The API of the running application: typed, refusing what is wrong in plain words, and closed to other
sites.
"""

import json
import time

import httpx
import numpy as np
import pytest
import schemathesis
from hypothesis import HealthCheck, given, settings
from schemathesis.specs.openapi.checks import positive_data_acceptance
from websockets.exceptions import ConnectionClosed, InvalidStatus
from websockets.sync.client import connect

from fulgura.core import wire
from fulgura.core.wire import BlockId
from fulgura.web.live.outgoing import Outgoing
from fulgura.web.live.viewers import Viewer
from harness.measuring import once_good
from harness.stack import live, wait_for

RING = "/looks/lantern-tunnel/layers/lantern/source/values"


@pytest.mark.alone
def test_frames_come_sixty_a_second_with_only_what_was_asked_for(demo):
    packets, news = once_good(
        lambda: live(demo, 2.0, [BlockId.LIVE, BlockId.STATUS]), lambda heard: len(heard[0]) > 100
    )
    assert len(packets) > 100
    assert all(set(packet.blocks) == {BlockId.LIVE, BlockId.STATUS} for packet in packets)
    numbers = [packet.number for packet in packets]
    assert numbers == sorted(numbers)
    assert {"layout", "show", "state"} <= {row["type"] for row in news}


def test_a_page_that_asks_for_nothing_gets_no_frames(demo):
    packets, _ = live(demo, 0.7, [])
    assert packets == []


def test_an_edit_shows_in_the_frames_at_once(demo):
    _, news = live(demo, 0.3, [])
    layout = next(row["data"]["layout"] for row in news if row["type"] == "layout")
    index = next(entry["index"] for entry in layout["indices"] if entry["target"] == "ring.width")
    demo.set(f"{RING}/width", 0.5)
    packets, _ = live(demo, 0.3, [BlockId.LIVE])
    assert packets[-1].blocks[BlockId.LIVE][index] == pytest.approx(0.5)


def test_a_socket_that_sends_garbage_is_answered_and_goes_on(demo):
    packets, news = live(
        demo, 2.0, [BlockId.STATUS], ["not json", "[]", '{"want": "all"}', '{"want": [null]}', b"\x00\xff"]
    )
    assert len(packets) > 20
    assert sum(row["type"] == "problem" for row in news) == 5


@pytest.mark.alone
def test_a_socket_that_never_reads_disturbs_no_other(demo):
    with connect(f"ws://127.0.0.1:{demo.port}/api/v1/live", origin=demo.url, max_queue=1) as lazy:
        lazy.send(json.dumps({"want": list(range(1, 11))}))
        time.sleep(1.0)
        packets, _ = once_good(lambda: live(demo, 1.5, [BlockId.STATUS]), lambda heard: len(heard[0]) > 45)
    assert len(packets) > 45


@pytest.mark.parametrize(
    ("method", "path", "body", "status", "words"),
    [
        ("POST", "/show/edits", b"{not json", 422, "JSON"),
        ("POST", "/show/edits", {"edit": {"edit": "explode", "path": "/x"}, "name": "x"}, 422, ""),
        (
            "POST",
            "/show/edits",
            {"edit": {"edit": "set", "path": f"{RING}/radius", "value": 99}, "name": "x"},
            422,
            "less than or equal to 2",
        ),
        (
            "POST",
            "/show/edits",
            {"edit": {"edit": "set", "path": "/routes/none/low", "value": 1}, "name": "x"},
            422,
            "no “none”",
        ),
        ("POST", "/shows/99999/open", None, 404, "removed"),
        ("POST", "/shows/999999999999999999999999/open", None, 404, ""),
        ("GET", "/tracks/no-such/audio", None, 404, "library"),
        ("GET", "/tracks/..%2F..%2Fsecret/audio", None, 404, ""),
        ("POST", "/transport/seek", {"seconds": -5}, 422, "greater than or equal to 0"),
        ("GET", "/nowhere", None, 404, ""),
        ("DELETE", "/show", None, 405, ""),
    ],
)
def test_what_is_wrong_is_refused_in_words(app, method, path, body, status, words):
    before = app.show()["document"]
    got, problem = app.call(method, path, body, {"Content-Type": "application/json"})
    assert got == status and problem["title"] and words in problem["detail"]
    assert app.show()["document"] == before


@pytest.mark.parametrize(
    "headers", [{"Origin": "http://evil.example"}, {"Host": "evil.example"}, {"Origin": "null"}]
)
def test_other_sites_cannot_act(app, headers):
    status, problem = app.call("POST", "/show/undo", None, headers)
    assert status == 403 and "another site" in problem["detail"]


@pytest.mark.parametrize("path", ["live", "audio"])
def test_other_sites_cannot_open_sockets(demo, path):
    with (
        pytest.raises(InvalidStatus),
        connect(f"ws://127.0.0.1:{demo.port}/api/v1/{path}", origin="http://evil.example"),
    ):
        pass


def test_undo_and_redo_walk_the_same_way(app):
    start = app.show()["document"]
    for width in (0.1, 0.2, 0.3):
        app.set(f"{RING}/width", width, f"width {width}")
    after = app.show()
    assert after["undo"] == "width 0.3"
    for _ in range(3):
        app.call("POST", "/show/undo")
    assert app.show()["document"] == start and app.show()["redo"] == "width 0.1"
    for _ in range(3):
        app.call("POST", "/show/redo")
    assert app.show()["document"] == after["document"]


def test_one_drag_is_one_step(app):
    head = app.show()["head"]
    for i in range(20):
        status, answer = app.call(
            "POST",
            "/show/edits",
            {
                "edit": {"edit": "set", "path": f"{RING}/glow", "value": i / 40},
                "name": "Glow",
                "gesture": "one drag",
            },
        )
        assert status == 200
    assert answer["head"] == head + 1
    app.call("POST", "/show/undo")
    assert app.show()["document"]["looks"][0]["layers"][0]["source"]["values"]["glow"] != 19 / 40


def test_live_sound_moves_the_meter_and_damage_is_counted(demo):
    demo.set("/inputs/main/use", "live")

    with connect(f"ws://127.0.0.1:{demo.port}/api/v1/audio?channels=2&rate=96000", origin=demo.url) as socket:
        tone = (np.sin(2 * np.pi * 440 * np.arange(96_000) / 96_000) * 0.5).astype("<f4")
        stereo = np.repeat(tone[:, None], 2, axis=1)
        stereo[5000:5003, 0] = np.nan, np.inf, -np.inf
        for start in range(0, 96_000 * 9 // 10, 960):
            socket.send(stereo[start : start + 960].tobytes())
            time.sleep(0.01)
        status = live(demo, 0.1, [BlockId.STATUS])[0][-1].blocks[BlockId.STATUS]
    assert status[0] > -20.0  # A sine of half the full scale is -6 dBFS; the meter has begun to fall again.
    assert status[3] > 0  # Damaged samples, spread by the rate change, were repaired and counted.
    # With the sound gone, time goes on in silence and the level falls to rest.
    wait_for(lambda: live(demo, 0.1, [BlockId.STATUS])[0][-1].blocks[BlockId.STATUS][0] < -60, 8, "rest")


def test_live_sound_that_is_not_whole_samples_is_refused(demo):
    with connect(f"ws://127.0.0.1:{demo.port}/api/v1/audio", origin=demo.url) as socket:
        socket.send(b"abc")
        with pytest.raises(ConnectionClosed, match="whole float32"):
            socket.recv(timeout=5)


def test_a_track_can_be_read_in_ranges(demo):
    response = httpx.get(f"{demo.url}/api/v1/tracks/lamp-room/audio", headers={"Range": "bytes=0-3"})
    assert response.status_code == 206 and response.content == b"fLaC"


@pytest.mark.timeout(900)  # Some thousand calls, beside whatever else runs.
def test_the_api_keeps_its_own_description(demo):
    """Property-based calls made from the OpenAPI document by schemathesis, with all its checks but one: what
    the description allows may still break a rule of the show, which is then said in a sentence.
    """
    schema = schemathesis.openapi.from_url(f"{demo.url}/api/v1/openapi.json")
    checked = 0
    for result in schema.get_all_operations():
        operation = result.ok()
        if operation.path.endswith(("/measure", "/shows")) and operation.method == "post":
            continue  # Would fill the list of shows.
        if operation.path.endswith(("/guard/report", "/picture.png")):
            continue  # Draw for seconds each: they have tests of their own.

        @settings(max_examples=4, suppress_health_check=list(HealthCheck), database=None, derandomize=True)
        @given(case=operation.as_strategy())
        def check(case):
            case.validate_response(
                case.call(base_url=demo.url, timeout=60), excluded_checks=[positive_data_acceptance]
            )

        check()
        checked += 1
    assert checked >= 12


def test_a_slow_page_gets_the_events_of_the_frames_it_missed():
    """A viewer whose socket takes nothing for a while: its newest frames wait, with every hit there was."""
    viewer = Viewer(None)
    viewer.wanted = frozenset({BlockId.HITS})
    for number in range(1, 101):
        hit = {BlockId.HITS: np.array([0.0, 0.0, number, 1.0, 0.5])}
        viewer.frame(Outgoing(wire.encode(wire.Packet(1, 2, number, number / 60, hit))))
    packets = [wire.decode(viewer.next_frame()) for _ in range(len(viewer.frames))]
    assert [packet.number for packet in packets] == [98, 99, 100]
    assert [row[2] for packet in packets for row in packet.blocks[BlockId.HITS].reshape(-1, 5)] == list(
        range(1, 101)
    )
