"""Looks are compiled in Python into draw plans; executors only draw them."""

from collections.abc import Collection, Mapping, Sequence

from fulgura.core.kinds.layering import Crossfade
from fulgura.core.picture.guarding import guard
from fulgura.core.picture.look_compiler import LookCompiler
from fulgura.core.picture.plan import PassInput, Plan
from fulgura.core.picture.plan_builder import PlanBuilder
from fulgura.core.show.looks import Look, NamedRamp, Stored, StoredClip
from fulgura.core.show.part import Part


def compile_look(
    look: Look,
    index_of: Mapping[str, int],
    into: Look | None = None,
    crossfade: Part | None = None,
    moved: Collection[str] = (),
    pictures: Sequence[Stored] = (),
    clips: Sequence[StoredClip] = (),
    number: int = 0,
    guarded: bool = False,
    ramps: Sequence[NamedRamp] = (),
) -> Plan:
    """Compile a look.

    index_of: parameter address ("ring1.radius") -> index of its first float in the live parameter block, and
    what else shaders can read (see plan_builder.py). into: a look that this one goes over into, by what the
    part ``crossfade`` says. moved: addresses of choices and the like that something moves. pictures, clips,
    ramps: those of the show. number: which of the pictures that are drawn at once it is; guarded: whether it
    is kept from flashing more often than is safe.
    """
    looks = [look] if into is None else [look, into]
    builder = PlanBuilder(looks, index_of, moved, pictures, clips, number, ramps)
    ends = [LookCompiler(builder, look).picture() for look in looks]
    last = ends[0]
    if crossfade is not None:
        inputs = [
            PassInput(uniform=name, target=target) for name, target in zip(("u_source", "u_into"), ends)
        ]
        kind = Crossfade.kinds[crossfade.kind]
        last = builder.add("cross.frag", crossfade, inputs, builder.target("crossfade"), kind=kind)
    # The guard dims the picture in a blackout, for it must see that too; without it the last pass does.
    builder.end = guard(builder, last) if guarded else last
    read = [PassInput(uniform="u_source", target=builder.end)]
    builder.add("screen.frag", None, read, "screen", fixed={"u_light": 1.0} if guarded else None)
    return builder.plan()
