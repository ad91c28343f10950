from fulgura.core.parameters import Number, Ratio, param
from fulgura.core.picture.kinds import Effect, Stage


class Bloom(Effect):
    """What is bright spills over its edges."""

    shader = "bloom.frag"
    stages = (Stage("bloom_bright.frag", 4), Stage("bloom_first.frag", 4), Stage("bloom_second.frag", 4))

    threshold: Ratio = param(0.5, 0.0, 2.0, "What is darker does not spill")
    radius: Ratio = param(0.18, 0.0, 0.8, "How far it spills")
    amount: Number = param(1.0, 0.0, 4.0, "How much")
