"""The lessons of the bar: grooves by chance are what their styles say, and are not taken for the patterns of
the tables.
"""

import numpy as np
import pytest

from training.material.grooves import FILL_VOICES, STYLES, song
from training.material.pieces import Stroke
from training.material.recipes import grooves
from training.material.rhythms import GROOVE, PATTERNS, Recipe, _score


def strokes_of(bars: list[list[Stroke]], voice: str) -> list[set[float]]:
    return [{step for name, step, _ in bar if name == voice} for bar in bars]


@pytest.mark.parametrize("name", STYLES)
def test_a_style_is_a_bar_of_its_meter(name):
    style = STYLES[name]
    lengths = {len(line) for lines in style.lanes.values() for line in lines if line}
    assert len(lengths) == 1 and lengths.pop() % style.beats == 0 and 50 <= style.bpm[0] < style.bpm[1] <= 180
    beats, per_beat, bars = song(name, np.random.default_rng(4))
    assert beats == style.beats and len(bars) == 32 and any(bars)
    assert all(
        0 <= step < beats and step * per_beat == pytest.approx(round(step * per_beat)) and 0 < loudness <= 1
        for bar in bars
        for _, step, loudness in bar
    )


def test_what_is_certain_is_in_most_bars_and_what_is_not_varies():
    _, _, bars = song("backbeat", np.random.default_rng(7))
    snares = strokes_of(bars, "snare")
    assert sum({1.0, 3.0} <= bar for bar in snares) > 16
    songs = {str(song("backbeat", np.random.default_rng(seed))[2][0]) for seed in range(8)}
    assert len(songs) > 4 and str(song("backbeat", np.random.default_rng(3))) == str(
        song("backbeat", np.random.default_rng(3))
    )


def test_fills_come_at_the_end_of_a_bar_only():
    voices = {voice for voices in FILL_VOICES for voice in voices}
    toms = [
        bar for seed in range(20) for bar in strokes_of(song("floor", np.random.default_rng(seed))[2], "tom")
    ]
    assert "tom" in voices and any(toms) and min(min(bar) for bar in toms if bar) >= 2.0


def test_a_pattern_of_the_tables_stays_that_pattern_where_a_style_has_its_name():
    both = set(STYLES) & set(PATTERNS)
    assert both
    for name in both:
        assert len(_score(Recipe("", name, 120.0, "own-1", 1), np.random.default_rng(1))[2]) == 1
    assert all(
        recipe.pattern.removeprefix(GROOVE) in STYLES and recipe.pattern not in PATTERNS
        for recipe in grooves(["own-1"], 1, 20)
    )
