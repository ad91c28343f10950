"""A small grammar for signals made of signals: “max(low, 0.5 * kick)”. Units are checked; nothing can be
called but what stands here.

Read with Lark's LALR(1) parser, which does not recurse, so that no text can exhaust the stack; what is read
becomes nested functions of a moment.
"""

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from math import cos, floor, isfinite, pi
from typing import Any

from lark import Lark, Transformer, v_args
from lark.exceptions import UnexpectedInput, VisitError

from fulgura.core.kinds.tick import TickContext

LONGEST, DEEPEST = 400, 24
"""Characters of an expression, and brackets within brackets."""

GRAMMAR = r"""
?start: sum
?sum: product | sum "+" product -> add | sum "-" product -> subtract
?product: signed | product "*" signed -> multiply | product "/" signed -> divide
?signed: atom | "-" signed -> negate
?atom: NUMBER UNIT? -> quantity
     | NAME "(" [sum ("," sum)*] ")" -> call
     | NAME -> signal
     | "(" sum ")"
UNIT.2: /(Hz|BPM|ms|s|beats|beat|dB)\b|%/
NAME: /[a-zA-Z_][a-zA-Z0-9_]*/
NUMBER: /\d+(\.\d*)?|\.\d+/
%ignore /\s+/
"""

UNITS: dict[str, tuple[str, Callable[[float], float]]] = {
    "Hz": ("Hz", lambda n: n),
    "BPM": ("Hz", lambda n: n / 60.0),
    "s": ("s", lambda n: n),
    "ms": ("s", lambda n: n / 1000.0),
    "beats": ("beats", lambda n: n),
    "beat": ("beats", lambda n: n),
    "dB": ("", lambda n: 10.0 ** (n / 20.0)),
    "%": ("", lambda n: n / 100.0),
}
"""Unit as written -> what it is counted in ("" is a plain number), and how it gets there. dB are a factor of
amplitude.
"""

PRODUCTS = {("Hz", "s"): "", ("s", "Hz"): ""}
QUOTIENTS = {("", "Hz"): "s", ("", "s"): "Hz"}


class ExpressionError(ValueError):
    """What is wrong with an expression, in the performer's words."""


@dataclass(frozen=True)
class Value:
    """A part of an expression: its unit, how to work it out, and its value when it is always the same."""

    unit: str
    at: Callable[[TickContext], float]
    fixed: float | None = None
    decibels: bool = False
    """Whether it was written in dB: a minus before it is one of the dB, not of the factor."""


@dataclass(frozen=True)
class Expression:
    """One that was read: the names of the signals in it, and its value at a moment."""

    signals: tuple[str, ...]
    at: Callable[[TickContext], float]

    @classmethod
    def read(cls, text: str) -> "Expression":
        """Raises ExpressionError, in words, for what is not an expression whose value is a plain number."""
        if len(text) > LONGEST:
            raise ExpressionError(f"It is longer than {LONGEST} characters.")
        depth = deepest = 0
        for letter in text:
            depth += (letter == "(") - (letter == ")")
            deepest = max(deepest, depth)
        if deepest > DEEPEST:
            raise ExpressionError(f"It has more than {DEEPEST} brackets within brackets.")
        if not text.strip():
            raise ExpressionError("It is empty. Name a signal, like “low”.")
        reader = _Reader()
        try:
            value = reader.transform(_parser().parse(text))
        except VisitError as error:
            raise (
                error.orig_exc
                if isinstance(error.orig_exc, ExpressionError)
                else ExpressionError(str(error.orig_exc))
            ) from error
        except UnexpectedInput as error:
            ended = getattr(getattr(error, "token", None), "type", "") == "$END"
            rest = "" if ended or error.pos_in_stream is None else text[error.pos_in_stream :]
            raise ExpressionError(
                f"“{rest[:12]}” cannot stand there."
                if rest.strip()
                else "It breaks off: something is missing at its end."
            ) from error
        if value.unit:
            raise ExpressionError(f"It comes out in {value.unit}; a signal is a plain number.")
        return cls(tuple(dict.fromkeys(reader.names)), value.at)

    def value(self, now: TickContext) -> float:
        """Its value now. Raises ZeroDivisionError, or OverflowError for what is no number any more."""
        value = self.at(now)
        if not isfinite(value):
            raise OverflowError
        return value


@lru_cache
def _parser() -> Lark:
    return Lark(GRAMMAR, parser="lalr")


def _joined(
    word: str, parts: tuple[Value, ...], work: Callable[..., float], unit: str | None = None
) -> Value:
    """Parts of one unit, and what is made of them."""
    for part in parts[1:]:
        if part.unit != parts[0].unit:
            a, b = (operand.unit or "a plain number" for operand in (parts[0], part))
            raise ExpressionError(f"{word} takes things of one kind, not {a} and {b}.")
    functions = [part.at for part in parts]
    fixed = work(*(part.fixed for part in parts)) if all(part.fixed is not None for part in parts) else None
    return Value(
        parts[0].unit if unit is None else unit, lambda now: work(*[at(now) for at in functions]), fixed
    )


def _turning(word: str, of: Callable[[float], float]) -> Callable[..., Value]:
    """A function of time that turns at a fixed rate."""

    def made(*parts: Value) -> Value:
        if len(parts) != 1 or parts[0].fixed is None or parts[0].unit == "" or parts[0].fixed <= 0.0:
            raise ExpressionError(
                f"{word} takes one number above 0 with a unit, like 2 Hz, 500 ms or 4 beats."
            )
        unit, n = parts[0].unit, parts[0].fixed
        if unit == "beats":
            return Value("", lambda now: of(now.beats / n % 1.0))
        rate = n if unit == "Hz" else 1.0 / n
        return Value("", lambda now: of(now.seconds * rate % 1.0))

    return made


def _all(
    word: str, least: int, most: int, work: Callable[..., float], unit: str | None = None
) -> Callable[..., Value]:
    def made(*parts: Value) -> Value:
        if not least <= len(parts) <= most:
            raise ExpressionError(
                f"{word} takes {least if least == most else f'{least} or more'}"
                f" {'value' if least == most == 1 else 'values'}, not {len(parts)}."
            )
        return _joined(word, parts, work, unit)

    return made


def _mix(*parts: Value) -> Value:
    if len(parts) != 3 or parts[2].unit:
        raise ExpressionError(
            "mix takes two things of one kind and a plain number from 0 to 1: mix(low, high, 0.5)."
        )
    ends, share = _joined("mix", parts[:2], lambda a, b: 0.0), parts[2].at
    first, second = parts[0].at, parts[1].at

    def at(now: TickContext) -> float:
        a = first(now)
        return a + (second(now) - a) * share(now)

    return Value(ends.unit, at)


FUNCTIONS: dict[str, Callable[..., Value]] = {
    "min": _all("min", 1, 32, lambda *v: min(v)),
    "max": _all("max", 1, 32, lambda *v: max(v)),
    "mean": _all("mean", 1, 32, lambda *v: sum(v) / len(v)),
    "abs": _all("abs", 1, 1, abs),
    "floor": _all("floor", 1, 1, lambda v: float(floor(v))),
    "clamp": _all("clamp", 3, 3, lambda v, low, high: min(max(v, low), high)),
    "step": _all("step", 2, 2, lambda v, edge: float(v >= edge), ""),
    "mix": _mix,
    "wave": _turning("wave", lambda phase: 0.5 - 0.5 * cos(2.0 * pi * phase)),
    "ramp": _turning("ramp", lambda phase: phase),
}
"""Everything that can be called."""


@v_args(inline=True)
class _Reader(Transformer[Any, Any]):
    """Turns what was parsed into values, from the leaves up, and notes the names of signals."""

    def __init__(self) -> None:
        super().__init__()
        self.names: list[str] = []

    def quantity(self, number: Any, unit: Any = None) -> Value:
        kind, convert = UNITS[str(unit)] if unit is not None else ("", lambda n: n)
        value = convert(float(number))
        return Value(kind, lambda now: value, value, str(unit) == "dB")

    def signal(self, name: Any) -> Value:
        word = str(name)
        self.names.append(word)
        return Value("", lambda now: now.value_of(word))

    def call(self, name: Any, *parts: Any) -> Value:
        if str(name) not in FUNCTIONS:
            raise ExpressionError(f"There is no “{name}( )”; there are {', '.join(FUNCTIONS)}.")
        return FUNCTIONS[str(name)](*(part for part in parts if part is not None))

    def negate(self, a: Value) -> Value:
        return _joined("-", (a,), (lambda v: 1.0 / v) if a.decibels else (lambda v: -v))

    def add(self, a: Value, b: Value) -> Value:
        return _joined("+", (a, b), lambda x, y: x + y)

    def subtract(self, a: Value, b: Value) -> Value:
        return _joined("-", (a, b), lambda x, y: x - y)

    def multiply(self, a: Value, b: Value) -> Value:
        unit = PRODUCTS.get((a.unit, b.unit)) if a.unit and b.unit else a.unit or b.unit
        return self._worked("times", "*", a, b, unit, lambda x, y: x * y)

    def divide(self, a: Value, b: Value) -> Value:
        if a.unit == b.unit:
            unit: str | None = ""
        else:
            unit = QUOTIENTS.get((a.unit, b.unit)) if b.unit else a.unit
        return self._worked("by", "/", a, b, unit, lambda x, y: x / y)

    @staticmethod
    def _worked(
        word: str, sign: str, a: Value, b: Value, unit: str | None, work: Callable[[float, float], float]
    ) -> Value:
        if unit is None:
            raise ExpressionError(
                f"{a.unit or 'A plain number'} {word} {b.unit or 'a plain number'} makes no sense here"
                f" ({sign})."
            )
        first, second = a.at, b.at
        fixed = None
        if a.fixed is not None and b.fixed is not None and not (sign == "/" and b.fixed == 0.0):
            fixed = work(a.fixed, b.fixed)
        return Value(unit, lambda now: work(first(now), second(now)), fixed)
