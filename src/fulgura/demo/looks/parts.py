"""What the demo's looks are written with."""

from fulgura.core.show.looks import Layer
from fulgura.core.show.part import Part


def layer(
    id: str,
    name: str,
    source: str,
    values: dict,
    effects: tuple[Part, ...] = (),
    visible: bool = True,
    inside: str = "",
    **mix: object,
) -> Layer:
    return Layer(
        id=id,
        name=name,
        visible=visible,
        inside=inside,
        source=Part(id=f"{id}-source", kind=source, values=values),
        effects=list(effects),
        mix=Part(id=f"{id}-mix", kind="over", values=mix),
    )


def part(id: str, kind: str, **values: object) -> Part:
    return Part(id=id, kind=kind, values=values)
