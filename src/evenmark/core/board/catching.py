"""What may be pointed just behind a text: places, features, directions, numbers.

- *base*: the last point that the sentence has said, else the last one of the step before it.
"""

from __future__ import annotations

import math
import re
from collections.abc import Sequence

from evenmark.core.board.all_answers import AnsweringHand
from evenmark.core.board.catches import (
    SURE,
    Catch,
    Field,
    Pointing,
    TrackingPoint,
    free,
    helps,
    in_reach,
    ordered,
)
from evenmark.core.board.figures import plain, rounded
from evenmark.core.board.hand import HOW_MANY, HandText
from evenmark.core.board.near import distance_to
from evenmark.core.board.ways import along, directions, ways
from evenmark.core.construct.drawn import name_of
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import CALLED
from evenmark.core.construct.state import Broken, Feature
from evenmark.core.construct.state import plain as doubles
from evenmark.core.construct.words import Unreadable
from evenmark.core.geometry.arcs import Round
from evenmark.core.geometry.deterministic import turn_of
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.points import Point, distance

ROUND_DEG = 5.0
"""Directions are pointed in steps of so many degrees."""
TURNS = ("turned", "turn", "at", "over", "first", "toward")
"""Words before a number that is a direction or a turn, where points have been said."""
COUNTS = ("times",)
"""Words before a number that counts."""
_PLAIN = re.compile(r"\d+(?:\.\d+)?")
_BY = re.compile(r"(?:^|[\s(;])(by)\s*\Z", re.IGNORECASE)


class CatchingHand(AnsweringHand):
    """A hand that catches what a pointer is near."""

    def before_by(self, head: str) -> str | None:
        """Return what stands before a ``by`` that begins a point, where a place may be pointed instead."""
        found = _BY.search(head)
        if found is None:
            return None
        before = head[: found.start(1)]
        kinds = {x.kind for x in self.wants(before)[0]}
        if "shift" in kinds:
            return f"{before}from "
        return before if "point" in kinds else None

    def by(self, head: str, made: Sequence[Catch]) -> list[Catch]:
        """Return places as they are said from the last point, but for those that have a name."""
        base = self.base(head)
        if base is None or head.endswith("from "):
            return list(made)
        bx, by = base.at
        return [
            c._replace(writes=f"by {plain(c.at[0] - bx)}, {plain(c.at[1] - by)}")
            if c.kind in ("grid", "free")
            else c
            for c in made
        ]

    def base(self, head: str) -> TrackingPoint | None:
        """Return the last point that a sentence has said, else the last one of the step before."""
        said = self.said(head)
        last = self.board.evaluation.state.last
        if said or last is None:
            return said[-1] if said else None
        (x, y) = doubles(last)
        return TrackingPoint(f"{plain(x)}, {plain(y)}", (x, y), "the last point")

    def features(self, head: str, field: Field, pointing: Pointing, kinds: set[str]) -> list[Catch]:
        """Return what is drawn within reach that a sentence has not named yet."""
        out = []
        named = {
            head[s.begin : s.end]
            for s in self.writing(HandText(head, len(head))).spans
            if s.kind == "feature"
        }
        state, numbers = field.state, field.numbers
        steps: dict[int, Catch] = {}
        for _, f in field.near.at(pointing.at, pointing.reach):
            name = field.name(f)
            if name in named:
                continue
            if f.ref.kind in kinds or CALLED.get(word := name.split()[0], word) in kinds:
                out.append(Catch("feature", name, name, pointing.at, (name_of(f),), helps=helps(f)))
            if "step" in kinds:
                n = numbers.get(f.ref.step, 0)
                on = tuple(name_of(g) for g in state.of_step(f.ref.step))
                said = Catch("feature", f"step {n}, all of it", f"step {n}", pointing.at, on)
                steps.setdefault(f.ref.step, said)
        return [*out, *steps.values()]

    def points(
        self, head: str, typed: str, field: Field, pointing: Pointing, features: list[Catch]
    ) -> list[Catch]:
        """Return the places that may be pointed behind a text, and where a length leads that was typed."""
        said = self.said(head)
        found = in_reach(field, pointing, said[-1].at if said else None)
        base = self.base(head)
        if typed and self.is_length(typed):
            on_edges = self.along_edges(typed, field, pointing)
            if base is not None:
                led = along(typed, pointing, base.at, ordered(found, pointing))
                return [*led, *on_edges] if said else [*on_edges, *led]
            if on_edges:
                return on_edges
        closes = len(said) > 2 and any(x.says == "close" for x in self.wants(head)[0])
        if closes and not pointing.off and distance(said[0].at, pointing.at) <= pointing.reach:
            found.append(Catch("point", "the start: closes it", "close", said[0].at))
        found += ways(field, pointing, said)
        return ordered([*found, *features, free(field, pointing)], pointing)

    def along_edges(self, typed: str, field: Field, pointing: Pointing) -> list[Catch]:
        """Return where a length that was typed leads along the edges within reach, from the end of each that
        is nearer to the pointer."""
        try:
            r = Reader(typed, self.id_of, self.board.inch)
            far = float(self.board.evaluation.context().number(r.number()))
        except (Broken, ArithmeticError, ValueError):
            return []
        out = []
        for _, f in field.near.at(pointing.at, pointing.reach):
            if f.ref.kind != "edge" or not f.drawn or not isinstance(f.shape, Straight):
                continue
            name, (ux, uy) = field.name(f), f.shape.unit
            first = distance(f.start, pointing.at) <= distance(f.end, pointing.at)
            which, (x, y), way = ("start", f.start, far) if first else ("end", f.end, -far)
            length = typed if first else f"-{typed}" if _PLAIN.fullmatch(typed) else f"-({typed})"
            writes = f"{length} along {name} from {which} of {name}"
            at = (x + ux * way, y + uy * way)
            out.append(Catch("nearest", f"{typed} along {name} from its {which}", writes, at, (name_of(f),)))
        return out

    def directions(self, head: str, field: Field, pointing: Pointing) -> list[Catch]:
        """Return where a way may point that goes from the last point: along an axis, toward what is caught,
        or toward the pointer."""
        base = self.base(head)
        caught = ordered(in_reach(field, pointing), pointing)
        return directions(pointing, base.at, caught) if base is not None else [free(field, pointing)]

    def is_length(self, typed: str) -> bool:
        """Say whether what was typed is a number."""
        r = Reader(typed, self.id_of, self.board.inch)
        try:
            r.number()
        except Unreadable:
            return False
        return r.all_read

    def numbers(self, head: str, about: str, field: Field, pointing: Pointing) -> list[Catch]:
        """Return what a pointer says of a number: how far it is from the last point, or from the feature that
        was named last; twice that for a diameter; a direction in steps of a few degrees."""
        said = self.said_points(head)
        at = _on_grid(pointing)
        word = (head.lower().replace(";", " ").split()[-1:] or [""])[0]
        turns = word in TURNS or (about == "By how much" and head.lower().startswith("turn"))
        if word in COUNTS or about.startswith(HOW_MANY):
            return []
        if word in ("across", "up"):
            return self._pitch(head, word, field, pointing)
        straight = _as_straight(field, pointing) if word == "turned" else []
        if said and turns:
            center, start = (said[0], said[1]) if word == "turn" and len(said) > 1 else (said[-1], None)
            begins = _direction_deg(center, start) if start is not None else 0.0
            degrees = _direction_deg(center, at) - begins
            turn = round(degrees / ROUND_DEG) * ROUND_DEG % 360.0
            return [*straight, Catch("number", f"{plain(turn)}°", plain(turn), pointing.at)]
        feature = self._last_feature(head)
        if feature is not None and (not said or word in ("gap", "radius", "past")):
            far = distance_to(feature, at)
        elif said:
            far = distance(said[-1], at)
        else:
            return []
        value = rounded(far * 2 if word == "diameter" else far, pointing.pixel, field.unit)
        said_so = f"{plain(value)} {field.unit.symbol}"
        return [Catch("number", said_so, plain(value), at)] if value > 0.0 else []

    def _pitch(self, head: str, word: str, field: Field, pointing: Pointing) -> list[Catch]:
        """Return how far across or up a pointer is from what is repeated: from its centre, or its middle."""
        feature = self._last_feature(head)
        if feature is None:
            return []
        caught = [c for c in ordered(in_reach(field, pointing), pointing) if c.kind in SURE and c.at]
        to = caught[0].at if caught else _on_grid(pointing)
        (x, y) = feature.shape.center if isinstance(feature.shape, Round) else feature.shape.middle
        dx, dy = to[0] - x, to[1] - y
        far, off = (dx, dy) if word == "across" else (dy, dx)
        both = word == "up" and " across " in head
        if not both and abs(off) > abs(far):
            return []  # it points the other way
        value = far if caught else math.copysign(rounded(abs(far), pointing.pixel, field.unit), far)
        if abs(value) <= pointing.pixel:
            return []
        if abs(off) <= pointing.reach:  # in line with it: its place is no centre to go round
            return [Catch("pitch", f"{word} {plain(value)}", plain(value), to)]
        return [Catch("number", f"{plain(value)} {field.unit.symbol}", plain(value), to)]

    def _last_feature(self, head: str) -> Feature | None:
        """Return the feature that was named last for itself, not in saying a place."""
        spans = self.writing(HandText(head, len(head))).spans
        places = [s for s in spans if s.kind == "point"]
        named = [s for s in spans if s.kind == "feature"]
        for span in reversed([s for s in named if not any(p.begin <= s.begin < p.end for p in places)]):
            try:
                r = Reader(head[span.begin : span.end], self.id_of, self.board.inch)
                return self.board.evaluation.context().feature(r.feature())
            except (Broken, Unreadable):
                continue
        return None


def _as_straight(field: Field, pointing: Pointing) -> list[Catch]:
    """Return the directions of the edges and guides within reach."""
    return [
        Catch("feature", f"as {field.name(f)}", f"angle of {field.name(f)}", pointing.at, (name_of(f),))
        for _, f in field.near.at(pointing.at, pointing.reach)
        if f.ref.kind in ("edge", "guide")
    ]


def _on_grid(pointing: Pointing) -> Point:
    """Return the place of a pointer, or the point of the grid that is near it."""
    if pointing.off or pointing.grid <= 0.0:
        return pointing.at
    x, y = (round(v / pointing.grid) * pointing.grid for v in pointing.at)
    return (x, y) if distance((x, y), pointing.at) <= pointing.reach else pointing.at


def _direction_deg(a: Point, b: Point) -> float:
    return math.degrees(turn_of(b[1] - a[1], b[0] - a[0]))
