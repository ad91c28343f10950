"""Lights over the API: lamps hung and addressed, groups, palettes, chases, the wire; what the stand-in makes
of it.
"""

import json
import urllib.request

import numpy as np
import pytest

from fulgura.core.wire import BlockId
from harness.stack import live, said, told, wait_for


def node(demo, path):
    with urllib.request.urlopen(f"http://127.0.0.1:{demo.node_port}{path}", timeout=5) as response:
        return json.loads(response.read())


def document(demo):
    return demo.show()["document"]


def post(demo, path, body=None, method="POST", status=200):
    found, answer = demo.call(method, path, body)
    assert found == status, answer
    return answer


def test_lamps_are_hung_addressed_and_taken_down_in_one_step_each(demo):
    head = demo.show()["head"]
    ids = post(demo, "/lamps", {"kind": "rgbw-lamp", "count": 3, "name": "Pit #", "at": "7.509"}, status=201)[
        "ids"
    ]
    lamps = {lamp["id"]: lamp for lamp in document(demo)["lamps"]}
    where = [(lamps[id]["universe"], lamps[id]["address"]) for id in ids]
    assert where == [(7, 509), (8, 1), (8, 5)] and lamps[ids[2]]["name"] == "Pit 3"
    demo.set(f"/lamps/{ids[1]}/address", 5)
    clashes = post(demo, "/lamps/clashes", method="GET")
    assert {clash["lamp"] for clash in clashes} == {ids[1], ids[2]} and "“Pit 3”" in clashes[0][
        "text"
    ] + clashes[1]["text"]
    post(demo, "/lamps/address", {"ids": [ids[1]]})
    assert post(demo, "/lamps/clashes", method="GET") == []
    post(demo, "/lamps/removal", {"ids": ids})
    assert not {lamp["id"] for lamp in document(demo)["lamps"]} & set(ids)
    assert demo.show()["head"] == head + 4


def test_an_address_that_is_none_and_a_kind_that_is_gone_are_said_in_words(demo):
    for body, words in (
        ({"kind": "rgb-lamp", "at": "2.600"}, "channels from 1 to 512"),
        ({"kind": "lasers"}, "no kind of lamp called “lasers”"),
        ({"kind": "rgb-lamp", "mode": "9 bit"}, "no mode"),
    ):
        status, answer = demo.call("POST", "/lamps", body)
        assert status == 422 and words in answer["detail"], answer
    assert demo.call("POST", "/lamps/home", {"ids": ["gone"]})[0] == 422


def test_the_stand_in_draws_the_demos_rig_from_packets_alone(demo):
    lamps = wait_for(lambda: node(demo, "/lamps"), 10, "the rig file")
    assert len(lamps) == 36 and [len(lamp["cells"]) for lamp in lamps if lamp["name"].startswith("Door")] == [
        24,
        24,
    ]
    demo.set("/lights/part/values/grand", 0.0)
    wait_for(
        lambda: max(cell[3] for lamp in node(demo, "/lamps") for cell in lamp["cells"]) == 0.0, 5, "all dark"
    )
    post(demo, "/show/undo")
    wait_for(
        lambda: max(cell[3] for lamp in node(demo, "/lamps") for cell in lamp["cells"]) > 0.3, 5, "light"
    )
    row = node(demo, "/universes")[0]
    assert row["state"] == "receiving" and row["lost"] == 0 and 30 <= row["packets_per_s"] <= 44


def test_what_is_shown_is_what_is_received(demo):
    """Grand master at half, no route: the desk's block and the stand-in's reading agree."""
    demo.set("/sound_amount", 0.0)
    for chase in document(demo)["chases"]:
        post(demo, f"/chases/{chase['id']}/running", {"running": False}, "PUT")
    demo.set("/lights/frozen", True)
    wait_for(lambda: len(node(demo, "/lamps")) == 36, 10, "the rig")
    packets, _ = live(demo, 1.0, [BlockId.LAMPS, BlockId.POSE])
    shown = packets[-1].blocks[BlockId.LAMPS].reshape(-1, 4)
    seen = [cell for lamp in node(demo, "/lamps") for cell in lamp["cells"]]
    assert shown == pytest.approx(np.array(seen), abs=1e-5)
    pose = packets[-1].blocks[BlockId.POSE].reshape(-1, 4)
    assert pose[12:16, 0] == pytest.approx([lamp["pan"] for lamp in node(demo, "/lamps")[12:16]], abs=0.02)


def test_groups_palettes_and_chases_over_the_api(demo):
    group = post(demo, "/groups", {"ids": ["foot-2", "foot-1"], "name": "Pair"}, status=201)["id"]
    palette = post(demo, "/palettes", {"ids": [], "colours": ["#ff0000", "#00ff00"]}, status=201)["id"]
    assert post(demo, f"/palettes/{palette}/recall", {"ids": ["foot-1", "foot-2", "door-1"]}) == {
        "cannot": []
    }
    lamps = {lamp["id"]: lamp for lamp in document(demo)["lamps"]}
    assert [lamps[id]["fixture"]["values"]["colour"] for id in ("foot-1", "foot-2")] == ["#ff0000", "#00ff00"]
    post(demo, f"/palettes/{palette}/colour", {"index": 0, "colour": "#0000ff"}, "PUT")
    assert {lamp["id"]: lamp for lamp in document(demo)["lamps"]}["door-1"]["fixture"]["values"][
        "colour"
    ] == "#0000ff"
    kept = post(demo, "/palettes", {"ids": ["foot-1"], "kind": "position"}, status=201)["id"]
    assert set(next(own for own in document(demo)["palettes"] if own["id"] == kept)["lamps"]["foot-1"]) == {
        *("pan", "tilt", "zoom")
    }
    chase = post(demo, "/chases", {"groups": [group], "values": {"shape": "fill"}}, status=201)["id"]
    post(demo, f"/chases/{chase}/runs", {"group": "rail"})
    post(demo, f"/chases/{chase}/running", {"running": True}, "PUT")
    copy = post(demo, f"/chases/{chase}/copies", {"group": "door"}, status=201)["id"]
    made = {own["id"]: own for own in document(demo)["chases"]}
    assert [run["group"] for run in made[chase]["runs"]] == [group, "rail"]
    assert all(run["part"]["values"]["running"] for run in made[chase]["runs"])
    assert [run["group"] for run in made[copy]["runs"]] == ["door"] and made[copy]["part"]["values"][
        "shape"
    ] == "fill"
    post(demo, f"/groups/{group}", method="DELETE")
    assert [run["group"] for run in document(demo)["chases"][-2]["runs"]] == ["rail"]


def test_a_route_to_a_group_moves_what_is_received(demo):
    demo.set("/routes", [])
    for chase in document(demo)["chases"]:
        post(demo, f"/chases/{chase['id']}/running", {"running": False}, "PUT")
    modulator = post(demo, "/modulators", {"kind": "fader"}, status=201)["id"]
    post(demo, "/routes", {"signal": f"modulator-{modulator}", "targets": ["rail.level"]}, status=201)
    route = document(demo)["routes"][0]
    demo.set(f"/routes/{route['id']}/low", 0.0)
    demo.set(f"/routes/{route['id']}/high", 1.0)

    def rail():
        return [round(lamp["cells"][0][3], 1) for lamp in node(demo, "/lamps")[:12]]

    for level in (1.0, 0.0, 0.5):
        demo.set(f"/modulators/{modulator}/part/values/level", level)
        wait_for(
            lambda level=level: all(abs(own - level) < 0.06 for own in rail()), 5, f"the rail at {level}"
        )


def test_the_sheet_the_curve_the_switches_and_the_reach_are_told(demo):
    rows = post(demo, "/universes/1", method="GET")
    assert rows[0]["name"] == "Gallery rail 1" and rows[0]["function"] == "red" and rows[0]["by"] == "Swell"
    answer = {"id": "x", "family": "answer", "kind": "answer", "values": {"shape": "square"}}
    samples = post(demo, "/light-curves", {"answer": answer})
    assert len(samples) == 65 and samples[32] == pytest.approx(0.25, abs=1e-6)
    assert post(demo, "/switches?address=17", method="GET")[:5] == [True, False, False, False, True]
    told = post(demo, "/lamps/reach?colour=%230000ff", {"ids": ["gallery-1"]})
    assert told == [{"lamp": "gallery-1", "shown": "#0000ff", "near": True}]
    assert any(card["address"] == "127.0.0.1" for card in post(demo, "/network-cards", method="GET"))


def test_one_more_output_sends_art_net_to_the_stand_in_too(demo):
    id = post(demo, "/light-outputs", {"protocol": "art-net"}, status=201)["id"]
    words = demo.child("standin rig").cmdline()
    demo.set(f"/light_outputs/{id}/host", "127.0.0.1")
    demo.set(f"/light_outputs/{id}/port", int(words[words.index("--artnet-port") + 1]))
    demo.set(f"/light_outputs/{id}/on", True)
    rows = wait_for(
        lambda: [row for row in node(demo, "/universes?count=12") if row["protocol"] == "art-net"],
        5,
        "Art-Net",
    )
    assert rows[0]["universe"] == 1 and rows[0]["lost"] == 0
    row = wait_for(lambda: told(demo)["lights"]["outputs"].get(id), 5, "the output's state")
    assert row["universes"] == [1] and row["fault"] is None
    demo.set(f"/light_outputs/{id}/host", "nowhere")
    wait_for(lambda: "nowhere" in str(told(demo)["lights"]["fault"]), 5, "the fault")


def test_identify_and_fog_end_by_themselves_when_nobody_holds_them(demo):
    id = post(demo, "/lamps", {"kind": "fog-machine", "at": "3.1"}, status=201)["ids"][0]
    fixture = next(lamp for lamp in document(demo)["lamps"] if lamp["id"] == id)["fixture"]["id"]
    fog = said("override-set", target=f"{fixture}.fog", value=1.0)

    def sent():
        packets, _ = live(demo, 0.4, [BlockId.CHANNELS])
        return int(packets[-1].blocks[BlockId.CHANNELS].reshape(-1, 512)[1][0])

    live(demo, 0.2, [], [fog, said("lamps-identified", lamps=["foot-1"])])
    assert sent() == 255
    wait_for(lambda: sent() == 0, 3, "the end of the fog")
    assert f"{fixture}.fog" not in told(demo)["overridden"]


def test_a_palette_is_taken_into_use_over_the_api(demo):
    post(demo, "/palettes/palette-3/use", {"over_beats": 1.0})
    assert document(demo)["palette"] == "palette-3"
    status, problem = demo.call("POST", "/palettes/none/use", {})
    assert status in (409, 422) and "not there any more" in problem["detail"]


def test_ramps_are_made_and_taken_away_over_the_api(demo):
    before = len(document(demo)["ramps"])
    ramp = post(demo, "/ramps", {"name": "Dusk"}, status=201)["id"]
    assert document(demo)["ramps"][-1]["name"] == "Dusk"
    post(demo, f"/ramps/{ramp}", None, "DELETE")
    assert len(document(demo)["ramps"]) == before
