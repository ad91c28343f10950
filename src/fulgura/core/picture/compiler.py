"""Looks are compiled in Python into draw plans; executors only draw them."""

from collections.abc import Collection, Mapping, Sequence

from fulgura.core.kinds.layering import Crossfade
from fulgura.core.picture.look_compiler import LookCompiler
from fulgura.core.picture.plan import PassInput, Plan
from fulgura.core.picture.plan_builder import PlanBuilder
from fulgura.core.show.looks import Look, Stored, StoredClip
from fulgura.core.show.part import Part


def compile_look(
    look: Look,
    index_of: Mapping[str, int],
    into: Look | None = None,
    crossfade: Part | None = None,
    moved: Collection[str] = (),
    pictures: Sequence[Stored] = (),
    clips: Sequence[StoredClip] = (),
) -> Plan:
    """Compile a look.

    index_of: parameter address ("ring1.radius") -> index of its first float in the live parameter block, and
    what else shaders can read (see plan_builder.py). into: a look that this one goes over into, by what the
    part ``crossfade`` says. moved: addresses of choices and the like that something moves. pictures, clips:
    those of the show.
    """
    looks = [look] if into is None else [look, into]
    builder = PlanBuilder(looks, index_of, moved, pictures, clips)
    ends = [LookCompiler(builder, look).picture() for look in looks]
    last = ends[0]
    if crossfade is not None:
        inputs = [
            PassInput(uniform=name, target=target) for name, target in zip(("u_source", "u_into"), ends)
        ]
        kind = Crossfade.kinds[crossfade.kind]
        last = builder.add("cross.frag", crossfade, inputs, builder.target("crossfade"), kind=kind)
    builder.add("screen.frag", None, [PassInput(uniform="u_source", target=last)], "screen")
    return builder.plan()
