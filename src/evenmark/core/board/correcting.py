"""The numbers of what is chosen take other values where a step has said them.

- *pulled*: a point of a feature can be: its start, end or centre, where its step has said it by a point.
- *stays*: which end of an edge stays when its length changes.
"""

from __future__ import annotations

import re
from typing import NamedTuple

from evenmark.core.board.answers import Done
from evenmark.core.board.board import BoardDocument, NotDone
from evenmark.core.board.figures import typed
from evenmark.core.construct.commas import with_points
from evenmark.core.construct.completion import CompletionReader, Span
from evenmark.core.construct.kinds.arcs import ArcByCentre, ArcByEnds
from evenmark.core.construct.kinds.beside import BisectorOfEdges, BisectorOfPoints, Perpendicular
from evenmark.core.construct.kinds.centres import PitchCircle
from evenmark.core.construct.kinds.chains import Chain
from evenmark.core.construct.kinds.circles import CircleByCentre, CircleTouching, CircleTouchingAt
from evenmark.core.construct.kinds.corners import Fillet, FilletCorners
from evenmark.core.construct.kinds.keeping import LayIn, PlaceKept
from evenmark.core.construct.kinds.lettering import LeaderNote, Lettering
from evenmark.core.construct.kinds.lines import (
    LineAtAngle,
    LineBetween,
    LineByMiddle,
    LineFromMiddle,
    TangentAt,
)
from evenmark.core.construct.kinds.outlines import Polygon, Rectangle
from evenmark.core.construct.kinds.record import Meaning
from evenmark.core.construct.kinds.sheets import Hatching
from evenmark.core.construct.kinds.sizes import (
    SizeAngle,
    SizeBetween,
    SizeDiameter,
    SizeOfEdge,
    SizeRadius,
    SizesFrom,
    SizesInRow,
)
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Expression, Ref
from evenmark.core.construct.sentences import Sentence, read_by
from evenmark.core.construct.state import Broken, Feature
from evenmark.core.construct.words import Unreadable
from evenmark.core.geometry.exact import Number, share
from evenmark.core.geometry.numbers import Typed

POINTS = ("start", "middle", "end", "centre", "at", "through")
_NAME = re.compile(r"([a-z]+) (\d+)\.(\d+)")


class Spoken(NamedTuple):
    """A step as it is read: its text with the numbers of steps, what it says, and where its parts stand."""

    id: int
    says: str
    sentence: Sentence
    spans: tuple[Span, ...]

    def span(self, value: object) -> Span:
        """Return where a part of the sentence stands. Raises NotDone."""
        found = next((s for s in self.spans if s.value is value), None)
        if found is None:
            raise NotDone("The sentence does not say this number. Correct the step.")
        return found

    def with_part(self, value: object, writes: str) -> str:
        """Return the sentence with another wording of a part."""
        span = self.span(value)
        return self.says[: span.begin] + writes + self.says[span.end :]


def feature_named(board: BoardDocument, name: str) -> Feature:
    """Return a feature by the name of its piece (``edge 7.1``, with the step's id). Raises NotDone."""
    found = _NAME.fullmatch(name)
    f = board.evaluation.state.get(Ref(found[1], int(found[2]), int(found[3]))) if found else None
    if f is None:
        raise NotDone("This was deleted. Select something else.")
    return f


def said_by(board: BoardDocument, f: Feature) -> Spoken | None:
    """Return the step that has drawn a feature; none where the step cannot be read any more."""
    item = next((i for i in board.document.steps if i.id == f.ref.step), None)
    step = next((s for s in board.evaluation.steps if s.id == f.ref.step), None)
    if item is None or step is None or step.sentence is None:
        return None
    says, _ = board.shown.spoken(item, step.sentence, board.numbers)
    r = CompletionReader(says, board.ids_before(f.ref.step), board.inch)
    try:
        return Spoken(f.ref.step, says, read_by(r), tuple(r.spans))
    except Unreadable:
        return None


def _as_made(board: BoardDocument, f: Feature) -> bool:
    """Say whether a feature still is as its own step has drawn it."""
    n = board.numbers[f.ref.step] - 1
    return any(c.ref == f.ref and c.after == f for c in board.evaluation.outcomes[n].changes)


def corrects(board: BoardDocument, f: Feature, said: Spoken, name: str) -> bool:
    """Say whether a number of a feature can be given another value."""
    try:
        corrected(board, f, said, name, "1, 1" if name in POINTS else "1", "start")
    except NotDone:
        return False
    return True


def correct(board: BoardDocument, name: str, number: str, says: str, stays: str = "start") -> Done:
    """Give a number of a feature another value, in the step that said it. Raises NotDone."""
    f = feature_named(board, name)
    said = said_by(board, f)
    if said is None:
        raise NotDone("The step that drew this cannot be read. Correct it first.")
    after = corrected(board, f, said, number, says, stays)
    out = board.change(said.id, after)
    row = board.evaluation.outcomes[board.numbers[said.id] - 1]
    if row.broken:
        broken = row.broken
        board.change(said.id, said.says)
        raise NotDone(broken)
    return out


def corrected(board: BoardDocument, f: Feature, said: Spoken, number: str, says: str, stays: str) -> str:
    """Return the sentence of a feature's step with another value of a number. Raises NotDone."""
    meaning = said.sentence.meaning
    if number not in POINTS:
        says = with_points(says)
    if number in ("radius", "diameter"):
        return _sized(said, f, number, says)
    if not _as_made(board, f):
        raise NotDone("A later step changed this. Correct that one.")
    if number == "centre" and isinstance(meaning, CircleByCentre | ArcByCentre | Polygon | PitchCircle):
        return said.with_part(meaning.centre, says)
    if number == "at":
        place = place_said(meaning)
        if place is not None:
            return said.with_part(place, says)
    if number in ("start", "end"):
        return said.with_part(end_said(said, f, number), says)
    if number == "middle":
        return _middled(board, said, f, says)
    if number == "length":
        return _long(board, said, f, says, stays)
    if number == "direction":
        return _turned(said, f, says)
    raise NotDone(_follows(board, said))


def place_said(meaning: Meaning) -> Expression | None:
    """Return the point at which a sentence puts a size, lettering or hatching; None where it says none."""
    if isinstance(meaning, SizeBetween | SizeOfEdge | SizeRadius | SizeDiameter | SizeAngle):
        return meaning.figure.at
    if isinstance(meaning, SizesFrom | SizesInRow | Lettering | Hatching | PlaceKept | LayIn):
        return meaning.at
    if isinstance(meaning, LeaderNote):
        return meaning.points[-1]
    return None


def _follows(board: BoardDocument, said: Spoken) -> str:
    named = sorted({board.numbers[p.step] for p in said.sentence.places if p.step in board.numbers})
    if named:
        steps = " and ".join(f"step {n}" for n in named)
        return f"This follows from {steps}: change it there, or correct step {board.numbers[said.id]}."
    return f"Correct step {board.numbers[said.id]}."


def _sized(said: Spoken, f: Feature, number: str, says: str) -> str:
    meaning = said.sentence.meaning
    found = size_said(meaning, f)
    if found is None:
        raise NotDone("Its size follows from its tangents or points. Correct those.")
    word, value = found
    span = said.span(value)
    head = said.says[: span.begin]
    if word != number:
        if not isinstance(meaning, CircleByCentre):
            raise NotDone(f"The step says its {word}. Type that.")
        head = head.rstrip()[: -len(word)] + number + " "
    return head + says + said.says[span.end :]


def size_said(meaning: Meaning, f: Feature) -> tuple[str, Typed] | None:
    """Return by which word a sentence says the size of something round that it has drawn, and the size."""
    if isinstance(meaning, CircleByCentre):
        for word, value in (("radius", meaning.radius), ("diameter", meaning.diameter)):
            if value is not None:
                return word, value
    if isinstance(meaning, ArcByEnds | CircleTouchingAt | Fillet | FilletCorners):
        return "radius", meaning.radius
    if isinstance(meaning, CircleTouching) and meaning.radius is not None:
        return "radius", meaning.radius
    if isinstance(meaning, PitchCircle):
        return "diameter", meaning.diameter if f.ref.part == 1 else meaning.hole
    return None


def end_said(said: Spoken, f: Feature, which: str) -> Expression:
    """Return the point of a sentence that says an end of an edge or arc. Raises NotDone."""
    meaning, part = said.sentence.meaning, f.ref.part or 1
    if isinstance(meaning, LineBetween | ArcByEnds):
        return meaning.start if which == "start" else meaning.end
    if isinstance(meaning, LineByMiddle) and which == "end":
        return meaning.end
    if isinstance(meaning, ArcByCentre) and which == "start":
        return meaning.start
    if isinstance(meaning, Chain):
        n = _piece_number(meaning, f, part) - (which == "start")
        if n == 0:
            return meaning.start
        if 1 <= n <= len(meaning.pieces):
            return meaning.pieces[n - 1].to
        if n == len(meaning.pieces) + 1 and meaning.close:
            return meaning.start
    if isinstance(meaning, Rectangle):
        corner = (part - 1 + (which == "end")) % 4
        if corner == 0:
            return meaning.first
        if corner == 2 and meaning.second is not None:
            return meaning.second
    raise NotDone("This end follows from something else. Correct the step.")


def _piece_number(chain: Chain, f: Feature, part: int) -> int:
    """Return which piece of a chain a feature is, counted from 1: edges and arcs are numbered apart."""
    count = 0
    for n, piece in enumerate(chain.pieces, 1):
        kind = "edge" if piece.how == "line" else "arc"
        count += kind == f.ref.kind
        if kind == f.ref.kind and count == part:
            return n
    return len(chain.pieces) + 1


def _long(board: BoardDocument, said: Spoken, f: Feature, says: str, stays: str) -> str:
    meaning = said.sentence.meaning
    if f.ref.kind != "edge":
        raise NotDone("The length of an arc follows from its ends and radius. Change those.")
    if isinstance(
        meaning,
        LineFromMiddle | LineAtAngle | TangentAt | Perpendicular | BisectorOfEdges | BisectorOfPoints,
    ):
        return said.with_part(meaning.length, says)
    if isinstance(meaning, Rectangle):
        wide = (f.ref.part or 1) % 2 == 1
        side = meaning.width if wide else meaning.height
        if side is not None:
            return said.with_part(side, says)
        assert meaning.second is not None
        width, height = (typed(v, board.unit) for v in _sides(board, f))
        return said.with_part(meaning.second, f"{says} by {height}" if wide else f"{width} by {says}")
    if not isinstance(meaning, LineBetween | Chain):
        raise NotDone(_follows(board, said))
    end = end_said(said, f, "end")
    if isinstance(meaning, LineBetween) and stays == "end":
        start = end_said(said, f, "start")
        span, other = said.span(start), said.span(end)
        if end.how != "at":
            raise NotDone("Its end is measured from its start. Let the start stay.")
        last = said.says[other.begin : other.end]
        first = said.says[span.begin : span.end]
        return said.with_part(start, f"{says} toward {_bracketed(first)} from {last}")
    if end.how in ("axis", "toward", "along", "square"):
        return said.with_part(end.parts[1 if end.how == "axis" else 0], says)
    span = said.span(end)
    return said.with_part(end, f"{says} toward {_bracketed(said.says[span.begin : span.end])}")


def _middled(board: BoardDocument, said: Spoken, f: Feature, says: str) -> str:
    """Return the sentence of an edge with its middle elsewhere: it keeps its length and direction, and a
    corner that it shares moves with it."""
    meaning = said.sentence.meaning
    if isinstance(meaning, LineFromMiddle):
        return said.with_part(meaning.at, says)
    if f.ref.kind != "edge" or len(f.exact) != 2:
        raise NotDone("Its middle follows from its ends. Move an end.")
    r = Reader(says, board.ids_before(said.id), board.inch)
    to, ends = board.evaluation.context().point(r.point()), f.exact
    by = [to[n] - share(ends[0][n] + ends[1][n], 2) for n in (0, 1)]
    moved: list[tuple[Span, str]] = []
    for which, at in zip(("start", "end"), ends, strict=True):
        point = end_said(said, f, which)
        if point.how == "at":
            place = ", ".join(typed(at[n] + by[n], board.unit) for n in (0, 1))
            moved.append((said.span(point), place))
        elif which == "start" or point.how not in ("axis", "toward", "by"):
            raise NotDone("Its ends follow from something else. Drag that.")
    out = said.says
    for span, place in sorted(moved, key=lambda one: -one[0].begin):
        out = out[: span.begin] + place + out[span.end :]
    return out


def _sides(board: BoardDocument, f: Feature) -> tuple[Number, Number]:
    """Return width and height of a rectangle, as exactly as they are known. Raises NotDone."""
    found = [c for c in board.evaluation.state.of_step(f.ref.step) if c.ref.kind == "edge"]
    if len(found) < 4 or any(len(e.exact) != 2 for e in found[:4]):
        raise NotDone("Correct the step.")
    (ax, ay), (bx, by) = found[0].exact[0], found[2].exact[0]
    width: Number = bx - ax
    height: Number = by - ay
    return (-width if width < 0 else width), (-height if height < 0 else height)


def _bracketed(says: str) -> str:
    return says if re.fullmatch(r"[-\d./' \"]+,[-\d./' \"]+", says) else f"({says})"


def _turned(said: Spoken, f: Feature, says: str) -> str:
    if f.ref.kind != "edge" or not isinstance(said.sentence.meaning, LineBetween | Chain):
        raise NotDone("Its direction follows from where it leads. Correct that.")
    end = end_said(said, f, "end")
    if end.how == "toward" and end.parts[1].how == "angle":
        return said.with_part(end.parts[1].parts[0], says)
    if end.how == "axis":
        span, number = said.span(end), said.span(end.parts[1])
        length = said.says[number.begin : number.end]
        rest = said.says[number.end : span.end]
        return said.says[: span.begin] + f"{length} toward {says}{rest}" + said.says[span.end :]
    raise NotDone("Its direction follows from its ends. Move an end.")


def pull(board: BoardDocument, name: str, which: str, writes: str) -> Done:
    """Put an end or centre, or where something is lettered, elsewhere, where its step said it by a point.
    Raises NotDone."""
    if which not in ("start", "middle", "end", "centre", "at"):
        raise NotDone("This cannot be dragged. Correct the step.")
    try:
        return correct(board, name, which, writes)
    except Broken as why:
        raise NotDone(why.says) from None
