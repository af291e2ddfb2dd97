"""Exercises, issuing, handing in, marking, results: each with what it must refuse."""

from __future__ import annotations

import threading
from datetime import timedelta
from typing import Any

import pytest
from sqlalchemy import func, select, text

from evenmark import ENGINE_VERSION
from evenmark.core.drawing.model import Circle, Drawing, Line
from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.demo import parts
from evenmark.demo import slips as s
from evenmark.services import (
    exercise_edit,
    exercises,
    hand_in,
    marking,
    marking_view,
    own_results,
    own_work,
    results,
    terms,
)
from evenmark.services.bounded import run_bounded
from evenmark.services.errors import Busy, NotThere, NotUsable, Outdated
from evenmark.store.database import Conflict, Database
from evenmark.store.models import Attempt, Intake, Issue, MarkSheetRow, Revision
from evenmark.store.people import Person, now
from evenmark.store.queue import make_app as make_queue
from tests.builders import drawing, line
from tests.conftest import School

LINK = parts.crank_link().drawing
GOOD = write_dxf(LINK, Manner(shift=(3, 4)))
WRONG = write_dxf(s.circle_scaled(1, 2)(LINK))


def put(
    db: Database, school: School, key: bytes, *, tries: int = 3, detail: str = "numbers", days: float = 3
) -> int:
    """An exercise issued to Ada's class; returns the issue."""
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        revision = exercises.make_exercise(
            session, ada, title="Crank link", text="Draw it.", key_name="k.dxf", key=key
        )
        exercise_edit.change_revision(
            session, ada, revision.id, {"rules": {**revision.rules, "placement": "slide"}}
        )
        issue = exercises.put_issue(
            session, revision, school.adas, due_at=now() + timedelta(days=days), tries=tries, detail=detail
        )
        return issue.id


def hand(db: Database, person: int, issue: int, data: bytes, name: str = "a.dxf") -> int:
    """Hand a file in and mark it; returns the attempt."""
    with db.transaction() as session:
        who = session.get_one(Person, person)
        intake, _ = hand_in.lay_in(session, who, issue, name, data)
        attempt = hand_in.hand_in(session, None, who, intake.id).id
    with db.transaction() as session:
        marking.mark_attempt(session, attempt)
    return attempt


def test_an_issued_revision_never_changes(db: Database, school: School, key_bytes: bytes) -> None:
    issue = put(db, school, key_bytes)
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        old = session.get_one(Issue, issue).revision
        rules = {**old.rules, "marks": 50.0}
        changed = exercise_edit.change_revision(
            session, ada, old.id, {"rules": rules, "text": "Draw it well."}
        )
        assert (changed.number, changed.issued_at, old.text) == (2, None, "Draw it.")
        with pytest.raises(Outdated, match="newer"):
            exercise_edit.change_revision(session, ada, old.id, {"rules": rules})
        old_id = old.id
    for words in ("rules = '{}'", "key_bytes = ''", "number = 7", "issued_at = null", "issued_at = now()"):
        with pytest.raises(Conflict) as caught, db.transaction() as session:
            session.execute(text(f"update revision set {words} where id = :id"), {"id": old_id})
        assert caught.value.constraint == "issued_revision_stays"


def _construction_alone() -> Drawing:
    return drawing(line((0.0, 0.0), (9.0, 0.0), "construction"))


@pytest.mark.parametrize(
    ("key", "title", "word"),
    [
        (b"%PDF-1.4", "T", "PDF"),
        (b"", "T", "empty"),
        (None, "", "title"),
        (None, "x" * 161, "title"),
        (write_dxf(drawing()), "T", "empty"),
        (write_dxf(_construction_alone()), "T", "only construction"),
    ],
)
def test_keys_that_cannot_be(
    db: Database, school: School, key_bytes: bytes, key: bytes | None, title: str, word: str
) -> None:
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        with pytest.raises(NotUsable, match=word):
            exercises.make_exercise(
                session, ada, title=title, text="", key_name="k.dxf", key=key_bytes if key is None else key
            )
        assert session.scalar(select(func.count()).select_from(Revision)) == 0


def test_issuing_asks_for_what_it_needs(db: Database, school: School, key_bytes: bytes) -> None:
    with db.transaction() as session:
        ada, dot = session.get_one(Person, school.ada), session.get_one(Person, school.dot)
        revision = exercises.make_exercise(session, ada, title="T", text="", key_name="k.dxf", key=key_bytes)
        later = now() + timedelta(days=1)
        good: dict[str, Any] = {
            "revision_id": revision.id,
            "class_id": school.adas,
            "due_at": later,
            "tries": 2,
            "detail": "checks",
        }
        for change, error in (
            ({"due_at": now() - timedelta(minutes=1)}, NotUsable),
            ({"due_at": later.replace(tzinfo=None)}, NotUsable),
            ({"tries": 0}, NotUsable),
            ({"tries": 100}, NotUsable),
            ({"detail": "all"}, NotUsable),
            ({"class_id": school.dots}, NotThere),
        ):
            with pytest.raises(error):
                exercises.issue_exercise(session, ada, **{**good, **change})
        with pytest.raises(NotThere):
            exercises.issue_exercise(session, dot, **{**good, "class_id": school.dots})
        exercises.issue_exercise(session, ada, **good)
        with pytest.raises(NotUsable, match="already"):
            exercises.issue_exercise(session, ada, **good)


def test_an_exercise_that_checks_nothing_is_not_issued(
    db: Database, school: School, key_bytes: bytes
) -> None:
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        revision = exercises.make_exercise(session, ada, title="T", text="", key_name="k.dxf", key=key_bytes)
        off = [{**r, "on": False} for r in revision.rules["requirements"]]
        exercise_edit.change_revision(
            session, ada, revision.id, {"rules": {**revision.rules, "requirements": off}}
        )
        with pytest.raises(NotUsable, match="switched on"):
            exercises.put_issue(
                session, revision, school.adas, due_at=now() + timedelta(days=1), tries=1, detail="score"
            )
        with pytest.raises(NotUsable):
            exercise_edit.change_revision(
                session,
                ada,
                revision.id,
                {
                    "rules": {
                        **revision.rules,
                        "requirements": [{"id": 1, "kind": "length", "features": ["e99"]}],
                    }
                },
            )


def test_an_attempt_is_kept_as_it_came(db: Database, school: School, key_bytes: bytes) -> None:
    attempt = hand(db, school.ben, put(db, school, key_bytes), GOOD, "../../etc/my\tlink.dxf")
    with db.transaction() as session:
        kept = session.get_one(Attempt, attempt)
        assert kept.data == GOOD
        assert (kept.file_name, kept.number, kept.state, kept.late) == ("mylink.dxf", 1, "marked", False)
        assert len(kept.sha256) == 64
        sheet = session.scalars(select(MarkSheetRow)).one()
        assert (sheet.engine_version, sheet.earned, sheet.possible) == (ENGINE_VERSION, 100, 100)


@pytest.mark.parametrize(
    ("data", "word"),
    [
        (b"", "empty"),
        (b"hello", "DXF"),
        (b"AC1032" + bytes(100), "closed"),
        (write_dxf(drawing()), "nothing in it"),
        (b"0\nSECTION\n" + b"9" * (32 * 1024 * 1024), "32 MB"),
    ],
)
def test_a_mistake_in_the_file_uses_up_no_try(
    db: Database, school: School, key_bytes: bytes, data: bytes, word: str
) -> None:
    issue = put(db, school, key_bytes, tries=1)
    with db.transaction() as session:
        ben = session.get_one(Person, school.ben)
        with pytest.raises(NotUsable, match=word):
            hand_in.lay_in(session, ben, issue, "a.dxf", data)
    with db.transaction() as session:
        assert terms.terms_of(session, session.get_one(Issue, issue), school.ben).tries_left == 1
        assert session.scalar(select(func.count()).select_from(Intake)) == 0


def test_tries_are_used_up_by_handing_in_alone(db: Database, school: School, key_bytes: bytes) -> None:
    issue = put(db, school, key_bytes, tries=2)
    with db.transaction() as session:
        ben = session.get_one(Person, school.ben)
        first, _ = hand_in.lay_in(session, ben, issue, "a.dxf", WRONG)
        second, _ = hand_in.lay_in(session, ben, issue, "b.dxf", GOOD)
        with pytest.raises(NotThere):
            hand_in.hand_in(session, None, ben, first.id)
        second_id = second.id
    with db.transaction() as session:
        cy = session.get_one(Person, school.cy)
        with pytest.raises(NotThere):
            hand_in.hand_in(session, None, cy, second_id)
    hand(db, school.ben, issue, WRONG)
    hand(db, school.ben, issue, GOOD)
    with db.transaction() as session:
        ben = session.get_one(Person, school.ben)
        with pytest.raises(NotUsable, match="no tries left"):
            hand_in.lay_in(session, ben, issue, "c.dxf", GOOD)
        work = own_work.my_work(session, ben)
        assert (work[0].tries_left, work[0].handed_in, work[0].best) == (0, 2, 100)


def test_two_requests_at_once_do_not_use_one_try_twice(
    db: Database, school: School, key_bytes: bytes
) -> None:
    issue = put(db, school, key_bytes, tries=1)
    outcomes: list[str] = []
    together = threading.Barrier(2)

    def once() -> None:
        together.wait()
        try:
            with db.transaction() as session:
                hand_in.keep_attempt(
                    session,
                    session.get_one(Issue, issue),
                    school.ben,
                    file_name="a.dxf",
                    data=GOOD,
                    reading={},
                )
            outcomes.append("kept")
        except NotUsable:
            outcomes.append("refused")

    threads = [threading.Thread(target=once) for _ in range(2)]
    for t in threads:
        t.start()
    for t in threads:
        t.join()
    assert sorted(outcomes) == ["kept", "refused"]


def test_marking_twice_marks_once_and_late_is_told(db: Database, school: School, key_bytes: bytes) -> None:
    issue = put(db, school, key_bytes, days=-1)
    attempt = hand(db, school.ben, issue, GOOD)
    with db.transaction() as session:
        marking.mark_attempt(session, attempt)
        assert session.scalar(select(func.count()).select_from(MarkSheetRow)) == 1
        assert session.get_one(Attempt, attempt).late
        assert marking.mark_attempt(session, 999_999) is None


def test_a_drawing_that_cannot_be_marked_leaves_its_reason(
    db: Database, school: School, key_bytes: bytes
) -> None:
    issue = put(db, school, key_bytes)
    with db.transaction() as session:
        attempt = hand_in.keep_attempt(
            session,
            session.get_one(Issue, issue),
            school.ben,
            file_name="a.dxf",
            data=b"not a drawing",
            reading={},
        )
        assert marking.mark_attempt(session, attempt.id) is None
        assert attempt.state == "failed"
        assert attempt.trouble
        assert "DXF" in attempt.trouble


def test_asking_for_marking_is_undone_with_the_hand_in(
    db: Database, school: School, key_bytes: bytes
) -> None:
    issue = put(db, school, key_bytes)
    queue = make_queue(db.url)

    def jobs() -> int:
        with db.transaction() as session:
            return session.scalar(text("select count(*) from procrastinate_jobs")) or 0

    with queue.open():
        for fails in (True, False):
            try:
                with db.transaction() as session:
                    ben = session.get_one(Person, school.ben)
                    intake, _ = hand_in.lay_in(session, ben, issue, "a.dxf", GOOD)
                    hand_in.hand_in(session, queue, ben, intake.id)
                    if fails:
                        raise RuntimeError("the machine stops here")
            except RuntimeError:
                assert jobs() == 0
    assert jobs() == 1


# results


def test_class_results_and_what_was_missed(db: Database, school: School, key_bytes: bytes) -> None:
    issue = put(db, school, key_bytes)
    hand(db, school.ben, issue, WRONG)
    hand(db, school.ben, issue, GOOD)
    last = hand(db, school.cy, issue, write_dxf(s.left_out(Circle, 1)(s.twice(Line, 0)(LINK))))
    with db.transaction() as session:
        ada, dot = session.get_one(Person, school.ada), session.get_one(Person, school.dot)
        found = results.class_results(session, ada, issue)
        rows = {r.name: r for r in found.students}
        assert (rows["Ben Elm"].try_number, rows["Ben Elm"].earned) == (2, 100)
        assert {c.code for c in rows["Cyd Elm"].causes} == {"not-drawn", "drawn-twice"}
        assert found.missed[0].of == 2
        full = marking_view.attempt_in_full(session, ada, last)
        assert (full["place"], full["of"], full["next"]) == (2, 2, None)
        assert full["previous"]
        assert {f["verdict"] for f in full["marks"]["findings"]} == {"met", "missed", "absent", "follows"}
        assert results.desk(session, ada).latest[0].student == "Cyd Elm"
        for act in (
            lambda: results.class_results(session, dot, issue),
            lambda: marking_view.attempt_in_full(session, dot, last),
        ):
            with pytest.raises(NotThere):
                act()


def _numbers_in(value: Any) -> set[float]:
    if isinstance(value, dict):
        return set().union(*[_numbers_in(v) for v in value.values()]) if value else set()
    if isinstance(value, list | tuple):
        return set().union(*[_numbers_in(v) for v in value]) if value else set()
    return {float(value)} if isinstance(value, int | float) and not isinstance(value, bool) else set()


@pytest.mark.parametrize(
    ("detail", "findings", "sizes"),
    [("score", False, False), ("checks", True, False), ("numbers", True, True)],
)
def test_a_student_sees_as_much_as_the_exercise_allows(
    db: Database, school: School, key_bytes: bytes, detail: str, findings: bool, sizes: bool
) -> None:
    issue = put(db, school, key_bytes, detail=detail)
    attempt = hand(db, school.ben, issue, write_dxf(s.circle_scaled(0, 1.1)(LINK)))
    with db.transaction() as session:
        ben, cy = session.get_one(Person, school.ben), session.get_one(Person, school.cy)
        own = own_results.my_result(session, ben, attempt)
        assert bool(own["findings"]) is findings
        assert any(f["expected"] is not None for f in own["findings"]) is sizes
        assert (own["verdicts"] is not None) is findings
        assert "key" not in own
        with pytest.raises(NotThere):
            own_results.my_result(session, cy, attempt)
        # the bore asked for is 28 across; the one drawn 30.8
        told = _numbers_in(
            [
                own["drawn"],
                [{**f, "id": 0} for f in own["findings"]] if sizes else [],
                [c["says"] for c in own["causes"]],
            ]
        )
        assert (28.0 in told) is sizes
        assert 14.0 not in told or sizes


def _sleep() -> None:
    import time

    time.sleep(60)


def _break() -> None:
    import os

    os._exit(3)


def _grow() -> int:
    return len(bytearray(64 * 1024**3))


def test_work_that_takes_too_long_or_breaks_hurts_nobody() -> None:
    with pytest.raises(Busy, match="seconds"):
        run_bounded(_sleep, seconds=1)
    with pytest.raises(NotUsable):
        run_bounded(_break)
    with pytest.raises(Busy, match="memory"):
        run_bounded(_grow)
