"""Marked drawings to take away: as PDF at true scale, or as DXF with the marks over the student's own file.

Instructors get the marks as they stand, with the key; students what was returned to them, with as much detail
as the exercise allows and nothing of the key.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import cast

from sqlalchemy.orm import Session

from evenmark.core.conventions.papers import PAPERS
from evenmark.core.geometry.points import Point
from evenmark.core.geometry.units import BY_SYMBOL, MM
from evenmark.core.linework.wording import number
from evenmark.core.marking.advice import describe_value
from evenmark.core.marking.kinds import MARKS_ITS_FEATURE
from evenmark.core.sheet.frame import Frame
from evenmark.core.sheet.marked import Balloon, Lesson, Mark, MarkedSheet, Pin, Row
from evenmark.core.sheet.scene import frame_of, from_scene
from evenmark.core.sheet.svg import SheetWords
from evenmark.core.sheet.tracing import Tracing
from evenmark.services.bounded import run_bounded
from evenmark.services.errors import NotUsable
from evenmark.services.issues import own_attempt
from evenmark.services.key_work import draw_sheet_pdf
from evenmark.services.keys import examined, key_view, numbers_of, shown_by
from evenmark.services.marking import newest_sheet
from evenmark.services.marking_view import attempt_in_full, key_of
from evenmark.services.own_results import my_result, own_attempt_of
from evenmark.services.print_work import print_dxf, print_pdf
from evenmark.services.shown_marks import (
    FindingView,
    MarksView,
    OwnResult,
    ShownCause,
    ShownComment,
    ShownFinding,
)
from evenmark.services.standing import returned_of
from evenmark.services.times import said
from evenmark.store.models import Attempt, MarkSheetRow, Revision
from evenmark.store.people import Person

TYPES = {"pdf": "application/pdf", "dxf": "image/vnd.dxf"}
SECONDS = 60


@dataclass(frozen=True, kw_only=True, slots=True)
class Print:
    """A file that can be made: everything that it needs is at hand, so that no transaction is open while it
    is made."""

    name: str
    work: Callable[..., bytes]
    given: tuple[object, ...]

    def made(self) -> bytes:
        """Make the file."""
        return run_bounded(self.work, *self.given, seconds=SECONDS)


def marked(session: Session, instructor: Person, attempt_id: int, form: str) -> Print:
    """Return an attempt with its marks as they stand. Raises NotUsable when it is not marked."""
    attempt = own_attempt(session, instructor, attempt_id)
    page = attempt_in_full(session, instructor, attempt_id)
    row = newest_sheet(session, attempt.id)
    if row is None or page["marks"] is None:
        raise NotUsable("This drawing is not marked yet. Wait a moment, then try again.", "not-marked")
    key = key_view(*key_of(attempt, row)).tracing
    return _printed(
        attempt, row, form, _sheet(attempt, row, page["marks"], page["comments"], frame_of(key), key)
    )


def own_marked(session: Session, student: Person, attempt_id: int, form: str) -> Print:
    """Return a student's drawing with the marks that were returned. Raises NotUsable when none were."""
    attempt = own_attempt_of(session, student, attempt_id)
    view = my_result(session, student, attempt_id)
    returned = returned_of(session, [attempt.id]).get(attempt.id)
    if returned is None:
        raise NotUsable("Your marks are not returned yet. Your instructor returns them.", "not-returned")
    row = returned.sheet
    return _printed(
        attempt, row, form, _sheet(attempt, row, view, view["comments"], frame_of(row.sheet["drawn"]))
    )


def sheet(revision: Revision, school: str, paper: str) -> Print:
    """Return an exercise sheet as PDF at true scale: at true size on the smallest paper that holds it, or on
    a paper of one's choice.

    Raises NotUsable for a paper that there is not.
    """
    if paper and paper not in PAPERS:
        raise NotUsable(f"Unknown paper size. Choose {', '.join(PAPERS)}.")
    words = SheetWords(title=revision.title, school=school, unit="")
    given = (
        revision.key_bytes,
        words,
        examined(revision.rules),
        paper,
        numbers_of(revision.rules),
        shown_by(revision.rules),
    )
    return Print(name=f"{revision.title} sheet.pdf", work=draw_sheet_pdf, given=given)


def _printed(attempt: Attempt, row: MarkSheetRow, form: str, sheet: MarkedSheet) -> Print:
    stem = attempt.file_name.rsplit(".", 1)[0]
    if form == "pdf":
        return Print(name=f"{stem} marked.pdf", work=print_pdf, given=(sheet,))
    views = attempt.issue.revision.rules.get("views") or []
    given = (sheet, attempt.data, row.sheet["marks"], views)
    return Print(name=f"{stem} marked.dxf", work=print_dxf, given=given)


def _sheet(
    attempt: Attempt,
    row: MarkSheetRow,
    view: MarksView | OwnResult,
    comments: Sequence[ShownComment],
    frame: Frame,
    key: Tracing | None = None,
) -> MarkedSheet:
    """Return what a marked drawing shows, from what its reader may see; ``frame`` is the one in which the
    view's places stand."""
    unit = view["unit"] or "mm"
    findings: Sequence[ShownFinding] = view["findings"]
    open_ones = [f for f in findings if f["verdict"] not in ("met", "follows")]

    def at(p: Sequence[float] | None) -> Point | None:
        return from_scene(p, frame) if p else None

    def place(f: ShownFinding) -> Point | None:
        seen = cast(FindingView, f).get("seen_at")
        return at(seen or f["at"])

    wrong = {p for f in open_ones if f["kind"] in MARKS_ITS_FEATURE for p in f["partners"]}
    sketches = [_sketch(m, frame) for f in open_ones for m in f["sketch"]]
    return MarkedSheet(
        title=attempt.issue.revision.title,
        student=attempt.student.name,
        group=attempt.issue.school_class.name,
        handed_in=_handed_in(attempt),
        file=attempt.file_name,
        score=f"{view['earned']:.2f} of {number(view['possible'] or 0.0, 2)}",
        unit=unit,
        unit_mm=BY_SYMBOL.get(unit, MM).mm,
        drawn=row.sheet["drawn"],
        wrong=frozenset(wrong),
        sketches=tuple(sketches),
        balloons=tuple(
            Balloon(id=f["id"], at=p, verdict=f["verdict"])
            for f in findings
            if f["verdict"] != "met" and f["kind"] != "whole" and (p := place(f)) is not None
        ),
        pins=tuple(Pin(number=c["number"], text=c["text"], by=c["by"], at=at(c["at"])) for c in comments),
        lessons=tuple(_lesson(c) for c in view["causes"] if not c["set_aside"]),
        rows=tuple(row_of(f, unit) for f in findings),
        notes=tuple(n["says"] for n in view["notes"]),
        key=key,
    )


def _sketch(m: Mark, frame: Frame) -> Mark:
    """Return a mark of a sketch in a scene with its places on the drawing again."""
    b = list(from_scene(m["b"], frame)) if m["as"] in ("span", "back") else m["b"]
    return {**m, "a": list(from_scene(m["a"], frame)), "b": b}


def _handed_in(attempt: Attempt) -> str:
    when = said(attempt.handed_in_at, attempt.issue.school_class.instructor)
    return f"Try {attempt.number}, handed in {when}{', late' if attempt.late else ''}"


def _lesson(c: ShownCause) -> Lesson:
    lines = [
        f"{line['name']}: asked {line['asked'] or 'nothing'}, drawn {line['drawn'] or 'nothing'}"
        for line in c["lesson"]["lines"]
    ]
    if c["lesson"]["more"]:
        lines.append(f"and {c['lesson']['more']} more")
    return Lesson(
        says=c["says"],
        lines=tuple(lines),
        avoid=c["lesson"]["avoid"],
        explains=tuple(c["explains"]),
        costs=f"{c['costs']:.2f}",
    )


def _marks(f: ShownFinding) -> str:
    """Return what a finding earned, and what was taken away for it."""
    earned = f"{f['earned']:.2f} of {f['possible']:.2f}" if f["possible"] or not f.get("taken") else ""
    lost = f.get("taken")
    taken = f"−{lost:.2f}" if lost else ""
    return " ".join(word for word in (earned, taken) if word)


def row_of(f: ShownFinding, unit: str) -> Row:
    """Return a line of the inspection list in words."""
    return Row(
        id=f["id"],
        name=f["name"],
        asked=describe_value(f["expected"], f["kind"], unit) or "",
        drawn=describe_value(f["measured"], f["kind"], unit) or "",
        off=describe_value(f["deviation"], f["kind"], unit) or "" if f["verdict"] != "met" else "",
        verdict=f["verdict"],
        marks=_marks(f),
        reason=f.get("reason") or "",
    )
