"""Wiping leaves no trace in any table, keeps the counts of a class right, and is in the record."""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Any

import pytest
from sqlalchemy import LargeBinary, MetaData, select, text
from sqlalchemy.orm import Session

from evenmark.services import (
    acts,
    batch_reading,
    batches,
    board_saving,
    boards,
    class_upkeep,
    classes,
    exercise_upkeep,
    exports,
    hand_in,
    issue_upkeep,
    lists,
    own_results,
    own_work,
    people,
    results,
    returning,
    throttle,
    wiping,
)
from evenmark.services.errors import NotThere, NotUsable
from evenmark.services.record import record_of
from evenmark.store.boards import OwnCheck
from evenmark.store.database import Database
from evenmark.store.models import Attempt, Issue
from evenmark.store.people import Person, SchoolClass, SignedIn, now
from evenmark.store.queue import make_app
from tests.conftest import PASSWORD, School
from tests.services.test_from_key_to_result import GOOD, hand, put

NAME, SIGN_IN = "Zephyrine Quokka", "zephyrine.q"


def _new_student(session: Session, class_id: int) -> int:
    person = people.make_person(session, name=NAME, sign_in=SIGN_IN, password=PASSWORD, role="student")
    classes.enrol(session, person, session.get_one(SchoolClass, class_id))
    return person.id


def _traces(db: Database, student: int) -> list[str]:
    """Walk every table of the database for a person's number, name or sign-in name."""
    found = []
    tables = MetaData()
    tables.reflect(db.engine)
    with db.transaction() as session:
        for table in tables.sorted_tables:
            people_columns = [
                c.name
                for c in table.columns
                if any(k.column.table.name == "person" for k in c.foreign_keys)
                or (table.name == "person" and c.name == "id")
            ]
            kept = [c for c in table.columns if not isinstance(c.type, LargeBinary)]
            for row in session.execute(select(*kept)).mappings():
                said = json.dumps(dict(row), default=str).casefold()
                if any(row[c] == student for c in people_columns) or any(
                    w.casefold() in said for w in (NAME, SIGN_IN, NAME.split()[1])
                ):
                    found.append(f"{table.name}: {said[:200]}")
    return found


@pytest.fixture
def full(db: Database, school: School, key_bytes: bytes) -> dict[str, int]:
    """Somebody about whom every table that can knows something, in two classes of Ada's."""
    issue = put(db, school, key_bytes)
    with db.transaction() as session:
        student = _new_student(session, school.adas)
        other = classes.make_class(session, session.get_one(Person, school.ada), "Evenings")
        classes.enrol(session, session.get_one(Person, student), other)
        second = other.id
    attempt = hand(db, student, issue, GOOD)
    hand(db, school.ben, issue, GOOD)
    with db.transaction() as session:
        ada, who = session.get_one(Person, school.ada), session.get_one(Person, student)
        acts.comment(session, ada, attempt, text="Well drawn.")
        acts.override(session, ada, attempt, finding=1, verdict="missed", reason="As agreed.", marks=None)
        returning.return_one(session, ada, attempt)
        issue_upkeep.allow(
            session, ada, issue, student, due_at=now() + timedelta(days=30), more_tries=2, reason="Was ill."
        )
        hand_in.lay_in(session, who, issue, "next.dxf", GOOD)
        batch = batches.start_batch(
            session, None, ada, issue, [(f"{NAME}.dxf", GOOD), ("Cyd Elm.dxf", GOOD), (f"{NAME} 2.dxf", GOOD)]
        )
        for f in batch.files:
            batch_reading.read_file(session, f.id)
        batches.decide(session, ada, batch.id, batch.files[0].id, student)
        batches.decide(session, ada, batch.id, batch.files[2].id, None)
        batches.hand_in_batch(session, None, ada, batch.id, on_time=True)
        draft = boards.draft_for(session, who, issue)
        lines = [{"kind": "step", "says": "circle 0, 0; radius 5", "id": 1}]
        board_saving.save(session, who, draft.id, 0, [[{"at": 1, "gone": [], "come": lines}]])
        board_saving.part(session, who, draft.id, 1, draft.document, mine=False)
        session.add(OwnCheck(issue_id=issue, student_id=student))
        people.open_session(session, who)
        throttle.remember_device(session, who, None)
        people.new_first_code(session, who)
        classes.ask_in(session, who, session.get_one(SchoolClass, school.dots), NAME)
        for tried in (SIGN_IN, f"code of {SIGN_IN}", f"password of {student}", f"forgotten {SIGN_IN}"):
            throttle.was_wrong(session, throttle.note_try(session, tried, "10.0.0.1"))
        exports.start_export(session, None, ada, "student", student)
    queue = make_app(db.url)
    with queue.open(), db.transaction() as session:
        from evenmark.store.queue import defer_marking, defer_marking_of_many

        defer_marking(session, queue, attempt)
        defer_marking_of_many(session, queue, [(attempt, 10), (attempt + 1, 10)])
    return {"student": student, "issue": issue, "attempt": attempt, "second": second}


def test_wiping_a_student_leaves_no_trace(db: Database, school: School, full: dict[str, int]) -> None:
    student, issue = full["student"], full["issue"]
    assert len({t.split(":")[0] for t in _traces(db, student)}) >= 12
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        goes = wiping.what_goes_of_student(session, ada, student)
        assert (goes.name, goes.attempts, goes.issues) == (NAME, 2, 1)
        assert (goes.classes, goes.account) == (["Ada's class", "Evenings"], True)
        before = results.class_results(session, ada, issue)
        assert len(before.students) == 3
        wiping.wipe_student(session, ada, student)
    assert _traces(db, student) == []
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        after = results.class_results(session, ada, issue)
        assert [s.name for s in after.students] == ["Ben Elm", "Cyd Elm"]
        assert {c.missed for c in after.checks} <= {0, 1, 2}
        [row] = [i for i in results.desk(session, ada).issues if i.id == issue]
        assert (row.students, row.handed_in) == (2, 2)
        assert {c.name: c.students for c in lists.classes_of(session, ada)} == {
            "Ada's class": 2,
            "Evenings": 0,
        }
        for group in (school.adas, full["second"]):
            said = record_of(session, ada, class_id=group)["entries"][0]["says"]
            assert said == "Deleted the data of one student: 2 drawings, and the account."
        jobs = session.execute(text("select args::text from procrastinate_jobs")).scalars().all()
        assert all(str(full["attempt"]) not in json.dumps(json.loads(j).get("attempt_ids", [])) for j in jobs)
        assert session.scalars(select(Attempt.student_id)).all() != []
        with pytest.raises(NotThere):
            wiping.wipe_student(session, ada, student)


def test_what_belongs_to_another_instructor_stays(
    db: Database, school: School, full: dict[str, int], key_bytes: bytes
) -> None:
    student = full["student"]
    with db.transaction() as session:
        who = session.get_one(Person, student)
        classes.answer(session, who, school.dots, join=True)
        dot = session.get_one(Person, school.dot)
        from evenmark.services import exercises

        made = exercises.make_exercise(session, dot, title="Hub", text="", key_name="k.dxf", key=key_bytes)
        theirs = exercises.put_issue(
            session, made, school.dots, due_at=now() + timedelta(days=3), tries=3, detail="numbers"
        ).id
    kept = hand(db, student, theirs, GOOD)
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        assert not wiping.what_goes_of_student(session, ada, student).account
        wiping.wipe_student(session, ada, student)
        who = session.get_one(Person, student)
        assert own_results.my_result(session, who, kept)["state"] == "marked"
        assert [w.id for w in own_work.my_work(session, who)] == [theirs]
        assert classes.classes_now(session, student) == {school.dots}
        assert session.scalars(select(SignedIn).where(SignedIn.person_id == student)).all() != []
        with pytest.raises(NotThere):
            wiping.wipe_student(session, ada, student)
    left = {t.split(":")[0] for t in _traces(db, student)}
    assert "batch_file" not in left
    assert "allowance" not in left
    assert "record_entry" not in left


def test_nobody_wipes_others_students(db: Database, school: School) -> None:
    with db.transaction() as session:
        dot = session.get_one(Person, school.dot)
        with pytest.raises(NotThere):
            wiping.wipe_student(session, dot, school.ben)
        with pytest.raises(NotThere):
            wiping.wipe_class(session, dot, school.adas)
        with pytest.raises(NotThere):
            wiping.wipe_student(session, dot, school.ada)


def test_deleting_a_class_takes_its_work_and_who_is_nowhere_else(
    db: Database, school: School, full: dict[str, int]
) -> None:
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        goes = wiping.what_goes_of_class(session, ada, school.adas)
        assert goes == ("Ada's class", 3, 1, 4, 2)
        wiping.wipe_class(session, ada, school.adas)
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        assert session.get(SchoolClass, school.adas) is None
        assert session.scalars(select(Attempt)).all() == []
        assert session.get(Person, school.ben) is None
        assert session.get(Person, full["student"]) is not None  # is in another class
        assert [c.name for c in lists.classes_of(session, ada)] == ["Evenings"]
        said = record_of(session, ada)["entries"][0]["says"]
        assert said == "Deleted the class “Ada's class”: 3 students, 4 drawings, 2 accounts."
        assert not any(NAME in e["says"] for e in record_of(session, ada)["entries"])


def test_deleting_an_exercise_takes_what_was_handed_in(
    db: Database, school: School, full: dict[str, int]
) -> None:
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        exercise = session.get_one(Issue, full["issue"]).revision.exercise_id
        goes = exercise_upkeep.what_goes(session, ada, exercise)
        assert goes == (1, 1, 4, 3)
        exercise_upkeep.delete(session, ada, exercise)
    with db.transaction() as session:
        ada, ben = session.get_one(Person, school.ada), session.get_one(Person, school.ben)
        assert results.desk(session, ada).issues == []
        assert own_work.my_work(session, ben) == []
        assert "4 drawings of 3 students" in record_of(session, ada)["entries"][0]["says"]


def test_a_class_that_is_over_is_read_and_nothing_more(
    db: Database, school: School, key_bytes: bytes
) -> None:
    issue = put(db, school, key_bytes)
    attempt = hand(db, school.ben, issue, GOOD)
    with db.transaction() as session:
        ada, ben = session.get_one(Person, school.ada), session.get_one(Person, school.ben)
        code = session.get_one(SchoolClass, school.adas).join_code
        class_upkeep.archive(session, ada, school.adas, away=True)
        assert own_results.my_result(session, ben, attempt)["state"] == "marked"
        assert own_work.work_of(session, ben, issue).shut == "archived"
        with pytest.raises(NotUsable, match="archived"):
            hand_in.lay_in(session, ben, issue, "a.dxf", GOOD)
        with pytest.raises(NotThere):
            classes.class_of_code(session, code)
        assert results.desk(session, ada).issues == []
        class_upkeep.archive(session, ada, school.adas, away=False)
        hand_in.lay_in(session, ben, issue, "a.dxf", GOOD)


def test_a_renamed_class_goes_on_asking_for_the_name_that_it_had(
    db: Database, school: School, key_bytes: bytes
) -> None:
    issue = put(db, school, key_bytes)
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        class_upkeep.rename(session, ada, school.adas, " Mornings ")
        row = session.get_one(Issue, issue)
        assert (row.school_class.name, row.group_name) == ("Mornings", "Ada's class")
        for name in ("", "x" * 121, "a\u200bb"):
            with pytest.raises(NotUsable):
                class_upkeep.rename(session, ada, school.adas, name)


def test_a_duplicated_class_has_the_students_and_nothing_else(
    db: Database, school: School, key_bytes: bytes
) -> None:
    put(db, school, key_bytes)
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        made = class_upkeep.duplicate(session, ada, school.adas, "Next year", students=True)
        page = lists.class_page(session, ada, made.id)
        assert [s.id for s in page.students] == [school.ben, school.cy]
        assert page.issues == []
        bare = class_upkeep.duplicate(session, ada, school.adas, "Empty", students=False)
        assert lists.class_page(session, ada, bare.id).students == []


def test_a_duplicated_exercise_has_everything_but_attempts(
    db: Database, school: School, key_bytes: bytes, full: Any
) -> None:
    from evenmark.core.formats.dxf_write import write_dxf
    from evenmark.demo import parts
    from evenmark.services import exercise_edit, exercises, keys

    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        old = session.get_one(Issue, full["issue"]).revision
        rules = {**old.rules, "marks": 40.0, "placement": "slide-and-turn"}
        old = exercise_edit.change_revision(session, ada, old.id, {"rules": rules, "text": "Mind the boss."})
        again = exercise_upkeep.duplicate(session, ada, old.exercise_id, "Again")
        assert (again.number, again.issued_at, again.text) == (1, None, "Mind the boss.")
        assert again.rules == old.rules
        taken = keys.read_key(ada, title="Hub", key_name="hub.dxf", key=write_dxf(parts.wheel_hub().drawing))
        other = exercise_upkeep.duplicate_with_key(session, ada, old.exercise_id, taken)
        assert (other.rules["marks"], other.rules["placement"]) == (40.0, "slide-and-turn")
        assert other.rules["requirements"] != old.rules["requirements"]
        assert keys.key_view(other).scene["features"]
        exercise_upkeep.archive(session, ada, other.exercise_id, away=True)
        rows = {r.id: r for r in exercises.newest_revisions(session, ada)}
        assert rows[other.id].exercise.archived_at is not None
