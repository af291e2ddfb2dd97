"""Measure many requirements of one kind at once: what nearly every finding of nearly every attempt needs,
without a call for each.

- *bulk*: the requirements of one kind among all that are asked, with what their measuring looks up, worked
  out once a key.

Each function gives, for each requirement of a bulk, what was measured and its deviation, or None where the
kind's own function has to look closer (nothing drawn, a name in another letter case). A test holds them
against those functions.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from evenmark.core.linework.model import ArcFeature, CircleFeature, Corner, Edge, TextFeature
from evenmark.core.marking.examination import Ask, Examination
from evenmark.core.marking.model import Value

Found = tuple[Value, float | None] | None
"""Measured and deviation; a deviation of None with something measured means that it agrees."""


@dataclass(frozen=True, kw_only=True)
class Bulk:
    """The requirements of one kind: where they stand among all, the ids of their features, and what else is
    looked up."""

    kind: str
    rows: tuple[int, ...]
    ids: tuple[str, ...]
    expected: tuple[Any, ...]
    ends: tuple[tuple[tuple[str, int], ...], ...] = ()

    def only(self, chosen: Sequence[int]) -> Bulk:
        """Return some requirements of a bulk, by where they stand in it."""
        if len(chosen) == len(self.rows):
            return self
        rows, ids, expected, ends = self.rows, self.ids, self.expected, self.ends
        return Bulk(
            kind=self.kind,
            rows=tuple([rows[k] for k in chosen]),
            ids=tuple([ids[k] for k in chosen]),
            expected=tuple([expected[k] for k in chosen]),
            ends=tuple([ends[k] for k in chosen]) if ends else (),
        )


def bulks_of(asks: Sequence[Ask]) -> tuple[Bulk, ...]:
    """Return the bulks of what is asked, and last the rows that belong to none, as a bulk without a
    kind."""
    rows: dict[str, list[int]] = {}
    for n, a in enumerate(asks):
        kind = a.r.kind
        if (kind == "joined" and not (isinstance(a.feature, Corner) and len(a.feature.ends) == 2)) or (
            kind == "radius" and len(a.r.features) > 1
        ):
            kind = ""
        elif kind == "position" and isinstance(a.feature, ArcFeature | CircleFeature):
            kind = "centre"
        elif (kind == "position" and not isinstance(a.feature, Corner)) or (
            kind == "wording" and a.r.by != "fixed"
        ):
            kind = ""
        rows.setdefault(kind if kind in MEASURED else "", []).append(n)
    out = []
    for kind, found in rows.items():
        chosen = [asks[n] for n in found]
        joints = kind in ("position", "joined")
        out.append(
            Bulk(
                kind=kind,
                rows=tuple(found),
                ids=tuple(a.feature.id if a.feature is not None else "" for a in chosen),
                expected=tuple(a.expected for a in chosen),
                ends=tuple(a.feature.ends for a in chosen) if joints else (),  # type: ignore[union-attr, misc]
            )
        )
    return tuple(out)


def _lengths(b: Bulk, exam: Examination) -> list[Found]:
    get, out, dist = exam.drawn_for.get, list[Found](), math.dist
    for i, want in zip(b.ids, b.expected, strict=True):
        d: Any = get(i)
        if d is None:
            out.append(None)
        else:
            m = dist(d[1], d[2])
            out.append((m, m - want))
    return out


def _angles(b: Bulk, exam: Examination) -> list[Found]:
    get, out, atan2, degrees = exam.drawn_for.get, list[Found](), math.atan2, math.degrees
    limit = exam.tolerances.angle_deg
    for i, want in zip(b.ids, b.expected, strict=True):
        d: Any = get(i)
        if d is None:
            out.append(None)
            continue
        (ax, ay), (bx, by) = d[1], d[2]
        m = degrees(atan2(by - ay, bx - ax)) % 180.0
        if m == 180.0:
            m = 0.0
        off = (m - want) % 180.0
        if off > 90.0:
            off = 180.0 - off
        out.append((m, off) if off <= limit else None)
    return out


def _whole_edges(b: Bulk, exam: Examination) -> list[Found]:
    known, gaps = exam.drawn_for, exam.pairing.gaps
    nothing = (0.0, 0.0)
    return [nothing if i in known and i not in gaps else None for i in b.ids]


def _layers(b: Bulk, exam: Examination) -> list[Found]:
    get = exam.drawn_for.get
    out: list[Found] = []
    for i, want in zip(b.ids, b.expected, strict=True):
        d: Any = get(i)
        out.append((want, None) if d is not None and d.layer == want else None)
    return out


def _radii(b: Bulk, exam: Examination) -> list[Found]:
    get, out = exam.drawn_for.get, list[Found]()
    for i, want in zip(b.ids, b.expected, strict=True):
        d: Any = get(i)
        out.append((d.radius, d.radius - want) if isinstance(d, ArcFeature | CircleFeature) else None)
    return out


def _sweeps(b: Bulk, exam: Examination) -> list[Found]:
    get, out, degrees = exam.drawn_for.get, list[Found](), math.degrees
    limit = exam.tolerances.angle_deg
    for i, want in zip(b.ids, b.expected, strict=True):
        d: Any = get(i)
        off = degrees(d.sweep_rad) - want if isinstance(d, ArcFeature) and i in exam.exact else math.inf
        out.append((off + want, off) if -limit <= off <= limit else None)
    return out


def _wordings(b: Bulk, exam: Examination) -> list[Found]:
    get, out = exam.drawn_for.get, list[Found]()
    for i, want in zip(b.ids, b.expected, strict=True):
        d: Any = get(i)
        out.append((want, None) if isinstance(d, TextFeature) and d.wording == want else None)
    return out


def _heights(b: Bulk, exam: Examination) -> list[Found]:
    get, out = exam.drawn_for.get, list[Found]()
    for i, want in zip(b.ids, b.expected, strict=True):
        d: Any = get(i)
        out.append((d.height, d.height - want) if isinstance(d, TextFeature) else None)
    return out


def _anchors(b: Bulk, exam: Examination) -> list[Found]:
    get, out, dist = exam.drawn_for.get, list[Found](), math.dist
    key = exam.key.by_id
    for i, want in zip(b.ids, b.expected, strict=True):
        d: Any = get(i)
        same = isinstance(d, TextFeature) and d.anchor == key[i].anchor  # type: ignore[union-attr]
        out.append((d.at, dist(d.at, want)) if same else None)
    return out


def _turns(b: Bulk, exam: Examination) -> list[Found]:
    get, out = exam.drawn_for.get, list[Found]()
    for i, want in zip(b.ids, b.expected, strict=True):
        d: Any = get(i)
        out.append(
            (d.turn_deg, abs((d.turn_deg - want + 180.0) % 360.0 - 180.0))
            if isinstance(d, TextFeature)
            else None
        )
    return out


def _centers(b: Bulk, exam: Examination) -> list[Found]:
    get, out, dist = exam.drawn_for.get, list[Found](), math.dist
    for i, want in zip(b.ids, b.expected, strict=True):
        d: Any = get(i)
        if isinstance(d, ArcFeature | CircleFeature):
            at = d[1]
            out.append((at, dist(at, want)))
        else:
            out.append(None)
    return out


def _corners(b: Bulk, exam: Examination) -> list[Found]:
    get, out, dist = exam.ends_for.get, list[Found](), math.dist
    for ends, want in zip(b.ends, b.expected, strict=True):
        best, at = math.inf, None
        for i, which in ends:
            both = get(i)
            if both is not None:
                off = dist(both[which], want)
                if off < best:
                    best, at = off, both[which]
        out.append((at, best) if at is not None else None)
    return out


def _joints(b: Bulk, exam: Examination) -> list[Found]:
    get, out, dist = exam.ends_for.get, list[Found](), math.dist
    for (i, v), (j, w) in b.ends:
        one, other = get(i), get(j)
        if one is None or other is None:
            out.append(None)
        else:
            gap = dist(one[v], other[w])
            out.append((gap, gap))
    return out


def _free_ends(b: Bulk, exam: Examination) -> list[Found]:
    get, out, dist = exam.ends_for.get, list[Found](), math.dist
    key, drawn = exam.key.curves, exam.drawn_for.get
    for i in b.ids:
        there, f, made = get(i), key[i], drawn(i)
        if there is None or not isinstance(f, Edge | ArcFeature):
            out.append(None)
            continue
        first, others = dist(f.start, there[0]), [dist(f.end, there[1])]
        if isinstance(f, ArcFeature) and isinstance(made, ArcFeature):
            others.append(dist(f.at, made.at))
        out.append((there[0], first) if first >= max(others) else None)  # else another place is told
    return out


MEASURED: dict[str, Callable[[Bulk, Examination], list[Found]]] = {
    "length": _lengths,
    "angle": _angles,
    "whole-edge": _whole_edges,
    "layer": _layers,
    "radius": _radii,
    "sweep": _sweeps,
    "wording": _wordings,
    "text-height": _heights,
    "text-anchor": _anchors,
    "text-turn": _turns,
    "centre": _centers,
    "position": _corners,
    "joined": _joints,
    "free-ends": _free_ends,
}
"""What can be measured at once, by the kind of a bulk (`centre` is the position of a circle or arc)."""
