"""The rhythmic part of a track: from the bar at which the beat is steady to the one at which it ends."""

from fulgura.core.sound.rhythm import rhythmic_part


def heard(*stretches: tuple[float, float], length: float = 120.0):
    """Tempo rows every half second that are sure in these stretches; beats at 120 BPM throughout."""
    tempo = [
        {"t": t / 2, "confidence": 0.8 if any(a <= t / 2 <= b for a, b in stretches) else 0.1}
        for t in range(int(2 * length))
    ]
    return tempo, [{"t": n / 2, "bar_position": n % 4 + 1} for n in range(int(2 * length))]


def test_it_goes_from_bar_to_bar():
    assert rhythmic_part(*heard((21.3, 80.9))) == (22.0, 80.0)


def test_the_one_that_most_beats_agree_on_counts():
    tempo, beats = heard((20, 80))
    for beat in beats[:60]:
        beat["bar_position"] = beat["bar_position"] % 4 + 1
    assert rhythmic_part(tempo, beats) == (20.0, 80.0)


def test_a_short_break_belongs_to_it_and_a_long_one_does_not():
    assert rhythmic_part(*heard((10, 40), (48, 90))) == (10.0, 90.0)
    assert rhythmic_part(*heard((10, 40), (60, 110))) == (60.0, 110.0)


def test_without_a_steady_beat_there_is_none():
    assert (
        rhythmic_part(*heard()) is None
        and rhythmic_part(*heard((10, 14))) is None
        and rhythmic_part([], []) is None
    )
