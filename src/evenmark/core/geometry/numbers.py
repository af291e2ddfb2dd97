"""Numbers as people type them: decimals, fractions, mixed numbers, feet and inches, degrees with minutes and
seconds, arithmetic, functions, names.

- *exact*: a whole or rational number. It stays one through +, -, *, /, and through roots and functions whose
  answer is rational; only what has no rational answer becomes a float.
- *typed*: what a reader makes of a text: a tree that is worked out when the names in it have values.

>>> evaluate(parse("90 - 2*17")), evaluate(parse("4 5/8")), evaluate(parse("2'-1 9/32\\"", inch=1))
(56, Fraction(37, 8), Fraction(809, 32))
>>> parse("60°15'30\\"").exact
Fraction(7231, 120)
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Iterator
from fractions import Fraction
from typing import Any, NamedTuple

from evenmark.core.geometry.exact import FUNCTIONS, LARGEST, Exact, Number, bounded, decimal, power, ratio

MOST_DIGITS, MOST_PARTS = 60, 400
"""A number of more digits, or a formula of more parts, is refused."""
FOOT = 12


class NumberError(ValueError):
    """A text is not a number: says what, with ``at``, the place of the character where it went wrong."""

    def __init__(self, says: str, at: int) -> None:
        super().__init__(says)
        self.says, self.at = says, at


class _Word(NamedTuple):
    kind: str
    text: str
    at: int


_WORDS = re.compile(
    r"""
    (?P<dms>\d+(?:\.\d+)?\s*(?:°|deg(?:rees?)?\b)(?:\s*\d+(?:\.\d+)?\s*['′])?(?:\s*\d+(?:\.\d+)?\s*(?:"|″|''))?)
  | (?P<feet>\d+(?:\.\d+)?\s*['′](?:\s*-?\s*(?:\d+\s+\d+/\d+|\d+/\d+|\d+(?:\.\d+)?)\s*(?:"|″|''))?)
  | (?P<inches>(?:\d+\s+\d+/\d+|\d+/\d+|\d+(?:\.\d+)?|\.\d+)\s*(?:"|″))
  | (?P<mixed>\d+\s+\d+\s*/\s*\d+)
  | (?P<number>\d+(?:\.\d*)?|\.\d+)
  | (?P<name>[^\W\d]\w*)
  | (?P<sign>[-+*/^(),])
  | (?P<blank>\s+)
    """,
    re.VERBOSE,
)
_PLAIN = re.compile(r"\s*(-?)(\d{1,30})(?:\.(\d{1,30}))?\s*")


def _of_text(text: str) -> Exact:
    """Return a decimal, fraction or mixed number as it stands."""
    parts = text.split()
    if len(parts) > 1:
        return sum((Fraction(p) if p else Fraction(0) for p in _mixed(text)), Fraction(0))
    value = Fraction(text.rstrip(".") if text.endswith(".") else text)
    return value.numerator if value.denominator == 1 else value


def _mixed(text: str) -> tuple[str, str]:
    whole, _, rest = text.strip().partition(" ")
    return whole, rest.replace(" ", "")


class Typed(NamedTuple):
    """A number as it was typed: what it is worked out from. ``exact`` where it holds no name."""

    op: str
    parts: tuple[Any, ...]

    @property
    def exact(self) -> Number:
        """The value of a number that holds no names."""
        return evaluate(self)

    def names(self) -> Iterator[str]:
        """Yield the names that it holds."""
        if self.op == "name":
            yield self.parts[0]
        for part in self.parts:
            if isinstance(part, Typed):
                yield from part.names()


Names = Callable[[str], Number | None]
"""Gives the value of a name, None for one that is not known."""
Measures = Callable[[str, int], tuple[Any, int] | None]
"""Reads a measure at a place of a text: what it is, and the place behind it."""


def plain_number(sign: str, whole: str, rest: str | None, by: str | None = None) -> Typed:
    """Return a decimal from its sign, its digits, and those behind the point, if any; or a fraction from
    those above and below its stroke. Raises ZeroDivisionError."""
    if by is not None:
        value: Exact = ratio(int(whole), int(by))
    elif rest is None:
        value = int(whole)
    else:
        value = decimal(whole, rest)
    return Typed("number", (-value if sign else value,))


def parse(text: str, *, inch: Exact = 1, measure: Measures | None = None) -> Typed:
    """Return a number as it was typed. Raises NumberError.

    ``inch`` is what an inch is in the unit of the drawing. ``measure`` reads a measure at a place of the text
    (``length of edge 1.3``) and gives it with the place behind it, or None where there is none; a measure
    becomes a part ``measure``.
    """
    quick = _PLAIN.fullmatch(text)
    if quick is not None:
        return plain_number(*quick.groups())
    return _Reader(text, inch, measure).whole()


def parse_part(text: str, at: int, *, inch: Exact = 1, measure: Measures | None = None) -> tuple[Typed, int]:
    """Return the number that begins at a place of a text, and the place behind it: it ends where nothing of a
    number goes on. Raises NumberError."""
    reader = _Reader(text, inch, measure, at)
    out = reader.sum()
    return out, reader.word.at


class _Reader:
    def __init__(self, text: str, inch: Exact, measure: Measures | None, at: int = 0) -> None:
        self.text, self.inch, self.measure = text, inch, measure
        self.parts = 0
        self.at = at
        self.word = self._next(at)

    def whole(self) -> Typed:
        out = self.sum()
        if self.word.kind != "end":
            raise NumberError(f"{self.word.text!r} does not belong in a number. Delete it.", self.word.at)
        return out

    def _next(self, at: int) -> _Word:
        while at < len(self.text):
            found = _WORDS.match(self.text, at)
            if found is None:
                self.at = at + 1
                return _Word("other", self.text[at], at)
            kind = str(found.lastgroup)
            if kind != "blank":
                self.at = found.end()
                return _Word(kind, found.group(), at)
            at = found.end()
        self.at = len(self.text)
        return _Word("end", "", len(self.text))

    def _step(self) -> _Word:
        word = self.word
        self.word = self._next(self.at)
        return word

    def _made(self, op: str, *parts: Any) -> Typed:
        self.parts += 1
        if self.parts > MOST_PARTS:
            raise NumberError(
                f"A formula has at most {MOST_PARTS} parts. Put some of them in a named value.", 0
            )
        return Typed(op, parts)

    def sum(self, deep: int = 0) -> Typed:
        if deep > 50:
            raise NumberError("Too many brackets inside each other. Put some in a named value.", self.word.at)
        return self._row("+-", self.product, deep)

    def product(self, deep: int) -> Typed:
        return self._row("*/", self.signed, deep)

    def _row(self, signs: str, one: Callable[[int], Typed], deep: int) -> Typed:
        out = one(deep)
        while self.word.kind == "sign" and self.word.text in signs:
            op = self._step().text
            out = self._made(op, out, one(deep))
        return out

    def signed(self, deep: int) -> Typed:
        signs = 0
        while self.word.kind == "sign" and self.word.text in "+-":
            signs += self._step().text == "-"
        out = self.power(deep)
        return self._made("neg", out) if signs % 2 else out

    def power(self, deep: int) -> Typed:
        base = self.one(deep)
        if self.word.kind == "sign" and self.word.text == "^":
            self._step()
            return self._made("^", base, self.signed(deep + 1))
        return base

    def one(self, deep: int) -> Typed:
        word = self.word
        if self.measure is not None and word.kind == "name":
            found = self.measure(self.text, word.at)
            if found is not None:
                self.word = self._next(found[1])
                return self._made("measure", found[0])
        if len(word.text) > MOST_DIGITS and word.kind != "name":
            raise NumberError(f"A number has at most {MOST_DIGITS} digits. Shorten it.", word.at)
        if word.kind in ("number", "mixed"):
            self._step()
            return self._made("number", self._literal(word, word.text))
        if word.kind in ("dms", "feet", "inches"):
            self._step()
            make = {"dms": self._degrees, "feet": self._feet, "inches": self._inches}[word.kind]
            return self._made("number", make(word))
        if word.kind == "name":
            self._step()
            if self.word.kind == "sign" and self.word.text == "(":
                return self._call(word, deep)
            return self._made("name", word.text)
        if word.kind == "sign" and word.text == "(":
            self._step()
            out = self.sum(deep + 1)
            self._close()
            return out
        if word.kind == "end":
            raise NumberError("A number is missing here. Type one, such as 12.5.", word.at)
        raise NumberError(f"A number is expected here, not {word.text!r}. Type one.", word.at)

    def _close(self) -> None:
        if self.word.kind != "sign" or self.word.text != ")":
            raise NumberError("A closing bracket is missing here. Add ).", self.word.at)
        self._step()

    def _call(self, name: _Word, deep: int) -> Typed:
        if name.text.lower() not in FUNCTIONS:
            raise NumberError(
                f"The function {name.text!r} is not known. Use one of: {', '.join(FUNCTIONS)}.", name.at
            )
        self._step()
        given = [self.sum(deep + 1)]
        while self.word.kind == "sign" and self.word.text == ",":
            self._step()
            given.append(self.sum(deep + 1))
        self._close()
        most = FUNCTIONS[name.text.lower()][0]
        if len(given) != most and most:
            raise NumberError(f"{name.text} takes {most} number{'s' * (most > 1)}. Give that many.", name.at)
        return self._made("call", name.text.lower(), *given)

    def _literal(self, word: _Word, text: str) -> Exact:
        try:
            return _of_text(text)
        except ZeroDivisionError:
            raise NumberError("Division by zero. Change the divisor.", word.at) from None

    def _degrees(self, word: _Word) -> Exact:
        numbers = re.findall(r"\d+(?:\.\d+)?", word.text)
        marks = re.findall(r"°|deg|['′](?!')|\"|″|''", word.text)
        out = Fraction(0)
        for number, mark in zip(numbers, marks, strict=False):
            share = 60 if mark in ("'", "′") else 3600 if mark in ('"', "″", "''") else 1
            if share > 1 and Fraction(number) >= 60:
                raise NumberError("Minutes and seconds stay below 60. Carry the rest over.", word.at)
            out += Fraction(number) / share
        return out.numerator if out.denominator == 1 else out

    def _feet(self, word: _Word) -> Number:
        feet, rest = re.split(r"['′]", word.text, maxsplit=1)
        rest = rest.strip().lstrip("-").strip().rstrip("\"″'").strip()
        inches = Fraction(feet.strip()) * FOOT + (self._literal(word, rest) if rest else 0)
        return inches * self.inch

    def _inches(self, word: _Word) -> Number:
        return self._literal(word, word.text.rstrip('"″').strip()) * self.inch


def evaluate(
    typed: Typed, names: Names | None = None, measured: Callable[[Any], Number] | None = None
) -> Number:
    """Work out a number. Raises NumberError where a name is not known, something is divided by zero, a
    function has no answer, or a number is beyond all bounds."""
    if typed.op == "number":  # as nearly every one is
        plain: Number = typed.parts[0]
        return plain if -LARGEST <= plain <= LARGEST else _too_large()
    out: Number = _worked_out(typed, names, measured)
    if isinstance(out, Fraction) and out.denominator == 1:
        out = out.numerator
    if isinstance(out, float) and not math.isfinite(out):
        raise NumberError("The number is too large. Type a smaller one.", 0)
    return out if -LARGEST <= float(out) <= LARGEST else _too_large()


def _too_large() -> Number:
    raise NumberError("The number is too large to be drawn. Type a smaller one.", 0)


def _worked_out(typed: Typed, names: Names | None, measured: Callable[[Any], Number] | None) -> Number:
    op, parts = typed.op, typed.parts
    if op == "number":
        return parts[0]  # type: ignore[no-any-return]
    if op == "name":
        found = names(parts[0]) if names is not None else None
        if found is None:
            if parts[0].lower() == "pi":
                return math.pi
            raise NumberError(f"The value {parts[0]!r} is not known. Define it first.", 0)
        return found
    if op == "measure":
        if measured is None:
            raise NumberError("Nothing can be measured here. Type a number.", 0)
        return measured(parts[0])
    try:
        if op == "call":
            given = [_worked_out(p, names, measured) for p in parts[1:]]
            return FUNCTIONS[parts[0]][1](*given)
        values = [_worked_out(p, names, measured) for p in parts]
        return bounded(_arithmetic(op, values))
    except NumberError:
        raise
    except ZeroDivisionError:
        raise NumberError("Division by zero. Change the divisor.", 0) from None
    except OverflowError:
        raise NumberError("The number is too large. Type a smaller one.", 0) from None
    except ValueError as why:
        raise NumberError(str(why), 0) from None


def _arithmetic(op: str, values: list[Number]) -> Number:
    if op == "neg":
        return -values[0]
    a, b = values
    if op == "+":
        return a + b
    if op == "-":
        return a - b
    if op == "*":
        return a * b
    if op == "/":
        if b == 0:
            raise ZeroDivisionError
        return Fraction(a, b) if isinstance(a, int) and isinstance(b, int) else a / b
    return power(a, b)
