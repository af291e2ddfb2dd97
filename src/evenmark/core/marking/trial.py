"""A trial: a drawing examined under one motion, with its marks.

- *measured*: verdicts before anything was followed through. *Judged*: who is charged, and what that earns.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import cached_property

from evenmark.core.drawing.roles import stated_role
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.linework import Linework
from evenmark.core.marking.attribute import OPEN, attribute, charge_what_happened
from evenmark.core.marking.charges import charged, earned_with
from evenmark.core.marking.examination import Examination, Measure
from evenmark.core.marking.examine import examine
from evenmark.core.marking.follow import follow
from evenmark.core.marking.key import Key
from evenmark.core.marking.kinds import KINDS
from evenmark.core.marking.match import Pairing, match
from evenmark.core.marking.model import Cause, Finding, Verdict
from evenmark.core.marking.move import moved_linework
from evenmark.core.marking.score import TIMES_PAIRED, looked_at, score, total_of
from evenmark.core.marking.senses import items_of, orphans, stray
from evenmark.core.marking.shapes import Table, moved_tables, tables
from evenmark.core.marking.views import Shifts, place_views, shifted, shifts_of_features

_BESIDE = ("layers", "look", "charged")
"""Parts of a list that say nothing of where or how large anything is."""


@dataclass(frozen=True, kw_only=True)
class Trial:
    """One placement examined in full."""

    motion: Similarity
    pairing: Pairing
    exam: Examination
    findings: list[Finding]
    """Everything that was examined, in the order in which it is asked."""
    wrong: list[Finding]
    """What of it is not met."""
    shown: list[Finding]
    """What is asked, each slip charged once."""
    looked: list[Finding]
    """What of it may earn anything but its marks."""
    heads: dict[int, int]
    earned_for: dict[int, Decimal]
    taken_for: dict[int, Decimal]
    lost_with: dict[int, int]
    measured: Mapping[int, Verdict]
    """Each verdict before anything was followed through, of what was not met."""

    @property
    def charged(self) -> int:
        """How many findings are not met and follow no other."""
        return sum(1 for f in self.wrong if f.verdict in OPEN)

    @cached_property
    def earned(self) -> Decimal:
        """All marks together less what is taken away, never less than none."""
        return total_of(self.earned_for, self.taken_for)

    @property
    def otherwise(self) -> Decimal:
        """All marks but what the motion is charged: which one it was is no question of its price."""
        of_motion = {f.id for f in self.shown if f.kind == "whole"}
        return total_of(self.earned_for, {i: v for i, v in self.taken_for.items() if i not in of_motion})


def examined_under(
    key: Key,
    drawn: Linework,
    own: dict[str, Table],
    motion: Similarity,
    slack: float,
    whole: Measure,
    fields: Mapping[str, str],
    *,
    apart: bool = False,
) -> Trial:
    """Examine a drawing under one motion; ``apart`` also places each view on its own."""
    placed = moved_linework(drawn, motion)
    placed_tables = moved_tables(own, motion)
    reach = key.tolerances.position + slack
    views: Shifts = {}
    if apart:
        views = place_views(key.views.values(), key.tables, placed_tables, reach)
        if views:
            by_feature = shifts_of_features(key.views.values(), views, key.tables, placed_tables, reach)
            placed = shifted(placed, by_feature)
            placed_tables = tables(placed)
    roles = key.rules.roles
    lines = frozenset(e.id for e in placed.edges if stated_role(roles, e.layer) == "centre")
    pairing = match(key.linework, placed, key.tables, placed_tables, reach, key.axes, key.aside, lines)
    exam = Examination(
        key=key.linework,
        drawn=placed,
        pairing=pairing,
        rules=key.rules,
        tolerances=key.tolerances,
        slack=slack,
        key_joints=key.joints,
        drawn_tables=placed_tables,
        aside=key.aside,
        spared=key.setting.spared,
        whole=whole,
        whole_motion=motion,
        view_shifts=views,
        fields=fields,
    )
    examined = examine(key.asked.all, exam, key.bulks, key.kept)
    off = [f for f in examined if f[9] != "met"]
    measured = {f.id: f.verdict for f in off}
    findings = key.asked.replaced(examined, follow(off, key.asked, exam))
    return _judged(key, motion, pairing, exam, findings, measured)


def _senses(
    key: Key, exam: Examination, wrong: Sequence[Finding], heads: Mapping[int, int]
) -> tuple[Finding | None, list[int]]:
    """Return the finding of sides and senses where it is missed, and the watched slips that it stands for;
    without any, it tells what lies elsewhere than in the key while nothing that is asked is wrong about where
    or how large anything is."""
    if key.differs is None or len(exam.exact) >= len(key.compared) + len(key.axes):
        return None, []
    alone = orphans(wrong, heads, key.watched, exam, key.play)
    if alone:
        features = [i for f in alone for i in key.linework.curves_of(f.features)]
        return _found(key, features, exam), [f.id for f in alone]
    if any(KINDS[f.kind].part not in _BESIDE for f in wrong if f.id not in key.watched):
        return None, []
    features = [i for i in exam.key.curves if i in key.compared and stray((i,), exam, key.play)]
    return (_found(key, features, exam) if features else None), []


def _found(key: Key, features: Iterable[str], exam: Examination) -> Finding:
    a = key.asked.by_id[key.differs or 0]
    items = items_of(features, exam)
    count = float(len(items))
    at = items[0].at if items else None
    return Finding(a.r.id, a.r.kind, (), None, at, 0.0, count, count, 0.0, "missed", items=items)


def _judged(
    key: Key,
    motion: Similarity,
    pairing: Pairing,
    exam: Examination,
    findings: list[Finding],
    measured: Mapping[int, Verdict],
) -> Trial:
    """Return what was found with its marks; ``measured`` has each verdict before anything was followed, of
    what was not met."""
    wrong = [findings[key.asked.rows[i]] for i in measured if i != key.differs]
    shown, heads = attribute(findings, wrong, measured, key.watched, key.sized, key.linework)
    found, alone = _senses(key, exam, wrong, heads)
    if found is not None:
        shown = [found if f.id == found.id else f for f in shown]
        heads = heads | dict.fromkeys(alone, found.id)
    if found is not None and not alone:
        wrong, measured = [*wrong, found], {**measured, found.id: found.verdict}
    looked = _looked(key, findings, shown, wrong, measured)
    earned_for = score(looked, key.marks, key.rules, pairing.paired)
    taken_for, lost_with = dict[int, Decimal](), dict[int, int]()
    if key.rules.charges is not None:
        lost_with = earned_with(
            earned_for,
            looked,
            wrong,
            key.asked,
            key.watched,
            heads,
            key.linework,
            key.rules,
            key.marks,
            key.scale[1],
        )
        taken_for = charged(looked, key.rules.charges, motion.mirror, *key.scale)
    return Trial(
        motion=motion,
        pairing=pairing,
        exam=exam,
        findings=findings,
        wrong=wrong,
        shown=shown,
        looked=looked,
        heads=heads,
        earned_for=earned_for,
        taken_for=taken_for,
        lost_with=lost_with,
        measured=measured,
    )


def _looked(
    key: Key,
    findings: Sequence[Finding],
    shown: Sequence[Finding],
    wrong: Sequence[Finding],
    measured: Mapping[int, Verdict],
) -> list[Finding]:
    """Return what may earn anything but its marks."""
    if key.watched:
        return looked_at(shown)
    whole = [findings[key.asked.rows[a.r.id]] for a in key.asked.of(*TIMES_PAIRED)]
    return [*wrong, *(f for f in whole if f.id not in measured)]


def charged_for(trial: Trial, slips: Sequence[Cause], key: Key) -> Trial:
    """Return a trial that charges what the slips are about."""
    changed = charge_what_happened(trial.wrong, slips, trial.measured)
    if not changed:
        return trial
    findings = key.asked.replaced(trial.findings, changed)
    return _judged(key, trial.motion, trial.pairing, trial.exam, findings, trial.measured)
