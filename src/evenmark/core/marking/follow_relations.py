"""Relations that follow: one that is met once the sizes and places that are charged anyway are right follows
those (marking.md, Verdicts); of several slips at its features, the one that alone accounts for it."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping
from functools import cached_property

from evenmark.core.geometry import tolerance as tol
from evenmark.core.linework.model import Corner, Tee
from evenmark.core.marking.examination import Ask, Asked, Examination
from evenmark.core.marking.examine import MEASURES, parts_of
from evenmark.core.marking.model import Finding

_OWN = ("radius", "position", "length", "angle", "sweep", "free-ends", "axis")
"""What a feature itself is charged for; the first of them leads what follows."""
_ABOUT_PLACES = ("position", "free-ends", "axis", "length", "angle", "sweep", "radius")
_MOST_ROOTS = 40
"""So many slips are repaired one by one to see what each of them moved."""
_OF_PLACES = frozenset(
    {"distance", "concentric", "evenly-spaced", "on-circle", "symmetric", "in-line", "agreement"}
)
"""Relations of places: they follow what stands elsewhere before what has another size."""
_RELATIONS = frozenset(
    [
        "distance",
        "diameter",
        "arc-length",
        "in-line",
        "included-angle",
        "perpendicular",
        "parallel",
        "concentric",
        "equal",
        "symmetric",
        "evenly-spaced",
        "on-circle",
        "area",
        "perimeter",
        "agreement",
        "count",
    ]
)


def follow_relations(findings: list[Finding], asked: Asked, exam: Examination) -> dict[int, int]:
    """Let a relation follow the first charged size or place of its features if it is met once those are
    right.

    Tangency follows a circle or arc that is elsewhere or of another size, not an edge that misses it: that is
    what it asks.
    """
    open_ = [
        f
        for f in findings
        if f.verdict in ("missed", "near")
        and (f.kind in _RELATIONS or f.kind == "tangent" or (f.kind == "radius" and len(f.features) > 1))
    ]
    if not open_:
        return {}
    own: dict[str, list[Finding]] = defaultdict(list)
    for f in findings:
        if f.kind in _OWN and f.verdict in ("missed", "near", "follows") and len(f.features) == 1:
            for i in (f.features[0], *_curves_at(f.features[0], exam)):
                own[i].append(f)
    if not own:
        return {}
    curves = frozenset(i for i in own if i in exam.key.curves and i in exam.drawn_for)
    right = exam.with_repaired(curves)
    rounds = exam.with_repaired(frozenset(i for i in curves if i[0] in "ac"))
    alone = _Alone(exam, own)
    led: dict[int, int] = {}
    for f in open_:
        parts = [i for i in parts_of(f, exam) if i in own] or _parts_of_views(f, own, exam)
        if f.kind == "tangent":
            parts = [i for i in parts if i[0] in "ac"]
        if not parts:
            continue
        m = MEASURES[f.kind](asked.by_id[f.id], rounds if f.kind == "tangent" else right)
        if m.deviation is not None and tol.within(m.deviation, f.tolerance or 0.0, exam.slack):
            rank = _ABOUT_PLACES if f.kind in _OF_PLACES else _OWN
            best = [min(own[i], key=lambda g: (rank.index(g.kind), g.id)) for i in parts]
            best.sort(key=lambda g: (rank.index(g.kind) if f.kind in _OF_PLACES else 0, g.id))
            led[f.id] = alone.root_for(asked.by_id[f.id], f, [g.root for g in best]) or best[0].root
    return led


class _Alone:
    """What is met once one slip alone is repaired: of several slips at the features of a relation, that one
    is what it follows."""

    def __init__(self, exam: Examination, own: Mapping[str, list[Finding]]) -> None:
        self.exam, self.own = exam, own
        self.known: dict[int, Examination] = {}

    def root_for(self, a: Ask, f: Finding, roots: list[int]) -> int | None:
        """Return the first of some slips that alone accounts for a finding; None where none does."""
        distinct = list(dict.fromkeys(roots))
        if len(distinct) < 2:
            return None
        for root in distinct[:_MOST_ROOTS]:
            m = MEASURES[f.kind](a, self._repaired(root))
            if m.deviation is not None and tol.within(m.deviation, f.tolerance or 0.0, self.exam.slack):
                return root
        return None

    def _repaired(self, root: int) -> Examination:
        if root not in self.known:
            if len(self.known) >= _MOST_ROOTS:
                return self.exam  # more slips than anybody could tell apart
            self.known[root] = self.exam.with_repaired(frozenset(self._curves.get(root, ())))
        return self.known[root]

    @cached_property
    def _curves(self) -> dict[int, list[str]]:
        """The curves that were drawn and of which something follows a root, by the root."""
        out: dict[int, list[str]] = defaultdict(list)
        for i, found in self.own.items():
            if i in self.exam.key.curves and i in self.exam.drawn_for:
                for root in {g.root for g in found}:
                    out[root].append(i)
        return out


def _curves_at(feature: str, exam: Examination) -> list[str]:
    """Return the curves that end at a corner or meeting: it is out of place because they are."""
    joint = exam.key.by_id.get(feature)
    return [i for i, _ in joint.ends] if isinstance(joint, Corner | Tee) else []


def _parts_of_views(f: Finding, own: Mapping[str, list[Finding]], exam: Examination) -> list[str]:
    return list(own) if f.kind == "agreement" else []
