"""What an edit touched: what it did not touch is the very same object in both shows."""

from fulgura.core.picture.plan_builder import constant
from fulgura.core.show.document import Show
from fulgura.core.show.lights import Lamp
from fulgura.core.show.part import same


def differ(before: Show | None, show: Show, *names: str) -> bool:
    """Whether an edit touched one of these lists."""
    return before is None or not all(same(getattr(before, name), getattr(show, name)) for name in names)


def same_lamps(before: Show | None, show: Show) -> bool:
    """Whether the lamps are laid out as before: the same ones, with as many lights, at the same addresses."""

    def told(lamps: list[Lamp]) -> list[tuple[object, ...]]:
        return [(lamp.id, lamp.name, lamp.universe, lamp.address, lamp.cells) for lamp in lamps]

    return (
        before is not None
        and (same(before.lamps, show.lamps) or told(before.lamps) == told(show.lamps))
        and before.lights.parked == show.lights.parked
    )


def choices(show: Show) -> frozenset[str]:
    """Addresses of all parameters for whose value shaders are made anew while nothing moves them."""
    return frozenset(
        f"{part.id}.{parameter.name}"
        for part in show.parts()
        for parameter in part.parameters()
        if parameter.size and constant(parameter, part.kind_class)
    )
