"""Controllers: what they say, what it does, how it is learnt, and what goes back to them."""

import mido
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fulgura.core.show.commands.mappings import add_mappings, bind, conflicts, span_of
from fulgura.core.show.commands.pages import change_action
from fulgura.core.show.edits import EditError, SetValue, apply, value_at
from fulgura.core.show.events import ControllerGone, ControlSaid, EditMade, FaderMoved, LearnAsked
from fulgura.core.show.surface import Mapping, Reach
from fulgura.core.surface.feedback import midi_of
from fulgura.core.surface.learning import coding_of
from fulgura.core.surface.messages import Message, MidiReader, steps
from fulgura.core.timing.midi_stream import MidiStream
from fulgura.core.timing.pickup import NEAR, Pickup
from fulgura.demo.show import demo_show
from tests.core.surfaces import Hands, action, fader, mapping, pad, small_show

WIDTH = "/looks/first/layers/first-layer/source/values/width"
GLOW = "/looks/first/layers/first-layer/source/values/glow"


def width(hands: Hands) -> float:
    return float(value_at(hands.show, WIDTH))


# -- bytes to messages --------------------------------------------------------------------------------------

CHANNEL_MESSAGES = st.one_of(
    st.builds(
        mido.Message,
        st.sampled_from(["note_on", "note_off"]),
        channel=st.integers(0, 15),
        note=st.integers(0, 127),
        velocity=st.integers(0, 127),
    ),
    st.builds(
        mido.Message,
        st.just("control_change"),
        channel=st.integers(0, 15),
        control=st.integers(0, 127),
        value=st.integers(0, 127),
    ),
    st.builds(
        mido.Message, st.just("program_change"), channel=st.integers(0, 15), program=st.integers(0, 127)
    ),
    st.builds(
        mido.Message, st.just("pitchwheel"), channel=st.integers(0, 15), pitch=st.integers(-8192, 8191)
    ),
    st.builds(mido.Message, st.sampled_from(["clock", "start", "stop", "continue"])),
    st.builds(mido.Message, st.just("songpos"), pos=st.integers(0, 16383)),
)


@given(st.lists(CHANNEL_MESSAGES, max_size=40), st.integers(1, 7))
def test_bytes_come_back_as_the_messages_that_mido_wrote(messages, piece):
    """Reference: the mido package's encoder."""
    data = b"".join(bytes(message.bytes()) for message in messages)
    stream, found = MidiStream(), []
    for at in range(0, len(data), piece):
        found += stream.feed(data[at : at + piece])
    assert found == [list(message.bytes()) for message in messages]


@given(st.lists(CHANNEL_MESSAGES, max_size=40))
def test_running_status_says_the_same_in_fewer_bytes(messages):
    """MIDI 1.0: a status byte may be left out while it stays the same; real time does not end it."""
    data, last = bytearray(), None
    for message in messages:
        raw = message.bytes()
        same = raw[0] == last and raw[0] < 0xF0
        data += bytes(raw[1:] if same else raw)
        if raw[0] < 0xF8:
            last = raw[0] if raw[0] < 0xF0 else None
    assert MidiStream().feed(bytes(data)) == [list(message.bytes()) for message in messages]


@given(st.binary(max_size=200))
def test_stray_bytes_do_no_harm_and_never_make_half_a_message(data):
    stream = MidiStream()
    for message in stream.feed(data) + stream.feed(bytes([0x90, 60, 1])):
        assert message[0] & 0x80 and all(byte < 0x80 for byte in message[1:]) and 1 <= len(message) <= 3
    assert MidiStream().feed(bytes([5, 7, 0xF0, 1, 2, 3, 0xF7, 9, 0x90, 60, 1])) == [[0x90, 60, 1]]


def test_messages_have_names_that_a_person_reads():
    read = MidiReader().read
    said = [
        read("Box", data)
        for data in (
            [0x99, 36, 127],
            [0x89, 36, 0],
            [0x90, 36, 0],
            [0xB0, 7, 64],
            [0xE1, 0, 64],
            [0xC0, 5],
            [0xD0, 127],
            [0xA0, 60, 1],
        )
    ]
    assert [(rows[0].source, rows[0].down) for rows in said] == [
        ("midi 10 note 36", True),
        ("midi 10 note 36", False),
        ("midi 1 note 36", False),
        ("midi 1 cc 7", None),
        ("midi 2 bend", None),
        ("midi 1 program 5", True),
        ("midi 1 pressure", None),
        ("midi 1 key pressure 60", None),
    ]
    assert said[4][0].value == pytest.approx(8192 / 16383)
    assert not read("Box", [0xB0, 7]) and not read("Box", [0x90, 200, 1]) and not read("Box", [0xF8])


def test_fourteen_bits_are_two_messages():
    """MIDI 1.0: controllers 32 to 63 carry the lower seven bits of 0 to 31."""
    reader = MidiReader()
    reader.read("Box", [0xB0, 1, 100])
    fine = [message for message in reader.read("Box", [0xB0, 33, 27]) if message.fine is not None]
    assert [(message.source, message.raw) for message in fine] == [("midi 1 cc 1", 100 * 128 + 27)]
    assert fine[0].fine == pytest.approx((100 * 128 + 27) / 16383)


# -- encoders and learning ----------------------------------------------------------------------------------


@pytest.mark.parametrize(
    "coding, up, down",
    [("twos", [1, 2], [127, 126]), ("offset", [65, 66], [63, 62]), ("sign", [1, 2], [65, 66])],
)
def test_encoders_turn_by_steps_and_never_wait_for_a_value(coding, up, down):
    assert [steps(coding, raw) for raw in up] == [1, 2] and [steps(coding, raw) for raw in down] == [-1, -2]
    hands = Hands(small_show(mappings=[mapping("midi 1 cc 60", "value", WIDTH, high=1.0, coding=coding)]))
    before = width(hands)
    for raw in up:
        hands.midi(0xB0, 60, raw)
        hands.ticks()
    assert width(hands) == pytest.approx(before + 3 / 127, abs=2e-4)
    for raw in down:
        hands.midi(0xB0, 60, raw)
        hands.ticks()
    assert width(hands) == pytest.approx(before, abs=2e-4)


def says(*raws: int) -> list[Message]:
    return [Message("", "midi 1 cc 9", raw / 127, None, raw) for raw in raws]


def test_how_a_control_says_its_value_is_heard_from_how_it_moves():
    assert coding_of(says(1, 1, 1, 2, 1)) == "twos" and coding_of(says(127, 127, 126, 127)) == "twos"
    assert coding_of(says(65, 65, 63, 65, 65)) == "offset"
    assert coding_of(says(65, 65, 1, 1)) == "sign"
    assert coding_of(says(3, 4, 5, 6, 8, 11)) == "absolute" and coding_of(says(64)) == "absolute"
    assert coding_of([*says(3), Message("", "midi 1 cc 9", 0.02, None, 400, 0.02)]) == "fine"


def test_anything_is_learnt_by_moving_it():
    hands = Hands(small_show(pad(0, action("show-look", look="second"))))
    for wanted, message, does, source in (
        (LearnAsked(does="pad", target="1"), lambda: hands.midi(0x99, 36, 90), "pad", "midi 10 note 36"),
        (
            LearnAsked(does="value", target=WIDTH, high=0.5),
            lambda: hands.midi(0xB0, 7, 3),
            "value",
            "midi 1 cc 7",
        ),
        (
            LearnAsked(does="action", action=action("tap")),
            lambda: hands.midi(0xC0, 4),
            "action",
            "midi 1 program 4",
        ),
        (LearnAsked(does="hit", target="played"), lambda: hands.osc("/drum", 0.8), "hit", "osc /drum"),
        (LearnAsked(does="fader", target="1"), lambda: hands.midi(0xE0, 1, 2), "fader", "midi 1 bend"),
        (
            LearnAsked(does="action", action=action("clear-feedback")),
            lambda: hands.act(ControlSaid(source="key q", controller="Keys", value=1, down=True)),
            "action",
            "key q",
        ),
    ):
        hands.act(wanted)
        message()
        hands.seconds(0.5)
        assert (hands.show.mappings[-1].does, hands.show.mappings[-1].source) == (does, source)
        assert hands.performer.surface.learning is None
    assert hands.show.mappings[1].controller == "Box" and hands.show.mappings[1].high == 0.5
    assert hands.show.look == "first", "what is being learnt does nothing meanwhile"
    # Taught anew, the same thing has one control.
    hands.act(LearnAsked(does="pad", target="1"))
    hands.midi(0x90, 40, 1)
    hands.seconds(0.5)
    assert [m.source for m in hands.show.mappings if m.does == "pad"] == ["midi 1 note 40"]


def test_learning_can_be_broken_off_and_a_release_teaches_nothing():
    hands = Hands(small_show())
    hands.act(LearnAsked(does="pad", target="1"))
    hands.midi(0x80, 36, 0)
    hands.seconds(0.5)
    assert hands.performer.surface.learning is not None
    hands.seconds(31)
    assert hands.performer.surface.learning is None, "nobody waits for ever"
    hands.act(LearnAsked(does="pad", target="1"))
    hands.act(LearnAsked())
    hands.midi(0x90, 36, 1)
    hands.seconds(0.5)
    assert not hands.show.mappings


# -- pickup -------------------------------------------------------------------------------------------------


def test_a_fader_takes_hold_when_it_passes_the_value():
    pickup = Pickup()
    moved = [pickup.move("one", position / 10, 0.0, -40.0, 40.0) for position in (0, 2, 4)]
    assert moved == [None, None, None]  # The value stands in the middle, at 0.5.
    assert pickup.move("one", 0.6, 0.0, -40.0, 40.0) == pytest.approx(8.0)
    assert pickup.move("one", 0.7, 8.0, -40.0, 40.0) == pytest.approx(16.0)


def test_a_value_that_was_moved_elsewhere_is_let_go_until_it_is_passed_again():
    pickup = Pickup()
    assert pickup.move("one", 0.5, 0.5, 0.0, 1.0) == 0.5
    assert pickup.move("one", 0.51, 0.9, 0.0, 1.0) is None
    assert pickup.move("one", 0.95, 0.9, 0.0, 1.0) == 0.95


@given(st.lists(st.floats(0, 1), min_size=1, max_size=40), st.floats(0, 1))
def test_the_value_never_leaps_further_than_the_fader_moved(positions, value):
    pickup, before = Pickup(), None
    for position in positions:
        new = pickup.move("one", position, value, 0.0, 1.0)
        if new is not None:
            assert abs(new - value) <= NEAR + (abs(position - before) if before is not None else 0.0) + 1e-9
            value = new
        before = position


def test_one_movement_is_one_step():
    pickup = Pickup()
    names = [pickup.gesture("one", t) for t in (0.0, 0.1, 0.9, 3.0, 3.5)]
    assert names[0] == names[1] == names[2] != names[3] == names[4]


def test_a_fader_of_the_surface_moves_several_numbers_each_with_its_own_bend():
    hands = Hands(
        small_show(faders=(fader(0, WIDTH, GLOW, high=0.4),), mappings=[mapping("midi 1 cc 1", "fader", "1")])
    )
    hands.act(FaderMoved(fader="fader-1", position=0.5, gesture="g"))
    hands.ticks(4)
    assert width(hands) == pytest.approx(0.2) and value_at(hands.show, GLOW) == pytest.approx(0.2)
    (made,) = hands.performer.played.take_made()
    assert made.gesture == "g" and hands.performer.surface.faders == {"fader-1": 0.5}
    # A controller's fader far below does not make it leap, and is told to be off.
    hands.midi(0xB0, 1, 10)
    hands.ticks(2)
    assert width(hands) == pytest.approx(0.2) and "m" in hands.performer.surface.controls.waits
    for value in (40, 60, 70):
        hands.midi(0xB0, 1, value)
        hands.ticks()
    assert (
        width(hands) == pytest.approx(0.4 * 70 / 127, abs=1e-3) and not hands.performer.surface.controls.waits
    )


@given(st.floats(0, 1), st.floats(-1, 1), st.floats(-100, 100), st.floats(0.1, 100))
def test_a_reach_goes_there_and_back(position, bend, low, way):
    reach = Reach(target="/x", low=low, high=low + way, bend=bend)
    assert reach.position(reach.value(position)) == pytest.approx(position, abs=1e-3)
    assert reach.value(0.0) == low and reach.value(1.0) == pytest.approx(low + way)


def test_a_storm_of_a_fader_is_one_edit_a_tick():
    hands = Hands(small_show(mappings=[mapping("midi 1 cc 7", "value", WIDTH)]))
    for value in list(range(0, 128)) * 8:
        hands.midi(0xB0, 7, value)
    hands.ticks()
    assert len(hands.performer.played.take_made()) == 1
    assert width(hands) == pytest.approx(1.0)


# -- mappings -----------------------------------------------------------------------------------------------


def test_a_muted_mapping_rests_and_one_whose_target_is_gone_says_so():
    hands = Hands(
        small_show(
            mappings=[
                mapping("midi 1 cc 7", "value", "/looks/none/values/x"),
                mapping("midi 1 note 1", "pad", "9", id="n"),
                mapping("midi 1 note 2", "action", id="o", action=action("blackout", what="all"), muted=True),
            ]
        )
    )
    hands.midi(0xB0, 7, 100)
    hands.midi(0x90, 1, 100)
    hands.midi(0x90, 2, 100)
    hands.midi(0x90, 3, 100)
    hands.ticks()
    rows = list(hands.performer.surface.news.log)
    assert [row["did"] for row in rows] == ["what it moved is gone", "no pad there", "", ""]
    assert hands.show.blackout == "off" and rows[0]["source"] == "midi 1 cc 7" and rows[0]["value"] == 0.7874


def test_a_mapping_of_one_controller_is_not_moved_by_another():
    rows = [
        mapping("midi 1 cc 7", "value", WIDTH, controller="Left"),
        mapping("midi 1 cc 7", "value", GLOW, id="n", controller="Right"),
    ]
    hands = Hands(small_show(mappings=rows))
    for value in (0, 127):
        hands.midi(0xB0, 7, value, controller="Left")
        hands.ticks()
    assert width(hands) == 1.0 and value_at(hands.show, GLOW) != 1.0
    assert conflicts(hands.show) == {}
    both = hands.show.model_copy(
        update={"mappings": [*hands.show.mappings, mapping("midi 1 cc 7", "pad", "1", id="o")]}
    )
    assert conflicts(both) == {"m": ["o"], "n": ["o"], "o": ["m", "n"]}


def test_notes_and_messages_are_hits_as_strong_as_they_were_played():
    hands = Hands(
        small_show(
            mappings=[
                mapping("midi 10 note 38", "hit", "played"),
                mapping("osc /snare", "hit", "played", id="n"),
            ]
        )
    )
    for velocity, strength in ((127, 1.0), (64, 64 / 127)):
        hands.midi(0x99, 38, velocity)
        hands.ticks()
        assert hands.live("ring-1.radius") == pytest.approx(0.3 + strength, abs=1e-6)
        hands.midi(0x89, 38, 0)
        hands.ticks()
        assert hands.live("ring-1.radius") == pytest.approx(0.3)
    hands.osc("/snare", 0.25)
    hands.ticks()
    assert hands.live("ring-1.radius") == pytest.approx(0.55)


def test_binding_takes_the_declared_range_and_frees_what_did_the_same_before():
    show = demo_show()
    gain = {"does": "value", "target": "/inputs/main/gain_db", "low": -40.0, "high": 40.0}
    show, _ = apply(show, bind(show, gain | {"source": "midi 1 cc 7"}))
    show, _ = apply(show, bind(show, gain | {"source": "osc /fader/1"}))
    show, _ = apply(show, bind(show, {"does": "value", "target": "/sound_amount", "source": "osc /fader/2"}))
    assert [mapping.source for mapping in show.mappings] == ["osc /fader/1", "osc /fader/2"]
    assert span_of(show, "/inputs/main/gain_db") == (-40.0, 40.0)
    assert span_of(show, "/sound_amount") == span_of(show, "/routes/r1/amount") == (0.0, 1.0)


@pytest.mark.parametrize(
    "target",
    ["/name", "/inputs/main/name", "/inputs/main/level/follow", "/nowhere/gain_db", "/bands/low/slope", "x"],
)
def test_what_no_fader_can_move_is_refused(target):
    with pytest.raises(EditError):
        span_of(demo_show(), target)


def test_a_controllers_mappings_go_and_come_as_a_set():
    show = small_show(
        mappings=[
            mapping("midi 1 cc 7", "value", WIDTH, controller="Box"),
            mapping("key q", "pad", "1", id="k", controller="Keys"),
        ]
    )
    rows = [
        Mapping(id="x", source="midi 1 cc 8", target=GLOW),
        Mapping(id="y", source="midi 1 cc 9", target=WIDTH),
    ]
    show = apply(show, add_mappings(show, rows, "Box"))[0]
    assert [(m.controller, m.source) for m in show.mappings] == [
        ("Keys", "key q"),
        ("Box", "midi 1 cc 8"),
        ("Box", "midi 1 cc 9"),
    ]
    with pytest.raises(EditError, match="nothing"):
        add_mappings(small_show(), [], "Box")


# -- feedback -----------------------------------------------------------------------------------------------


def test_controllers_are_told_what_is_lit_and_where_faders_stand():
    hands = Hands(
        small_show(
            pad(0, action("show-look", look="second")),
            pad(1, action("show-look", look="first"), waits="bar"),
            faders=(fader(0, WIDTH),),
            mappings=[
                mapping("midi 1 note 36", "pad", "1", controller="Box"),
                mapping("midi 1 note 37", "pad", "2", id="n", controller="Box"),
                mapping("midi 1 cc 1", "fader", "1", id="f", controller="Box"),
                mapping("midi 1 cc 60", "value", WIDTH, id="e", controller="Box", coding="twos"),
                mapping("osc /width", "value", WIDTH, id="o", controller="OSC"),
                mapping("key b", "action", id="b", action=action("blackout"), controller="Keys"),
            ],
        )
    )
    hands.ticks(4)
    told = hands.performer.surface.feedback
    assert told == {
        ("Box", "midi 1 note 36"): 0.0,
        ("Box", "midi 1 note 37"): 1.0,
        ("Box", "midi 1 cc 1"): 0.05,
        ("OSC", "osc /width"): 0.05,
        ("Keys", "key b"): 0.0,
    }
    hands.press(1)
    hands.act(EditMade(edit=SetValue(path=WIDTH, value=0.75)))
    hands.ticks(4)
    told = hands.performer.surface.feedback
    assert (
        told["Box", "midi 1 note 36"] == 1.0
        and told["Box", "midi 1 note 37"] == 0.0
        and told["Box", "midi 1 cc 1"] == 0.75
    )
    hands.press(2)
    hands.ticks(2)
    assert hands.performer.surface.feedback["Box", "midi 1 note 37"] == 0.5, "it waits"
    hands.act(EditMade(edit=SetValue(path="/control/feedback", value=False)))
    hands.ticks(2)
    assert hands.performer.surface.feedback == {}


def test_a_fader_under_a_hand_is_not_fought_with():
    hands = Hands(small_show(mappings=[mapping("midi 1 cc 7", "value", WIDTH, controller="Box")]))
    hands.ticks(2)
    for value in (0, 60, 127):
        hands.midi(0xB0, 7, value)
        hands.ticks(2)
        assert hands.performer.surface.feedback["Box", "midi 1 cc 7"] == 0.05
    hands.seconds(0.6)
    assert hands.performer.surface.feedback["Box", "midi 1 cc 7"] == 1.0


@given(st.integers(1, 16), st.integers(0, 127), st.integers(0, 127))
def test_feedback_is_the_message_that_the_control_itself_would_send(channel, number, value):
    for what in (f"note {number}", f"cc {number}"):
        said = MidiReader().read("", midi_of(f"midi {channel} {what}", value / 127))[0]
        assert said.source == f"midi {channel} {what}" and said.raw == value
    bend = midi_of(f"midi {channel} bend", value / 127)
    assert MidiReader().read("", bend)[0].value == pytest.approx(value / 127, abs=1e-4)
    assert midi_of("osc /x", 1.0) == [] and midi_of("key q", 1.0) == []


def test_parts_of_a_colour_are_moved_like_numbers():
    tint = "/looks/first/layers/first-layer/source/values/tint"
    hands = Hands(
        small_show(
            faders=(fader(0, f"{tint}#red"), fader(1, f"{tint}#blue")),
            mappings=[mapping("midi 1 cc 1", "value", f"{tint}#green")],
        )
    )
    hands.act(FaderMoved(fader="fader-1", position=0.0), FaderMoved(fader="fader-2", position=0.5))
    hands.ticks(2)
    before = value_at(hands.show, tint)
    assert before[:3] == "#00" and before[5:] == "80"
    for value in (0, 127):
        hands.midi(0xB0, 1, value)
    hands.ticks()
    assert value_at(hands.show, tint) == "#00ff80" and len(hands.performer.played.take_made()) == 2
    assert span_of(hands.show, f"{tint}#red") == (0.0, 1.0)
    with pytest.raises(EditError):
        span_of(hands.show, f"{tint}#purple")


def test_a_control_change_presses_once_on_its_way_up_and_a_programme_is_never_held():
    hands = Hands(
        small_show(
            mappings=[
                mapping("midi 1 cc 9", "hit", "played"),
                mapping(
                    "midi 1 program 3", "action", id="p", action=action("hold-at", target="ring-1.width")
                ),
            ]
        )
    )
    for value in (0, 40, 80, 127, 0, 127):
        hands.midi(0xB0, 9, value)
    assert hands.stage.played["m-played"].hits == 2
    hands.midi(0xC0, 3)
    assert not hands.performer.surface.holding


def test_a_control_that_was_down_when_its_controller_left_presses_again_at_once():
    hands = Hands(small_show(mappings=[mapping("midi 1 cc 9", "hit", "played")]))
    hands.midi(0xB0, 9, 127)
    controller = next(iter(hands.performer.surface.down))[0]
    hands.act(ControllerGone(controller=controller))
    hands.midi(0xB0, 9, 127)
    assert hands.stage.played["m-played"].hits == 2


def test_controls_that_nobody_mapped_leave_nothing_behind():
    """Names of OSC that come in by the thousand are not kept, and cost no later tick anything."""
    hands = Hands(small_show())
    for number in range(2000):
        hands.act(ControlSaid(controller="box", source=f"osc /x{number}", value=1.0))
    hands.seconds(1.0)
    surface = hands.performer.surface
    assert not surface.down and not surface.controls.moved


def test_an_action_becomes_another_and_the_only_one_brings_its_way_of_playing():
    show = small_show(pad(0, action("show-look", look="second")))
    changed = apply(show, change_action(show, "pad-1", "a", "hold-at"))[0].pages[0].pads[0]
    assert (changed.actions[0].kind, changed.mode) == ("hold-at", "hold")
    two = small_show(pad(0, action("show-look", "a", look="second"), action("tap", "b")))
    kept = apply(two, change_action(two, "pad-1", "b", "hold-at"))[0].pages[0].pads[0]
    assert (kept.actions[1].kind, kept.mode) == ("hold-at", "press")
    for gone in (("pad-9", "a", "tap"), ("pad-1", "x", "tap"), ("pad-1", "a", "nothing")):
        with pytest.raises(EditError):
            change_action(show, *gone)
