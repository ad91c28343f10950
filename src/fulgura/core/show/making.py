"""Edits that make or take away whole things of a show, with all that belongs to them.

The desk says what is wanted; what a new band, detector or route starts with, and what goes when a band goes,
is decided here. Each returns an edit, so that it is one step for undo like any other.
"""

from typing import Literal

from fulgura.core.parameters import Kind, Parameter
from fulgura.core.picture.kinds import Effect, Layering, Source
from fulgura.core.show.document import (
    MAIN,
    MOST_BANDS,
    MOST_CUES,
    MOST_INPUTS,
    MOST_LAYERS,
    Band,
    Chain,
    Cue,
    Layer,
    MixHow,
    Part,
    Route,
    Show,
)
from fulgura.core.show.edits import AddItem, Edit, EditError, RemoveItem, SetValue, Together, value_at
from fulgura.core.show.presets import lanes
from fulgura.core.signals.movers import Mover


def free_id(taken: list[str], stem: str) -> str:
    """The first of stem1, stem2, … that is not taken."""
    number = len(taken) + 1
    while f"{stem}{number}" in taken:
        number += 1
    return f"{stem}{number}"


def new_input(show: Show, name: str = "") -> tuple[AddItem, str]:
    """(the edit that opens one more input, its id); it begins with a live device. Raises EditError when no
    more can be open.
    """
    if len(show.inputs) == MOST_INPUTS:
        raise EditError(f"{MOST_INPUTS} inputs can be open at once. Close one first.", "/inputs")
    place = free_id([one.id for one in show.inputs], "input-")
    return (
        AddItem(
            path="/inputs",
            item={"id": place, "name": name or f"Input {place.removeprefix('input-')}", "use": "live"},
        ),
        place,
    )


def without_input(show: Show, place: str) -> Together:
    """The edit that closes an input, with its bands and detectors. Raises EditError for the main one or an
    unknown one.
    """
    if place == MAIN or place not in {one.id for one in show.inputs}:
        raise EditError(
            "The main input has to stay." if place == MAIN else f"There is no input “{place}” here any more.",
            f"/inputs/{place}",
        )
    gone = [RemoveItem(path=f"/hits/{hit.id}") for hit in show.hits if show.input_of(hit) == place]
    gone += [RemoveItem(path=f"/bands/{band.id}") for band in show.bands if band.input == place]
    return Together(edits=[*gone, RemoveItem(path=f"/inputs/{place}")])


def new_band(
    show: Show, low_hz: float, high_hz: float, name: str = "", place: str = MAIN
) -> tuple[AddItem, str]:
    """(the edit that adds a band to an input, its id); without a name it is numbered. Raises EditError when
    there are as many as there can be.
    """
    if len(show.bands) == MOST_BANDS:
        raise EditError(f"There can be {MOST_BANDS} bands. Remove one first.", "/bands")
    band = free_id([band.id for band in show.bands], "band-")
    item = {
        "id": band,
        "name": name or f"Band {band.removeprefix('band-')}",
        "input": place,
        "low_hz": low_hz,
        "high_hz": high_hz,
    }
    return AddItem(path="/bands", item=item), band


def own_hits(band: str) -> str:
    """Id of a band's own detector."""
    return f"{band}-hits"[-48:]


def catch_hits(show: Show, band: str, on: bool) -> Edit:
    """The edit that gives a band a detector of its own, or takes it away. Raises EditError for an unknown
    band.
    """
    _band_of(show, band)
    if on:
        return AddItem(path="/hits", item={"id": own_hits(band), "band": band})
    return RemoveItem(path=f"/hits/{own_hits(band)}")


def without_band(show: Show, band: str) -> Together:
    """The edit that takes a band away. Its own detector goes with it; a drum shown in its lane gets another
    lane.

    Raises EditError for an unknown band and for the last one.
    """
    gone = _band_of(show, band)
    rest = [one for one in show.bands if one is not gone and one.input == gone.input]
    if not rest and gone.input == MAIN:
        raise EditError("One band has to stay.", f"/bands/{band}")
    edits: list[Edit] = []
    for hit in (hit for hit in show.hits if hit.band == band):
        if hit.drum:
            edits.append(SetValue(path=f"/hits/{hit.id}/band", value=lanes(rest)[hit.drum] if rest else ""))
        else:
            edits.append(RemoveItem(path=f"/hits/{hit.id}"))
    return Together(edits=[*edits, RemoveItem(path=f"/bands/{band}")])


def new_route(
    show: Show,
    signal: str,
    kind: Literal["level", "hits", "phase", "descriptor", "mover"],
    targets: list[str],
    parameter: Parameter,
    hand: float | str | bool,
) -> tuple[AddItem, str]:
    """(the edit that adds a route, its id): a level is fitted and smoothed, a hit rings out, what is made
    already runs as it is.

    parameter, hand: of the first target. It is moved from its hand value toward the farther end of its range,
    a third of the way; a phase goes the whole range. Several targets take turns.
    """
    shapers = {"hits": ["pulse"], "mover": [], "phase": []}.get(kind, ["range", "smooth"])
    if len(targets) > 1 and kind == "hits":
        shapers.insert(0, "cycle")
    if parameter.type in ("toggle", "choice"):
        shapers = ["toggle" if parameter.type == "toggle" else "step"] if kind == "hits" else shapers
    low: float | str
    high: float | str
    if parameter.type == "colour":
        low, high = str(hand), "#ffffff"
    elif parameter.type == "choice":
        low, high = 0.0, float(len(parameter.choices) - 1)
    elif parameter.type != "number" or parameter.low is None or parameter.high is None:
        low, high = 0.0, 1.0
    elif kind == "phase":
        low, high = parameter.low, parameter.high
    else:
        low = float(hand)
        far = parameter.high if parameter.high - low >= low - parameter.low else parameter.low
        high = round(low + A_THIRD * (far - low), 4)
    route = free_id([route.id for route in show.routes], "r")
    item = {
        "id": route,
        "signal": signal,
        "targets": targets,
        "low": low,
        "high": high,
        "shapers": [{"id": name, "kind": name} for name in shapers],
    }
    return AddItem(path="/routes", item=item), route


A_THIRD = 1 / 3
"""Of the way that is left: a new route is seen at once, and breaks no picture."""


def new_mover(show: Show, kind: str, name: str = "") -> tuple[AddItem, str]:
    """(the edit that adds a mover, its id); without a name it is numbered. Raises EditError for an unknown
    kind.
    """
    if kind not in Mover.kinds:
        raise EditError(f"There is no mover called “{kind}”.", "/movers")
    mover = free_id([one.id for one in show.movers], "m")
    title = Mover.kinds[kind].title or Mover.kinds[kind].__name__
    item = {
        "id": mover,
        "name": name or f"{title} {mover.removeprefix('m')}",
        "part": {"id": f"mover-{mover}", "kind": kind},
    }
    return AddItem(path="/movers", item=item), mover


def mix_by(show: Show, target: str, how: MixHow) -> SetValue:
    """The edit that says how several routes on one parameter become one."""
    return SetValue(path="/mixes", value={**show.mixes, target: how})


def keep_chain(show: Show, route: Route, name: str) -> tuple[Together, str]:
    """(the edit that keeps a route's shapers under a name, the chain's id)."""
    chain = free_id([one.id for one in show.chains], "chain-")
    item = {"id": chain, "name": name, "shapers": [shaper.model_dump() for shaper in route.shapers]}
    return (
        Together(
            edits=[
                AddItem(path="/chains", item=item),
                SetValue(path=f"/routes/{route.id}/chain", value=chain),
            ]
        ),
        chain,
    )


def _chain(show: Show, chain: str) -> Chain:
    found = next((one for one in show.chains if one.id == chain), None)
    if found is None:
        raise EditError("Those saved shapers are not there any more.", f"/chains/{chain}")
    return found


def take_chain(show: Show, route: Route, chain: str) -> Together:
    """The edit that puts a saved chain's shapers in a route. Raises EditError when it is gone."""
    shapers = [shaper.model_dump() for shaper in _chain(show, chain).shapers]
    return Together(
        edits=[
            SetValue(path=f"/routes/{route.id}/shapers", value=shapers),
            SetValue(path=f"/routes/{route.id}/chain", value=chain),
        ]
    )


def users_of(show: Show, chain: str) -> list[Route]:
    """The routes that use a saved chain."""
    return [route for route in show.routes if route.chain == chain]


def with_chain(show: Show, chain: str, route: Route, users: bool) -> Together:
    """The edit that makes a route's shapers the saved chain; its users follow when users is true. Raises
    EditError when it is gone.
    """
    _chain(show, chain)
    shapers = [shaper.model_dump() for shaper in route.shapers]
    edits: list[Edit] = [
        SetValue(path=f"/chains/{chain}/shapers", value=shapers),
        SetValue(path=f"/routes/{route.id}/chain", value=chain),
    ]
    if users:
        edits += [
            SetValue(path=f"/routes/{one.id}/shapers", value=shapers)
            for one in users_of(show, chain)
            if one.id != route.id
        ]
    return Together(edits=edits)


def new_layer(show: Show, look: str, source: str, name: str = "") -> tuple[AddItem, str]:
    """(the edit that lays a new layer on top of a look, its id). Raises EditError for an unknown look or
    source, or when it is full.
    """
    found = next((one for one in show.looks if one.id == look), None)
    if found is None or source not in Source.kinds:
        raise EditError("There is no such look or source any more.", f"/looks/{look}")
    if len(found.layers) == MOST_LAYERS:
        raise EditError(
            f"A look has at most {MOST_LAYERS} layers. Remove one first.", f"/looks/{look}/layers"
        )
    taken = [layer.id for one in show.looks for layer in one.layers]
    layer = free_id(taken, "layer-")
    parts = [part.id for part in show.parts()]
    own, mix = free_id(parts, f"{source}-"), free_id(parts, "mix-")
    title = name or Source.kinds[source].title or Source.kinds[source].__name__
    # What covers the whole picture would hide everything: it is laid below, and light on top is added.
    covers = source in COVERING
    item = {
        "id": layer,
        "name": title,
        "source": {"id": own, "kind": source},
        "mix": {
            "id": mix,
            "kind": "over",
            "values": {"blend": "normal" if covers or source in OVER else "screen"},
        },
    }
    return AddItem(path=f"/looks/{look}/layers", item=item, index=0 if covers else None), layer


COVERING = ("plain", "gradient", "noise", "history")
"""Sources that leave nothing of what is below them."""
OVER = ("group", "again", "so-far", "lattice", "relief", "text")
"""Sources that are laid over what is below them: they are no light."""


def new_effect(show: Show, holder: str, kind: str) -> tuple[AddItem, str]:
    """(the edit that adds an effect at the end of a list of effects, its id). holder: the list's path. Raises
    EditError.
    """
    if kind not in Effect.kinds or not isinstance(value_at(show, holder), list):
        raise EditError("There is no such effect, or no such place for it.", holder)
    effect = free_id([part.id for part in show.parts()], f"{kind}-")
    return AddItem(path=holder, item={"id": effect, "kind": kind}), effect


def without_part(show: Show, path: str) -> Together:
    """The edit that takes a layer or an effect away, with every route that moves nothing else. Raises
    EditError for an unknown place.
    """
    thing = value_at(show, path)
    if not (isinstance(thing, Layer) or (isinstance(thing, Part) and thing.kind in Effect.kinds)):
        raise EditError("Only a layer or an effect can be taken away here.", path)
    gone = (
        {part.id for part in (thing.source, *thing.effects, thing.mix)}
        if isinstance(thing, Layer)
        else {thing.id}
    )
    edits = _still_parts(show, gone)
    if isinstance(thing, Layer):
        edits += _let_go_of(show, path, thing.id)
    return Together(edits=[*edits, RemoveItem(path=path)])


def without_look(show: Show, look: str) -> Together:
    """The edit that takes a look away, with the cues that go to it and every route that moves nothing else;
    when it is shown, its neighbour is.

    Raises EditError for an unknown look, and for the last one.
    """
    ids = [one.id for one in show.looks]
    if look not in ids or len(ids) == 1:
        raise EditError(
            "One look has to stay." if look in ids else "There is no such look any more.", f"/looks/{look}"
        )
    place = ids.index(look)
    edits = _still_parts(show, {part.id for part in show.looks[place].parts()})
    edits += [RemoveItem(path=f"/cues/{cue.id}") for cue in show.cues if cue.look == look]
    if show.beside == look:
        edits.append(SetValue(path="/beside", value=""))
    if show.look == look:
        edits.append(SetValue(path="/look", value=ids[place - 1] if place else ids[1]))
    return Together(edits=[*edits, RemoveItem(path=f"/looks/{look}")])


def _still_parts(show: Show, gone: set[str]) -> list[Edit]:
    """The edits by which no route moves these parts any more."""
    edits: list[Edit] = []
    for route in show.routes:
        rest = [target for target in route.targets if target.partition(".")[0] not in gone]
        if not rest:
            edits.append(RemoveItem(path=f"/routes/{route.id}"))
        elif len(rest) < len(route.targets):
            edits.append(SetValue(path=f"/routes/{route.id}/targets", value=rest))
    return edits


def layer_references(layer: Layer) -> list[tuple[Part, str]]:
    """(part, name of the parameter) wherever a layer reads another layer's picture."""
    return [
        (part, one.name)
        for part in layer.parts()
        for one in part.parameters()
        if one.type == "layer" and part.values[one.name]
    ]


def _let_go_of(show: Show, path: str, layer: str) -> list[Edit]:
    """The edits by which nothing in the look reads a layer any more, and what is in it as a group stands
    alone.
    """
    base = path.rpartition("/layers/")[0]
    look = value_at(show, base)
    edits: list[Edit] = []
    for other in look.layers:
        if other.id == layer:
            continue
        here = f"{base}/layers/{other.id}"
        if other.inside == layer:
            edits.append(SetValue(path=f"{here}/inside", value=""))
        for part, name in layer_references(other):
            if part.values[name] == layer:
                place = (
                    "source" if part is other.source else "mix" if part is other.mix else f"effects/{part.id}"
                )
                edits.append(SetValue(path=f"{here}/{place}/values/{name}", value=""))
    for part in look.finish:
        edits += [
            SetValue(path=f"{base}/finish/{part.id}/values/{one.name}", value="")
            for one in part.parameters()
            if one.type == "layer" and part.values[one.name] == layer
        ]
    return edits


def new_picture(show: Show, name: str, key: str, width: int, height: int) -> tuple[AddItem, str]:
    """(the edit that adds a picture to the show's, its id). Raises EditError when there are too many."""
    if len(show.pictures) == 200:
        raise EditError("A show has at most 200 pictures. Take one away first.", "/pictures")
    picture = free_id([one.id for one in show.pictures], "picture-")
    return (
        AddItem(
            path="/pictures",
            item={"id": picture, "name": name[:80], "key": key, "width": width, "height": height},
        ),
        picture,
    )


def new_clip(
    show: Show, name: str, key: str, width: int, height: int, frames: int, rate: float
) -> tuple[AddItem, str]:
    """(the edit that adds a film to the show's clips, its id). Raises EditError when there are too many."""
    if len(show.clips) == 200:
        raise EditError("A show has at most 200 clips. Take one away first.", "/clips")
    clip = free_id([one.id for one in show.clips], "clip-")
    item = {
        "id": clip,
        "name": name[:80],
        "key": key,
        "width": width,
        "height": height,
        "frames": frames,
        "rate": rate,
    }
    return AddItem(path="/clips", item=item), clip


def with_code(show: Show, path: str, code: str) -> Together:
    """The edit that gives a part another text: numbers and colours that it had before by the same name stay,
    others begin anew.

    Raises EditError when there is no such part, or it has no text.
    """
    part = value_at(show, path)
    if not isinstance(part, Part) or "code" not in part.values:
        raise EditError("Only an own shader has a text.", path)
    kind = part.family.kinds[part.kind]
    before = {one.title: part.values[one.name] for one in part.parameters() if one.size}
    edits: list[Edit] = [SetValue(path=f"{path}/values/code", value=code)]
    for one in kind.parameters_of({**part.values, "code": code}):
        if one.size:
            kept = before.get(one.title, one.default)
            if one.type == "number":
                kept = min(max(kept, one.low), one.high) if isinstance(kept, float | int) else one.default
            elif not isinstance(kept, str):
                kept = one.default
            edits.append(SetValue(path=f"{path}/values/{one.name}", value=kept))
    return Together(edits=edits)


def new_look(show: Show, name: str, of: str = "") -> tuple[Together, str]:
    """(the edit that adds a look and shows it, its id): empty, or a copy of another with the routes that move
    it.
    """
    look = free_id([one.id for one in show.looks], "look-")
    base = next((one for one in show.looks if one.id == of), None)
    if base is None:
        return (
            Together(
                edits=[
                    AddItem(path="/looks", item={"id": look, "name": name}),
                    SetValue(path="/look", value=look),
                ]
            ),
            look,
        )
    taken = [part.id for part in show.parts()]
    fresh: dict[str, str] = {}
    for part in base.parts():
        fresh[part.id] = free_id(taken, f"{part.kind}-")
        taken.append(fresh[part.id])
    item = base.model_dump() | {"id": look, "name": name}
    layers = [layer.id for one in show.looks for layer in one.layers]
    copied: dict[str, str] = {"": ""}
    for layer in base.layers:
        copied[layer.id] = free_id(layers, "layer-")
        layers.append(copied[layer.id])

    def copy(part: dict) -> None:
        for one in (
            next(family for family in (Source, Effect, Layering) if part["kind"] in family.kinds)
            .kinds[part["kind"]]
            .parameters()
        ):
            if one.type == "layer":
                part["values"][one.name] = copied.get(part["values"][one.name], "")
        part["id"] = fresh[part["id"]]

    for layer in item["layers"]:
        layer["id"], layer["inside"] = copied[layer["id"]], copied[layer["inside"]]
        for part in (layer["source"], layer["mix"], *layer["effects"]):
            copy(part)
    for part in item["finish"]:
        copy(part)
    edits: list[Edit] = [AddItem(path="/looks", item=item)]
    ids = [route.id for route in show.routes]
    for route in show.routes:
        targets = [
            f"{fresh[part]}.{name}"
            for part, _, name in (target.partition(".") for target in route.targets)
            if part in fresh
        ]
        if targets:
            id = free_id(ids, "r")
            ids.append(id)
            edits.append(AddItem(path="/routes", item=route.model_dump() | {"id": id, "targets": targets}))
    return Together(edits=[*edits, SetValue(path="/look", value=look)]), look


def new_cue(show: Show, over_beats: float, name: str = "") -> tuple[AddItem, str]:
    """(the edit that keeps the shown look as a cue, after the one that was recalled last; its id); without a
    name it is numbered.

    Raises EditError when no look is shown, or there are as many cues as there can be.
    """
    if not show.look:
        raise EditError("A cue goes to a look, and this show has none yet. Make a look first.", "/cues")
    if len(show.cues) == MOST_CUES:
        raise EditError(f"A show has at most {MOST_CUES} cues. Take one away first.", "/cues")
    ids = [cue.id for cue in show.cues]
    cue = free_id(ids, "cue-")
    return (
        AddItem(
            path="/cues",
            item={
                "id": cue,
                "name": name or f"Cue {cue.removeprefix('cue-')}",
                "look": show.look,
                "over_beats": over_beats,
            },
            index=ids.index(show.cue) + 1 if show.cue in ids else None,
        ),
        cue,
    )


def recall_cue(show: Show, cue: str) -> tuple[Together, Cue]:
    """(the edit that recalls a cue, the cue); an empty id means the one after that which was recalled last.

    Raises EditError when it is gone, or none comes after.
    """
    ids = [one.id for one in show.cues]
    place = ids.index(cue) if cue in ids else None
    if not cue:
        place = ids.index(show.cue) + 1 if show.cue in ids else 0
    if place is None or place >= len(ids):
        raise EditError(
            (
                "That cue is not there any more."
                if cue
                else "That was the last cue."
                if ids
                else "There are no cues yet: keep the shown look as one."
            ),
            f"/cues/{cue}",
        )
    found = show.cues[place]
    return (
        Together(edits=[SetValue(path="/cue", value=found.id), SetValue(path="/look", value=found.look)]),
        found,
    )


def bind(show: Show, source: str, target: str) -> Together:
    """The edit that lets a fader move a number over the whole range that is declared for it; another fader
    that did is let go.

    Raises EditError when the place is not a number with a range.
    """
    holder, _, name = target.rpartition("/")
    whole = value_at(show, holder.removesuffix("/values"))
    kind = (
        type(whole)
        if isinstance(whole, Kind)
        else (
            whole.family.kinds[whole.kind] if isinstance(whole, Part) and holder.endswith("/values") else None
        )
    )
    parameter = (
        next((one for one in kind.parameters() if one.name == name), None) if kind is not None else None
    )
    if parameter is None or parameter.type != "number" or parameter.low is None or parameter.high is None:
        raise EditError("A fader can only move a number that has a range.", target)
    gone: list[Edit] = [
        RemoveItem(path=f"/controls/{one.id}") for one in show.controls if one.target == target
    ]
    item = {
        "id": free_id([one.id for one in show.controls], "control-"),
        "source": source,
        "target": target,
        "low": parameter.low,
        "high": parameter.high,
    }
    return Together(edits=[*gone, AddItem(path="/controls", item=item)])


def _band_of(show: Show, band: str) -> Band:
    found = next((one for one in show.bands if one.id == band), None)
    if found is None:
        raise EditError(
            f"There is no band “{band}” here any more; someone may have removed it.", f"/bands/{band}"
        )
    return found
