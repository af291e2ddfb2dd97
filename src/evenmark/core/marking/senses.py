"""Sides and senses: what a list of sizes leaves open and every sheet implies (marking.md, Nothing is full
that is not the key).

- *sense*: which side of a line, which half of a circle, leaning left or right, inside or outside. Sizes are
  the same either way.
- *orphan*: a slip in what is only watched, of which nothing that is asked says anything. It is charged to the
  requirement `differs`.
- *play*: how far a feature may stand from its key feature although every size is met within its tolerance.
"""

from __future__ import annotations

import math
from collections.abc import Collection, Iterable, Sequence

from evenmark.core.dimensioning.figures import in_brackets
from evenmark.core.geometry.points import distance
from evenmark.core.linework.model import ArcFeature, CircleFeature, Edge, Linework
from evenmark.core.marking.examination import Ask, Examination
from evenmark.core.marking.kinds import IN_DEGREES, KINDS
from evenmark.core.marking.model import Finding, Item, Requirement


def switched_off(requirements: Iterable[Requirement], key: Linework) -> bool:
    """Say whether somebody switched off what says where or how large something is: then that is not asked by
    another name. Auxiliary dimensions were never asked."""
    auxiliary = {d.id for d in key.dimensions if in_brackets(d)}
    return any(
        not r.on and r.size not in auxiliary and (KINDS[r.kind].settles or KINDS[r.kind].part == "read")
        for r in requirements
        if r.kind in KINDS
    )


def play_of(asks: Iterable[Ask], key: Linework) -> float:
    """Return how far features may stand from the key while every size is met: what all sizes allow, one
    after the other."""
    out = 0.0
    longest = max((e.length for e in key.edges), default=0.0)
    for a in asks:
        allowed = a.allowed if a.r.tolerance is None else a.r.tolerance
        if allowed and KINDS[a.r.kind].settles in ("size", "said"):
            out += math.radians(allowed) * longest if a.r.kind in IN_DEGREES else allowed
    return out


def off_by(feature: str, exam: Examination) -> float:
    """Return how far what was drawn lies from a curve of the key, at its ends, its middle or its rim;
    infinity where nothing was drawn."""
    if feature in exam.exact:
        return 0.0
    asked, drawn = exam.key.curves.get(feature), exam.partner(feature)
    if isinstance(asked, CircleFeature) and isinstance(drawn, CircleFeature):
        return distance(asked.center, drawn.center) + abs(asked.radius - drawn.radius)
    ends = exam.ends_for.get(feature)
    if not isinstance(asked, Edge | ArcFeature) or ends is None:
        return math.inf
    off = max(distance(p, q) for p, q in zip(asked.ends, ends, strict=True))
    if isinstance(asked, ArcFeature):
        off = max(off, distance(asked.at, drawn.at)) if isinstance(drawn, ArcFeature) else math.inf
    return off


def stray(features: Iterable[str], exam: Examination, play: float) -> bool:
    """Say whether any of some curves was drawn farther from the key than its tolerances allow together."""
    reach = exam.tolerances.position + exam.slack + play
    return any(off_by(i, exam) > reach + exam.spared.get(i, 0.0) for i in features)


def orphans(
    wrong: Sequence[Finding], heads: Collection[int], watched: Collection[int], exam: Examination, play: float
) -> list[Finding]:
    """Return the slips of which nothing that is asked says anything: watched alone, followed by nothing that
    is asked, and of no feature that anything asked is wrong about."""
    key = exam.key
    told: set[str] = set()
    for f in wrong:
        if f.id not in watched:
            told |= _with_neighbours(f.features, key)
    return [
        f
        for f in wrong
        if f.id in watched
        and f.id not in heads
        and f.verdict in ("near", "missed")
        and told.isdisjoint(f.features)
        and stray(key.curves_of(f.features), exam, play)
    ]


def _with_neighbours(features: Iterable[str], key: Linework) -> set[str]:
    """Return some features with the curves and joints that hang on them."""
    out = set(features)
    for i in key.curves_of(tuple(features)):
        out.add(i)
        out |= {k.id for w in (0, 1) if (k := key.corner_of.get((i, w))) is not None}
    return out


def items_of(features: Iterable[str], exam: Examination) -> tuple[Item, ...]:
    """Return features of the key as things to be told, at their places."""
    found = (exam.key.curves[i] for i in dict.fromkeys(features) if i in exam.key.curves)
    return tuple(Item(code="elsewhere", at=f.at, layer=f.layer, feature=f.id) for f in found)
