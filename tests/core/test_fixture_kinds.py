"""What each kind of lamp is sent, worked out by hand; and hands over all of them."""

import numpy as np
import pytest
from numpy.testing import assert_allclose

from fulgura.core.kinds.fixture import Fixture, Form
from fulgura.core.performer import Performer
from fulgura.core.show.commands.lamps import exchange
from fulgura.core.show.document import Show
from fulgura.core.show.edits import SetValue
from fulgura.core.show.events import LampsIdentified, OverrideReleased, OverrideSet
from fulgura.core.show.lights import LightSettings
from fulgura.core.show.migrate import migrate
from fulgura.core.show.part import Part
from fulgura.core.wire import BlockId
from tests.core.rigs import Bench, changed, lamp, light, sent, show_of

ORANGE = "#ff8000"
"""1.0, 0.2159, 0.0 in linear light (IEC 61966-2-1, by hand)."""


def of(kind, count, mode="", pixels=0, **values):
    """The first channels of one lamp."""
    return sent(show_of(lamp("a", kind, more={"mode": mode, "pixels": pixels}, **values)), 1, count)


def test_every_kind_is_there_and_can_be_hung_in_each_of_its_modes():
    assert {
        *("dimmer", "rgb-lamp", "rgbw-lamp", "rgba-lamp", "six-colour-lamp", "two-white-lamp"),
        *("dimmed-rgb-lamp", "flash-lamp", "pixel-bar", "pixel-strip", "moving-wash", "moving-spot"),
        "fog-machine",
    } <= set(Fixture.kinds)
    for name, kind in Fixture.kinds.items():
        for mode in kind.modes:
            frame = Bench(show_of(lamp("a", name, more={"mode": mode}))).tick()
            assert len(frame.light) == kind.pixels and len(frame.pose) == 1, (name, mode)


def test_a_dimmer_is_one_channel_and_16_bits_are_split_exactly():
    assert of("dimmer", 1, level=0.5) == [128]
    for value in (0, 1, 255, 256, 32_767, 43_690, 65_535):
        coarse, fine = of("dimmer", 2, "16 bit", level=value / 65_535)
        assert coarse * 256 + fine == value


def test_three_emitters_carry_the_dimmer():
    assert of("rgb-lamp", 3, level=0.5, colour=ORANGE) == [128, 28, 0]  # 127.5 and 27.5 to even.


def test_white_takes_what_is_grey():
    # #ff8080 is 1, 0.2159, 0.2159: 0.2159 of it is white, and the rest red.
    assert of("rgbw-lamp", 4, level=1.0, colour="#ff8080") == [200, 0, 0, 55]


def test_amber_takes_what_is_orange():
    # Amber is 1, 0.214, 0: the whole of red 1, green 0.214; of green 0.0019 is left.
    assert of("rgba-lamp", 4, level=1.0, colour=ORANGE) == [0, 0, 0, 255]


def test_ultraviolet_is_no_part_of_a_colour():
    assert of("six-colour-lamp", 6, level=1.0, colour="#ffffff") == [0, 0, 0, 255, 0, 0]
    assert of("six-colour-lamp", 6, level=0.5, colour="#000000", uv=1.0) == [0, 0, 0, 0, 0, 128]
    dimmed = of("six-colour-lamp", 7, "7 channels, dimmer first", level=0.5, colour="#000000", uv=1.0)
    assert dimmed == [128, 0, 0, 0, 0, 0, 255]


def test_two_whites_give_the_nearest_white():
    assert of("two-white-lamp", 2, level=1.0, colour="#ffffff") == [0, 255]
    warm = of(
        "two-white-lamp", 2, level=1.0, colour="#ffac59"
    )  # 1, 0.413, 0.100: the warm one itself, nearly.
    assert warm[0] >= 250 and warm[1] <= 3


def test_a_dimmer_stands_before_or_behind_the_colours():
    assert of("dimmed-rgb-lamp", 4, level=0.5, colour="#ff0000") == [128, 255, 0, 0]
    assert of("dimmed-rgb-lamp", 4, "4 channels, dimmer last", level=0.5, colour="#ff0000") == [
        255,
        0,
        0,
        128,
    ]


def test_flashes_stay_within_three_a_second_unless_allowed():
    # From 10 (0.5 a second) to 255 (20): 3 a second is 10 + 245 * 2.5 / 19.5 = 41.4, and so 41.
    wanted = {"level": 1.0, "colour": "#ffffff", "strobe": 12.0}
    show = show_of(lamp("a", "flash-lamp", **wanted))
    assert sent(show, 6) == [41]
    frame = Bench(show).tick()
    assert 2.9 < frame.pose[0, 3] <= 3.0
    allowed = changed(show, SetValue(path="/lights/strobe", value=True))
    assert sent(allowed, 6) == [10 + int(245 * 11.5 / 19.5)]
    assert of("flash-lamp", 6, level=1.0, strobe=0.0)[5] == 0, "0 is open, not slow"


def test_a_bar_has_as_many_pixels_as_is_said():
    assert of("pixel-bar", 12, pixels=3, level=1.0, colour="#00ff00") == [0, 255, 0] * 3 + [0] * 3
    assert of("pixel-bar", 4, "dimmer, then RGB", pixels=2, level=0.5, colour="#ff0000") == [128, 255, 0, 0]


def test_a_strip_goes_on_in_the_next_universe_between_two_pixels():
    strip = lamp("a", "pixel-strip", address=501, more={"pixels": 6}, level=1.0, colour="#ff0000")
    frame = Bench(show_of(strip)).tick()
    # Four channels a pixel: three fit behind 501, and so does nothing of the fourth.
    assert frame.universes[1][500:].tolist() == [255, 0, 0, 0] * 3
    assert frame.universes[2][:12].tolist() == [255, 0, 0, 0] * 3
    assert_allclose(frame.light, [[1, 0, 0, 1]] * 6)


def test_pan_and_tilt_are_degrees_in_16_bits_at_both_ends():
    for pan in (-270.0, -90.0, 0.0, 45.5, 270.0):
        frame = Bench(show_of(lamp("a", "moving-wash", pan=pan, tilt=-pan / 2))).tick()
        number = round((pan + 270) / 540 * 65_535)
        assert frame.universes[1][:2].tolist() == [number >> 8, number & 255]
        assert_allclose(frame.pose[0, :2], [pan, -pan / 2], atol=540 / 65_535)
    assert of("moving-wash", 2, "8 bit", pan=270.0, tilt=0.0) == [255, 128]


def test_a_spot_takes_the_nearest_colour_of_its_wheel_and_its_pattern():
    channels = of("moving-spot", 9, level=1.0, colour="#0a18c8", pattern="bars", focus=1.0, strobe=0.0)
    assert channels[4:] == [96, 32, 255, 32, 255]  # Blue; the third pattern; far; open; full.


def test_fog_comes_only_while_it_is_held():
    performer = Performer(show_of(lamp("a", "fog-machine", fog=0.6)))

    def fog():
        performer.hear(np.zeros((256, 2)))
        return int(performer.tick().universes[1][0])

    assert fog() == 0
    performer.act(OverrideSet(target="f-a.fog", value=None))
    assert fog() == 153
    performer.act(OverrideReleased(target="f-a.fog", glide_ms=0))
    assert fog() == 0
    performer.act(OverrideSet(target="f-a.fog", value=1.0))
    held = [fog() for _ in range(70)]
    assert held[0] == 255 and held[-1] == 0 and sum(map(bool, held)) <= 61, (
        "whoever holds it must go on saying so"
    )


def test_a_lamp_of_eight_channels_leaves_the_colour_of_the_next_alone():
    lamps = [
        lamp("wide", "six-colour-lamp", 1, level=0.5, colour="#00ff00"),
        lamp("red", "rgb-lamp", 9, level=0.5, colour="#ff0000"),
    ]
    performer = Performer(show_of(*lamps))
    performer.hear(np.zeros((256, 2)))
    frame = performer.tick()
    assert frame.universes[1][:12].tolist() == [0, 128, 0, 0, 0, 0, 0, 0, 128, 0, 0, 0]
    block = performer.packet(frame).blocks[BlockId.LAMPS].reshape(-1, 4)
    assert_allclose(block, [[0, 1, 0, 128 / 255], [1, 0, 0, 128 / 255]], atol=1e-6)


def test_a_dark_lamp_has_no_colour_and_a_bright_one_has_one_as_its_strongest():
    assert light(show_of(lamp("a", "rgb-lamp", level=0.0))).tolist() == [[0, 0, 0, 0]]
    # 0.4 of #8cbbff... by hand: channels 51, 102, 0 are 0.2 and 0.4.
    found = light(show_of(lamp("a", "dimmed-rgb-lamp", level=0.4, colour="#bcff00")))
    assert_allclose(found, [[0.5, 1.0, 0.0, 0.4]], atol=0.006)


def test_two_lamps_on_one_channel_the_highest_takes_precedence():
    for first, second, most in ((0.2, 0.8, 204), (0.8, 0.2, 204), (0.0, 0.0, 0)):
        show = show_of(lamp("a", "dimmer", level=first), lamp("b", "dimmer", level=second))
        assert sent(show, 1) == [most]


@pytest.mark.parametrize("dark", ["all", "lights"])
def test_blackout_dims_and_leaves_heads_where_they_are(dark):
    wash = {"level": 1.0, "colour": "#ffffff", "pan": 90.0, "tilt": 20.0, "zoom": 40.0}
    show = show_of(lamp("a", "moving-wash", **wash))
    lit, out = sent(show, 1, 11), sent(changed(show, SetValue(path="/blackout", value=dark)), 1, 11)
    assert lit[4] == 255 and out[4] == 0
    assert out[:4] == lit[:4] and out[5:] == lit[5:]
    assert sent(changed(show, SetValue(path="/blackout", value="pictures")), 1, 11) == lit


def test_masters_multiply_and_limits_hold_before_them():
    show = show_of(
        lamp("a", "dimmer", 1, level=1.0, more={"limits": {"level": (0.2, 0.8)}}),
        lamp("b", "dimmer", 2, level=0.0, more={"limits": {"level": (0.2, 0.8)}}),
        lamp("c", "dimmer", 3, level=1.0),
        groups=[{"id": "g", "name": "G", "members": ["a", "b"]}, {"id": "h", "name": "H", "members": ["a"]}],
    )
    rig = Bench(show)
    table = [
        # grand, master of g, of h -> a, b, c
        (1.0, 1.0, 1.0, 0.8, 0.2, 1.0),
        (0.5, 1.0, 1.0, 0.4, 0.1, 0.5),
        (1.0, 0.5, 0.5, 0.2, 0.1, 1.0),
        (0.0, 1.0, 1.0, 0.0, 0.0, 0.0),
        (1.0, 0.0, 1.0, 0.0, 0.0, 1.0),
    ]
    for grand, g, h, *wanted in table:
        frame = rig.tick(lights__grand=grand, g__master=g, h__master=h)
        assert frame.universes[1][:3].tolist() == [round(255 * value) for value in wanted]


def test_identify_shines_white_for_a_second_whatever_else_is_wanted():
    show = show_of(
        lamp("a", "flash-lamp", 1, level=0.0, colour="#0000ff", strobe=3.0),
        lamp("b", "dimmer", 7, level=0.0),
        blackout="all",
    )
    performer = Performer(show)

    def channels():
        performer.hear(np.zeros((256, 2)))
        return performer.tick().universes[1][:7].tolist()

    performer.act(LampsIdentified(lamps=["a"]))
    assert channels() == [255, 0, 0, 0, 255, 0, 0], "white, open, and the other stays dark"
    assert [channels()[0] for _ in range(70)][-1] == 0
    performer.act(LampsIdentified(lamps=["a"]))
    performer.act(LampsIdentified(lamps=[]))
    assert channels()[0] == 0


def test_what_is_parked_hears_nobody():
    show = show_of(
        lamp(
            "a",
            "rgb-lamp",
            1,
            level=0.0,
            colour="#ff0000",
            more={"parked": {"level": 1.0, "colour": "#00ff00"}},
        ),
        lamp("b", "moving-wash", 11, pan=0.0, more={"parked": {"pan": 270.0}}),
        blackout="all",
        lights=LightSettings(parked={"1.300": 77, "2.1": 5}, part=_grand(0.0)),
    )
    frame = Bench(show).tick()
    assert frame.universes[1][:3].tolist() == [0, 255, 0]
    assert frame.universes[1][10:12].tolist() == [255, 255]
    assert frame.universes[1][299] == 77 and frame.universes[2][0] == 5


def _grand(value):
    return Part(id="lights", family="masters", kind="light-masters", values={"grand": value})


def test_frozen_lamps_stay_as_they_were_sent_until_they_go_on():
    show = show_of(lamp("a", "dimmer", level=0.5))
    rig = Bench(show)
    rig.tick()
    rig.take(changed(show, SetValue(path="/lights/frozen", value=True)))
    before = rig.tick().universes[1][0]
    assert [rig.tick(f_a__level=level).universes[1][0] for level in (0.0, 1.0)] == [before, before]
    rig.take(show)
    assert rig.tick(f_a__level=1.0).universes[1][0] == 255


def test_a_value_that_is_none_is_dark_and_told():
    rig = Bench(show_of(lamp("a", "rgb-lamp", level=1.0), lamp("b", "moving-wash", 11)))
    frame = rig.tick(f_a__level=float("nan"), f_b__pan=float("nan"))
    assert frame.bad == 1 and frame.universes[1][:3].tolist() == [0, 0, 0]
    assert frame.universes[1][10:12].tolist() == [0, 0]


def test_channels_past_512_are_sent_nowhere_and_the_rest_is():
    frame = Bench(show_of(lamp("a", "rgb-lamp", address=511, level=1.0, colour="#ffffff"))).tick()
    assert frame.universes[1][510:].tolist() == [255, 255] and set(frame.universes) == {1}


def test_every_form_of_channel_is_used_by_a_kind():
    used = {
        channel.form
        for kind in Fixture.kinds.values()
        for mode in kind.modes.values()
        for channel in mode.head
    }
    used |= {
        channel.form
        for kind in Fixture.kinds.values()
        for mode in kind.modes.values()
        for channel in mode.pixel
    }
    assert used | {Form.FIXED} == set(Form)


def flashes(wanted, ticks=240, strobe=False, colours=None):
    """Rises in every second of four of a lamp that is wanted on and off so many times a second; and
    its rig.
    """
    show = show_of(lamp("a", "rgb-lamp", level=1.0, colour="#ffffff"), lights=LightSettings(strobe=strobe))
    rig, seen = Bench(show), []
    for tick in range(ticks):
        on = (tick * wanted * 2 // 60) % 2 == 0
        live = {"f_a__level": 1.0 if on or colours else 0.0}
        if colours and not on:
            target = rig.router.index_of["f-a.colour"]
            live = {}
            rig.router.hand[target : target + 3] = colours
        elif colours:
            rig.router.hand[rig.router.index_of["f-a.colour"] :][:3] = 1.0
        seen.append(rig.tick(**live).light[0])
    weights = np.array([0.2126, 0.7152, 0.0722])
    bright = np.array([cell[:3] @ weights * cell[3] for cell in seen])
    rises = np.flatnonzero((bright[1:] > 0.5) & (bright[:-1] <= 0.5))
    return [int(((rises >= start) & (rises < start + 60)).sum()) for start in range(0, ticks - 60)], rig


@pytest.mark.parametrize("wanted", [1, 2, 3])
def test_up_to_three_flashes_a_second_are_left_alone(wanted):
    counts, rig = flashes(wanted)
    assert max(counts) == wanted and rig.rig.held_back(4.0) == []


@pytest.mark.parametrize("wanted", [4, 7, 10, 15, 30])
def test_no_lamp_flashes_more_than_three_times_in_any_second(wanted):
    """WCAG 2.2, SC 2.3.1: whatever makes it, not its own strobe alone."""
    counts, rig = flashes(wanted)
    assert 1 <= max(counts) <= 3 and rig.rig.held_back(4.0) == ["a"]
    allowed, rig = flashes(wanted, strobe=True)
    assert max(allowed) >= wanted and rig.rig.held_back(4.0) == []


def test_a_colour_that_changes_its_brightness_flashes_too():
    counts, _ = flashes(10, colours=(1.0, 0.0, 0.0))
    assert 1 <= max(counts) <= 3


def test_a_lamp_whose_kind_is_gone_stays_and_can_become_another():
    document = show_of(
        lamp("a", "rgb-lamp"), groups=[{"id": "g", "name": "G", "members": ["a"]}]
    ).model_dump()
    document["lamps"][0]["fixture"]["kind"] = "laser-from-tomorrow"
    show = Show.model_validate(migrate(document))
    left = show.lamps[0]
    assert left.fixture.values == {"was": "laser-from-tomorrow"} and left.fixture.kind == "lost-lamp"
    assert Bench(show).tick().universes == {}
    dimmer = changed(show, exchange(show, ["a"], "dimmer"))
    assert sent(changed(dimmer, SetValue(path="/lamps/a/fixture/values/level", value=1.0))) == [255]
