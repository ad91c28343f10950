"""Kinds: families do not share their names, and a name stands once in each."""

import subprocess
import sys

import pytest

from fulgura.core.kinds.drawn import Effect
from fulgura.core.kinds.parameters import Number, param
from fulgura.core.kinds.registry import FAMILIES
from fulgura.core.kinds.shaper import Shaper
from fulgura.core.performer import Performer
from fulgura.core.show.kind_looks import FAMILIES as LOOKED_AT
from fulgura.core.show.kind_looks import kind_show
from fulgura.core.show.looks import Layer
from fulgura.core.show.part import Part
from fulgura.core.show.routes import Route
from fulgura.folders import ROOT


@pytest.fixture
def gain_effect():
    """An effect that is called like a shaper."""

    class Gain(Effect):
        """More or less light."""

        shader = "copy.frag"
        amount: Number = param(1.0, 0.0, 4.0, "How much light")

    yield Gain
    del Effect.kinds["gain"]


def test_an_effect_called_like_a_shaper_changes_no_saved_route(gain_effect):
    """Where a part stands says its family: documents of before named only the kind."""
    shaper = {"id": "g", "kind": "gain", "values": {"gain": 2.0}}
    route = Route.model_validate(
        {"id": "r", "signal": "level", "targets": ["a.b"], "low": 0, "high": 1, "shapers": [shaper]}
    )
    assert route.shapers[0].kind_class is Shaper.kinds["gain"]
    effect = {"id": "e", "kind": "gain", "values": {"amount": 0.5}}
    layer = Layer.model_validate(
        {
            "id": "l",
            "name": "L",
            "source": {"id": "s", "kind": "ring"},
            "effects": [effect],
            "mix": {"id": "m", "kind": "over"},
        }
    )
    assert layer.effects[0].kind_class is gain_effect and layer.effects[0].values == {"amount": 0.5}


def test_a_part_on_its_own_must_say_which_of_two_is_meant(gain_effect):
    with pytest.raises(ValueError, match="say which is meant"):
        Part(id="g", kind="gain")
    assert Part(id="g", family="effect", kind="gain").values == {"amount": 1.0}


def test_a_part_in_the_wrong_place_is_refused():
    with pytest.raises(ValueError, match="is not a source"):
        Layer(id="l", name="L", source=Part(id="s", kind="blur"), mix=Part(id="m", kind="over"))


def test_a_second_kind_of_one_name_in_one_family_is_refused_when_it_is_declared():
    before = Effect.kinds["bloom"]
    with pytest.raises(TypeError, match="two kinds called “bloom”"):

        class Bloom(Effect):
            """Another."""

            shader = "copy.frag"

    assert Effect.kinds["bloom"] is before


def test_every_kind_is_found_under_its_own_name():
    for name, family in FAMILIES.items():
        for kind_name, kind in family.kinds.items():
            assert kind.family == name and kind.kind_name() == kind_name


@pytest.mark.parametrize(("family", "kind"), [(f, k) for f, base in LOOKED_AT.items() for k in base.kinds])
def test_every_source_and_effect_has_a_look_that_shows_it(family, kind):
    show = kind_show(family, kind)
    assert Performer(show).plan.passes and "shown" in {part.id for part in show.parts()}


def test_a_kind_that_is_not_there_has_no_look():
    with pytest.raises(KeyError):
        kind_show("effect", "nothing")
    with pytest.raises(KeyError):
        kind_show("shaper", "smooth")


@pytest.mark.parametrize(("family", "kind"), [(f, k) for f, base in LOOKED_AT.items() for k in base.kinds])
def test_what_is_worked_out_once_a_vertex_has_left_every_pixels_text(family, kind):
    """A line that begins with ``once``, however long it is wrapped, is not left for a compiler to refuse."""
    texts = Performer(kind_show(family, kind)).plan.texts
    assert not [line for text in texts.values() for line in text.splitlines() if line.startswith("once ")]


def test_every_shaper_has_its_place_whatever_is_imported_first():
    script = (
        "from fulgura.core.routing import run; from fulgura.core.kinds.shaper import Shaper;"
        "import fulgura.core.show.document; assert set(run.KIND) == set(Shaper.kinds)"
    )
    done = subprocess.run([sys.executable, "-c", script], env={"PYTHONPATH": "src"}, cwd=ROOT)
    assert done.returncode == 0
