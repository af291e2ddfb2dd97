"""A proof as JSON: documented in docs/formats/proof.md."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import NotRequired, TypedDict

from evenmark.core.dimensioning import says
from evenmark.core.dimensioning.deciding import Decision, Decisions
from evenmark.core.dimensioning.proved import FreeMotion, Proof
from evenmark.core.dimensioning.size import Size, Untied
from evenmark.core.linework.model import Linework, View
from evenmark.core.plain import plain_number

FORMAT, VERSION = "even-mark/proof", 1


class SizeJson(TypedDict):
    """A size: what it says, what it measures, of which features; ``number`` is that of its balloon."""

    number: NotRequired[int]
    id: str
    kind: str
    way: str | None
    figure: str
    says: float
    measures: float
    of: str
    features: list[str]
    count: int
    brackets: bool
    at: list[float]


class UntiedJson(TypedDict):
    """A size that measures nothing that is known, and why."""

    id: str
    why: str
    shown: float
    at: list[float]
    candidates: list[str]
    says: str


class TakenJson(TypedDict):
    """Something that is or may be taken as read."""

    id: str
    kind: str
    features: list[str]
    on: bool
    says: str


class ArrowJson(TypedDict):
    """How something may move at a place of a page."""

    at: list[float]
    by: list[float]


class MotionJson(TypedDict):
    """Something that is free: how what moves and grows, and what would settle it."""

    features: list[str]
    moves: dict[str, list[float]]
    grows: dict[str, float]
    says: str
    settled_by: list[SizeJson]
    arrows: NotRequired[list[ArrowJson]]


class TwiceJson(TypedDict):
    """Sizes of which one follows from the others."""

    sizes: list[str]
    says: str


class ContradictionJson(TypedDict):
    """A size whose figure is not what it measures, with both as they would stand on the sheet."""

    size: str
    figure: str
    drawn: str
    says: str


class DecidedJson(TypedDict):
    """What was decided about a size whose figure was not what it measures."""

    size: str
    holds: str
    says: str


class ProofJson(TypedDict):
    """What the proof of a sheet says."""

    format: str
    version: int
    key: str
    unit: str
    complete: bool
    says: str
    sizes: list[SizeJson]
    untied: list[UntiedJson]
    taken: list[TakenJson]
    free: list[MotionJson]
    twice: list[TwiceJson]
    contradictions: list[ContradictionJson]
    decided: list[DecidedJson]
    proposed: list[SizeJson]
    offered: list[str]
    not_proved: list[str]


def to_json(
    proof: Proof,
    key: Linework,
    *,
    name: str,
    unit: str,
    views: Sequence[View] = (),
    chosen: Decisions | None = None,
) -> ProofJson:
    """Return a proof as JSON; ``name`` is that of the key's file, ``unit`` the symbol of its unit, ``views``
    are those of the key, ``chosen`` is what was decided about its dimensions."""
    chosen = chosen or {}
    balloons = {s.id: n for n, s in enumerate(proof.sizes, 1)}
    return {
        "format": FORMAT,
        "version": VERSION,
        "key": name,
        "unit": unit,
        "complete": proof.complete,
        "says": says.summary(proof),
        "sizes": [{**size_json(s, key, views), "number": balloons[s.id]} for s in proof.sizes],
        "untied": [_untied(u, key) for u in proof.untied],
        "taken": [
            {
                "id": t.id,
                "kind": t.kind,
                "features": list(t.features),
                "on": proof.is_taken(t),
                "says": says.taken(t, key),
            }
            for t in proof.taken
        ],
        "free": [_motion(m, key, views) for m in proof.freedoms],
        "twice": [{"sizes": list(ids), "says": says.twice(ids, proof)} for ids in proof.twice],
        "contradictions": [
            _contradiction(s, unit, chosen.get(s.id)) for s in proof.sizes if s.id in proof.contradictions
        ],
        "decided": [
            {"size": s.id, "holds": chosen[s.id], "says": says.decision(s, chosen[s.id], key, views)}
            for s in proof.sizes
            if s.id in chosen and s.id not in proof.contradictions
        ],
        "proposed": [size_json(s, key, views) for s in proof.proposed],
        "offered": list(proof.offered),
        "not_proved": list(proof.not_proved),
    }


def _untied(u: Untied, key: Linework) -> UntiedJson:
    return {
        "id": u.id,
        "why": u.why,
        "shown": plain_number(u.shown),
        "at": _point(u.at),
        "candidates": list(u.candidates),
        "says": says.untied(u, key),
    }


def _contradiction(s: Size, unit: str, chosen: Decision | None) -> ContradictionJson:
    return {
        "size": s.id,
        "figure": says.figure(s),
        "drawn": says.figure(replace(s, says=s.expected)),
        "says": says.contradiction(s, unit, chosen),
    }


def size_json(s: Size, key: Linework, views: Sequence[View] = ()) -> SizeJson:
    """Return a size as JSON."""
    return {
        "id": s.id,
        "kind": s.kind,
        "way": s.way or None,
        "figure": says.figure(s),
        "says": plain_number(s.says),
        "measures": plain_number(s.expected),
        "of": says.measures(s, key, views),
        "features": list(s.features),
        "count": s.count,
        "brackets": s.brackets,
        "at": _point(s.at),
    }


def _motion(m: FreeMotion, key: Linework, views: Sequence[View]) -> MotionJson:
    return {
        "features": list(m.features),
        "moves": {i: _point(v) for i, v in sorted(m.moves.items())},
        "grows": {i: plain_number(v) for i, v in sorted(m.grows.items())},
        "says": says.motion(m, key),
        "settled_by": [size_json(s, key, views) for s in m.settled_by],
    }


def _point(p: tuple[float, float]) -> list[float]:
    return [plain_number(p[0]), plain_number(p[1])]
