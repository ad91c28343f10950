"""How often pictures flash, and what the guard makes of them: made sequences around each limit.

The limits are those of WCAG 2.2, success criterion 2.3.1 (from memory of its text): opposing changes of a
tenth of relative luminance, the darker below 0.8; changes to and from saturated red; more than three flashes
in any second over more than a quarter of ten degrees of what is seen.
"""

import numpy as np
import pytest

from fulgura.core.safety import rules
from fulgura.core.safety.analyser import FlashAnalyser
from fulgura.core.safety.guard import CellGuard

WIDE, HIGH = 64, 36
SECONDS = 3
RATE = 60


def encoded(light):
    """sRGB bytes of linear light: IEC 61966-2-1."""
    low = 12.92 * light
    high = 1.055 * np.maximum(light, 1e-9) ** (1 / 2.4) - 0.055
    return np.round(255 * np.where(light <= 0.0031308, low, high)).astype(np.uint8)


def square(hz, low, high, late=0.0):
    """A level for each picture: it changes so often that there are so many flashes a second."""
    turns = np.floor(np.arange(SECONDS * RATE) * hz * 2 / RATE + late).astype(int)
    return np.where(turns % 2 == 0, high, low)


def full(levels, colour=(1.0, 1.0, 1.0)):
    return [np.ones((HIGH, WIDE, 3)) * level * np.array(colour) for level in levels]


def patch(levels, width, height):
    pictures = [np.zeros((HIGH, WIDE, 3)) for _ in levels]
    for picture, level in zip(pictures, levels):
        picture[:height, :width] = level
    return pictures


def red_and_green(hz):
    return [
        np.ones((HIGH, WIDE, 3)) * ((0.9, 0.02, 0.02) if on else (0.05, 0.25, 0.05))
        for on in square(hz, 0, 1)
    ]


def halves(hz):
    """Left and right against each other: together they are as bright as ever."""
    pictures = []
    for level in square(hz, 0.0, 1.0):
        picture = np.zeros((HIGH, WIDE, 3))
        picture[:, : WIDE // 2], picture[:, WIDE // 2 :] = level, 1.0 - level
        pictures.append(picture)
    return pictures


def columns(hz):
    """Eight columns, each a little later than the one before."""
    levels = [square(hz, 0.0, 0.7, late=column * 0.37) for column in range(8)]
    pictures = []
    for number in range(SECONDS * RATE):
        picture = np.zeros((HIGH, WIDE, 3))
        for column, level in enumerate(levels):
            picture[:, column * 8 : (column + 1) * 8] = level[number]
        pictures.append(picture)
    return pictures


def drifting():
    """Bars that run across: every place flashes as they pass."""
    across = np.arange(WIDE)
    return [
        np.repeat(((across + number * 2) // 8 % 2 * 0.8)[None, :, None], HIGH, axis=0) * np.ones(3)
        for number in range(SECONDS * RATE)
    ]


def analysed(pictures):
    analyser = FlashAnalyser()
    for number, light in enumerate(pictures):
        analyser.add(encoded(light), number / RATE)
    return analyser


def guarded(pictures):
    guard = CellGuard((WIDE, HIGH), (32, 18), (32, 18))
    return [guard.step(light) for light in pictures]


FLASHES = {
    "four a second": full(square(4, 0.0, 1.0)),
    "ten a second": full(square(10, 0.0, 1.0)),
    "thirty a second": full(square(30, 0.0, 1.0)),
    "1.1 of the step": full(square(8, 0.3, 0.41)),
    "dark, 1.1 of the step": full(square(8, 0.0, 0.11)),
    "the darker at 0.79": full(square(8, 0.79, 0.9)),
    "red": red_and_green(6),
    "halves against each other": halves(6),
    "columns one after the other": columns(7),
    "drifting bars": drifting(),
    "a patch of 1.2 of the area": patch(square(9, 0.0, 1.0), 11, 6),
}
QUIET = {
    "three a second": full(square(3, 0.0, 1.0)),
    "0.9 of the step": full(square(10, 0.3, 0.39)),
    "the darker at 0.81": full(square(10, 0.81, 1.0)),
    "one rise": full(np.repeat([0.0, 1.0], SECONDS * RATE // 2)),
    "a slow swell": full(0.5 - 0.5 * np.cos(np.linspace(0, 4 * np.pi, SECONDS * RATE))),
    "a patch of 0.7 of the area": patch(square(10, 0.0, 1.0), 7, 5),
    "unsaturated colours": [
        np.ones((HIGH, WIDE, 3)) * ((0.4, 0.3, 0.3) if on else (0.3, 0.35, 0.3)) for on in square(8, 0, 1)
    ],
}


@pytest.mark.parametrize("name", FLASHES)
def test_what_flashes_is_found_and_made_safe(name):
    pictures = FLASHES[name]
    assert not analysed(pictures).safe, "it has to be found"
    shown = guarded(pictures)
    after = analysed(shown)
    assert after.safe, (after.worst, max(moment.area for moment in after.moments))
    assert after.worst.flashes <= rules.MOST_FLASHES
    late = np.array([picture.mean() for picture in shown[RATE:]])
    assert np.ptp(late) > 0.0, "what alternates loses contrast; it does not stand still"


@pytest.mark.parametrize("name", QUIET)
def test_what_does_not_flash_is_left_as_it_is(name):
    pictures = QUIET[name]
    assert analysed(pictures).safe
    off = [np.abs(a - b).max() for a, b in zip(guarded(pictures), pictures)]
    assert max(off) <= 1 / 255


def test_a_strobe_becomes_calm_and_is_not_cut_into_bursts():
    """After its first three flashes it goes on with less than a step's contrast, evenly."""
    shown = [picture[0, 0, 0] for picture in guarded(full(square(10, 0.0, 1.0)))]
    late = np.array(shown[RATE:])
    changes = np.abs(np.diff(late))
    assert np.ptp(late) <= 0.2 and (changes > 0.01).sum() > 30, "as many changes as before"
    assert np.ptp(late[: RATE // 2]) == pytest.approx(np.ptp(late[RATE // 2 :]), abs=0.02)


def test_dark_passes_at_once_always():
    """A blackout in the middle of a strobe: what is held back is the light that comes again."""
    guard = CellGuard((WIDE, HIGH), (32, 18), (32, 18))
    levels = square(10, 0.0, 1.0)
    for level in levels[:90]:
        guard.step(np.ones((HIGH, WIDE, 3)) * level)
    assert guard.step(np.ones((HIGH, WIDE, 3)), light=0.0).max() == 0.0


def test_what_was_flashing_and_then_stays_is_soon_as_it_is():
    pictures = full([*square(10, 0.0, 1.0)[:120], *np.full(90, 0.3)])
    shown = guarded(pictures)
    assert np.abs(shown[-1] - pictures[-1]).max() <= 1 / 255


def test_pictures_may_come_seldomer():
    """Thirty a second: each counts for two ticks."""
    guard, analyser = CellGuard((WIDE, HIGH), (32, 18), (32, 18)), FlashAnalyser()
    for number in range(90):
        shown = guard.step(np.ones((HIGH, WIDE, 3)) * (number // 2 % 2), steps=2)
        analyser.add(encoded(shown), number / 30)
    assert analyser.safe


def test_chromaticities_are_those_of_the_primaries_and_white():
    """CIE 1976 u'v' of sRGB's primaries and of D65 (IEC 61966-2-1, CIE 15)."""
    found = rules.chromaticity(np.array([[1.0, 0, 0], [0, 1.0, 0], [0, 0, 1.0], [1.0, 1, 1], [0, 0, 0]]))
    wanted = [(0.4507, 0.5229), (0.1250, 0.5625), (0.1754, 0.1579), (0.1978, 0.4683), (0.1978, 0.4683)]
    assert np.allclose(found, wanted, atol=6e-4)
    assert rules.saturated_red(np.array([[0.8, 0.1, 0.1], [0.79, 0.11, 0.1], [0.0, 0, 0]])).tolist() == [
        *(True, False, False)
    ]


def test_luminance_is_that_of_the_standard():
    assert rules.luminance(rules.decoded(np.array([255, 255, 255]))) == pytest.approx(1.0)
    assert rules.luminance(rules.decoded(np.array([119, 119, 119]))) == pytest.approx(0.1845, abs=1e-3)
