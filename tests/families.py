"""Families of slips that are known: parts with a pattern, a slot, holes with their centre lines, a stepped
outline and hidden edges, drawn with one thing done otherwise that is one thing to whoever drew it.

Each story says what it is about, the slips that are true of it, and what it may cost: a gap or overshoot 2 to
3, a wrong size 5 to 8, something missing 6 to 10, a habit 5 to 10, the whole drawing 15 to 25, mirrored 20 to
30. That a reader of drawings would put a mark there is common practice, no published source.
"""

from __future__ import annotations

import math
import random
from collections.abc import Callable
from dataclasses import dataclass, replace
from itertools import permutations
from typing import NamedTuple

from evenmark.core.drawing.model import Circle, Drawing, Entity, Line
from evenmark.core.drawing.moving import moved_entity
from evenmark.core.geometry.points import Point
from evenmark.core.geometry.similarities import Similarity
from tests.builders import arc, circle, drawing, line

CENTRE = "centre"


@dataclass(frozen=True)
class Part:
    """A plate by its numbers."""

    width: float
    height: float
    step: float
    rise: float
    fillet: float
    chamfer: float
    ring_at: Point
    ring_radius: float
    holes: int
    hole: float
    begins: float
    bore: float
    slot_at: Point
    slot_length: float
    slot_radius: float
    pin_at: Point
    pin: float
    sunk_at: Point
    sunk: tuple[float, float]
    hidden: tuple[float, float]
    without: frozenset[str] = frozenset()
    """What is left out: ``ring``, ``marks of ring``, ``hole of ring`` and the like."""
    slot_turn: float = 0.0

    def drawn(self) -> list[Entity]:
        """Everything of it, in the order in which somebody would draw it."""
        kept = [
            *self._outline(),
            *self._ring(),
            *self._unless("bore", _hole(self.ring_at, (self.bore,))),
            *self._unless("slot", self._slot()),
            *self._unless("pin", _hole(self.pin_at, (self.pin,))),
            *self._unless("sunk", _hole(self.sunk_at, self.sunk)),
            *self._unless("hidden", [self._up(x) for x in self.hidden]),
        ]
        return [e for e in kept if not (e.layer == CENTRE and "marks" in self.without)]

    def _unless(self, name: str, drawn: list[Entity]) -> list[Entity]:
        marks = f"marks of {name}" in self.without
        return [] if name in self.without else [e for e in drawn if not (marks and e.layer == CENTRE)]

    def _outline(self) -> list[Entity]:
        w, h, f, c = self.width, self.height, self.fillet, self.chamfer
        path = [(w, h - self.rise), (w - self.step, h - self.rise), (w - self.step, h), (c, h), (0.0, h - c)]
        lines = [line(a, b) for a, b in zip(path, [*path[1:], (0.0, 0.0)], strict=True)]
        if "fillet" in self.without:
            return [line((0, 0), (w, 0)), line((w, 0), path[0]), *lines]
        return [line((0, 0), (w - f, 0)), arc((w - f, f), f, -90, 0), line((w, f), path[0]), *lines]

    def _ring(self) -> list[Entity]:
        if "ring" in self.without:
            return []
        (x, y), out = self.ring_at, list[Entity]()
        for k in range(self.holes):
            t = math.radians(self.begins + 360 * k / self.holes)
            near, far = self.ring_radius - self.hole - 3, self.ring_radius + self.hole + 3
            if not ("hole of ring" in self.without and k == 1):
                out.append(
                    circle(
                        (x + self.ring_radius * math.cos(t), y + self.ring_radius * math.sin(t)), self.hole
                    )
                )
                ends = [(x + r * math.cos(t), y + r * math.sin(t)) for r in (near, far)]
                out.append(line(*ends, CENTRE))
        out.append(circle((x, y), self.ring_radius, CENTRE))
        return self._unless("ring", out)

    def _slot(self) -> list[Entity]:
        (x, y), h, r = self.slot_at, self.slot_length / 2, self.slot_radius
        out: list[Entity] = [
            line((x - h, y + r), (x + h, y + r)),
            line((x - h, y - r), (x + h, y - r)),
            arc((x + h, y), r, -90, 90),
            arc((x - h, y), r, 90, 270),
            line((x - h - r - 4, y), (x + h + r + 4, y), CENTRE),
            *(line((x + s, y - r - 4), (x + s, y + r + 4), CENTRE) for s in (-h, h)),
        ]
        return out if not self.slot_turn else [about(e, (x, y), self.slot_turn) for e in out]

    def _up(self, x: float) -> Entity:
        return line((x, 0), (x, self.height), "hidden")


def _hole(at: Point, radii: tuple[float, ...]) -> list[Entity]:
    (x, y), r = at, max(radii) + 4
    cross = [line((x - r, y), (x + r, y), CENTRE), line((x, y - r), (x, y + r), CENTRE)]
    return [*(circle(at, radius) for radius in radii), *cross]


def about(e: Entity, at: Point, turn: float, scale: float = 1.0, mirror: bool = False) -> Entity:
    """An entity turned, scaled or mirrored about a point."""
    m = Similarity(turn_deg=turn, scale=scale, mirror=mirror)
    x, y = m.point(at)
    return moved_entity(
        e, Similarity(scale=scale, mirror=mirror, turn_deg=turn, shift=(at[0] - x, at[1] - y))
    )


def a_part(rng: random.Random) -> Part:
    """A plate of which no two sizes are alike."""
    odd = [round(v, 1) for v in rng.sample([0.1 * k for k in range(1, 10)], 9)]
    width, height = 240.0 + rng.randint(0, 30) + odd[0], 112.0 + rng.randint(0, 14) + odd[1]
    holes = rng.randint(5, 8)
    return Part(
        width=width,
        height=height,
        step=36.0 + rng.randint(0, 6) + odd[2],
        rise=17.0 + odd[3],
        fillet=8.0 + odd[4],
        chamfer=10.0 + odd[5],
        ring_at=(61.0 + odd[6], 55.0 + odd[7]),
        ring_radius=27.0 + rng.randint(0, 4) + odd[8],
        holes=holes,
        hole=3.0 + odd[0] / 2,
        begins=0.0,
        bore=11.0 + odd[1],
        slot_at=(155.0 + odd[2], 82.0 + odd[3]),
        slot_length=26.0 + odd[4],
        slot_radius=5.0 + odd[5] / 2,
        pin_at=(195.0 + odd[6], 28.0 + odd[7]),
        pin=4.6 + odd[8] / 4,
        sunk_at=(150.0 + odd[0], 30.0 + odd[1]),
        sunk=(6.0 + odd[2] / 3, 9.0 + odd[3] / 3),
        hidden=(110.0 + odd[4], 119.0 + odd[5]),
    )


class Story(NamedTuple):
    """What was drawn instead, the slips that are true of it, and what it may cost; ``of`` names what it is
    about, so that stories of one drawing are about different things."""

    of: str
    drawn: Callable[[Part, random.Random], Part]
    codes: frozenset[str]
    low: float
    high: float


def _story(
    of: str, codes: str, low: float, high: float, **changes: Callable[[Part, random.Random], object]
) -> Story:
    def otherwise(p: Part, rng: random.Random) -> Part:
        return replace(p, **{name: change(p, rng) for name, change in changes.items()})  # type: ignore[arg-type]

    return Story(of, otherwise, frozenset(codes.split()), low, high)


def _off(rng: random.Random) -> float:
    """An amount that nobody would type and that is no other size of a part."""
    return rng.choice([-1, 1]) * (1.0 + rng.randint(3, 9) / 10 + rng.randint(1, 9) / 100 + 0.003)


def _moved(at: Point, rng: random.Random) -> Point:
    return (at[0] + _off(rng), at[1] + _off(rng))


def _left_out(what: str) -> Callable[[Part, random.Random], object]:
    return lambda p, rng: p.without | {what}


SIZE = (4.9, 8.1)
MISSING = (5.0, 10.1)
MANY = (5.0, 18.1)
STORIES: dict[str, Story] = {
    "ring turned": _story(
        "ring", "pattern-start", *SIZE, begins=lambda p, rng: rng.choice([7.0, 10.0, 18.5])
    ),
    "ring begun at 90": _story("ring", "pattern-start", *SIZE, begins=lambda p, rng: 180.0 / p.holes),
    "ring on another circle": _story(
        "ring", "pattern-circle", *SIZE, ring_radius=lambda p, rng: p.ring_radius + abs(_off(rng))
    ),
    "holes of another size": _story("ring", "unexplained", *SIZE, hole=lambda p, rng: p.hole + 0.313),
    "holes by their diameter": _story("ring", "radius-for-diameter", *SIZE, hole=lambda p, rng: 2 * p.hole),
    "another number of holes": _story("ring", "pattern-count", 4.9, 14.0, holes=lambda p, rng: p.holes - 1),
    "ring missing": _story("ring", "not-drawn", *MANY, without=_left_out("ring")),
    "marks of the ring missing": _story("ring", "not-drawn", *MISSING, without=_left_out("marks of ring")),
    "one hole of the ring missing": _story("ring", "not-drawn", *MISSING, without=_left_out("hole of ring")),
    "bore of another size": _story("bore", "unexplained", *SIZE, bore=lambda p, rng: p.bore + 0.517),
    "bore missing": _story("bore", "not-drawn", *MISSING, without=_left_out("bore")),
    "slot moved": _story("slot", "shifted", *SIZE, slot_at=lambda p, rng: _moved(p.slot_at, rng)),
    "slot longer": _story(
        "slot", "follows-edge", *SIZE, slot_length=lambda p, rng: p.slot_length + abs(_off(rng))
    ),
    "slot wider": _story("slot", "unexplained", *SIZE, slot_radius=lambda p, rng: p.slot_radius + 0.717),
    "slot turned": _story(
        "slot", "turned", *SIZE, slot_turn=lambda p, rng: rng.choice([5.0, -8.0, 30.0, 90.0])
    ),
    "slot missing": _story("slot", "not-drawn", *MANY, without=_left_out("slot")),
    "pin moved": _story("pin", "shifted", *SIZE, pin_at=lambda p, rng: _moved(p.pin_at, rng)),
    "pin missing": _story("pin", "not-drawn", *MISSING, without=_left_out("pin")),
    "pin by its diameter": _story("pin", "radius-for-diameter", *SIZE, pin=lambda p, rng: 2 * p.pin),
    "sunk hole moved": _story("sunk", "shifted", *SIZE, sunk_at=lambda p, rng: _moved(p.sunk_at, rng)),
    "sunk hole missing": _story("sunk", "not-drawn", *MANY, without=_left_out("sunk")),
    "sunk hole by diameters": _story(
        "sunk", "radius-for-diameter", *SIZE, sunk=lambda p, rng: (2 * p.sunk[0], 2 * p.sunk[1])
    ),
    "fillet of another radius": _story(
        "fillet", "wrong-fillet", *SIZE, fillet=lambda p, rng: p.fillet + 1.513
    ),
    "fillet by its diameter": _story(
        "fillet", "radius-for-diameter", *SIZE, fillet=lambda p, rng: 2 * p.fillet
    ),
    "corner left sharp": _story("fillet", "corner-left-sharp", *MISSING, without=_left_out("fillet")),
    "chamfer of another size": _story(
        "chamfer", "follows-edge", *SIZE, chamfer=lambda p, rng: p.chamfer + 1.7
    ),
    "width wrong": _story(
        "outline", "follows-edge unexplained", *SIZE, width=lambda p, rng: p.width + abs(_off(rng))
    ),
    "step too long": _story(
        "outline", "follows-edge unexplained", *SIZE, step=lambda p, rng: p.step + abs(_off(rng))
    ),
    "rise too high": _story(
        "outline", "follows-edge unexplained", *SIZE, rise=lambda p, rng: p.rise + abs(_off(rng))
    ),
    "hidden edges missing": _story("hidden", "not-drawn", *MISSING, without=_left_out("hidden")),
    "a hidden edge moved": _story(
        "hidden",
        "unexplained follows-edge shifted",
        *SIZE,
        hidden=lambda p, rng: (p.hidden[0], p.hidden[1] + 2.317),
    ),
}


def key_of(p: Part) -> Drawing:
    """A part as the key."""
    return drawing(p.drawn())


class Whole(NamedTuple):
    """Something done to all of a drawing."""

    done: Callable[[list[Entity], Part], list[Entity]]
    codes: frozenset[str]
    low: float
    high: float


def _longer(share: float) -> Callable[[list[Entity], Part], list[Entity]]:
    """Every straight edge of the outline runs on past its end by a share of its length."""

    def longer(drawn: list[Entity], p: Part) -> list[Entity]:
        out: list[Entity] = []
        for n, e in enumerate(drawn):
            if isinstance(e, Line) and n < 8 and e.layer == "outline":
                (ax, ay), (bx, by) = e.start, e.end
                e = e._replace(end=(bx + (bx - ax) * share, by + (by - ay) * share))
            out.append(e)
        return out

    return longer


def _relaid(layer: str, to: str) -> Callable[[list[Entity], Part], list[Entity]]:
    return lambda drawn, p: [e._replace(layer=to) if layer in ("", e.layer) else e for e in drawn]


def _each_about(
    turn: float, scale: float = 1.0, mirror: bool = False
) -> Callable[[list[Entity], Part], list[Entity]]:
    return lambda drawn, p: [about(e, (0.0, 0.0), turn, scale, mirror) for e in drawn]


WHOLES: dict[str, Whole] = {
    "turned by 5": Whole(_each_about(5.0), frozenset({"turned"}), 15, 25),
    "turned by 90": Whole(_each_about(90.0), frozenset({"turned"}), 15, 25),
    "upside down": Whole(_each_about(180.0), frozenset({"turned"}), 15, 25),
    "scaled by 1.3": Whole(_each_about(0.0, 1.3), frozenset({"unit-factor", "unexplained"}), 15, 25),
    "in inches": Whole(_each_about(0.0, 1 / 25.4), frozenset({"unit-factor"}), 15, 25),
    "mirrored": Whole(_each_about(0.0, 1.0, True), frozenset({"mirrored"}), 20, 30),
    "every end a little long": Whole(_longer(0.01), frozenset({"overshoot"}), 3, 10),
    "every end a little short": Whole(_longer(-0.004), frozenset({"gap"}), 3, 10),
    "everything on the default layer": Whole(_relaid("", "0"), frozenset({"default-layer"}), 5, 10.1),
    "centre lines on the outline": Whole(_relaid(CENTRE, "outline"), frozenset({"wrong-layer"}), 3, 10.1),
    "hidden edges on the outline": Whole(_relaid("hidden", "outline"), frozenset({"wrong-layer"}), 2.9, 10.1),
    "all radii for diameters": Whole(
        lambda drawn, p: [
            e._replace(radius=2 * e.radius) if isinstance(e, Circle) and e.layer != CENTRE else e
            for e in drawn
        ],
        frozenset({"radius-for-diameter"}),
        4.9,
        10.1,
    ),
    "no centre lines": Whole(
        lambda drawn, p: [e for e in drawn if e.layer != CENTRE], frozenset({"not-drawn"}), 5, 18.1
    ),
}


def some_stories(rng: random.Random, many: int) -> list[str]:
    """Names of stories about different things; diameters taken for radii are one habit, and one story."""
    names: list[str] = []
    about: set[str] = set()
    for name in rng.sample(list(STORIES), len(STORIES)):
        story = STORIES[name]
        of = {story.of, *(["diameters"] if story.codes == {"radius-for-diameter"} else [])}
        if len(names) < many and about.isdisjoint(of):
            names.append(name)
            about |= of
    return names


def told_as(codes: list[str], stories: list[frozenset[str]]) -> bool:
    """Say whether slips can be dealt to stories, one each, so that each is true of its story."""
    return len(codes) == len(stories) and any(
        all(code in story for code, story in zip(order, stories, strict=True))
        for order in permutations(codes)
    )
