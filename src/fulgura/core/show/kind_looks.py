"""Looks that show what a source or an effect does: what a chooser's small pictures are drawn from."""

from fulgura.core.kinds.drawn import Drawn, Effect, Source
from fulgura.core.show.document import Show
from fulgura.core.show.inputs import Input
from fulgura.core.show.looks import Layer, Look
from fulgura.core.show.part import Part
from fulgura.core.show.routes import Route
from fulgura.core.show.starter import starter_show

FAMILIES: dict[str, type[Drawn]] = {"source": Source, "effect": Effect}
RING = {"radius": 0.34, "width": 0.05, "sides": 6.0, "tint": "#ffb057"}
OF_OTHERS: dict[str, dict[str, str]] = {"again": {"source": "ring-layer"}, "so-far": {}, "group": {}}
"""Sources that show other layers, with the values that make them show a ring below."""
WAY = 0.5
"""How much of the way to the farther end of its range a kick moves the first number."""


def kind_look(family: str, kind: str) -> Look:
    """A look of one source alone, or of the usual ring with one effect on it. Raises KeyError for what is
    neither.
    """
    if kind not in FAMILIES[family].kinds:
        raise KeyError(kind)
    ring = Part(id="ring", kind="ring", values=RING)
    if family == "effect":
        return _look(_layer("shown-layer", ring, [Part(id="shown", kind=kind)]))
    shown = _layer("shown-layer", Part(id="shown", kind=kind, values=OF_OTHERS.get(kind, {})))
    if kind not in OF_OTHERS:
        return _look(shown)
    inside = "shown-layer" if kind == "group" else ""
    return _look(_layer("ring-layer", ring).model_copy(update={"inside": inside}), shown)


def _layer(name: str, source: Part, effects: list[Part] | None = None) -> Layer:
    return Layer(
        id=name, name=name, source=source, effects=effects or [], mix=Part(id=f"{name}-mix", kind="over")
    )


def _look(*layers: Layer) -> Look:
    return Look(id="shown-look", name="Shown", layers=list(layers))


def kind_show(family: str, kind: str) -> Show:
    """A show of that look whose kick moves the first number of what is shown. Raises KeyError."""
    look = kind_look(family, kind)
    first = next(
        (parameter for parameter in FAMILIES[family].kinds[kind].parameters() if parameter.type == "number"),
        None,
    )
    routes = []
    if first is not None:
        at, low, high = float(first.default), float(first.low or 0), float(first.high or 1)  # type: ignore[arg-type]
        far = high if high - at >= at - low else low
        routes = [
            Route(
                id="moves",
                signal="hit-kick",
                targets=[f"shown.{first.name}"],
                low=at,
                high=at + WAY * (far - at),
                shapers=[Part(id="pulse", kind="pulse")],
            )
        ]
    return starter_show("Kinds").model_copy(
        update={"inputs": [Input(use="house")], "looks": [look], "look": look.id, "routes": routes}
    )
