"""Follow-through between views: what agrees with something wrong in another view is charged there once
(marking.md, Groups are one).

- *part's direction*: width, height or depth: what the two directions of a view show. A front view shows width
  and height, one above or below it width and depth, one beside it height and depth.
- *level*: where something stands along a direction of the part: the same in all views that show it. Depths
  are counted from the side of a view that is next to the front view.
- *halves*: two straight edges that lie as far from a centre line, on both of its sides: one bore.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import NamedTuple

from evenmark.core.geometry.lines import Straight, distance_to_supporting_line, image
from evenmark.core.geometry.points import Point, distance, middle
from evenmark.core.linework.model import ArcFeature, CircleFeature, Edge, View
from evenmark.core.marking.examination import Asked, Examination
from evenmark.core.marking.kinds import those
from evenmark.core.marking.led import OWN, Led
from evenmark.core.marking.model import Finding
from evenmark.core.marking.views import inside, side_of

MOST_FINDINGS = 400
"""Where more than this is wrong, views tell nothing of each other."""
_OF_VIEWS = those(lambda k: k.settles == "views")


class Level(NamedTuple):
    """Where something of the key stands along a direction of the part, and how far from there it was
    drawn."""

    along: str
    at: float
    off: float


class ShownView(NamedTuple):
    """A view with the directions of the part that its own show: each with its sign and where it begins."""

    view: View
    across: tuple[str, float, float]
    up: tuple[str, float, float]


def follow_halves(findings: list[Finding], _asked: Asked, exam: Examination) -> Led:
    """Return which findings of straight edges follow those of the other half of their bore, as far from the
    centre line between them on the key, and as they were drawn."""
    if not any(exam.role(e.layer) == "centre" for e in exam.key.edges) and len(exam.rules.views or ()) < 2:
        return {}
    open_ = [f for f in findings if f.verdict in ("missed", "near") and f.kind in OWN]
    edges: dict[str, list[Finding]] = {}
    for f in open_[:MOST_FINDINGS]:
        for i in _curves(f, exam):
            edges.setdefault(i, []).append(f)
    axes = [e for e in exam.key.edges if exam.role(e.layer) == "centre"]
    led: Led = {}
    holes: dict[tuple[str, float], int] = {}
    ids = [i for i in edges if isinstance(exam.key.curves[i], Edge) and isinstance(exam.partner(i), Edge)]
    for n, i in enumerate(ids):
        for j in ids[n + 1 :]:
            hole = _hole_of(i, j, exam)
            between = _middle_line(i, j, exam) if hole else None
            if any(_mirrored_in(i, j, axis, exam) for axis in (*axes, *((between,) if between else ()))):
                _pair(edges[i], edges[j], led)
                if hole is not None:  # another view that shows it as wide agrees
                    first = min(f.id for f in edges[i])
                    led |= _with_first(
                        holes.setdefault((hole, _wider(i, j, exam)), first), edges[i], edges[j]
                    )
    return led


def _with_first(first: int, *findings: Sequence[Finding]) -> Led:
    return {f.id: first for found in findings for f in found if f.id != first}


def _wider(i: str, j: str, exam: Examination) -> float:
    """Return by how much two edges were drawn farther from each other, as finely as it is judged."""
    a, b = exam.key.curves[i], exam.key.curves[j]
    assert isinstance(a, Edge)
    assert isinstance(b, Edge)
    (p, _), (q, _) = exam.ends_for[i], exam.ends_for[j]
    step = 10 * exam.tolerances.position
    return round((distance(p, q) - distance(a.start, b.start)) / step) * step


def _middle_line(i: str, j: str, exam: Examination) -> Straight | None:
    """Return the line midway between two edges that run beside each other."""
    a, b = exam.key.curves[i], exam.key.curves[j]
    assert isinstance(a, Edge)
    assert isinstance(b, Edge)
    start, end = middle(a.start, b.start), middle(a.end, b.end)
    return Straight(start, end) if distance(start, end) > exam.tolerances.position else None


def _hole_of(i: str, j: str, exam: Examination) -> str | None:
    """Return the circle that another view shows, with both sides of which two edges of a view are level."""
    views = exam.rules.views or ()
    if len(views) < 2:
        return None
    shown, reach = shown_views(views), exam.tolerances.position + exam.slack
    here = next((s for s in shown if inside(exam.key.curves[i].at, s.view.box, 0.0)), None)
    if here is None or not inside(exam.key.curves[j].at, here.view.box, 0.0):
        return None
    a, b = (list(levels_at(p, p, here)) for p in (exam.key.curves[k].at for k in (i, j)))
    for c in exam.key.circles:
        there = next((s for s in shown if inside(c.center, s.view.box, 0.0)), None)
        if there is None or there is here:
            continue
        for level in levels_at(c.center, c.center, there):
            for one, other in zip(a, b, strict=True):
                sides = sorted((one.at - level.at, other.at - level.at))
                if one.along == level.along and abs(sides[0] + c.radius) <= reach >= abs(sides[1] - c.radius):
                    return c.id
    return None


def _pair(one: Sequence[Finding], other: Sequence[Finding], led: Led) -> None:
    first = min(one, key=lambda f: f.id)
    led |= {f.id: first.id for f in other if f.id not in led and f.id != first.id}


def _mirrored_in(i: str, j: str, axis: Edge | Straight, exam: Examination) -> bool:
    """Say whether two edges are each other's mirror images in a centre line, on the key and as drawn."""
    a, b = exam.key.curves[i], exam.key.curves[j]
    assert isinstance(a, Edge)
    assert isinstance(b, Edge)
    mirror, reach = Straight(axis.start, axis.end), exam.tolerances.position + exam.slack
    off = distance_to_supporting_line(a.start, axis.start, axis.end)
    return (
        off > reach
        and _images(a.ends, b.ends, mirror, reach)
        and _images(exam.ends_for[i], exam.ends_for[j], mirror, reach)
    )


def _images(a: tuple[Point, Point], b: tuple[Point, Point], mirror: Straight, reach: float) -> bool:
    p, q = (image(point, mirror) for point in a)
    straight = max(distance(p, b[0]), distance(q, b[1]))
    return min(straight, max(distance(p, b[1]), distance(q, b[0]))) <= reach


def follow_views(findings: list[Finding], _asked: Asked, exam: Examination) -> Led:
    """Return which findings of a view follow what another view is charged for: each of their places is off by
    as much as something that stands on the same level there, or not at all."""
    views = exam.rules.views or ()
    off = [f for f in findings if f.kind in OWN and f.features]
    if len(views) < 2 or not off or len(off) > MOST_FINDINGS:
        return {}
    shown = shown_views(views)
    by_view: list[list[Finding]] = [[] for _ in shown]
    for f in off:
        at = exam.key.by_id[f.features[0]].at
        for n, s in enumerate(shown):
            if inside(at, s.view.box, 0.0):
                by_view[n].append(f)
                break
    led: Led = {}
    for sizes in (True, False):
        for n, here in enumerate(shown):
            known = list(_levels_of(by_view[n], here, exam, sizes, led))
            for m, there in enumerate(shown):
                if known and (n < m or (sizes and n != m)):
                    _follow(by_view[m], there, known, exam, led)
    led |= _carried_views(findings, by_view[0], shown, exam, led)
    return led


def shown_views(views: Sequence[View]) -> list[ShownView]:
    """Return views with what their directions show; the first is the front view."""
    front = views[0]
    out = [ShownView(front, ("width", 1.0, 0.0), ("height", 1.0, 0.0))]
    for view in views[1:]:
        left, low, right, high = view.box
        side = side_of(front.box, view.box)
        if side in ("above", "below"):
            depth = ("depth", 1.0, low) if side == "above" else ("depth", -1.0, high)
            out.append(ShownView(view, ("width", 1.0, 0.0), depth))
        else:
            depth = ("depth", 1.0, left) if side == "right" else ("depth", -1.0, right)
            out.append(ShownView(view, depth, ("height", 1.0, 0.0)))
    return out


def _levels_of(
    found: Sequence[Finding], here: ShownView, exam: Examination, sizes: bool, led: Led
) -> Iterator[tuple[Level, int]]:
    """Yield the levels of what a view is charged for that were drawn elsewhere, each with the finding that is
    charged; of ``sizes``, those of circles of another size alone."""
    reach = exam.tolerances.position + exam.slack
    for f in found:
        round_ = [i for i in f.features if isinstance(exam.key.by_id.get(i), CircleFeature)]
        if f.id in led or (sizes and not (round_ and f.verdict in ("missed", "near"))):
            continue
        for i in _curves(f, exam):
            for asked, drawn in places_of_curve(i, exam):
                for level in levels_at(asked, drawn, here):
                    if abs(level.off) > reach:
                        yield level, f.root


def _follow(
    found: Sequence[Finding],
    there: ShownView,
    known: Sequence[tuple[Level, int]],
    exam: Examination,
    led: Led,
) -> None:
    """Let what is charged in a view follow what is known of the levels of another."""
    reach = 2 * (exam.tolerances.position + exam.slack)
    for f in found:
        if f.id in led or f.verdict not in ("missed", "near"):
            continue
        leads: list[int] = []
        for i in _curves(f, exam):
            for asked, drawn in places_of_curve(i, exam):
                for level in levels_at(asked, drawn, there):
                    if abs(level.off) <= reach:
                        continue
                    lead = next((n for k, n in known if _same(k, level, reach)), None)
                    leads.append(-1 if lead is None else lead)
        if leads and -1 not in leads and leads[0] != f.id:
            led[f.id] = leads[0]


def _same(a: Level, b: Level, reach: float) -> bool:
    return a.along == b.along and abs(a.at - b.at) <= reach and abs(a.off - b.off) <= reach


def _carried_views(
    findings: Sequence[Finding],
    front: Sequence[Finding],
    shown: Sequence[ShownView],
    exam: Examination,
    led: Led,
) -> Led:
    """Return which views stand elsewhere because the front view was drawn larger or smaller next to them."""
    reach = 2 * (exam.tolerances.position + exam.slack)
    known = list(_levels_of(front, shown[0], exam, False, led))
    out: Led = {}
    for f in findings:
        if f.kind not in _OF_VIEWS or f.verdict not in ("missed", "near"):
            continue
        for s in shown[1:]:
            if s.view.id not in f.features:
                continue
            side = side_of(shown[0].view.box, s.view.box)
            along = "height" if side in ("above", "below") else "width"
            left, low, right, high = shown[0].view.box
            edge = {"above": high, "below": low, "right": right, "left": left}[side]
            x, y = exam.view_shifts.get(s.view.id, (0.0, 0.0))
            off, beside = (-y, x) if along == "height" else (-x, y)
            lead = next((n for k, n in known if _same(k, Level(along, edge, off), reach)), None)
            if lead is not None and abs(beside) <= reach and abs(off) > reach:
                out[f.id] = lead
    return out


def levels_at(asked: Point, drawn: Point, here: ShownView) -> Iterator[Level]:
    """Yield where a place of a view stands along both directions of the part, and how far from there it was
    drawn."""
    for (along, sign, begins), a, d in zip((here.across, here.up), asked, drawn, strict=True):
        yield Level(along, sign * (a - begins), sign * (d - a))


def _curves(f: Finding, exam: Examination) -> list[str]:
    """Return the curves that a finding is about; of a corner or meeting those that end there."""
    return [i for i in exam.key.curves_of(f.features) if i in exam.drawn_for]


def places_of_curve(i: str, exam: Examination) -> list[tuple[Point, Point]]:
    """Return the places of a curve of the key with those that were drawn: its ends, or of a circle the
    outermost of it in both directions."""
    asked, drawn = exam.key.curves[i], exam.partner(i)
    if isinstance(asked, CircleFeature) and isinstance(drawn, CircleFeature):
        return list(zip(_rim(asked), _rim(drawn), strict=True))
    if isinstance(asked, Edge | ArcFeature) and i in exam.ends_for:
        return list(zip(asked.ends, exam.ends_for[i], strict=True))
    return []


def _rim(c: CircleFeature) -> list[Point]:
    (x, y), r = c.center, c.radius
    return [(x - r, y), (x + r, y), (x, y - r), (x, y + r), (x, y)]
