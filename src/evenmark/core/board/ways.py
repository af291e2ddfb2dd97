"""Ways of a pointer: level and plumb with the last point, with what the sentence has said, and with places on
which the pointer has rested; where a typed length leads.

- *guide*: a place with which another may be level or plumb (`TrackingPoint`).
"""

from __future__ import annotations

import math
import re
from collections.abc import Sequence

from evenmark.core.board.catches import SURE, Catch, Field, Pointing, TrackingPoint
from evenmark.core.board.figures import plain, rounded
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.deterministic import turn_of
from evenmark.core.geometry.points import Point

MOST_GUIDES = 12
_COORDINATES = re.compile(r"(-?\d+(?:\.\d+)?), (-?\d+(?:\.\d+)?)")


def ways(field: Field, pointing: Pointing, said: Sequence[TrackingPoint]) -> list[Catch]:
    """Return what is level or plumb with the last point that was said, with those before it, and with places
    on which the pointer rested. Where two guides cross is a place of its own."""
    if pointing.off and pointing.level != "firmly":
        return []
    if pointing.level == "not" or (pointing.held and pointing.held != "level"):
        return []
    base = said[-1] if said else None
    guides = [*said[:-1], *pointing.rested][-MOST_GUIDES:]
    (x, y) = pointing.at
    level = [g for g in guides if abs(g.at[1] - y) <= pointing.reach]
    plumb = [g for g in guides if abs(g.at[0] - x) <= pointing.reach]
    out = _from_base(field, pointing, base, level, plumb) if base is not None else []
    if pointing.off or pointing.level == "firmly":
        return out
    out += [_crossed(g, h, f"horizontal with {_name(g)}, vertical with {_name(h)}")
            for g in level for h in plumb if g.writes != h.writes]  # fmt: skip
    across, up = rounded(x, pointing.pixel, field.unit), rounded(y, pointing.pixel, field.unit)
    here = TrackingPoint(f"{plain(across)}, {plain(up)}", (across, up))
    out += [_crossed(g, here, f"horizontal with {_name(g)}")._replace(fixed=False) for g in level]
    out += [_crossed(here, g, f"vertical with {_name(g)}")._replace(fixed=False) for g in plumb]
    return out


def _name(guide: TrackingPoint) -> str:
    return guide.called or guide.writes


def _crossed(level: TrackingPoint, plumb: TrackingPoint, says: str) -> Catch:
    """Return the place that is level with one and plumb with another, in coordinates where both say them."""
    one, other = (_COORDINATES.fullmatch(g.writes) for g in (level, plumb))
    at = (plumb.at[0], level.at[1])
    if one and other:
        return Catch("level", says, f"{other[1]}, {one[2]}", at)
    return Catch("level", says, f"horizontal with ({level.writes}) vertical with ({plumb.writes})", at)


def _from_base(
    field: Field,
    pointing: Pointing,
    base: TrackingPoint,
    level: Sequence[TrackingPoint],
    plumb: Sequence[TrackingPoint],
) -> list[Catch]:
    """Return the way along an axis from the last point, where the pointer is near one: as far as a guide that
    crosses it, else as far as the pointer."""
    (x, y), (bx, by) = pointing.at, base.at
    dx, dy = x - bx, y - by
    across = abs(dx) >= abs(dy)
    if pointing.level != "firmly" and min(abs(dx), abs(dy)) > pointing.reach:
        return []
    way = ("right" if dx >= 0 else "left") if across else ("up" if dy >= 0 else "down")
    out = []
    for guide in plumb if across else level:
        far = abs(guide.at[0] - bx) if across else abs(guide.at[1] - by)
        at = (guide.at[0], by) if across else (bx, guide.at[1])
        if far <= pointing.reach or not _is_way(at, (bx, by), way):
            continue
        says = f"{way} to {'vertical' if across else 'horizontal'} with {_name(guide)}"
        if far == float(plain(far)) and _COORDINATES.fullmatch(guide.writes):
            out.append(Catch("level", says, f"{way} {plain(far)}", at))
        else:
            pair = (base, guide) if across else (guide, base)
            out.append(_crossed(*pair, says))
    far = rounded(abs(dx if across else dy), pointing.pixel, field.unit)
    if far > 0.0:
        at = (bx + math.copysign(far, dx), by) if across else (bx, by + math.copysign(far, dy))
        out.append(Catch("level", f"{way} {plain(far)}", f"{way} {plain(far)}", at, fixed=False))
    return out


def _is_way(at: Point, base: Point, way: str) -> bool:
    dx, dy = at[0] - base[0], at[1] - base[1]
    return {"right": dx > 0, "left": dx < 0, "up": dy > 0, "down": dy < 0}[way]


def directions(pointing: Pointing, base: Point, caught: Sequence[Catch]) -> list[Catch]:
    """Return where a pointer points from a place: along an axis, toward what is caught, in whole degrees."""
    (x, y), (bx, by) = pointing.at, base
    dx, dy = x - bx, y - by
    out = [
        Catch(c.kind, f"toward {c.says}", c.writes, c.at, c.on)
        for c in caught
        if c.kind in SURE and c.at != base
    ]
    turn = round(math.degrees(turn_of(dy, dx))) % 360
    if _is_along_axis(pointing, dx, dy):
        turn = round(turn / 90) * 90 % 360
    return [*out, Catch("free", f"toward {turn}°", f"{turn}", pointing.at)]


def _is_along_axis(pointing: Pointing, dx: float, dy: float) -> bool:
    """Say whether a pointed way is drawn to an axis."""
    gentle = max(pointing.reach, tol.GENTLE_SHARE * max(abs(dx), abs(dy)))
    near = pointing.level == "gently" and min(abs(dx), abs(dy)) <= gentle
    return near or pointing.level == "firmly"


def along(length: str, pointing: Pointing, base: Point, caught: Sequence[Catch]) -> list[Catch]:
    """Return where a length leads that was typed before: along an axis, toward what is caught, or in the
    direction of the pointer; ``length`` is written as it was typed."""
    (x, y), (bx, by) = pointing.at, base
    dx, dy = x - bx, y - by
    out = []
    if _is_along_axis(pointing, dx, dy):
        way = ("right" if dx >= 0 else "left") if abs(dx) >= abs(dy) else ("up" if dy >= 0 else "down")
        out.append(Catch("level", f"{way} {length}", f"{way} {length}", pointing.at))
    sure = [c for c in caught if c.kind in SURE and c.at != base]
    out += [
        Catch(c.kind, f"{length} toward {c.says}", f"{length} toward {c.writes}", c.at, c.on) for c in sure
    ]
    turn = round(math.degrees(turn_of(dy, dx))) % 360
    out.append(Catch("free", f"{length} toward {turn}°", f"{length} toward {turn}", pointing.at))
    return out
