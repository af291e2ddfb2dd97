"""How truly slips are told: random keys, one to three slips of known story in each, and what the engine says.

    python -m bench.slips [DRAWINGS] [--seed N] [--by sheet|feature] [--slips 1|2|3] [--show]

Prints, for each story, in how many drawings every slip was found at its feature, charged just once, and in
how many a specific cause was named that is not what happened. Amounts match no hypothesis by chance.
"""

from __future__ import annotations

import argparse
import itertools
import math
import random
from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, field, replace

from bench.extent import sized
from evenmark.core.drawing.annotations import Dimension, measure
from evenmark.core.drawing.look import Layer, Style
from evenmark.core.drawing.model import Circle, Drawing, Entity, Line
from evenmark.core.geometry.points import Point, distance
from evenmark.core.geometry.units import MM
from evenmark.core.linework.model import Corner, Linework, Outline, Tee
from evenmark.core.marking import MarkSheet, RuleSet, check, prepare

NAMES_NOTHING = frozenset({"unexplained", "by-eye", "gap", "overshoot", "follows-edge", "not-drawn"})
"""Causes that name no particular slip."""
STYLE = Style()
LAYERS = {n: Layer(name=n, style=STYLE) for n in ("outline", "hidden", "centre", "0")}


@dataclass
class Part:
    """A plate by its parameters: a stair of steps across and up, with a slanted side, holes, a pocket, and
    hidden lines that touch nothing."""

    steps: list[Point]
    holes: list[tuple[Point, float]]
    pocket: tuple[Point, float, float]
    hidden: list[tuple[Point, Point]]
    layers: dict[str, str] = field(default_factory=dict)

    def corners(self) -> list[Point]:
        """The outline, walked by its steps."""
        x = y = 0.0
        out = [(x, y)]
        for dx, dy in self.steps:
            x, y = x + dx, y + dy
            out.append((x, y))
        return out

    def entities(self) -> list[Entity]:
        """Everything that is drawn."""
        points = self.corners()
        out: list[Entity] = [
            _line(a, b, self.layers.get(f"step {n}", "outline"))
            for n, (a, b) in enumerate(zip(points, [*points[1:], points[0]], strict=True))
        ]
        for n, (at, r) in enumerate(self.holes):
            layer = self.layers.get(f"hole {n}", "outline")
            out.append(Circle(center=at, radius=r, layer=layer, style=STYLE, source=f"c{n}"))
        (x, y), w, h = self.pocket
        box = [(x, y), (x + w, y), (x + w, y + h), (x, y + h)]
        out += [_line(a, b, "outline") for a, b in zip(box, [*box[1:], box[0]], strict=True)]
        for n, (a, b) in enumerate(self.hidden):
            out.append(_line(a, b, self.layers.get(f"hidden {n}", "hidden")))
        return out

    def said(self) -> list[Dimension]:
        """What the sheet says of it: every step, every hole and pocket from the corner, each radius."""
        points = self.corners()
        out = []
        for a, b in itertools.pairwise(points):
            for axis, turn in ((0, 0.0), (1, 90.0)):
                if abs(a[axis] - b[axis]) > 1e-6:
                    out.append(_said("linear", (a, b), turn))
        o = points[0]
        for at, r in self.holes:
            out += [_said("linear", (o, at), 0.0), _said("linear", (o, at), 90.0)]
            out.append(_said("diameter", ((at[0] - r, at[1]), (at[0] + r, at[1]))))
        (x, y), w, h = self.pocket
        out += [_said("linear", (o, (x, y)), 0.0), _said("linear", (o, (x, y)), 90.0)]
        out += [_said("linear", ((x, y), (x + w, y)), 0.0), _said("linear", ((x, y), (x, y + h)), 90.0)]
        return out


def _line(a: Point, b: Point, layer: str) -> Line:
    return Line(start=a, end=b, layer=layer, style=STYLE, source="l")


def _said(kind: str, points: tuple[Point, ...], turn: float = 0.0) -> Dimension:
    return Dimension(kind=kind, points=points, measured=measure(kind, points, turn), turn_deg=turn)  # type: ignore[arg-type]


def a_part(rng: random.Random) -> Part:
    """A plate whose sizes are all different."""
    n = rng.randint(2, 4)
    runs = rng.sample(range(18, 60), n + 1)
    rises = rng.sample(range(14, 48), n + 1)
    steps: list[Point] = [(float(sum(runs)), 0.0)]
    for k in range(n):
        steps += [(0.0, float(rises[k])), (-float(runs[k]), 0.0)]
    steps.append((0.0, float(rises[n])))
    steps.append((-float(runs[n]), float(rng.randint(5, 12))))
    w, h = float(sum(runs)), float(rises[0])
    holes = []
    for k in range(rng.randint(1, 4)):
        at = (4.0 + 5.3 * k + rng.randint(0, 1), 3.0 + 2.7 * k)
        holes.append((at, 1.0 + 0.3 * k))
    pocket = ((w - 14.0, 2.0), float(rng.randint(5, 9)), float(rng.randint(3, 4)))
    x = w * 0.55
    hidden = [((x, 3.0), (x, h - 3.0)), ((x + 3.0, 3.5), (x + 7.0, 3.5))]
    return Part(steps=steps, holes=holes, pocket=pocket, hidden=hidden)


def odd(rng: random.Random, low: float, high: float) -> float:
    """An amount that nobody would type and no hypothesis predicts."""
    return rng.choice((-1, 1)) * (rng.uniform(low, high) + 0.0137)


Slip = Callable[[Part, random.Random], "Done"]


@dataclass(frozen=True)
class Done:
    """A slip that was made: the part with it, what it is about, and which specific causes are true."""

    part: Part
    of: str
    """What of the part it is about: ``step 2``, ``hole 0``, ``pocket``, ``hidden 1``."""
    true: frozenset[str] = frozenset()


def length(p: Part, rng: random.Random) -> Done:
    """One step of the outline too long or short: all after it shifted."""
    n = rng.randrange(1, len(p.steps) - 1)
    (dx, dy), off = p.steps[n], odd(rng, 1.1, 3.0)
    long = math.hypot(dx, dy)
    steps = list(p.steps)
    steps[n] = (dx * (1 + off / long), dy * (1 + off / long))
    return Done(replace(p, steps=steps), f"step {n}")


def angle(p: Part, rng: random.Random) -> Done:
    """One step of the outline in another direction."""
    n = rng.randrange(1, len(p.steps) - 1)
    (dx, dy), turn = p.steps[n], math.radians(odd(rng, 2.0, 6.0))
    steps = list(p.steps)
    cos, sin = math.cos(turn), math.sin(turn)
    steps[n] = (dx * cos - dy * sin, dx * sin + dy * cos)
    return Done(replace(p, steps=steps), f"step {n}")


def radius(p: Part, rng: random.Random) -> Done:
    """A hole of another size."""
    n = rng.randrange(len(p.holes))
    at, r = p.holes[n]
    holes = list(p.holes)
    holes[n] = (at, r + abs(odd(rng, 0.1, 0.5)))
    return Done(replace(p, holes=holes), f"hole {n}")


def place(p: Part, rng: random.Random) -> Done:
    """A hole elsewhere."""
    n = rng.randrange(len(p.holes))
    at, r = p.holes[n]
    holes = list(p.holes)
    holes[n] = ((at[0] + odd(rng, 0.7, 1.6), at[1] + rng.choice((0.0, odd(rng, 0.7, 1.6)))), r)
    return Done(replace(p, holes=holes), f"hole {n}")


def pocket(p: Part, rng: random.Random) -> Done:
    """A pocket that stands elsewhere as one."""
    (x, y), w, h = p.pocket
    by = (odd(rng, 0.6, 1.4), 0.0) if rng.random() < 0.5 else (0.0, odd(rng, 0.6, 0.9))
    return Done(replace(p, pocket=((x + by[0], y + by[1]), w, h)), "pocket")


def layer(p: Part, rng: random.Random) -> Done:
    """A hole or edge on another layer."""
    n = rng.randrange(len(p.holes))
    changed = replace(p, layers={**p.layers, f"hole {n}": "centre"})
    return Done(changed, f"hole {n}", frozenset({"wrong-layer"}))


def loose(p: Part, rng: random.Random) -> Done:
    """A hidden line that touches nothing, elsewhere."""
    n = rng.randrange(len(p.hidden))
    (ax, ay), (bx, by) = p.hidden[n]
    dx, dy = odd(rng, 0.6, 1.4), odd(rng, 0.6, 1.2)
    hidden = list(p.hidden)
    hidden[n] = ((ax + dx, ay + dy), (bx + dx, by + dy))
    return Done(replace(p, hidden=hidden), f"hidden {n}")


STORIES: dict[str, Slip] = {f.__name__: f for f in (length, angle, radius, place, pocket, layer, loose)}


def _middle(a: Point, b: Point) -> Point:
    return ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)


@dataclass
class Count:
    """What became of the drawings of one story."""

    drawings: int = 0
    found: int = 0
    once: int = 0
    untrue: int = 0
    named: Counter[str] = field(default_factory=Counter)


def as_drawing(p: Part, said: bool = False) -> Drawing:
    """A part as a drawing."""
    return Drawing(
        entities=tuple(p.entities()),
        layers=dict(LAYERS),
        unit=MM,
        dimensions=tuple(p.said()) if said else (),
    )


def judge(mark: MarkSheet, key: Linework, part: Part, done: list[Done]) -> tuple[bool, bool, bool]:
    """Say whether every slip was found at its feature, whether each is charged just once, and whether a
    specific cause was named that is none of theirs."""
    open_ = [f for f in mark.findings if f.verdict in ("near", "missed", "absent")]
    slips: dict[object, set[str]] = {}
    cause_of = {i: c.id for c in mark.causes for i in c.explains if c.code != "unexplained"}
    for f in open_:
        slips.setdefault(cause_of.get(f.id, ("finding", f.id)), set()).update(f.features)
    features = [_near(places(part, d.of), key) for d in done]
    # what a size names moves with its feature: a corner, by the edges that end there
    touched = [set().union(*(_parts(i, key) for i in ids)) if ids else set() for ids in slips.values()]
    found = all(any(own & there for there in touched) for own in features)
    # two slips at one edge, or at one hole, may well look like one
    once = len({d.of for d in done}) <= len(slips) <= len(done)
    true = frozenset().union(*(d.true for d in done)) | NAMES_NOTHING
    untrue = any(c.code not in true for c in mark.causes)
    return found, once, untrue


def places(p: Part, of: str) -> list[Point]:
    """Where a piece of a part stands: middles of its edges, and its corners or centre."""
    kind, _, number = of.partition(" ")
    if kind == "step":
        a, b = p.corners()[int(number) : int(number) + 2]
        return [_middle(a, b)]
    if kind == "hole":
        return [p.holes[int(number)][0]]
    if kind == "hidden":
        return [_middle(*p.hidden[int(number)])]
    (x, y), w, h = p.pocket
    box = [(x, y), (x + w, y), (x + w, y + h), (x, y + h)]
    return [*box, *(_middle(a, b) for a, b in zip(box, [*box[1:], box[0]], strict=True))]


def _near(points: list[Point], key: Linework) -> set[str]:
    """The key's features at some places, with the corners at their ends."""
    own = {f.id for f in key.curves.values() if any(distance(f.at, p) < 1e-3 for p in points)}
    own |= {k.id for k in key.corners if any(distance(k.at, p) < 1e-3 for p in points)}
    return own | {k.id for k in key.corners if any(i in own for i, _ in k.ends)}


def _parts(i: str, key: Linework) -> set[str]:
    f = key.by_id.get(i)
    if isinstance(f, Corner | Tee):
        return {i, *(e for e, _ in f.ends)}
    if isinstance(f, Outline):
        return {i, *(m for m, _ in f.members)}
    return {i}


def run(drawings: int, seed: int, by: str, slips: int, show: bool) -> dict[str, Count]:
    """Try so many drawings, each with so many slips."""
    out: dict[str, Count] = {}
    rng = random.Random(seed)  # noqa: S311 - the same drawings each time
    rules = RuleSet(listing="sheet" if by == "sheet" else "feature")
    for _ in range(drawings):
        part = a_part(rng)
        names = rng.sample(sorted(STORIES), slips)
        changed, done = part, []
        for name in names:
            one = STORIES[name](changed, rng)
            changed = one.part
            done.append(one)
        key = prepare(as_drawing(part, said=by == "sheet"), rules)
        mark = check(key, as_drawing(changed))
        found, once, untrue = judge(mark, key.linework, part, done)
        count = out.setdefault(" + ".join(names), Count())
        count.drawings += 1
        count.found += found
        count.once += found and once
        count.untrue += untrue
        count.named.update(c.code for c in mark.causes)
        if show and not (found and once and not untrue):
            open_ = [f for f in mark.findings if f.verdict in ("near", "missed", "absent")]
            print(names, [(f.kind, f.features, f.verdict) for f in open_])
            for c in mark.causes:
                print("    ", c.code, c.says)
    return out


def main() -> None:
    """Print one line a story, and all together."""
    parser = argparse.ArgumentParser(prog="bench.slips")
    parser.add_argument("drawings", nargs="?", type=int, default=sized(300, 6))
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--by", choices=("feature", "sheet"), default="feature")
    parser.add_argument("--slips", type=int, default=1)
    parser.add_argument("--show", action="store_true")
    options = parser.parse_args()
    found = run(options.drawings, options.seed, options.by, options.slips, options.show)
    total = Count()
    for name, c in sorted(found.items()):
        print(f"{name:24} {_said_of(c)}  {dict(c.named.most_common(4))}")
        total.drawings, total.found = total.drawings + c.drawings, total.found + c.found
        total.once, total.untrue = total.once + c.once, total.untrue + c.untrue
    print(f"{'all':24} {_said_of(total)}")


def _said_of(c: Count) -> str:
    shares = (f"{n / max(1, c.drawings):6.1%}" for n in (c.found, c.once, c.untrue))
    found, once, untrue = shares
    return f"{c.drawings:5} drawings: found {found}, once {once}, untrue {untrue}"


if __name__ == "__main__":
    main()
