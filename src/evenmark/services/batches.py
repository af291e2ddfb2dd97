"""Handing in for a class at once: a ZIP or a set of files is read by the workers, matched to students, and
what is doubtful is asked.

Everything is kept as soon as it is known, so that closing the page loses nothing; each file becomes an
attempt at most once.
"""

from __future__ import annotations

import hashlib
from collections.abc import Sequence

from procrastinate import App
from sqlalchemy import select
from sqlalchemy.orm import Session

from evenmark.core.formats.archive import MOST_MEMBERS, Member, is_archive, unpack
from evenmark.core.formats.errors import UnreadableDrawing
from evenmark.core.formats.sniff import MOST_BYTES
from evenmark.core.student_matching import Guess, Seen, Student, match_students
from evenmark.services.classes import students_of
from evenmark.services.errors import NotThere, NotUsable
from evenmark.services.hand_in import clean_name, keep_attempt
from evenmark.services.issues import issue_head, own_issue
from evenmark.services.people import told_apart
from evenmark.services.standing import glances, returned_of, returned_word
from evenmark.services.terms import terms_of_class
from evenmark.store.models import Attempt, Batch, BatchFile, Issue
from evenmark.store.people import Person, SchoolClass
from evenmark.store.queue import defer_marking_of_many, defer_reading


def start_batch(
    session: Session, queue: App | None, instructor: Person, issue_id: int, files: Sequence[tuple[str, bytes]]
) -> Batch:
    """Take files in for a class, ZIPs unpacked; nothing is handed in yet. Raises NotUsable."""
    issue = own_issue(session, instructor, issue_id)
    if not files:
        raise NotUsable("No file arrived. Choose a ZIP or the drawings themselves.", "no-file")
    members = [m for name, data in files for m in _members(name, data)]
    if len(members) > MOST_MEMBERS:
        raise NotUsable(
            f"These are {len(members)} files; at most {MOST_MEMBERS} are taken at once. Split them."
        )
    batch = Batch(issue_id=issue.id, person_id=instructor.id)
    batch.files = [
        BatchFile(
            path=m.path,
            data=m.data,
            sha256=hashlib.sha256(m.data).hexdigest(),
            state="unusable" if m.trouble else "waiting",
            trouble=m.trouble,
        )
        for m in members
    ]
    session.add(batch)
    session.flush()
    waiting = [(f.id, len(f.data)) for f in batch.files if f.state == "waiting"]
    if queue is not None:
        defer_reading(session, queue, waiting)
    return batch


def _members(name: str, data: bytes) -> list[Member]:
    """Return the files that one chosen file stands for."""
    if not is_archive(data):
        too_large = f"It has more than {MOST_BYTES // 1048576} MB, which no exercise needs."
        return (
            [Member(path=clean_name(name), data=data)]
            if len(data) <= MOST_BYTES
            else [Member(path=clean_name(name), trouble=too_large)]
        )
    try:
        return unpack(data)
    except UnreadableDrawing as why:
        raise NotUsable(f"{clean_name(name)}: {why.says}", why.code) from why


def own_batch(session: Session, instructor: Person, batch_id: int, *, locked: bool = False) -> Batch:
    """Return a batch of this instructor's. Raises NotThere for any other."""
    query = select(Batch).where(Batch.id == batch_id)
    batch = session.scalar(query.with_for_update() if locked else query)
    if batch is None:
        raise NotThere("This batch is gone. What was handed in is listed with the students.")
    own_issue(session, instructor, batch.issue_id)
    return batch


def _guesses(batch: Batch, students: Sequence[Person]) -> dict[int, Guess]:
    """Return whose each file that can be read may be, with what the instructor decided left out of it."""
    free = [f for f in batch.files if f.state == "read" and not f.decided and f.attempt_id is None]
    taken = {f.student_id for f in batch.files if f.decided and f.student_id is not None}
    out = {}
    for g in _whose(free, students):
        if g.student in taken:
            g = Guess(
                file=g.file, student=g.student, sure=False, why="Another file was given to this student."
            )
        out[g.file] = g
    return out


def _whose(files: Sequence[BatchFile], students: Sequence[Person]) -> list[Guess]:
    seen = [Seen(id=f.id, path=f.path, wordings=tuple(f.wordings or ()), content=f.sha256) for f in files]
    return match_students(seen, [Student(id=p.id, name=p.name, sign_in=p.sign_in) for p in students])


def files_of_student(session: Session, instructor: Person, student_id: int) -> list[int]:
    """Return the files in this instructor's batches that are or may be a student's: handed in, decided, or
    named so in whatever state."""
    found = []
    batches = session.scalars(
        select(Batch)
        .join(Issue, Issue.id == Batch.issue_id)
        .join(SchoolClass, SchoolClass.id == Issue.class_id)
        .where(SchoolClass.instructor_id == instructor.id)
    )
    for batch in batches:
        class_id = session.get_one(Issue, batch.issue_id).class_id
        students = [*students_of(session, class_id), *students_of(session, class_id, left=True)]
        # each by itself: beside others, one that comes twice is nobody's
        named = {g.file for f in batch.files for g in _whose([f], students) if g.student == student_id}
        found += [
            f.id
            for f in batch.files
            if f.student_id == student_id or (f.id in named and f.student_id is None)
        ]
    return found


def batch_page(session: Session, instructor: Person, batch_id: int) -> dict[str, object]:
    """Return a batch with each file, whose it is or may be, and what became of it."""
    batch = own_batch(session, instructor, batch_id)
    issue = session.get_one(Issue, batch.issue_id)
    students = students_of(session, issue.class_id)
    guesses = _guesses(batch, students)
    names = told_apart(students)
    attempts = {f.attempt_id: f.attempt for f in batch.files if f.attempt is not None}
    found = glances(session, {i: issue.revision.rules for i in attempts if i is not None})
    given = returned_of(session, list(found))
    terms = terms_of_class(session, issue, [p.id for p in students])
    left = {i: t.tries_left for i, t in terms.items()}
    before = _handed_in_before(session, issue.id, [f.sha256 for f in batch.files])
    rows = []
    for f in batch.files:
        g = guesses.get(f.id)
        student = f.student_id if f.decided or f.attempt_id else (g.student if g else None)
        stand = found.get(f.attempt_id) if f.attempt_id else None
        rows.append(
            {
                "id": f.id,
                "path": f.path,
                "state": _state(f, g),
                "trouble": f.trouble or (f.attempt.trouble if f.attempt else None),
                "student_id": student,
                "why": "Chosen by you." if f.decided else (g.why if g else ""),
                "notes": _notes(f, student, left, before),
                "attempt_id": f.attempt_id,
                "earned": stand.earned if stand else None,
                "possible": stand.possible if stand else None,
                "returned": returned_word(stand, given.get(f.attempt_id or 0)) if f.attempt_id else "no",
            }
        )
    return {
        "id": batch.id,
        "issue": issue_head(session, issue),
        "created_at": batch.created_at,
        "files": rows,
        "students": [{"id": p.id, "name": names[p.id], "tries_left": left[p.id]} for p in students],
    }


def _state(f: BatchFile, g: Guess | None) -> str:
    """Return how far a file is: reading, unusable, asked, ready, left-out, then as its attempt: waiting,
    marked, failed."""
    if f.attempt is not None:
        return f.attempt.state
    if f.state != "read":
        return "reading" if f.state == "waiting" else "unusable"
    if f.decided:
        return "ready" if f.student_id is not None else "left-out"
    return "ready" if g is not None and g.sure else "asked"


def _handed_in_before(session: Session, issue_id: int, hashes: list[str]) -> dict[str, list[Attempt]]:
    out: dict[str, list[Attempt]] = {}
    for a in session.scalars(
        select(Attempt).where(Attempt.issue_id == issue_id, Attempt.sha256.in_(hashes)).order_by(Attempt.id)
    ):
        out.setdefault(a.sha256, []).append(a)
    return out


def _notes(
    f: BatchFile, student: int | None, left: dict[int, int], before: dict[str, list[Attempt]]
) -> list[str]:
    """Return what the instructor should know of a file before handing it in."""
    if f.attempt_id is not None:
        return []
    out = []
    for a in before.get(f.sha256, []):
        if a.student_id == student:
            out.append(f"The same file was handed in before, as try {a.number}.")
        else:
            out.append(f"{a.student.name} handed in the same file.")
    if student is not None and left.get(student, 1) < 1:
        out.append("All tries are used; this one is extra.")
    return out


def decide(session: Session, instructor: Person, batch_id: int, file_id: int, student_id: int | None) -> None:
    """Say whose a file is, or with None that it is left out. Raises NotUsable, NotThere."""
    batch = own_batch(session, instructor, batch_id, locked=True)
    row = _file(batch, file_id)
    if row.state != "read":
        raise NotUsable(
            "This file cannot be read, so it cannot be handed in. Ask the student for a new export."
        )
    issue = session.get_one(Issue, batch.issue_id)
    if student_id is not None and student_id not in {p.id for p in students_of(session, issue.class_id)}:
        raise NotThere("This student is not in the class. Reload the page.")
    row.decided, row.student_id = True, student_id
    session.flush()


def _file(batch: Batch, file_id: int) -> BatchFile:
    row = next((f for f in batch.files if f.id == file_id), None)
    if row is None:
        raise NotThere("This batch has no such file. Reload the page.")
    if row.attempt_id is not None:
        raise NotUsable("This file is handed in already. Choose another one.", "handed-in")
    return row


def hand_in_batch(
    session: Session, queue: App | None, instructor: Person, batch_id: int, *, on_time: bool
) -> int:
    """Hand in every file whose student is sure or decided; what is doubtful stays. Return how many.

    ``on_time`` says that they came before the due date, however late it is now.
    """
    batch = own_batch(session, instructor, batch_id, locked=True)
    issue = session.get_one(Issue, batch.issue_id)
    students = students_of(session, issue.class_id)
    guesses = _guesses(batch, students)
    done: list[tuple[int, int]] = []
    for f in batch.files:
        if f.attempt_id is not None or f.state != "read":
            continue
        g = guesses.get(f.id)
        student = f.student_id if f.decided else (g.student if g and g.sure else None)
        if student is None:
            continue
        attempt = keep_attempt(
            session,
            issue,
            student,
            file_name=clean_name(f.path),
            data=f.data,
            reading=f.reading or {},
            by=instructor.id,
            on_time=on_time,
        )
        f.attempt_id, f.student_id = attempt.id, student
        session.flush()
        done.append((attempt.id, len(f.data)))
    if not done:
        raise NotUsable("No file is ready to hand in. Choose whose they are first.", "nothing-ready")
    if queue is not None:
        defer_marking_of_many(session, queue, done)
    return len(done)


def read_again(session: Session, queue: App | None, instructor: Person, batch_id: int, file_id: int) -> None:
    """Try once more to read a file that could not be read."""
    batch = own_batch(session, instructor, batch_id, locked=True)
    row = _file(batch, file_id)
    if row.state != "unusable" or not row.data:
        raise NotUsable("This file needs no reading again. Reload the page.")
    row.state, row.trouble = "waiting", None
    session.flush()
    if queue is not None:
        defer_reading(session, queue, [(row.id, len(row.data))])


def drop_batch(session: Session, instructor: Person, batch_id: int) -> int:
    """Forget a batch; what was handed in of it stays with its students. Return the issue that it was for."""
    batch = own_batch(session, instructor, batch_id, locked=True)
    issue_id = batch.issue_id
    session.delete(batch)
    session.flush()
    return issue_id
