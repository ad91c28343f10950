"""Films taken in: containers, clear places, length, damage; and reels read back, any picture at any time."""

import json
import random
import subprocess
import sys
import time

import numpy as np
import psutil
import pytest

from fulgura.children import child_environment
from fulgura.media import import_clip as take_clip
from fulgura.media.import_clip import ClipError, import_clip, probe
from fulgura.media.intra_clip import IntraClip, IntraClips, NoIntraClip, Writer


def film(
    path,
    codec: str = "-c:v libx264 -pix_fmt yuv420p",
    source: str = "testsrc2=s=320x180:r=25:d=1",
    sound: bool = True,
):
    words = (
        f"ffmpeg -y -v error -f lavfi -i {source} {'-f lavfi -i sine=440:d=1' if sound else ''} {codec}"
        f" {path}"
    )
    subprocess.run(words, shell=True, check=True)
    return path


@pytest.mark.parametrize(
    ("name", "codec", "sound"),
    [
        ("a.mp4", "-c:v libx264 -pix_fmt yuv420p", True),
        ("a.mov", "-c:v mpeg4", True),
        ("a.webm", "-c:v libvpx-vp9 -deadline realtime", True),
        ("a.gif", "", False),
    ],
)
def test_every_container_becomes_a_reel_of_the_same_pictures(tmp_path, name, codec, sound):
    found = import_clip(film(tmp_path / name, codec, sound=sound), tmp_path)
    assert (found["width"], found["height"], found["frames"], found["rate"]) == (320, 180, 25, 25.0)
    assert (found["sound"], found["cut"]) == (sound, "")
    # What ffmpeg itself makes of the tenth picture is the yardstick.
    raw = subprocess.run(
        [
            "ffmpeg",
            "-v",
            "error",
            "-i",
            tmp_path / name,
            "-vf",
            "select=eq(n\\,10)",
            "-frames:v",
            "1",
            "-f",
            "rawvideo",
            "-pix_fmt",
            "rgb24",
            "-",
        ],
        capture_output=True,
    ).stdout
    wanted = np.frombuffer(raw, np.uint8).reshape(180, 320, 3).astype(float)
    ours = IntraClips(tmp_path).intra_clip(found["key"]).texels(10)[::-1, :, :3].astype(float)
    assert np.abs(ours - wanted).mean() < 6.0


def test_clear_places_stay_clear_and_are_multiplied_where_light_adds_up(tmp_path):
    half = film(
        tmp_path / "half.webm",
        "-c:v libvpx-vp9 -deadline realtime -pix_fmt yuva420p",
        "color=c=red@0.5:s=64x64:r=10:d=0.5,format=yuva420p",
        sound=False,
    )
    found = import_clip(half, tmp_path)
    r, _, _, a = IntraClips(tmp_path).intra_clip(found["key"]).texels(2)[32, 32].astype(float)
    # sRGB (IEC 61966-2-1) of full red's light times a half is 188.
    assert a == pytest.approx(128, abs=4) and r == pytest.approx(188, abs=6)


def test_a_film_held_upright_and_a_large_one_keep_their_shape(tmp_path):
    large = import_clip(film(tmp_path / "large.mp4", source="testsrc2=s=1920x800:r=5:d=0.4"), tmp_path)
    assert (large["width"], large["height"]) == (1280, 534)
    assert (
        import_clip(film(tmp_path / "fast.mp4", source="testsrc2=s=64x64:r=120:d=0.5"), tmp_path)["rate"]
        == 60.0
    )


def test_the_same_film_is_the_same_clip(tmp_path):
    path = film(tmp_path / "one.mp4")
    first = import_clip(path, tmp_path)
    content = (tmp_path / f"{first['key']}.zip").read_bytes()
    assert import_clip(path, tmp_path) == first and (tmp_path / f"{first['key']}.zip").read_bytes() == content


@pytest.mark.parametrize(
    ("name", "content"),
    [
        ("words.mp4", b"this is no film"),
        ("empty.mp4", b""),
        ("list.mp4", b"#EXTM3U\n#EXTINF:1,\nhttp://example.invalid/a.ts\n"),
        ("page.webm", b"<html>" * 99),
    ],
)
def test_what_is_no_film_is_named(tmp_path, name, content):
    (tmp_path / name).write_bytes(content)
    with pytest.raises(ClipError, match="no film that can be read"):
        import_clip(tmp_path / name, tmp_path)
    assert [path.name for path in tmp_path.iterdir()] == [name]


def test_a_sound_file_and_a_picture_are_no_films(tmp_path):
    subprocess.run(
        f"ffmpeg -v error -f lavfi -i sine=440:d=1 {tmp_path / 'sound.mp3'}", shell=True, check=True
    )
    film(tmp_path / "still.png", "-frames:v 1", sound=False)
    for name in ("sound.mp3", "still.png"):
        with pytest.raises(ClipError):
            probe(tmp_path / name)


def test_a_film_that_breaks_off_gives_what_there_is_of_it(tmp_path):
    whole = film(
        tmp_path / "whole.mp4",
        "-c:v libx264 -pix_fmt yuv420p -g 5 -movflags frag_keyframe+empty_moov",
        sound=False,
    )
    (tmp_path / "cut.mp4").write_bytes(whole.read_bytes()[: whole.stat().st_size * 6 // 10])
    assert 3 <= import_clip(tmp_path / "cut.mp4", tmp_path)["frames"] < 25
    rotten = bytearray(whole.read_bytes())
    rotten[2000:] = random.Random(1).randbytes(len(rotten) - 2000)
    (tmp_path / "rotten.mp4").write_bytes(rotten)
    try:
        assert import_clip(tmp_path / "rotten.mp4", tmp_path)["frames"] <= 25
    except ClipError as error:
        assert "film" in str(error)
    assert not list(tmp_path.glob("*.new"))


def test_an_endless_film_is_cut_and_says_so(tmp_path, monkeypatch):
    monkeypatch.setattr(take_clip, "LONGEST_S", 0.6)
    found = import_clip(film(tmp_path / "long.mp4", source="testsrc2=s=64x64:r=25:d=5"), tmp_path)
    assert "the rest is left out" in found["cut"] and found["frames"] == pytest.approx(15, abs=1)


def test_the_child_says_how_far_it_is_and_then_what_it_made(tmp_path):
    film(tmp_path / "one.mp4")
    done = subprocess.run(
        [sys.executable, "-m", "fulgura", "import-clip", str(tmp_path / "one.mp4"), str(tmp_path)],
        capture_output=True,
        text=True,
        env=child_environment(),
    )
    *shares, last = done.stdout.splitlines()
    assert [float(share) for share in shares] == sorted(float(share) for share in shares) and json.loads(
        last
    )["frames"] == 25


def reel_of(path, frames: int, size: tuple[int, int] = (1280, 720)):
    """Each picture says its number by its brightness."""
    noise = (
        np.random.default_rng(1)
        .integers(0, 40, (size[1] // 8, size[0] // 8, 3), dtype=np.uint8)
        .repeat(8, axis=0)
        .repeat(8, axis=1)
    )
    with Writer(path, *size, 25.0) as intra_clip:
        for number in range(frames):
            intra_clip.add(noise + np.uint8(number * 2))
    return path


def test_any_picture_is_one_read_away_within_twenty_milliseconds(tmp_path):
    reel_of(tmp_path / "clip-a.zip", 60)
    intra_clips, times = IntraClips(tmp_path), []
    for number in random.Random(2).choices(range(60), k=60):
        started = (
            time.thread_time()
        )  # What it takes of the processor: the host may lend it to others meanwhile.
        pixels = intra_clips.intra_clip("clip-a").texels(number)
        times.append(time.thread_time() - started)
        assert pixels.shape == (720, 1280, 4) and pixels[..., :3].mean() == pytest.approx(
            number * 2 + 19.5, abs=2.0
        )
    assert np.quantile(times, 0.95) <= 0.020


def test_ten_thousand_seeks_leave_nothing_behind(tmp_path):
    for name in range(20):
        reel_of(tmp_path / f"clip-{name}.zip", 20, (64, 36))
    intra_clips, rng, process = IntraClips(tmp_path), random.Random(3), psutil.Process()
    for _ in range(500):
        intra_clips.intra_clip(f"clip-{rng.randrange(20)}").texels(rng.randrange(20))
    files, memory = process.num_fds(), process.memory_info().rss
    for _ in range(10_000):
        intra_clips.intra_clip(f"clip-{rng.randrange(20)}").texels(rng.randrange(20))
    assert process.num_fds() <= files + 2 and process.memory_info().rss - memory < 8 * 2**20
    intra_clips.close()


def test_what_is_not_there_is_said(tmp_path):
    (tmp_path / "clip-bad.zip").write_bytes(b"no reel")
    reel_of(tmp_path / "clip-good.zip", 2, (64, 36))
    intra_clips = IntraClips(tmp_path)
    for key, number in (("clip-none", 0), ("clip-bad", 0), ("../clip-good", 0), ("clip-good", 2)):
        with pytest.raises(NoIntraClip):
            intra_clips.intra_clip(key).picture(number)
    assert IntraClip(tmp_path / "clip-good.zip").frames == 2
