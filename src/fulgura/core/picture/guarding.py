"""The guard's passes, after a look's own: see core/safety/guard.py for what they do."""

from typing import Any

from fulgura.core.kinds.drawn import Mesh
from fulgura.core.picture.plan import PassInput
from fulgura.core.picture.plan_builder import PlanBuilder
from fulgura.core.safety.guard import CELLS, CONSTANTS, FIELDS, TILES

HELD = "guard"
"""The target that holds the guarded picture."""
_MESH = Mesh(vertex="guard_tile.vert", vertices=6, instances=TILES[0] * TILES[1], blend="none")


def guard(builder: PlanBuilder, source: str) -> str:
    """Add the passes that guard the picture in a target; the target that holds what may be shown."""
    held = builder.target(HELD, history=1, lasting=True)
    cells: dict[str, Any] = {"size": CELLS, "lasting": True}
    coming = builder.target("guard-in", **cells)
    shown = builder.target("guard-out", history=1, **cells)
    past = builder.target("guard-past", history=1, exact=True, **cells)
    share = builder.target("guard-share", history=1, **cells)
    tally = builder.target("guard-tally", lasting=True, size=FIELDS)
    fields = builder.target("guard-fields", history=1, exact=True, lasting=True, size=FIELDS)
    gates = builder.target("guard-gates", lasting=True, size=FIELDS)
    tiles = builder.target("guard-tiles", size=TILES, lasting=True)

    def add(
        shader: str,
        target: str,
        inputs: dict[str, str],
        before: tuple[str, ...] = (),
        mesh: Mesh | None = None,
        **fixed: float,
    ) -> None:
        """before: inputs that are read as they were a picture ago."""
        read = [
            PassInput(uniform=f"u_{name}", target=each, history_offset=int(name in before))
            for name, each in inputs.items()
        ]
        builder.add(shader, None, read, target, mesh=mesh, fixed=CONSTANTS | fixed)

    add("guard_seen.frag", coming, {"source": source}, u_shines=1.0)
    add("guard_seen.frag", shown, {"source": held}, ("source",), u_shines=0.0)
    looked = {"in": coming, "out": shown, "past": past}
    before = {"before": shown, "share": share}
    add("guard_past.frag", past, looked | before, ("past", "share", "before"))
    add("guard_tally.frag", tally, {"past": past, "share": share}, ("share",))
    add("guard_fields.frag", fields, {"tally": tally, "past": fields}, ("past",))
    add("guard_gates.frag", gates, {"fields": fields, "tally": tally})
    add("guard_share.frag", share, looked | {"gates": gates})
    add("guard_tiles.frag", tiles, {"share": share})
    # Most pictures are let through as they are: only pieces of which something is held back are drawn twice.
    add("guard_free.frag", held, {"source": source})
    add(
        "guard_held.frag",
        held,
        {"source": source, "tiles": tiles, "previous": held},
        ("previous",),
        mesh=_MESH,
    )
    builder.tally = gates
    return held
