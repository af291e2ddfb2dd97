"""Every slip made on three keys or more: what was asked for, what was drawn, and the rules, by the code of
its cause."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from typing import Any

from evenmark.core.drawing.annotations import Dimension, Note
from evenmark.core.drawing.look import Layer, Style
from evenmark.core.drawing.model import Drawing, Entity, FreeCurve, Text
from evenmark.core.drawing.moving import moved_drawing
from evenmark.core.geometry.points import Point, point_on
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.geometry.units import INCH
from evenmark.core.marking.model import Requirement
from evenmark.demo import slips as s
from tests.builders import PLAIN, arc, chain, circle, drawing, line, text

DASHED = Style(color=5, line_type="dashed", weight=0.25, dash=6.0)


@dataclass(frozen=True, kw_only=True)
class Case:
    """A key and an attempt with one slip."""

    key: Drawing
    attempt: Drawing
    rules: dict[str, Any] = field(default_factory=dict)
    start: Drawing | None = None


def steps(start: Point, *moves: Point) -> list[Point]:
    """The corners that steps lead to."""
    out = [start]
    for dx, dy in moves:
        out.append((out[-1][0] + dx, out[-1][1] + dy))
    return out


def toward(length: float, degrees: float) -> Point:
    return (length * math.cos(math.radians(degrees)), length * math.sin(math.radians(degrees)))


def plate(i: int, *more: Entity) -> list[Entity]:
    w, h = [(80.0, 50.0), (120.0, 70.0), (64.0, 90.0)][i]
    return [*chain((0, 0), (w, 0), (w, h), (0, h)), *more]


def chords_of(center: Point, radius: float, pieces: int) -> list[Entity]:
    """A circle as straight pieces."""
    return chain(*(point_on(center, radius, math.tau * k / pieces) for k in range(pieces)))


def strokes_of(wording: str, at: Point, height: float = 3.5) -> list[Entity]:
    """Lettering as an export leaves it behind: the strokes of each letter."""
    out: list[Entity] = []
    for n, letter in enumerate(wording):
        x, y, w = at[0] + 0.8 * n * height, at[1], 0.6 * height
        if letter.isspace():
            continue
        out += [line((x, y), (x, y + height)), line((x, y + height), (x + w, y + 0.7 * height))]
        out.append(line((x + w, y + 0.7 * height), (x + 0.1 * height * (1 + n % 3), y)))
    return out


def path(i: int, moves: list[Point], wrong: int, step: Point) -> Case:
    """An open chain of steps in which one step was another."""
    start = [(10.0, 15.0), (-20.0, 5.0), (30.0, -40.0)][i]
    other = [*moves[:wrong], step, *moves[wrong + 1 :]]
    made = [chain(*steps(start, *m), close=False) for m in (moves, other)]
    return Case(key=drawing(made[0], circle((200, 100), 9)), attempt=drawing(made[1], circle((200, 100), 9)))


def angled(i: int, turn: Callable[[float, float], float]) -> Case:
    length, degrees, before = [(26.0, 60.0, 10.0), (35.0, 20.0, 40.0), (44.0, 155.0, 75.0)][i]
    moves = [toward(50, before), toward(length, degrees), (18.0, -9.0)]
    return path(i, moves, 1, toward(length, turn(degrees, before)))


def stepped(i: int, change: Callable[[Point], Point]) -> Case:
    step = [(24.0, 10.0), (-18.0, 31.0), (9.5, -40.0)][i]
    return path(i, [(40.0, 7.0), step, (13.0, 22.0)], 1, change(step))


def holes(i: int, at: Callable[[Point], Point], radius: float = 4.0) -> Case:
    p = [(20.0, 35.0), (52.0, 18.0), (31.0, 64.0)][i]
    more = [circle((60, 40), 7)]
    return Case(
        key=drawing(plate(i, circle(p, radius), *more)),
        attempt=drawing(plate(i, circle(at(p), radius), *more)),
    )


def row(i: int, chained: bool) -> Case:
    offsets = [(12.0, 30.0, 55.0), (15.0, 40.0, 70.0), (8.0, 22.0, 50.0)][i]
    if chained:
        drawn = [sum(offsets[: n + 1]) for n in range(3)]
    else:
        drawn = [b - a for a, b in zip((0.0, *offsets), offsets, strict=False)]
    made = [plate(i, *[circle((x, 20), 3.0) for x in xs]) for xs in (offsets, drawn)]
    return Case(key=drawing(made[0]), attempt=drawing(made[1]))


def ring(i: int, *, n: int | None = None, radius: float = 1.0, turn: float = 0.0) -> Case:
    count, pitch = [(4, 60.0), (6, 45.0), (5, 80.0)][i]

    def made(k: int, r: float, at: float) -> Drawing:
        around = [circle(point_on((0, 0), r, math.radians(at + 360 * j / k)), 6.0) for j in range(k)]
        return drawing(circle((0, 0), 2 * pitch), circle((0, 0), 20.0), around)

    return Case(key=made(count, pitch, 10), attempt=made(n or count, pitch * radius, 10 + turn))


def rounded(i: int, r: float, drawn: float) -> tuple[list[Entity], list[Entity]]:
    """A plate with one corner rounded."""
    w, h = [(80.0, 50.0), (120.0, 70.0), (64.0, 90.0)][i]

    def made(q: float) -> list[Entity]:
        if q == 0:
            return plate(i)
        return [
            line((0, 0), (w, 0)),
            line((w, 0), (w, h - q)),
            arc((w - q, h - q), q, 0, 90),
            line((w - q, h), (0, h)),
            line((0, h), (0, 0)),
        ]

    return made(r), made(drawn)


def tangent_to(center: Point, r: float, p: Point, side: float) -> Point:
    """Where the tangent from a point touches a circle on one side: sqrt(d^2 - r^2) long."""
    d = math.dist(center, p)
    back = math.atan2(p[1] - center[1], p[0] - center[0])
    return point_on(center, r, back + side * math.acos(r / d))


def belt(i: int, drawn: tuple[Point, float, float] | None, off: float = 0.0) -> Case:
    """A line from a point that touches a circle; drawn to another circle or side, or nearly."""
    start = [(0.0, 0.0), (-30.0, 12.0), (5.0, 90.0)][i]
    first, second = ((90.0, 30.0), 12.0), ((80.0, -20.0), 15.0)
    asked = tangent_to(*first, start, 1)
    base: list[Entity] = [line(start, (start[0], start[1] - 30)), circle(*first), circle(*second)]
    if drawn is None:
        turn = math.atan2(asked[1] - first[0][1], asked[0] - first[0][0])
        end = point_on(first[0], first[1], turn + off / first[1])
    else:
        end = tangent_to(drawn[0], drawn[1], start, drawn[2])
    return Case(key=drawing(base, line(start, asked)), attempt=drawing(base, line(start, end)))


def styled(name: str, style: Style, *entities: Entity, also: Layer | None = None) -> Drawing:
    """Entities on a layer of a style, with a plate beside them."""
    layers = {name: Layer(name=name, style=style), "outline": Layer(name="outline", style=PLAIN)}
    if also:
        layers[also.name] = also
    put = tuple(e._replace(layer=name, style=style) for e in entities)
    return Drawing(entities=(*plate(0), *put), layers=layers, unit=drawing().unit)


def relayered(i: int, to: str) -> Case:
    made = plate(i, circle((30, 20), 6.0))
    other = [*made[:-1], made[-1]._replace(layer=to)]
    return Case(
        key=drawing(made),
        attempt=replace(drawing(other), layers={**drawing().layers, to: Layer(name=to, style=PLAIN)}),
    )


def exchanged(i: int) -> Case:
    x = [20.0, 33.0, 41.0][i]
    pair = [line((x, 0), (x, 30), "hidden"), line((x + 4, 0), (x + 4, 30))]
    swapped = [line((x, 0), (x, 30)), line((x + 4, 0), (x + 4, 30), "hidden")]
    return Case(key=drawing(plate(i), pair), attempt=drawing(plate(i), swapped))


def lettered(i: int, change: Callable[[Text], Text]) -> Case:
    words = ["Gate plate", "Wheel Hub 12", "DRAWN BY Wren"][i]
    asked = text(words, (20.0 + i, 20.0), 3.5)
    return Case(key=drawing(plate(i), asked), attempt=drawing(plate(i), change(asked)))


def dimensioned(i: int, typed: str | None) -> Case:
    w = [80.0, 120.0, 64.0][i]
    d = Dimension(
        kind="linear",
        points=((0, 0), (w, 0)),
        measured=w,
        at=(w / 2, -10),
        layer="dimension",
        style=PLAIN,
        source="d",
    )
    key = replace(drawing(plate(i)), dimensions=(d,))
    asked = Requirement(id=1, kind="dimension", features=("d1",))
    return Case(
        key=key, attempt=replace(key, dimensions=(replace(d, typed=typed),)), rules={"requirements": (asked,)}
    )


def three_views(shift: Point = (0, 0), *, side: str = "right") -> list[Entity]:
    """Front, top and side view of a step block; the side view can stand elsewhere."""
    front = chain((0, 0), (60, 0), (60, 20), (30, 20), (30, 40), (0, 40))
    top = [*chain((0, 60), (60, 60), (60, 85), (0, 85)), line((30, 60), (30, 85))]
    x = 80.0 if side == "right" else -45.0
    dx, dy = x + shift[0], shift[1]
    beside = [
        *chain((dx, dy), (dx + 25, dy), (dx + 25, dy + 40), (dx, dy + 40)),
        line((dx, dy + 20), (dx + 25, dy + 20)),
    ]
    return [*front, *top, *beside]


def views_exchanged(i: int) -> Case:
    more = [[], [circle((45, 10), 4.0)], [circle((10, 30), 5.0)]][i]
    return Case(
        key=drawing(three_views(), more),
        attempt=drawing(three_views(side="left"), more),
        rules={"placement": "slide"} if i else {},
    )


def left_behind(i: int) -> Case:
    made = plate(i, circle((20, 20), 5.0), circle((40, 20), 5.0), circle((30, 33), 3.0))
    moved = list(s.moved((100, 40))(drawing(made)).entities)
    moved[-1] = made[-1]
    return Case(key=drawing(made), attempt=drawing(moved))


def bowed(i: int) -> Case:
    """A half circle that was drawn as a free curve near it."""
    r = [10.0, 14.0, 22.0][i]
    straight = [line((0, 0), (50, 0)), line((50, 2 * r), (0, 2 * r)), line((0, 2 * r), (0, 0))]
    turns = [-math.pi / 2 + math.pi * k / 200 for k in range(201)]
    points = [(50 + r * (1 + 2e-3 * math.sin(4 * t)) * math.cos(t), r + r * math.sin(t)) for t in turns]
    points[0], points[-1] = (50.0, 0.0), (50.0, 2 * r)
    curve = FreeCurve(points=tuple(points), kind="spline", layer="outline", style=PLAIN, source="f")
    return Case(key=drawing(straight, arc((50, r), r, -90, 90)), attempt=drawing(straight, curve))


def eye(i: int) -> Case:
    by = [(0.031, -0.0173), (0.113, 0.207), (-0.0417, 0.0293)][i]
    return holes(i, lambda p: (p[0] + by[0], p[1] + by[1]))


def ends(i: int, by: float) -> Case:
    made = plate(i)
    return Case(key=drawing(made), attempt=s.end_moved(i, by)(drawing(made)))


def whole(i: int, slip: s.Slip) -> Case:
    key = drawing(plate(i, circle((20, 15), 6.0), circle((41, 33), 4.0)))
    return Case(key=key, attempt=slip(key))


def wrong_edge(i: int) -> Case:
    """One early length wrong; what comes after is carried along."""
    moves = [(40.0, 0.0), (0.0, 20.0), (-15.0, 0.0), (0.0, 13.0), (-25.0, 0.0)]
    longer = [moves[0], (0.0, 20.0 + [3.7, 2.3, 6.1][i]), *moves[2:]]
    made = [chain(*steps((5.0, 5.0), *m), close=False) for m in (moves, longer)]
    return Case(key=drawing(made[0]), attempt=drawing(made[1]))


def wrong_side(i: int) -> Case:
    gap = [6.0, 9.0, 11.0][i]
    made = [plate(i, line((0, y), (50, y), "hidden")) for y in (gap, -gap)]
    return Case(key=drawing(made[0]), attempt=drawing(made[1]))


def caught(i: int) -> Case:
    """A line from a corner to the middle of an edge that ends on another point."""
    w, h = [(80.0, 50.0), (120.0, 70.0), (64.0, 90.0)][i]
    asked, drawn = (w / 2, h), [(w, h / 2), (w / 4, h), (w, h / 2)][i]
    more = [line((w / 4, h), (w / 4, h - 7))] if i == 1 else []
    return Case(
        key=drawing(plate(i, line((0, 0), asked), *more)),
        attempt=drawing(plate(i, line((0, 0), drawn), *more)),
    )


def another_size(i: int) -> Case:
    r = [(6.0, 9.0), (4.0, 7.5), (11.0, 5.0)][i]
    made = [plate(i, circle((20, 20), r[0]), circle((45, 30), q)) for q in (r[1], r[0])]
    return Case(key=drawing(made[0]), attempt=drawing(made[1]))


def rounded_size(i: int) -> Case:
    asked, drawn, unit = [
        (7.4375, 7.44, INCH),
        (10 / 3, 3.33, drawing().unit),
        (282.842712 / 10, 28.28, drawing().unit),
    ][i]
    made = [drawing(plate(i), circle((21, 23), r), unit=unit) for r in (asked, drawn)]
    return Case(key=made[0], attempt=made[1])


def dashes(i: int, drawn: Style) -> Case:
    at = [10.0, 22.0, 35.0][i]
    short = line((at, 0), (at, 7))
    key, attempt = (styled("hidden", style, short) for style in (DASHED, drawn))
    if drawn.line_type == "dashed":
        asked = Requirement(id=1, kind="style", features=(next(f for f in _edges(key) if f[1] == at)[0],))
        return Case(key=key, attempt=attempt, rules={"requirements": (asked,)})
    return Case(key=key, attempt=attempt)


def _edges(d: Drawing) -> list[tuple[str, float]]:
    from evenmark.core.linework import simplify

    return [(e.id, e.start[0]) for e in simplify(d, length_tolerance=0.001).edges if e.layer == "hidden"]


def noted(i: int) -> Case:
    tip = [(80.0, 20.0), (60.0, 70.0), (0.0, 33.0)][i]
    note = Note(
        points=(tip, (90, 90)),
        wording="2 holes",
        at=(90, 90),
        height=3.5,
        layer="dimension",
        style=PLAIN,
        source="n",
    )
    key = replace(drawing(plate(i)), notes=(note,))
    off = replace(note, points=((tip[0] + 3, tip[1] + 4), (90, 90)))
    return Case(key=key, attempt=replace(key, notes=(off,)))


CASES: dict[str, Callable[[int], Case]] = {
    "radius-for-diameter": lambda i: another_radius(i, 2.0),
    "diameter-for-radius": lambda i: another_radius(i, 0.5),
    "clockwise-angle": lambda i: angled(i, lambda d, _: -d),
    "angle-from-vertical": lambda i: angled(i, lambda d, _: 90 - d),
    "angle-from-previous": lambda i: angled(i, lambda d, b: d + b),
    "supplementary-angle": lambda i: angled(i, lambda d, _: 180 - d),
    "axes-swapped": lambda i: stepped(i, lambda p: (p[1], p[0])),
    "sign-flipped": lambda i: (
        stepped(i, lambda p: (p[0], -p[1])) if i else stepped(i, lambda p: (-p[0], p[1]))
    ),
    "coordinate-as-step": lambda i: as_step(i),
    "step-as-coordinate": lambda i: as_coordinate(i),
    "baseline-as-chain": lambda i: row(i, chained=True),
    "chain-as-baseline": lambda i: row(i, chained=False),
    "size-of-another": another_size,
    "unit-factor": lambda i: whole(i, s.scaled([25.4, 0.1, 1 / 25.4][i])),
    "by-eye": eye,
    "gap": lambda i: ends(i, -0.02 * (i + 1)),
    "overshoot": lambda i: ends(i, 0.15 * (i + 1)),
    "caught-wrong-point": caught,
    "not-quite-tangent": lambda i: belt(i, None, off=[0.2, -0.3, 0.13][i]),
    "wrong-tangent-side": lambda i: belt(i, ((90.0, 30.0), 12.0, -1)),
    "tangent-to-another": lambda i: belt(i, ((80.0, -20.0), 15.0, 1)),
    "wrong-side": wrong_side,
    "mirrored": lambda i: whole(i, s.mirrored()),
    "turned": lambda i: Case(
        key=whole(i, s.moved((0, 0))).key, attempt=turned(whole(i, s.moved((0, 0))).key)
    ),
    "shifted": lambda i: whole(i, s.moved([(20, 10), (0, 0.5), (-300, 40)][i])),
    "follows-edge": wrong_edge,
    "left-behind": left_behind,
    "corner-left-sharp": lambda i: sharp(i),
    "wrong-fillet": lambda i: fillet(i),
    "pattern-start": lambda i: ring(i, turn=[17.0, 30.0, 20.0][i]),
    "pattern-circle": lambda i: ring(i, radius=[0.5, 1.2, 0.9][i]),
    "pattern-count": lambda i: ring(i, n=[5, 5, 6][i]),
    "views-exchanged": views_exchanged,
    "edges-exchanged": exchanged,
    "wrong-layer": lambda i: relayered(i, "hidden"),
    "layer-misnamed": lambda i: relayered(i, ["out line", "outlines", "outlien"][i]),
    "default-layer": lambda i: relayered(i, "0"),
    "wrong-line-type": lambda i: dashes(i, replace(DASHED, line_type="chain")),
    "dashes-too-long": lambda i: dashes(i, replace(DASHED, dash=60.0)),
    "chords": lambda i: Case(
        key=drawing(plate(i), circle((14, 12), 6)), attempt=drawing(plate(i), chords_of((14, 12), 6, 36))
    ),
    "lettering-as-lines": lambda i: Case(
        key=drawing(plate(i), text("PLATE", (10, 60 + i))),
        attempt=drawing(plate(i), strokes_of("PLATE", (10, 60 + i))),
    ),
    "drawn-twice": lambda i: Case(key=drawing(plate(i)), attempt=drawing(plate(i), plate(i)[i])),
    "construction-left": lambda i: Case(
        key=drawing(plate(i)), attempt=drawing(plate(i), line((-5, -5), (90, 70 + i), "construction"))
    ),
    "left-on-construction": lambda i: relayered(i, "construction"),
    "debris": lambda i: Case(key=drawing(plate(i)), attempt=drawing(plate(i), line((3, 3 + i), (3, 3 + i)))),
    "free-curve": bowed,
    "rounded-value": rounded_size,
    "text-height": lambda i: lettered(i, lambda t: t._replace(height=5.0)),
    "text-case": lambda i: lettered(i, lambda t: t._replace(wording=t.wording.swapcase())),
    "text-anchor": lambda i: lettered(
        i, lambda t: t._replace(anchor=["right bottom", "centre top", "right middle"][i])
    ),
    "typed-over": lambda i: dimensioned(i, ["82", "119,5", "64 1/2"][i]),
    "not-drawn": lambda i: Case(key=drawing(plate(i, circle((20, 20), 5.0))), attempt=drawing(plate(i))),
    "unexplained": lambda i: [
        holes(0, lambda p: (p[0] + 7.35, p[1])),
        noted(1),
        lettered(2, lambda t: t._replace(turn_deg=30.0)),
    ][i],
}


def another_radius(i: int, factor: float) -> Case:
    r = [6.0, 4.5, 9.0][i]
    made = [plate(i, circle((20, 25), q), circle((50, 30), 3.3)) for q in (r, r * factor)]
    return Case(key=drawing(made[0]), attempt=drawing(made[1]))


def turned(d: Drawing) -> Drawing:
    return moved_drawing(d, Similarity(turn_deg=90.0))


def as_step(i: int) -> Case:
    """The coordinates of a hole were taken as a step from the hole before."""
    a, b = [((20.0, 12.0), (45.0, 30.0)), ((15.0, 40.0), (70.0, 22.0)), ((22.0, 60.0), (40.0, 31.0))][i]
    made = [plate(i, circle(a, 3.0), circle(q, 5.0)) for q in (b, (a[0] + b[0], a[1] + b[1]))]
    return Case(key=drawing(made[0]), attempt=drawing(made[1]))


def as_coordinate(i: int) -> Case:
    """The step to a hole was taken as its coordinates."""
    a, b = [((20.0, 12.0), (45.0, 30.0)), ((15.0, 10.0), (70.0, 42.0)), ((22.0, 20.0), (40.0, 71.0))][i]
    made = [plate(i, circle(a, 3.0), circle(q, 5.0)) for q in (b, (b[0] - a[0], b[1] - a[1]))]
    return Case(key=drawing(made[0]), attempt=drawing(made[1]))


def sharp(i: int) -> Case:
    asked, drawn = rounded(i, [5.0, 12.0, 8.0][i], 0)
    return Case(key=drawing(asked), attempt=drawing(drawn))


def fillet(i: int) -> Case:
    asked, drawn = rounded(i, [5.0, 12.0, 8.0][i], [7.0, 10.0, 11.0][i])
    return Case(key=drawing(asked), attempt=drawing(drawn))
