"""The proof in sentences: what a size measures, what is taken as read, what is free, what is said twice."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from evenmark.core.dimensioning.deciding import Decision
from evenmark.core.dimensioning.implied_kinds import Implied
from evenmark.core.dimensioning.measured import MeasuredPlace, ends_at, point_of, square_to
from evenmark.core.dimensioning.proved import FreeMotion, Proof
from evenmark.core.dimensioning.size import Size, Untied, way_of
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Box, Point
from evenmark.core.linework.model import AnyFeature, ArcFeature, CircleFeature, Edge, Linework, View
from evenmark.core.linework.wording import called, counted, noun, number, place

COMPLETE = "Fully dimensioned, nothing redundant."
_NAMED = 3
_WAYS = {"across": ("left", "right"), "up": ("below", "above")}
TAKEN_WORDS = {
    "meet": "ends meet",
    "on": "end on another line or arc",
    "level": "horizontal",
    "plumb": "vertical",
    "square": "perpendicular",
    "parallel": "parallel",
    "in-line": "in line",
    "smooth": "tangent",
    "one-centre": "concentric",
    "on-axis": "on the centre line",
    "alike": "symmetrical about the centre line",
    "even": "evenly spaced round the pitch circle",
    "views": "aligned in two views",
    "level-with": "aligned horizontally",
    "plumb-with": "aligned vertically",
    "even-row": "evenly spaced in a row",
    "mirrored": "symmetrical about the centre line",
    "projected": "aligned in two views",
}
"""What is taken as read of some features, by kind."""


DECIDED: dict[Decision, str] = {
    "drawing": "the drawing follows the sheet",
    "sheet": "the sheet shows what is drawn",
    "value": "marked by the sheet's value",
}
"""What was decided about a dimension whose value is not what it measures."""
NOT_DRIVEN = "The drawing cannot follow: other dimensions fix it. Correct the key, or mark by the value."


def listed(words: Sequence[str]) -> str:
    """Return words as a list in a sentence.

    >>> listed(["14", "46", "64"])
    '14, 46 and 64'
    """
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}"


def figure(size: Size) -> str:
    """Return a size as it stands on a sheet: ``4 × Ø12``, ``R5``, ``60°``, ``14``."""
    value = number(size.says)
    if size.slant_deg is not None:
        value = f"{value} × {number(size.slant_deg)}°"
    sign = {"diameter": f"Ø{value}", "radius": f"R{value}", "angle": f"{value}°"}.get(size.kind, value)
    said = f"{size.count} × {sign}" if size.count > 1 else sign
    return f"({said})" if size.brackets else said


_SHOWN = {"across": "horizontal", "up": "vertical", "along": "along"}
"""What is shown for a direction, by `way_of`."""


def measures(size: Size, key: Linework, views: Sequence[View] = ()) -> str:
    """Return what a size measures, in a few words: ``circle 2 from the left``, ``edge 3 to edge 5,
    vertical``."""
    way = size.direction_deg if size.kind == "distance" else None
    names = [_place_name(p, key, way) for p in size.places]
    if size.kind in ("radius", "diameter"):
        few = [called(i, key.names) for i in size.features[:_NAMED]]
        more = len(size.features) - len(few)
        return listed([*few, f"{more} more"] if more > 0 else few)
    if size.kind == "chamfer":
        return listed([called(i, key.names) for i in size.features[:_NAMED]])
    if size.kind == "length":
        return f"{names[0]}, along"
    if size.kind == "arc-length":
        return f"{names[0]}, along the arc"
    if size.kind == "angle":
        return f"{names[0]} to {names[1]}" if len(names) > 1 else f"{names[0]} from horizontal or vertical"
    return between(size.places, size.direction_deg, key, views)


def between(
    places: Sequence[MeasuredPlace], direction_deg: float, key: Linework, views: Sequence[View] = ()
) -> str:
    """Return what a distance in a direction lies between: from a side of its view where one of its places
    lies on that, else from one place to the other."""
    names = [_place_name(p, key, direction_deg) for p in places]
    way = way_of(direction_deg)
    words, points = _WAYS.get(way), [point_of(p, direction_deg, key) for p in places]
    box = next((v.box for v in views if all(_inside(p, v.box) for p in points)), key.box)
    if words and box is not None:
        axis = 0 if way == "across" else 1
        low, high = box[axis], box[axis + 2]
        at = [p[axis] for p in points]
        near = tol.WELD_SHARE * max(key.extent, tol.LEAST_EXTENT) + tol.slack(key.largest)
        sides = [words[0] if abs(v - low) <= near else words[1] if abs(v - high) <= near else "" for v in at]
        if sides[0] and sides[1]:
            return f"overall, {_SHOWN[way]}"
        for side, other in zip(sides, reversed(names), strict=True):
            if side in ("left", "right"):
                return f"{other} from the {side}"
            if side:
                return f"{other} from {side}"
    return f"{names[0]} to {names[1]}, {_SHOWN[way]}"


def _inside(p: Point, box: Box) -> bool:
    return box[0] <= p[0] <= box[2] and box[1] <= p[1] <= box[3]


def _place_name(p: MeasuredPlace, key: Linework, direction_deg: float | None) -> str:
    """Return what a size is measured from: of a corner, the edge that is perpendicular to the direction."""
    name = called(p.feature, key.names)
    if direction_deg is not None and key.names:
        ends = (key.curves[i] for i, _ in ends_at(p, key))
        across = [e.id for e in ends if isinstance(e, Edge) and square_to(e, direction_deg)]
        name = called(across[0], key.names) if across else name
        if across:
            return name
    if p.part == "sharp":
        return f"the sharp corner at {name}"
    return f"the rim of {name}" if p.part == "rim" else f"the end of {name}" if p.part in ("0", "1") else name


def taken(t: Implied, key: Linework) -> str:
    """Return what is taken as read, in a few words."""
    ids = t.features[1:] if t.kind in ("on-axis", "alike", "even", "mirrored") else t.features[:2]
    ids = tuple(dict.fromkeys(ids))
    few = [called(i, key.names) for i in ids[:4]]
    more = len(ids) - len(few)
    said = listed([*few, f"{more} more"] if more > 0 else few)
    return f"{said[:1].upper()}{said[1:]}: {TAKEN_WORDS[t.kind]}"


def untied(u: Untied, key: Linework) -> str:
    """Return why a dimension says nothing yet, and what to do."""
    what = f"The dimension {number(u.shown)} {_at(u.at)}"
    if u.why == "count":
        return (
            f"{what} holds for another number of features than are equal there "
            f"({counted(len(u.candidates), 'feature')}). Click those that it is for."
        )
    if u.why == "several":
        return f"{what} could measure several things. Click what it measures."
    return f"{what} is not attached. Click what it measures, or draw it from points of the drawing."


def _at(p: Point) -> str:
    return f"at {number(p[0], 3)}, {number(p[1], 3)}"


def motion(m: FreeMotion, key: Linework) -> str:
    """Return how features are free: ``The circle at 14, 12 may slide left and right.``"""
    return f"{_subject(m, key)} {_predicate(m, key)}."


def _subject(m: FreeMotion, key: Linework) -> str:
    left = set(m.features)
    names: list[str] = []
    for outline in key.outlines:
        own = {*outline.corners, *(i for i, _ in outline.members if i[0] == "a")}
        if set(outline.corners) <= left:
            names.append(_the(outline, key))
            left -= own
    if m.moves:
        moved = {e.id: _corners(e.id, key) for e in key.edges}
        moved = {i: corners for i, corners in moved.items() if corners and left.issuperset(corners)}
        names += [_the(key.by_id[i], key) for i in moved]
        left -= {k for corners in moved.values() for k in corners}
    names += [_the(key.by_id[i], key) for i in sorted(left, key=_order)]
    few = names[:_NAMED]
    more = len(names) - len(few)
    said = listed([*few, f"{more} more"] if more > 0 else few)
    return said[:1].upper() + said[1:]


def _the(f: AnyFeature, key: Linework) -> str:
    """Return what a feature is called, to be moved in a sentence; by its place where it has no name."""
    return f"the {key.names[f.id]}" if f.id in key.names else f"the {noun(f)} {place(f)}"


def _order(i: str) -> tuple[str, int]:
    return i[0], int(i[1:])


def _corners(edge: str, key: Linework) -> tuple[str, ...]:
    found = [key.corner_of.get((edge, w)) for w in (0, 1)]
    return tuple(k.id for k in found if k is not None) if None not in found else ()


def _predicate(m: FreeMotion, key: Linework) -> str:
    ways = set(m.moves.values())
    if not ways:
        return "could be larger or smaller" if len(m.grows) == 1 else "could be larger or smaller together"
    if m.grows:
        return "could move and change in size together"
    if len(ways) == 1:
        x, y = next(iter(ways))
        if y == 0.0:
            return "could slide left and right"
        if x == 0.0:
            return "could slide up and down"
        return f"could slide along {number(math.degrees(math.atan2(y, x)) % 180.0, 2)}°"
    hub = _hub(m.moves, key)
    if hub is not None:
        return f"could turn about {number(hub[0], 3)}, {number(hub[1], 3)}"
    return "could move together" if len(m.features) > 1 else "could move"


def _hub(moves: Mapping[str, Point], key: Linework) -> Point | None:
    """Return the centre of something round about which everything that moves would turn."""
    places = {i: place_in(i, key) for i in moves}
    for c in key.rounds:
        turns = set()
        for i, (dx, dy) in moves.items():
            x, y = places[i][0] - c.center[0], places[i][1] - c.center[1]
            far = x * x + y * y
            if far == 0.0 or abs(dx * x + dy * y) > tol.PROOF_SETTLES * math.sqrt(far):
                break
            turns.add(round((x * dy - y * dx) / far * key.extent, 3))
        else:
            if len(turns) == 1:
                return c.center
    return None


def place_in(name: str, key: Linework) -> Point:
    """Return where a point of a motion stands: a corner, a centre, or an end as ``e3.1``."""
    feature, _, end = name.partition(".")
    f = key.by_id[feature]
    if end and isinstance(f, Edge | ArcFeature):
        return f.ends[int(end)]
    return f.center if isinstance(f, ArcFeature | CircleFeature) else f.at


def twice(ids: Sequence[str], proof: Proof) -> str:
    """Return which dimensions are redundant: of some, one follows from the others."""
    by_id = {s.id: s for s in proof.sizes}
    figures = [figure(by_id[i]) for i in ids]
    if len(figures) == 1:
        return f"{figures[0]} is implied already."
    return f"One of {listed(figures)} follows from the other{'s' if len(figures) > 2 else ''}."


def contradiction(size: Size, unit: str, chosen: Decision | None = None) -> str:
    """Return what a dimension says against what the drawing measures; ``chosen`` is what was decided about
    it and could not be done."""
    unit = "°" if size.kind == "angle" else f" {unit}"
    told = (
        f"The dimension says {number(size.says)}{unit}; the drawing measures {number(size.expected)}{unit} "
        "there."
    )
    return f"{told} {NOT_DRIVEN}" if chosen else told


def decision(size: Size, chosen: Decision, key: Linework, views: Sequence[View] = ()) -> str:
    """Return what was decided about a dimension: ``80.4, overall, horizontal: the drawing follows it``."""
    return f"{figure(size)}, {measures(size, key, views)}: {DECIDED[chosen]}"


def summary(proof: Proof) -> str:
    """Return the proof in one sentence."""
    if proof.complete:
        return COMPLETE
    if not proof.sizes and not proof.untied:
        return (
            "No dimensions yet."
            if not proof.proposed
            else f"No dimensions yet; {counted(len(proof.proposed), 'dimension')} would fully dimension it."
        )
    parts = []
    if proof.freedoms:
        parts.append(f"{counted(len(proof.freedoms), 'dimension')} missing")
    if proof.twice:
        parts.append(f"{counted(len(proof.twice), 'redundant dimension')}")
    if proof.contradictions:
        n = len(proof.contradictions)
        parts.append(f"{counted(n, 'dimension')} contradicting the drawing")
    if proof.untied:
        parts.append(f"{counted(len(proof.untied), 'dimension')} not attached")
    said = listed(parts)
    return f"{said[:1].upper()}{said[1:]}."
