"""A key made ready once for any number of attempts: its linework, its requirements and their marks."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from decimal import Decimal
from functools import cached_property

from evenmark.core.dimensioning.proved import Proof
from evenmark.core.dimensioning.says import between
from evenmark.core.drawing.model import Drawing, layout_of
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.units import Unit
from evenmark.core.linework import Linework
from evenmark.core.linework.model import View
from evenmark.core.marking.bound import Spots
from evenmark.core.marking.bulk import Bulk
from evenmark.core.marking.examination import Asked, MarkingSetting
from evenmark.core.marking.flaws import Flaw
from evenmark.core.marking.kept import KeptFindings
from evenmark.core.marking.kinds import SENSES
from evenmark.core.marking.kinds.said import places_of
from evenmark.core.marking.marks_json import Written, heads_of
from evenmark.core.marking.model import Requirement, RuleSet
from evenmark.core.marking.score import step_of
from evenmark.core.marking.senses import play_of, switched_off
from evenmark.core.marking.shapes import Table
from evenmark.core.marking.wording import characteristic

Joints = dict[tuple[str, str], tuple[int | None, int | None]]


@dataclass(frozen=True, kw_only=True)
class Key:
    """A key made ready.

    ``axes`` are its centre lines, of which only the supporting line counts; ``start`` is the linework of the
    start drawing, if any."""

    linework: Linework
    rules: RuleSet
    requirements: tuple[Requirement, ...]
    marks: dict[int, Decimal]
    unit: Unit
    declared: bool
    tolerances: tol.Tolerances
    tables: dict[str, Table]
    setting: MarkingSetting
    asked: Asked
    """Everything that is examined: what is asked, and what is watched besides."""
    watched: frozenset[int]
    """Ids of what is examined although nobody asks for it."""
    bulks: tuple[Bulk, ...]
    joint_spots: Spots
    center_spots: Spots
    axes: frozenset[str] = frozenset()
    aside: frozenset[str] = frozenset()
    """Features of the key that nobody has to draw: construction, and what a higher role covers."""
    start: Linework | None = None
    flaws: tuple[Flaw, ...] = ()
    """What is wrong with the key itself; nobody is charged for it."""
    prove: Callable[[], Proof]
    sheet: str | None = None
    """The name of the key's sheet layout, where that is what counts."""

    def examined(self, attempt: Drawing) -> Drawing:
        """Return what of an attempt is examined: all of it, or its sheet layout."""
        return layout_of(attempt, self.sheet) if self.rules.examines == "sheet" else attempt

    @property
    def joints(self) -> Joints:
        """Which ends touch at the joints of the key, by pair of features."""
        return self.setting.joints

    @property
    def views(self) -> dict[str, View]:
        """The key's views by id."""
        return self.setting.views

    @property
    def proof(self) -> Proof:
        """Whether the sheet says every size once; found when it is first asked for. Raises TooLarge."""
        return self.prove()

    @cached_property
    def words(self) -> dict[int, str]:
        """What each requirement is about, in a few words: a size of the sheet by what it measures
        (``lower left hole from the left``), another by the feature that it is asked of."""
        views, names = self.rules.views or (), self.linework.names
        sizes = {
            r.id: between(places_of(r), r.direction, self.linework, views)
            for r in self.requirements
            if r.kind == "distance" and r.direction is not None
        }
        if not names:
            return sizes
        others = (r for r in self.requirements if r.features and r.id not in sizes)
        return sizes | {
            r.id: _small(characteristic(r.kind, r.features, r.layer, names=names)) for r in others
        }

    @cached_property
    def _written(self) -> Written:
        asked = (a for a in self.asked.all if a.r.id not in self.watched)
        return Written(heads_of(asked, self.marks, self.words), self.kept.by_id, self.kept.texts)

    def written(self) -> Written:
        """What mark sheets write of this key's met findings again and again."""
        return self._written

    @cached_property
    def kept(self) -> KeptFindings:
        """The findings that hold again for other attempts at this key."""
        return KeptFindings(self.asked.all, self.bulks, self.linework)

    @cached_property
    def sized(self) -> frozenset[int]:
        """What the sheet says in figures, of what is asked."""
        return frozenset(r.id for r in self.requirements if r.size)

    @cached_property
    def differs(self) -> int | None:
        """The requirement that asks for sides and senses; None where it is not asked, or where somebody
        switched off what would say them."""
        found = self.asked.of(SENSES)
        return found[0].r.id if found and not switched_off(self.requirements, self.linework) else None

    @cached_property
    def play(self) -> float:
        """How far features may stand from the key while every size is met (see `senses`)."""
        return play_of(self.asked.all, self.linework)

    @cached_property
    def compared(self) -> frozenset[str]:
        """The curves that have to lie on the key: all that is asked for but axes, of which only the
        supporting line counts, and what was given."""
        return frozenset(self.linework.curves) - self.aside - self.axes - set(self.rules.given)

    @cached_property
    def scale(self) -> tuple[Decimal, Decimal]:
        """What one mark of 100 is worth here, and the smallest mark."""
        return Decimal(str(self.rules.marks)) / 100, step_of(self.rules.marks, len(self.marks))

    @cached_property
    def shown(self) -> dict[int, int]:
        """Where each finding that is asked stands on a mark sheet."""
        if not self.watched:
            return self.asked.rows
        asked = (a.r.id for a in self.asked.all if a.r.id not in self.watched)
        return {i: n for n, i in enumerate(asked)}

    @cached_property
    def possible(self) -> Decimal:
        """The marks of everything that is asked, together."""
        return sum(self.marks.values(), Decimal(0))

    @cached_property
    def arranged(self) -> bool:
        """Whether how views stand to each other is asked, so that each may be placed on its own."""
        return bool(self.asked.of("arrangement"))


def _small(name: str) -> str:
    return name[:1].lower() + name[1:]
