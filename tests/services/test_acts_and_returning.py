"""Overrides, comments, undo and the record of them; returning marks; marking again by a newer engine. What a
student was given never changes."""

from __future__ import annotations

from decimal import Decimal
from typing import Any

import pytest
from sqlalchemy import select, text

from evenmark import ENGINE_VERSION
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.demo import parts
from evenmark.demo import slips as s
from evenmark.services import acts, marking, marking_view, own_results, prints, results, returning
from evenmark.services.errors import NotThere, NotUsable
from evenmark.store.database import Conflict, Database
from evenmark.store.models import Attempt, Issue, MarkingAct, MarkSheetRow, Returned
from evenmark.store.people import Person
from tests.conftest import School
from tests.services.test_from_key_to_result import GOOD, WRONG, hand, put


@pytest.fixture
def attempt(db: Database, school: School, key_bytes: bytes) -> int:
    """Ben's crank link with one hole twice too large, not returned yet."""
    issue = put(db, school, key_bytes)
    with db.transaction() as session:
        session.get_one(Issue, issue).returns = "by-hand"
    return hand(db, school.ben, issue, WRONG)


class Ada:
    """What Ada does and sees."""

    def __init__(self, db: Database, school: School, attempt: int) -> None:
        self.db, self.school, self.attempt = db, school, attempt

    def do(self, act: Any, *arguments: Any, **more: Any) -> Any:
        with self.db.transaction() as session:
            return act(session, session.get_one(Person, self.school.ada), self.attempt, *arguments, **more)

    @property
    def page(self) -> dict[str, Any]:
        found: dict[str, Any] = self.do(marking_view.attempt_in_full)
        return found

    @property
    def missed(self) -> dict[str, Any]:
        found: dict[str, Any] = next(
            f for f in self.page["marks"]["findings"] if f["verdict"] == "missed" or "engine" in f
        )
        return found

    @property
    def ben(self) -> dict[str, Any]:
        with self.db.transaction() as session:
            return own_results.my_result(session, session.get_one(Person, self.school.ben), self.attempt)


@pytest.fixture
def ada(db: Database, school: School, attempt: int) -> Ada:
    return Ada(db, school, attempt)


def test_an_override_and_taking_it_back(ada: Ada) -> None:
    before = ada.page["marks"]["earned"]
    own = ada.missed["earned"]  # no slip costs more than it may, so that what is missed may earn something
    finding = ada.missed["id"]
    ada.do(acts.override, finding=finding, verdict="met", reason="The sheet said so.")
    assert ada.page["marks"]["earned"] == 100.0
    assert ada.missed["engine"]["verdict"] == "missed"
    ada.do(acts.override, finding=finding, verdict="missed", reason="Half of it.", marks=Decimal("0.5"))
    assert ada.page["marks"]["earned"] == pytest.approx(before - own + 0.5)
    ada.do(acts.undo)
    assert ada.page["marks"]["earned"] == 100.0  # the override before it stands again
    ada.do(acts.undo)
    assert ada.page["marks"]["earned"] == before
    with pytest.raises(NotUsable, match="Nothing to undo"):
        ada.do(acts.undo)
    ada.do(acts.redo)
    ada.do(acts.redo)
    assert ada.page["marks"]["earned"] == pytest.approx(before - own + 0.5)
    with pytest.raises(NotUsable, match="Nothing to redo"):
        ada.do(acts.redo)


def test_after_something_new_nothing_is_brought_back(ada: Ada) -> None:
    ada.do(acts.comment, text="One")
    ada.do(acts.undo)
    ada.do(acts.comment, text="Two")
    with pytest.raises(NotUsable):
        ada.do(acts.redo)
    assert [c["text"] for c in ada.page["comments"]] == ["Two"]


def test_a_chosen_act_is_taken_back_out_of_turn(ada: Ada) -> None:
    first = ada.do(acts.comment, text="One").id
    ada.do(acts.comment, text="Two")
    ada.do(acts.undo, first)
    assert [c["text"] for c in ada.page["comments"]] == ["Two"]
    with pytest.raises(NotUsable):
        ada.do(acts.undo, first)


def test_the_record_says_who_did_what_and_cannot_be_changed(ada: Ada, db: Database) -> None:
    ada.do(acts.override, finding=ada.missed["id"], verdict="met", reason="As agreed.")
    ada.do(acts.comment, text="Well drawn.", at=(12.5, 3.0))
    ada.do(acts.undo)
    rows = ada.page["history"]
    assert [r.says for r in rows if r.act] == [
        "Undone: Commented: Well drawn.",
        "Commented: Well drawn.",
        f"Finding {ada.missed['id']} set to met: As agreed.",
    ]
    assert [r.stands for r in rows if r.act] == [True, False, True]
    assert {r.who for r in rows} == {"Ada Ash", "Ben Elm", "Even Mark"}
    for change in ("update marking_act set detail = '{}'", "update returned set earned = 1"):
        ada_returns = "returned" in change
        if ada_returns:
            ada.do(returning.return_one)
        with pytest.raises(Conflict, match="marking_act_stays"), db.transaction() as session:
            session.execute(text(change))


@pytest.mark.parametrize(
    ("values", "word"),
    [
        ({"finding": 99999, "verdict": "met", "reason": "x"}, "no such finding"),
        ({"verdict": "follows", "reason": "x"}, "Choose met"),
        ({"verdict": "met", "reason": "  \n "}, "Give the reason"),
        ({"verdict": "met", "reason": "x" * 2001}, "at most 2000"),
        ({"verdict": "met", "reason": "x", "marks": Decimal("50")}, "Give between 0 and"),
        ({"verdict": "met", "reason": "x", "marks": Decimal("NaN")}, "Give between 0 and"),
    ],
)
def test_overrides_that_cannot_be(ada: Ada, values: dict[str, Any], word: str) -> None:
    with pytest.raises((NotUsable, NotThere), match=word):
        ada.do(acts.override, **{"finding": ada.missed["id"], **values})
    assert ada.page["comments"] == []


def test_only_what_was_returned_is_seen(ada: Ada) -> None:
    assert (ada.ben["state"], ada.ben["earned"], ada.ben["findings"]) == ("kept", None, [])
    ada.do(returning.return_one)
    first = ada.ben
    assert (first["state"], ada.page["returned"]) == ("marked", "yes")
    finding = ada.missed["id"]
    ada.do(acts.override, finding=finding, verdict="met", reason="As agreed.")
    ada.do(acts.comment, text="Look at the bore.", finding=finding, at=(82.0, 0.0))
    assert ada.ben == first  # changed, and not returned
    assert ada.page["returned"] == "changed"
    ada.do(returning.return_one)
    now = ada.ben
    assert (now["earned"], [c["text"] for c in now["comments"]]) == (100.0, ["Look at the bore."])
    mine = next(f for f in now["findings"] if f["id"] == finding)
    assert (mine["verdict"], mine["reason"], mine["by_hand"], now["causes"]) == (
        "met",
        "As agreed.",
        True,
        [],
    )
    with pytest.raises(NotUsable, match="returned already"):
        ada.do(returning.return_one)
    ada.do(returning.take_back)
    assert (ada.ben["state"], ada.ben["earned"]) == ("kept", None)
    with pytest.raises(NotUsable, match="not returned"):
        ada.do(returning.take_back)
    ada.do(returning.return_one)
    assert ada.ben["earned"] == 100.0


def test_marks_returned_at_once_stay_when_they_are_changed(
    db: Database, school: School, key_bytes: bytes
) -> None:
    ada = Ada(db, school, hand(db, school.ben, put(db, school, key_bytes), WRONG))
    assert ada.page["returned"] == "yes"
    before = ada.ben
    ada.do(acts.override, finding=ada.missed["id"], verdict="met", reason="x")
    assert (ada.ben, ada.page["returned"]) == (before, "changed")


def test_a_class_is_returned_as_one(db: Database, school: School, key_bytes: bytes) -> None:
    issue = put(db, school, key_bytes)
    with db.transaction() as session:
        session.get_one(Issue, issue).returns = "by-hand"
    for person in (school.ben, school.cy):
        hand(db, person, issue, GOOD)
    with db.transaction() as session:
        ada, dot = session.get_one(Person, school.ada), session.get_one(Person, school.dot)
        with pytest.raises(NotThere):
            returning.return_all(session, dot, issue)
        assert (returning.return_all(session, ada, issue), returning.return_all(session, ada, issue)) == (
            2,
            0,
        )
        assert {r.returned for r in results.class_results(session, ada, issue).students} == {"yes"}


def test_students_get_nothing_of_the_key(ada: Ada) -> None:
    ada.do(returning.return_one)
    page = ada.ben
    marks = [m for f in page["findings"] for m in f["sketch"]]
    assert marks
    assert {m["tone"] for m in marks} == {"drawn"}
    assert "key" not in page


@pytest.mark.parametrize("detail", ["score", "checks"])
def test_less_detail_gives_no_sizes(ada: Ada, db: Database, detail: str) -> None:
    ada.do(acts.comment, text="Measure it.", finding=ada.missed["id"])
    with db.transaction() as session:
        session.get_one(Attempt, ada.attempt).issue.detail = detail
    ada.do(returning.return_one)
    page = ada.ben
    assert [c["text"] for c in page["comments"]] == ["Measure it."]
    for f in page["findings"]:
        assert (f["expected"], f["measured"], f["deviation"], f["sketch"]) == (None, None, None, [])
    for c in page["causes"]:
        assert c["lesson"]["lines"] == []
        assert c["lesson"]["avoid"]
    assert bool(page["findings"]) == (detail == "checks")


@pytest.mark.parametrize("form", ["pdf", "dxf"])
def test_downloads_are_for_those_who_may_see_them(ada: Ada, db: Database, school: School, form: str) -> None:
    made = ada.do(prints.marked, form)
    assert (len(made.made()) > 2000, made.name) == (True, f"a marked.{form}")
    with db.transaction() as session:
        ben, cy, dot = (session.get_one(Person, i) for i in (school.ben, school.cy, school.dot))
        with pytest.raises(NotUsable, match="not returned yet"):
            prints.own_marked(session, ben, ada.attempt, form)
        with pytest.raises(NotThere):
            prints.own_marked(session, cy, ada.attempt, form)
        with pytest.raises(NotThere):
            prints.marked(session, dot, ada.attempt, form)
    ada.do(returning.return_one)
    with db.transaction() as session:
        own = prints.own_marked(session, session.get_one(Person, school.ben), ada.attempt, form)
    assert len(own.made()) > 2000


# a newer engine


def newer(monkeypatch: pytest.MonkeyPatch) -> None:
    """An engine that finds everything as this one does, under another number."""
    for module in (marking, marking_view, results):
        monkeypatch.setattr(module, "ENGINE_VERSION", "9.9")


def test_marking_again_keeps_the_old_sheet_and_what_was_returned(
    ada: Ada, db: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    ada.do(returning.return_one)
    before = ada.ben
    newer(monkeypatch)
    page = ada.page
    assert page["outdated"]
    issue = page["issue"].id
    with db.transaction() as session:
        instructor = session.get_one(Person, ada.school.ada)
        assert results.class_results(session, instructor, issue).outdated == 1
        assert marking.mark_class_again(session, None, instructor, issue) == 1
        marking.mark_attempt(session, ada.attempt)
        marking.mark_attempt(session, ada.attempt)
        assert session.query(MarkSheetRow).count() == 2
    page = ada.page
    assert (page["outdated"], page["differs"]["same"], page["returned"]) == (False, True, "changed")
    assert ada.ben == before
    with pytest.raises(NotUsable, match="current engine"):
        ada.do(lambda session, who, attempt: marking.mark_again(session, None, who, attempt))


def test_what_a_newer_engine_sees_otherwise_is_listed(
    ada: Ada, db: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    ada.do(returning.return_one)
    before = ada.ben
    newer(monkeypatch)
    real = marking.mark

    def kinder(*arguments: Any) -> Any:
        return real(arguments[0], arguments[1], GOOD, *arguments[3:])

    monkeypatch.setattr(marking, "run_bounded", lambda work, *a, seconds: kinder(*a))
    with db.transaction() as session:
        marking.mark_attempt(session, ada.attempt)
    found = ada.page["differs"]
    assert (found["engine_before"], found["engine_after"], found["same"]) == (ENGINE_VERSION, "9.9", False)
    changed = [(r["before"]["verdict"], r["after"]["verdict"]) for r in found["findings"]]
    assert ("missed", "met") in changed
    assert set(changed) <= {("missed", "met"), ("met", "met")}  # what was lost with it is earned again
    assert found["earned"][1] == 100.0
    assert ada.ben == before


def test_marks_still_stand_when_a_newer_engine_cannot_mark(
    ada: Ada, db: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    from evenmark.services.errors import Busy

    earned = ada.page["marks"]["earned"]
    newer(monkeypatch)

    def too_long(*_: Any, **__: Any) -> None:
        raise Busy("It takes too long.")

    monkeypatch.setattr(marking, "run_bounded", too_long)
    with db.transaction() as session:
        assert marking.mark_attempt(session, ada.attempt) is None
    page = ada.page
    assert (page["state"], page["marks"]["earned"], page["trouble"]) == (
        "marked",
        earned,
        "It takes too long.",
    )


def test_an_override_holds_for_the_new_sheet_too(
    ada: Ada, db: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    ada.do(acts.override, finding=ada.missed["id"], verdict="near", reason="Read off the old sheet.")
    earned = ada.page["marks"]["earned"]
    newer(monkeypatch)
    with db.transaction() as session:
        marking.mark_attempt(session, ada.attempt)
    assert ada.page["marks"]["earned"] == earned


# going through a class


def test_going_through_those_who_missed_a_check_or_made_a_slip(
    db: Database, school: School, key_bytes: bytes
) -> None:
    issue = put(db, school, key_bytes)
    good, wrong = hand(db, school.ben, issue, GOOD), hand(db, school.cy, issue, WRONG)
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        found = results.class_results(session, ada, issue)
        [slip] = found.slips
        [check] = found.missed
        assert (slip.code, slip.first, check.first, check.students) == (
            "radius-for-diameter",
            wrong,
            wrong,
            1,
        )
        for only in ("cause-radius-for-diameter", f"finding-{check.finding}"):
            page = marking_view.attempt_in_full(session, ada, wrong, only)
            assert (page["place"], page["of"], page["only"]) == (1, 1, only)
            assert page["only_name"]
        everybody = marking_view.attempt_in_full(session, ada, wrong)
        assert (everybody["of"], everybody["previous"]) == (2, good)
        for nonsense in ("", "finding-", "cause-'; drop table person", "x" * 200):
            if nonsense:
                with pytest.raises(NotUsable):
                    marking_view.attempt_in_full(session, ada, wrong, nonsense)
        cells = {r.name: r.cells for r in found.students}
        assert len(cells["Ben Elm"]) == len(found.checks)
        assert set(cells["Ben Elm"]) == {"met"}
        assert cells["Cyd Elm"].count("missed") == 1


def test_sheets_of_one_attempt_are_all_kept(ada: Ada, db: Database) -> None:
    """The log and what was returned go with the attempt, and are counted once."""
    ada.do(acts.comment, text="x")
    ada.do(returning.return_one)
    with db.transaction() as session:
        assert len(list(session.scalars(select(MarkingAct)))) == 1
        assert len(list(session.scalars(select(Returned)))) == 1


def test_a_key_drawn_either_way_is_accepted(db: Database, school: School, key_bytes: bytes) -> None:
    from evenmark.services import exercise_edit, exercises

    other = write_dxf(parts.wheel_hub().drawing)
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        revision = exercises.make_exercise(
            session, ada, title="Either", text="", key_name="k.dxf", key=key_bytes
        )
        exercise_edit.change_revision(
            session, ada, revision.id, {"rules": {**revision.rules, "placement": "slide"}}
        )
        exercise_edit.add_file(session, ada, revision.id, part="key", name="hub.dxf", data=other)
        issue = _issued(session, ada, revision.id, school)
    hub = hand(db, school.ben, issue, write_dxf(parts.wheel_hub().drawing))
    link = hand(db, school.cy, issue, GOOD)
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        for attempt in (hub, link):
            page = marking_view.attempt_in_full(session, ada, attempt)
            assert page["marks"]["earned"] == page["marks"]["possible"]
            assert not {f["verdict"] for f in page["marks"]["findings"]} - {"met"}
        rows = {r.attempt_id: r for r in results.class_results(session, ada, issue).students}
        assert (rows[hub].key, rows[hub].cells, rows[link].key) == (1, [], 0)
        assert set(rows[link].cells) == {"met"}
        acts.override(session, ada, hub, finding=2, verdict="missed", reason="By its own key.")
        assert marking_view.attempt_in_full(session, ada, hub)["marks"]["earned"] < 100.0
        assert len(marking_view.attempt_in_full(session, ada, hub)["key"]["features"]) != len(
            marking_view.attempt_in_full(session, ada, link)["key"]["features"]
        )


def _issued(session: Any, ada: Person, revision: int, school: School) -> int:
    """A revision issued to Ada's class until tomorrow."""
    from datetime import timedelta

    from evenmark.services import exercises
    from evenmark.store.people import now

    due = now() + timedelta(days=1)
    return exercises.issue_exercise(
        session, ada, revision_id=revision, class_id=school.adas, due_at=due, tries=3, detail="numbers"
    ).id


def test_what_a_start_drawing_gives_is_neither_marked_nor_in_the_way(
    db: Database, school: School, key_bytes: bytes
) -> None:
    from evenmark.core.drawing.model import Circle
    from evenmark.services import exercise_edit, exercises

    link = parts.crank_link().drawing
    begun = write_dxf(s.left_out(Circle, 1)(s.left_out(Circle, 0)(link)))
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        revision = exercises.make_exercise(
            session, ada, title="Holes", text="", key_name="k.dxf", key=write_dxf(link)
        )
        before = len(revision.rules["requirements"])
        exercise_edit.add_file(session, ada, revision.id, part="start", name="begun.dxf", data=begun)
        assert len(revision.rules["requirements"]) < before
        issue = _issued(session, ada, revision.id, school)
    with pytest.raises(Conflict, match="issued_revision_stays"), db.transaction() as session:
        session.execute(text("delete from revision_file"))
    whole, nothing = hand(db, school.ben, issue, write_dxf(link)), hand(db, school.cy, issue, begun)
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        assert marking_view.attempt_in_full(session, ada, whole)["marks"]["earned"] == 100.0
        page = marking_view.attempt_in_full(session, ada, nothing)
        assert page["marks"]["earned"] < 30.0
        kinds = {f["kind"] for f in page["marks"]["findings"] if f["verdict"] == "absent"}
        assert "radius" in kinds
        revision = session.get_one(Attempt, whole).issue.revision
        changed = exercise_edit.remove_file(session, ada, revision.id, revision.files[0].id)
        assert (changed.number, changed.files, len(changed.rules["requirements"])) == (2, [], before)
        assert len(revision.files) == 1  # the issued one is as it was
