"""What stands in the files that workers make: one item after another, each found in a transaction of its
own."""

from __future__ import annotations

import io
import json
import re
import zipfile
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from decimal import Decimal
from typing import IO, NamedTuple

from pypdf import PdfReader, PdfWriter
from sqlalchemy import select
from sqlalchemy.orm import Session

from evenmark.core.plain import shown
from evenmark.services import prints
from evenmark.services.board_history import history_written
from evenmark.services.classes import own_class, own_student, students_of
from evenmark.services.errors import NotUsable
from evenmark.services.gradebook import gradebook
from evenmark.services.issues import newest_attempts, own_attempt, own_issue
from evenmark.services.keys import make_ready
from evenmark.services.marking import newest_sheet
from evenmark.services.marking_view import key_of
from evenmark.services.people import told_apart
from evenmark.services.standing import acts_of, held_of
from evenmark.services.tables import table
from evenmark.services.terms import allowances_of
from evenmark.store.boards import Board
from evenmark.store.database import Database
from evenmark.store.models import Attempt, Issue, MarkSheetRow, RecordEntry, Returned
from evenmark.store.people import Enrolment, Person, SchoolClass

MOST_NAME = 120


class History(NamedTuple):
    """How a board was made up to a version, and under which name that is written."""

    board_id: int
    version: int
    name: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Content:
    """A file that can be written: how many items it has, and what writes it, yielding how many are done."""

    of: int
    write: Callable[[IO[bytes]], Iterator[int]]


def safe_name(words: str) -> str:
    """Return a name that every file system takes: no separators, no signs that cannot be seen, not too long.

    >>> safe_name("a/b: c?.dxf ")
    'a_b_ c_.dxf'
    """
    plain = re.sub(r'[\\/:*?"<>|]', "_", " ".join(shown(words).split())).strip(" .")
    return plain[:MOST_NAME].strip(" .") or "unnamed"


def _in_order(session: Session, issue: Issue) -> tuple[list[Person], dict[int, str]]:
    """Return the students of an issue's class by name, those who left after them, and what each is called."""
    people = [*students_of(session, issue.class_id), *students_of(session, issue.class_id, left=True)]
    return people, told_apart(people)


def feedback_content(database: Database, instructor: Person, issue_id: int) -> Content:
    """Return the marked drawings of a class as one PDF, by name, each with an entry in its outline. Raises
    NotUsable when there is none."""
    with database.transaction() as session:
        issue = own_issue(session, instructor, issue_id)
        people, names = _in_order(session, issue)
        newest = {a.student_id: a for a in newest_attempts(session, [issue.id]).values()}
        marked = [
            (newest[p.id].id, names[p.id])
            for p in people
            if p.id in newest and newest[p.id].state == "marked"
        ]
    if not marked:
        raise NotUsable(
            "Nothing is marked yet. Wait until drawings are marked, then try again.", "nothing-marked"
        )

    def write(out: IO[bytes]) -> Iterator[int]:
        writer = PdfWriter()
        for done, (attempt_id, name) in enumerate(marked, 1):
            make_ready(
                database,
                lambda s, i=attempt_id: key_of(own_attempt(s, instructor, i), newest_sheet(s, i)),  # type: ignore[misc]
            )
            with database.transaction() as session:
                wanted = prints.marked(session, instructor, attempt_id, "pdf")
            writer.append(PdfReader(io.BytesIO(wanted.made())), outline_item=name, import_outline=False)
            yield done
        writer.add_metadata({"/Title": "Feedback", "/Creator": "Even Mark"})
        writer.write(out)

    return Content(of=len(marked), write=write)


def files_content(database: Database, instructor: Person, issue_id: int) -> Content:
    """Return the newest drawing of each student as it was handed in, named by whose it is. Raises NotUsable
    when there is none."""
    with database.transaction() as session:
        issue = own_issue(session, instructor, issue_id)
        people, names = _in_order(session, issue)
        newest = {a.student_id: a for a in newest_attempts(session, [issue.id]).values()}
        wanted = [(newest[p.id].id, file_of(names[p.id], newest[p.id])) for p in people if p.id in newest]
    if not wanted:
        raise NotUsable("Nobody has handed in yet. Try again when somebody has.", "nothing-handed-in")
    return Content(of=len(wanted), write=lambda out: _zipped(database, out, wanted))


def file_of(name: str, attempt: Attempt) -> str:
    """Return the name of a drawing that says whose it is: student, try, and the ending that it came with."""
    ending = re.search(r"\.[A-Za-z0-9]{1,5}$", attempt.file_name)
    return f"{safe_name(f'{name}, try {attempt.number}')}{ending[0].lower() if ending else '.dxf'}"


def _zipped(
    database: Database,
    out: IO[bytes],
    wanted: Sequence[tuple[int, str]],
    texts: Sequence[tuple[str, bytes]] = (),
    histories: Sequence[History] = (),
) -> Iterator[int]:
    """Write attempts' files, other contents and how boards were made into a ZIP; yield how many files are
    in."""
    taken: set[str] = set()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED, allowZip64=True) as archive:
        for name, data in texts:
            archive.writestr(_free(name, taken), data)
        for done, (attempt_id, name) in enumerate(wanted, 1):
            with database.transaction() as session:
                drawing = session.scalar(select(Attempt.data).where(Attempt.id == attempt_id))
            if drawing is not None:  # else it was wiped meanwhile
                archive.writestr(_free(name, taken), drawing)
            yield done
        for one in histories:
            with (
                database.transaction() as session,
                archive.open(_free(one.name, taken), "w", force_zip64=True) as file,
            ):
                for piece in history_written(session, one.board_id, one.version):
                    file.write(piece)


def _free(name: str, taken: set[str]) -> str:
    """Return a name that is not taken yet, also where letter case does not count, and take it."""
    stem, dot, ending = name.rpartition(".")
    tried, n = name, 1
    while tried.casefold() in taken:
        n += 1
        tried = f"{stem} ({n}){dot}{ending}"
    taken.add(tried.casefold())
    return tried


def class_content(database: Database, instructor: Person, class_id: int) -> Content:
    """Return everything of a class: its students, and for each exercise the grades as CSV, the marks as JSON
    and every drawing."""
    texts: list[tuple[str, bytes]] = []
    wanted: list[tuple[int, str]] = []
    histories: list[History] = []
    with database.transaction() as session:
        group = own_class(session, instructor, class_id)
        rows = session.scalars(select(Enrolment).where(Enrolment.class_id == group.id)).all()
        students = sorted(rows, key=lambda e: e.student.name.casefold())
        heads: list[list[object]] = [["name", "sign-in", "joined", "left"]]
        texts.append(
            (
                "students.csv",
                table(
                    heads
                    + [
                        [e.student.name, e.student.sign_in, _plain(e.joined_at), _plain(e.left_at)]
                        for e in students
                    ]
                ),
            )
        )
        issues = session.scalars(select(Issue).where(Issue.class_id == group.id).order_by(Issue.id)).all()
        for n, issue in enumerate(issues, 1):
            folder = f"{n} {safe_name(f'{issue.revision.title} revision {issue.revision.number}')}"
            _, names = _in_order(session, issue)
            texts.append((f"{folder}/grades.csv", table(gradebook(session, instructor, issue.id))))
            for attempt in session.scalars(
                select(Attempt)
                .where(Attempt.issue_id == issue.id)
                .order_by(Attempt.student_id, Attempt.number)
            ):
                name = file_of(names.get(attempt.student_id, attempt.student.name), attempt)
                wanted.append((attempt.id, f"{folder}/drawings/{name}"))
                stem = name.rpartition(".")[0]
                texts.append((f"{folder}/marks/{stem}.json", _json(attempt_data(session, attempt))))
                histories += _history_of(attempt, f"{folder}/how it was drawn/{stem}.json")
    return Content(of=len(wanted), write=lambda out: _zipped(database, out, wanted, texts, histories))


def _history_of(attempt: Attempt, name: str) -> list[History]:
    """Return how an attempt was made, where that is known."""
    if attempt.board_id is None or attempt.made_version is None:
        return []
    return [History(attempt.board_id, attempt.made_version, name)]


def student_content(database: Database, instructor: Person, student_id: int) -> Content:
    """Return everything that is kept of a student in this instructor's classes: one JSON file, and every
    drawing as it was handed in."""
    with database.transaction() as session:
        student = own_student(session, instructor, student_id)
        enrolled = session.scalars(
            select(Enrolment)
            .join(SchoolClass, SchoolClass.id == Enrolment.class_id)
            .where(Enrolment.student_id == student_id, SchoolClass.instructor_id == instructor.id)
        ).all()
        groups = {e.class_id: session.get_one(SchoolClass, e.class_id) for e in enrolled}
        attempts = session.scalars(
            select(Attempt)
            .join(Issue, Issue.id == Attempt.issue_id)
            .where(Attempt.student_id == student_id, Issue.class_id.in_(list(groups)))
            .order_by(Attempt.id)
        ).all()
        record = session.scalars(
            select(RecordEntry)
            .where(RecordEntry.student_id == student_id, RecordEntry.person_id == instructor.id)
            .order_by(RecordEntry.id)
        )
        drafts = session.scalars(
            select(Board)
            .join(Issue, Issue.id == Board.issue_id)
            .where(
                Board.person_id == student_id,
                Board.taken_away_at.is_(None),
                Issue.class_id.in_(list(groups)),
            )
            .order_by(Board.id)
        ).all()
        wanted = [(a.id, f"drawings/{file_of(f'{a.id} {a.issue.revision.title}', a)}") for a in attempts]
        data = {
            "format": "even-mark/student",
            "version": 1,
            "name": student.name,
            "sign_in": student.sign_in,
            "account_made": student.created_at,
            "classes": [
                {"name": groups[e.class_id].name, "joined": e.joined_at, "left": e.left_at} for e in enrolled
            ],
            "record": [{"at": r.at, "says": r.says} for r in record],
            "on_the_board": [_draft_data(b) for b in drafts],
            "attempts": [
                {
                    **attempt_data(session, a),
                    "exercise": a.issue.revision.title,
                    "class": groups[a.issue.class_id].name,
                    "kept_as": name,
                }
                for a, (_, name) in zip(attempts, wanted, strict=True)
            ],
        }
        histories = [
            h
            for a, (_, name) in zip(attempts, wanted, strict=True)
            for h in _history_of(a, name.replace("drawings/", "how it was drawn/", 1))
        ]
        histories += [
            History(b.id, b.version, f"how it was drawn/draft {b.id} {safe_name(b.title)}.json")
            for b in drafts
        ]
    files = [("student.json", _json(data))]
    return Content(of=len(wanted), write=lambda out: _zipped(database, out, wanted, files, histories))


def _draft_data(board: Board) -> dict[str, object]:
    """Return what is kept of a draft on the board as JSON."""
    return {
        "exercise": board.title,
        "begun": board.created_at,
        "changed": board.changed_at,
        "steps": board.document,
    }


def attempt_data(session: Session, attempt: Attempt) -> dict[str, object]:
    """Return what is kept of an attempt as JSON: who, when, every mark sheet, what was done to its marks,
    what was returned."""
    sheets = session.scalars(
        select(MarkSheetRow).where(MarkSheetRow.attempt_id == attempt.id).order_by(MarkSheetRow.id)
    ).all()
    returned = session.scalars(
        select(Returned).where(Returned.attempt_id == attempt.id).order_by(Returned.id)
    )
    allowed = allowances_of(session, attempt.issue_id).get(attempt.student_id)
    return {
        "file": attempt.file_name,
        "sha256": attempt.sha256,
        "try": attempt.number,
        "handed_in": attempt.handed_in_at,
        "late": attempt.late,
        "state": attempt.state,
        "understood": attempt.reading,
        "allowed": {"due": allowed.due_at, "more_tries": allowed.more_tries, "reason": allowed.reason}
        if allowed
        else None,
        "mark_sheets": [{"engine": s.engine_version, "at": s.marked_at, **s.sheet["marks"]} for s in sheets],
        "held": held_of(acts_of(session, [attempt.id])[attempt.id]),
        "returned": [
            {
                "at": r.at,
                "earned": r.earned,
                "possible": r.possible,
                "held": r.held,
                "taken_back": r.taken_back_at,
            }
            for r in returned
        ],
    }


def _json(data: object) -> bytes:
    def plain(value: object) -> str | float:
        if isinstance(value, datetime):
            return value.astimezone(UTC).isoformat()
        if isinstance(value, Decimal):
            return float(value)
        raise TypeError(f"no JSON for {type(value).__name__}")

    return json.dumps(data, indent=1, ensure_ascii=False, default=plain).encode()


def _plain(at: datetime | None) -> str:
    return at.astimezone(UTC).isoformat(timespec="seconds") if at else ""
