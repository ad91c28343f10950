"""Pads: pressed, held, switched, waiting for the beat; none is lost, and none counts twice."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fulgura.core.clock import BLOCK, FRAME_RATE, SAMPLE_RATE
from fulgura.core.show.edits import RemoveItem, SetValue
from fulgura.core.show.events import ControllerGone, EditMade
from fulgura.core.show.inputs import TempoSetting
from tests.core.surfaces import Hands, action, mapping, pad, small_show

HELD = TempoSetting(mode="held", bpm=120.0)


def test_a_press_does_every_thing_that_the_pad_does():
    hands = Hands(
        small_show(
            pad(
                0,
                action("show-look", "a", look="second"),
                action("set-to", "b", target="ring-2.width", value=0.1),
                action("blackout", "c", what="lights"),
            )
        )
    )
    hands.press(1)
    assert (hands.show.look, hands.show.blackout) == ("second", "lights")
    assert hands.show.looks[1].layers[0].source.values["width"] == 0.1
    assert [made.name for made in hands.performer.played.take_made()] == ["Look", "Width", "Blackout"]
    assert not hands.performer.played.take_made()


def test_a_held_pad_holds_and_gives_back():
    hands = Hands(
        small_show(pad(0, action("hold-at", target="ring-1.width", value=0.2, glide_ms=0), mode="hold"))
    )
    before = hands.show
    hands.press(1)
    hands.ticks(2)
    assert hands.live("ring-1.width") == pytest.approx(0.2) and hands.lit(1) == "on"
    hands.release(1)
    hands.ticks(2)
    assert hands.live("ring-1.width") == pytest.approx(0.05) and hands.lit(1) == ""
    assert hands.show is before, "what is held is no edit"


def test_two_fingers_on_one_pad_hold_it_until_both_are_gone():
    hands = Hands(
        small_show(pad(0, action("hold-at", target="ring-1.width", value=0.2, glide_ms=0), mode="hold"))
    )
    hands.press(1, "left")
    hands.press(1, "right")
    hands.release(1, "left")
    hands.ticks(2)
    assert hands.live("ring-1.width") == pytest.approx(0.2)
    hands.release(1, "right")
    hands.ticks(2)
    assert hands.live("ring-1.width") == pytest.approx(0.05)


def test_a_switch_goes_on_and_off_and_sees_what_others_did():
    hands = Hands(small_show(pad(0, action("switch-routes", routes=""), mode="switch")))
    hands.ticks(2)
    assert hands.lit(1) == "on", "all routes act"
    hands.press(1)
    hands.ticks(2)
    assert all(route.muted for route in hands.show.routes) and hands.lit(1) == ""
    hands.act(EditMade(edit=SetValue(path="/routes/r1/muted", value=False)))
    hands.press(1)
    assert not any(route.muted for route in hands.show.routes), "one rested: a press lets all act"


@pytest.mark.parametrize("waits, beats", [("beat", 1), ("bar", 4)])
def test_a_pad_that_waits_acts_on_the_line_and_shows_it_meanwhile(waits, beats):
    hands = Hands(small_show(pad(0, action("show-look", look="second"), waits=waits), tempo=HELD))
    hands.seconds(1.1)
    hands.press(1)
    begun = hands.performer.beats.position
    hands.ticks(2)
    assert hands.lit(1) == "waits" and hands.show.look == "first"
    due = hands.performer.surface.due["pad-1"]
    assert due % beats == 0 and 0 < due - begun <= beats
    for _ in range(200):
        hands.ticks()
        if hands.show.look == "second":
            break
    # It falls in the tick that is nearest to the line; ticks differ by a block. A beat is half a second.
    assert abs(hands.performer.beats.position - due) * 0.5 <= 0.5 / FRAME_RATE + 0.5 * BLOCK / SAMPLE_RATE


def test_a_second_press_takes_a_waiting_one_back():
    hands = Hands(small_show(pad(0, action("show-look", look="second"), waits="bar"), tempo=HELD))
    hands.ticks(3)
    hands.press(1)
    hands.press(1)
    hands.seconds(5)
    assert hands.show.look == "first" and hands.lit(1) == ""


def test_a_controller_that_is_pulled_out_lets_go_of_what_it_held():
    show = small_show(
        pad(0, action("hold-at", target="ring-1.width", value=0.2, glide_ms=0), mode="hold"),
        mappings=[
            mapping("midi 1 note 36", "pad", "1"),
            mapping(
                "midi 1 note 37",
                "action",
                id="n",
                action=action("hold-at", target="ring-2.width", value=0.3, glide_ms=0),
            ),
        ],
    )
    hands = Hands(show)
    hands.midi(0x90, 36, 100)
    hands.midi(0x90, 37, 100)
    hands.press(1, "page-1|finger 1")
    hands.ticks(2)
    assert [round(hands.live(f"ring-{n}.width"), 3) for n in (1, 2)] == [0.2, 0.3]
    hands.act(ControllerGone(controller="Box"))
    hands.ticks(2)
    assert [round(hands.live(f"ring-{n}.width"), 3) for n in (1, 2)] == [0.2, 0.05], "a finger is still down"
    hands.act(ControllerGone(controller="page-1"))
    hands.ticks(2)
    assert hands.live("ring-1.width") == pytest.approx(0.05)


def test_a_pad_that_is_gone_and_a_target_that_is_gone_are_told():
    hands = Hands(small_show(pad(0, action("show-look", look="none"), action("hold-at", "b", target="no.x"))))
    hands.press(9)
    hands.press(1)
    assert hands.said() == [
        "That pad is gone.",
        "The look that this shows is gone.",
        "The parameter that this holds is gone.",
    ]
    hands.act(EditMade(edit=RemoveItem(path="/pages/page/pads/pad-1")))
    hands.press(1)
    hands.seconds(9)
    assert hands.said() == [], "a sentence stays for a while"


def test_what_sets_itself_off_in_a_ring_is_stopped_and_told():
    hands = Hands(
        small_show(pad(0, *(action("set-to", f"a{n}", target="ring-1.width", value=0.1) for n in range(8))))
    )
    for _ in range(80):
        hands.press(1)
    assert any("ring" in said for said in hands.said())
    hands.ticks()
    hands.performer.played.take_made()
    hands.press(1)
    assert len(hands.performer.played.take_made()) == 8, "the next tick begins anew"


@given(st.lists(st.tuples(st.integers(1, 3), st.booleans(), st.sampled_from(["a", "b"])), max_size=400))
def test_no_press_is_lost_and_none_counts_twice(moves):
    """Up to a thousand presses and releases a second, in any order: each press of a pad is one hit."""
    hands = Hands(small_show(*(pad(n, action("add-hit", played="played")) for n in range(3))))
    pressed = heard = 0
    for number, down, by in moves:
        if down:
            pressed += 1
            hands.press(number, by)
        else:
            hands.release(number, by)
        if pressed % 17 == 0:  # A thousand a second are seventeen a tick.
            heard += sum(played.hits for played in hands.stage.played.values())
            hands.ticks()
    heard += sum(played.hits for played in hands.stage.played.values())
    assert hands.performer.surface.pads.presses == pressed == heard


@given(st.lists(st.tuples(st.booleans(), st.sampled_from("abc")), max_size=60))
def test_what_is_held_is_held_as_long_as_a_finger_is_down(moves):
    hands = Hands(small_show(pad(0, action("hold-at", target="ring-1.width", value=0.2), mode="hold")))
    fingers: set[str] = set()
    for down, by in moves:
        hands.press(1, by) if down else hands.release(1, by)
        fingers.add(by) if down else fingers.discard(by)
        assert bool(hands.performer.router.overrides.active) == bool(fingers)


def test_the_same_events_give_the_same_frames_bit_for_bit():
    def played() -> list[bytes]:
        hands = Hands(
            small_show(
                pad(0, action("show-look", look="second", beats=2), waits="beat"),
                pad(1, action("add-hit", played="played")),
                pad(2, action("tap")),
                tempo=HELD,
            )
        )
        frames = []
        for tick in range(240):
            if tick % 31 == 5:
                hands.press(1 + tick % 3)
            if tick % 29 == 7:
                hands.midi(0xB0, 7, tick % 128)
            frames += hands.ticks()
        return [frame.live.tobytes() + frame.uniforms.tobytes() + frame.signals.tobytes() for frame in frames]

    assert played() == played()
