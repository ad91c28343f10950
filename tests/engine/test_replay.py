"""A performance replayed gives the same frames, bit for bit: ten minutes of sound and hands, live and
offline.
"""

from concurrent.futures import ProcessPoolExecutor
from hashlib import sha256
from pathlib import Path

import numpy as np

from fulgura.core import wire
from fulgura.core.clock import BLOCK, blocks_due
from fulgura.core.performer import Performer
from fulgura.core.show.commands.presets import keep, recall
from fulgura.core.show.document import Show
from fulgura.core.show.edits import EditError, SetValue
from fulgura.core.show.events import BeatTurned, EditMade, OverrideReleased, OverrideSet
from fulgura.core.synthesis.house_band import HouseBand
from fulgura.demo.show import demo_show
from fulgura.engine.main import Engine

MINUTES = 10
FRAMES = MINUTES * 3600


def hands(seed: int) -> dict[int, list]:
    """What a performer does in ten minutes, by frame: edits, glides, grabs, taps on the beat; some of it
    makes no sense.
    """
    rng = np.random.default_rng(seed)
    done: dict[int, list] = {}
    for frame in sorted(rng.integers(10, FRAMES, 400).tolist()):
        x = float(rng.random())
        event = [
            EditMade(edit=SetValue(path="/routes/r1/high", value=0.4 + x)),
            EditMade(
                edit=SetValue(path="/routes/r1/shapers/smooth/values/release", value=round(900 * x, 1)),
                glide_ms=300,
            ),
            EditMade(edit=SetValue(path="/modulators/tide/part/values/beats", value=1.0 + 8 * x)),
            EditMade(edit=SetValue(path="/routes/r3/muted", value=x > 0.5), glide_beats=1.0),
            OverrideSet(target="ring.radius", value=x),
            OverrideSet(target="feedback.rotation"),
            OverrideReleased(glide_ms=500 * x),
            BeatTurned(what="nudge", value=0.01),
            OverrideSet(target="gone.x", value=1),
            EditMade(edit=SetValue(path="/routes/none/high", value=1)),
        ][int(rng.integers(10))]
        done.setdefault(frame, []).append(event)
    return done


def act(performer: Performer, events: list) -> None:
    for event in events:
        try:
            performer.act(event)
        except EditError:
            pass


def house_show() -> Show:
    show = demo_show()
    return show.model_copy(update={"inputs": [show.inputs[0].model_copy(update={"use": "house"})]})


def played_live(folder: Path, recorded: dict[int, list]) -> str:
    """The engine's own tick with its input, its commands, and blocks as its clock asks for them; hash of all
    that it published.
    """
    engine = Engine(folder, folder)
    try:
        engine.obey([{"do": "show", "show": house_show().model_dump(), "revision": 1}])
        published: list[bytes] = []
        engine.bus.publish = lambda topic, message: published.append(message) if topic == b"F" else None
        live, heard = sha256(), 0
        for number in range(1, FRAMES + 1):
            revision = engine.revision
            for event in recorded.get(number, []):
                if isinstance(event, EditMade):
                    engine.obey(
                        [
                            {
                                "do": "edit",
                                "event": event.model_dump(),
                                "from": engine.revision,
                                "revision": engine.revision + 1,
                            }
                        ]
                    )
                else:
                    engine.obey([{"do": "event", "event": event.model_dump()}])
            assert engine.revision >= revision
            due = blocks_due(number) - heard
            heard += due
            engine.due_at = []
            engine._tick(due, 0.0)
            live.update(published.pop())
    finally:
        engine.bus.close()
    return live.hexdigest()


def played_again(recorded: dict[int, list]) -> str:
    """The performer alone, fed with the same sound and the same overrides."""
    show = house_show()
    performer, band, again, heard = Performer(show), HouseBand(show.seed), sha256(), 0
    for number in range(1, FRAMES + 1):
        act(performer, recorded.get(number, []))
        while heard < blocks_due(number):
            performer.hear(band.block(show.input.house))
            heard += 1
        again.update(wire.encode(performer.packet(performer.tick())))
    return again.hexdigest()


def test_ten_minutes_replayed_are_the_same_frames(tmp_path):
    recorded = hands(7)
    with ProcessPoolExecutor(2) as pool:
        live, again = pool.submit(played_live, tmp_path, recorded), pool.submit(played_again, recorded)
        assert live.result() == again.result()


def test_a_preset_recalled_with_a_glide_is_replayed_too():
    def play() -> str:
        performer, sums = Performer(demo_show()), sha256()
        noise = np.random.default_rng(1).standard_normal(BLOCK) * 0.1
        edit, preset = keep(performer.show, "layer", "lantern", "Now")
        for number in range(1, 240):
            if number == 30:
                performer.act(EditMade(edit=edit))
            if number == 60:
                performer.act(
                    EditMade(
                        edit=SetValue(
                            path="/looks/lantern-tunnel/layers/lantern/source/values/radius", value=1.5
                        )
                    )
                )
            if number == 120:
                performer.act(
                    EditMade(edit=recall(performer.show, performer.show.presets[0]), glide_beats=2.0)
                )
            performer.hear(noise)
            sums.update(wire.encode(performer.packet(performer.tick())))
        return sums.hexdigest()

    assert play() == play()
