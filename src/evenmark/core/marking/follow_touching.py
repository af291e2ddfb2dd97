"""Follow-through where things touch: round a belt, along a lever, at a tee.

- *touch*: a tangency that the attempt keeps. *Settled by its neighbours*: an edge between two things that
  it touches lies where they say; an arc that touches both its neighbours has no centre of its own, only a
  radius, unless something round stands on the same centre.

A pulley of another size, or in another place, turns the belt, and the arcs where it lies on become longer or
shorter: that is one slip, at the pulley. What ends on something that was moved is longer or shorter with it.
"""

from __future__ import annotations

from collections import defaultdict, deque
from collections.abc import Iterable

from evenmark.core.linework.model import ArcFeature, CircleFeature, Edge, Tee
from evenmark.core.marking.examination import Asked, Examination, keeps_to
from evenmark.core.marking.led import Led
from evenmark.core.marking.model import Finding

_OWN = ("length", "angle", "sweep")


def follow_touching(findings: list[Finding], asked: Asked, exam: Examination) -> Led:
    """Return what follows a round thing of another size or in another place through touching it."""
    if not asked.tangents or not any(f.features and f.features[0] in asked.tangents for f in findings):
        return {}
    return _Touching(findings, asked, exam).led()


def follow_tees(findings: list[Finding], asked: Asked, exam: Examination) -> Led:
    """Return the lengths of edges that keep to their supporting lines and end on something that stands
    elsewhere."""
    out: Led = {}
    off = {f.features[0]: f for f in findings if f.kind == "position" and len(f.features) == 1}
    tees = {end: t for t in exam.key.tees for end in t.ends}
    for f in findings:
        if f.kind != "length" or f.verdict not in ("near", "missed"):
            continue
        edge, drawn = exam.key.by_id[f.features[0]], exam.partner(f.features[0])
        if not isinstance(edge, Edge) or not isinstance(drawn, Edge) or not keeps_to(drawn, edge, exam):
            continue
        met = [t for which in (0, 1) if (t := tees.get((edge.id, which))) is not None]
        leaders = [off[t.id] for t in met if t.id in off and _moved(t, exam)]
        if leaders:
            first = leaders[0]
            out[f.id] = first.root
    return out


def _moved(tee: Tee, exam: Examination) -> bool:
    """Say whether what a tee lies on stands elsewhere."""
    return tee.on in exam.drawn_for and tee.on not in exam.exact


class _Touching:
    def __init__(self, findings: list[Finding], asked: Asked, exam: Examination) -> None:
        self.exam = exam
        self.own: dict[str, list[Finding]] = defaultdict(list)
        lost: set[frozenset[str]] = set()
        for f in findings:
            if len(f.features) == 1:
                self.own[f.features[0]].append(f)
            elif f.kind == "tangent":
                lost.add(frozenset(f.features))
        self.open_joints = {f.features[0] for f in findings if f.kind == "joined"}
        self.touch: dict[str, list[str]] = defaultdict(list)
        self.asked_to_touch = asked.tangents
        for a, others in asked.tangents.items():
            there = a in exam.drawn_for
            self.touch[a] += [b for b in others if there and b in exam.drawn_for and {a, b} not in lost]
        self.centred = {i for a in asked.of("concentric") for i in a.r.features}
        self.out: Led = {}

    def led(self) -> Led:
        """Go from each round thing that is off itself to what touches it."""
        waiting: deque[tuple[str, int]] = deque()
        seen: set[str] = set()
        for i in [i for i in self.own if i[0] in "ac" and self._is_round(i)]:
            leader = self._leader(i)
            if leader is not None:
                waiting.append((i, leader))
                seen.add(i)
        for i, leader in list(waiting):
            self._take(self._of(i, ("sweep",)), leader)
            self._corners_of(i, leader)
        while waiting:
            i, leader = waiting.popleft()
            for j in self.touch[i]:
                if j in seen or j in self.exam.exact or not self._settled_by_neighbours(j):
                    continue
                seen.add(j)
                kinds = _OWN if j[0] == "e" or j in self.centred else (*_OWN, "position")
                self._take(self._of(j, kinds), leader)
                self._corners_of(j, leader)
                waiting.append((j, leader))
        self._edges_elsewhere(seen)
        return self.out

    def _edges_elsewhere(self, seen: set[str]) -> None:
        """Go from each edge that touches what it should, all of which is right, but elsewhere: on its other
        side. The arcs that it touches begin or end with it."""
        for i in [i for i in self.own if i[0] == "e" and i not in seen and self._settled_by_neighbours(i)]:
            own = [f for f in self._of(i, _OWN) if f.verdict in ("near", "missed")]
            if not own:
                continue
            self._take(own[1:], own[0].id)
            self._corners_of(i, own[0].id)
            for j in self.touch[i]:
                self._take(self._of(j, ("sweep",)), own[0].id)

    def _leader(self, i: str) -> int | None:
        """Return the finding that a round thing is charged for itself: its size, or the place of a centre
        that is its own."""
        kinds = ("radius", "position") if i in self.centred or i[0] == "c" else ("radius",)
        for kind in kinds:
            for f in self._of(i, (kind,)):
                return f.root
        return None

    def _settled_by_neighbours(self, i: str) -> bool:
        """Say whether all that a thing is asked to touch is touched, so that it lies where that says."""
        asked = self.asked_to_touch.get(i, [])
        return len(asked) == len(self.touch[i]) and len(asked) > 0

    def _corners_of(self, i: str, leader: int) -> None:
        for which in (0, 1):
            corner = self.exam.key.corner_of.get((i, which))
            if corner is not None and corner.id not in self.open_joints:
                others = [m for m, _ in corner.ends if m != i]
                if all(m in self.touch[i] for m in others):
                    self._take(self._of(corner.id, ("position",)), leader)

    def _of(self, i: str, kinds: Iterable[str]) -> list[Finding]:
        return [f for f in self.own.get(i, ()) if f.kind in kinds]

    def _take(self, findings: list[Finding], leader: int) -> None:
        for f in findings:
            if f.verdict in ("near", "missed") and f.id != leader:
                self.out.setdefault(f.id, leader)

    def _is_round(self, i: str) -> bool:
        return isinstance(self.exam.key.by_id.get(i), ArcFeature | CircleFeature)
