"""What uses something up is done once however often it is asked; what is made of a board is made of the list
that its page shows; nobody fills the disk; a history of any length is read in parts."""

from __future__ import annotations

import io
import json
import zipfile
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from typing import Any

import pytest
from sqlalchemy import func, select

from evenmark.core.construct.document import from_text
from evenmark.services import (
    board_out,
    board_saving,
    boards,
    export_content,
    marking,
    once,
    own_checks,
    room,
    wiping,
)
from evenmark.services.errors import Busy, Crowded, NoRoom
from evenmark.store.boards import Board, BoardAct
from evenmark.store.database import Database
from evenmark.store.models import Attempt, Batch, Issue
from evenmark.store.people import Person, RequestAnswer, SchoolClass, now
from tests.conftest import Caller, School
from tests.services.test_boards import LINK, draft
from tests.services.test_from_key_to_result import put

KEY = {"headers": {"Idempotency-Key": "a-key-of-one-request"}}


def step(n: int, says: str = "circle 0, 0; radius 5") -> dict[str, object]:
    return {"kind": "step", "id": n, "says": says}


def come(at: int, *lines: dict[str, object]) -> list[dict[str, object]]:
    return [{"at": at, "gone": [], "come": list(lines)}]


def attempts(db: Database) -> int:
    with db.transaction() as session:
        return session.scalar(select(func.count(Attempt.id))) or 0


# the list that the page shows


@pytest.mark.parametrize("what", ["hand-in", "check", "exercise"])
def test_nothing_is_made_of_another_list(application: Any, db: Database, school: School, what: str) -> None:
    issue = put(db, school, LINK.encode())
    board = draft(db, school, issue, LINK)
    ben = Caller(application, "ada" if what == "exercise" else "ben")
    body: dict[str, object] = {"title": "Plate"} if what == "exercise" else {}
    for digest, status in (("", 409), ("0" * 64, 409), (None, 422)):
        sent = body if digest is None else {**body, "digest": digest}
        if what == "exercise":
            board = ben.post("/api/boards", {"title": "Key", "unit": "mm"}).json["board_id"]
        answer = ben.post(f"/api/boards/{board}/{what}", sent)
        assert answer.status_code == status, answer.json
        assert answer.json["code"] == ("other-list" if status == 409 else "not-usable")
    assert attempts(db) == 0


def test_what_the_page_may_do_the_server_takes(application: Any, db: Database, school: School) -> None:
    """A control character is refused by the core with its place, and by the server with the same words."""
    ada = Caller(application, "ada")
    board = ada.post("/api/boards", {"title": "Key", "unit": "mm"}).json["board_id"]
    for bad, named in (("\x02", "U+0002"), ("\x7f", "U+007F"), ("\ufffe", "U+FFFE"), ("\u2028", "U+2028")):
        says = f'text "A{bad}B"; 0, 0; height 5'
        asked = {"version": 0, "call": "write", "args": {"says": says}}
        told = ada.post(f"/api/boards/{board}/ask", asked)
        saved = ada.post(f"/api/boards/{board}/acts", {"base": 0, "acts": [come(1, step(1, says))]})
        assert saved.status_code == 422
        if bad == "\u2028":  # becomes a blank where it is typed, and is no line of a list
            assert "splices" in told.json["answer"]
            assert named in saved.json["says"]
        else:
            assert "cannot be seen or saved" in saved.json["says"] + str(told.json)
    for blank in ("\x85", "\u2028", "\n"):
        asked = {"version": 0, "call": "write", "args": {"says": f"circle 0, 0;{blank}radius 5"}}
        answer = ada.post(f"/api/boards/{board}/ask", asked)
        if blank == "\x85":
            assert answer.status_code == 422
        else:
            [splice] = answer.json["answer"]["splices"]
            assert splice["come"][0]["says"] == "circle 0, 0; radius 5"


# asked once


def test_handing_in_is_asked_once(application: Any, db: Database, school: School) -> None:
    board = draft(db, school, put(db, school, LINK.encode()), LINK)
    ben = Caller(application, "ben")
    body = ben.list_of(board)
    first, again = (ben.post(f"/api/boards/{board}/hand-in", body, **KEY) for _ in range(2))
    assert (first.status_code, first.json) == (200, again.json)
    other = ben.post(f"/api/boards/{board}/hand-in", body)  # nothing was drawn meanwhile
    assert other.json == first.json
    assert attempts(db) == 1
    foreign = ben.post("/api/work/intakes/1/hand-in", **KEY)
    assert (foreign.status_code, "was used before" in foreign.json["says"]) == (422, True)
    odd = ben.post("/api/work/intakes/1/hand-in", headers={"Idempotency-Key": "short"})
    assert odd.status_code == 422


def test_two_at_once_take_one_try(application: Any, db: Database, school: School) -> None:
    board = draft(db, school, put(db, school, LINK.encode()), LINK)
    with db.transaction() as session:
        digest = board_out.digest_of(session.get_one(Board, board).document)

    def ask(n: int) -> object:
        request = once.asked(f"a-key-of-many-{n % 2}", "POST /hand-in")
        with db.transaction() as session:
            ben = session.get_one(Person, school.ben)

            def work() -> dict[str, object]:
                return {"attempt_id": board_out.hand_in_board(session, None, ben, board, digest).id}

            return once.once(session, ben, request, work)["attempt_id"]

    with ThreadPoolExecutor(8) as pool:
        found = set(pool.map(ask, range(8)))
    assert len(found) == 1
    assert attempts(db) == 1


def test_what_was_refused_is_not_answered_for_good(application: Any, db: Database, school: School) -> None:
    board = draft(db, school, put(db, school, LINK.encode()), LINK)
    ben = Caller(application, "ben")
    assert ben.post(f"/api/boards/{board}/hand-in", {"digest": "x"}, **KEY).status_code == 409
    assert ben.post(f"/api/boards/{board}/hand-in", ben.list_of(board), **KEY).status_code == 200


def test_classes_exercises_and_batches_are_made_once(
    application: Any, db: Database, school: School, key_bytes: bytes
) -> None:
    ada = Caller(application, "ada")
    issue = put(db, school, key_bytes)
    for n, (path, made) in enumerate(
        [
            ("/api/classes", lambda: {"json": {"name": "Once"}}),
            ("/api/boards", lambda: {"json": {"title": "Once"}}),
            ("/api/exercises", lambda: {"data": {"title": "Once", "file": (io.BytesIO(key_bytes), "k.dxf")}}),
            (f"/api/issues/{issue}/batches", lambda: {"data": {"files": (io.BytesIO(key_bytes), "b.dxf")}}),
        ]
    ):
        headers = {"Idempotency-Key": f"a-key-of-number-{n}"}
        first = ada.call("POST", path, headers=headers, **made())
        again = ada.call("POST", path, headers=headers, **made())
        assert first.status_code == 200, first.json
        assert again.json == first.json
    with db.transaction() as session:
        assert session.scalar(select(func.count(SchoolClass.id)).where(SchoolClass.name == "Once")) == 1
        assert session.scalar(select(func.count(Board.id)).where(Board.title == "Once")) == 1
        assert session.scalar(select(func.count(Batch.id))) == 1


def test_old_answers_are_forgotten(db: Database, school: School) -> None:
    with db.transaction() as session:
        for age, key in ((8, "old"), (1, "new")):
            at = now() - timedelta(days=age)
            session.add(RequestAnswer(person_id=school.ben, key=key, asked="x", answer={}, at=at))
    once.forget_old(db)
    with db.transaction() as session:
        assert session.scalars(select(RequestAnswer.key)).all() == ["new"]


def test_a_check_is_counted_before_it_is_worked_out(
    application: Any, db: Database, school: School, monkeypatch: pytest.MonkeyPatch
) -> None:
    issue = put(db, school, LINK.encode())
    board = draft(db, school, issue, LINK)
    with db.transaction() as session:
        session.get_one(Issue, issue).own_checks = 3
    ben = Caller(application, "ben")
    works = own_checks.read_bounded

    def ends(why: Exception) -> Any:
        def work(*_: object, **__: object) -> object:
            raise why

        return work

    def left() -> int:
        found: int = ben.get(f"/api/boards/{board}").json["own_check"]["left"]
        return found

    monkeypatch.setattr(own_checks, "read_bounded", ends(Busy("Too much.")))
    assert ben.post(f"/api/boards/{board}/check", ben.list_of(board), **KEY).status_code == 422
    assert left() == 2
    monkeypatch.setattr(own_checks, "read_bounded", works)
    first, again = (ben.post(f"/api/boards/{board}/check", ben.list_of(board), **KEY) for _ in range(2))
    assert (first.status_code, first.json) == (200, again.json)
    assert left() == 2
    monkeypatch.setattr(own_checks, "read_bounded", ends(Crowded()))
    assert ben.post(f"/api/boards/{board}/check", ben.list_of(board)).status_code == 503
    assert left() == 2


# room


def big(n: int) -> list[dict[str, object]]:
    """An act that puts half a megabyte in, and takes away what the one before it put in."""
    words = {"kind": "remark", "says": str(n) * 500_000}
    before = {"kind": "remark", "says": str(n - 1) * 500_000}
    return [{"at": 1, "gone": [before] if n else [], "come": [words]}]


def test_a_board_is_full_at_its_quota_and_says_so_before(
    application: Any, db: Database, school: School
) -> None:
    board = draft(db, school, put(db, school, LINK.encode()), LINK)
    with db.transaction() as session:
        session.get_one(SchoolClass, school.adas).student_mb = 20  # so 5 MB a board
        assert room.own_mb(session, session.get_one(Person, school.ben)) == 20
    ben, said, n = Caller(application, "ben"), [], 0
    while n < 10:
        answer = ben.post(f"/api/boards/{board}/acts", {"base": 1 + n, "acts": [big(n)]})
        if answer.status_code != 200:
            break
        said.append(answer.json["room"])
        n += 1
    assert (answer.status_code, answer.json["code"]) == (422, "no-room")
    assert "can be handed in" in answer.json["says"]
    assert said[0] == ""
    assert "of 5.0 MB" in said[-1]
    with db.transaction() as session:
        assert session.get_one(Board, board).bytes <= 5_000_000
    assert ben.post(f"/api/boards/{board}/hand-in", ben.list_of(board)).status_code == 200
    ada = Caller(application, "ada")
    page = ada.call("PATCH", f"/api/classes/{school.adas}", json={"student_mb": 100})
    assert page.json["room"]["student_mb"] == 100
    assert page.json["room"]["used"] > 4_000_000
    assert ben.post(f"/api/boards/{board}/acts", {"base": 1 + n, "acts": [big(n)]}).status_code == 200


def test_a_person_and_a_class_have_their_quotas(db: Database, school: School) -> None:
    with db.transaction() as session:
        ben = session.get_one(Person, school.ben)
        session.get_one(SchoolClass, school.adas).student_mb = 20
        for n in range(5):
            board = boards.new_board(session, ben, f"Board {n}")
            board.bytes = 4_900_000
        session.flush()
        with pytest.raises(NoRoom, match="Your drawings use"):
            boards.new_board(session, ben, "One more")
        cyd = session.get_one(Person, school.cy)
        for board in boards.boards_of(session, ben):
            session.get_one(Board, board.id).bytes = 60_000_000
        session.flush()
        with pytest.raises(NoRoom, match="of your class"):
            boards.new_board(session, cyd, "Mine")


def test_taking_away_makes_room_and_leaves_how_an_attempt_was_made(
    application: Any, db: Database, school: School
) -> None:
    issue = put(db, school, LINK.encode())
    board = draft(db, school, issue, LINK)
    ben, ada = Caller(application, "ben"), Caller(application, "ada")
    attempt = ben.post(f"/api/boards/{board}/hand-in", ben.list_of(board)).json["attempt_id"]
    ben.post(f"/api/boards/{board}/acts", {"base": 1, "acts": [come(1, step(900))]})
    assert ben.call("DELETE", f"/api/boards/{board}").status_code == 200
    assert ben.get(f"/api/boards/{board}").status_code == 404
    assert ben.get("/api/boards").json["boards"] == []
    made = ada.get(f"/api/attempts/{attempt}/made").json
    assert (made["of"], len(made["acts"])) == (1, 1)
    assert ben.post(f"/api/work/{issue}/board").json["board_id"] != board
    with db.transaction() as session:
        assert session.scalar(select(func.count()).select_from(BoardAct)) == 1
        wiping.wipe_student(session, session.get_one(Person, school.ada), school.ben)
        assert session.scalar(select(func.count(Board.id))) == 0


# histories


def test_a_history_is_read_in_parts(
    application: Any, db: Database, school: School, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(board_saving, "MOST_IN_PART", 2_000)
    board = draft(db, school, put(db, school, LINK.encode()), LINK)
    ben, ada = Caller(application, "ben"), Caller(application, "ada")
    lines = len(ben.get(f"/api/boards/{board}").json["document"]["lines"])
    acts = [come(lines + n, step(900 + n, f"circle {n}, 300; radius 5")) for n in range(120)]
    for n in range(0, 120, 10):
        saved = ben.post(f"/api/boards/{board}/acts", {"base": 1 + n, "acts": acts[n : n + 10]})
        assert saved.status_code == 200, saved.json
    attempt = ben.post(f"/api/boards/{board}/hand-in", ben.list_of(board)).json["attempt_id"]
    first = ada.get(f"/api/attempts/{attempt}/made").json
    assert first["parts"] > 3
    parts = [ada.get(f"/api/attempts/{attempt}/made?part={n}").json for n in range(first["parts"])]
    assert parts[0] == first
    assert [p["first"] + len(p["acts"]) for p in parts] == [*(p["first"] for p in parts[1:]), 121]
    said = [act["says"] for p in parts for act in p["acts"]]
    assert len(said) == first["of"] == 121
    assert said[-1].endswith("circle 119, 300 · radius 5")
    document = from_text(LINK)
    for count in (0, 1, 60, 121, 5000):
        rows = ada.get(f"/api/attempts/{attempt}/made/{count}").json["answer"]["rows"]
        steps = [r for r in rows if r["kind"] == "step"]
        assert len(steps) == max(0, min(count, 121) - 1) + (len(document.steps) if count else 0)
    assert ada.get(f"/api/attempts/{attempt}/made?part=99").status_code == 404
    with db.transaction() as session:
        ada_ = session.get_one(Person, school.ada)
    content = export_content.class_content(db, ada_, school.adas)
    out = io.BytesIO()
    assert list(content.write(out))
    with zipfile.ZipFile(out) as archive:
        [name] = [n for n in archive.namelist() if "how it was drawn" in n]
        history = json.loads(archive.read(name))
    assert len(history["acts"]) == 121
    now_ = history["begins"]["lines"]
    for act in history["acts"]:
        for s in act["splices"]:
            assert now_[s["at"] : s["at"] + len(s["gone"])] == s["gone"]
            now_[s["at"] : s["at"] + len(s["gone"])] = s["come"]
    assert now_ == ben.get(f"/api/boards/{board}").json["document"]["lines"]


# taken before it is read


def test_what_cannot_be_marked_uses_up_no_try(application: Any, db: Database, school: School) -> None:
    issue = put(db, school, LINK.encode())
    board = draft(db, school, issue, "circle nowhere\n")
    ben = Caller(application, "ben")
    left = ben.get(f"/api/work/{issue}").json["tries_left"]
    attempt = ben.post(f"/api/boards/{board}/hand-in", ben.list_of(board)).json["attempt_id"]
    assert ben.get(f"/api/work/results/{attempt}").json["ahead"] == 0
    marking.mark_in_turn(db, [attempt])
    told = ben.get(f"/api/work/results/{attempt}").json
    assert told["state"] == "failed"
    assert told["trouble"]
    assert ben.get(f"/api/work/{issue}").json["tries_left"] == left


def test_the_digest_is_the_pages() -> None:
    """frontend/tests/without.spec.ts has the same."""
    lines = [
        {"kind": "unit", "says": "mm"},
        {"kind": "value", "name": "größe", "says": "5 😀"},
        {"kind": "step", "id": 12, "says": 'text "a"; 0, 0', "after": " # so"},
        {"kind": "blank"},
    ]
    digest = board_out.digest_of({"format": "", "version": 1, "next": 1, "lines": lines})  # type: ignore[typeddict-item]
    assert digest == "62a11136dd8950235842de7bceda59d0a826d2803977221b60b135acae385293"


def test_checks_that_were_begun_at_once_are_told_one_after_the_other(
    application: Any, db: Database, school: School
) -> None:
    """Whichever ends first: of each size no more answers are told than one after the other."""
    issue = put(db, school, LINK.encode())
    with db.transaction() as session:
        session.get_one(Issue, issue).own_checks = 20
    board = draft(db, school, issue, LINK)
    given = []
    for n in range(6):
        with db.transaction() as session:
            ben = session.get_one(Person, school.ben)
            one = own_checks.to_check(session, ben, board)
        wrong = LINK.replace("left_bore = 14", f"left_bore = {15 + n}").encode()
        given.append(one._replace(attempt_data=wrong, attempt_name="a.txt"))
    held = []
    for one in reversed(given):
        marked = own_checks.worked_out(db, one)
        with db.transaction() as session:
            ben = session.get_one(Person, school.ben)
            held.append(own_checks.describe_own_check(session, ben, one, marked).held_back)
    assert held[:4] == [0, 0, 0, 0]
    assert min(held[4:]) > 0
