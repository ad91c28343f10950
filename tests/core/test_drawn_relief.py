"""Reliefs as they are drawn, against plain geometry."""

import numpy as np
import pytest

from fulgura.core.kinds.sources.relief import FINEST
from fulgura.core.show.part import Part
from tests.core.drawing import Drawn

SIZE = (320, 180)
LIT = {
    "glow": 1.0,
    "sky": "#808080",
    "haze": 0.0,
    "waves": 0.0,
    "parallel": True,
    "distance": 2.0,
    "field_of_view": 90.0,
}
WHITE = Part(id="skin", kind="solid", values={"tint": "#ffffff"})
GREY = Part(id="skin", kind="solid", values={"tint": "#808080"})
STRIPES = Part(
    id="skin",
    kind="gradient",
    values={
        "rotation": 0.0,
        "repeats": 4.0,
        "from_colour": "#000000",
        "middle_colour": "#000000",
        "to_colour": "#ffffff",
    },
)


def relief(picture=None, **values):
    values = LIT | ({"picture": "skin"} if picture else {}) | values
    read = [picture] if picture else []
    drawn = Drawn(Part(id="relief", kind="relief", values=values), size=SIZE, read=read)
    light = drawn.colours().max(axis=2).astype(float)
    drawn.close()
    return light


def outline(light):
    """Distance of the outline from the middle of what is lit, in pixels, in 72 directions."""
    rows, columns = np.nonzero(light > 8)
    y, x = rows - rows.mean(), columns - columns.mean()
    way, far = np.degrees(np.arctan2(y, x)) % 360.0, np.hypot(x, y)
    return np.array([far[np.abs((way - at + 180) % 360 - 180) < 4].max() for at in range(0, 360, 5)])


def test_a_ball_at_rest_has_a_round_outline():
    far = outline(relief(form="ball"))
    assert far.std() / far.mean() < 0.01 and np.ptp(far) / far.mean() < 0.04


def test_a_pushed_ball_keeps_its_poles():
    """Ends fade: its sides go out, its poles stay within 2 %."""
    still, pushed = outline(relief(form="ball")), outline(relief(WHITE, form="ball", height=0.3, ends=0.5))
    up, right = 18, 0
    assert pushed[up] == pytest.approx(still[up], rel=0.02)
    assert pushed[right] > 1.25 * still[right]
    torn = outline(relief(WHITE, form="ball", height=0.3, ends=0.0))
    assert torn[up] > 1.25 * still[up]


def test_each_twist_acts_alone():
    """On a plane seen from the front: one turns what is left and right, the other what is up and down."""
    flat = relief(GREY, form="plane", height=0.0)
    upright = relief(GREY, form="plane", height=0.0, twist=120.0)
    across = relief(GREY, form="plane", height=0.0, twist_2=120.0)
    tall = [(light > 8).any(axis=1).sum() for light in (flat, upright, across)]
    wide = [(light[90] > 8).sum() for light in (flat, upright, across)]
    # About the upright axis its rows turn: the middle one stays, the height stays.
    assert tall[1] == pytest.approx(tall[0], abs=2) and wide[1] == pytest.approx(wide[0], abs=4)
    corners = [light[90 - tall[0] // 2 + 3].astype(bool).sum() for light in (flat, upright)]
    assert corners[1] < 0.8 * corners[0]
    # About the level axis its columns turn: the middle one stays.
    middle = [(light[:, 160] > 8).sum() for light in (flat, across)]
    assert middle[1] == pytest.approx(middle[0], abs=2)
    assert np.abs(flat - upright).max() > 30 and np.abs(upright - across).max() > 30


def test_a_twists_middle_is_where_it_does_not_turn():
    """Where a plane is twisted by its upper end, that stays as wide as it was."""
    flat = relief(GREY, form="plane", height=0.0)
    top = np.flatnonzero((flat > 8).any(axis=1))[2]
    moved = relief(GREY, form="plane", height=0.0, twist=90.0, twist_at=1.0)
    usual = relief(GREY, form="plane", height=0.0, twist=90.0)
    assert (moved[top] > 8).sum() == pytest.approx((flat[top] > 8).sum(), abs=6)
    assert (usual[top] > 8).sum() < 0.9 * (flat[top] > 8).sum()


def test_contrasts_of_glow_hollows_and_colour_are_their_own():
    """A grey skin: higher contrast of one takes its own light away and leaves the others'."""
    dark = {
        "form": "plane",
        "height": 0.0,
        "key": 0.0,
        "sky": "#000000",
        "ends": 0.0,
        "skin": 0.0,
        "tint": "#ffffff",
    }
    glow = [relief(GREY, **dark, glow_contrast=contrast)[90, 160] for contrast in (1.0, 4.0)]
    assert glow[1] < 0.5 * glow[0]
    lit = {**dark, "glow": 0.0, "key": 1.0, "key_azimuth": 0.0, "key_elevation": 0.0}
    plain, hollow, deep = (
        relief(GREY, **lit, hollows=share, hollows_contrast=contrast)[90, 160]
        for share, contrast in ((0.0, 1.0), (1.0, 1.0), (1.0, 4.0))
    )
    assert plain > hollow > deep
    assert relief(GREY, **lit, glow_contrast=6.0)[90, 160] == pytest.approx(plain, abs=1)
    blue = Part(id="skin", kind="solid", values={"tint": "#0000ff"})
    red = [
        Drawn(
            Part(
                id="relief",
                kind="relief",
                values=LIT | lit | {"picture": "skin", "skin": 1.0, "skin_contrast": c},
            ),
            read=[blue],
        )
        for c in (1.0, 8.0)
    ]
    tints = [drawn.colours()[45, 80, 2] for drawn in red]
    for drawn in red:
        drawn.close()
    assert tints[0] >= tints[1]


def test_with_the_key_light_out_only_what_shines_by_itself_is_left():
    dark = {"form": "ball", "key": 0.0, "sky": "#000000", "metallic": 0.0}
    assert relief(GREY, **dark, glow=0.0).max() <= 1
    assert relief(GREY, **dark, glow=1.0).max() > 60


def test_a_skin_is_on_it_as_often_as_one_says():
    """Four stripes, and eight when it is on it twice from left to right."""
    dark = {
        "form": "plane",
        "height": 0.0,
        "key": 0.0,
        "sky": "#000000",
        "skin": 1.0,
        "columns": float(FINEST),
    }
    ridges = []
    for often in (1.0, 2.0):
        row = relief(STRIPES, **dark, around=often)[90]
        row = row[row > 0] > 128
        ridges.append(int((np.diff(row.astype(int)) == 1).sum()))
    assert ridges[0] >= 2 and abs(ridges[1] - 2 * ridges[0]) <= 1


def test_a_finer_mesh_shows_finer_forms():
    """What 16 pieces cannot show, 512 do."""
    coarse, fine = (
        relief(STRIPES, form="ball", height=0.25, columns=columns) for columns in (16.0, float(FINEST))
    )
    assert (
        outline(fine).std() > 0.5
        and np.abs(np.diff(fine, axis=1)).mean() > np.abs(np.diff(coarse, axis=1)).mean()
    )


def test_the_sound_itself_pushes_it_out():
    """A tone is a ridge where its pitch lies; in silence the plane is flat."""
    given = LIT | {"form": "plane", "by": "the sound", "height": 0.4, "ends": 0.0, "glow_contrast": 2.0}
    drawn = Drawn(
        Part(id="relief", kind="relief", values=given | {"key": 0.0, "sky": "#000000", "span": 30.0}),
        size=SIZE,
    )
    silent = drawn.go(5, np.zeros(48_000)).max()
    tone = 0.8 * np.sin(2 * np.pi * 1000.0 * np.arange(96_000) / 48_000)
    light = drawn.go(60, tone).astype(float)
    drawn.close()
    columns = np.flatnonzero(light[90] > 0.5 * light[90].max())
    wide = 2 * 1.78 / 2 * 90  # The plane's width in pixels, seen by this camera.
    place = (columns.mean() - (160 - wide / 2)) / wide
    assert silent <= 1 and light.max() > 60 and np.ptp(columns) < 0.2 * wide
    assert place == pytest.approx(np.log(1000 / 30) / np.log(16_000 / 30), abs=0.06)
