"""Shows of before are read: nothing that was saved is lost because a word changed."""

import json
from pathlib import Path

import pytest
from pydantic import TypeAdapter

from fulgura.core.show.document import Show
from fulgura.core.show.edits import Edit, apply
from fulgura.core.show.migrate import migrate, migrate_edit
from fulgura.demo.show import demo_show, gallery_show

OLD = json.loads((Path(__file__).parents[1] / "vectors" / "show-before.json").read_text())
"""The demo show as the version before wrote it, with a preset of each scope."""
EDIT: TypeAdapter[Edit] = TypeAdapter(Edit)


def test_the_demo_of_before_is_the_demo_of_today():
    then, now = Show.model_validate(migrate(OLD)), gallery_show()
    # Looks of overlays came later.
    assert then.looks == now.looks[: len(then.looks)]
    for name in ("bands", "hits", "crossfade", "tempo"):
        assert getattr(then, name) == getattr(now, name), name
    # Today's demo has a rig; what was there before it stands first.
    assert then.routes == now.routes[: len(then.routes)] and then.lamps == demo_show().lamps
    assert [(cue.name, cue.look) for cue in then.cues] == [(cue.name, cue.look) for cue in now.cues]
    assert [(cue.over.amount, cue.over.unit) for cue in then.cues] == [
        (cue["over_beats"], "beats") for cue in OLD["cues"]
    ]
    # What hands play stands behind what was there before.
    assert [modulator.part.values for modulator in then.modulators] == [
        modulator.part.values for modulator in now.modulators[: len(then.modulators)]
    ]
    edit = migrate_edit(json.dumps({"edit": "set", "path": "/cues/cue-2/over_beats", "value": 2.0}))
    assert apply(then, EDIT.validate_json(edit))[0].cues[1].over.amount == 2.0


def test_the_light_output_of_before_is_the_first_of_today():
    show = Show.model_validate(
        migrate({**OLD, "light_output": {"host": "10.0.0.9", "port": 5570, "priority": 7}})
    )
    (output,) = show.light_outputs
    assert (output.id, output.protocol, output.host, output.port) == ("output-1", "sacn", "10.0.0.9", 5570)
    edit = migrate_edit(json.dumps({"edit": "set", "path": "/light_output/priority", "value": 90}))
    assert apply(show, EDIT.validate_json(edit))[0].light_outputs[0].priority == 90


def test_presets_of_before_keep_what_they_held():
    show = Show.model_validate(migrate(OLD))
    by_scope = {preset.scope: preset for preset in show.presets}
    assert by_scope["parameter"].address == "feedback.rotation"
    assert by_scope["part"].kind == "effect feedback" and "feedback.rotation" in by_scope["part"].values
    assert show.chosen == {"part feedback": by_scope["part"].id}


def test_a_document_of_today_comes_out_as_it_went_in():
    document = gallery_show().model_dump(mode="json")
    assert migrate(document) == document
    assert migrate(migrate(OLD)) == migrate(OLD)


@pytest.mark.parametrize(
    ("before", "path", "value"),
    [
        ({"path": "/movers/tide/part/values/beats", "value": 3.0}, "/modulators/tide/part/values/beats", 3.0),
        ({"path": "/blackout", "value": True}, "/blackout", "all"),
        (
            {"path": "/looks/lantern-tunnel/layers/lantern/effects/feedback/values/turn", "value": 2.0},
            "/looks/lantern-tunnel/layers/lantern/effects/feedback/values/rotation",
            2.0,
        ),
        ({"path": "/crossing/values/share", "value": 0.5}, "/crossfade/values/share", 0.5),
        ({"path": "/routes/r4/targets", "value": ["feedback.turn"]}, "/routes/r4/targets", None),
    ],
)
def test_edits_of_before_can_still_be_undone(before, path, value):
    edit = EDIT.validate_json(migrate_edit(json.dumps({"edit": "set", **before})))
    assert edit.path == path and (value is None or edit.value == value)
    apply(gallery_show(), edit)


def test_a_limiter_goes_on_having_a_rise():
    shaper = {"id": "l", "kind": "limit", "values": {"rise": 2.0}}
    route = {"id": "r", "signal": "mover-x", "targets": ["a.up"], "low": 0, "high": 1, "shapers": [shaper]}
    now = migrate({"routes": [route]})["routes"][0]
    assert now["shapers"][0]["values"] == {"rise": 2.0}
    assert (now["signal"], now["targets"]) == ("modulator-x", ["a.y"])
