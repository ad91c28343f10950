"""The picture over the API: small pictures, fixed ones, own shaders, looks that go over into each other."""

import io
import json
import socket
import subprocess
import urllib.error
import urllib.request

import pytest
from PIL import Image

from fulgura.core.kinds import glyphs
from fulgura.core.picture.images import texels
from fulgura.core.wire import BlockId
from harness.measuring import once_good
from harness.stack import live, wait_for


def fetch(demo, path: str) -> tuple[str, bytes]:
    with urllib.request.urlopen(f"{demo.url}/api/v1{path}", timeout=240) as answer:
        return answer.headers["content-type"], answer.read()


def test_a_look_and_a_layer_have_small_pictures_drawn_in_python(demo):
    def drawn(path):
        return wait_for(lambda: (found := fetch(demo, path))[1] and found, 60, "the drawing")

    kind, look = drawn("/looks/lantern-tunnel/thumbnail")
    picture = Image.open(io.BytesIO(look))
    assert (
        kind == "image/png"
        and picture.size == (160, 90)
        and max(high for _, high in picture.convert("RGB").getextrema()) > 60
    )
    _, layer = drawn("/looks/lantern-tunnel/thumbnail?layer=lantern")
    assert layer != look and Image.open(io.BytesIO(layer)).size == (160, 90)
    kept = list((demo.folders.thumbnails).glob("*.png"))
    assert fetch(demo, "/looks/lantern-tunnel/thumbnail")[1] == look and len(
        list(demo.folders.thumbnails.glob("*.png"))
    ) == len(kept), "drawn once"
    assert (
        demo.call("GET", "/looks/none/thumbnail")[0] == 404
        and demo.call("GET", "/looks/lantern-tunnel/thumbnail?layer=none")[0] == 404
    )


def test_a_kind_has_a_small_picture_that_moves(demo):
    kind, data = wait_for(
        lambda: (found := fetch(demo, "/kinds/effect/feedback/picture"))[1] and found, 60, "the drawing"
    )
    picture = Image.open(io.BytesIO(data))
    assert kind == "image/webp" and picture.size == (160, 90) and picture.n_frames > 10
    assert demo.call("GET", "/kinds/effect/nothing/picture")[0] == 404
    assert demo.call("GET", "/kinds/shaper/smooth/picture")[0] == 404


def test_the_demos_small_pictures_are_there_before_anybody_asks(demo):
    looks = [(f"/looks/{look['id']}/thumbnail", look["layers"]) for look in demo.show()["document"]["looks"]]
    paths = [path for path, _ in looks]
    paths += [f"{path}?layer={layer['id']}" for path, layers in looks for layer in layers]
    missing = [path for path in paths if not fetch(demo, path)[1]]
    assert missing == []


def test_fixed_pictures_are_the_same_in_every_process(demo):
    kind, data = fetch(demo, f"/images/{glyphs.KEY}")
    assert kind == "application/octet-stream" and data == texels(glyphs.KEY)
    assert demo.call("GET", "/images/none")[0] == 404


@pytest.fixture
def own(demo) -> str:
    """The path of a fresh own shader in the shown look."""
    layer = demo.call("POST", "/looks/lantern-tunnel/layers", {"source": "own-shader"})[1]["id"]
    return f"/looks/lantern-tunnel/layers/{layer}/source"


def test_an_own_shader_is_tried_before_the_show_gets_it(demo, own):
    text = "uniform float glow; // 0 .. 4 = 2  Light\nvoid main() { o_colour = vec4(glow); }"
    assert demo.call("PUT", "/code", {"path": own, "code": text}) == (200, {"faults": []})
    part = next(
        layer for layer in demo.show()["document"]["looks"][0]["layers"] if own.split("/")[4] == layer["id"]
    )["source"]
    assert part["values"]["code"] == text and part["values"]["knob_1"] == 2.0

    def titles():
        return [
            entry["parameter"]["title"]
            for entry in demo.call("GET", "/layout")[1]["layout"]["indices"]
            if entry["part"] == part["id"]
        ]

    wait_for(lambda: titles() == ["Glow"], 5, "its parameter")
    for wrong, line, words in (
        ("void main() {\n  o_colour = nothing;\n}", 2, "nothing"),
        ("float f() { return 1.0; }", 0, "no main"),
    ):
        status, answer = demo.call("PUT", "/code", {"path": own, "code": wrong})
        assert status == 200 and answer["faults"][0]["line"] == line and words in answer["faults"][0]["text"]
    assert (
        next(
            layer
            for layer in demo.show()["document"]["looks"][0]["layers"]
            if own.split("/")[4] == layer["id"]
        )["source"]["values"]["code"]
        == text
    )
    assert (
        demo.call("PUT", "/code", {"path": "/looks/lantern-tunnel/layers/lantern/source", "code": text})[0]
        == 422
    )


def test_an_own_shader_that_never_ends_is_refused_and_the_show_goes_on(demo, own):
    endless = (
        "void main() { float s = 0.0; for (;;) { s += 0.001; if (s < 0.0) break; } o_colour = vec4(s); }"
    )
    before = live(demo, 0.3, [4])[0][-1].number
    status, answer = demo.call("PUT", "/code", {"path": own, "code": endless})
    assert status == 200 and answer["faults"]
    assert live(demo, 0.3, [4])[0][-1].number > before


def send(demo, data: bytes, path: str = "/pictures?name=Tower") -> tuple[int, dict]:
    request = urllib.request.Request(
        f"{demo.url}/api/v1{path}", data, {"Content-Type": "application/octet-stream"}, method="POST"
    )
    try:
        with urllib.request.urlopen(request, timeout=120) as answer:
            return answer.status, json.loads(answer.read())
    except urllib.error.HTTPError as error:
        return error.code, json.loads(error.read())


def test_a_picture_is_taken_in_shown_and_fetched_by_its_content(demo):
    file = io.BytesIO()
    Image.new("RGBA", (30, 20), (255, 128, 0, 128)).save(file, "PNG")
    status, made = send(demo, file.getvalue())
    assert status == 201
    stored = next(picture for picture in demo.show()["document"]["pictures"] if picture["id"] == made["id"])
    assert (stored["name"], stored["width"], stored["height"]) == ("Tower", 30, 20)
    assert len(fetch(demo, f"/images/{stored['key']}")[1]) == 30 * 20 * 4
    layer = demo.call("POST", "/looks/lantern-tunnel/layers", {"source": "picture"})[1]["id"]
    demo.set(f"/looks/lantern-tunnel/layers/{layer}/source/values/file", made["id"])
    wait_for(
        lambda: (
            [image["key"] for image in demo.call("GET", "/layout")[1]["plan"]["images"]] == [stored["key"]]
        ),
        5,
        "the plan with it",
    )
    for wrong, words in (
        (b"no picture at all", "no picture that can be read"),
        (file.getvalue()[:60], "picture"),
        (b"", "Choose a picture"),
    ):
        status, problem = send(demo, wrong)
        assert status == 422 and words in problem["detail"]
    assert (
        not list(demo.folders.pictures.glob("*.part"))
        and demo.call("GET", "/images/file-000000000000000000000000")[0] == 404
    )


def test_a_film_is_taken_in_with_its_sound_and_any_picture_is_fetched(demo, tmp_path):
    subprocess.run(
        "ffmpeg -v error -f lavfi -i testsrc2=s=320x180:r=25:d=2 -f lavfi -i sine=330:d=2 -c:v libx264"
        f" -pix_fmt yuv420p {tmp_path / 'quay.mp4'}",
        shell=True,
        check=True,
    )
    status, answer = send(demo, (tmp_path / "quay.mp4").read_bytes(), "/clips?name=Quay&sound=true")
    assert status == 201 and answer["said"] == "Its sound is in the library, for an input."
    stored = next(clip for clip in demo.show()["document"]["clips"] if clip["id"] == answer["id"])
    assert (stored["name"], stored["width"], stored["height"], stored["frames"], stored["rate"]) == (
        "Quay",
        320,
        180,
        50,
        25.0,
    )
    assert answer["track"] in [track["id"] for track in demo.call("GET", "/tracks")[1]]
    demo.call("DELETE", f"/tracks/{answer['track']}")
    kind, picture = fetch(demo, f"/clips/{stored['key']}/49")
    assert Image.open(io.BytesIO(picture)).size == (320, 180) and kind == "image/jpeg"
    for gone in (f"/clips/{stored['key']}/50", "/clips/clip-000000000000000000000000/0"):
        assert demo.call("GET", gone)[0] == 404
    layer = demo.call("POST", "/looks/lantern-tunnel/layers", {"source": "clip"})[1]["id"]
    demo.set(f"/looks/lantern-tunnel/layers/{layer}/source/values/file", answer["id"])
    clip = wait_for(
        lambda: (found := demo.call("GET", "/layout")[1]["plan"]["clips"]) and found[0], 5, "the plan with it"
    )
    assert clip["key"] == stored["key"]

    def shown() -> set[float]:
        """Its pictures of one second."""
        frames, _ = live(demo, 1.0, [clip["block"]])
        return {float(each.blocks[clip["block"]][0]) for each in frames if clip["block"] in each.blocks}

    numbers = once_good(shown, lambda found: len(found) > 10)
    assert len(numbers) > 10 and all(0 <= number < 50 for number in numbers), "it runs"


def test_what_is_no_film_is_refused_and_one_that_is_broken_off_leaves_nothing(demo):
    for wrong, words in ((b"no film at all", "no film that can be read"), (b"", "Choose a film")):
        status, problem = send(demo, wrong, "/clips?name=Wrong")
        assert status == 422 and words in problem["detail"]
    film = subprocess.run(
        "ffmpeg -v error -f lavfi -i testsrc2=s=1280x720:r=60:d=10 -c:v mpeg4 -movflags"
        " frag_keyframe+empty_moov -f mp4 -",
        shell=True,
        capture_output=True,
        check=True,
    ).stdout
    with socket.create_connection(("127.0.0.1", demo.port)) as wire:
        wire.sendall(
            f"POST /api/v1/clips?name=Long HTTP/1.1\r\nHost: 127.0.0.1:{demo.port}\r\nContent-Length:"
            f" {len(film)}\r\n\r\n".encode()
            + film
        )
        wait_for(lambda: 0.0 < demo.call("GET", "/health")[1]["importing"]["Long"] < 1.0, 20, "its progress")
    wait_for(lambda: demo.call("GET", "/health")[1]["importing"] == {}, 20, "its end")
    wait_for(
        lambda: not [file for file in demo.folders.pictures.iterdir() if file.suffix in (".part", ".new")],
        10,
        "the clearing up",
    )
    assert "Long" not in [clip["name"] for clip in demo.show()["document"]["clips"]]


def test_a_look_goes_over_in_beats_and_its_blocks_are_in_the_frames(demo):
    status, _ = demo.call(
        "POST",
        "/show/edits",
        {"edit": {"edit": "set", "path": "/look", "value": "lamp-swarm"}, "name": "Look", "glide_beats": 2},
    )
    assert status == 200
    crossfade = (
        wait_for(
            lambda: (
                "crossfade"
                in [render_pass["name"] for render_pass in demo.call("GET", "/layout")[1]["plan"]["passes"]]
            ),
            5,
            "the crossfade",
        )
        or True
    )
    plan = wait_for(
        lambda: (
            (found := demo.call("GET", "/layout")[1]["plan"])
            and "crossfade" not in [render_pass["name"] for render_pass in found["passes"]]
            and found
        ),
        10,
        "its end",
    )
    assert crossfade and plan["look"] == "lamp-swarm"
    blocks = [binding["block"] for binding in plan["data"]]
    frames, _ = live(demo, 0.3, [int(BlockId.UNIFORMS), *blocks])
    assert blocks and all(set(blocks) <= frames[-1].blocks.keys() for _ in blocks)


def test_cues_are_kept_and_recalled_in_order_and_say_that_their_look_was_taken_away(demo):
    def document():
        return demo.call("GET", "/show")[1]["document"]

    before = document()
    assert demo.call("POST", "/cues/recall", {"cue": "cue-6"})[0] == 204
    wait_for(lambda: document()["look"] == "slack-figures", 5, "the cue")
    cue = demo.call("POST", "/cues", {"name": "Encore", "over": {"amount": 0}})[1]["id"]
    assert [cue["id"] for cue in document()["cues"]][5:7] == ["cue-6", cue]
    assert demo.call("POST", "/cues/recall", {})[0] == 204
    wait_for(lambda: document()["cue"] == cue, 5, "the next cue")
    status, problem = demo.call("POST", "/cues/recall", {"cue": "none"})
    assert status == 422 and "not there any more" in problem["detail"]
    assert demo.call("DELETE", "/looks/slack-figures")[0] == 200
    told = demo.call("GET", f"/cues/words?ids=cue-6,{cue}")[1]
    assert [row["gone"] for row in told.values()] == [["its look is gone"]] * 2
    for _ in range(4):
        assert demo.call("POST", "/show/undo")[0] == 200
    assert document() == before
