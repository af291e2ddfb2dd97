"""What stands of an attempt's marks: the newest mark sheet, the overrides and comments that were not taken
back, what was returned.

- *act*: an override, a comment or an undo, in a log that is only added to. An act stands unless an undo that
  stands takes it back.
- *held*: overrides and comments that stand, as JSON; a copy goes with marks when they are returned.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import distinct_on
from sqlalchemy.orm import Session

from evenmark.core.marking.marks_types import FindingJson, MarksJson
from evenmark.core.marking.older_says import in_words_of_today
from evenmark.core.marking.override import Override
from evenmark.core.marking.override import held as with_overrides
from evenmark.core.marking.rules_types import RulesJson
from evenmark.store.kept import Held, HeldAct
from evenmark.store.models import MarkingAct, MarkSheetRow, Returned

VERDICTS = ("met", "near", "missed", "absent", "follows")
OPEN = ("missed", "absent", "near")
"""Verdicts that cost marks."""
NOTHING_HELD: Held = {}


@dataclass(kw_only=True)
class CurrentMarks:
    """The marks of one attempt as they stand: the sheet's own JSON with all overrides, without scenes."""

    sheet_id: int
    engine_version: str
    key: int
    """Which of the accepted keys it was held against; findings are numbered for each key by itself."""
    marks: MarksJson
    held: Held

    @property
    def earned(self) -> float:
        """Marks earned, after overrides."""
        return float(self.marks["score"]["earned"])

    @property
    def possible(self) -> float:
        """Marks that there are."""
        return float(self.marks["score"]["possible"])

    @property
    def verdicts(self) -> dict[str, int]:
        """How many findings have each verdict."""
        counts = Counter[str](f["verdict"] for f in self.marks["findings"])
        return {v: counts.get(v, 0) for v in VERDICTS}

    @property
    def causes(self) -> list[str]:
        """The codes of causes that were not set aside, each once."""
        return list(dict.fromkeys(c["code"] for c in self.marks["causes"] if not c.get("set_aside")))

    @property
    def by_hand(self) -> list[int]:
        """The findings whose verdict a person set."""
        return [f["id"] for f in self.marks["findings"] if "engine" in f]


@dataclass(kw_only=True)
class MarksSummary:
    """What a list or grid shows of an attempt's marks as they stand."""

    sheet_id: int
    engine_version: str
    key: int
    verdict_of: dict[int, str]
    """The verdict of each finding, by its number."""
    causes: list[str]
    by_hand: list[int]
    held: Held
    earned: float
    possible: float

    @property
    def verdicts(self) -> dict[str, int]:
        """How many findings have each verdict."""
        counts = Counter(self.verdict_of.values())
        return {v: counts.get(v, 0) for v in VERDICTS}

    def misses(self, finding: int) -> bool:
        """Say whether a finding costs marks."""
        return self.verdict_of.get(finding) in OPEN


def glances(session: Session, rules: Mapping[int, RulesJson]) -> dict[int, MarksSummary]:
    """Return attempts' marks at a glance, by attempt id: from what was summed up when they were marked, read
    in full only where a person set a verdict or an older release summed up less."""
    rows = session.execute(
        select(
            MarkSheetRow.attempt_id,
            MarkSheetRow.id,
            MarkSheetRow.engine_version,
            MarkSheetRow.summary,
            MarkSheetRow.earned,
            MarkSheetRow.possible,
        )
        .where(MarkSheetRow.attempt_id.in_(list(rules)))
        .ext(distinct_on(MarkSheetRow.attempt_id))
        .order_by(MarkSheetRow.attempt_id, MarkSheetRow.id.desc())
    ).all()
    acts = acts_of(session, [r[0] for r in rows])
    in_full = {r[0] for r in rows if "by_verdict" not in r[3]}
    out = {}
    for attempt_id, sheet_id, version, summary, earned, possible in rows:
        held = held_of(acts.get(attempt_id, []))
        if held.get("overrides"):
            in_full.add(attempt_id)
        if attempt_id in in_full:
            continue
        out[attempt_id] = MarksSummary(
            sheet_id=sheet_id,
            engine_version=version,
            key=summary["key"],
            verdict_of={i: v for v, ids in summary["by_verdict"].items() for i in ids},
            causes=list(dict.fromkeys(summary["causes"])),
            by_hand=[],
            held=held,
            earned=float(earned),
            possible=float(possible),
        )
    for attempt_id, stand in stands(session, {i: rules[i] for i in in_full}).items():
        out[attempt_id] = MarksSummary(
            sheet_id=stand.sheet_id,
            engine_version=stand.engine_version,
            key=stand.key,
            verdict_of={f["id"]: f["verdict"] for f in stand.marks["findings"]},
            causes=stand.causes,
            by_hand=stand.by_hand,
            held=stand.held,
            earned=stand.earned,
            possible=stand.possible,
        )
    return out


def findings_of(session: Session, sheet_id: int) -> list[FindingJson]:
    """Return the findings of a mark sheet as the engine made them."""
    marks = session.scalar(select(MarkSheetRow.sheet["marks"]).where(MarkSheetRow.id == sheet_id))
    found: list[FindingJson] = (marks or {}).get("findings", [])
    return found


def standing_acts(acts: Sequence[MarkingAct]) -> set[int]:
    """Return the ids of the acts that stand, of one attempt's acts in any order."""
    taken_back: dict[int, list[int]] = defaultdict(list)
    for act in acts:
        if act.undoes_id is not None:
            taken_back[act.undoes_id].append(act.id)
    stands: set[int] = set()
    for act in sorted(acts, key=lambda a: -a.id):  # an undo is always newer than what it takes back
        if not any(i in stands for i in taken_back[act.id]):
            stands.add(act.id)
    return stands


def held_of(acts: Sequence[MarkingAct]) -> Held:
    """Return the overrides (the newest for each finding) and comments that stand, as JSON; empty when there
    are none."""
    stands = standing_acts(acts)
    overrides: dict[int, HeldAct] = {}
    comments: list[HeldAct] = []
    for act in sorted(acts, key=lambda a: a.id):
        if act.id not in stands:
            continue
        common: HeldAct = {
            "act": act.id,
            "finding": act.finding,
            "by": act.person.name,
            "when": act.at.isoformat(),
        }
        if act.act == "override" and act.finding is not None:
            overrides[act.finding] = {**common, **act.detail}
        elif act.act == "comment":
            comments.append({**common, **act.detail})
    if not overrides and not comments:
        return NOTHING_HELD
    return {"overrides": [overrides[i] for i in sorted(overrides)], "comments": comments}


def overrides_of(held: Held, key: int) -> dict[int, Override]:
    """Return held overrides as the core knows them, by finding; those of another accepted key are about other
    findings."""
    return {
        i: Override(
            verdict=o["verdict"],
            reason=o["reason"],
            marks=None if o.get("marks") is None else Decimal(str(o["marks"])),
        )
        for o in held.get("overrides", [])
        if (i := o["finding"]) is not None and o.get("key", 0) == key
    }


def acts_of(session: Session, attempt_ids: Iterable[int]) -> dict[int, list[MarkingAct]]:
    """Return the acts on each attempt, first to last."""
    out: dict[int, list[MarkingAct]] = defaultdict(list)
    for act in session.scalars(
        select(MarkingAct).where(MarkingAct.attempt_id.in_(list(attempt_ids))).order_by(MarkingAct.id)
    ):
        out[act.attempt_id].append(act)
    return out


def stands(session: Session, rules: Mapping[int, RulesJson]) -> dict[int, CurrentMarks]:
    """Return the marks of attempts as they stand, by attempt id; attempts without a mark sheet are left out.

    ``rules`` gives the stored rule set that each attempt is marked by. Scenes, which are large, are not read.
    """
    ids = list(rules)
    newest: dict[int, tuple[int, str, int, MarksJson]] = {}
    rows = session.execute(
        select(
            MarkSheetRow.attempt_id,
            MarkSheetRow.id,
            MarkSheetRow.engine_version,
            MarkSheetRow.sheet["key"],
            MarkSheetRow.sheet["marks"],
        )
        .where(MarkSheetRow.attempt_id.in_(ids))
        .ext(distinct_on(MarkSheetRow.attempt_id))
        .order_by(MarkSheetRow.attempt_id, MarkSheetRow.id.desc())
    )
    for attempt_id, sheet_id, version, key, marks in rows:
        newest[attempt_id] = (sheet_id, version, key or 0, in_words_of_today(marks, version))
    acts = acts_of(session, newest)
    out = {}
    for attempt_id, (sheet_id, version, key, marks) in newest.items():
        held = held_of(acts.get(attempt_id, []))
        out[attempt_id] = CurrentMarks(
            sheet_id=sheet_id,
            engine_version=version,
            key=key,
            marks=with_overrides(marks, overrides_of(held, key), rules[attempt_id]),
            held=held,
        )
    return out


def returned_of(session: Session, attempt_ids: Iterable[int]) -> dict[int, Returned]:
    """Return what students were last given of each attempt; what was taken back is left out, with everything
    before it."""
    rows = session.scalars(
        select(Returned)
        .where(Returned.attempt_id.in_(list(attempt_ids)))
        .ext(distinct_on(Returned.attempt_id))
        .order_by(Returned.attempt_id, Returned.id.desc())
    )
    return {r.attempt_id: r for r in rows if r.taken_back_at is None}


def returned_word(stand: CurrentMarks | MarksSummary | None, returned: Returned | None) -> str:
    """Say whether an attempt's marks are with the student: ``no``, ``yes``, or ``changed`` since they were
    returned."""
    if returned is None:
        return "no"
    same = stand is None or (returned.sheet_id == stand.sheet_id and returned.held == stand.held)
    return "yes" if same else "changed"
