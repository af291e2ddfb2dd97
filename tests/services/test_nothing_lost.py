"""What somebody did stays: past work of those who left, and changes that two make at once."""

from __future__ import annotations

from typing import Any

import pytest

from evenmark.services import (
    classes,
    exercise_edit,
    exercises,
    hand_in,
    lists,
    own_results,
    own_work,
    results,
)
from evenmark.services.errors import NotThere, Outdated
from evenmark.services.marking_view import attempt_in_full
from evenmark.services.people import make_person, told_apart
from evenmark.store.database import Database
from evenmark.store.models import Issue
from evenmark.store.people import Person, SchoolClass
from tests.conftest import PASSWORD, School
from tests.services.test_from_key_to_result import GOOD, WRONG, hand, put


def test_who_leaves_a_class_keeps_their_past_and_so_does_the_class(
    db: Database, school: School, key_bytes: bytes
) -> None:
    issue = put(db, school, key_bytes)
    attempt = hand(db, school.ben, issue, WRONG)
    hand(db, school.cy, issue, GOOD)
    with db.transaction() as session:
        classes.remove_student(session, session.get_one(Person, school.ada), school.adas, school.ben)
    with db.transaction() as session:
        ada, ben = session.get_one(Person, school.ada), session.get_one(Person, school.ben)
        found = results.class_results(session, ada, issue)
        assert [(r.name, r.left, r.earned is not None) for r in found.students] == [
            ("Cyd Elm", False, True),
            ("Ben Elm", True, True),
        ]
        assert all(c.missed == 0 for c in found.checks)  # those who are in the class met everything
        assert attempt_in_full(session, ada, attempt)["student"] == "Ben Elm"
        (row,) = lists.class_page(session, ada, school.adas).issues
        assert (row.students, row.handed_in) == (1, 1)
        assert [w.left for w in own_work.my_work(session, ben)] == [True]
        assert own_work.work_of(session, ben, issue).left
        assert own_results.my_result(session, ben, attempt)["earned"] is not None
        with pytest.raises(NotThere):
            hand_in.lay_in(session, ben, issue, "again.dxf", GOOD)
        assert [s.name for s in lists.class_page(session, ada, school.adas).left] == ["Ben Elm"]
        with pytest.raises(NotThere):
            classes.remove_student(session, ada, school.adas, school.ben)
        assert classes.enrol(session, ben, session.get_one(SchoolClass, school.adas))  # and back
        assert not own_work.work_of(session, ben, issue).left


def test_one_who_left_without_handing_in_sees_nothing_more(
    db: Database, school: School, key_bytes: bytes
) -> None:
    issue = put(db, school, key_bytes)
    with db.transaction() as session:
        classes.remove_student(session, session.get_one(Person, school.ada), school.adas, school.ben)
        ben = session.get_one(Person, school.ben)
        assert own_work.my_work(session, ben) == []
        with pytest.raises(NotThere):
            own_work.work_of(session, ben, issue)


def test_students_of_one_name_are_told_apart_wherever_they_stand(
    db: Database, school: School, key_bytes: bytes
) -> None:
    issue = put(db, school, key_bytes)
    with db.transaction() as session:
        other = make_person(session, name="ben elm", sign_in="ben.2", password=PASSWORD, role="student")
        classes.enrol(session, other, session.get_one(SchoolClass, school.adas))
        number = other.id
    attempts = [hand(db, school.ben, issue, GOOD), hand(db, number, issue, GOOD)]
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        names = {r.name for r in results.class_results(session, ada, issue).students}
        assert names == {"Ben Elm (ben)", "ben elm (ben.2)", "Cyd Elm"}
        assert {attempt_in_full(session, ada, a)["student"] for a in attempts} == names - {"Cyd Elm"}
        assert {r.student for r in results.desk(session, ada).latest} == names - {"Cyd Elm"}
        assert told_apart([session.get_one(Person, school.cy)]) == {school.cy: "Cyd Elm"}


def _changed(
    db: Database, school: School, revision: int, changes: dict[str, Any], based_on: Any
) -> tuple[int, Any]:
    with db.transaction() as session:
        made = exercise_edit.change_revision(
            session, session.get_one(Person, school.ada), revision, changes, based_on
        )
        return made.id, made.changed_at


@pytest.mark.parametrize("issued", [False, True])
def test_a_change_on_an_older_state_overwrites_nothing(
    db: Database, school: School, key_bytes: bytes, issued: bool
) -> None:
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        made = exercises.make_exercise(session, ada, title="Link", text="", key_name="k.dxf", key=key_bytes)
        revision, known = made.id, made.changed_at
    if issued:
        issue = put(db, school, key_bytes)
        with db.transaction() as session:
            first = session.get_one(Issue, issue).revision
            revision, known = first.id, first.changed_at
    newest, after = _changed(db, school, revision, {"title": "First"}, known)
    with pytest.raises(Outdated):
        _changed(db, school, revision, {"title": "Second"}, known)
    with db.transaction() as session:
        assert exercises.own_revision(session, session.get_one(Person, school.ada), newest).title == "First"
    assert _changed(db, school, newest, {"title": "Second"}, after)[0] == newest
