"""Round outlines by their parameters: a belt round two pulleys, a lever with a waist, a slot in a plate, and
walls with a shelf between them. A slip is one parameter of another size."""

from __future__ import annotations

import math
import random
from collections.abc import Callable
from typing import Any

from bench.extent import sized
from bench.slips import odd
from evenmark.core.drawing.look import Style
from evenmark.core.drawing.model import Arc, Circle, Drawing, Entity, Line
from evenmark.core.geometry.points import Point
from evenmark.core.geometry.units import MM
from evenmark.core.linework.model import Linework
from evenmark.core.marking import RuleSet, check, prepare

STYLE = Style()


def line(a: Point, b: Point) -> Line:
    """An edge of the outline."""
    return Line(start=a, end=b, layer="outline", style=STYLE, source="l")


def circle(at: Point, r: float) -> Circle:
    """A bore."""
    return Circle(center=at, radius=r, layer="outline", style=STYLE, source="c")


def arc(at: Point, r: float, start_deg: float, end_deg: float) -> Arc:
    """An arc, counter-clockwise."""
    sweep = math.radians((end_deg - start_deg) % 360.0)
    return Arc(at, r, math.radians(start_deg), sweep, "outline", STYLE, "a")


def chain(*points: Point) -> list[Line]:
    """A closed outline."""
    return [line(a, b) for a, b in zip(points, [*points[1:], points[0]], strict=True)]


def tangent(c: Point, r: float, d: Point, s: float, side: int) -> tuple[Point, Point]:
    """Where a line touches two circles, to the left (1) or right (-1) of the way from one to the other."""
    far, at = math.dist(c, d), math.atan2(d[1] - c[1], d[0] - c[0])
    t = at + side * math.acos((r - s) / far)
    return (
        (c[0] + r * math.cos(t), c[1] + r * math.sin(t)),
        (d[0] + s * math.cos(t), d[1] + s * math.sin(t)),
    )


def round_to(c: Point, r: float, p: Point, q: Point) -> Arc:
    """The arc about a centre from one point to another, counter-clockwise."""
    return arc(c, r, *(math.degrees(math.atan2(z[1] - c[1], z[0] - c[0])) for z in (p, q)))


def belt(r1: float = 20, r2: float = 12, d: float = 70, y: float = 0) -> list[Entity]:
    """Two pulleys with a belt round them, each with a bore."""
    c1, c2 = (0.0, 0.0), (d, y)
    (u1, u2), (l1, l2) = tangent(c1, r1, c2, r2, 1), tangent(c1, r1, c2, r2, -1)
    bores = [circle(c1, 6), circle(c2, 4)]
    return [line(u2, u1), round_to(c1, r1, u1, l1), line(l1, l2), round_to(c2, r2, l2, u2), *bores]


def lever(waist: float = 30, r1: float = 18, r2: float = 10, d: float = 80) -> list[Entity]:
    """Two bosses with a straight flank below and a waist above."""
    c1, c2 = (0.0, 0.0), (d, 0.0)
    x = ((r1 + waist) ** 2 - (r2 + waist) ** 2 + d * d) / (2 * d)
    c = (x, math.sqrt((r1 + waist) ** 2 - x * x))
    p = (c[0] * r1 / (r1 + waist), c[1] * r1 / (r1 + waist))
    q = (d + (c[0] - d) * r2 / (r2 + waist), c[1] * r2 / (r2 + waist))
    l1, l2 = tangent(c1, r1, c2, r2, -1)
    rounds = [round_to(c1, r1, p, l1), round_to(c2, r2, l2, q), round_to(c, waist, p, q)]
    return [line(l1, l2), *rounds, circle(c1, 6), circle(c2, 4)]


def slot(w: float = 20, long: float = 50, x: float = 10) -> list[Entity]:
    """A slot with round ends in a plate."""
    r, y = w / 2, 5.0
    ends = [arc((x + long, y + r), r, 270, 90), arc((x, y + r), r, 90, 270)]
    flanks = [line((x, y), (x + long, y)), line((x + long, y + w), (x, y + w))]
    return [*flanks, *ends, *chain((-20, -20), (90, -20), (90, 50), (-20, 50))]


def walls(x: float = 40, apart: float = 20, shelf: float = 20) -> list[Entity]:
    """A frame with two walls and a shelf between them."""
    frame = chain((0, 0), (100, 0), (100, 60), (0, 60))
    inside = [line((x, 0), (x, 60)), line((x + apart, 0), (x + apart, 60))]
    return [*frame, *inside, line((x, shelf), (x + apart, shelf)), circle((20, 30), 6)]


SHAPES: dict[str, tuple[Callable[..., list[Entity]], dict[str, tuple[float, float]]]] = {
    "belt": (belt, {"r1": (16, 24), "r2": (9, 14), "d": (60, 90)}),
    "lever": (lever, {"waist": (36, 60), "r1": (15, 20), "r2": (9, 13), "d": (75, 90)}),
    "slot": (slot, {"w": (14, 24), "long": (35, 55), "x": (8, 16)}),
    "walls": (walls, {"x": (30, 44), "apart": (14, 24), "shelf": (12, 40)}),
}


def try_one(rng: random.Random) -> tuple[str, int, bool, list[str], Linework]:
    """Make one slip in one shape: what it was, how many findings are charged, whether nothing that was drawn
    is told as missing, what was named, and the key."""
    name = rng.choice(sorted(SHAPES))
    make, sizes = SHAPES[name]
    right: dict[str, Any] = {n: float(rng.randint(round(a), round(b))) for n, (a, b) in sizes.items()}
    which = rng.choice(sorted(sizes))
    wrong = {**right, which: right[which] + abs(odd(rng, 1.1, 2.4))}
    key = prepare(_drawn(make(**right)), RuleSet(listing="feature"))
    mark = check(key, _drawn(make(**wrong)))
    open_ = [f for f in mark.findings if f.verdict in ("near", "missed", "absent")]
    there = all(f.verdict != "absent" for f in open_)
    return f"{name} {which}", len(open_), there, [c.code for c in mark.causes], key.linework


def _drawn(entities: list[Entity]) -> Drawing:
    return Drawing(entities=tuple(entities), layers={}, unit=MM)


def main() -> None:
    """Print how many of three hundred slips were charged once, and what was named."""
    rng = random.Random(1)  # noqa: S311 - the same drawings each time
    once: dict[str, list[bool]] = {}
    named: dict[str, set[str]] = {}
    for _ in range(sized(300, 6)):
        what, charged, there, codes, _ = try_one(rng)
        once.setdefault(what, []).append(charged == 1 and there)
        named.setdefault(what, set()).update(codes)
    for what, found in sorted(once.items()):
        print(
            f"{what:16} {len(found):4} drawings: once {sum(found) / len(found):6.1%}  {sorted(named[what])}"
        )
    every = [x for found in once.values() for x in found]
    print(f"{'all':16} {len(every):4} drawings: once {sum(every) / len(every):6.1%}")


if __name__ == "__main__":
    main()
