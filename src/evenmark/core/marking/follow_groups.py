"""Follow-through of what belongs together: centre lines that stand where their holes were drawn follow the
holes; what is missing as one is missing once.

- *group*, *marks*: see `groups`.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.lines import along_supporting_line, distance_to_supporting_line
from evenmark.core.geometry.points import Point, direction_deg, direction_difference_deg, distance
from evenmark.core.linework import patterns
from evenmark.core.linework.model import ArcFeature, CircleFeature, Edge
from evenmark.core.marking.examination import Asked, Examination, keeps_to
from evenmark.core.marking.follow_rigid import turn_of
from evenmark.core.marking.groups import MOST_OF_A_PIECE, groups_of, marks_of, patterns_of
from evenmark.core.marking.led import OWN, PLACES, Led
from evenmark.core.marking.model import Finding

MOST_LINES = 2000
"""In a drawing of more centre lines, only the one that was meant is looked at."""


def follow_marks(off: Sequence[Finding], asked: Asked, exam: Examination) -> Led:
    """Return which centre lines follow the hole that they were drawn with: each runs through the drawn
    centres of what it is the centre line of, turned with its pattern or not at all. ``off`` is all that is
    not met."""
    marks = marks_of(asked, exam)
    places = [f for f in off if f.kind in PLACES and len(f.features) == 1]
    axes = [f for f in places if f.features[0] in marks and f.verdict != "follows"]
    if not axes:
        return {}
    moved = {f.features[0]: f.root for f in places if f.verdict != "absent"}
    lines, turns = _centre_lines(exam), _Turns(asked, exam)
    absent: dict[str, list[Finding]] = {}
    for f in off:
        if f.verdict == "absent" and len(f.features) == 1:
            absent.setdefault(f.features[0], []).append(f)
    led: Led = {}
    for f in axes:
        through = marks.get(f.features[0], ())
        lead = next((moved[i] for i in through if i in moved), None)
        centers = [p for i in through if (p := _drawn_center(i, exam)) is not None]
        if lead is None or len(centers) < len(through):
            continue
        edge, meant = exam.key.curves[f.features[0]], exam.partner(f.features[0])
        assert isinstance(edge, Edge)
        drawn = [*([meant] if isinstance(meant, Edge) else []), *lines]
        there = next((d for d in drawn if _runs_through(d, edge, centers, turns.of(through), exam)), None)
        if there is not None:
            led[f.id] = lead
            if exam.layer_key(there.layer) == exam.layer_key(edge.layer):
                led |= {g.id: lead for g in absent.get(edge.id, ())}
    return led


class _Turns:
    """By how much patterns were turned about their centres, and pieces as one, which turns their marks."""

    def __init__(self, asked: Asked, exam: Examination) -> None:
        self.exam = exam
        self.pattern_of: dict[str, patterns.Pattern] = {}
        self.pieces: dict[int, float] = {}
        for a in patterns_of(asked):
            if a.data.form == "circle":
                self.pattern_of |= dict.fromkeys(a.r.features, a.data)

    def of(self, through: Sequence[str]) -> list[float]:
        """Return the turns, in degrees, that a centre line may have with what it runs through."""
        out = [0.0]
        for i in through:
            pattern, drawn, asked = (
                self.pattern_of.get(i),
                _drawn_center(i, self.exam),
                self.exam.key.curves[i],
            )
            if pattern is None and (turn := self._of_piece(i)):
                out.append(turn)
            if pattern is not None and drawn is not None and isinstance(asked, ArcFeature | CircleFeature):
                out.append(direction_deg(pattern.center, drawn) - direction_deg(pattern.center, asked.center))
        return out

    def _of_piece(self, i: str) -> float:
        """Return by how much the piece that something is part of was turned as one, in degrees."""
        n = self.exam.key.piece_of.get(i)
        if n is None:
            return 0.0
        if n not in self.pieces:
            piece = self.exam.key.pieces[n]
            how = turn_of(piece, self.exam) if len(piece) <= MOST_OF_A_PIECE else None
            self.pieces[n] = how.turn_deg if how is not None else 0.0
        return self.pieces[n]


def _runs_through(
    drawn: Edge, edge: Edge, centers: Sequence[Point], turns: Sequence[float], exam: Examination
) -> bool:
    """Say whether a drawn line runs through centres, in the direction of a key edge but for a turn."""
    reach = exam.tolerances.position
    for p in centers:
        far = along_supporting_line(p, drawn.start, drawn.end)
        if not tol.within(distance_to_supporting_line(p, drawn.start, drawn.end), reach, exam.slack):
            return False
        if not -reach <= far <= drawn.length + reach:
            return False
    if len({(round(x, 6), round(y, 6)) for x, y in centers}) > 1:
        return True
    own, asked = direction_deg(drawn.start, drawn.end), direction_deg(edge.start, edge.end)
    loose = max(exam.tolerances.angle_deg, math.degrees(reach / max(edge.length, reach)))
    return any(abs(direction_difference_deg(asked + turn, own)) <= 2 * loose for turn in turns)


def _centre_lines(exam: Examination) -> list[Edge]:
    lines = [e for e in exam.drawn.edges if exam.role(e.layer) == "centre"]
    return lines if len(lines) <= MOST_LINES else []


def _drawn_center(i: str, exam: Examination) -> Point | None:
    there = exam.partner(i)
    return there.center if isinstance(there, ArcFeature | CircleFeature) else None


def follow_gone(off: Sequence[Finding], asked: Asked, exam: Examination) -> Led:
    """Return what follows the first thing of a group of which nothing was drawn; of centre lines and hidden
    edges that are missing, those of one sort are one group. ``off`` is all that is not met."""
    absent = [f for f in off if f.verdict == "absent" and f.features]
    gone = {i for f in absent for i in f.features if i in exam.key.curves and i not in exam.drawn_for}
    if len(gone) < 2 or len(gone) == len(exam.key.curves):
        return {}
    led: Led = {}
    marks = marks_of(asked, exam)
    for group in groups_of(asked, exam):
        if all(i in gone or i in marks for i in group) and any(i not in marks for i in group):
            _lead(group, absent, exam, led)
    for run, beside in _left_out(gone, exam):
        _lead(run, absent, exam, led)
        lead = next((led[f.id] for f in absent if f.id in led and f.features[0] in run), None)
        if lead is not None:
            around = {*beside, *(k for i in beside for k in exam.key.joints_at.get(i, ()))}
            moved = [f for f in off if f.kind in OWN and f.verdict in ("missed", "near")]
            led |= {f.id: lead for f in moved if f.features[0] in around and f.id not in led}
    for sort in _sorts(gone, exam):
        _lead(sort, absent, exam, led)
    return led


def _left_out(gone: set[str], exam: Examination) -> list[tuple[tuple[str, ...], tuple[str, ...]]]:
    """Return what was left out of outlines that were closed without it, a notch or a boss: curves that follow
    each other, and the edges on both sides of them, which meet."""
    out = []
    for outline in exam.key.outlines:
        members, n = outline.members, len(outline.members)
        starts = [k for k in range(n) if members[k][0] in gone and members[k - 1][0] not in gone]
        for k in starts:
            run = [members[k][0]]
            while len(run) < n and members[(k + len(run)) % n][0] in gone:
                run.append(members[(k + len(run)) % n][0])
            before, after = members[k - 1], members[(k + len(run)) % n]
            ends = (
                exam.drawn_end(before[0], 0 if before[1] else 1),
                exam.drawn_end(after[0], 1 if after[1] else 0),
            )
            if (
                len(run) > 1
                and ends[0]
                and ends[1]
                and distance(ends[0], ends[1]) <= exam.tolerances.position
            ):
                kept = tuple(i for i, _ in (before, after) if _keeps(i, exam))
                out.append((tuple(run), kept))
    return out


def _keeps(i: str, exam: Examination) -> bool:
    edge, drawn = exam.key.curves[i], exam.partner(i)
    return isinstance(edge, Edge) and isinstance(drawn, Edge) and keeps_to(drawn, edge, exam)


def _sorts(gone: set[str], exam: Examination) -> list[tuple[str, ...]]:
    """Return the missing centre lines, and the missing hidden edges where none was drawn."""
    out = []
    for role in ("centre", "hidden"):
        all_of = [i for i, c in exam.key.curves.items() if exam.role(c.layer) == role]
        own = tuple(i for i in all_of if i in gone)
        if len(own) > 1 and (role == "centre" or len(own) == len(all_of)):
            out.append(own)
    return out


def _lead(group: tuple[str, ...], absent: Sequence[Finding], exam: Examination, led: Led) -> None:
    """Let what is absent of a group follow the first that is charged."""
    inside = set(group)
    inside |= {k for i in group for k in exam.key.joints_at.get(i, ())}
    inside |= {o.id for o in exam.key.outlines if all(m in inside for m, _ in o.members)}
    own = [f for f in absent if f.id not in led and inside.issuperset(f.features)]
    own = [f for f in own if f.id not in led.values()] or own
    order = {i: n for n, i in enumerate(group)}
    first = min(own, key=lambda f: (order.get(f.features[0], len(order)), f.id), default=None)
    if first is not None:
        led |= {f.id: first.id for f in own if f.features != first.features}
