"""Which sizes would settle what is free: of those that could be placed, the first that take up a motion."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import replace
from functools import cached_property

from evenmark.core.dimensioning.measured import MeasuredPlace
from evenmark.core.dimensioning.placing import could_be_placed
from evenmark.core.dimensioning.rank import Echelon, Row
from evenmark.core.dimensioning.size import Size
from evenmark.core.dimensioning.unknowns import Unknowns
from evenmark.core.geometry import tolerance as tol
from evenmark.core.linework.model import View

_FEW_SIZES = 3


class Suggestions:
    """The sizes that a drawing could be given, and what each of them would settle."""

    def __init__(self, u: Unknowns, views: Sequence[View]) -> None:
        self.u, self.views = u, views
        self._known_rows: dict[int, list[Row]] = {}
        self.turned: list[float] = []
        """How all unknowns change when the whole is turned, where nothing says how it stands: a size across
        or up would say that as well."""

    def _in_order(self, free: Sequence[tuple[str, ...]]) -> list[int]:
        """Return the candidates about what is free, those first that say nothing of how the whole is
        turned."""
        about = {n for features in free for i in features for n in self._about.get(i, ())}
        if not self.turned:
            return sorted(about)
        return sorted(about, key=lambda n: (self._turns(n), n))

    def _turns(self, n: int) -> bool:
        return any(
            abs(sum(v * self.turned[i] for i, v in row.items())) > tol.PROOF_SETTLES for row in self._rows(n)
        )

    @cached_property
    def _candidates(self) -> list[Size]:
        return list(could_be_placed(self.u.m, self.views))

    @cached_property
    def _about(self) -> dict[str, list[int]]:
        """Which candidates are about each feature, or about one that ends at it."""
        ending: dict[str, list[str]] = defaultdict(list)
        for joint in self.u.key.meetings.values():
            for i, _ in joint.ends:
                ending[i].append(joint.id)
        out: dict[str, list[int]] = defaultdict(list)
        for n, size in enumerate(self._candidates):
            for i in size.features:
                for feature in (i, *ending.get(i, ())):
                    out[feature].append(n)
        return out

    def _rows(self, n: int) -> list[Row]:
        found = self._known_rows.get(n)
        if found is None:
            found = [self.u.row(e) for e in self.u.of_size(self._candidates[n])]
            self._known_rows[n] = found
        return found

    def of(self, motion: Row, features: tuple[str, ...]) -> tuple[Size, ...]:
        """Return the first sizes that would settle a motion."""
        out: list[Size] = []
        for n in self._in_order([features]):
            moved = [
                abs(sum(v * motion.get(i, 0.0) for i, v in row.items())) > tol.PROOF_SETTLES
                for row in self._rows(n)
            ]
            if any(moved):
                out.append(_only(self._candidates[n], moved))
                if len(out) == _FEW_SIZES:
                    break
        return tuple(out)

    def all_of(self, free: Sequence[tuple[str, ...]], known: Echelon) -> tuple[Size, ...]:
        """Return the sizes that settle every motion, ``free`` being the features of each; a size is taken
        when it says something new in its turn."""
        out: list[Size] = []
        left = len(free)
        for n in self._in_order(free):
            new = [known.add(row) is None for row in self._rows(n)]
            if any(new):
                out.append(_only(self._candidates[n], new))
                left -= sum(new)
                if left <= 0:
                    break
        return tuple(out)


def _only(size: Size, which: list[bool]) -> Size:
    """Return a size for those of its features alone for which it says something."""
    if size.kind not in ("radius", "diameter") or all(which):
        return size
    features = tuple(i for i, new in zip(size.features, which, strict=True) if new)
    return replace(size, features=features, places=(MeasuredPlace(features[0]),), count=len(features))
