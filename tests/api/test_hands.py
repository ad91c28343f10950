"""Routes led on and exchanged, copies, and what is refused, over the API."""

import json
import time

import pytest


def routes(demo):
    return demo.show()["document"]["routes"]


def layers(demo):
    document = demo.show()["document"]
    return next(look for look in document["looks"] if look["id"] == document["look"])["layers"]


def test_a_new_route_is_fitted_to_what_was_heard(demo):
    time.sleep(3.0)  # So much must have been heard.
    status, made = demo.call("POST", "/routes", {"signal": "band-low", "targets": ["lantern-mix.opacity"]})
    assert status == 201
    route = next(route for route in routes(demo) if route["id"] == made["id"])
    assert (route["low"], route["high"]) == (0.0, 1.0)
    ranged = next(part for part in route["shapers"] if part["kind"] == "range")["values"]
    assert route["fitted"] == [ranged["low"], ranged["high"]] and 0.0 < ranged["high"] < 0.95


def test_typed_words_say_what_belongs_to_another_look_and_steps(demo):
    status, found = demo.call("GET", "/routes/understood?text=kick%20ring%20radius%20by%20step")
    assert (
        status == 200
        and found[0]["wish"]["way"] == "step"
        and found[0]["look"] == ""
        and found[0]["target"] == "ring.radius"
    )
    status, found = demo.call("GET", "/routes/understood?text=low%20noise%20fog%20contrast")
    assert status == 200 and found[0]["look"] == "Fog bank" and "(Fog bank)" in found[0]["target_name"]


def test_an_lfo_is_made_with_the_route_that_asks_for_it_in_one_step(demo):
    head = demo.show()["head"]
    status, found = demo.call("GET", "/routes/understood?text=lfo%2020%20s%20ring%20turn")
    assert status == 200 and found[0]["signal"] == "" and found[0]["target"] == "ring.rotation"
    status, made = demo.call(
        "POST", "/routes", {"signal": "", "targets": ["ring.rotation"], "wish": found[0]["wish"]}
    )
    assert status == 201 and demo.show()["head"] == head + 1
    document = demo.show()["document"]
    modulator = document["modulators"][-1]
    assert modulator["part"]["values"]["rate"] == 1 / 20
    assert document["routes"][-1]["signal"] == f"modulator-{modulator['id']}"


def test_a_route_is_led_on_exchanged_and_takes_turns(demo):
    path = "/routes/r1"
    assert demo.call("POST", f"{path}/targets", {"targets": ["ring.width"]})[0] == 201
    assert demo.call("PUT", f"{path}/turns")[0] == 200
    assert demo.call("PUT", f"{path}/ends", {"signal": "band-mid"})[0] == 200
    assert demo.call("PUT", f"{path}/ends", {"target": "ring.width", "by": "ring.glow"})[0] == 200
    route = routes(demo)[0]
    assert route["targets"] == ["ring.radius", "ring.glow"] and route["signal"] == "band-mid"
    assert [part["kind"] for part in route["shapers"]][0] == "cycle"
    assert demo.call("DELETE", f"{path}/targets?target=ring.glow")[0] == 200
    status, problem = demo.call("DELETE", f"{path}/targets?target=ring.radius")
    assert status == 422 and "all that this route moves" in problem["detail"]


@pytest.mark.parametrize(
    ("path", "body"),
    [
        ("/routes/gone/targets", {"targets": ["ring.width"]}),
        ("/routes/r1/targets", {"targets": ["gone.width"]}),
        ("/routes/r1/targets", {"targets": ["ring.tint"]}),
    ],
)
def test_what_is_gone_or_does_not_fit_is_refused_in_a_sentence(demo, path, body):
    before = routes(demo)
    status, problem = demo.call("POST", path, body)
    assert status in (404, 422) and problem["detail"].endswith(".") and routes(demo) == before


def test_a_route_onto_its_own_threshold_comes_one_frame_later(demo):
    status, made = demo.call("POST", "/routes", {"signal": "hit-kick", "targets": ["hit@kick.sensitivity"]})
    assert status == 201
    assert next(r for r in routes(demo) if r["id"] == made["id"])["targets"] == ["hit@kick.sensitivity"]
    assert demo.call("GET", "/health")[0] == 200


def test_copies_by_clipboard_and_in_place(demo):
    document = demo.show()["document"]
    path = f"/looks/{document['look']}/layers/{layers(demo)[0]['id']}"
    count, moved = len(layers(demo)), len(routes(demo))
    status, clipping = demo.call("POST", "/copies", {"paths": [path]})
    assert status == 200 and clipping["format"] == "fulgura-copy"
    status, made = demo.call("POST", "/copies/pasted", json.dumps(clipping).encode())
    assert status == 201 and len(layers(demo)) == count + 1 and len(routes(demo)) > moved
    status, made = demo.call("POST", "/copies/twins", {"paths": [path]})
    assert status == 201 and len(layers(demo)) == count + 2 and made["left"] == []
    demo.call("POST", "/show/undo")
    assert len(layers(demo)) == count + 1


@pytest.mark.parametrize(
    ("text", "status", "says"),
    [
        (b"<html>hello</html>", 422, "not copied in Fulgura"),
        (b'{"format": "fulgura-copy", "version": 99}', 422, "newer Fulgura"),
        (b"x" * 50_000_000, 413, "too large"),
        (b"\xff\xfe\x00", 422, "not copied in Fulgura"),
    ],
)
def test_foreign_newer_and_huge_clipboards_change_nothing(demo, text, status, says):
    head = demo.show()["head"]
    answered, problem = demo.call("POST", "/copies/pasted", text, {"Content-Type": "text/plain"})
    assert answered == status and says in problem["detail"] and demo.show()["head"] == head


def test_presets_that_are_offered_count_in_the_same_unit(demo):
    for target, name in (("lantern-mix.opacity", "Half"), ("ring.rotation", "Turned")):
        body = {"scope": "parameter", "address": target, "name": name}
        assert demo.call("POST", "/presets", body)[0] == 201
    status, rows = demo.call("GET", "/presets?scope=parameter&address=feedback.rotation")
    assert status == 200 and [row["name"] for row in rows if row["address"] != "feedback.rotation"] == [
        "Turned"
    ]


def test_the_house_band_is_heard_at_a_desk(demo):
    import io
    import urllib.request

    import numpy as np
    import soundfile

    with urllib.request.urlopen(
        f"{demo.url}/api/v1/house-band/audio?tempo_bpm=150&density=1", timeout=20
    ) as answer:
        sound, rate = soundfile.read(io.BytesIO(answer.read()))
    assert rate == 48_000 and len(sound) == 8 * 4 * 0.4 * rate
    # Each bar is as the one before, also the last and the first: it joins its own beginning.
    bars = sound[:, 0].reshape(8, -1)
    assert np.abs(bars[0] - bars[7]).max() < 0.02 and np.abs(bars).max() > 0.2
