"""Files that are made for an instructor by a worker: a class's feedback as one PDF, its drawings as one ZIP,
a class's or a student's data.

- *export*: such a file with how far it is; kept for a day in pieces, so that none of any size is held whole.
- *item*: what an export counts its progress by: a drawing, a student.
"""

from __future__ import annotations

import io
import tempfile
from collections.abc import Callable, Iterator
from datetime import timedelta
from typing import IO

from procrastinate import App
from sqlalchemy import delete, select, update
from sqlalchemy.orm import Session

from evenmark.services.classes import own_class, own_student
from evenmark.services.errors import NotThere, NotUsable, Refused
from evenmark.services.export_content import (
    Content,
    class_content,
    feedback_content,
    files_content,
    student_content,
)
from evenmark.services.issues import own_issue
from evenmark.store.database import Database
from evenmark.store.models import Export, ExportPart
from evenmark.store.people import Person, now
from evenmark.store.queue import defer_export

KINDS = ("feedback", "files", "class", "student")
KEPT = timedelta(days=1)
PIECE = 1024 * 1024
MOST_BYTES = 2 * 1024**3
IN_MEMORY = 16 * 1024 * 1024
MOST_WAITING = 3
"""Of one instructor at once."""
GAVE_UP = "This file could not be made. Try again; if it happens again, download the parts one by one."


def start_export(session: Session, queue: App | None, instructor: Person, kind: str, number: int) -> Export:
    """Ask for a file about an issue, a class or a student. Raises NotThere, NotUsable when several are being
    made already."""
    session.execute(delete(Export).where(Export.made_at < now() - KEPT))
    waiting = session.scalars(
        select(Export.id).where(Export.person_id == instructor.id, Export.state == "waiting")
    ).all()
    if len(waiting) >= MOST_WAITING:
        raise NotUsable(
            "Several files are being made for you already. Wait for one of them.", "several-waiting"
        )
    if kind in ("feedback", "files"):
        issue = own_issue(session, instructor, number)
        what = "Feedback" if kind == "feedback" else "Drawings"
        name, about = f"{what} {issue.revision.title} {issue.school_class.name}", {"issue": number}
    elif kind == "class":
        name, about = f"Class {own_class(session, instructor, number).name}", {"class": number}
    elif kind == "student":
        name, about = f"Data of {own_student(session, instructor, number).name}", {"student": number}
    else:
        raise NotUsable("There is no such download. Reload the page.")
    ending = "pdf" if kind == "feedback" else "zip"
    row = Export(person_id=instructor.id, kind=kind, about=about, name=f"{name[:240]}.{ending}")
    session.add(row)
    session.flush()
    if queue is not None:
        defer_export(session, queue, row.id)
    return row


def own_export(session: Session, instructor: Person, export_id: int) -> Export:
    """Return a file that was asked for by this instructor. Raises NotThere for any other, or once it is
    forgotten."""
    row = session.get(Export, export_id)
    if row is None or row.person_id != instructor.id:
        raise NotThere("This file has expired. Prepare it again.")
    return row


def cancel(session: Session, instructor: Person, export_id: int) -> None:
    """Forget a file, also while it is being made."""
    session.delete(own_export(session, instructor, export_id))
    session.flush()


def parts_of(database: Database, export_id: int) -> Iterator[bytes]:
    """Yield the pieces of a file, each read by itself."""
    number = 0
    while True:
        with database.transaction() as session:
            row = session.get(ExportPart, (export_id, number))
            if row is None:
                return
            data = row.data
        yield data
        number += 1


def make_export(database: Database, export_id: int) -> None:
    """Make a file that was asked for, and keep it; what is cancelled meanwhile is dropped."""
    with database.transaction() as session:
        row = session.get(Export, export_id)
        if row is None or row.state != "waiting":
            return
        instructor = session.get_one(Person, row.person_id)
        kind, about = row.kind, row.about
        session.execute(delete(ExportPart).where(ExportPart.export_id == export_id))

    def told(done: int, of: int) -> bool:
        with database.transaction() as session:
            changed = session.execute(
                update(Export).where(Export.id == export_id).values(done=done, of=of).returning(Export.id)
            )
            return changed.first() is not None

    makers: dict[str, Callable[[], Content]] = {
        "feedback": lambda: feedback_content(database, instructor, about["issue"]),
        "files": lambda: files_content(database, instructor, about["issue"]),
        "class": lambda: class_content(database, instructor, about["class"]),
        "student": lambda: student_content(database, instructor, about["student"]),
    }
    with tempfile.SpooledTemporaryFile(max_size=IN_MEMORY) as out:
        try:
            content = makers[kind]()
            if not told(0, content.of):
                return
            for done in content.write(out):
                if out.tell() > MOST_BYTES:
                    raise NotUsable("Together this is more than 2 GB. Download one exercise at a time.")
                if not told(done, content.of):
                    return
            _keep(database, export_id, out)
        except Refused as why:
            fail(database, export_id, why.says)


def _keep(database: Database, export_id: int, out: IO[bytes]) -> None:
    """Keep a made file in pieces."""
    size = out.seek(0, io.SEEK_END)
    out.seek(0)
    for number in range(-(-size // PIECE)):
        with database.transaction() as session:
            if session.get(Export, export_id) is None:
                return
            session.add(ExportPart(export_id=export_id, number=number, data=out.read(PIECE)))
    with database.transaction() as session:
        session.execute(update(Export).where(Export.id == export_id).values(state="ready", size=size))


def fail(database: Database, export_id: int, says: str = GAVE_UP) -> None:
    """Say of a file that it could not be made."""
    with database.transaction() as session:
        session.execute(update(Export).where(Export.id == export_id).values(state="failed", trouble=says))
