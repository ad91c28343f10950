"""An expression of signals."""

from functools import lru_cache

from fulgura.core.kinds.expression import Expression, ExpressionError
from fulgura.core.kinds.modulator import Mover
from fulgura.core.kinds.parameters import Words, param


class Sum(Mover):
    """A small expression of signals, like “max(low, 0.5 * kick)”."""

    title = "Expression"

    words: Words = param(
        "0.7 * low + 0.3 * high",
        help=(
            "Signals by name, numbers with units, + - * / and brackets; min, max, mean, abs, floor, clamp,"
            " step, mix, wave, ramp"
        ),
        title="Is",
    )

    def refers_to(self):
        made = _compiled(self.words)
        return made.signals if isinstance(made, Expression) else ()

    def trouble(self, order):
        made = _compiled(self.words)
        if isinstance(made, str):
            return made
        return next(
            (f"There is no signal called “{name}”." for name in made.signals if name not in order), ""
        )

    def step(self, state, now):
        made = _compiled(self.words)
        return (made.value(now) if isinstance(made, Expression) else 0.0), 0


@lru_cache(256)
def _compiled(words: str) -> Expression | str:
    """The expression, or what is wrong with it."""
    try:
        return Expression.read(words)
    except ExpressionError as error:
        return str(error)
