"""What the sheet of an exercise says: sizes, what is taken as read, the proof; and what slips would cost."""

from __future__ import annotations

from evenmark.web.models.base import Model, Point


class FlawOut(Model):
    """Something wrong with a key itself, at its place in the scene."""

    code: str
    at: Point
    features: list[str]
    by: float
    says: str


class SizeOut(Model):
    """A size: its figure, what it measures, and where it stands in the scene."""

    id: str
    number: int | None = None
    kind: str
    way: str | None
    figure: str
    says: float
    measures: float
    of: str
    features: list[str]
    count: int
    brackets: bool
    at: Point


class UntiedOut(Model):
    """A dimension that is tied to nothing, or to several things."""

    id: str
    why: str
    shown: float
    at: Point
    candidates: list[str]
    says: str


class TakenOut(Model):
    """Something taken as read, or offered to be."""

    id: str
    kind: str
    features: list[str]
    on: bool
    says: str


class ArrowOut(Model):
    """How something may move at a place of the scene, to both sides."""

    at: Point
    by: Point


class FreeOut(Model):
    """A way in which something is free, with sizes that would settle it."""

    features: list[str]
    moves: dict[str, Point]
    grows: dict[str, float]
    says: str
    settled_by: list[SizeOut]
    arrows: list[ArrowOut]


class TwiceOut(Model):
    """Sizes of which one follows from the others."""

    sizes: list[str]
    says: str


class ContradictionOut(Model):
    """A figure that the drawing does not measure, and what it would be."""

    size: str
    figure: str
    drawn: str
    says: str


class DecidedOut(Model):
    """What was decided about a figure that the drawing did not measure."""

    size: str
    holds: str
    says: str


class ProofOut(Model):
    """Whether a sheet says every size once."""

    format: str
    version: int
    key: str
    unit: str
    complete: bool
    says: str
    sizes: list[SizeOut]
    untied: list[UntiedOut]
    taken: list[TakenOut]
    free: list[FreeOut]
    twice: list[TwiceOut]
    contradictions: list[ContradictionOut]
    decided: list[DecidedOut]
    proposed: list[SizeOut]
    offered: list[str]
    not_proved: list[str]


class CostOut(Model):
    """What a typical slip would cost."""

    says: str
    costs: float


class CostsOut(Model):
    """What typical slips would cost."""

    slips: list[CostOut]
