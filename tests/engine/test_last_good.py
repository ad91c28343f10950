"""No edit and no stored show ends the engine: what it cannot play is left out, and said."""

import time

import pytest

from fulgura.core.clock import blocks_due
from fulgura.core.show.edits import SetValue, apply
from fulgura.core.show.events import EditMade
from fulgura.demo.show import demo_show
from fulgura.engine.handover import parts_of
from fulgura.engine.kept_state import keep
from fulgura.engine.last_good import playable
from fulgura.engine.light_outputs import LightOutputs
from fulgura.engine.main import Engine

HOST = "/light_outputs/output-1/host"


@pytest.fixture
def show():
    made = demo_show()
    return made.model_copy(update={"inputs": [made.inputs[0].model_copy(update={"use": "house"})]})


@pytest.fixture
def engine(tmp_path, show, monkeypatch):
    """One whose lights raise what nobody expects of an address."""
    configure = LightOutputs.configure

    def raising(self, outputs, settings):
        if any(output.host == "66.6.6.6" for output in outputs):
            raise RuntimeError("never heard of it")
        configure(self, outputs, settings)

    monkeypatch.setattr(LightOutputs, "configure", raising)
    made = Engine(tmp_path, tmp_path, tmp_path / "state")
    made.obey([{"do": "show", "show": show.model_dump(), "revision": 1}])
    play(made, 1, 30)
    keep(tmp_path / "state", parts_of(made))
    yield made
    made.lights.close()
    made.bus.close()


def play(engine, first, count):
    for number in range(first, first + count):
        engine.due_at, engine.next_due = [], time.monotonic()
        engine._tick(blocks_due(number) - blocks_due(number - 1), number / 60)


def edit(engine, path, value):
    event = EditMade(edit=SetValue(path=path, value=value)).model_dump()
    engine.obey([{"do": "edit", "event": event, "from": engine.revision, "revision": engine.revision + 1}])


def test_an_edit_that_cannot_be_played_is_left_out_and_said(engine, show, capsys):
    number = engine.performer.number
    edit(engine, HOST, "66.6.6.6")
    assert engine.revision == 2 and "never heard of it" in engine.unplayed
    assert "Traceback" in capsys.readouterr().err
    assert engine.performer.show == show and engine.performer.number >= number, "it goes on as it was"
    play(engine, 31, 30)
    # The next edit asks for the whole show, which may be playable again.
    edit(engine, "/sound_amount", 0.5)
    assert engine.revision == -1
    good, _ = apply(show, SetValue(path="/sound_amount", value=0.5))
    engine.obey([{"do": "show", "show": good.model_dump(), "revision": 4}])
    assert engine.unplayed == "" and engine.performer.show == good and engine.revision == 4


def test_a_stored_show_opens_without_the_part_that_cannot_be_played(engine, show):
    bad, _ = apply(show, SetValue(path=HOST, value="66.6.6.6"))
    engine.obey([{"do": "show", "show": bad.model_dump(), "revision": 9}])
    assert "/light_outputs/output-1" in engine.unplayed and engine.revision == 9
    assert engine.performer.show.looks == show.looks and engine.performer.show.light_outputs == []
    play(engine, 61, 10)


def test_a_tick_that_fails_is_passed_over_and_a_run_of_them_ends_the_process(engine, monkeypatch):
    error = ZeroDivisionError("in the middle of a tick")
    number = engine.performer.number
    engine.commands.fall_back(error, engine.revision)
    assert "in the middle of a tick" in engine.unplayed and engine.performer.number == number
    with pytest.raises(ZeroDivisionError):
        for _ in range(30):
            engine.commands.fall_back(error, engine.revision)


def test_what_is_left_out_is_as_little_as_can_be(show):
    wanted = show.routes[1].id
    taken = []

    def take(trial):
        if any(route.id == wanted for route in trial.routes):
            raise RuntimeError
        taken.append(trial)

    found, bad = playable(show, take)
    assert bad == [f"/routes/{wanted}"] and taken[-1] is found
    assert [route.id for route in found.routes] == [r.id for r in show.routes if r.id != wanted]
