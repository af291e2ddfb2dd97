"""Boards: nothing that was drawn is lost, whatever goes wrong in between; handing in, own checks, how it was
made."""

from __future__ import annotations

import json
import threading
import time
from typing import Any

import pytest

from evenmark.core.construct.document import from_json, from_text, to_json, to_text
from evenmark.demo.parts import KIT
from evenmark.services import (
    board_history,
    board_out,
    board_saving,
    boards,
    exercises,
    hand_in,
    marking,
    own_checks,
)
from evenmark.services.board_sessions import MOST_ASKED, BoardSessions
from evenmark.services.errors import Busy, Crowded, NotThere, NotUsable, Outdated
from evenmark.store.boards import OwnCheck
from evenmark.store.database import Database
from evenmark.store.models import Attempt, Issue
from evenmark.store.people import Person
from tests.conftest import Caller, School
from tests.services.test_from_key_to_result import put


def step(n: int, says: str) -> dict[str, Any]:
    return {"kind": "step", "says": says, "id": n}


def come(at: int, *lines: dict[str, Any]) -> list[dict[str, Any]]:
    return [{"at": at, "gone": [], "come": list(lines)}]


@pytest.fixture
def drawn(db: Database, school: School) -> int:
    """A board of Ada's with a circle."""
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        board = boards.new_board(session, ada, "Plate")
        board_saving.save(session, ada, board.id, 0, [come(1, step(1, "circle 0, 0; radius 5"))])
        return board.id


def text_of(db: Database, who: int, board: int) -> str:
    with db.transaction() as session:
        return board_out.as_text(session, session.get_one(Person, who), board)[1].decode()


def test_acts_are_kept_in_order_and_once(db: Database, school: School, drawn: int) -> None:
    acts = [come(2, step(2, "circle 9, 0; radius 2")), come(3, step(3, "circle 18, 0; radius 2"))]
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        assert board_saving.save(session, ada, drawn, 1, acts).version == 3
        # the answer was lost, and the page sends them once more, with one that came since
        more = [*acts, come(4, step(4, "circle 27, 0; radius 2"))]
        assert board_saving.save(session, ada, drawn, 1, more).version == 4
        kept = list(board_history.acts_between(session, drawn, 0, 4))
        assert [a["splices"][0]["come"][0]["id"] for a in kept] == [1, 2, 3, 4]
    assert len(text_of(db, school.ada, drawn).splitlines()) == 5


def test_two_pages_that_have_gone_on_are_told_apart_and_neither_is_lost(
    db: Database, school: School, drawn: int
) -> None:
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        before = from_json(boards.opened(session, ada, drawn).document)
        board_saving.save(session, ada, drawn, 1, [come(2, step(2, "circle 9, 0; radius 2"))])
        with pytest.raises(Outdated):
            board_saving.save(session, ada, drawn, 1, [come(2, step(2, "line 0, 0; 9, 9"))])
        mine = to_json(from_text(to_text(before) + "line 0, 0; 9, 9\n"))
        assert board_saving.part(session, ada, drawn, 2, mine, mine=True) == 3
        with pytest.raises(Outdated):
            board_saving.part(session, ada, drawn, 2, mine, mine=True)
        [aside] = boards.opened(session, ada, drawn).aside
        assert aside.says == "the list that was kept, 2 steps"
        kept = from_json(board_saving.set_aside(session, ada, drawn, aside.id))
        assert "circle 9, 0; radius 2" in to_text(kept)
        # and the other way round
        assert board_saving.part(session, ada, drawn, 3, to_json(before), mine=False) == 3
        assert [a.says for a in boards.opened(session, ada, drawn).aside][0] == "the other list, 1 step"
    assert "line 0, 0; 9, 9" in text_of(db, school.ada, drawn)


def test_what_makes_no_sense_changes_nothing(db: Database, school: School, drawn: int) -> None:
    before = text_of(db, school.ada, drawn)
    for acts in (
        [[{"at": 1, "gone": [{"kind": "blank"}], "come": []}]],
        [come(1, step(1, "circle 0, 0; radius 7"))],
        [[{"at": -1, "gone": [], "come": []}]],
        [[{"at": 1, "gone": [], "come": [{"kind": "step", "says": "two\nlines", "id": 9}]}]],
        [come(1, step(2, "x" * 3_100_000))],
    ):
        with pytest.raises((NotUsable, Outdated)), db.transaction() as session:
            board_saving.save(session, session.get_one(Person, school.ada), drawn, 1, acts)
    with pytest.raises(NotThere), db.transaction() as session:
        board_saving.save(session, session.get_one(Person, school.dot), drawn, 1, [])
    with pytest.raises(NotUsable, match="unit"), db.transaction() as session:
        boards.new_board(session, session.get_one(Person, school.ada), "Plate", "furlong")
    assert text_of(db, school.ada, drawn) == before


LINK = (KIT / "crank-link.txt").read_text()


def draft(db: Database, school: School, issue: int, text: str) -> int:
    with db.transaction() as session:
        ben = session.get_one(Person, school.ben)
        board = boards.draft_for(session, ben, issue)
        assert boards.draft_for(session, ben, issue).id == board.id
        lines = to_json(from_text(text))["lines"]
        gone = board.document["lines"]
        board_saving.save(session, ben, board.id, 0, [[{"at": 0, "gone": gone, "come": lines}]])
        return board.id


def handed_in(application: Any, board: int) -> Any:
    ben = Caller(application, "ben")
    return ben.post(f"/api/boards/{board}/hand-in", ben.list_of(board))


def test_a_draft_is_handed_in_with_how_it_was_made(application: Any, db: Database, school: School) -> None:
    issue = put(db, school, LINK.encode())
    board = draft(db, school, issue, LINK)
    answer = handed_in(application, board)
    assert answer.status_code == 200, answer.json
    with db.transaction() as session:
        attempt = session.get_one(Attempt, answer.json["attempt_id"])
        sheet = marking.mark_attempt(session, attempt.id)
        assert sheet is not None
        assert sheet.earned == sheet.possible
        assert (attempt.board_id, attempt.made_version) == (board, 1)
        assert attempt.reading["layers"]
    made = Caller(application, "ada").get(f"/api/attempts/{answer.json['attempt_id']}/made").json
    assert {"kind": "unit", "says": "mm"} in made["acts"][0]["splices"][0]["come"]
    assert made["document"]["lines"] == [{"kind": "unit", "says": "mm"}]
    [deed] = made["acts"]
    assert (deed["kind"], deed["length"]) == ("wrote", len(from_text(LINK).steps))
    for count, empty in ((0, True), (1, False), (9, False)):
        path = f"/api/attempts/{answer.json['attempt_id']}/made/{count}"
        shown = Caller(application, "ada").get(path).json
        assert shown["answer"]["empty"] is empty
    assert (
        Caller(application, "dot").get(f"/api/attempts/{answer.json['attempt_id']}/made").status_code == 404
    )


def test_an_empty_draft_is_not_handed_in(application: Any, db: Database, school: School) -> None:
    issue = put(db, school, LINK.encode())
    board = Caller(application, "ben").post(f"/api/work/{issue}/board").json["board_id"]
    answer = handed_in(application, board)
    assert (answer.status_code, answer.json["says"]) == (422, "Nothing is drawn yet. Draw something first.")


@pytest.mark.parametrize("says", ["which", "count"])
def test_own_checks_are_counted_and_say_no_number(
    application: Any, db: Database, school: School, says: str
) -> None:
    issue = put(db, school, LINK.encode())
    wrong = LINK.replace("left_bore = 14", "left_bore = 15")
    board = draft(db, school, issue, wrong)
    ben = Caller(application, "ben")
    refused = ben.post(f"/api/boards/{board}/check", ben.list_of(board))
    assert refused.status_code == 422
    with db.transaction() as session:
        exercises.may_check(session.get_one(Issue, issue), 2, says)
    told = ben.post(f"/api/boards/{board}/check", ben.list_of(board)).json
    assert told["not_met"] >= 1
    assert told["left"] == 1
    assert (told["which"] is None) == (says == "count")
    text = json.dumps(told["which"] or [])
    for number in ("24", "82", "13.0", "48"):
        assert number not in text
    assert ben.get(f"/api/boards/{board}").json["own_check"] == {"of": 2, "left": 1, "says": says}
    assert ben.post(f"/api/boards/{board}/check", ben.list_of(board)).json["left"] == 0
    assert ben.post(f"/api/boards/{board}/check", ben.list_of(board)).json["code"] == "no-check-left"
    with db.transaction() as session:
        assert session.query(OwnCheck).count() == 2
        with pytest.raises(NotUsable):
            own_checks.to_check(session, session.get_one(Person, school.ben), board)


def test_a_board_becomes_a_key_and_comes_out_as_every_file(
    application: Any, db: Database, school: School
) -> None:
    ada = Caller(application, "ada")
    board = ada.post("/api/boards", {"title": "Crank link", "unit": "mm"}).json["board_id"]
    lines = to_json(from_text(LINK))["lines"]
    gone = ada.get(f"/api/boards/{board}").json["document"]["lines"]
    saved = ada.post(
        f"/api/boards/{board}/acts", {"base": 0, "acts": [[{"at": 0, "gone": gone, "come": lines}]]}
    )
    assert saved.json == {"version": 1, "room": ""}
    made = ada.post(
        f"/api/boards/{board}/exercise", {**ada.list_of(board), "title": "Drawn here", "text": "Draw it."}
    )
    assert made.status_code == 200, made.json
    assert ada.get(f"/api/exercises/{made.json['revision_id']}").json["key_name"] == "Crank link.json"
    for way, begins in (
        ("dxf", b"  0"),
        ("svg", b"<"),
        ("pdf", b"%PDF"),
        ("json", b"{"),
        ("txt", b"# Crank"),
    ):
        answer = ada.get(f"/api/boards/{board}/file.{way}")
        assert answer.status_code == 200, way
        assert answer.data.lstrip(b"\xef\xbb\xbf").startswith(begins) or way == "svg", way
    assert ada.get(f"/api/boards/{board}/file.dxf?version=R12").status_code == 200
    assert ada.get(f"/api/boards/{board}/file.dxf?version=R99").status_code == 422


def test_the_server_answers_what_the_worker_would(
    application: Any, db: Database, school: School, drawn: int
) -> None:
    ada = Caller(application, "ada")

    def ask(version: int, call: str, **args: Any) -> Any:
        return ada.post(f"/api/boards/{drawn}/ask", {"version": version, "call": call, "args": args})

    view = ask(1, "view").json["answer"]
    assert [r["says"] for r in view["rows"]] == ["circle 0, 0; radius 5"]
    wrote = ask(1, "write", says="circle centre of circle 1; radius 2").json["answer"]
    assert [p["id"] for p in wrote["view"]["pieces"]] == ["circle 2.1"]
    # it counts only once it is saved
    assert [r["says"] for r in ask(1, "view").json["answer"]["rows"]] == ["circle 0, 0; radius 5"]
    saved = ada.post(f"/api/boards/{drawn}/acts", {"base": 1, "acts": [wrote["splices"]]})
    assert saved.json == {"version": 2, "room": ""}
    pointed = ask(2, "point", says="circle ", x=0.1, y=0.1, reach=0.5, pixel=0.05).json["answer"]
    assert pointed["text"] == "circle centre of circle 1; "
    assert ask(1, "view").status_code == 409
    assert ask(2, "apply", splices=[]).json["answer"]["refused"]
    assert ask(2, "write", says="circle 0, 0; radios 5").json["answer"]["at"] == 13


def test_a_call_that_takes_too_long_is_ended_and_the_next_is_answered(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    desks = BoardSessions()
    document = to_json(from_text("circle 0, 0; radius 5\n"))
    assert desks.ask(1, (1, 1), document, "view", {})["rows"]
    monkeypatch.setattr("evenmark.services.board_sessions.SECONDS", 0.0)
    many = to_json(from_text("".join(f"circle {n}, 0; radius 1\n" for n in range(4000))))
    with pytest.raises(Busy):
        desks.ask(1, (2, 1), many, "view", {})
    monkeypatch.setattr("evenmark.services.board_sessions.SECONDS", 10.0)
    assert desks.ask(1, (1, 1), document, "view", {})["rows"]
    desks.close()


def test_nobody_waits_for_the_board_of_somebody_else(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("evenmark.services.board_sessions.SECONDS", 60.0)
    desks = BoardSessions()
    document = to_json(from_text("circle 0, 0; radius 5\n"))
    assert desks.ask(1, (1, 0), document, "view", {})["rows"]
    slow = to_json(from_text("".join(f"circle {n}, 0; radius 1\n" for n in range(4000))))
    ended = threading.Event()

    def ask_slowly() -> None:
        desks.ask(2, (2, 0), slow, "view", {})
        ended.set()

    other = threading.Thread(target=ask_slowly)
    other.start()
    for version in range(1, 6):
        line = {"kind": "step", "id": version + 1, "says": f"circle {version}, 0; radius 1"}
        desks.done(1, version - 1, version, [[{"at": version, "gone": [], "come": [line]}]])
        assert len(desks.ask(1, (1, version), {}, "view", {})["rows"]) == version + 1
        assert not ended.is_set()
    other.join()
    desks.close()


def test_who_asks_dear_things_leaves_room_for_others(monkeypatch: pytest.MonkeyPatch) -> None:
    """Of two processes one is for who has asked little; and so many questions at once are no more, at
    once."""
    monkeypatch.setattr("evenmark.services.board_sessions.SECONDS", 60.0)
    monkeypatch.setattr("evenmark.services.board_sessions.MOST_PROCESSES", 2)
    monkeypatch.setattr("evenmark.services.board_sessions.LONGEST_WAIT", 0.2)
    desks = BoardSessions(most_inside=3)
    document = to_json(from_text("circle 0, 0; radius 5\n"))
    slow = to_json(from_text("".join(f"circle {n}, 0; radius 1\n" for n in range(6000))))
    for dear in ("2", "3"):
        desks._used.add(dear, 100.0)
    begun, ended = threading.Event(), threading.Event()

    def ask_slowly() -> None:
        begun.set()
        desks.ask(2, (2, 0), slow, "view", {})
        ended.set()

    other = threading.Thread(target=ask_slowly)
    other.start()
    begun.wait(10)
    time.sleep(0.3)
    with pytest.raises(Crowded):
        desks.ask(3, (3, 0), document, "view", {})
    assert desks.ask(1, (1, 0), document, "view", {})["rows"]  # type: ignore[index]
    assert not ended.is_set()
    desks._inside = 3
    before = time.monotonic()
    with pytest.raises(Crowded):
        desks.ask(4, (4, 0), document, "view", {})
    assert time.monotonic() - before < 0.1
    desks._inside = 1
    other.join()
    desks.close()


def test_what_was_saved_is_known_without_the_whole_list_and_after_a_process_was_ended() -> None:
    desks = BoardSessions()
    document = to_json(from_text("circle 0, 0; radius 5\n"))
    desks.ask(1, (1, 0), document, "view", {})
    act = [[{"at": 1, "gone": [], "come": [{"kind": "step", "id": 2, "says": "circle 9, 0; radius 1"}]}]]
    desks.done(1, 0, 1, act)
    assert len(desks.ask(1, (1, 1), {}, "view", {})["rows"]) == 2  # an empty list could not be read
    desks.close()
    whole = to_json(from_text("circle 0, 0; radius 5\ncircle 9, 0; radius 1\n"))
    assert len(desks.ask(1, (1, 1), whole, "view", {})["rows"]) == 2
    desks.close()


def test_nobody_asks_too_often(monkeypatch: pytest.MonkeyPatch) -> None:
    desks = BoardSessions()
    document = to_json(from_text("circle 0, 0; radius 5\n"))
    begun = time.monotonic()
    with pytest.raises(Crowded):
        for _ in range(MOST_ASKED + 1):
            desks.ask(1, (1, 1), document, "find", {"says": "circle"})
            assert time.monotonic() - begun < 60
    assert desks.ask(2, (1, 1), document, "find", {"says": "circle"})["kinds"]
    desks.close()


def test_a_draft_is_for_those_to_whom_it_was_issued(db: Database, school: School) -> None:
    issue = put(db, school, LINK.encode(), days=3)
    with pytest.raises(NotThere), db.transaction() as session:
        boards.draft_for(session, session.get_one(Person, school.eve), issue)
    with db.transaction() as session:
        assert hand_in.issue_for(session, session.get_one(Person, school.ben), issue).id == issue
