from typing import Literal

from fulgura.core.kinds.drawn import Effect
from fulgura.core.kinds.parameters import Length, Number, param


class Bend(Effect):
    """A lens or a whirl at a place of the picture."""

    shader = "bend.frag"

    form: Literal["bump", "twist"] = param(
        "bump", help="bump: nearer or farther; twist: turned about its middle"
    )
    amount: Number = param(0.5, -2.0, 2.0, "How strongly; below 0 the other way")
    radius: Length = param(1.0, 0.05, 3.0, "How far from its middle it is felt")
    x: Length = param(0.0, -2.0, 2.0, "Where its middle is", title="Across")
    y: Length = param(0.0, -1.0, 1.0, "Where its middle is", title="Up")
