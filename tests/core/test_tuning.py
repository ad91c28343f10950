"""What listens and routes is moved itself: by routes, hands, presets and cues."""

import numpy as np
import pytest

from fulgura.core.clock import BLOCK, SAMPLE_RATE, blocks_due
from fulgura.core.performer import Performer
from fulgura.core.routing.groups import all_indices
from fulgura.core.routing.tuning import Tuning
from fulgura.core.show.commands import presets
from fulgura.core.show.commands.addresses import parameter_at, value_path
from fulgura.core.show.commands.cues import recall_cue
from fulgura.core.show.edits import SetValue, apply, value_at
from fulgura.core.show.events import EditMade, OverrideReleased, OverrideSet
from fulgura.core.show.names import all_names
from fulgura.core.show.night import Cue
from fulgura.core.show.part import Part
from fulgura.core.show.routes import NamedModulator, Route
from fulgura.core.show.settings import moved_settings, setting_of, settings
from fulgura.core.show.starter import starter_show
from tests.core.rigs import changed

ADDRESSES = (
    "input@main.gain_db",
    "level@main.low_cut_hz",
    "band@low.low_hz",
    "band@low.gain_db",
    "hit@kick.sensitivity",
    "hit@kick.dead_time_ms",
    "route@r1.amount",
    "step@r1@smooth.release",
    "step@r1@range.high",
    "show@sound.sound_amount",
)


CUED = {"band@low.gain_db": -6.0, "route@r1.amount": 0.5, "step@r1@smooth.release": 90.0}


def fader(value=1.0):
    """A show with a fader to move things by."""
    part = Part(id="fader", family="modulator", kind="fader", values={"level": value})
    return starter_show("Night").model_copy(
        update={"modulators": [NamedModulator(id="f", name="F", part=part)]}
    )


def led(target, low, high, value=1.0):
    """A show whose fader moves something that listens or routes."""
    show = fader(value)
    route = Route(id="moves", signal="modulator-f", targets=[target], low=low, high=high)
    return show.model_copy(update={"routes": [*show.routes, route]})


def tone(hz, seconds=1.0, level=0.5):
    t = np.arange(int(seconds * SAMPLE_RATE)) / SAMPLE_RATE
    return level * np.sin(2 * np.pi * hz * t)[:, None]


def perform(show, sound):
    performer, heard, frames = Performer(show), 0, []
    for number in range(1, int(len(sound) / SAMPLE_RATE * 60)):
        while heard < blocks_due(number):
            performer.hear(sound[heard * BLOCK : (heard + 1) * BLOCK])
            heard += 1
        frames.append(performer.tick())
    return performer, frames


def signal(performer, frames, name):
    return np.array([frame.signals[performer.router.order[name]] for frame in frames])


@pytest.mark.parametrize("address", ADDRESSES)
def test_everything_that_listens_or_routes_has_an_address(address):
    show = starter_show("Night")
    assert address in {entry.target for entry in all_indices(show)}
    path, parameter = value_path(show, address), parameter_at(show, address)
    assert isinstance(value_at(show, path), float) and parameter.low is not None
    assert all_names(show)[address.partition(".")[0]]
    # Kept in a preset, changed, recalled.
    edit, preset = presets.keep(show, "parameter", address, "As it is")
    was = value_at(show, path)
    changed_show = changed(show, edit, SetValue(path=path, value=was * 0.5 + parameter.high * 0.001))
    back = changed(changed_show, presets.recall(changed_show, presets.find(changed_show, preset)))
    assert value_at(changed_show, path) != was == value_at(back, path)


def test_only_what_is_moved_has_a_place_among_the_live_values():
    show = starter_show("Night")
    assert not [s for s in moved_settings(show) if s.kind in ("route", "step")]
    moved = led("step@r1@smooth.release", 0.0, 100.0)
    assert [s.id for s in moved_settings(moved) if s.kind == "step"] == ["step@r1@smooth"]
    assert len(settings(show)) > len(moved_settings(show)) and setting_of(show, "ring") is None


def test_a_route_moves_an_inputs_gain_and_a_bands():
    sound = tone(70)
    for target in ("input@main.gain_db", "band@low.gain_db"):
        performer, frames = perform(led(target, 0.0, -20.0), sound)
        plain, frames_plain = perform(fader(), sound)
        quiet, loud = signal(performer, frames, "band-low")[-1], signal(plain, frames_plain, "band-low")[-1]
        assert quiet == pytest.approx(loud / 10, rel=0.03), target


def test_a_route_moves_the_edges_of_a_band_while_it_goes_on_listening():
    """Led from far below up to where the tone is; no step of the filter makes a noise."""
    show = led("band@low.high_hz", 60.0, 400.0)
    sway = Part(
        id="fader", family="modulator", kind="lfo", values={"by": "seconds", "rate": 1.0, "shape": "saw"}
    )
    show = show.model_copy(update={"modulators": [NamedModulator(id="f", name="F", part=sway)]})
    performer, frames = perform(show, tone(200, 2.0))
    low = signal(performer, frames, "band-low")
    assert low[30:].min() < 0.2 and 0.4 < low[30:].max() < 0.55
    # The same band, with its edges set aside so that they cross, is as narrow as can be.
    performer, _ = perform(led("band@low.high_hz", 60.0, 30.0), tone(200, 0.2))
    band = performer.main.analyser.bands[0]
    assert band.high_hz == pytest.approx(band.low_hz * 1.05, rel=0.03)


def test_a_hand_holds_what_listens_and_gives_it_back():
    performer = Performer(starter_show("Night"))
    performer.act(OverrideSet(target="hit@kick.sensitivity", value=0.9))
    performer.tick()
    assert performer.main.analyser.detectors[0].sensitivity == pytest.approx(0.9)
    performer.act(OverrideReleased(target="hit@kick.sensitivity", glide_ms=0))
    performer.tick()
    performer.tick()
    assert performer.main.analyser.detectors[0].sensitivity == 0.5


def test_routes_move_amounts_and_shapers_one_frame_later():
    """A route onto another's amount, onto all of them, and onto a shaper's number."""
    for target in ("route@r1.amount", "show@sound.sound_amount"):
        performer, frames = perform(led(target, 1.0, 0.0), tone(70))
        at = performer.router.index_of["ring.radius"]
        moved = [frame.live[at] for frame in frames]
        assert moved[-1] == pytest.approx(performer.router.hand[at], abs=1e-6), target
    performer, frames = perform(led("step@r1@range.high", 0.62, 0.1), tone(70, level=0.2))
    plain, frames_plain = perform(fader(), tone(70, level=0.2))
    at = performer.router.index_of["ring.radius"]
    assert frames[-1].live[at] > frames_plain[-1].live[at] + 0.05


def test_a_route_onto_what_it_hears_itself_settles_and_ends_nothing():
    """A level that turns its own gain down: one frame late, so nothing goes round within one."""
    route = Route(id="own", signal="level", targets=["input@main.gain_db"], low=0.0, high=-40.0)
    show = fader().model_copy(update={"routes": [route]})
    performer, frames = perform(show, tone(500, 3.0))
    level = signal(performer, frames, "level")
    assert np.isfinite(level).all() and 0.05 < level[-1] < 0.4


def test_a_reconfigured_show_keeps_what_is_led():
    show = led("band@low.gain_db", 0.0, -20.0)
    performer, _ = perform(show, tone(70, 0.3))
    performer.configure(apply(show, SetValue(path="/bands/mid/gain_db", value=3.0))[0])
    assert performer.main.analyser.bands[0].gain_db == pytest.approx(-20.0)
    muted = apply(performer.show, SetValue(path="/routes/moves/muted", value=True))[0]
    performer.configure(muted)
    performer.tick()
    assert performer.main.analyser.bands[0].gain_db == 0.0


def test_a_cue_sets_what_listens_and_routes():
    values = [{"target": address, "value": value} for address, value in CUED.items()]
    show = fader()
    show = show.model_copy(update={"cues": [Cue(id="c", name="Quiet", values=values)]})
    recalled = recall_cue(show, "c")
    after = changed(show, recalled.edit)
    assert {address: value_at(after, value_path(after, address)) for address in CUED} == CUED


def test_a_glide_over_everything_moves_no_filter():
    """A preset that comes over some beats glides all live values: what stays is not quantised by that."""
    performer = Performer(starter_show("Night"))
    bands = performer.main.analyser.bands
    half = SetValue(path="/looks/lantern-tunnel/layers/lantern/mix/values/opacity", value=0.5)
    performer.act(EditMade(edit=half, glide_ms=300))
    for _ in range(30):
        performer.tick()
        assert performer.main.analyser.bands is bands


def test_without_anything_led_a_tick_costs_nothing():
    performer = Performer(starter_show("Night"))
    before = performer.main.analyser.bands
    performer.tick()
    assert performer.main.analyser.bands is before
    assert Tuning().listens(performer.show) is performer.show
