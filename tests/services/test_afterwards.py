"""What can be put right after issuing: dates, tries, closing, withdrawing, more for one student, words, newer
revisions."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import pytest
from sqlalchemy import select, text

from evenmark.services import exercise_edit, exercises, hand_in, issue_upkeep, own_results, own_work, results
from evenmark.services.errors import NotThere, NotUsable, Outdated
from evenmark.services.record import record_of
from evenmark.services.terms import terms_of
from evenmark.store.database import Conflict, Database
from evenmark.store.models import Allowance, Attempt, Intake, Issue, RecordEntry, Revision
from evenmark.store.people import Person, now
from tests.conftest import School
from tests.services.test_from_key_to_result import GOOD, hand, put

REASON = "Was ill."


def _record(db: Database, school: School) -> list[str]:
    with db.transaction() as session:
        found = record_of(session, session.get_one(Person, school.ada), class_id=school.adas)
        return [e["says"] for e in found["entries"]]


def _terms(db: Database, issue: int, student: int) -> Any:
    with db.transaction() as session:
        return terms_of(session, session.get_one(Issue, issue), student)


def _allow(db: Database, school: School, issue: int, **more: Any) -> None:
    with db.transaction() as session:
        given: dict[str, Any] = {"due_at": None, "more_tries": 0, "reason": REASON, **more}
        issue_upkeep.allow(session, session.get_one(Person, school.ada), issue, school.ben, **given)


def test_what_nobody_handed_in_to_is_withdrawn_and_open_to_changes_again(
    db: Database, school: School, key_bytes: bytes
) -> None:
    issue = put(db, school, key_bytes)
    with db.transaction() as session:
        ada, ben = session.get_one(Person, school.ada), session.get_one(Person, school.ben)
        hand_in.lay_in(session, ben, issue, "a.dxf", GOOD)
        revision = session.get_one(Issue, issue).revision_id
        issue_upkeep.withdraw(session, ada, issue)
    with db.transaction() as session:
        ada, ben = session.get_one(Person, school.ada), session.get_one(Person, school.ben)
        assert own_work.my_work(session, ben) == []
        assert session.scalars(select(Intake)).all() == []
        with pytest.raises(NotThere):
            own_work.work_of(session, ben, issue)
        rules = {**session.get_one(Revision, revision).rules, "marks": 40.0}
        assert exercise_edit.change_revision(session, ada, revision, {"rules": rules}).id == revision
    assert _record(db, school)[0].startswith("Withdrew “")


def test_what_somebody_handed_in_to_is_closed_instead(db: Database, school: School, key_bytes: bytes) -> None:
    issue = put(db, school, key_bytes)
    hand(db, school.ben, issue, GOOD)
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        with pytest.raises(NotUsable, match="handed in"):
            issue_upkeep.withdraw(session, ada, issue)
        issue_upkeep.close(session, ada, issue)
        issue_upkeep.close(session, ada, issue)  # once more does nothing
    assert _terms(db, issue, school.ben).shut[0] == "closed"
    for student in (school.ben, school.cy):
        with db.transaction() as session, pytest.raises(NotUsable, match="closed"):
            hand_in.lay_in(session, session.get_one(Person, student), issue, "a.dxf", GOOD)
    with db.transaction() as session:
        issue_upkeep.reopen(session, session.get_one(Person, school.ada), issue)
    hand(db, school.cy, issue, GOOD)
    assert [says.split()[0] for says in _record(db, school)] == ["Reopened", "Closed"]


def test_what_was_laid_in_before_it_closed_is_not_handed_in_after(
    db: Database, school: School, key_bytes: bytes
) -> None:
    issue = put(db, school, key_bytes)
    with db.transaction() as session:
        ben = session.get_one(Person, school.ben)
        intake, _ = hand_in.lay_in(session, ben, issue, "a.dxf", GOOD)
        issue_upkeep.close(session, session.get_one(Person, school.ada), issue)
        with pytest.raises(NotUsable, match="closed"):
            hand_in.hand_in(session, None, ben, intake.id)
        assert session.get(Intake, intake.id) is not None


def test_another_date_takes_late_away_and_never_gives_it(
    db: Database, school: School, key_bytes: bytes
) -> None:
    issue = put(db, school, key_bytes)
    early, late = hand(db, school.ben, issue, GOOD), hand(db, school.cy, issue, GOOD)
    with db.transaction() as session:
        row = session.get_one(Issue, issue)
        row.due_at = now() - timedelta(hours=1)
        session.get_one(Attempt, late).late = True
        ada = session.get_one(Person, school.ada)
        with pytest.raises(NotUsable, match="passed"):
            issue_upkeep.change_issue(session, ada, issue, {"due_at": now() - timedelta(minutes=1)})
        with pytest.raises(NotUsable, match="year"):
            issue_upkeep.change_issue(session, ada, issue, {"due_at": now() + timedelta(days=40_000)})
        assert session.get_one(Attempt, late).late
        issue_upkeep.change_issue(session, ada, issue, {"due_at": now() + timedelta(days=1), "tries": 5})
        assert not session.get_one(Attempt, late).late
        assert not session.get_one(Attempt, early).late
    assert _terms(db, issue, school.ben).tries_left == 4
    [says] = _record(db, school)
    assert "5 tries instead of 3" in says


def test_one_student_is_allowed_more(db: Database, school: School, key_bytes: bytes) -> None:
    issue = put(db, school, key_bytes)
    with db.transaction() as session:
        session.get_one(Issue, issue).tries = 1
    hand(db, school.ben, issue, GOOD)
    assert _terms(db, issue, school.ben).shut[0] == "no-tries"
    _allow(db, school, issue, more_tries=1)
    hand(db, school.ben, issue, GOOD)
    with db.transaction() as session:  # closed for all but who has a later date
        session.get_one(Issue, issue).due_at = now() - timedelta(days=1)
        issue_upkeep.close(session, session.get_one(Person, school.ada), issue)
    later = now() + timedelta(days=2)
    _allow(db, school, issue, more_tries=2, due_at=later)
    ben, cy = _terms(db, issue, school.ben), _terms(db, issue, school.cy)
    assert (ben.shut, ben.due_at, ben.tries) == (None, later, 3)
    assert cy.shut[0] == "closed"
    attempt = hand(db, school.ben, issue, GOOD)
    with db.transaction() as session:
        assert not session.get_one(Attempt, attempt).late
        ada = session.get_one(Person, school.ada)
        row = next(
            r for r in results.class_results(session, ada, issue).students if r.student_id == school.ben
        )
        assert row.allowance == (later, 2, REASON)
        [work] = own_work.my_work(session, session.get_one(Person, school.ben))
        assert (work.due_at, work.tries, work.allowed) == (later, 3, True)
        assert REASON not in str(own_work.work_of(session, session.get_one(Person, school.ben), issue))
    _allow(db, school, issue)
    assert _terms(db, issue, school.ben).shut[0] == "closed"
    assert [says.split()[0] for says in _record(db, school)] == ["Withdrew", "Allowed", "Closed", "Allowed"]
    assert REASON in _record(db, school)[1]


def test_a_class_date_moved_past_an_own_one_holds_for_that_student_too(
    db: Database, school: School, key_bytes: bytes
) -> None:
    issue = put(db, school, key_bytes)
    with db.transaction() as session:
        given = session.get_one(Issue, issue).due_at
    own, moved = given + timedelta(days=1), given + timedelta(days=9)
    _allow(db, school, issue, due_at=own)
    assert _terms(db, issue, school.ben).due_at == own
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        issue_upkeep.change_issue(session, ada, issue, {"due_at": moved})
    assert _terms(db, issue, school.ben).due_at == moved
    with db.transaction() as session:  # once closed, the own date is all there is
        issue_upkeep.close(session, session.get_one(Person, school.ada), issue)
    terms = _terms(db, issue, school.ben)
    assert (terms.due_at, terms.shut) == (own, None)


@pytest.mark.parametrize(
    ("given", "word"),
    [
        ({"reason": "  ", "more_tries": 1}, "reason"),
        ({"more_tries": 100}, "0 to 99"),
        ({"due_at": timedelta(days=-1)}, "passed"),
        ({"due_at": timedelta(minutes=5)}, "later date"),
    ],
)
def test_allowances_that_cannot_be(
    db: Database, school: School, key_bytes: bytes, given: dict[str, Any], word: str
) -> None:
    issue = put(db, school, key_bytes)
    if "due_at" in given:
        given = {**given, "due_at": now() + given["due_at"]}
    with pytest.raises(NotUsable, match=word):
        _allow(db, school, issue, **given)
    with db.transaction() as session:
        assert session.scalars(select(Allowance)).all() == []


def test_nobody_of_another_class_is_allowed_anything(db: Database, school: School, key_bytes: bytes) -> None:
    issue = put(db, school, key_bytes)
    with db.transaction() as session, pytest.raises(NotThere):
        issue_upkeep.allow(
            session,
            session.get_one(Person, school.ada),
            issue,
            school.eve,
            due_at=None,
            more_tries=1,
            reason="x",
        )


def test_words_are_put_right_in_place_and_on_the_sheet(
    db: Database, school: School, key_bytes: bytes
) -> None:
    issue = put(db, school, key_bytes)
    with db.transaction() as session:
        ada, ben = session.get_one(Person, school.ada), session.get_one(Person, school.ben)
        old = session.get_one(Issue, issue).revision
        sheet, number, id_ = bytes(old.sheet_png), old.number, old.id
        changed = exercise_edit.change_revision(
            session, ada, id_, {"title": "Crank link, right", "text": "Draw it well."}
        )
        assert (changed.id, changed.number) == (id_, number)
        assert changed.sheet_png != sheet
        work = own_work.work_of(session, ben, issue)
        assert (work.title, work.text) == ("Crank link, right", "Draw it well.")
        said = record_of(session, ada, exercise_id=changed.exercise_id)["entries"][0]["says"]
        assert "Crank link, right" in said
        assert "the instructions" in said


def test_words_of_an_older_revision_are_put_right_too(db: Database, school: School, key_bytes: bytes) -> None:
    issue = put(db, school, key_bytes)
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        old = session.get_one(Issue, issue).revision
        exercise_edit.change_revision(session, ada, old.id, {"rules": {**old.rules, "marks": 10.0}})
        assert exercise_edit.change_revision(session, ada, old.id, {"text": "Clearer."}).id == old.id
        with pytest.raises(Outdated):
            exercise_edit.change_revision(session, ada, old.id, {"rules": {**old.rules, "marks": 20.0}})


def test_what_is_changed_while_the_work_is_done_is_not_overwritten(
    db: Database, school: School, key_bytes: bytes
) -> None:
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        made = exercises.make_exercise(session, ada, title="Link", text="", key_name="k.dxf", key=key_bytes)
    with db.transaction() as session:
        basis = exercise_edit.begin(session, ada, made.id)
    edit = exercise_edit.changed(basis, {"title": "Mine"})
    with db.transaction() as session:
        exercise_edit.change_revision(session, ada, made.id, {"title": "Theirs"})
    with db.transaction() as session, pytest.raises(Outdated):
        exercise_edit.keep(session, ada, edit)
    with db.transaction() as session:
        assert session.get_one(Revision, made.id).title == "Theirs"


def test_a_newer_revision_takes_the_place_of_the_older(
    db: Database, school: School, key_bytes: bytes
) -> None:
    first = put(db, school, key_bytes)
    attempt = hand(db, school.ben, first, GOOD)
    with db.transaction() as session:
        ada, ben = session.get_one(Person, school.ada), session.get_one(Person, school.ben)
        old = session.get_one(Issue, first).revision
        newer = exercise_edit.change_revision(session, ada, old.id, {"rules": {**old.rules, "marks": 10.0}})
        second = exercises.put_issue(
            session,
            newer,
            school.adas,
            due_at=now() + timedelta(days=9),
            tries=2,
            detail="score",
        ).id
    with db.transaction() as session:
        ada, ben = session.get_one(Person, school.ada), session.get_one(Person, school.ben)
        [card] = own_work.my_work(session, ben)
        assert (card.id, card.revision, card.handed_in) == (second, 2, 0)
        [earlier] = card.earlier
        assert (earlier.id, earlier.revision, earlier.handed_in) == (first, 1, 1)
        assert earlier.best == own_results.my_result(session, ben, attempt)["earned"]
        old_page = own_work.work_of(session, ben, first)
        assert (old_page.newer, old_page.shut) == (second, "replaced")
        with pytest.raises(NotUsable, match="newer revision"):
            hand_in.lay_in(session, ben, first, "a.dxf", GOOD)
        heads = {i.id: i.newer for i in results.desk(session, ada).issues}
        assert heads == {first: second, second: None}
        issue_upkeep.withdraw(session, ada, second)  # then the older one is what there is
        assert [w.id for w in own_work.my_work(session, ben)] == [first]
        assert terms_of(session, session.get_one(Issue, first), school.ben).shut is None


def test_the_record_is_only_added_to(db: Database, school: School, key_bytes: bytes) -> None:
    issue = put(db, school, key_bytes)
    _allow(db, school, issue, more_tries=1)
    with pytest.raises(Conflict) as caught, db.transaction() as session:
        session.execute(text("update record_entry set says = 'nothing'"))
    assert caught.value.constraint == "record_stays"
    with db.transaction() as session:
        assert len(session.scalars(select(RecordEntry)).all()) == 1
        dot = session.get_one(Person, school.dot)
        assert record_of(session, dot, class_id=school.adas)["entries"] == []
