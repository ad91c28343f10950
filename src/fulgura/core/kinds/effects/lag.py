from fulgura.core.kinds.drawn import Effect
from fulgura.core.kinds.parameters import Count, Ratio, param


class Lag(Effect):
    """Red, green and blue come late, each by pictures of its own: what moves leaves colours behind, what
    stands still has none.
    """

    title = "Colour delay"
    shader = "lag.frag"
    specialised = ("amount",)
    counts = ("red", "green", "blue")
    past = (2, 4, 6, 8)

    red: Count = param(0.0, 0.0, 8.0, "Pictures by which red is late")
    green: Count = param(4.0, 0.0, 8.0, "Pictures by which green is late")
    blue: Count = param(8.0, 0.0, 8.0, "Pictures by which blue is late")
    amount: Ratio = param(1.0, help="How much of it is seen")
