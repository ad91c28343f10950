"""Recordings: nothing that came is lost, not by a crash and not by a slow disk that is told of."""

import os
import signal
import subprocess
import sys

import numpy as np
import pytest
import soundfile

from fulgura.children import child_environment
from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.engine.main import Engine
from fulgura.engine.recorder import LONGEST_WAIT, Recorder, assemble_left_behind
from fulgura.media.import_sound import import_sound
from fulgura.media.sound_file import load
from harness.stack import wait_for


def noise(blocks: int) -> np.ndarray:
    # Whole steps of 24 bits, so that what is read back can be the same to the bit.
    return np.round(np.random.default_rng(3).uniform(-0.5, 0.5, (blocks * BLOCK, 2)) * 2**23) / 2**23


def test_every_sample_comes_back_as_it_was(tmp_path):
    made, sound = Recorder(tmp_path, "Main"), noise(400)
    for start in range(0, len(sound), BLOCK):
        made.add(sound[start : start + BLOCK])
    made.close()
    made.wait(5)
    file = tmp_path / "Main.recorded"
    assert np.array_equal(soundfile.read(file)[0], sound)
    # The library keeps that very file, not a coarser copy.
    assert import_sound(file, tmp_path / "main.flac")["seconds"] == pytest.approx(400 * BLOCK / SAMPLE_RATE)
    assert (tmp_path / "main.flac").read_bytes() == file.read_bytes()


def test_a_crash_leaves_what_was_written(tmp_path):
    words = f"""
import numpy as np, os, pathlib, time
from fulgura.engine.recorder import Recorder
made = Recorder(pathlib.Path({str(tmp_path)!r}), "Main")
sound = np.full((256, 2), 0.25)
for _ in range(2000): made.add(sound)
while made._waiting: time.sleep(0.01)
time.sleep(0.5)
os.kill(os.getpid(), {int(signal.SIGKILL)})
"""
    done = subprocess.run([sys.executable, "-c", words], env=child_environment())
    assert done.returncode == -signal.SIGKILL
    with pytest.MonkeyPatch.context() as patched:
        patched.setattr(os, "fsync", lambda _: pytest.fail("an engine that takes over waits for no disk"))
        assemble_left_behind(tmp_path)
    found = import_sound(tmp_path / "Main.recorded", tmp_path / "main.flac")
    # The encoder's last, unfinished frame is all that is gone.
    assert 2000 * BLOCK - 4096 <= round(found["seconds"] * SAMPLE_RATE) <= 2000 * BLOCK
    assert np.allclose(load(tmp_path / "main.flac")[0], 0.25)


def test_a_disk_that_cannot_keep_it_is_told_of(tmp_path):
    made = Recorder(tmp_path / "gone", "Main")
    wait_for(lambda: made.fault, 5, "the fault")
    made.add(np.zeros((BLOCK, 2)))
    assert (
        "disk could not keep it" in made.state()["fault"].text and made.state()["lost"] == 1 and made.finished
    )


def test_a_disk_that_never_answers_costs_no_memory(tmp_path):
    made = Recorder(tmp_path, "Main")
    made.close()
    made.wait(5)  # Nobody writes any more: just what a hanging disk looks like.
    for _ in range(LONGEST_WAIT + 10):
        made.add(np.zeros((BLOCK, 2)))
    assert len(made._waiting) == LONGEST_WAIT and made.lost == 10


def test_the_engine_records_on_command_and_finishes_what_a_crash_left(tmp_path):
    (tmp_path / "old.recording").write_bytes(b"fLaC")
    engine = Engine(tmp_path, tmp_path)
    assert (tmp_path / "old.recorded").exists()
    engine.obey(
        [
            {"do": "record", "input": "main", "name": "../../Main"},
            {"do": "record", "input": "nowhere", "name": "x"},
        ]
    )
    for tick in range(40):
        engine._tick(3, tick / 60)
    assert engine.recorders.of["main"].blocks > 0 and list(engine.recorders.of) == ["main"]
    engine.obey([{"do": "end-recording", "input": "main"}])
    wait_for(lambda: (tmp_path / "Main.recorded").exists(), 5, "the file")
    engine._report()
    assert not engine.recorders.of
    engine.lights.close()
    engine.bus.close()


@pytest.mark.parametrize("ending", [".m4a", ".mp4", ".aac"])
def test_what_libsndfile_does_not_know_is_read_by_ffmpeg(tmp_path, ending):
    tone = 0.5 * np.sin(2 * np.pi * 1000 * np.arange(44_100 * 3) / 44_100)
    soundfile.write(tmp_path / "tone.wav", tone, 44_100)
    subprocess.run(
        [
            "ffmpeg",
            "-v",
            "error",
            "-i",
            tmp_path / "tone.wav",
            "-c:a",
            "aac",
            "-b:a",
            "192k",
            tmp_path / f"tone{ending}",
        ],
        check=True,
    )
    samples, rate = load(tmp_path / f"tone{ending}")
    assert rate == 44_100 and len(samples) == pytest.approx(3 * SAMPLE_RATE, rel=0.03)
    assert np.sqrt(np.mean(samples[12_000:-12_000] ** 2)) == pytest.approx(0.5 * 2**-0.5, rel=0.01)


def test_a_playlist_that_names_other_places_is_not_followed(tmp_path):
    other = tmp_path / "secret.txt"
    other.write_text("secret")
    (tmp_path / "list.m4a").write_text(
        f"#EXTM3U\n#EXTINF:1,\nhttp://127.0.0.1:9/x.aac\n#EXTINF:1,\n{other}\n"
    )
    from fulgura.media.sound_file import AudioFileError

    with pytest.raises(AudioFileError, match="cannot be read as sound"):
        load(tmp_path / "list.m4a")
    os.remove(other)
