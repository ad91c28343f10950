"""The document: every edit is validated, knows its way back, and breaks nothing."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fulgura.core.kinds.registry import FAMILIES, KindInfo
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, EditError, MoveItem, RemoveItem, SetValue, Together, apply
from fulgura.core.show.part import Part
from fulgura.core.show.starter import starter_show
from fulgura.demo.show import demo_show

EDITS = st.one_of(
    st.floats(0, 2).map(
        lambda v: SetValue(path="/looks/lantern-tunnel/layers/lantern/source/values/radius", value=v)
    ),
    st.sampled_from(["r1", "r2", "r3"]).map(lambda r: RemoveItem(path=f"/routes/{r}")),
    st.tuples(st.sampled_from(["r1", "r2", "r3"]), st.integers(0, 4)).map(
        lambda p: MoveItem(path=f"/routes/{p[0]}", index=p[1])
    ),
    st.integers(0, 999).map(
        lambda n: AddItem(
            path="/routes",
            item={"id": f"n{n}", "signal": "beat", "target": "ring.rotation", "low": 0, "high": 90},
        )
    ),
    st.sampled_from(["off", "all", "lights", "pictures"]).map(lambda v: SetValue(path="/blackout", value=v)),
)


@given(st.lists(EDITS, max_size=8))
@settings(max_examples=60)
def test_every_edit_can_be_taken_back(edits):
    show = start = demo_show()
    backwards = []
    for edit in edits:
        try:
            show, inverse = apply(show, edit)
        except EditError:
            continue
        backwards.append(inverse)
    for inverse in reversed(backwards):
        show, _ = apply(show, inverse)
    assert show == start


@pytest.mark.parametrize(
    ("edit", "words"),
    [
        (SetValue(path="/nothing/here", value=1), "no “nothing”"),
        (SetValue(path="/routes/r9/low", value=1), "no “r9”"),
        (
            SetValue(path="/looks/lantern-tunnel/layers/lantern/source/values/radius", value=99),
            "less than or equal to 2",
        ),
        (
            SetValue(path="/looks/lantern-tunnel/layers/lantern/source/values/radius", value=float("nan")),
            "finite",
        ),
        (
            SetValue(path="/looks/lantern-tunnel/layers/lantern/source/values/tint", value="red"),
            "six hex digits",
        ),
        (SetValue(path="/bands/low/high_hz", value=31), "end above its start"),
        (SetValue(path="/look", value="gone"), "no look"),
        (
            AddItem(
                path="/routes", item={"id": "r1", "signal": "beat", "target": "a.b", "low": 0, "high": 1}
            ),
            "two routes",
        ),
        (AddItem(path="/routes", item={"signal": "beat"}), "needs an id"),
        (AddItem(path="/name", item={"id": "x"}), "added to a list"),
        (RemoveItem(path="/name"), "Only items of a list"),
        (SetValue(path="/lamps/gallery-1/address", value=513), "less than or equal to 512"),
    ],
)
def test_a_wrong_edit_says_what_is_wrong_and_changes_nothing(edit, words):
    show = demo_show()
    with pytest.raises(EditError, match=words):
        apply(show, edit)
    assert show == demo_show()


def test_edits_together_are_made_all_or_none():
    good, bad = SetValue(path="/bands/low/low_hz", value=40), SetValue(path="/bands/low/high_hz", value=1)
    with pytest.raises(EditError):
        apply(demo_show(), Together(edits=[good, bad]))
    show, inverse = apply(demo_show(), Together(edits=[good, SetValue(path="/bands/low/high_hz", value=90)]))
    assert (show.bands[0].low_hz, show.bands[0].high_hz) == (40, 90)
    assert apply(show, inverse)[0] == demo_show()


def test_a_document_survives_being_written_and_read():
    for show in (demo_show(), starter_show("Mine")):
        assert Show.model_validate_json(show.model_dump_json()) == show


def test_missing_values_take_the_kinds_defaults():
    assert Part(id="a", kind="ring", values={"radius": 0.5}).values["width"] == 0.05


BARE = ("group", "so-far", "lost-lamp", "tap", "clear-feedback")
"""Kinds that are nothing but what they hold, or do."""


def test_every_kind_describes_every_parameter():
    for family in FAMILIES.values():
        for kind in family.kinds.values():
            info = KindInfo.of(kind)
            assert info.help and (info.parameters or kind.kind_name() in BARE), info.kind
            for parameter in info.parameters:
                assert parameter.help, f"{info.kind}.{parameter.name} has no help"
                if parameter.type == "number":
                    assert parameter.low is not None and parameter.low < parameter.high
                    assert parameter.low <= parameter.default <= parameter.high


def test_a_parameter_without_a_say_names_the_choice_it_hangs_on():
    """What the desk hides is declared with the parameter, and every such choice and value exists."""
    hanging = 0
    for kind in (kind for family in FAMILIES.values() for kind in family.kinds.values()):
        choices = {
            parameter.name: parameter.choices if parameter.type == "choice" else ["true", "false"]
            for parameter in kind.parameters()
            if parameter.type in ("choice", "toggle")
        }
        for parameter in kind.parameters():
            if parameter.when is not None:
                hanging += 1
                assert parameter.when[1] in choices[parameter.when[0]]
    assert hanging >= 4
