"""Read what a sentence says: numbers, angles, points, features, things.

- *said*: a part of a sentence as it was understood, by its name and what it is made of; it is worked out
  when the step is evaluated.

Capital and small letters are the same, but in quoted wordings, value names and layer names.
"""

from __future__ import annotations

import re
from collections.abc import Callable

from evenmark.core.construct.references import FEATURES, Expression, ReferenceReader
from evenmark.core.construct.words import Renewal, Unreadable
from evenmark.core.geometry.numbers import NumberError, Typed, parse_part, plain_number

AXES = ("right", "left", "up", "down")
ENDS = ("start", "end", "middle", "centre")
MEASURES = ("length", "radius", "diameter", "angle", "distance")
MOST_DEEP = 20

_PLAIN = re.compile(r"\s*(-?)(\d{1,15})(?:\.(\d{1,15})|/(\d{1,9}))?(?=\s*(?:[;,·)]|$|[a-ce-zA-CE-Z]))")
"""A decimal or a fraction behind which no number goes on (``deg`` would)."""


class Reader(ReferenceReader):
    """Reads one sentence from left to right."""

    # numbers

    def number(self) -> Typed:
        """Return a number. Raises Unreadable."""
        found = _PLAIN.match(self.text, self.at)
        if found is not None and found.group(4) != "0":  # as nearly every number is
            self.at = found.end()
            typed = plain_number(*found.groups())
            self.taken[found.start(2)] = (typed, found.group(1) == "-")
            return typed
        self.skip()
        try:
            out, self.at = parse_part(self.text, self.at, inch=self.inch, measure=self._measure)
        except NumberError as why:
            raise Unreadable(why.says, why.at) from None
        return out

    def _measure(self, text: str, at: int) -> tuple[Expression, int] | None:
        """Read a measure inside a number: of a feature, or the distance of two points."""
        before, self.at = self.at, at
        word = self.peek()
        found: Expression | None = None
        if word in MEASURES:
            self.pass_word()
            if self.takes("of"):
                found = self._distance() if word == "distance" else Expression(word, (self.feature(),))
        end, self.at = self.at, before
        return (found, end) if found is not None else None

    def _distance(self) -> Expression:
        one = self.point()
        self.needs("and")
        return Expression("distance", (one, self.point()))

    @property
    def at_thing(self) -> bool:
        """Whether a thing stands here."""
        word = self.peek()
        named = self._feature_kind() in FEATURES or word in ("step", "everything")
        return named or (word == "" and self._window_stands_here())

    def _window_stands_here(self) -> bool:
        return re.match(r"\s*\(\s*inside\b", self.text[self.at :], re.IGNORECASE) is not None

    def things(self) -> Expression:
        """Return features and steps, everything, or what lies in a window. Raises Unreadable."""
        found: list[object] = []
        while True:
            if self.takes("everything"):
                layer = self._layer_of_things() if self.takes("on") else None
                found.append(Expression("everything", (layer,)))
            elif self._window_stands_here():
                self.sign("(")
                self.needs("inside")
                one = self.point()
                self.another("The other corner of the window")
                found.append(Expression("inside", (one, self.point())))
                if not self.sign(")"):
                    raise self.expected("')'")
            else:
                found.append(self.reference((*FEATURES, "step")))
            if not self.takes("and"):
                return Expression("things", tuple(found))

    def _layer_of_things(self) -> str:
        """Return the name of a layer among things: up to the end of the slot, a bracket, or ``and``."""
        self.skip()
        if self.text[self.at : self.at + 1] == '"':
            return self.quoted()
        found = re.match(r"(?:(?!\band\b)[^;·)])*", self.text[self.at :], re.IGNORECASE)
        name = found.group().strip() if found else ""
        if found is None or not name:
            raise self.expected("the name of a layer")
        self.at += found.end()
        return name

    # points

    def point(self) -> Expression:
        """Return a point. Raises Unreadable."""
        self.deep += 1
        if self.deep > MOST_DEEP:
            raise Unreadable(
                "Too many points inside each other here. Name one with a step: point NAME; ...", self.at
            )
        try:
            return self._point()
        finally:
            self.deep -= 1

    def _point(self) -> Expression:
        bracketed = self._bracketed()
        if bracketed is not None:
            return bracketed
        word = self.peek()
        read = _POINTS.get(word)
        if read is not None and self._begins_point(word):
            self.pass_word()
            return read(self, word)
        return self._from_number()

    def _begins_point(self, word: str) -> bool:
        """Say whether a word that can begin a point does so here: some may as well be names of values."""
        if word not in _POINTS or word in MEASURES:
            return False
        return word not in _WITH or self._raw != word or self._goes_on_with(_WITH[word])

    def _goes_on_with(self, words: tuple[str, ...]) -> bool:
        """Say whether one of some words stands behind the next one."""
        return self.word_behind() in words

    def _base(self) -> Expression | None:
        return self.point() if self.takes("from") else None

    def _by(self, _word: str) -> Expression:
        x = self.number()
        if not self.sign(","):
            raise self.expected("a comma and how far up")
        return Expression("by", (x, self.number(), self._base()))

    def _axis(self, word: str) -> Expression:
        return Expression("axis", (word, self.number(), self._base()))

    def _end(self, word: str) -> Expression:
        self.needs("of")
        return Expression(word, (self.feature(),))

    def _quarter(self, _word: str) -> Expression:
        self.needs("of")
        f = self.feature(("arc", "circle"))
        return Expression("quarter", (f, self.one_of(("right", "above", "left", "below"), "which quarter")))

    def _corner(self, _word: str) -> Expression:
        n = self.number()
        self.needs("of")
        return Expression("corner", (n, self.reference(("step",))))

    def _crossing(self, _word: str) -> Expression:
        self.needs("of")
        f = self.feature()
        self.needs("and")
        g = self.feature()
        return Expression("crossing", (f, g, self.point() if self.takes("nearest") else None))

    def _place_on(self, word: str) -> Expression:
        self.needs("on")
        f = self.feature()
        self.needs("from" if word == "foot" else "to")
        return Expression(word, (f, self.point()))

    def _touch(self, _word: str) -> Expression:
        self.needs("on")
        f = self.feature(("arc", "circle"))
        self.needs("from")
        p = self.point()
        return Expression("touch", (f, p, self.one_of(("left", "right"), "on which side")))

    def _older_touch(self, word: str) -> Expression:
        self.renewals.append(Renewal(self._begins, self.at, "tangent"))
        return self._touch(word)

    def _share(self, _word: str) -> Expression:
        n = self.number()
        self.needs("of")
        p = self.point()
        self.needs("and")
        return Expression("share", (n, p, self.point()))

    def _level(self, _word: str) -> Expression:
        self.needs("with")
        p = self.point()
        self.needs("vertical", "with")
        return Expression("level", (p, self.point()))

    def _concentric(self, _word: str) -> Expression:
        if not self.takes("with"):
            self.needs("to")
        return Expression("centre", (self.feature(),))

    def _named(self, _word: str) -> Expression:
        self.skip()
        quoted = self.text[self.at : self.at + 1] == '"'
        name = self.quoted() if quoted else self.word_as_written()
        if not name:
            raise self.expected("the name of a point")
        return Expression("named", (name,))

    def _from_number(self) -> Expression:
        """Read a point that begins with a number: coordinates, or a distance and where to."""
        x = self.number()
        if self.sign(","):
            return Expression("at", (x, self.number()))
        if self.takes("toward"):
            return Expression("toward", (x, self.way(), self._base()))
        if self.takes("along"):
            return Expression("along", (x, self.feature(), self._base()))
        if self.takes("perpendicular", "to"):
            f = self.feature()
            return Expression("square", (x, f, self.one_of(("left", "right"), "which side"), self._base()))
        raise self.expected("a comma, 'toward', 'along' or 'perpendicular to'")

    def _bracketed(self) -> Expression | None:
        """Return a point in brackets; None where none stands here, or the bracket belongs to a number."""
        before = self.mark()
        if not self.sign("("):
            return None
        try:
            inner = self.point()
            if self.sign(")"):
                return inner
        except Unreadable:
            pass
        self.back(before)
        return None

    def shift(self) -> Expression:
        """Return by how much something moves: ``from P to P``, or any way of saying a point, from nowhere.
        Raises Unreadable."""
        before = self.mark()
        if self.takes("from"):
            p = self.point()
            self.needs("to")
            return Expression("between", (p, self.point()))
        try:
            return self.point()
        except Unreadable:
            self.back(before)
            if not self.takes("by"):
                raise
            return self.point()

    def way(self) -> Expression:
        """Return where something points: an angle, or a point that it points at. Raises Unreadable."""
        word = self.peek()
        if self._begins_point(word):
            return Expression("point", (self.point(),))
        bracketed = self._bracketed()
        if bracketed is not None:
            return Expression("point", (bracketed,))
        angle = self.number()
        if self.sign(","):
            return Expression("point", (Expression("at", (angle, self.number())),))
        return Expression("angle", (angle,))


_POINTS: dict[str, Callable[[Reader, str], Expression]] = {
    "by": Reader._by,
    **dict.fromkeys(AXES, Reader._axis),
    **dict.fromkeys(ENDS, Reader._end),
    "quarter": Reader._quarter,
    "corner": Reader._corner,
    "crossing": Reader._crossing,
    "foot": Reader._place_on,
    "nearest": Reader._place_on,
    "tangent": Reader._touch,
    "touch": Reader._older_touch,
    "concentric": Reader._concentric,
    "share": Reader._share,
    "horizontal": Reader._level,
    "point": Reader._named,
}
"""How a point is read, by the word that it begins with."""
_WITH = {"horizontal": ("with",), "tangent": ("on",), "concentric": ("with", "to")}
"""Words that begin a point only before these, since a value may have their name."""
