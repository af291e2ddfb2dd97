"""Explain: which slips account for the findings that are not met.

- *hypothesis*: a slip that predicts numbers; it is put forward only when the drawing agrees within the exact
  tolerance.
- *token*: one thing to be explained: a finding, or one item of `clean`.
- *free*: how many numbers a hypothesis may choose to fit; of two that explain equally much, the one with
  fewer holds.

Hypotheses that explain most come first; each later one is kept only for what is still unexplained. Two
different slips that explain just the same with equally few free numbers are a tie: then the cause is
`unexplained` and lists both.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property

from evenmark.core.geometry.points import Point, distance
from evenmark.core.linework.model import Linework
from evenmark.core.linework.wording import noun, number, off_its_place, place
from evenmark.core.marking.examination import Asked, Examination
from evenmark.core.marking.kinds import IN_DEGREES, KINDS
from evenmark.core.marking.model import Cause, Finding

Token = tuple[int, int]
"""Finding id, and the number of an item of it or -1 for the finding itself."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Hypothesis:
    """A slip put forward."""

    code: str
    tokens: frozenset[Token]
    says: str
    free: int = 0
    about: int | None = None
    """The finding that the slip is about, which is charged whatever else it explains."""
    leader: int | None = None
    """The finding that those explained follow; explained with them if nothing else accounts for it."""


@dataclass(frozen=True, kw_only=True)
class Evidence:
    """The findings that need a reason, by what they are about."""

    exam: Examination
    findings: tuple[Finding, ...]
    """All that are not met."""
    unit: str
    asked: Asked = field(default_factory=lambda: Asked(()))
    start: Linework | None = None
    watched: frozenset[int] = frozenset()
    """Ids of findings that nobody asked for: they are not counted in what is said."""

    @cached_property
    def centre(self) -> frozenset[str]:
        """The edges of the key that are centre lines."""
        return frozenset(e.id for e in self.exam.key.edges if self.exam.role(e.layer) == "centre")

    @cached_property
    def open(self) -> tuple[Finding, ...]:
        """The findings that are near, missed or absent."""
        return tuple(f for f in self.findings if f.verdict in ("near", "missed", "absent"))

    @cached_property
    def following(self) -> Mapping[int, list[Finding]]:
        """The findings that follow each charged one, by its id."""
        out: dict[int, list[Finding]] = {}
        for f in self.findings:
            if f.verdict == "follows" and f.follows is not None:
                out.setdefault(f.follows, []).append(f)
        return out

    def failing(self, *kinds: str) -> Iterator[Finding]:
        """Yield near, missed and absent findings of some kinds."""
        return (f for f in self.open if f.kind in kinds and not _for_several(f))

    def off(self, *kinds: str) -> Iterator[Finding]:
        """Yield near, missed and following findings of some kinds: what was drawn otherwise, charged or
        not."""
        return (f for f in self.all_off if f.kind in kinds and not _for_several(f))

    @cached_property
    def all_off(self) -> tuple[Finding, ...]:
        """Every finding that is near, missed or follows."""
        return tuple(f for f in self.findings if f.verdict in ("near", "missed", "follows"))

    def about(self, feature: str) -> list[Finding]:
        """Return the failing findings that are about one feature, alone or with another."""
        return self._by_feature.get(feature, [])

    def about_all(self, feature: str) -> list[Finding]:
        """Return the findings about one feature alone that are not met, charged or not."""
        return self._off_by_feature.get(feature, [])

    @cached_property
    def _off_by_feature(self) -> dict[str, list[Finding]]:
        known: dict[str, list[Finding]] = {}
        for f in self.all_off:
            if len(f.features) == 1:
                known.setdefault(f.features[0], []).append(f)
        return known

    @cached_property
    def by_id(self) -> dict[int, Finding]:
        """The findings that are not met, by their numbers."""
        return {f.id: f for f in self.all_off} | {f.id: f for f in self.open}

    @cached_property
    def _by_feature(self) -> dict[str, list[Finding]]:
        known: dict[str, list[Finding]] = {}
        for f in self.open:
            for feature in f.features:
                known.setdefault(feature, []).append(f)
        return known

    @property
    def exact(self) -> float:
        """How closely a prediction of a length must agree."""
        return self.exam.tolerances.length + self.exam.slack

    def same(self, a: Point | None, b: Point | None) -> bool:
        """Say whether two points agree as closely as a prediction must."""
        return a is not None and b is not None and distance(a, b) <= self.exact


def _for_several(f: Finding) -> bool:
    """Say whether a finding is one size for several features, each of which has a finding of its own."""
    return f.kind == "radius" and len(f.features) > 1


Guess = Callable[[Evidence], Iterator[Hypothesis]]


def explain(
    wrong: Sequence[Finding],
    exam: Examination,
    unit: str,
    hypotheses: tuple[Guess, ...],
    *,
    asked: Asked | None = None,
    start: Linework | None = None,
    watched: frozenset[int] = frozenset(),
) -> tuple[Cause, ...]:
    """Return causes in order of weight, each with the findings it explains: ``wrong`` are those that are not
    met; ``start`` is the start drawing, if there was one, ``watched`` are findings that nobody asked for."""
    if not wrong:
        return ()
    evidence = Evidence(
        exam=exam,
        findings=tuple(wrong),
        unit=unit,
        asked=asked or Asked(()),
        start=start,
        watched=watched,
    )
    put = [h for guess in hypotheses for h in guess(evidence) if h.tokens]
    put.sort(key=lambda h: (-len(h.tokens), h.free, min(h.tokens), h.code))
    explained: set[Token] = set()
    charged = {f.id for f in evidence.open}
    kept: list[tuple[Hypothesis, frozenset[Token], list[Hypothesis]]] = []
    for h in put:
        fresh = h.tokens - explained
        led = h.leader is not None and (h.leader, -1) not in explained
        if not led and not any(n >= 0 or i in charged for i, n in fresh):
            continue  # what follows alone needs no reason
        if len(fresh) < len(h.tokens) and not _still_true(h, fresh):
            continue
        rivals = [o for o in put if o.code != h.code and o.tokens == h.tokens and o.free == h.free]
        kept.append((h, fresh, rivals))
        explained |= fresh
        explained |= {(g.id, -1) for i, _ in fresh for g in evidence.following.get(i, ())}
    kept = _told_with_its_slip(kept)
    for n, (h, fresh, rivals) in enumerate(kept):
        # an edge that no other slip accounts for is told together with what it carried along
        if h.leader is not None and (h.leader, -1) not in explained:
            explained |= {(h.leader, -1)}
            kept[n] = (h, fresh | {(h.leader, -1)}, rivals)
    kept += [(h, h.tokens, []) for h in _left_over(evidence, explained)]
    kept.sort(key=lambda k: (k[0].code == "unexplained", -len(k[1]), min(k[1])))
    return tuple(_cause(n, h, fresh, rivals) for n, (h, fresh, rivals) in enumerate(kept, 1))


Kept = tuple[Hypothesis, frozenset[Token], list[Hypothesis]]
"""A hypothesis that holds, what it explains, and what would explain just the same."""


def _told_with_its_slip(kept: list[Kept]) -> list[Kept]:
    """Return what holds, what an edge carried along told with the slip that was made at the edge itself."""
    out = list(kept)
    for row in kept:
        h, fresh, _ = row
        if h.leader is None:
            continue
        slip = next((k for k in out if k is not row and (h.leader, -1) in k[1]), None)
        if slip is not None:
            out[out.index(slip)] = (slip[0], slip[1] | fresh, slip[2])
            out.remove(row)
    return out


def _still_true(h: Hypothesis, fresh: frozenset[Token]) -> bool:
    """Say whether a hypothesis is worth telling for part of what it explains: its main finding must be part
    of it."""
    return min(h.tokens) in fresh or len(fresh) * 2 >= len(h.tokens)


def _cause(n: int, h: Hypothesis, fresh: frozenset[Token], rivals: list[Hypothesis]) -> Cause:
    ids = tuple(sorted({finding for finding, _ in fresh}))
    if rivals:
        codes = tuple(sorted({h.code, *(r.code for r in rivals)}))
        return Cause(
            id=n,
            code="unexplained",
            explains=ids,
            says=f"{h.says} More than one slip would look like this.",
            candidates=codes,
        )
    return Cause(id=n, code=h.code, explains=ids, says=h.says, about=h.about)


_OWN_SIZES = {"length": "length", "radius": "radius", "angle": "direction", "sweep": "included angle"}


def _how_far(f: Finding, named: str, e: Evidence) -> str | None:
    """Return by how much something is off that no slip explains: where it stands, or its size."""
    if isinstance(f.measured, tuple) and isinstance(f.expected, tuple):
        across, up = f.measured[0] - f.expected[0], f.measured[1] - f.expected[1]
        return f"{named} is {off_its_place(across, up, e.unit, e.exact)}; no single slip explains it."
    if f.what and f.deviation is not None:
        return f"{named}: its {f.what} is off by {number(f.deviation)} {e.unit}; no single slip explains it."
    if f.kind in _OWN_SIZES and isinstance(f.measured, float) and isinstance(f.expected, float):
        unit = "°" if f.kind in IN_DEGREES else f" {e.unit}"
        drawn = f"{named} has {_OWN_SIZES[f.kind]} {number(f.measured)}{unit}; {number(f.expected)} was asked"
        return f"{drawn} for, and no single slip explains it."
    return None


def _left_over(evidence: Evidence, explained: set[Token]) -> Iterator[Hypothesis]:
    """Yield one `unexplained` for each feature whose findings nothing accounts for."""
    groups: dict[str, list[Finding]] = {}
    for f in evidence.open:
        if f.kind not in ("clean", "layer-style", "whole") and (f.id, -1) not in explained:
            groups.setdefault(f.features[-1] if f.features else f.kind, []).append(f)
    for feature, group in groups.items():
        what = evidence.exam.key.by_id.get(feature)
        named = f"The {noun(what, evidence.centre)} {place(what)}" if what else "The drawing"
        kinds = ", ".join(dict.fromkeys(KINDS[f.kind].title.lower() for f in group))
        yield Hypothesis(
            code="unexplained",
            tokens=frozenset((f.id, -1) for f in group),
            says=_how_far(group[0], named, evidence)
            or f"{named} differs from what was asked ({kinds}); no single slip explains the numbers.",
        )
