"""The course of the night: what cues change, when they go, and that nothing goes twice."""

import numpy as np
import pytest

from fulgura.core.show.commands.cues import changed_since, new_cue, recall_cue
from fulgura.core.show.commands.presets import keep
from fulgura.core.show.commands.songs import new_song, without_song
from fulgura.core.show.cue_words import cue_words, go_words
from fulgura.core.show.document import Show
from fulgura.core.show.edits import EditError, RemoveItem, SetValue, apply
from fulgura.core.show.events import ActionDone, ClockRead, EditMade, TrackPlaced
from fulgura.core.show.inputs import TempoSetting
from fulgura.core.show.night import Cue, CueGo, CueRoutes, CueValue, Duration, NightSettings, Song
from fulgura.demo.show import gallery_show
from tests.core.surfaces import Hands, action, small_show

HELD = TempoSetting(mode="held", bpm=120.0)


def night(*cues: Cue, **more) -> Hands:
    return Hands(small_show(cues=list(cues), tempo=HELD, **more))


def cue(number: int, when: str = "hand", **more) -> Cue:
    go = CueGo(when=when, **{key: more.pop(key) for key in list(more) if key in CueGo.model_fields})
    fields = {"look": ("first", "second")[number % 2], "over": Duration()} | more
    return Cue(id=f"cue-{number}", name=f"Cue {number}", go=go, **fields)


def go(hands: Hands, which: str = "the next", to: str = "") -> None:
    hands.act(ActionDone(action=action("go-cue", which=which, cue=to)))


# -- what a cue changes -------------------------------------------------------------------------------------


def test_a_cue_changes_a_part_and_leaves_the_rest():
    show = small_show()
    edit, preset = keep(show, "parameter", "ring-2.radius", "Small")
    show = apply(show, edit)[0]
    wanted = Cue(
        id="cue-1",
        name="Part",
        presets=[preset],
        values=[CueValue(target="ring-1.width", value=0.25, over=Duration(amount=500, unit="ms"))],
        routes=[CueRoutes(routes="look first", act=False)],
        bpm=90.0,
        blackout="lights",
    )
    show = show.model_copy(update={"cues": [wanted]})
    recalled = recall_cue(show, "cue-1")
    after, back = apply(show, recalled.edit)
    assert after.look == show.look and after.blackout == "lights"
    assert (after.tempo.mode, after.tempo.bpm) == ("held", 90.0)
    assert after.looks[0].layers[0].source.values["width"] == 0.25
    assert [route.muted for route in after.routes if route.id == "r1"] == [True]
    assert recalled.over == {"ring-1.width": Duration(amount=500, unit="ms")} and not recalled.gone
    assert apply(after, back)[0] == show


def test_values_take_the_time_that_the_cue_gives_each():
    values = [
        CueValue(target="ring-1.width", value=0.25, over=Duration(amount=2.0)),
        CueValue(target="ring-1.glow", value=1.0),
    ]
    hands = night(Cue(id="c", name="C", values=values))
    start = [hands.ticks() and hands.live(f"ring-1.{name}") for name in ("width", "glow")]
    go(hands)
    hands.seconds(0.5)  # Half of two beats at 120 BPM.
    assert hands.live("ring-1.width") == pytest.approx((start[0] + 0.25) / 2, abs=0.01)
    assert hands.live("ring-1.glow") == 1.0
    hands.seconds(0.6)
    assert hands.live("ring-1.width") == pytest.approx(0.25)


def test_a_cue_that_lost_its_targets_says_so_and_does_the_rest():
    wanted = Cue(
        id="c",
        name="Torn",
        look="gone",
        presets=["gone"],
        palettes=[{"palette": "gone", "group": ""}, {"palette": "gone", "group": "nobody"}],
        values=[
            CueValue(target="no.width", value=1.0),
            CueValue(target="ring-1.width", value="wide"),
            CueValue(target="ring-2.width", value=0.2),
        ],
        routes=[CueRoutes(routes="set nothing")],
        plays="gone",
        bpm=100.0,
    )
    hands = night(wanted)
    go(hands)
    assert hands.show.cue == "c" and hands.show.look == "first" and hands.show.tempo.bpm == 100.0
    assert hands.show.looks[1].layers[0].source.values["width"] == 0.2
    lost = {"its look", "a preset", "a palette", "a group of lamps", "a value that it sets"}
    lost |= {"routes that it switches", "the song that it plays"}
    assert set(hands.said()) == {f"Cue “Torn”: {what} is gone. It did the rest." for what in lost}
    assert cue_words(hands.show, wanted)[0] == "Look: what is gone over 4 beats"


def test_only_what_changed_since_the_last_cue_is_kept():
    since = gallery_show()
    assert changed_since(since, since) == {}
    with pytest.raises(EditError, match="Nothing has changed"):
        new_cue(since, Duration(), "", since)
    edits = [
        SetValue(path="/looks/lantern-tunnel/layers/lantern/source/values/radius", value=0.77),
        SetValue(path="/blackout", value="lights"),
        SetValue(path="/routes/r1/muted", value=True),
        SetValue(path="/lamps/gallery-1/fixture/values/level", value=0.5),
    ]
    now = since
    for edit in edits:
        now = apply(now, edit)[0]
    add, id = new_cue(now, Duration(), "Change", since)
    kept = apply(now, add)[0]
    made = next(each for each in kept.cues if each.id == id)
    assert not made.look and made.chases is None and not made.palettes and made.blackout == "lights"
    assert {value.target: value.value for value in made.values} == {"ring.radius": 0.77, "lamp-1.level": 0.5}
    # Recalled on the show as it was, it brings the same change and nothing else.
    before = since.model_copy(update={"cues": kept.cues})
    after = apply(before, recall_cue(before, id).edit)[0]
    assert (
        after.model_copy(update={"cue": ""}).model_dump() == kept.model_copy(update={"cue": ""}).model_dump()
    )


def test_a_cue_reads_in_words():
    show = gallery_show()
    assert cue_words(show, show.cues[1])[0] == "Look: Lantern tunnel over 16 beats"
    assert cue_words(show, show.cues[0])[-1] == "Chases: Door light"
    assert go_words(show, show.cues[3].go) == "on the next 4 bars"
    assert go_words(show, CueGo(when="signal", signal="hit-kick")) == "on Kick"
    assert go_words(show, CueGo(when="signal", signal="band-low", above=0.4)) == "when Low is above 0.4"
    assert go_words(show, CueGo(when="signal", signal="none")) == "on a signal that is gone"


# -- when it goes -------------------------------------------------------------------------------------------


@pytest.mark.parametrize("when, beats", [("beat", 1), ("bar", 4), ("bars", 8)])
def test_a_cue_waits_for_its_line_and_falls_within_ten_milliseconds(when, beats):
    for begin in np.linspace(0.5, 2.3, 7):
        hands = night(cue(1, when, bars=2))
        hands.seconds(begin)
        go(hands)
        assert hands.performer.surface.course.waiting == "cue-1"
        due = hands.performer.surface.stage.now.due(
            hands.performer.surface.course.line, when, 2 if when == "bars" else 1
        )
        while hands.show.cue != "cue-1":
            hands.ticks()
            assert hands.performer.number < 600
        assert due % beats == 0
        assert abs(hands.performer.beats.position - due) * 0.5 < 0.010


def test_asked_for_twice_it_goes_at_once_and_only_once():
    hands = night(cue(1, "bar"), cue(2))
    hands.seconds(0.7)
    go(hands)
    go(hands)
    assert hands.show.cue == "cue-1"
    hands.seconds(5)
    assert hands.show.cue == "cue-1"


def test_go_back_and_jump():
    hands = night(cue(1), cue(2), cue(3))
    go(hands)
    go(hands)
    assert hands.show.cue == "cue-2"
    go(hands, "the one before")
    assert hands.show.cue == "cue-1"
    go(hands, "the one before")
    assert hands.said() == ["That was the first cue."]
    go(hands, "a certain one", "cue-3")
    assert hands.show.cue == "cue-3"
    go(hands)
    assert "That was the last cue." in hands.said()
    go(hands, "a certain one", "none")
    assert any("not there any more" in said for said in hands.said())


def test_cues_follow_each_other_by_beats():
    hands = night(cue(1), cue(2, "after", after_beats=2.0), cue(3, "after", after_beats=4.0))
    hands.seconds(1)
    go(hands)
    went = {}
    begun = hands.performer.beats.position
    for _ in range(300):
        hands.ticks()
        went.setdefault(hands.show.cue, hands.performer.beats.position - begun)
    assert went["cue-2"] == pytest.approx(2.0, abs=0.05) and went["cue-3"] == pytest.approx(6.0, abs=0.08)


def test_a_cue_goes_on_a_hit_when_it_is_its_turn():
    hands = night(
        cue(1), cue(2, "signal", signal="modulator-played"), cue(3, "signal", signal="modulator-played")
    )
    hit = ActionDone(action=action("add-hit", played="played"))
    hands.act(hit)
    hands.ticks(4)
    assert hands.show.cue == "", "it is not its turn"
    go(hands)
    hands.ticks(3)
    hands.act(hit)
    hands.ticks(4)
    assert hands.show.cue == "cue-2", "one hit, one cue"
    hands.act(hit)
    hands.ticks(4)
    assert hands.show.cue == "cue-3"


def test_a_cue_goes_when_a_level_rises_above_its_line_not_while_it_stands_there():
    hands = night(
        cue(1),
        cue(2, "signal", signal="modulator-hand", above=0.5),
        modulators=[
            {
                "id": "hand",
                "name": "Hand",
                "part": {"id": "m-hand", "family": "modulator", "kind": "fader", "values": {"level": 0.9}},
            }
        ],
    )

    def set_to(level: float) -> None:
        hands.act(EditMade(edit=SetValue(path="/modulators/hand/part/values/level", value=level)))

    go(hands)
    hands.ticks(10)
    assert hands.show.cue == "cue-1", "it stood above already"
    set_to(0.2)
    hands.ticks(3)
    set_to(0.7)
    hands.ticks(3)
    assert hands.show.cue == "cue-2"


def test_cues_go_by_the_clock_once():
    hands = night(
        cue(1, "clock", clock="21:00:00"),
        cue(2, "clock", clock="21:00:10"),
        night=NightSettings(runs="clock"),
    )
    went = []
    for second in [75590, 75599, 75600, 75600, 75601, 75609, 75612, 75612, 75599, 75620]:
        hands.act(ClockRead(seconds=second))
        hands.ticks(3)
        went.append(hands.show.cue)
    assert went[:6] == ["", "", "cue-1", "cue-1", "cue-1", "cue-1"] and went[6] == "cue-2"
    by_hand = night(cue(1, "clock", clock="21:00:00"))
    for second in (75599, 75601):
        by_hand.act(ClockRead(seconds=second))
        by_hand.ticks(3)
    assert by_hand.show.cue == "", "by hand nothing goes by itself at a time of the day"


def test_a_clock_that_is_set_makes_up_for_what_it_left_out_and_repeats_nothing():
    """cron(8) of Debian, from memory: jobs left out by less than three hours run at once, none runs twice;
    by more than that the new time counts.
    """
    hands = night(
        cue(1, "clock", clock="20:30:00"),
        cue(2, "clock", clock="21:00:00"),
        cue(3, "clock", clock="00:00:00"),
        night=NightSettings(runs="clock"),
    )

    def read(hours: int, minutes: int, seconds: int = 0) -> str:
        hands.act(ClockRead(seconds=3600 * hours + 60 * minutes + seconds))
        hands.ticks(3)
        return hands.show.cue

    assert read(20, 5) == "" and read(21, 5) == "cue-2", "an hour on: of what was left out the last goes"
    assert hands.said() == []
    assert read(20, 5) == "cue-2" and "set back by 60 minutes" in hands.said()[0]
    assert [read(20, 30), read(20, 31), read(21, 0), read(21, 1)] == ["cue-2"] * 4, "it went already"
    assert len(hands.said()) == 1
    assert read(23, 59, 59) == "cue-2" and read(0, 0) == "cue-3", "midnight"
    assert read(0, 0) == "cue-3" and read(15, 0) == "cue-3", "corrected: nothing is made up for"
    assert read(20, 29) == "cue-3", "five hours on are a correction too"
    assert read(20, 30) == "cue-1", "the next evening"


SONGS = [Song(id="a", name="A", track="one"), Song(id="b", name="B", track="two"), Song(id="c", name="C")]


def placed(hands: Hands, track: str, seconds: float, length: float = 60.0) -> str:
    hands.act(TrackPlaced(track=track, position_s=seconds, length_s=length, playing=True))
    hands.ticks()
    return hands.show.cue


def test_cues_go_at_their_place_in_the_song_and_a_leap_recalls_what_belongs_there():
    cues = [cue(n, "song", song="a", at_s=at) for n, at in ((1, 0.0), (2, 10.0), (3, 20.0))]
    hands = night(*cues, songs=SONGS, song="a", night=NightSettings(runs="track"))
    assert placed(hands, "one", 0.02) == "cue-1"
    assert placed(hands, "one", 0.5) == "cue-1"
    hands.act(ActionDone(action=action("go-cue", which="a certain one", cue="cue-3")))
    assert placed(hands, "one", 1.0) == "cue-3", "a hand may be ahead"
    for t in np.arange(1.5, 10.4, 0.5):
        placed(hands, "one", float(t))
    assert hands.show.cue == "cue-2"
    made = len(hands.performer.played.take_made())
    assert placed(hands, "one", 10.5) == "cue-2" and not hands.performer.played.take_made() and made
    assert placed(hands, "one", 25.0) == "cue-3", "sent ahead"
    assert placed(hands, "one", 3.0) == "cue-1", "sent back"
    assert placed(hands, "two", 15.0) == "cue-1", "another track is not this song's"


def test_the_next_song_begins_when_one_is_over():
    hands = night(songs=SONGS, song="a", night=NightSettings(runs="track"))
    placed(hands, "one", 59.0)
    assert hands.show.song == "a"
    placed(hands, "one", 59.9)
    assert hands.show.song == "b" and hands.show.input.track.track == "two"
    assert hands.performer.played.take_seeks() == [0.0]
    placed(hands, "two", 59.95)
    assert hands.show.song == "c"
    hands.ticks(30)
    assert hands.show.song == "c"


def test_cues_that_set_each_other_off_in_a_ring_are_held_back():
    cues = [cue(n, "after", after_beats=0.0) for n in range(1, 40)]
    hands = night(*cues)
    go(hands)
    hands.ticks(60)
    index = [each.id for each in hands.show.cues].index(hands.show.cue)
    assert index <= 9 and any("ring" in said for said in hands.said())


# -- the set list -------------------------------------------------------------------------------------------


def test_songs_are_put_on_the_list_and_taken_off():
    show = small_show(cues=[cue(1, song="song-1")])
    add, song = new_song(show, "", "lamp-room")
    show = apply(show, add)[0]
    assert (song, show.songs[0].name) == ("song-1", "Lamp Room")
    show = apply(show, without_song(show, "song-1"))[0]
    assert not show.songs and show.cues[0].song == ""
    with pytest.raises(EditError):
        without_song(show, "song-1")


def test_a_night_of_two_hundred_cues_and_sixty_songs_and_its_surface_is_small_work():
    """Opening it is validating it; the tick looks at its cues each time."""
    import time

    songs = [Song(id=f"s{n}", name=f"Song {n}", track="one") for n in range(60)]
    cues = [cue(n, "song", song=f"s{n % 60}", at_s=float(n)) for n in range(200)]
    mappings = [
        {"id": f"m{n}", "source": f"midi {n % 16 + 1} cc {n % 128}", "target": "/sound_amount"}
        for n in range(300)
    ]
    text = small_show(
        songs=songs, cues=cues, song="s1", mappings=mappings, night={"runs": "track"}
    ).model_dump_json()
    begun = time.perf_counter()
    hands = Hands(Show.model_validate_json(text))
    hands.ticks(1)
    assert time.perf_counter() - begun < 2.0
    spent = time.perf_counter()
    for _ in range(60):
        hands.performer.surface.step(hands.performer._night_now())
    assert (time.perf_counter() - spent) / 60 < 0.004


def test_a_recalled_cue_is_one_step_back():
    hands = night(cue(1))
    before = hands.show
    go(hands)
    (made,) = hands.performer.played.take_made()
    assert apply(apply(before, made.event.edit)[0], apply(before, made.event.edit)[1])[0] == before
    hands.act(EditMade(edit=RemoveItem(path="/cues/cue-1")))
    hands.seconds(0.2)
    assert hands.show.recalled() is None
