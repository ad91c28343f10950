"""An expression of signals."""

from collections.abc import Mapping
from functools import lru_cache

from fulgura.core.kinds.expression import Expression, ExpressionError
from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.core.kinds.modulator import Modulator, State
from fulgura.core.kinds.parameters import Words, param
from fulgura.core.kinds.tick import TickContext


class Formula(Modulator):
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

    def refers_to(self) -> tuple[str, ...]:
        made = _compiled(self.words)
        return made.signals if isinstance(made, Expression) else ()

    def fault(self, order: Mapping[str, int]) -> Fault | None:
        made = _compiled(self.words)
        if isinstance(made, str):
            return Fault.of(FaultCode.EXPRESSION, words=made)
        unknown = (name for name in made.signals if name not in order)
        return next((Fault.of(FaultCode.UNKNOWN_NAME, name=name) for name in unknown), None)

    def step(self, state: State, now: TickContext) -> tuple[float, int]:
        made = _compiled(self.words)
        return (made.value(now) if isinstance(made, Expression) else 0.0), 0


@lru_cache(256)
def _compiled(words: str) -> Expression | str:
    """The expression, or what is wrong with it."""
    try:
        return Expression.read(words)
    except ExpressionError as error:
        return str(error)
