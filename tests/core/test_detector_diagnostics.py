"""Hits counted by the bar, and the two warnings of a detector that looks set wrongly."""

import numpy as np
import pytest

from fulgura.core.clock import BLOCK, blocks_due
from fulgura.core.performer import Performer
from fulgura.core.show.edits import SetValue, apply
from fulgura.core.sound.detector_diagnostics import CROWDED, SILENT, DetectorDiagnostics
from fulgura.demo.show import demo_show
from fulgura.demo.tracks import lamp_room


def watched(
    watch: DetectorDiagnostics, bars: int, a_beat: int, level_dbfs: float = -10.0
) -> DetectorDiagnostics:
    """The watch after so many bars of 4/4 at 120 BPM with so many hits in each beat."""
    for beat in range(4 * bars):
        for frame in range(30):
            watch.step(
                int(frame % 6 == 2 and frame // 6 < a_beat),
                [beat % 4 + 1] if frame == 0 else [],
                level_dbfs,
                0.5,
                1 / 60,
            )
    return watch


@pytest.mark.parametrize(
    ("a_beat", "most", "says"), [(1, 1, ""), (2, 1, CROWDED), (2, 4, ""), (5, 4, CROWDED), (0, 1, SILENT)]
)
def test_hits_are_counted_by_the_bar_and_what_looks_wrong_is_said(a_beat, most, says):
    watch = watched(DetectorDiagnostics(most), 10, a_beat)
    assert watch.a_bar == 4 * a_beat and watch.warning(4) == says


def test_a_kick_on_the_beat_is_counted_alike_whether_it_is_told_before_or_after_the_beat():
    watch, counts = DetectorDiagnostics(), set()
    for frame in range(1, 40 * 30):
        beat, early = (
            (frame + 1) // 30,
            (frame + 1) // 30 % 3 == 0,
        )  # Every third is told a frame before the beat, the others two after.
        told = frame == 30 * beat - 1 if early else frame == 30 * beat + 2
        watch.step(int(told), [beat % 4 + 1] if frame % 30 == 0 else [], -10.0, 0.5, 1 / 60)
        counts |= {watch.a_bar} if frame > 300 else set()
    assert counts == {4} and watch.warning(4) == ""


def test_silence_is_no_reason_for_a_warning_and_a_hit_ends_one():
    assert watched(DetectorDiagnostics(), 20, 0, level_dbfs=-60.0).warning(4) == ""
    watch = watched(DetectorDiagnostics(), 20, 0)
    watch.step(1, [], -10.0, 0.5, 1 / 60)
    assert watch.warning(4) == ""


def test_before_a_whole_bar_nothing_is_counted():
    assert DetectorDiagnostics().a_bar is None and watched(DetectorDiagnostics(), 1, 1).a_bar is None


def after(show, seconds):
    samples = lamp_room().finished()
    performer, heard = Performer(show), 0
    for number in range(1, seconds * 60):
        while heard < blocks_due(number):
            at = heard * BLOCK % (len(samples) - BLOCK)
            performer.hear(np.asarray(samples[at : at + BLOCK]))
            heard += 1
        performer.tick()
    return performer.main.watched()


def test_four_on_the_floor_is_four_a_bar_without_complaint():
    found = after(demo_show(), 20)
    assert (
        found["kick"] == {"a_bar": 4, "warning": ""}
        and found["snare"]["warning"] == found["hat"]["warning"] == ""
    )


def test_a_deaf_detector_is_told_of():
    show, _ = apply(demo_show(), SetValue(path="/hits/kick/least_dbfs", value=0.0))
    assert after(show, 26)["kick"]["warning"] == SILENT
