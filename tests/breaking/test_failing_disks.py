"""Disks that fail: full, syncs with errors, read-only. No edit is lost, a sentence says so, and all is
kept once the disk takes it.
"""

import itertools
import os
import subprocess
import time
from pathlib import Path

import pytest

from harness.breaking import engine, victim
from harness.shim import Shim
from harness.stack import start_stack, wait_for
from tests.breaking.conftest import PATH, width


def health(stack):
    return stack.call("GET", "/health")[1]


def unkept_edits(stack):
    """A hundred edits on a disk that takes none: all act, none is said to be kept, the desk says why."""
    answers = [stack.set(PATH, 0.2 + number / 10_000) for number in range(100)]
    assert not any(answer["saved"] for answer in answers[10:]), "kept where nothing can be kept"
    assert width(stack) == pytest.approx(0.2099)
    said(stack)


def said(stack):
    """The desk says that nothing is kept, and the engine plays on."""
    print(wait_for(lambda: health(stack)["fault"], 5, "word of it")["text"])
    wait_for(lambda: health(stack)["engine"], 5, "the engine, which plays on")


def kept_again(stack):
    """All that waited is on disk, and in the database soon after."""
    wait_for(lambda: stack.set(PATH, 0.3)["saved"], 10, "edits that are kept again")
    wait_for(lambda: health(stack)["saved"], 70, "the database's catching up")
    assert health(stack)["fault"] is None


def opened_again(data: Path) -> float:
    again = start_stack(data)
    try:
        return width(again)
    finally:
        assert again.stop() == 0


@pytest.fixture
def mounted(tmp_path):
    """Mounts a file system of its own; needs the right to."""
    places = []

    def mount(*words: str) -> Path:
        place = tmp_path / "disk"
        place.mkdir()
        if subprocess.run(["mount", *words, str(place)], check=False).returncode:
            pytest.skip("this user may not mount a file system")
        places.append(place)
        return place

    yield mount
    for place in places:
        subprocess.run(["umount", "-l", str(place)], check=False)


def test_a_full_disk_is_said_and_nothing_is_lost(mounted):
    place = mounted("-t", "tmpfs", "-o", "size=900m", "none")
    stack = start_stack(place / "data")
    try:
        assert stack.set(PATH, 0.11)["saved"]
        wait_for(lambda: health(stack)["saved"], 5)
        filler = place / "filler"
        with open(filler, "wb") as file:
            left = os.statvfs(place)
            while left.f_bavail * left.f_frsize:
                try:
                    file.write(bytes(min(1 << 20, left.f_bavail * left.f_frsize)))
                    file.flush()
                except OSError:
                    break
                left = os.statvfs(place)
        # What is kept in the database makes room in the journal, until that cannot keep any more either.
        values = itertools.count(1)
        wait_for(
            lambda: not stack.set(PATH, 0.2 + next(values) / 100_000)["saved"], 60, "the disk's last byte"
        )
        assert width(stack) == pytest.approx(0.2 + (next(values) - 1) / 100_000)
        said(stack)
        filler.unlink()
        kept_again(stack)
    finally:
        assert stack.stop() == 0
    assert opened_again(place / "data") == pytest.approx(0.3)


def test_syncs_that_fail_are_said_and_nothing_is_lost(tmp_path):
    """Every process of the show is told by its disk that nothing was kept, the database too."""
    shim = Shim(tmp_path)
    stack = start_stack(tmp_path / "data", environment=shim.environment)
    try:
        assert stack.set(PATH, 0.11)["saved"]
        wait_for(lambda: health(stack)["saved"], 5)
        shim.say(syncs_fail=True)
        unkept_edits(stack)
        shim.say()
        kept_again(stack)
        plays = engine(stack)
        shim.say(syncs_fail=True)
        for part in ("web", "database"):
            victim(stack, part).kill()
        time.sleep(10.0)
        assert engine(stack) == plays, "who plays needs no disk"
        shim.say()
        wait_for(lambda: width(stack) == pytest.approx(0.3), 60, "the desk, as soon as the disk is well")
    finally:
        assert stack.stop() == 0
    assert opened_again(tmp_path / "data") == pytest.approx(0.3)


def test_a_disk_that_became_read_only_is_said_and_the_show_plays_on(mounted, tmp_path):
    """ext4 makes itself read-only when it meets an error (mount option errors=remount-ro), and stays so until
    it is mounted anew; its trigger_fs_error lets it believe that it met one. What was answered as kept is
    kept; what was not was said, and can be read from the show that goes on.
    """
    image = tmp_path / "image"
    with open(image, "wb") as file:
        file.truncate(1 << 30)
    subprocess.run(["mkfs.ext4", "-q", str(image)], check=True)
    how = ("-o", "loop,errors=remount-ro", str(image))
    place = mounted(*how)
    device = subprocess.run(
        ["findmnt", "-no", "SOURCE", str(place)], capture_output=True, text=True, check=True
    )
    trigger = Path("/sys/fs/ext4") / Path(device.stdout.strip()).name / "trigger_fs_error"
    if not trigger.exists():
        pytest.skip("this kernel's ext4 has no trigger_fs_error")
    stack = start_stack(place / "data")
    try:
        kept = [0.11 + number / 10_000 for number in range(50)]
        assert all(stack.set(PATH, value)["saved"] for value in kept)
        trigger.write_text("1")
        with pytest.raises(OSError, match="Read-only"):
            (place / "try").write_bytes(b"x")
        unkept_edits(stack)
        time.sleep(10.0)
        unkept_edits(stack)
        assert float(stack.show()["document"]["looks"][0]["layers"][0]["source"]["values"]["width"]) == 0.2099
    finally:
        assert stack.stop() == 0
    subprocess.run(["umount", str(place)], check=True)
    assert subprocess.run(["e2fsck", "-fy", str(image)], check=False).returncode in (0, 1)
    subprocess.run(["mount", *how, str(place)], check=True)
    assert opened_again(place / "data") == pytest.approx(kept[-1])
