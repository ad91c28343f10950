"""Documents and edits of before, in the words of today. Nothing that was saved is lost when a word changes.

A document is a tree of plain values. Only what older versions wrote is changed; a document of today comes out
as it went in.
"""

import json
import re
from typing import Any

from fulgura.core.kinds.registry import FAMILIES

Tree = dict[str, Any]

PARAMETERS = {
    "across": "x",
    "up": "y",
    "turn": "rotation",
    "beyond": "wrap",
    "orbit": "azimuth",
    "rise": "elevation",
    "lens": "field_of_view",
    "rough": "roughness",
    "metal": "metallic",
    "key_turn": "key_azimuth",
    "key_rise": "key_elevation",
    "orbit_2": "azimuth_2",
    "rise_2": "elevation_2",
    "lens_2": "field_of_view_2",
    "anchor_across": "anchor_x",
    "anchor_up": "anchor_y",
    "pull_across": "pull_x",
    "pull_up": "pull_y",
}
"""Names of parameters. The shaper “limit” goes on having a rise."""
KINDS = {"plain": "solid", "sum": "formula", "crossing": "look-crossfade"}
LISTS = {"movers": "modulators", "controls": "mappings", "crossing": "crossfade"}
"""Places at the document's root."""
_KEEPS_ITS_NAMES = {"limit"}


def migrate(document: Tree) -> Tree:
    """A show's document as it is written today.

    >>> migrate({"name": "Old", "movers": [], "blackout": True})
    {'name': 'Old', 'modulators': [], 'blackout': 'all'}
    """
    document = {LISTS.get(name, name): value for name, value in document.items()}
    if isinstance(document.get("blackout"), bool):
        document["blackout"] = "all" if document["blackout"] else "off"
    if isinstance(crossfade := document.get("crossfade"), dict) and crossfade.get("id") == "crossing":
        document["crossfade"] = {**crossfade, "id": "crossfade"}
    if isinstance(only := document.pop("light_output", None), dict) and "light_outputs" not in document:
        document["light_outputs"] = [{"id": "output-1", "name": "Lamps", **only}]
    if "lamps" in document:
        document["lamps"] = [_lamp(lamp) for lamp in document["lamps"]]
    for preset in document.get("presets", []):
        _preset(preset)
    if isinstance(chosen := document.get("chosen"), dict):
        document["chosen"] = {_chosen(where): preset for where, preset in chosen.items()}
    if isinstance(mixes := document.get("mixes"), dict):
        document["mixes"] = {_address(target): how for target, how in mixes.items()}
    _floors(document)
    return {name: _value(value) for name, value in document.items()}


def _floors(document: Tree) -> None:
    """In place: routes to floors of what draws sound, which were shares and are decibels."""
    sources = [
        layer.get("source", {}) for look in document.get("looks", []) for layer in look.get("layers", [])
    ]
    shares = {
        f"{source.get('id')}.floor"
        for source in sources
        if source.get("kind") in ("spectrum", "history")
        and source.get("values", {}).get("floor", -1.0) >= 0.0
    }
    for route in document.get("routes", []):
        if shares & set(route.get("targets", [])):
            route |= {end: _floor_db(route[end]) for end in ("low", "high") if isinstance(route[end], float)}


def _lamp(lamp: Tree) -> Tree:
    """A lamp whose kind is gone stays, as one that sends nothing."""
    fixture = lamp.get("fixture")
    if not isinstance(fixture, dict) or fixture.get("kind") in FAMILIES["fixture"].kinds:
        return lamp
    lost = {
        "id": fixture["id"],
        "family": "fixture",
        "kind": "lost-lamp",
        "values": {"was": str(fixture["kind"])},
    }
    return {**lamp, "mode": "", "pixels": 0, "parked": {}, "fixture": lost}


def migrate_edit(text: str) -> str:
    """An edit as JSON text, as it is written today."""
    return json.dumps(_edit(json.loads(text)), ensure_ascii=False)


def _edit(edit: Tree) -> Tree:
    edit = dict(edit)
    if "edits" in edit:
        edit["edits"] = [_edit(part) for part in edit["edits"]]
    if "path" in edit:
        edit["path"] = _path(edit["path"])
        if edit["path"] == "/blackout" and isinstance(edit.get("value"), bool):
            edit["value"] = "all" if edit["value"] else "off"
        if edit["path"] == "/presets" and isinstance(edit.get("item"), dict):
            _preset(edit["item"])
    for name in ("value", "item"):
        if name in edit:
            edit[name] = _value(edit[name])
    return edit


def _path(path: str) -> str:
    """A path of the document: its root, and the parameter that it ends in."""
    steps = path.strip("/").split("/")
    if steps[0] == "light_output":
        steps[:1] = ["light_outputs", "output-1"]
    steps[0] = LISTS.get(steps[0], steps[0])
    if steps[0] == "cues" and steps[-1] == "over_beats":
        steps[-1:] = ["over", "amount"]
    if len(steps) > 2 and steps[-2] == "values" and "shapers" not in steps:
        steps[-1] = PARAMETERS.get(steps[-1], steps[-1])
    return "/" + "/".join(steps)


def _value(value: Any) -> Any:
    """Any part of a document: parts, routes and references to signals that lie in it."""
    if isinstance(value, list):
        return [_value(item) for item in value]
    if not isinstance(value, dict):
        return value
    value = {name: _value(item) for name, item in value.items()}
    if isinstance(value.get("values"), dict) and "kind" in value and "scope" not in value:
        value = _part(value)
    if isinstance(signal := value.get("signal"), str):
        value["signal"] = _signal(signal)
    if isinstance(targets := value.get("targets"), list):
        value["targets"] = [_address(target) for target in targets]
    if isinstance(target := value.get("target"), str):
        value["target"] = _path(target) if target.startswith("/") else _address(target)
    return value


def _part(part: Tree) -> Tree:
    kind = KINDS.get(part["kind"], part["kind"])
    values = {
        name if kind in _KEEPS_ITS_NAMES else PARAMETERS.get(name, name): (
            _signal(value) if isinstance(value, str) else value
        )
        for name, value in part["values"].items()
    }
    if kind == "shape" and "wide" not in values and "sides" in values:
        turned = float(values.get("rotation", 0.0)) + _onto_a_corner(float(values["sides"]))
        values["rotation"] = (turned + 180.0) % 360.0 - 180.0
    if kind in ("spectrum", "history") and (share := float(values.get("floor", -1.0))) >= 0.0:
        values["floor"] = _floor_db(share)
    if kind == "spectrum" and values.get("mirrored") is False and "grows" not in values:
        values["grows"] = "upward"
    if kind == "history" and "bins" not in values:
        values["fall"] = 0.0
    return {**part, "kind": kind, "values": values}


def _floor_db(share: float) -> float:
    """What was a share of the way from -90 dBFS to full scale."""
    return round(90.0 * share - 90.0, 2)


def _onto_a_corner(sides: float) -> float:
    """Degrees of a shape that stood on a corner. What has even sides stands on a side today."""
    corners = round(sides)
    return 180.0 / corners if corners % 2 == 0 and corners < 12 else 0.0


def _preset(preset: Tree) -> None:
    """In place: values by address, the address itself, and a part's kind with its family."""
    if "place" in preset:
        preset["address"] = preset.pop("place")
    scope, address = preset.get("scope"), preset.get("address", "")
    if scope in ("parameter", "part"):
        preset["address"] = _address(address)
    preset["values"] = {_address(target): value for target, value in preset.get("values", {}).items()}
    kind = preset.get("kind", "")
    if scope == "part" and " " not in kind:
        kind = KINDS.get(kind, kind)
        families = [name for name, family in FAMILIES.items() if kind in family.kinds]
        preset["kind"] = f"{families[0]} {kind}" if families else kind


def _chosen(where: str) -> str:
    """Scope and address of what was recalled."""
    scope, _, address = where.partition(" ")
    return f"{scope} {_address(address)}" if scope in ("parameter", "part") else where


def _address(target: str) -> str:
    """A parameter's address, or a part's id."""
    part, dot, name = target.partition(".")
    part = "crossfade" if part == "crossing" else part
    return f"{part}{dot}{PARAMETERS.get(name, name)}"


def _signal(signal: str) -> str:
    return re.sub(r"^mover-", "modulator-", signal)
