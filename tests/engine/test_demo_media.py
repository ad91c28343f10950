"""The demo's media are made once and copied into every new data folder."""

import threading
import time
from concurrent.futures import ThreadPoolExecutor

import numpy as np
import pytest

from fulgura.core.performer import Performer
from fulgura.demo import made as demo
from fulgura.demo import still as demo_still
from fulgura.demo.show import gallery_show
from fulgura.render import still
from fulgura.render.still import StillError


@pytest.fixture
def making(tmp_path, monkeypatch):
    """The folders that media were made in; making is the writing of one file."""
    made = []

    def make(folder, say):
        made.append(folder)
        (folder / "sound").write_text(str(len(made)))

    monkeypatch.setattr(demo, "STAMPS", tmp_path)
    monkeypatch.setattr(demo, "_make", make)
    return made


def test_media_are_made_once(making):
    first = demo.made_once(print)
    assert demo.made_once(print) == first and len(making) == 1
    assert (first / "sound").read_text() == "1" and folders(first.parent) == [first.name]


def folders(where):
    return [path.name for path in where.iterdir() if path.is_dir()]


def test_media_are_made_anew_when_what_makes_them_changed_and_the_old_ones_go(making, monkeypatch):
    first = demo.made_once(print)
    monkeypatch.setattr(demo, "digest_of", lambda *files: "f" * 64)
    second = demo.made_once(print)
    assert second != first and not first.exists() and (second / "sound").read_text() == "2"


def test_media_that_could_not_be_made_leave_nothing_behind(making, monkeypatch, tmp_path):
    def full(folder, say):
        (folder / "sound").write_text("half")
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(demo, "_make", full)
    with pytest.raises(OSError):
        demo.made_once(print)
    assert folders(tmp_path / "demo-media") == []


def test_a_draft_that_a_killed_start_left_goes(making, tmp_path):
    left = tmp_path / "demo-media" / "draft"
    left.mkdir(parents=True)
    (left / "sound").write_text("half")
    ready = demo.made_once(print)
    assert folders(ready.parent) == [ready.name] and (ready / "sound").read_text() == "1"


def test_of_two_that_start_at_once_the_second_waits_for_the_first(making, monkeypatch):
    make, begun = demo._make, threading.Barrier(2)

    def slow(folder, say):
        make(folder, say)
        time.sleep(0.3)

    def start():
        begun.wait()
        return demo.made_once(print)

    monkeypatch.setattr(demo, "_make", slow)
    with ThreadPoolExecutor(2) as pool:
        first, second = [each.result() for each in [pool.submit(start) for _ in range(2)]]
    assert first == second and len(making) == 1


def test_every_file_of_the_demo_is_among_those_that_are_made():
    ready = demo.made_once(print)
    assert {str(file.relative_to(ready)) for file in ready.rglob("*") if file.is_file()} == {
        *demo.DRAWN,
        *(file for files in demo.COMPOSED.values() for file in files),
        *(file for _, _, _, file in demo.small_pictures()),
    }


def test_a_still_says_when_its_pictures_cannot_be_made_and_needs_none_where_none_are_shown(
    monkeypatch, tmp_path
):
    def full(say):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(demo_still, "made_once", full)
    monkeypatch.setattr(demo_still, "draw", lambda *given: given[-1])
    demo_still.draw_demo("signal-rose", 1.0, "160x90", tmp_path / "a.png")
    with pytest.raises(StillError, match="No space left"):
        demo_still.draw_demo("fog-bank", 1.0, "160x90", tmp_path / "b.png")


def test_a_still_of_a_shader_that_cannot_be_made_says_so(tmp_path, monkeypatch):
    """A picture without it would be dark, and nobody would know why."""
    monkeypatch.setattr(still, "Performer", _with_a_broken_shader)
    show = gallery_show()
    look = still.find_look(show, "lantern-tunnel")
    silence = np.zeros((48_000, 2))
    with pytest.raises(StillError, match="“Lantern tunnel” cannot be drawn here: .*"):
        still.draw(show, look, silence, 0.1, "64x36", tmp_path / "a.png", None)


def _with_a_broken_shader(show):
    made = Performer(show)
    first = made.plan.passes[0].fragment_text
    made.picture.plan = made.plan.model_copy(
        update={"texts": made.plan.texts | {first: "once float x = 1.0;"}}
    )
    return made
