"""Actions: each does what it says, shows whether it is so, and ends."""

import pytest

from fulgura.core.kinds.action import Action
from fulgura.core.show.commands.presets import keep
from fulgura.core.show.edits import apply
from fulgura.core.show.inputs import TempoSetting
from fulgura.core.show.night import Song
from fulgura.core.show.surface import PadPage
from fulgura.demo.show import gallery_show
from tests.core.surfaces import Hands, action, pad, small_show


def do(hands: Hands, kind: str, **values) -> Action:
    model = action(kind, **values).model()
    model.press(hands.stage, 1.0)
    return model


def test_every_action_does_nothing_bad_where_all_that_it_names_is_gone():
    for kind in Action.kinds:
        hands = Hands(small_show(songs=[], pages=[]))
        model = do(hands, kind)
        hands.ticks(2)
        model.lit(hands.stage)
        model.release(hands.stage)
        hands.ticks(2)


def test_looks_and_presets():
    show = small_show()
    edit, preset = keep(show, "parameter", "ring-1.radius", "Kept")
    hands = Hands(apply(show, edit)[0])
    assert do(hands, "show-look", look="second").lit(hands.stage) and hands.show.look == "second"
    do(hands, "set-to", target="ring-1.radius", value=99.0)
    assert hands.show.looks[0].layers[0].source.values["radius"] == 2.0, "kept within its range"
    assert do(hands, "recall-preset", preset=preset).lit(hands.stage)
    assert hands.show.looks[0].layers[0].source.values["radius"] == 0.3


def test_lamps():
    hands = Hands(gallery_show())
    do(hands, "recall-palette", palette="signal-fire", group="rail")
    rail = hands.show.members(next(group for group in hands.show.groups if group.id == "rail"))
    assert {palette for lamp in rail for palette in lamp.uses.values()} == {"signal-fire"}
    chase = do(hands, "run-chase", chase="sparks")
    assert chase.lit(hands.stage)
    chase.release(hands.stage)
    assert not chase.lit(hands.stage)
    flash = do(hands, "flash-lamps", group="rail", level=0.9)
    hands.ticks(2)
    assert flash.lit(hands.stage)
    assert {round(hands.live(f"{lamp.fixture.id}.level"), 3) for lamp in rail} == {0.9}
    flash.release(hands.stage)
    assert not hands.performer.router.overrides.active


def test_a_hit_is_a_signal_that_routes_use():
    hands = Hands(small_show())
    do(hands, "add-hit", played="played", strength=0.6)
    hands.ticks()
    assert hands.live("ring-1.radius") == pytest.approx(0.3 + 0.6 * 1.0, abs=1e-6)
    hands.ticks()
    assert hands.live("ring-1.radius") == pytest.approx(0.3)


def test_routes_are_switched_by_look_layer_part_signal_and_set():
    show = small_show()
    show = show.model_copy(
        update={"routes": [show.routes[0].model_copy(update={"set": "drums"}), show.routes[1]]}
    )
    for routes, muted in {
        "look first": [True, False],
        "layer second-layer": [False, True],
        "part ring-1": [True, False],
        "signal level": [False, True],
        "set drums": [True, False],
        "": [True, True],
    }.items():
        hands = Hands(show)
        model = action("switch-routes", routes=routes).model()
        assert model.lit(hands.stage)
        model.release(hands.stage)
        assert [route.muted for route in hands.show.routes] == muted and not model.lit(hands.stage), routes


def test_pictures_stand_still_and_forget():
    hands = Hands(small_show())
    (frame,) = hands.ticks()
    assert frame.picture[:2].tolist() == [0.0, 0.0]
    freeze = do(hands, "freeze-all", what="all")
    do(hands, "clear-feedback")
    (frame,) = hands.ticks()
    assert frame.picture[:2].tolist() == [1.0, 1.0] and hands.show.lights.frozen and freeze.lit(hands.stage)
    freeze.release(hands.stage)
    assert not hands.show.frozen and not hands.show.lights.frozen


def test_the_beat_in_the_hand():
    hands = Hands(small_show(tempo=TempoSetting(mode="held", bpm=120.0)))
    for what, bpm in (("half", 60.0), ("double", 120.0), ("double", 240.0), ("double", 240.0)):
        do(hands, "turn-beat", what=what)
        assert hands.show.tempo.bpm == bpm
    assert do(hands, "turn-beat", what="3/4").lit(hands.stage) and hands.show.tempo.meter == "3/4"
    lock = do(hands, "turn-beat", what="lock")
    assert hands.show.tempo.mode == "locked" and lock.lit(hands.stage)
    lock.release(hands.stage)
    assert hands.show.tempo.mode == "auto"
    do(hands, "turn-beat", what="later")
    assert hands.performer.main.analyser.beat.shift_s == pytest.approx(0.01)
    do(hands, "turn-beat", what="now is the one")
    assert hands.performer.main.analyser.beat.marked


@pytest.mark.parametrize("gap_s", [0.484, 0.4167, 0.7])
def test_taps_that_fall_between_ticks_make_their_tempo(gap_s):
    """J16: taps 484 ms apart give 124 ± 1 BPM, though ticks are 16.7 ms apart."""
    from fulgura.core.show.events import Tapped

    hands = Hands(small_show())
    for k in range(8):
        at = 1.0 + k * gap_s
        while hands.performer.number / 60 < at:
            hands.ticks()
        hands.act(Tapped(age_s=(hands.performer.number + 1) / 60 - at))
    assert hands.show.tempo.mode == "held"
    assert hands.show.tempo.bpm == pytest.approx(60 / gap_s, abs=1.0)
    # The beat falls where the last tap fell.
    phase = hands.performer.main.analyser.beat
    off = (phase.next_t - hands.performer.main.analyser.time + (hands.performer.number / 60 - at)) % (
        60 / hands.show.tempo.bpm
    )
    assert min(off, 60 / hands.show.tempo.bpm - off) < 0.04


def test_blackout_sound_amount_and_the_way_back_to_the_hand():
    hands = Hands(small_show())
    dark = do(hands, "blackout", what="pictures")
    assert hands.show.blackout == "pictures" and dark.lit(hands.stage)
    dark.release(hands.stage)
    assert hands.show.blackout == "off"
    amount = do(hands, "sound-amount", amount=0.25)
    assert hands.show.sound_amount == 0.25 and amount.lit(hands.stage)
    amount.release(hands.stage)
    do(hands, "hold-at", target="ring-1.width", value=0.4)
    do(hands, "hand-back", glide_ms=0)
    hands.ticks()
    assert hands.show.sound_amount == 0.0 and hands.live("ring-1.width") == pytest.approx(0.05)


def test_songs_are_begun_skipped_and_begun_again():
    songs = [
        Song(id="a", name="A", track="lamp-room"),
        Song(id="b", name="B", track="undertow", skipped=True),
        Song(id="c", name="C"),
        Song(id="d", name="D", track="undertow", again=True),
    ]
    hands = Hands(small_show(songs=songs))
    do(hands, "play-song")
    assert hands.show.song == "a" and hands.show.input.track.track == "lamp-room"
    assert hands.performer.played.take_seeks() == [0.0]
    do(hands, "play-song")
    assert hands.show.song == "c" and hands.show.input.track.track == "lamp-room", "a band plays itself"
    do(hands, "play-song")
    assert hands.show.song == "d" and hands.show.input.track.loop
    do(hands, "play-song")
    assert hands.said() == ["That was the last song."]
    do(hands, "play-song", which="the one before")
    assert hands.show.song == "c"
    assert do(hands, "play-song", which="a certain one", song="b").lit(hands.stage)
    do(hands, "play-song", which="the same again")
    assert hands.show.song == "b" and hands.performer.played.take_seeks() == [0.0] * 3


def test_pages_are_turned():
    pages = [PadPage(id=name, name=name) for name in ("one", "two", "three")]
    hands = Hands(small_show(pages=pages))
    assert hands.stage.page == "one"
    do(hands, "turn-page")
    do(hands, "turn-page", which="the one before")
    do(hands, "turn-page", which="the one before")
    assert hands.stage.page == "three"
    assert do(hands, "turn-page", which="a certain one", page="two").lit(hands.stage)


def test_a_pad_of_several_things_is_lit_when_all_are_so():
    hands = Hands(
        small_show(
            pad(
                0,
                action("show-look", "a", look="first"),
                action("blackout", "b", what="lights"),
                mode="switch",
            )
        )
    )
    hands.ticks(2)
    assert hands.lit(1) == ""
    hands.press(1)
    hands.ticks(2)
    assert hands.lit(1) == "on"


def test_in_silence_the_tapped_beat_is_sure_and_the_bar_begins_with_the_marked_one():
    from fulgura.core.show.events import Tapped

    hands = Hands(small_show())
    hands.seconds(1)
    for k in range(6):
        at = 1.0 + k * 0.5
        while hands.performer.number / 60 < at:
            hands.ticks()
        hands.act(Tapped(age_s=(hands.performer.number + 1) / 60 - at))
    hands.seconds(1.98)
    do(hands, "turn-beat", what="now is the one")  # Four beats after the last tap.
    marked = hands.performer.number / 60
    hands.seconds(6.0)
    bar_s = 2.0
    begun = hands.performer.number / 60 - hands.performer.main.bar_phase * bar_s
    off = (begun - marked) % bar_s
    assert min(off, bar_s - off) < 0.040
    # What lasts beats begins with it, too.
    place = hands.performer.beats.position % 4 / 4
    assert abs(place - hands.performer.main.bar_phase) < 0.02
