"""What was decided about dimensions whose value is not what their geometry measures.

- *drawing*: the drawing follows the sheet: the features move until they measure what the dimension says.
- *value*: marked by the sheet's value: the same for what is asked; the sheet stays as it was drawn.
- *sheet*: the sheet follows the drawing: the dimension shows what it measures.

Features move as the proof knows them (see `unknowns`): everything implied and every other dimension stays
true, and of all ways to do so the least is taken (Newton's method, with least squares at each step). Where no
way is found, or the drawing would become another (an edge shrinks to nothing), the key stays as it is and the
dimension goes on contradicting.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from evenmark.core.dimensioning.implied import implied_by
from evenmark.core.dimensioning.implied_kinds import Implied
from evenmark.core.dimensioning.measured import measured
from evenmark.core.dimensioning.proved import is_taken
from evenmark.core.dimensioning.readings import equations_of
from evenmark.core.dimensioning.reshaping import reshaped
from evenmark.core.dimensioning.size import Size
from evenmark.core.dimensioning.sizes import Associations, sizes_of
from evenmark.core.dimensioning.unknowns import Equation, Unknowns, Values
from evenmark.core.drawing.roles import Role
from evenmark.core.geometry import tolerance as tol
from evenmark.core.linework.model import CircleFeature, Linework, View

Decision = Literal["drawing", "sheet", "value"]
Decisions = Mapping[str, Decision]
"""What was decided, by the id of the dimension."""
MOST_DRIVEN = 400
"""A key of more features does not follow its sheet."""
_MOST_STEPS = 20


@dataclass(frozen=True, kw_only=True)
class SheetSetting:
    """What a sheet is read by: roles of layers, tolerances, views, and what was said by hand."""

    roles: Mapping[str, Role]
    reach: float
    angle_deg: float = tol.ANGLE_DEG
    views: Sequence[View] = ()
    leave_out: Collection[str] = ()
    ties: Associations | None = None
    switched: Mapping[str, bool] | None = None


def contradicting(key: Linework, setting: SheetSetting) -> tuple[Size, ...]:
    """Return the sizes of a key whose value is not what they measure."""
    m = measured(key, setting.roles, setting.reach)
    return tuple(s for s in sizes_of(m, setting.ties).sizes if not s.agrees)


def decided(key: Linework, setting: SheetSetting, decisions: Decisions) -> Linework:
    """Return a key after what was decided about its dimensions; ids stay."""
    if not decisions:
        return key
    wrong = [s for s in contradicting(key, setting) if s.id in decisions]
    shown = {s.id: s for s in wrong if decisions[s.id] == "sheet"}
    key = _showing(key, shown)
    for size in wrong:
        if size.id not in shown:
            key = _driven(key, setting, size) or key
    return key


def _showing(key: Linework, sizes: Mapping[str, Size]) -> Linework:
    """Return a key in which some dimensions show what they measure."""
    if not sizes:
        return key
    return key.with_(
        dimensions=tuple(
            replace(d, typed=None, measured=sizes[d.id].expected) if d.id in sizes else d
            for d in key.dimensions
        )
    )


def _driven(key: Linework, setting: SheetSetting, size: Size) -> Linework | None:
    """Return a key that measures what one of its sizes says; None where there is no way."""
    m = measured(key, setting.roles, setting.reach)
    if len(m.edges) + len(m.rounds) > MOST_DRIVEN or size.says <= 0.0:
        return None
    sizes = [s for s in sizes_of(m, setting.ties).sizes if not s.brackets]
    taken = implied_by(m, sizes, setting.views, angle_deg=setting.angle_deg, leave_out=setting.leave_out)
    on = [t for t in taken if is_taken(t, setting.switched or {})]
    others = [s for s in sizes if s.id != size.id and s.agrees]
    for sign in (1.0, -1.0):
        u = Unknowns(m, on)
        before = list(u.values)
        if _solved(u, on, others, size, sign):
            _stand_again(u, before)
            moved = reshaped(u, before)
            found = _told(moved, size)
            same = _is_the_same_drawing(key, moved, setting.reach)
            if same and _measures_so(moved, setting, size) and _says_so(found, setting, size):
                return found
        if size.kind != "angle":
            return None
    return None


def _is_the_same_drawing(before: Linework, after: Linework, reach: float) -> bool:
    """Say whether no edge vanished or turned about, nothing round shrank to nothing, and no arc became
    another one."""
    for e, f in zip(before.edges, after.edges, strict=True):
        along = sum((e.end[k] - e.start[k]) * (f.end[k] - f.start[k]) for k in (0, 1))
        if along <= reach * e.length:
            return False
    arcs = zip(before.arcs, after.arcs, strict=True)
    bent = all(abs(a.sweep_rad - b.sweep_rad) < math.pi / 2 for a, b in arcs)
    return bent and all(c.radius > reach for c in after.rounds)


def _told(key: Linework, size: Size) -> Linework:
    """Return a key whose dimension measures what it says: its own points lay where it read otherwise."""
    return key.with_(
        dimensions=tuple(replace(d, measured=size.says) if d.id == size.id else d for d in key.dimensions)
    )


def _measures_so(key: Linework, setting: SheetSetting, size: Size) -> bool:
    """Say whether the dimension's own points measure what it says: not asked of one that was tied by hand,
    whose points lie elsewhere."""
    d = next(d for d in key.dimensions if d.id == size.id)
    near = setting.angle_deg if size.kind == "angle" else setting.reach
    return d.id in (setting.ties or {}) or abs(d.measured - size.says) <= near


def _says_so(key: Linework, setting: SheetSetting, size: Size) -> bool:
    m = measured(key, setting.roles, setting.reach)
    found = next((s for s in sizes_of(m, setting.ties).sizes if s.id == size.id), None)
    return found is not None and found.agrees and abs(found.expected - size.says) <= m.reach


def _solved(u: Unknowns, on: Sequence[Implied], others: Sequence[Size], size: Size, sign: float) -> bool:
    """Move the unknowns until a size is what it says and all else holds; return whether they got there."""
    equations: list[Equation] = [*u.of_shape(), *(e for t in on for e in equations_of(u, t))]
    equations += [e for s in others for e in u.of_size(s)]
    asked = list(u.of_size(size))
    if size.kind == "chamfer":  # its angles stay
        equations += asked[len(size.features) :]
        asked = asked[: len(size.features)]
    wanted = [value(u.values) for value, _ in equations]
    for value, _ in asked:
        now = value(u.values)
        turn = math.radians(size.says - size.expected) * sign
        wanted.append(now + turn if size.kind == "angle" else now * size.says / size.expected)
    equations += asked
    last = math.inf
    for _ in range(_MOST_STEPS):
        off = [want - value(u.values) for want, (value, _) in zip(wanted, equations, strict=True)]
        far = max(map(abs, off), default=0.0)
        if far <= tol.DRIVEN and far > last / 2:  # as near as rounding lets it
            return True
        last = far
        matrix = np.zeros((len(equations), len(u.values)))
        for n, equation in enumerate(equations):
            for i, slope in u.row(equation).items():
                matrix[n, i] = slope
        step, *_ = np.linalg.lstsq(matrix, np.array(off), rcond=tol.DRIVEN_RANK)
        if not np.all(np.isfinite(step)) or float(np.max(np.abs(step))) > 1.0:
            return False
        for i, change in enumerate(step.tolist()):
            u.values[i] += change
    return last <= tol.DRIVEN


def _stand_again(u: Unknowns, before: Values) -> None:
    """Shift all so that most of it stands where it stood: centre lines before edges and circles, these before
    the centres of arcs; of equals what lies most to the left, or lowest."""
    for axis in (0, 1):
        votes: list[tuple[float, float, int]] = []
        """How far something moved, where it lies, and how much it counts."""
        for e in u.m.edges:
            if abs(e.start[axis] - e.end[axis]) <= u.m.reach:
                votes.append((_by(u, before, u.at((e.id, 0))[axis]), e.at[axis], 2))
        for c in u.m.rounds:
            whole = isinstance(c, CircleFeature)
            votes.append((_by(u, before, u.points[c.id][axis]), c.center[axis], 2 if whole else 1))
        for line in u.m.axes:
            if abs(line.start[axis] - line.end[axis]) <= u.m.reach:
                off = u.lines[line.id].off
                by = _by(u, before, off) / u.shift(1.0 - axis, float(axis))[off]
                votes.append((by, line.at[axis], 3))
        counts: Counter[float] = Counter()
        for by, _, weight in votes:
            counts[round(by, 9)] += weight
        if not counts:
            continue
        most = max(counts.values())
        stays = min((at, by) for by, at, _ in votes if counts[round(by, 9)] == most)[1]
        for i, share in enumerate(u.shift(1.0 - axis, float(axis))):
            u.values[i] -= share * stays


def _by(u: Unknowns, before: Values, i: int) -> float:
    return u.values[i] - before[i]
