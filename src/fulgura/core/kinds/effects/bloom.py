from fulgura.core.kinds.drawn import Effect, Stage
from fulgura.core.kinds.parameters import Number, Ratio, param


class Bloom(Effect):
    """What is bright spills over its edges."""

    shader = "bloom.frag"
    stages = (Stage("bloom_bright.frag", 4), Stage("bloom_first.frag", 4), Stage("bloom_second.frag", 4))

    threshold: Ratio = param(0.5, 0.0, 2.0, "What is darker does not spill")
    radius: Ratio = param(0.18, 0.0, 0.8, "How far it spills")
    amount: Number = param(1.0, 0.0, 4.0, "How much")
