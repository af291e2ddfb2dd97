"""Named values of a document: numbers, formulas of other values and of measures, permitted sets.

- *permitted*: what a value may be: ``from 60 to 96 by 2``, or ``one of 5, 8, 12``; ``now 82`` says what it
  is.

What needs what follows from the formulas, whatever their order; values that need each other are said.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any, NamedTuple

from evenmark.core.construct.reading import Reader
from evenmark.core.construct.words import Unreadable
from evenmark.core.geometry.exact import Exact, Number, share
from evenmark.core.geometry.numbers import NumberError, Typed, evaluate

MOST_PERMITTED = 100_000
MOST_VALUES, DEEPEST = 1000, 100
"""Values of a document; and how many may need each other, one behind the other."""
Measured = Callable[[Any], Number]


class Permitted(NamedTuple):
    """What a value may be: every number from the first to the last by a step, or one of a few."""

    first: Number
    last: Number
    by: Number
    listed: tuple[Number, ...] = ()

    def holds(self, value: Number) -> bool:
        """Say whether a number is one of them."""
        if self.listed:
            return value in self.listed
        steps = share(value - self.first, self.by)
        return self.first <= value <= self.last and steps == int(steps)

    @property
    def how_many(self) -> int:
        """How many there are."""
        return len(self.listed) or int(share(self.last - self.first, self.by)) + 1

    def all(self) -> list[Number]:
        """All of them, in order."""
        return list(self.listed) or [self.first + self.by * k for k in range(self.how_many)]

    def __str__(self) -> str:
        if self.listed:
            return f"one of {', '.join(f'{float(v):g}' for v in self.listed)}"
        return f"from {float(self.first):g} to {float(self.last):g} by {float(self.by):g}"


class Value(NamedTuple):
    """A value as it is defined: its formula or what it is now, and what it may be."""

    formula: Typed
    permitted: Permitted | None = None


def read_value(
    says: str, id_of: Callable[[int], int | None], inch: Exact = 1
) -> tuple[Value, tuple[Any, ...]]:
    """Read what stands behind the name of a value; also return where it names steps. Raises Unreadable."""
    r = Reader(says, id_of, inch)
    try:
        if r.takes("from"):
            value = _range(r)
        elif r.takes("one", "of"):
            value = _listed(r)
        else:
            value = Value(r.number())
        if not r.all_read:
            raise r.expected("the end")
    except NumberError as why:
        raise Unreadable(why.says, why.at) from None
    return value, tuple(r.places)


def _range(r: Reader) -> Value:
    first = r.number()
    r.needs("to")
    last = r.number()
    r.needs("by")
    by = r.number()
    now = _now(r)
    a, b, step = (evaluate(t) for t in (first, last, by))
    if not step > 0 or b < a:
        raise Unreadable("A set goes from less to more, by more than 0. Change its numbers.", r.at)
    permitted = Permitted(a, b, step)
    if permitted.how_many > MOST_PERMITTED:
        raise Unreadable(f"A set has {MOST_PERMITTED:,} numbers at most. Widen the step.", r.at)
    return _checked(Value(now or first, permitted), r)


def _listed(r: Reader) -> Value:
    typed = [r.number()]
    before = r.at
    while r.sign(","):
        if r.peek() == "now":
            r.at = before
            break
        typed.append(r.number())
        before = r.at
    now = _now(r)
    listed = tuple(evaluate(t) for t in typed)
    return _checked(Value(now or typed[0], Permitted(listed[0], listed[-1], 0, listed)), r)


def _now(r: Reader) -> Typed | None:
    r.sign(",")
    return r.number() if r.takes("now") else None


def _checked(value: Value, r: Reader) -> Value:
    assert value.permitted is not None
    if not value.permitted.holds(evaluate(value.formula)):
        raise Unreadable("The value is not in its set. Choose one that is.", r.at)
    return value


class Values:
    """What every value is: as it is defined, or as it was given instead."""

    def __init__(
        self,
        defined: Mapping[str, Value] | None = None,
        given: Mapping[str, Number] | None = None,
        wrong: Mapping[str, str] | None = None,
    ) -> None:
        self.defined, self.given, self.wrong = dict(defined or {}), dict(given or {}), dict(wrong or {})
        self._known: dict[str, Number] = {}
        self._open: list[str] = []
        self._now: dict[str, Number] = {}
        """What was worked out of measures, as long as one is asked about."""
        self._measures = 0

    def with_given(self, given: Mapping[str, Number]) -> Values:
        """Return the same values, some of them given."""
        return Values(self.defined, {**self.given, **given}, self.wrong)

    def get(self, name: str, measured: Measured | None = None) -> Number | None:
        """Return what a value is; None where there is none of that name. Raises NumberError where it cannot
        be worked out."""
        found = self.given.get(name, self._known.get(name))
        if found is not None:
            return found
        if name in self.wrong:
            raise NumberError(f"The value {name} cannot be read: {self.wrong[name]}", 0)
        value = self.defined.get(name)
        if value is None:
            return None
        if name in self._now:
            self._measures += 1
            return self._now[name]
        if len(self._open) >= DEEPEST:
            raise NumberError(f"It needs more than {DEEPEST} others in a row. Say some as numbers.", 0)
        if name in self._open:
            circle = [*self._open[self._open.index(name) :], name]
            raise NumberError(f"These values need each other: {', '.join(circle)}. Make one a number.", 0)
        self._open.append(name)
        before = self._measures

        def measure(said: Any) -> Number:
            self._measures += 1
            if measured is None:
                raise NumberError("It measures the drawing, which is empty. Draw first.", 0)
            return measured(said)

        try:
            out = evaluate(value.formula, lambda n: self.get(n, measure), measure)
        except NumberError as why:
            # said once, by the value that is at fault
            raise (
                why if why.says.startswith(_SAID) else NumberError(f"{_SAID} {name}: {why.says}", 0)
            ) from why
        finally:
            self._open.pop()
            if not self._open:
                self._now = {}
        if self._measures == before:
            self._known[name] = out
        elif self._open:
            self._now[name] = out
        return out


_SAID = "The value"
