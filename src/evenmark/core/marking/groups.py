"""What belongs together on a key: it moves, turns, grows and is missing as one (marking.md, Groups are one).

- *marks*: the centre lines that run through the centre of something round.
- *group*: a hole with what shares its centre and with its marks; an even pattern of holes with theirs; what
  hangs together by joints inside another outline, a slot, with what is round its centres.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable

from evenmark.core.geometry.points import Point, distance
from evenmark.core.linework.model import ArcFeature, CircleFeature, Linework
from evenmark.core.linework.patterns import Pattern
from evenmark.core.marking.examination import Ask, Asked, Examination

MOST_OF_A_PIECE = 60
"""A piece of more curves is no slot."""


def marks_of(asked: Asked, exam: Examination) -> dict[str, tuple[str, ...]]:
    """Return the round things of a key that each of its centre lines runs through the centres of, by centre
    line."""
    if "marks" not in asked.known:
        at: dict[Point, list[str]] = defaultdict(list)
        for r in exam.key.rounds:
            if exam.role(r.layer) != "construction":
                at[r.center].append(r.id)
        out = {}
        for a in asked.of("axis"):
            centers: Iterable[Point] = a.data.centers
            out[a.r.features[0]] = tuple(i for p in centers for i in at.get(p, ()))
        asked.known["marks"] = out
    marks: dict[str, tuple[str, ...]] = asked.known["marks"]
    return marks


def groups_of(asked: Asked, exam: Examination) -> tuple[tuple[str, ...], ...]:
    """Return the groups of a key, the largest first, each with its round things and edges before its
    marks."""
    if "groups" not in asked.known:
        found = [*_patterns(asked, exam), *_holes(exam), *_slots(exam)]
        found = sorted({tuple(dict.fromkeys(g)) for g in found}, key=lambda g: (-len(g), g))
        marks = marks_of(asked, exam)
        asked.known["groups"] = tuple(g for group in found if len(g := _marked(group, marks, exam)) > 1)
    groups: tuple[tuple[str, ...], ...] = asked.known["groups"]
    return groups


def _patterns(asked: Asked, exam: Examination) -> list[tuple[str, ...]]:
    return [(*a.r.features, *pitch_circles(a, exam)) for a in patterns_of(asked)]


def patterns_of(asked: Asked) -> list[Ask]:
    """Return what asks for an even pattern."""
    return asked.of("evenly-spaced")


def pitch_circles(a: Ask, exam: Examination) -> list[str]:
    """Return the circles on centre lines that an even pattern lies on."""
    pattern: Pattern = a.data
    if pattern.form != "circle":
        return []
    reach = exam.tolerances.position + exam.slack
    return [
        c.id
        for c in exam.key.circles
        if exam.role(c.layer) == "centre"
        and distance(c.center, pattern.center) <= reach
        and abs(c.radius - pattern.radius) <= reach
    ]


def _holes(exam: Examination) -> list[tuple[str, ...]]:
    """Return the circles about each centre."""
    about: dict[Point, list[str]] = defaultdict(list)
    for c in exam.key.circles:
        if exam.role(c.layer) in ("outline", "hidden", None):
            about[c.center].append(c.id)
    return [tuple(ids) for ids in about.values()]


def _slots(exam: Examination) -> list[tuple[str, ...]]:
    """Return the pieces whose outline lies inside another one."""
    key = exam.key
    boxes = {o.id: _box([i for i, _ in o.members], key) for o in key.outlines}
    out = []
    for o in key.outlines:
        piece = key.pieces[key.piece_of[o.id]] if o.id in key.piece_of else ()
        if not 1 < len(piece) <= MOST_OF_A_PIECE:
            continue
        a = boxes[o.id]
        if any(
            b[0] < a[0] and b[1] < a[1] and a[2] < b[2] and a[3] < b[3] for i, b in boxes.items() if i != o.id
        ):
            out.append(tuple(i for i in piece if i in key.curves))
    return out


def _box(ids: Iterable[str], key: Linework) -> tuple[float, float, float, float]:
    """Return the box of some curves, from their ends and middles."""
    points: list[Point] = []
    for i in ids:
        c = key.curves[i]
        points.append(c.at)
        if isinstance(c, CircleFeature):
            x, y = c.center
            points += [(x - c.radius, y - c.radius), (x + c.radius, y + c.radius)]
        else:
            points += c.ends
    xs, ys = [x for x, _ in points], [y for _, y in points]
    return (min(xs), min(ys), max(xs), max(ys))


def _marked(group: tuple[str, ...], marks: dict[str, tuple[str, ...]], exam: Examination) -> tuple[str, ...]:
    """Return a group with the centre lines that run through nothing but its own centres."""
    rounds = {c.center for i in group if isinstance(c := exam.key.curves[i], ArcFeature | CircleFeature)}
    own = [
        mark
        for mark, through in marks.items()
        if through and all(_center(i, exam) in rounds for i in through) and mark not in group
    ]
    return (*group, *own)


def _center(i: str, exam: Examination) -> Point | None:
    c = exam.key.curves[i]
    return c.center if isinstance(c, ArcFeature | CircleFeature) else None
