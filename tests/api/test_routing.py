"""Routing over the API: joined, fitted, kept, held, explained; an edit is on the output within two frames'
time.
"""

import itertools
import time

import numpy as np
import pytest
from websockets.sync.client import connect

from fulgura.core import wire
from fulgura.core.wire import BlockId
from harness.measuring import once_good
from harness.stack import live, say, wait_for


def values(demo) -> dict[str, float]:
    layout = demo.call("GET", "/layout")[1]["layout"]
    block = live(demo, 0.15, [BlockId.LIVE])[0][-1].blocks[BlockId.LIVE]
    return {entry["target"]: float(block[entry["index"]]) for entry in layout["indices"]}


def test_several_targets_take_turns(app):
    status, made = app.call("POST", "/routes", {"signal": "hit-kick", "targets": ["ring.width", "ring.glow"]})
    assert status == 201
    route = next(route for route in app.show()["document"]["routes"] if route["id"] == made["id"])
    assert [part["kind"] for part in route["shapers"]] == ["cycle", "pulse"]


def test_a_few_words_are_understood(app):
    found = app.call("GET", "/routes/understood?text=low%20ring%20turn")[1]
    assert (found[0]["signal"], found[0]["target"], found[0]["target_name"]) == (
        "band-low",
        "ring.rotation",
        "Ring · turn",
    )


def test_a_range_is_fitted_to_what_came(demo):
    demo.set("/routes/r1/shapers/range/values/high", 1.0)
    wait_for(lambda: demo.call("POST", "/routes/r1/shapers/range/fit")[0] == 200, 10, "enough to fit to")
    status, fitted = demo.call("POST", "/routes/r1/shapers/range/fit")
    assert status == 200 and fitted["after"][0] < fitted["after"][1] <= 1.0
    assert demo.show()["document"]["routes"][0]["shapers"][0]["values"]["high"] == fitted["after"][1]
    assert (
        demo.call("POST", "/routes/r1/shapers/smooth/fit")[0] == 404
        and demo.call("POST", "/routes/none/shapers/range/fit")[0] == 404
    )


def test_a_modulator_moves_and_a_wrong_one_is_named(demo):
    assert demo.call("POST", "/modulators", {"kind": "nothing"})[0] == 422
    modulator = demo.call("POST", "/modulators", {"kind": "formula", "name": "Both"})[1]["id"]
    demo.call("POST", "/routes", {"signal": f"modulator-{modulator}", "targets": ["ring.width"]})
    demo.set(f"/modulators/{modulator}/part/values/words", "1 / 0")
    wait_for(
        lambda: (
            (why := demo.call("GET", f"/why/signal/modulator-{modulator}")[1][0])
            and "divides by zero" in why["text"]
            and why["edit"]
        ),
        5,
        "the reason",
    )
    demo.set(f"/modulators/{modulator}/part/values/words", "wave(2 Hz)")
    seen = {round(values(demo)["ring.width"], 3) for _ in range(4)}
    assert len(seen) > 1


def test_values_are_overridden_and_released_over_the_live_socket(demo):
    with connect(f"ws://127.0.0.1:{demo.port}/api/v1/live", origin=demo.url) as socket:
        say(socket, "override-set", target="ring.radius", value=1.25)
        wait_for(lambda: values(demo)["ring.radius"] == 1.25, 5, "the held value")
        wait_for(
            lambda: (
                "hand holds it"
                in " ".join(reason["text"] for reason in demo.call("GET", "/why/parameter/ring.radius")[1])
            ),
            5,
            "word of the hand",
        )
        for nonsense in (
            {"target": "gone.x", "value": 1},
            {"target": "ring.radius", "value": "much"},
            {"target": 7},
            {"target": "ring.tint", "value": 2},
        ):
            say(socket, "override-set", **nonsense)
        say(socket, "override-released", target=3)
        say(socket, "no-such-event")
        say(socket, "override-released", target="", glide_ms=50)
        wait_for(lambda: values(demo)["ring.radius"] < 1.0, 5, "its way back")
    assert demo.call("GET", "/health")[1]["engine"]


def test_presets_over_the_api(demo):
    status, made = demo.call("POST", "/presets", {"scope": "part", "address": "feedback", "name": "Deep"})
    assert status == 201
    rows = demo.call("GET", "/presets?scope=part&address=feedback")[1]
    assert [(row["name"], row["chosen"]) for row in rows] == [("Hand only", False), ("Deep", True)]
    demo.set("/looks/lantern-tunnel/layers/lantern/effects/feedback/values/fade", 0.1)
    assert demo.call("GET", "/presets?scope=part&address=feedback")[1][1]["changed"]
    assert demo.call("POST", f"/presets/{made['id']}/recall", {"glide_ms": 1500})[0] == 200
    # The value in the document is there at once; the live one is on its way.
    assert demo.show()["document"]["looks"][0]["layers"][0]["effects"][0]["values"]["fade"] == 0.9
    wait_for(lambda: values(demo)["feedback.fade"] == pytest.approx(0.9), 5, "the glide's end")
    assert demo.call("POST", "/presets/none/recall", {})[0] == 422
    assert demo.call("POST", f"/presets/{made['id']}/recall", {"address": "ring"})[0] == 422
    assert demo.call("DELETE", f"/presets/{made['id']}")[0] == 200


def test_a_glide_is_a_glide(demo):
    demo.call("POST", "/presets", {"scope": "parameter", "address": "ring.sides", "name": "Eight"})
    preset = demo.call("GET", "/presets")[1][-1]["id"]
    demo.set("/looks/lantern-tunnel/layers/lantern/source/values/sides", 3.0)
    wait_for(lambda: values(demo)["ring.sides"] == 3.0, 5, "three sides")
    demo.call("POST", f"/presets/{preset}/recall", {"glide_ms": 4000})
    time.sleep(0.8)
    assert 3.0 < values(demo)["ring.sides"] < 8.0
    wait_for(lambda: values(demo)["ring.sides"] == 8.0, 8, "eight sides")


@pytest.mark.alone
def test_an_edit_is_on_the_output_within_two_frames(demo):
    """From sending the edit's request to the first frame with its value, in engine frames."""
    index = next(
        entry["index"]
        for entry in demo.call("GET", "/layout")[1]["layout"]["indices"]
        if entry["target"] == "ring.ripple"
    )
    with connect(f"ws://127.0.0.1:{demo.port}/api/v1/live", origin=demo.url) as socket:
        socket.send(f'{{"want": [{int(BlockId.LIVE)}]}}')
        values = itertools.count(1)

        def frames() -> list[int]:
            return [taken(socket, 0.1 + 0.01 * next(values)) for _ in range(12)]

        def taken(socket, wanted: float) -> int:
            packet, until = None, time.monotonic() + 0.2
            while time.monotonic() < until:
                message = socket.recv(timeout=5)
                packet = wire.decode(message) if isinstance(message, bytes) else packet
            demo.set("/looks/lantern-tunnel/layers/lantern/source/values/ripple", round(wanted, 3))
            while True:
                message = socket.recv(timeout=5)
                now = wire.decode(message) if isinstance(message, bytes) else packet
                if abs(float(now.blocks[BlockId.LIVE][index]) - wanted) < 1e-5:
                    return now.number - packet.number

        found = once_good(frames, lambda found: np.median(found) <= 2)
    assert np.median(found) <= 2 and max(found) < 60, found


def test_many_edits_in_a_row_reach_the_engine_in_order_without_the_whole_show(demo):
    for n in range(60):
        demo.set("/looks/lantern-tunnel/layers/lantern/source/values/softness", round(0.2 + n / 200, 3))
    wait_for(lambda: values(demo)["ring.softness"] == pytest.approx(0.495, abs=1e-4), 5, "the last one")


def test_a_ring_is_named_and_cured_by_one_edit(demo):
    demo.call("POST", "/routes", {"signal": "modulator-tide", "targets": ["modulator-tide.beats"]})
    route = demo.show()["document"]["routes"][-1]["id"]
    reasons = wait_for(
        lambda: [reason for reason in demo.call("GET", f"/why/route/{route}")[1] if "ring" in reason["text"]],
        5,
        "its name",
    )
    assert "Tide → Tide" in reasons[0]["text"]
    status, _ = demo.call("POST", "/show/edits", {"edit": reasons[0]["edit"], "name": reasons[0]["cure"]})
    assert status == 200 and all(kept["id"] != route for kept in demo.show()["document"]["routes"])


@pytest.mark.parametrize(
    ("path", "value", "words"),
    [
        ("/modulators/tide/part/values/beats", 1e9, "less than or equal"),
        ("/routes/r1/targets", [], "at least 1"),
        ("/routes/r1/targets", ["ring.radius"] * 2, "two targets"),
        ("/mixes", {"ring.radius": "worst"}, "sum"),
        ("/routes/r1/shapers/range/values/low", 5, "less than or equal"),
    ],
)
def test_what_is_out_of_its_range_is_refused_in_words(app, path, value, words):
    status, problem = app.call(
        "POST", "/show/edits", {"edit": {"edit": "set", "path": path, "value": value}, "name": "x"}
    )
    assert status == 422 and words in problem["detail"]
