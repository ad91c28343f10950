"""What a performer sets in Hear, through the API of the running application."""

import time

import pytest

from fulgura.core.wire import BlockId
from harness.stack import live, told, wait_for


def signals(stack) -> list[str]:
    """Ids of the signals that the engine has now."""
    layouts = [row["data"]["layout"] for row in live(stack, 0.3, [])[1] if row["type"] == "layout"]
    return [signal["id"] for signal in layouts[-1]["signals"]]


def test_three_taps_hold_a_tempo_and_it_can_be_halved(demo):
    sent, answered = [], []
    for _ in range(4):
        sent.append(time.monotonic())
        assert demo.call("POST", "/beat/tap")[0] == 204
        answered.append(time.monotonic())
        time.sleep(0.6)
    # Each tap came to the beat clock somewhere between its request and its answer.
    shortest = min(after - before for before, after in zip(answered, sent[1:]))
    longest = max(after - before for before, after in zip(sent, answered[1:]))

    def tempo():
        return demo.show()["document"]["tempo"]

    wait_for(lambda: tempo()["mode"] == "held", 5, "the tapped tempo")
    bpm = tempo()["bpm"]
    assert 60 / longest - 0.1 <= bpm <= 60 / shortest + 0.1
    assert demo.call("POST", "/beat", {"what": "half"})[0] == 204
    wait_for(lambda: tempo()["bpm"] == pytest.approx(bpm / 2), 5, "half of it")

    def shown():
        return live(demo, 0.2, [BlockId.STATUS])[0][-1].blocks[BlockId.STATUS][4]

    wait_for(lambda: abs(shown() - bpm / 2) < 1.0, 5, "the halved tempo in the frames")


def test_taps_are_one_step_for_undo(demo):
    time.sleep(2.1)  # A pause ends an earlier count.
    head = demo.show()["head"]
    for _ in range(5):
        demo.call("POST", "/beat/tap")
        time.sleep(0.5)
    wait_for(lambda: demo.show()["document"]["tempo"]["mode"] == "held", 5, "the tapped tempo")
    assert demo.show()["head"] == head + 1


def test_a_hand_on_the_beat_is_seen_in_the_state_and_taken_back(demo):
    demo.call("POST", "/beat", {"what": "anew"})
    demo.call("POST", "/beat", {"what": "nudge", "milliseconds": 20})
    demo.call("POST", "/beat", {"what": "downbeat"})
    wait_for(
        lambda: (
            told(demo)["beat"].items()
            >= {"nudged_ms": 20, "marked": True, "leaned": False, "downbeat_sure": True}.items()
        ),
        5,
        "the hand",
    )
    demo.call("POST", "/beat", {"what": "anew"})
    wait_for(lambda: told(demo)["beat"]["nudged_ms"] == 0, 5, "hearing anew")


@pytest.mark.parametrize("turn", [{"what": "nudge", "milliseconds": 9000}, {"what": "faster"}, {}])
def test_an_impossible_turn_is_refused(app, turn):
    assert app.call("POST", "/beat", turn)[0] == 422


def test_the_empty_room_is_measured(demo):
    demo.set("/inputs/main/track/playing", False)
    time.sleep(0.3)
    assert demo.call("POST", "/room")[0] == 204
    room = wait_for(
        lambda: (row := told(demo)["inputs"]["main"]["room"]) and row.get("left_s") == 0.0 and row,
        10,
        "the measure",
    )
    assert room["room_dbfs"] == -90.0 and room["proposed_dbfs"] == -84.0


def test_a_set_of_bands_replaces_the_bands_and_undo_brings_them_back(demo):
    assert "Eight octaves" in demo.call("GET", "/bands/presets")[1]
    assert demo.call("POST", "/bands/presets/Eight%20octaves")[0] == 200
    document = demo.show()["document"]
    assert len(document["bands"]) == 8 and {hit["id"] for hit in document["hits"]} == {"kick", "snare", "hat"}
    wait_for(
        lambda: sum(signal.startswith("band-octave") for signal in signals(demo)) == 8, 5, "eight signals"
    )
    demo.call("POST", "/show/undo")
    assert [band["id"] for band in demo.show()["document"]["bands"]] == ["low", "mid", "high"]
    assert demo.call("POST", "/bands/presets/none")[0] == 404


def test_a_band_gets_hits_of_its_own_and_a_detector_without_a_band_is_refused(demo):
    assert demo.call("PUT", "/bands/mid/hits", {"on": True})[0] == 200
    wait_for(lambda: "hit-mid-hits" in signals(demo), 5, "the signal")
    assert demo.call("PUT", "/bands/mid/hits", {"on": False})[0] == 200
    assert demo.call("PUT", "/bands/none/hits", {"on": True})[0] == 422

    def add(item):
        return demo.call(
            "POST", "/show/edits", {"edit": {"edit": "add", "path": "/hits", "item": item}, "name": "Hits"}
        )

    assert add({"id": "mid-hits", "band": "mid"})[0] == 200
    wait_for(lambda: "hit-mid-hits" in signals(demo), 5, "the signal")
    status, problem = add({"id": "lost", "band": "gone"})
    assert status == 422 and "neither a drum nor a band" in problem["detail"]


def test_bands_and_routes_are_made_and_taken_away(demo):
    status, made = demo.call("POST", "/bands", {"low_hz": 500, "high_hz": 900, "name": "Bell"})
    assert status == 201 and demo.show()["document"]["bands"][-1]["id"] == made["id"]
    assert demo.call("POST", "/routes", {"signal": f"band-{made['id']}", "targets": ["ring.width"]})[0] == 201
    assert demo.call("DELETE", f"/bands/{made['id']}")[0] == 200
    # The route stays, and says what it misses.
    wait_for(
        lambda: "signal is gone" in told(demo)["why"][demo.show()["document"]["routes"][-1]["id"]]["text"],
        5,
        "the reason",
    )
    assert demo.call("DELETE", "/bands/none")[0] == 422
    for wrong in (
        {"signal": "none", "targets": ["ring.width"]},
        {"signal": "level", "targets": ["none"]},
        {"signal": "level", "targets": ["ring.width", "ring.tint"]},
    ):
        assert demo.call("POST", "/routes", wrong)[0] == 422
    assert demo.call("POST", "/bands", {"low_hz": 900, "high_hz": 500})[0] == 422


def test_a_band_is_found_where_a_drum_stands_out(demo):
    demo.call("POST", "/transport/seek", {"seconds": 30})
    time.sleep(2.0)
    packets, _ = live(demo, 4.0, [BlockId.HITS])
    rows = [hit for packet in packets for hit in packet.blocks[BlockId.HITS].reshape(-1, 5)]
    snare = max((row for row in rows if row[0] == 1 and row[1] == 0), key=lambda row: row[3])
    status, found = demo.call("POST", "/bands/find", {"t": snare[2], "hz": 3000})
    assert status == 200 and 300 < found["low_hz"] < 3000 < found["high_hz"] and found["contrast_db"] >= 3
    assert demo.call("POST", "/bands/find", {"t": 0.0, "hz": 3000})[0] == 422


def test_following_and_loudness_are_in_the_frames(demo):
    demo.set("/inputs/main/level/follow", True)
    demo.set("/inputs/main/level/target_lufs", -30.0)
    before = live(demo, 0.2, [BlockId.STATUS])[0][-1].blocks[BlockId.STATUS]
    assert -30.0 < before[13] < -5.0
    wait_for(
        lambda: live(demo, 0.2, [BlockId.STATUS])[0][-1].blocks[BlockId.STATUS][14] < -1.0, 12, "following"
    )
