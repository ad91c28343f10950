"""A new route moves the right way, far enough, and comes to rest between beats."""

import numpy as np
import pytest

from fulgura.core.clock import BLOCK, FRAME_RATE, SAMPLE_RATE, blocks_due
from fulgura.core.kinds.registry import FAMILIES, load
from fulgura.core.kinds.tick import TickContext
from fulgura.core.performer import Performer
from fulgura.core.routing.fit import fit_typical
from fulgura.core.routing.indices import indices
from fulgura.core.routing.router import Router
from fulgura.core.routing.typed import understand
from fulgura.core.show.commands.routes import (
    HeardNow,
    ends_of,
    exchange,
    in_turn,
    lead_no_more,
    lead_on,
    new_route,
    new_swing,
)
from fulgura.core.show.edits import EditError, SetValue, apply
from fulgura.core.show.names import part_names
from fulgura.core.show.part import Part
from fulgura.core.show.routes import Route
from fulgura.core.show.signals import signals
from fulgura.core.show.starter import starter_show
from fulgura.demo.show import demo_show, gallery_show
from fulgura.demo.tracks import fog_signal, lamp_room

load()
MOVED = [
    (f"{family} {kind}.{parameter.name}", parameter)
    for family in ("source", "effect", "layering", "fixture", "group", "masters", "modulator")
    for kind, declared in FAMILIES[family].kinds.items()
    for parameter in declared.parameters()
    if parameter.type == "number"
]


@pytest.mark.parametrize(("name", "parameter"), MOVED, ids=[name for name, _ in MOVED])
def test_louder_is_more_for_every_parameter_of_every_kind(name, parameter):
    """From the default: upward, from rest or to it, within the range, and far enough to be seen."""
    low, high = ends_of("level", parameter, parameter.default)
    assert parameter.low <= low < high <= parameter.high
    assert parameter.default in (low, high)
    # At least a hundredth of the range, or half of what it usually is.
    assert high - low >= min(0.01 * (parameter.high - parameter.low), 0.5 * abs(parameter.default) or 1.0)
    for rest in (parameter.low, parameter.high, (parameter.low + parameter.high) / 2):
        low, high = ends_of("level", parameter, rest)
        assert parameter.low <= low < high <= parameter.high and rest in (low, high)


def test_what_rests_at_its_top_gets_nothing_to_there_and_white_gets_black():
    by_target = {entry.target: entry.parameter for entry in indices(demo_show())}
    assert ends_of("level", by_target["lantern-mix.opacity"], 1.0) == (0.0, 1.0)
    assert ends_of("hits", by_target["feedback.scale"], 1.02) == (1.02, 1.06)
    assert ends_of("level", by_target["ring.tint"], "#ffffff") == ("#000000", "#ffffff")
    assert ends_of("level", by_target["ring.tint"], "#102030") == ("#102030", "#ffffff")


def frames(performer, sound):
    """The frames of a performer that hears this sound, one after the other."""
    heard = 0
    for number in range(1, int(len(sound) / SAMPLE_RATE * FRAME_RATE)):
        while heard < blocks_due(number):
            performer.hear(sound[heard * BLOCK : (heard + 1) * BLOCK])
            heard += 1
        yield performer.tick()


@pytest.mark.parametrize("loudness_db", [-14, 0, 8])
@pytest.mark.parametrize("track", [lamp_room, fog_signal], ids=["lamp room", "fog signal"])
def test_a_new_level_route_uses_most_of_its_range_within_two_bars(track, loudness_db):
    """The tracks lie near -16 LUFS: from -30 to -8."""
    sound = track().finished()[: 16 * SAMPLE_RATE] * 10 ** (loudness_db / 20)
    show = starter_show("Night").model_copy(update={"routes": []})
    performer = Performer(show)
    heard = list(frames(performer, sound[: 10 * SAMPLE_RATE]))
    order, beat_s = performer.router.order, performer.main.analyser.beat.interval_s
    entry = next(entry for entry in performer.router.indices if entry.target == "lantern-mix.opacity")
    for signal in ("band-low", "band-high", "level", "peak"):
        bracket = fit_typical(
            [frame.signals[order[signal]] for frame in heard],
            [frame.signals[order["beat-phase"]] for frame in heard],
        )
        edit, _ = new_route(
            show, signal, "level", [entry.target], entry.parameter, 1.0, HeardNow(bracket, beat_s)
        )
        made, _ = apply(show, edit)
        assert made.routes[0].fitted == bracket
        performer.configure(made)
        bars = int(8 * beat_s * FRAME_RATE)
        later = frames(performer, sound[10 * SAMPLE_RATE :])
        moved = [next(later).live[entry.index] for _ in range(bars)]
        assert np.ptp(moved) >= 0.6, signal


def test_what_the_low_band_moves_rests_before_each_next_kick_of_lamp_room():
    """Under 15 % of its way 20 to 50 ms before a kick, with what a new route is fitted to; at its top within
    60 ms after one.
    """
    sound = lamp_room().finished()[: 20 * SAMPLE_RATE]
    show = starter_show("Night").model_copy(update={"routes": []})
    performer = Performer(show)
    heard = list(frames(performer, sound[: 10 * SAMPLE_RATE]))
    order = performer.router.order
    entry = next(entry for entry in performer.router.indices if entry.target == "lantern-mix.opacity")
    low, phases = ([f.signals[order[name]] for f in heard] for name in ("band-low", "beat-phase"))
    now = HeardNow(fit_typical(low, phases), performer.main.analyser.beat.interval_s)
    edit, _ = new_route(show, "band-low", "level", [entry.target], entry.parameter, 1.0, now)
    performer.configure(apply(show, edit)[0])
    later = list(frames(performer, sound[10 * SAMPLE_RATE :]))
    times = np.array([frame.time for frame in later])
    moved = np.array([frame.live[entry.index] for frame in later])
    kicks = [hit.t for frame in later for hit in frame.hits if hit.detector == "kick" and not hit.reason]
    assert len(kicks) > 15
    for kick in kicks[2:-1]:
        assert moved[(times > kick - 0.05) & (times < kick - 0.02)].max() < 0.15
        near = (times > kick - 0.05) & (times < kick + 0.2)
        assert 0.0 < times[near][moved[near].argmax()] - kick < 0.06


def test_what_a_level_moved_is_below_15_per_cent_before_the_next_beat():
    """A burst of a level on each beat of four tempi, through the shapers of a new route."""
    show = starter_show("Night").model_copy(update={"routes": []})
    entry = next(entry for entry in indices(show) if entry.target == "lantern-mix.opacity")
    for bpm in (60, 124, 150, 174):
        beat = 60 / bpm
        edit, _ = new_route(
            show, "band-low", "level", [entry.target], entry.parameter, 1.0, HeardNow((0.0, 1.0), beat)
        )
        router = Router()
        router.configure(apply(show, edit)[0])
        fell = []
        for tick in range(600):
            since = (tick / FRAME_RATE) % beat
            values = np.zeros(len(router.signals))
            # What the band itself takes to fall comes first: here a burst of 60 ms.
            values[router.order["band-low"]] = float(since < 0.06)
            live = router.tick(
                values, np.zeros(len(router.signals), dtype=int), TickContext(seconds=tick / FRAME_RATE)
            )
            if beat - since <= 1.5 / FRAME_RATE and tick > 100:
                fell.append(live[entry.index])
        assert max(fell) < 0.15, bpm


def test_a_route_is_led_on_and_back_and_takes_turns():
    show = demo_show()
    show, _ = apply(show, lead_on(show, "r1", ["ring.width", "ring.glow"], "level"))
    assert show.routes[0].targets[-2:] == ["ring.width", "ring.glow"]
    show, _ = apply(show, in_turn(show, "r1"))
    assert show.routes[0].shapers[0].kind == "cycle"
    show, _ = apply(show, lead_no_more(show, "r1", "ring.width"))
    assert "ring.width" not in show.routes[0].targets
    for refused, says in (
        (lambda: lead_on(show, "r1", ["ring.glow"], "level"), "already"),
        (lambda: lead_no_more(show, "r1", "ring.width"), "any more"),
        (lambda: in_turn(show, "r1"), "already"),
        (lambda: lead_on(show, "gone", ["ring.glow"], "level"), "another desk"),
    ):
        with pytest.raises(EditError, match=says):
            refused()
    alone, _ = apply(show, SetValue(path="/routes/r1/targets", value=["ring.radius"]))
    with pytest.raises(EditError, match="all that this route moves"):
        lead_no_more(alone, "r1", "ring.radius")


def test_a_signal_or_a_target_is_exchanged_and_the_shapers_stay():
    show = demo_show()
    first = show.routes[0]
    other, _ = apply(show, exchange(show, "r1", signal="band-mid", heard=HeardNow((0.1, 0.4))))
    route = other.routes[0]
    assert route.signal == "band-mid" and [s.id for s in route.shapers] == [s.id for s in first.shapers]
    ranged = next(part for part in route.shapers if part.kind == "range")
    assert (ranged.values["low"], ranged.values["high"]) == (0.1, 0.4) == route.fitted
    width = next(entry.parameter for entry in indices(show) if entry.target == "ring.width")
    other, _ = apply(
        show, exchange(show, "r1", target=first.targets[0], by="ring.width", parameter=width, hand=0.02)
    )
    route = other.routes[0]
    assert route.targets == ["ring.width"] and route.shapers == first.shapers and route.high <= width.high


def test_typed_words_mean_the_look_that_is_shown_first():
    show = gallery_show()
    other = next(look for look in show.looks if look.id != show.look)
    unseen = {part.id for look in show.looks if look.id != show.look for part in look.parts()}
    found = understand("low feedback fade", signals(show), indices(show), part_names(show), unseen)
    shown = {part.id for part in show.shown().parts()}
    assert found[0].target.partition(".")[0] in shown
    assert part_names(show)[other.layers[0].mix.id].endswith(f"({other.name})")
    step = understand("kick ring radius by step", signals(show), indices(show), part_names(show))
    assert step[0].wish.way == "step" and step[0].target == "ring.radius"


@pytest.mark.parametrize(
    ("text", "target", "kinds", "ends"),
    [
        ("kick ring radius by step 1/16", "ring.radius", ["step"], None),
        ("snare ring radius by chance", "ring.radius", ["hold"], None),
        ("kick ring width from 0.05 to 0 in turn", "ring.width", ["cycle", "pulse"], (0.05, 0.001)),
        ("kick ring radius from .05 to .9 over 2 s in turn", "ring.radius", ["cycle", "pulse"], (0.05, 0.9)),
        ("kick ring radius by chance over 50 ms", "ring.radius", ["hold", "smooth"], None),
        ("level ring radius falling 600 ms to 1/2", "ring.radius", ["range", "smooth"], (0.3, 0.5)),
        ("level ring radius to 1/2", "ring.radius", ["range", "smooth"], (0.3, 0.5)),
        ("lfo 40 s ring turn", "ring.rotation", [], None),
        ("lfo 8 beats ring glow", "ring.glow", [], None),
    ],
)
def test_a_whole_sentence_is_typed(text, target, kinds, ends):
    show = starter_show("Night")
    found = understand(text, signals(show), indices(show), part_names(show))[0]
    assert found.target == target
    made = []
    signal, kind = found.signal, "modulator"
    if found.wish.every:
        edit, signal = new_swing(show, found.wish)
        show, made = apply(show, edit)[0], edit.item["part"]["values"]
        assert made in ({"by": "seconds", "rate": 1 / 40}, {"by": "beats", "beats": 8.0})
    else:
        kind = next(info.kind for info in signals(show) if info.id == signal)
    entry = next(entry for entry in indices(show) if entry.target == target)
    edit, _ = new_route(show, signal, kind, [target], entry.parameter, 0.3, wish=found.wish)
    route = apply(show, edit)[0].routes[-1]
    assert [part.kind for part in route.shapers] == kinds and route.signal == signal
    assert ends is None or (route.low, route.high) == pytest.approx(ends)
    values = [part.values for part in route.shapers]
    if "1/16" in text:
        assert values[0]["size"] == 1 / 16
    if "falling" in text:
        assert values[1]["release"] == 600.0
    if "over 50 ms" in text:
        assert (values[1]["attack"], values[1]["release"]) == (50.0, 50.0)
    if "over 2 s" in text:
        assert (values[1]["attack"], values[1]["decay"], values[1]["retrigger"]) == (2000.0, 0.0, False)


@pytest.mark.parametrize(("words", "way"), [("by step", "the next"), ("by chance", "another")])
def test_a_colour_is_taken_from_the_palette(words, way):
    show = starter_show("Night")
    found = understand(f"kick ring tint {words}", signals(show), indices(show), part_names(show))[0]
    entry = next(entry for entry in indices(show) if entry.target == found.target)
    assert entry.parameter.type == "colour"
    kind = next(info.kind for info in signals(show) if info.id == found.signal)
    edit, _ = new_route(show, found.signal, kind, [found.target], entry.parameter, "#ff8000", wish=found.wish)
    (shaper,) = apply(show, edit)[0].routes[-1].shapers
    assert (shaper.kind, shaper.values["way"]) == ("pick", way)


def test_only_what_such_a_route_can_do_is_taken_from_the_words():
    show = starter_show("Night")
    for text, says in {
        "beat phase ring radius over 2 s by step": "",
        "level ring radius by chance from 0.1 to 0.2": "from 0.1 to 0.2",
        "kick ring radius over 99 s": "over 10 s",
        "kick ring radius over 4 beats falling 300 ms": "over 4 beats, falling 300 ms",
        "lfo 900 s ring turn": "once in 100 s",
        f"kick ring radius to {'9' * 400}": "to 1e+09",
        "kick ring radius to 1/0": "to 1",
    }.items():
        found = understand(text, signals(show), indices(show), part_names(show))[0]
        assert found.wish.says() == says, text


def test_two_cycles_of_one_signal_take_turns_together():
    """A ring's width goes with its radius, also when the second route is made after some kicks."""
    shapers = [Part(id="c", kind="cycle"), Part(id="p", kind="pulse", values={"decay": 10_000})]
    names = [f"ring.{name}" for name in ("radius", "width", "glow")]
    others = [f"ring.{name}" for name in ("softness", "ripple", "level")]
    show = starter_show("Night")
    first = Route(id="a", signal="hit-kick", targets=names, low=0.0, high=1.0, shapers=shapers)
    other = Route(id="c", signal="hit-snare", targets=others, low=0.0, high=1.0, shapers=shapers)
    second = Route(id="b", signal="hit-kick", targets=others, low=0.0, high=1.0, shapers=shapers)
    router = Router()
    router.configure(show.model_copy(update={"routes": [first]}))
    kick = router.order["hit-kick"]

    def hit():
        values = np.zeros(len(router.signals))
        values[kick] = 1.0
        fell = np.zeros(len(router.signals), dtype=int)
        fell[kick] = 1
        router.tick(values, fell, TickContext())

    hit()
    router.configure(show.model_copy(update={"routes": [first, second]}))
    for number in range(4):
        hit()
        router.configure(show.model_copy(update={"routes": [first, second, other]}))
        turns = [runner.turns[0] for runner in router._recalled(router.runners)]
        assert turns[0] == turns[1] == 2 + number and turns[2] == 0


def test_a_cycle_of_one_stands_beside_other_routes_of_its_signal():
    """Made and taken over in any order, and as one whole show that is loaded."""
    pulse, cycle = Part(id="p", kind="pulse"), Part(id="c", kind="cycle")
    ends = {"signal": "hit-kick", "low": 0.0, "high": 1.0}
    plain = Route(id="a", targets=["ring.glow"], shapers=[pulse], **ends)
    turning = Route(id="b", targets=["ring.radius"], shapers=[cycle, pulse], **ends)
    show = starter_show("Night")
    for routes in ([plain, turning], [turning, plain]):
        router = Performer(show.model_copy(update={"routes": routes})).router
        assert [runner.cycles for runner in router.runners] == [bool(route is turning) for route in routes]
