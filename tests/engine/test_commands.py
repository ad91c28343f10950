"""What the engine is told, when there is more of it than time."""

import time

import pytest

from fulgura.demo.show import demo_show
from fulgura.engine.commands import MOST_WAITING
from fulgura.engine.main import Engine

LAYER = demo_show().looks[0].layers[0]
PATH = f"/looks/{demo_show().looks[0].id}/layers/{LAYER.id}/source/values/width"
WIDTH = f"{LAYER.source.id}.width"


@pytest.fixture
def engine(tmp_path):
    made = Engine(tmp_path, tmp_path)
    made.bus.publish = lambda topic, message: None
    made.obey([{"do": "show", "show": demo_show().model_dump(), "revision": 1}])
    yield made
    made.lights.close()
    made.bus.close()


def edit(number):
    made = {"edit": "set", "path": PATH, "value": 0.1 + number / 1000}
    event = {"event": "edit-made", "edit": made}
    return {"do": "edit", "event": event, "from": number, "revision": number + 1}


def width(engine):
    return engine.performer.show.looks[0].layers[0].source.values["width"]


def test_edits_wait_for_time_and_hands_do_not(engine):
    engine.obey([edit(number) for number in range(1, 11)], until=0.0)
    assert engine.revision == 1 and len(engine.commands.waiting) == 10
    held = {"event": "override-set", "target": WIDTH, "value": 0.7}
    engine.obey([{"do": "event", "event": held}], until=0.0)
    assert WIDTH in engine.performer.router.overrides.active
    engine.obey([], until=time.monotonic() + 0.0001)
    assert 2 <= engine.revision < 11, "one at least, and no more than there is time for"
    engine.obey([])
    assert engine.revision == 11 and width(engine) == pytest.approx(0.11)


def test_an_edit_that_is_made_gives_no_leave_to_hang(engine, monkeypatch):
    said = []
    monkeypatch.setattr(engine.heart, "say", said.append)
    engine.obey([edit(1)])
    assert said[0].startswith("EXTEND_TIMEOUT_USEC") and said[-1] == "WATCHDOG=1"


def test_a_tick_comes_between_edits(engine):
    engine.obey([edit(number) for number in range(1, 41)], until=0.0)
    ticks = 0
    while engine.commands.waiting:
        engine._tick(1, time.monotonic())
        ticks += 1
    assert ticks >= 8 and engine.revision == 41


def test_more_than_can_be_made_is_left_for_the_whole_show(engine):
    engine.obey([edit(number) for number in range(1, MOST_WAITING + 2)], until=0.0)
    assert engine.revision == -1 and not engine.commands.waiting


def test_a_show_takes_the_place_of_all_before_it(engine):
    show = demo_show().model_copy(update={"name": "Later"})
    late = {"do": "show", "show": show.model_dump(), "revision": 20}
    engine.obey([edit(1), edit(2)], until=0.0)
    engine.obey([edit(3), late, edit(20)])
    assert engine.performer.show.name == "Later" and engine.revision == 21


@pytest.mark.parametrize("value", [2, None, [1], "@", "@x", "#12", {"a": 1}, 1e999, "red"])
def test_no_value_that_a_page_says_ends_the_engine(engine, value, capfd):
    for target in (f"{LAYER.source.id}.tint", f"{LAYER.source.id}.shape", WIDTH, "gone.x"):
        held = {"event": "override-set", "target": target, "value": value}
        engine.obey([{"do": "event", "event": held}])
        engine._tick(1, time.monotonic())
    assert "Traceback" not in capfd.readouterr().err
