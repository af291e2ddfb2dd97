"""Rank of sparse rows, exact about which rows depend on which: reduced row echelon form, one row at a time.

- *pivot*: the unknown by which a row is told from the others; it stands in no other row.
- *share*: how much of each size has gone into a row. A row that vanishes says that the sizes which have a
  share in it depend on each other; of what is taken as read no share is kept.

Every reduced row holds, so that new rows can be asked whether they would settle anything.
"""

from __future__ import annotations

import itertools
from collections import Counter
from collections.abc import Mapping

from evenmark.core.geometry import tolerance as tol

Row = dict[int, float]
Shares = dict[int, float]
MOST_COMBINED = 40
"""Up to so many motions or dependencies are made smaller by combining two of them."""


class Echelon:
    """Rows in reduced echelon form."""

    def __init__(self) -> None:
        self.rows: dict[int, Row] = {}
        """The reduced rows by their pivots, each with 1 at its pivot."""
        self.shares: dict[int, Shares] = {}
        self._in: dict[int, set[int]] = {}
        """The pivots of the rows that an unknown stands in, but for its own."""

    def copied(self) -> Echelon:
        """Return another one with the same rows."""
        out = Echelon()
        out.rows = {pivot: dict(row) for pivot, row in self.rows.items()}
        out.shares = {pivot: dict(shares) for pivot, shares in self.shares.items()}
        out._in = {i: set(pivots) for i, pivots in self._in.items()}
        return out

    def __len__(self) -> int:
        return len(self.rows)

    def reduced(self, row: Mapping[int, float], shares: Mapping[int, float]) -> tuple[Row, Shares]:
        """Return what is left of a row once all that is known is taken off it."""
        left, gone = dict(row), dict(shares)
        for i in [i for i in row if i in self.rows]:
            factor = left.get(i, 0.0)
            if factor == 0.0:
                continue
            _take(left, self.rows[i], factor)
            _take(gone, self.shares[i], factor)
        largest = max(map(abs, row.values()), default=0.0)
        return {i: v for i, v in left.items() if abs(v) > tol.PROOF_ZERO * max(1.0, largest)}, gone

    def add(self, row: Mapping[int, float], shares: Mapping[int, float] | None = None) -> Shares | None:
        """Add a row; return None if it says something new, else the shares of the sizes that it depends
        on."""
        left, gone = self.reduced(row, shares or {})
        if not left:
            return {k: v for k, v in gone.items() if abs(v) > tol.PROOF_ZERO}
        pivot = self._pivot(left)
        factor = 1.0 / left[pivot]
        left = {i: v * factor for i, v in left.items()}
        gone = {k: v * factor for k, v in gone.items()}
        left[pivot] = 1.0
        for other in self._in.pop(pivot, set()):
            theirs = self.rows[other]
            part = theirs.get(pivot, 0.0)
            before = set(theirs)
            _take(theirs, left, part)
            _take(self.shares[other], gone, part)
            theirs.pop(pivot, None)
            for i in [i for i, v in theirs.items() if abs(v) <= tol.PROOF_ZERO * tol.PROOF_ZERO]:
                del theirs[i]
            for i in set(theirs) - before:
                self._in.setdefault(i, set()).add(other)
            for i in before - set(theirs) - {pivot}:
                self._in[i].discard(other)
        self.rows[pivot], self.shares[pivot] = left, gone
        for i in left:
            if i != pivot:
                self._in.setdefault(i, set()).add(pivot)
        return None

    def _pivot(self, row: Row) -> int:
        """Choose the unknown that stands in fewest rows, of those that are not small in this one."""
        least = tol.PROOF_PIVOT_SHARE * max(map(abs, row.values()))
        return min(
            (i for i, v in row.items() if abs(v) >= least), key=lambda i: (len(self._in.get(i, ())), -i)
        )

    def settles(self, row: Mapping[int, float]) -> bool:
        """Say whether a row says something new."""
        return bool(self.reduced(row, {})[0])

    def motions(self, unknowns: int) -> list[Row]:
        """Return a way of moving for each unknown that is no pivot: what moves with it, by unknown."""
        out = []
        for free in range(unknowns):
            if free in self.rows:
                continue
            motion = {free: 1.0}
            for pivot in self._in.get(free, ()):
                v = self.rows[pivot].get(free, 0.0)
                if abs(v) > tol.PROOF_ZERO:
                    motion[pivot] = -v
            out.append(motion)
        return out


def _take(row: Row, other: Mapping[int, float], factor: float) -> None:
    """Take a multiple of another row off a row, in place."""
    if factor == 0.0:
        return
    for i, v in other.items():
        left = row.get(i, 0.0) - factor * v
        if left == 0.0:
            row.pop(i, None)
        else:
            row[i] = left


def combined(vectors: list[Row]) -> list[Row]:
    """Replace a vector by its difference with a multiple of another as long as that has fewer entries; each
    step makes the whole smaller, so it ends."""
    out = [dict(v) for v in vectors]
    if not 1 < len(out) <= MOST_COMBINED:
        return out
    better = True
    while better:
        better = False
        for i, j in itertools.permutations(range(len(out)), 2):
            left = _less(out[i], out[j])
            if left and len(left) < len(out[i]):
                out[i] = left
                better = True
    return out


def _less(a: Row, b: Row) -> Row:
    """Return a vector less that multiple of another with which it agrees in most entries."""
    ratios = [a[k] / b[k] for k in a.keys() & b.keys()]
    if not ratios:
        return {}
    common = Counter(round(r, 6) for r in ratios).most_common(1)[0][0]
    ratio = next(r for r in ratios if round(r, 6) == common)
    left = {k: a.get(k, 0.0) - ratio * b.get(k, 0.0) for k in a.keys() | b.keys()}
    return {k: v for k, v in left.items() if abs(v) > 10 * tol.PROOF_ZERO}
