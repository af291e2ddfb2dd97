"""What an instructor does to the marks of one attempt: another verdict, a comment, taking back either; and
the record of it all."""

from __future__ import annotations

from datetime import datetime
from decimal import Decimal
from typing import NamedTuple

from sqlalchemy import select
from sqlalchemy.orm import Session

from evenmark.core.marking.marks_types import FindingJson
from evenmark.core.marking.model import Verdict
from evenmark.core.marking.override import SET_BY_HAND
from evenmark.services.errors import NotThere, NotUsable
from evenmark.services.issues import own_attempt
from evenmark.services.names import plain_text
from evenmark.services.standing import acts_of, standing_acts
from evenmark.store.kept import ActDetail
from evenmark.store.models import Attempt, MarkingAct, MarkSheetRow, Returned
from evenmark.store.people import Person

MOST_TEXT = 2000
MOST_ACTS = 2000
"""On one attempt; far more than anybody does by hand."""


def override(
    session: Session,
    instructor: Person,
    attempt_id: int,
    *,
    finding: int,
    verdict: Verdict,
    reason: str,
    marks: Decimal | None = None,
) -> MarkingAct:
    """Give a finding another verdict, with a reason; marks follow from the verdict unless they are said.
    Raises NotUsable."""
    attempt = _locked(session, instructor, attempt_id)
    known, key = _finding(session, attempt, finding)
    if verdict not in SET_BY_HAND:
        raise NotUsable("Choose met, near, missed or absent.")
    said = _text(reason, "Give the reason for the new verdict. The student reads it, too.")
    possible = Decimal(str(known["possible"]))
    if marks is not None and not (marks.is_finite() and 0 <= marks <= possible):
        raise NotUsable(f"Give between 0 and {possible.normalize():f} marks for this finding.")
    detail: ActDetail = {"verdict": verdict, "reason": said, "key": key}
    if marks is not None:
        detail["marks"] = float(marks)
    return _add(session, instructor, attempt, "override", finding, detail)


def comment(
    session: Session,
    instructor: Person,
    attempt_id: int,
    *,
    text: str,
    finding: int | None = None,
    at: tuple[float, float] | None = None,
) -> MarkingAct:
    """Pin a comment to a place (in key units), to a finding, or to the drawing as a whole. Raises
    NotUsable."""
    attempt = _locked(session, instructor, attempt_id)
    if finding is not None:
        _finding(session, attempt, finding)
    place = None if at is None else [at[0], at[1]]
    detail: ActDetail = {"text": _text(text, "The comment is empty. Type some text."), "at": place}
    return _add(session, instructor, attempt, "comment", finding, detail)


def undo(session: Session, instructor: Person, attempt_id: int, act_id: int | None = None) -> MarkingAct:
    """Take back an override or comment that stands: the one named, else the newest. Raises NotUsable when
    there is none."""
    attempt = _locked(session, instructor, attempt_id)
    acts = acts_of(session, [attempt.id])[attempt.id]
    stands = standing_acts(acts)
    open_acts = [a for a in acts if a.act != "undo" and a.id in stands and (act_id is None or a.id == act_id)]
    if not open_acts:
        raise NotUsable("Nothing to undo.", "nothing-to-undo")
    return _add(session, instructor, attempt, "undo", None, {}, undoes=open_acts[-1].id)


def redo(session: Session, instructor: Person, attempt_id: int) -> MarkingAct:
    """Let what was last taken back stand again; possible until something new is done. Raises NotUsable."""
    attempt = _locked(session, instructor, attempt_id)
    acts = acts_of(session, [attempt.id])[attempt.id]
    stands = standing_acts(acts)
    newest_deed = max((a.id for a in acts if a.act != "undo"), default=0)
    by_id = {a.id: a for a in acts}
    undone = [
        a
        for a in acts
        if a.act == "undo"
        and a.id in stands
        and a.id > newest_deed
        and a.undoes_id in by_id
        and by_id[a.undoes_id].act != "undo"
    ]
    if not undone:
        raise NotUsable("Nothing to redo.", "nothing-to-redo")
    return _add(session, instructor, attempt, "undo", None, {}, undoes=undone[-1].id)


class HistoryRow(NamedTuple):
    """Something that happened to the marks of an attempt: when, who, and what, in a sentence; ``act`` is what
    can be taken back, ``stands`` whether it was not, ``undoes`` whether it takes something back itself."""

    at: datetime
    who: str
    says: str
    act: int | None = None
    stands: bool = True
    undoes: bool = False


def history(session: Session, attempt: Attempt) -> list[HistoryRow]:
    """Return everything that happened to an attempt's marks, newest first: when, who, and what, in a
    sentence."""
    acts = acts_of(session, [attempt.id])[attempt.id]
    stands = standing_acts(acts)
    by_id = {a.id: a for a in acts}
    name = (
        session.get_one(Person, attempt.handed_in_by).name if attempt.handed_in_by else attempt.student.name
    )
    rows = [HistoryRow(attempt.handed_in_at, name, f"Handed in {attempt.file_name}.")]
    for sheet in session.execute(
        select(MarkSheetRow.marked_at, MarkSheetRow.engine_version, MarkSheetRow.earned)
        .where(MarkSheetRow.attempt_id == attempt.id)
        .order_by(MarkSheetRow.id)
    ):
        rows.append(
            HistoryRow(
                sheet.marked_at,
                "Even Mark",
                f"Marked by engine {sheet.engine_version}: {float(sheet.earned):g}.",
            )
        )
    for a in acts:
        says = _says(a, by_id)
        rows.append(HistoryRow(a.at, a.person.name, says, a.id, a.id in stands, a.act == "undo"))
    for r in session.scalars(select(Returned).where(Returned.attempt_id == attempt.id).order_by(Returned.id)):
        who = r.person.name if r.person else "Even Mark"
        rows.append(HistoryRow(r.at, who, f"Returned with {float(r.earned):g} of {float(r.possible):g}."))
        if r.taken_back_at:
            rows.append(HistoryRow(r.taken_back_at, who, "Recalled the marks."))
    return sorted(rows, key=lambda r: r.at, reverse=True)


def _says(act: MarkingAct, by_id: dict[int, MarkingAct]) -> str:
    if act.act == "override":
        marks = f", {act.detail['marks']:g} marks" if "marks" in act.detail else ""
        return f"Finding {act.finding} set to {act.detail['verdict']}{marks}: {act.detail['reason']}"
    if act.act == "comment":
        where = f" on finding {act.finding}" if act.finding else ""
        return f"Commented{where}: {act.detail['text']}"
    undone = by_id.get(act.undoes_id or 0)
    if undone is not None and undone.act == "undo":
        again = by_id.get(undone.undoes_id or 0)
        return f"Redone: {_says(again, by_id)}" if again else "Redone."
    return f"Undone: {_says(undone, by_id)}" if undone else "Undone."


def _text(text: str, empty: str) -> str:
    plain = plain_text(text)
    if not plain:
        raise NotUsable(empty)
    if len(plain) > MOST_TEXT:
        raise NotUsable(f"The text has {len(plain)} letters; at most {MOST_TEXT} are kept. Shorten it.")
    return plain


def _locked(session: Session, instructor: Person, attempt_id: int) -> Attempt:
    """Return an own attempt, locked, so that two pages at once write one after the other."""
    attempt = own_attempt(session, instructor, attempt_id)
    session.execute(select(Attempt.id).where(Attempt.id == attempt.id).with_for_update())
    return attempt


def _finding(session: Session, attempt: Attempt, finding: int) -> tuple[FindingJson, int]:
    """Return a finding of the newest mark sheet, and which of the accepted keys it belongs to."""
    row = session.execute(
        select(MarkSheetRow.sheet["marks"], MarkSheetRow.sheet["key"])
        .where(MarkSheetRow.attempt_id == attempt.id)
        .order_by(MarkSheetRow.id.desc())
        .limit(1)
    ).first()
    if row is None:
        raise NotUsable("This drawing is not marked yet. Wait a moment, then try again.", "not-marked")
    found: FindingJson | None = next((f for f in row[0]["findings"] if f["id"] == finding), None)
    if found is None:
        raise NotThere("This mark sheet has no such finding. Reload the page.")
    return found, row[1] or 0


def _add(
    session: Session,
    instructor: Person,
    attempt: Attempt,
    act: str,
    finding: int | None,
    detail: ActDetail,
    undoes: int | None = None,
) -> MarkingAct:
    if len(acts_of(session, [attempt.id])[attempt.id]) >= MOST_ACTS:
        raise NotUsable("Too many changes on this drawing. Return the marks as they are.")
    row = MarkingAct(
        attempt_id=attempt.id,
        person_id=instructor.id,
        act=act,
        finding=finding,
        detail=detail,
        undoes_id=undoes,
    )
    session.add(row)
    session.flush()
    return row
