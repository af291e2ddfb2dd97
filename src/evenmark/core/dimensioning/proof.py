"""The proof: whether a sheet says every size once (sheet.md).

- *free*: a way in which features could move, or sizes change, with every size and everything taken as read
  still true. *Said twice*: a smallest set of sizes of which one follows from the others. *Contradiction*: a
  figure typed over that is not what the drawing measures.
- *settled*: what no free motion touches.

Equations are differentiated at the drawing (see `unknowns`) and reduced one by one (see `rank`): first what
makes an arc an arc and what is taken as read, then the sizes in their order. A size that vanishes depends on
those that have a share in it. What is left over moves.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from dataclasses import replace
from functools import cached_property

from evenmark.core.dimensioning.implied import implied_by
from evenmark.core.dimensioning.implied_kinds import OFFERED, Implied
from evenmark.core.dimensioning.measured import Measured, measured
from evenmark.core.dimensioning.offered import seen_apart
from evenmark.core.dimensioning.proved import FreeMotion, Proof, is_taken
from evenmark.core.dimensioning.rank import Echelon, Row, combined
from evenmark.core.dimensioning.readings import equations_of
from evenmark.core.dimensioning.size import Size, Sizes
from evenmark.core.dimensioning.sizes import Associations, sizes_of
from evenmark.core.dimensioning.suggestions import Suggestions
from evenmark.core.dimensioning.unknowns import Unknowns
from evenmark.core.drawing.roles import Role
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.points import Point
from evenmark.core.linework.model import Linework, View

MOST_FEATURES = 2000
"""A key of more features is not proved."""
_FEW_SIZES = 3


class ProofTooLarge(ValueError):
    """The key has too many features to be proved."""


def prove(
    key: Linework,
    roles: Mapping[str, Role],
    reach: float,
    *,
    angle_deg: float = tol.ANGLE_DEG,
    views: Sequence[View] = (),
    leave_out: Collection[str] = (),
    given: Collection[str] = (),
    ties: Associations | None = None,
    switched: Mapping[str, bool] | None = None,
) -> Proof:
    """Prove a sheet.

    ``reach`` and ``angle_deg`` are the tolerances within which the key counts as what it looks like.
    ``leave_out`` are features that nobody has to draw, ``given`` those that are there before anybody draws:
    they stand where they stand. ``ties`` say what dimensions measure that end on
    nothing, ``switched`` what is or is not taken as read against the rule. Raises ProofTooLarge.
    """
    m = measured(key, roles, reach)
    if leave_out:
        m = _without(m, frozenset(leave_out))
    if len(m.edges) + len(m.rounds) > MOST_FEATURES:
        raise ProofTooLarge(
            f"The key has {len(m.edges) + len(m.rounds)} features; up to {MOST_FEATURES} can be proved. "
            "Simplify the key, or use checks by feature."
        )
    sizes = sizes_of(m, ties)
    taken = implied_by(m, sizes.sizes, views, angle_deg=angle_deg, leave_out=leave_out)
    return _Prover(m, sizes, taken, switched or {}, views, frozenset(given)).proof()


def _without(m: Measured, out: frozenset[str]) -> Measured:
    return replace(
        m,
        edges=tuple(e for e in m.edges if e.id not in out),
        rounds=tuple(c for c in m.rounds if c.id not in out),
        axes=tuple(e for e in m.axes if e.id not in out),
        loose=tuple(one for one in m.loose if one[0][0] not in out),
    )


class _Prover:
    def __init__(
        self,
        m: Measured,
        sizes: Sizes,
        taken: tuple[Implied, ...],
        switched: Mapping[str, bool],
        views: Sequence[View],
        given: frozenset[str],
    ) -> None:
        self.given = given
        self.m, self.sizes, self.taken, self.switched, self.views = m, sizes, taken, switched, views
        self.on = [t for t in taken if is_taken(t, switched)]
        self.u = Unknowns(m, self.on)
        self.known = Echelon()
        self.share_of: list[Size] = []
        self.held: list[str] = []
        self.needed: frozenset[str] = frozenset()
        self.settling = Suggestions(self.u, views)

    def proof(self) -> Proof:
        self._take_as_read()
        twice = self._say_sizes()
        self._hold_still()
        motions = self._motions()
        if motions and self.sizes.sizes and self._need_offered(len(motions)):
            motions = []
        free = tuple(self._told(v) for v in motions)
        offered = self._offered() if motions else ()
        proposed = self.settling.all_of([m.features for m in free], self.known) if motions else ()
        return Proof(
            sizes=self.sizes.sizes,
            untied=self.sizes.untied,
            taken=self.taken,
            switched=self.switched,
            freedoms=free,
            twice=twice,
            contradictions=tuple(s.id for s in self.sizes.sizes if not s.agrees),
            proposed=proposed,
            offered=offered,
            held=tuple(self.held),
            needed=self.needed,
            not_proved=tuple(f.id for f in self.m.key.frees),
        )

    def _take_as_read(self) -> None:
        rows = [self.u.row(e) for e in self.u.of_shape()]
        rows += [self.u.row(e) for t in self.on for e in equations_of(self.u, t)]
        for row in sorted(rows, key=len):  # the shortest first keep the others short
            self.known.add(row)
        for name, xy in self.u.points.items():
            if self._is_given(name):
                for i in xy:
                    self.known.add({i: 1.0})
        for name, r in self.u.radii.items():
            if name in self.given:
                self.known.add({r: 1.0})

    def _is_given(self, point: str) -> bool:
        """Say whether a point stands where it stands: the centre or end of what was given."""
        name = point.partition(".")[0]
        joint = self.m.key.meetings.get(name)
        return name in self.given or (joint is not None and any(i in self.given for i, _ in joint.ends))

    def _say_sizes(self) -> tuple[tuple[str, ...], ...]:
        circuits: list[dict[int, float]] = []
        for size in self.sizes.sizes:
            if size.brackets:
                continue
            for equation in self.u.of_size(size):
                share = len(self.share_of)
                self.share_of.append(size)
                found = self.known.add(self.u.row(equation), {share: 1.0})
                if found:
                    circuits.append(found)
        order = {s.id: n for n, s in enumerate(self.sizes.sizes)}
        out = []
        for circuit in combined(circuits):
            ids = sorted({self.share_of[k].id for k in circuit}, key=order.__getitem__)
            # sizes that hold for several features may repeat what is taken as read: that is no other size
            if len(ids) > 1 or self._is_said_without(ids[0]):
                out.append(tuple(ids))
        return tuple(dict.fromkeys(out))

    def _is_said_without(self, size_id: str) -> bool:
        """Say whether one size alone says what is taken as read already: only where it holds for one
        feature."""
        size = next(s for s in self.sizes.sizes if s.id == size_id)
        return size.count == 1 and self.given.isdisjoint(size.features)

    # what is free

    def _hold_still(self) -> None:
        """Hold one point of the drawing, and one direction where nothing holds it: what is free is told
        against the rest."""
        shifts = [self.u.shift(1.0, 0.0), self.u.shift(0.0, 1.0)]
        turned = self.u.turned()
        if not self.u.points:
            return
        order = self._from_below()
        x, y = order[0][1]
        turns = self._is_free(turned)
        self.settling.turned = turned if turns else []
        for at, shift in zip((x, y), shifts, strict=True):
            if self._is_free(shift):
                self.known.add({at: 1.0})
                self.held = [order[0][0]]
        self._hold_views(order, self.views)
        if turns:
            for edge in self.m.edges:
                row = self.u.row(self.u.turn_of(edge.id))
                if self.known.settles(row):
                    self.known.add(row)
                    self.held.append(edge.id)
                    return
            for name, (px, py) in reversed(order):
                if (
                    self.known.settles({py: 1.0})
                    and abs(self.u.values[px] - self.u.values[x]) > tol.HELD_APART
                ):
                    self.known.add({py: 1.0})
                    self.held.append(name)
                    return

    def _from_below(self) -> list[tuple[str, tuple[int, int]]]:
        """Return every point, lowest and most left first; where something round begins last."""
        return sorted(
            self.u.points.items(),
            key=lambda p: (
                self._joins_smoothly(p[0]),
                self.u.values[p[1][0]] + self.u.values[p[1][1]],
                p[0],
            ),
        )

    def _joins_smoothly(self, point: str) -> bool:
        """Say whether a point is where something round begins: nobody measures from there."""
        joint = self.m.key.meetings.get(point)
        return joint is not None and any(i[0] == "a" for i, _ in joint.ends)

    def _hold_views(self, order: list[tuple[str, tuple[int, int]]], views: Sequence[View]) -> None:
        """Hold one point of each view: how far views stand apart is no size of the part."""
        for view in views[1:]:
            inside = [
                (x, y) for _, (x, y) in order if _within(self.u.values[x], self.u.values[y], view, self.u)
            ]
            for axis in (0, 1):
                motion = [0.0] * len(self.u.values)
                for at in inside:
                    motion[at[axis]] = 1.0
                for i, line in self.u.lines.items():
                    axis_line = self.m.key.curves[i]
                    if _within(*self.u.local(axis_line.at), view, self.u):
                        motion[line.off] = self.u.shift(1.0 - axis, float(axis))[line.off]
                if inside and self._is_free(motion):
                    self.known.add({inside[0][axis]: 1.0})

    def _is_free(self, motion: list[float]) -> bool:
        return all(
            abs(sum(v * motion[i] for i, v in row.items())) <= 10 * tol.PROOF_ZERO
            for row in self.known.rows.values()
        )

    def _motions(self) -> list[Row]:
        only_lines = {i for line in self.u.lines.values() for i in line}
        found = [v for v in self.known.motions(len(self.u.values)) if not set(v) <= only_lines]
        gauges = [dict(enumerate(self.u.shift(1.0, 0.0))), dict(enumerate(self.u.shift(0.0, 1.0)))]
        return combined([self._anchored(v, gauges) for v in found])

    def _anchored(self, motion: Row, gauges: list[Row]) -> Row:
        """Return a motion told against the larger part of the drawing: the fewest features move."""
        out = motion
        for axis, gauge in enumerate(gauges):
            ways = [v for i, v in out.items() if self._axis_of.get(i) == axis]
            if 2 * len(ways) <= len(self.u.points):
                continue  # more stand still
            counts = Counter(round(v, 6) for v in ways)
            counts[0.0] += len(self.u.points) - len(ways)
            most = max(counts.values())
            part = 0.0 if counts[0.0] == most else max(v for v, n in counts.items() if n == most)
            if part:
                moved = dict(out)
                for i, v in gauge.items():
                    moved[i] = moved.get(i, 0.0) - part * v
                out = {i: v for i, v in moved.items() if abs(v) > 10 * tol.PROOF_ZERO}
        return out

    @cached_property
    def _axis_of(self) -> dict[int, int]:
        """Which coordinate each unknown of a point is."""
        return {i: axis for p in self.u.points.values() for axis, i in enumerate(p)}

    @cached_property
    def _name_of(self) -> dict[int, str]:
        """What each unknown of a point or radius belongs to."""
        points = {i: name for name, p in self.u.points.items() for i in p}
        return points | {r: name for name, r in self.u.radii.items()}

    def _told(self, motion: Row) -> FreeMotion:
        moves: dict[str, Point] = {}
        grows: dict[str, float] = {}
        for i, v in motion.items():
            name = self._name_of.get(i)
            if name is None or abs(v) <= 10 * tol.PROOF_ZERO:
                continue
            axis = self._axis_of.get(i)
            if axis is None:
                grows[name] = v
            else:
                x, y = moves.get(name, (0.0, 0.0))
                moves[name] = (v, y) if axis == 0 else (x, v)
        most = max([math.hypot(*v) for v in moves.values()] + [abs(v) for v in grows.values()], default=1.0)
        features = {i.split(".")[0] for i in moves} | set(grows)
        told = tuple(sorted(features, key=lambda i: (i[0], int(i[1:]))))
        return FreeMotion(
            moves={i: (_told_as(x / most), _told_as(y / most)) for i, (x, y) in moves.items()},
            grows={i: _told_as(v / most) for i, v in grows.items()},
            features=told,
            settled_by=self.settling.of(motion, told),
        )

    def _need_offered(self, ways: int) -> bool:
        """Take as read what is offered and settles something, where nothing is free with it; return whether
        that is so. ``ways`` are free without."""
        left = [t for t in self.taken if t.kind in OFFERED and t.id not in self.switched]
        before, needed, settled = self.known.copied(), list[str](), 0
        for t in left:
            new = sum(self.known.add(self.u.row(e)) is None for e in equations_of(self.u, t))
            settled += new
            if new:
                needed.append(t.id)
        apart = any(t.kind == "projected" for t in left if t.id in needed)
        if apart:
            self._hold_views(self._from_below(), seen_apart(self.m))
        if (settled >= ways or apart) and not self._motions():
            self.needed = frozenset(needed)
            return True
        self.known = before
        return False

    def _offered(self) -> tuple[str, ...]:
        """Return what would settle something, were it taken as read."""
        return tuple(
            t.id
            for t in self.taken
            if not is_taken(t, self.switched)
            and any(self.known.settles(self.u.row(e)) for e in equations_of(self.u, t))
        )


def _told_as(share: float) -> float:
    """Return a share of a motion without what differentiating left in it."""
    return round(share, 6) + 0.0


def _within(x: float, y: float, view: View, u: Unknowns) -> bool:
    (left, low), (right, high) = u.local(view.box[:2]), u.local(view.box[2:])
    spare = tol.PROOF_STEP + u.m.reach / u.scale
    return left - spare <= x <= right + spare and low - spare <= y <= high + spare
