"""Several inputs at once: each has an ear, an analysis and signals of its own."""

import numpy as np
import pytest

from fulgura.core.clock import BLOCK, SAMPLE_RATE, blocks_due
from fulgura.core.performer import Performer
from fulgura.core.show.commands.band_sets import take_bands
from fulgura.core.show.commands.inputs import catch_hits, new_band, new_input, without_band, without_input
from fulgura.core.show.commands.routes import new_route
from fulgura.core.show.document import Show
from fulgura.core.show.edits import EditError, SetValue, apply
from fulgura.core.show.inputs import MAIN, MOST_INPUTS
from fulgura.core.wire import BlockId
from fulgura.demo.show import demo_show
from fulgura.demo.tracks import fog_signal, lamp_room

SILENT = np.zeros((BLOCK, 2))


@pytest.fixture(scope="module")
def sounds():
    return lamp_room().finished()[: 14 * SAMPLE_RATE], fog_signal().finished()[: 14 * SAMPLE_RATE]


@pytest.fixture
def two():
    """The demo show with one more input that has bands and drums of its own; (the show, the input's id)."""
    edit, input_id = new_input(demo_show(), "Second stage")
    show, _ = apply(demo_show(), edit)
    show, _ = apply(show, SetValue(path=f"/inputs/{input_id}/level/follow", value=False))
    return apply(show, take_bands(show, "The usual three", input_id))[0], input_id


def perform(show, blocks, seconds, late_s=0.0):
    """Frames; blocks: input -> samples. An input other than the main one begins late."""
    performer, heard, frames = Performer(show), 0, []
    late = int(late_s * SAMPLE_RATE) // BLOCK
    for number in range(1, int(seconds * 60) + 1):
        while heard < blocks_due(number):
            for input_id, samples in blocks.items():
                at = heard if input_id == MAIN else heard - late
                if at >= 0:
                    performer.hear(samples[at * BLOCK : (at + 1) * BLOCK], input_id)
            heard += 1
        frames.append(performer.tick())
    return performer, frames


def test_each_input_hears_what_it_would_hear_alone(two, sounds):
    show, input_id = two
    performer, together = perform(show, {MAIN: sounds[0], input_id: sounds[1]}, 12)
    names = [signal.id for signal in performer.router.signals]
    alone, single = perform(demo_show(), {MAIN: sounds[1]}, 12)
    single_names = [signal.id for signal in alone.router.signals]
    for mine, theirs in (
        ("band-low", f"band-low-{input_id}"),
        ("hit-kick", f"hit-kick-{input_id}"),
        ("level", f"level@{input_id}"),
        ("brightness", f"brightness@{input_id}"),
        ("beat", f"beat@{input_id}"),
    ):
        expected = [frame.signals[single_names.index(mine)] for frame in single]
        assert np.allclose([frame.signals[names.index(theirs)] for frame in together], expected), mine
    # Lamp Room goes at 124, Fog Signal at 92: both are known at once.
    assert performer.listeners[MAIN].analyser.beat.bpm == pytest.approx(124, abs=2)
    assert performer.listeners[input_id].analyser.beat.bpm == pytest.approx(92, abs=2)


def test_every_signal_says_which_input_it_listens_to(two):
    show, input_id = two
    performer = Performer(show)
    of = {signal.id: signal.input for signal in performer.router.signals}
    assert (
        of["hit-kick"] == of["level"] == MAIN
        and of[f"hit-kick-{input_id}"] == of[f"level@{input_id}"] == input_id
    )
    assert len(of) == len(performer.router.signals)
    assert [(audio_input.id, audio_input.name) for audio_input in performer.layout.inputs] == [
        (MAIN, "Main"),
        (input_id, "Second stage"),
    ]


def test_what_is_heard_later_stands_on_the_main_clock(two, sounds):
    show, input_id = two
    performer, frames = perform(show, {MAIN: np.tile(SILENT, (3000, 1)), input_id: sounds[1]}, 8, late_s=3.0)
    hits = [
        (hit, frame.time)
        for frame in frames
        for hit in frame.hits
        if hit.detector == f"kick-{input_id}" and hit.reason is None
    ]
    assert hits and all(0.0 <= time - hit.t < 0.1 for hit, time in hits)
    packet = performer.packet(frames[-1])
    assert len(packet.blocks[BlockId.SPECTRUM]) == 2 * performer.layout.spectrum.bins
    beats = np.concatenate([performer.packet(frame).blocks[BlockId.BEATS] for frame in frames]).reshape(-1, 3)
    assert set(beats[:, 2]) <= {0.0, 1.0} and len(beats)


def test_a_route_follows_the_other_input_and_rests_when_it_is_silent(two, sounds):
    show, input_id = two
    performer = Performer(show)
    entry = next(entry for entry in performer.router.indices if entry.target == "ring.width")
    show, _ = apply(
        show, new_route(show, f"level@{input_id}", "level", [entry.target], entry.parameter, 0.02)[0]
    )
    _, frames = perform(show, {MAIN: np.tile(SILENT, (3000, 1)), input_id: sounds[1]}, 4)
    assert np.ptp([frame.live[entry.index] for frame in frames]) > 0.01
    _, frames = perform(show, {MAIN: sounds[1]}, 4)
    assert np.ptp([frame.live[entry.index] for frame in frames[120:]]) < 1e-3


def test_an_input_goes_with_its_bands_and_hits_and_comes_back(two):
    show, input_id = two
    show, _ = apply(show, catch_hits(show, f"low-{input_id}", True))
    gone, inverse = apply(show, without_input(show, input_id))
    assert (
        [audio_input.id for audio_input in gone.inputs] == [MAIN]
        and len(gone.bands) == 3
        and {hit.id for hit in gone.hits} == {"kick", "snare", "hat"}
    )
    assert apply(gone, inverse)[0] == show


def test_the_last_band_of_another_input_may_go_and_its_drums_stay_heard(two):
    show, input_id = two
    for band in [band.id for band in show.bands if band.input == input_id]:
        show, _ = apply(show, without_band(show, band))
    assert [hit.band for hit in show.hits if hit.input == input_id] == ["", "", ""]
    assert f"hit-kick-{input_id}" in [signal.id for signal in Performer(show).router.signals]


def test_a_band_of_one_input_leaves_the_others_alone(two, sounds):
    show, input_id = two
    edit, band = new_band(show, 500, 900, input_id=input_id)
    edited, _ = apply(show, edit)
    performer, _ = perform(show, {MAIN: sounds[0], input_id: sounds[1]}, 2)
    state = performer.listeners[MAIN].analyser._bank.state.copy()
    performer.configure(edited)
    assert np.array_equal(performer.listeners[MAIN].analyser._bank.state, state)
    assert (
        band in performer.listeners[input_id].band_order and band not in performer.listeners[MAIN].band_order
    )


@pytest.mark.parametrize(
    ("edit", "says"),
    [
        (SetValue(path="/bands/low/input", value="nowhere"), "not there"),
        (SetValue(path="/hits/kick/input", value="nowhere"), "not there"),
        (SetValue(path="/inputs/main/id", value="other"), "main input"),
        (SetValue(path="/inputs", value=[{"id": "main"}, {"id": "main"}]), "two inputs"),
    ],
)
def test_what_would_break_a_show_is_refused(edit, says):
    with pytest.raises(EditError, match=says):
        apply(demo_show(), edit)


def test_the_main_input_stays_and_there_is_an_end_to_the_others():
    show = demo_show()
    with pytest.raises(EditError, match="has to stay"):
        without_input(show, MAIN)
    for _ in range(MOST_INPUTS - 1):
        show, _ = apply(show, new_input(show)[0])
    with pytest.raises(EditError, match="4 inputs can be open"):
        new_input(show)


def test_shows_and_steps_of_before_there_were_several_are_understood():
    old = demo_show().model_dump()
    only = old.pop("inputs")[0] | {
        "track": {"kind": "track", "track": "undertow"},
        "live": {"kind": "live", "device": ""},
    }
    old["input"] = {key: value for key, value in only.items() if key not in ("id", "name", "device")}
    for hit in old["hits"]:
        del hit["drum"], hit["input"]
    for band in old["bands"]:
        del band["input"]
    show = Show.model_validate(old)
    assert show.input.track.track == "undertow" and [hit.listens for hit in show.hits] == [
        "kick",
        "snare",
        "hat",
    ]
    assert apply(show, SetValue(path="/input/gain_db", value=3.0))[0].input.gain_db == 3.0
