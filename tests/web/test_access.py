"""Each API route for each role and a stranger: allowed or refused as listed (issue: route-by-role table)."""

from __future__ import annotations

import io
from datetime import timedelta
from typing import Any

import pytest
from PIL import Image

from evenmark.core.construct.document import from_text, to_json
from evenmark.services import (
    acts,
    batch_reading,
    batches,
    board_out,
    board_pictures,
    board_saving,
    boards,
    exercise_edit,
    exercises,
    exports,
)
from evenmark.store.database import Database
from evenmark.store.people import now
from evenmark.web.access import ACCESS, COOKIE
from tests.conftest import Caller, School
from tests.services.test_from_key_to_result import GOOD, hand, put

OK, STRANGER, ROLE, NOT_YOURS = 200, 401, 403, 404
# endpoint: method, path, and what a stranger, a student of the class, a student of another class, the
# instructor and another
# instructor get. {issue}, {attempt}, {revision}, {class} and {student} are Ada's.
TABLE: dict[str, tuple[str, str, int, int, int, int, int]] = {
    "people.session": ("GET", "/api/session", OK, OK, OK, OK, OK),
    "people.sign_out": ("POST", "/api/sign-out", STRANGER, OK, OK, OK, OK),
    "people.step_aside": ("POST", "/api/step-aside", STRANGER, OK, OK, OK, OK),
    "people.end_others": ("POST", "/api/sessions/end-others", STRANGER, OK, OK, OK, OK),
    "people.change_password": ("POST", "/api/password", STRANGER, 422, 422, 422, 422),
    "people.change_school": ("POST", "/api/school", STRANGER, ROLE, ROLE, OK, OK),
    "people.change_numbers": ("POST", "/api/numbers", STRANGER, OK, OK, OK, OK),
    "people.join_class": ("POST", "/api/join-class", STRANGER, NOT_YOURS, NOT_YOURS, ROLE, ROLE),
    "classes.listing": ("GET", "/api/classes", STRANGER, ROLE, ROLE, OK, OK),
    "classes.make": ("POST", "/api/classes", STRANGER, ROLE, ROLE, OK, OK),
    "classes.page": ("GET", "/api/classes/{class}", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "classes.renew_code": ("POST", "/api/classes/{class}/code", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "classes.roster": ("POST", "/api/classes/{class}/roster", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "people.asked": ("GET", "/api/asked", STRANGER, OK, OK, ROLE, ROLE),
    "people.answer": ("POST", "/api/asked/{class}", STRANGER, NOT_YOURS, NOT_YOURS, ROLE, ROLE),
    "classes.new_code": (
        "POST",
        "/api/classes/{class}/students/{student}/code",
        STRANGER,
        ROLE,
        ROLE,
        OK,
        NOT_YOURS,
    ),
    "classes.remove": (
        "DELETE",
        "/api/classes/{class}/students/{student}",
        STRANGER,
        ROLE,
        ROLE,
        OK,
        NOT_YOURS,
    ),
    "exercises.listing": ("GET", "/api/exercises", STRANGER, ROLE, ROLE, OK, OK),
    "exercises.make": ("POST", "/api/exercises", STRANGER, ROLE, ROLE, OK, OK),
    "exercises.page": ("GET", "/api/exercises/{revision}", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "exercises.change": ("PATCH", "/api/exercises/{revision}", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "exercises.proof": ("GET", "/api/exercises/{revision}/proof", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "exercises.costs": ("GET", "/api/exercises/{revision}/costs", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "exercises.sheet": ("GET", "/api/exercises/{revision}/sheet.png", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "exercises.key_file": ("GET", "/api/exercises/{revision}/key.dxf", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "exercises.issue": ("POST", "/api/exercises/{revision}/issues", STRANGER, ROLE, ROLE, 422, NOT_YOURS),
    "results.desk": ("GET", "/api/desk", STRANGER, ROLE, ROLE, OK, OK),
    "results.class_results": ("GET", "/api/issues/{issue}/results", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "results.csv_results": ("GET", "/api/issues/{issue}/results.csv", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "marking.page": ("GET", "/api/attempts/{attempt}", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "marking.override": ("POST", "/api/attempts/{attempt}/overrides", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "marking.comment": ("POST", "/api/attempts/{attempt}/comments", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "marking.undo": ("POST", "/api/attempts/{attempt}/undo", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "marking.redo": ("POST", "/api/attempts/{attempt}/redo", STRANGER, ROLE, ROLE, 422, NOT_YOURS),
    "marking.return_one": ("POST", "/api/attempts/{attempt}/return", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "marking.take_back": ("POST", "/api/attempts/{attempt}/take-back", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "marking.mark_again": (
        "POST",
        "/api/attempts/{attempt}/mark-again",
        STRANGER,
        ROLE,
        ROLE,
        422,
        NOT_YOURS,
    ),
    "marking.return_all": ("POST", "/api/issues/{issue}/return", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "marking.mark_class_again": (
        "POST",
        "/api/issues/{issue}/mark-again",
        STRANGER,
        ROLE,
        ROLE,
        OK,
        NOT_YOURS,
    ),
    "marking.attempt_file": ("GET", "/api/attempts/{attempt}/file", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "marking.marked": ("GET", "/api/attempts/{attempt}/marked.pdf", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "batches.start": ("POST", "/api/issues/{issue}/batches", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "batches.page": ("GET", "/api/batches/{batch}", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "batches.decide": ("PATCH", "/api/batches/{batch}/files/{file}", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "batches.read_again": (
        "POST",
        "/api/batches/{batch}/files/{file}/read-again",
        STRANGER,
        ROLE,
        ROLE,
        422,
        NOT_YOURS,
    ),
    "batches.hand_in": ("POST", "/api/batches/{batch}/hand-in", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "batches.drop": ("DELETE", "/api/batches/{batch}", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "exercises.add_file": (
        "POST",
        "/api/exercises/{revision}/files",
        STRANGER,
        ROLE,
        ROLE,
        OK,
        NOT_YOURS,
    ),
    "exercises.file": ("GET", "/api/exercises/{drawn}/files/{key}", STRANGER, ROLE, ROLE, OK, NOT_YOURS),
    "exercises.remove_file": (
        "DELETE",
        "/api/exercises/{drawn}/files/{key}",
        STRANGER,
        ROLE,
        ROLE,
        OK,
        NOT_YOURS,
    ),
    "work.own_marked": ("GET", "/api/work/results/{attempt}/marked.dxf", STRANGER, OK, NOT_YOURS, ROLE, ROLE),
    "work.start": ("GET", "/api/work/{begun}/start", STRANGER, OK, NOT_YOURS, ROLE, ROLE),
    "work.listing": ("GET", "/api/work", STRANGER, OK, OK, ROLE, ROLE),
    "work.page": ("GET", "/api/work/{issue}", STRANGER, OK, NOT_YOURS, ROLE, ROLE),
    "work.sheet": ("GET", "/api/work/{issue}/sheet.png", STRANGER, OK, NOT_YOURS, ROLE, ROLE),
    "work.lay_in": ("POST", "/api/work/{issue}/intake", STRANGER, OK, NOT_YOURS, ROLE, ROLE),
    "work.hand_in": ("POST", "/api/work/intakes/{intake}/hand-in", STRANGER, OK, NOT_YOURS, ROLE, ROLE),
    "work.result": ("GET", "/api/work/results/{attempt}", STRANGER, OK, NOT_YOURS, ROLE, ROLE),
    "work.own_file": ("GET", "/api/work/results/{attempt}/file", STRANGER, OK, NOT_YOURS, ROLE, ROLE),
}
INSTRUCTORS = (STRANGER, ROLE, ROLE, OK, NOT_YOURS)
"""What only the instructor whose it is may do."""
ANY_INSTRUCTOR = (STRANGER, ROLE, ROLE, OK, OK)
TABLE |= {
    "people.change_zone": ("POST", "/api/zone", *ANY_INSTRUCTOR),
    "classes.rename": ("PATCH", "/api/classes/{class}", *INSTRUCTORS),
    "classes.archive": ("POST", "/api/classes/{class}/archive", *INSTRUCTORS),
    "classes.duplicate": ("POST", "/api/classes/{class}/duplicate", *INSTRUCTORS),
    "classes.deletion": ("GET", "/api/classes/{class}/deletion", *INSTRUCTORS),
    "classes.delete": ("DELETE", "/api/classes/{class}", *INSTRUCTORS),
    "classes.student_deletion": ("GET", "/api/classes/students/{student}/deletion", *INSTRUCTORS),
    "classes.wipe": ("DELETE", "/api/classes/students/{student}", *INSTRUCTORS),
    "exercises.sheet_pdf": ("GET", "/api/exercises/{revision}/sheet.pdf", *INSTRUCTORS),
    "exercises.archive": ("POST", "/api/exercises/{revision}/archive", *INSTRUCTORS),
    "exercises.duplicate": ("POST", "/api/exercises/{revision}/duplicate", *INSTRUCTORS),
    "exercises.deletion": ("GET", "/api/exercises/{revision}/deletion", *INSTRUCTORS),
    "exercises.delete": ("DELETE", "/api/exercises/{revision}", *INSTRUCTORS),
    "issues.change": ("PATCH", "/api/issues/{issue}", *INSTRUCTORS),
    "issues.withdraw": ("DELETE", "/api/issues/{issue}", *INSTRUCTORS),
    "issues.close": ("POST", "/api/issues/{issue}/close", *INSTRUCTORS),
    "issues.reopen": ("POST", "/api/issues/{issue}/reopen", *INSTRUCTORS),
    "issues.allow": ("PUT", "/api/issues/{issue}/students/{student}/allowance", *INSTRUCTORS),
    "record.record": ("GET", "/api/record?class={class}", *ANY_INSTRUCTOR),
    "record.start": ("POST", "/api/exports", *INSTRUCTORS),
    "record.export": ("GET", "/api/exports/{export}", *INSTRUCTORS),
    "record.export_file": ("GET", "/api/exports/{export}/file", *INSTRUCTORS),
    "record.cancel": ("DELETE", "/api/exports/{export}", *INSTRUCTORS),
    "work.sheet_pdf": ("GET", "/api/work/{issue}/sheet.pdf", STRANGER, OK, NOT_YOURS, ROLE, ROLE),
}
ITS_OWNER = (STRANGER, OK, NOT_YOURS, NOT_YOURS, NOT_YOURS)
"""A student's own draft: nobody else's, not even the instructor's."""
TABLE |= {
    "boards.listing": ("GET", "/api/boards", STRANGER, OK, OK, OK, OK),
    "boards.make": ("POST", "/api/boards", *ANY_INSTRUCTOR),
    "boards.draft": ("POST", "/api/work/{issue}/board", STRANGER, OK, NOT_YOURS, ROLE, ROLE),
    "boards.page": ("GET", "/api/boards/{draft}", *ITS_OWNER),
    "boards.save": ("POST", "/api/boards/{draft}/acts", *ITS_OWNER),
    "boards.ask": ("POST", "/api/boards/{draft}/ask", *ITS_OWNER),
    "boards.part": ("POST", "/api/boards/{draft}/part", *ITS_OWNER),
    "boards.aside": ("GET", "/api/boards/{draft}/aside/{aside}", *ITS_OWNER),
    "boards.take_away": ("DELETE", "/api/boards/{draft}", *ITS_OWNER),
    "boards.file": ("GET", "/api/boards/{draft}/file.dxf", *ITS_OWNER),
    "boards.opened": ("POST", "/api/boards/{draft}/opened", *ITS_OWNER),
    "boards.put_picture": ("POST", "/api/boards/{draft}/picture", *ITS_OWNER),
    "boards.picture": ("GET", "/api/boards/{draft}/picture", *ITS_OWNER),
    "boards.place_picture": ("PATCH", "/api/boards/{draft}/picture", *ITS_OWNER),
    "boards.drop_picture": ("DELETE", "/api/boards/{draft}/picture", *ITS_OWNER),
    "boards.understood": ("POST", "/api/boards/{draft}/understood", STRANGER, OK, NOT_YOURS, ROLE, ROLE),
    "boards.hand_in_board": ("POST", "/api/boards/{draft}/hand-in", STRANGER, OK, NOT_YOURS, ROLE, ROLE),
    "boards.check": ("POST", "/api/boards/{draft}/check", STRANGER, 422, NOT_YOURS, ROLE, ROLE),
    "boards.made": ("GET", "/api/attempts/{drawn_attempt}/made", *INSTRUCTORS),
    "boards.made_so_far": ("GET", "/api/attempts/{drawn_attempt}/made/0", *INSTRUCTORS),
    "boards.rename": ("PATCH", "/api/boards/{board}", *INSTRUCTORS),
    "boards.exercise": ("POST", "/api/boards/{board}/exercise", *INSTRUCTORS),
    "boards.from_key": ("POST", "/api/exercises/{revision}/board", *INSTRUCTORS),
}
WHO = ("stranger", "ben", "eve", "ada", "dot")


def _body(endpoint: str, key: bytes, school: School) -> dict[str, Any]:
    files: dict[str, tuple[str, bytes]] = {
        "classes.roster": ("r.csv", b"name,username\nLin Gray,lin.gray\n"),
        "exercises.make": ("k.dxf", key),
        "work.lay_in": ("a.dxf", GOOD),
        "batches.start": ("ben.dxf", GOOD),
        "exercises.add_file": ("other.dxf", key),
        "boards.opened": ("plate.txt", PLATE.encode()),
        "boards.put_picture": ("scan.png", scan()),
    }
    if endpoint == "exercises.duplicate":
        return {"data": {"title": "Again"}, "content_type": "multipart/form-data"}
    if endpoint in files:
        name, data = files[endpoint]
        field = "files" if endpoint == "batches.start" else "file"
        return {
            "data": {field: (io.BytesIO(data), name), "title": "T", "text": "", "part": "key"},
            "content_type": "multipart/form-data",
        }
    later = (now() + timedelta(days=2)).isoformat()
    bodies: dict[str, Any] = {
        "people.change_password": {"old": "not it at all", "new": "another few words"},
        "people.change_school": {"school": "Here"},
        "people.join_class": {"code": "AAA-AAA"},
        "people.answer": {"join": True},
        "classes.make": {"name": "New"},
        "exercises.change": {"text": "Changed."},
        "marking.override": {"finding": 1, "verdict": "missed", "reason": "As agreed."},
        "marking.comment": {"text": "Look here.", "at": [1.0, 2.0]},
        "marking.undo": {},
        "marking.redo": {},
        "batches.decide": {"student_id": school.ben},
        "batches.hand_in": {"on_time": True},
        "people.change_zone": {"zone": "Europe/Oslo"},
        "people.change_numbers": {"decimal_comma": True},
        "classes.rename": {"name": "Another name"},
        "classes.archive": {"away": True},
        "classes.duplicate": {"name": "Next year", "students": True},
        "exercises.archive": {"away": True},
        "issues.change": {"tries": 5},
        "issues.allow": {"more_tries": 1, "reason": "Was ill."},
        "boards.make": {"title": "Key", "unit": "mm"},
        "boards.save": {"base": 1, "acts": []},
        "boards.ask": {"version": 1, "call": "view", "args": {}},
        "boards.part": {
            "base": 1,
            "take": "kept",
            "document": {"format": "even-mark/steps", "version": 1, "lines": []},
        },
        "boards.rename": {"title": "Another"},
        "boards.place_picture": {"strength": 0.3},
        "boards.exercise": {"title": "Drawn here", "text": "", "digest": DIGEST},
        "boards.hand_in_board": {"digest": DIGEST},
        "boards.understood": {"digest": DIGEST},
        "boards.check": {"digest": DIGEST},
        "record.start": {"kind": "student", "number": school.cy},
        "exercises.issue": {"class_id": school.adas, "due_at": later, "tries": 2, "detail": "score"},
    }
    return {"json": bodies[endpoint]} if endpoint in bodies else {}


@pytest.fixture
def scene(db: Database, school: School, key_bytes: bytes, request: pytest.FixtureRequest) -> dict[str, int]:
    """What the paths of the table name; what takes long to make is made for the routes that need it alone."""
    from evenmark.services import hand_in
    from evenmark.store.models import Issue
    from evenmark.store.people import Person

    path = TABLE[request.node.callspec.params["endpoint"]][1]
    issue = put(db, school, key_bytes)
    attempt = hand(db, school.ben, issue, GOOD) if "{attempt}" in path else 0
    with db.transaction() as session:
        ada, ben = session.get_one(Person, school.ada), session.get_one(Person, school.ben)
        intake, _ = hand_in.lay_in(session, ben, issue, "next.dxf", GOOD)
        found = {
            "issue": issue,
            "attempt": attempt,
            "revision": session.get_one(Issue, issue).revision_id,
            "class": school.adas,
            "student": school.cy,
            "intake": intake.id,
        }
        if "{export}" in path:
            export = exports.start_export(session, None, ada, "student", school.cy)
            export.state = "ready"
            found["export"] = export.id
        if "DELETE" in TABLE[request.node.callspec.params["endpoint"]] and path.endswith("{issue}"):
            session.delete(intake)
        if attempt:
            acts.comment(session, ada, attempt, text="Well drawn.")
        if "{batch}" in path:
            batch = batches.start_batch(session, None, ada, issue, [("ben.dxf", GOOD)])
            batch_reading.read_file(session, batch.files[0].id)
            found |= {"batch": batch.id, "file": batch.files[0].id}
        if "{drawn_attempt}" in path:
            draft = _with_boards(session, ada, ben, issue)["draft"]
            found["drawn_attempt"] = board_out.hand_in_board(session, None, ben, draft, DIGEST).id
        if "{draft}" in path or "{board}" in path:
            found |= _with_boards(session, ada, ben, issue)
        if "{begun}" in path or "{drawn}" in path:
            found |= _with_files(session, ada, school, key_bytes)
    return found


def scan() -> bytes:
    """A picture of a sheet."""
    out = io.BytesIO()
    Image.new("L", (60, 40), 200).save(out, "PNG")
    return out.getvalue()


PLATE = "unit mm\nrectangle 0, 0; 80 by 50\ncircle 20, 25; diameter 10\n"
DIGEST = board_out.digest_of(to_json(from_text(PLATE)))


def _with_boards(session: Any, ada: Any, ben: Any, issue: int) -> dict[str, int]:
    """A board of Ada's and a draft of Ben's, both with a plate, and a list set aside."""
    document = from_text(PLATE)
    lines = to_json(document)["lines"][1:]
    draft = boards.draft_for(session, ben, issue)
    board_saving.save(session, ben, draft.id, 0, [[{"at": 1, "gone": [], "come": lines}]])
    board_saving.part(session, ben, draft.id, 1, to_json(document), mine=False)
    aside = boards.opened(session, ben, draft.id).aside[0].id
    kept = board_pictures.made_ready(scan(), to_json(document))
    assert not isinstance(kept, str)
    board_pictures.put(session, ben, draft.id, kept)
    board = boards.new_board(session, ada, "Plate", "mm", document)
    return {"draft": draft.id, "board": board.id, "aside": aside}


def _with_files(session: Any, ada: Any, school: School, key: bytes) -> dict[str, int]:
    """An exercise with a start drawing and another key."""
    drawn = exercises.make_exercise(session, ada, title="Either way", text="", key_name="k.dxf", key=key)
    exercise_edit.add_file(session, ada, drawn.id, part="start", name="begun.dxf", data=GOOD)
    exercise_edit.add_file(session, ada, drawn.id, part="key", name="other.dxf", data=key)
    due = now() + timedelta(days=3)
    begun = exercises.put_issue(session, drawn, school.adas, due_at=due, tries=3, detail="numbers")
    return {"begun": begun.id, "drawn": drawn.id, "key": drawn.files[-1].id}


@pytest.mark.parametrize("endpoint", TABLE)
def test_who_may_call_what(
    application: Any, scene: dict[str, int], school: School, key_bytes: bytes, endpoint: str
) -> None:
    method, path, *expected = TABLE[endpoint]
    got = []
    # refusals first, so that what is allowed has changed nothing before
    order = sorted(range(5), key=lambda i: expected[i] == OK)
    answers: dict[int, int] = {}
    for i in order:
        caller = Caller(application, None if WHO[i] == "stranger" else WHO[i])
        answer = caller.call(method, path.format(**scene), **_body(endpoint, key_bytes, school))
        answers[i] = answer.status_code
        if method == "GET":  # nothing private stays in a browser that others use: no table, no picture
            assert answer.headers["Cache-Control"] == "no-store"
        if answer.status_code >= 400:
            assert set(answer.json) == {"code", "says"}
            assert answer.json["says"].endswith(".")
    got = [answers[i] for i in range(5)]
    assert dict(zip(WHO, got, strict=True)) == dict(zip(WHO, expected, strict=True))


def test_every_route_is_in_both_tables(application: Any) -> None:
    routes = {r.endpoint for r in application.url_map.iter_rules()}
    assert routes <= set(ACCESS)
    open_to_all = {e for e, who in ACCESS.items() if who == "anyone"}
    assert routes - open_to_all <= set(TABLE)
    assert open_to_all == {
        "people.session",
        "people.sign_in",
        "people.join",
        "people.use_code",
        "people.forgotten",
        "pages.health",
        "pages.app",
        "pages.asset",
        "static",
    }


def test_a_route_that_is_in_no_table_is_refused(application: Any) -> None:
    application.add_url_rule("/api/forgotten", "forgotten", lambda: "secret")
    assert Caller(application, None).get("/api/forgotten").status_code == 403


@pytest.mark.parametrize("guard", ["", "wrong", "ü"])
def test_changes_need_the_sessions_guard(application: Any, school: School, guard: str) -> None:
    caller = Caller(application, "ada")
    caller.guard = guard
    answer = caller.post("/api/classes", {"name": "Forged"})
    assert (answer.status_code, answer.json["code"]) == (403, "guard")
    assert caller.get("/api/classes").status_code == 200


def test_an_ended_session_is_over_everywhere(application: Any, school: School) -> None:
    here, there = Caller(application, "ada"), Caller(application, "ada")
    assert here.post("/api/sessions/end-others").json["says"].startswith("1 other")
    assert there.get("/api/desk").status_code == 401
    stolen = here.client.get_cookie(COOKIE)
    assert stolen is not None
    assert here.post("/api/sign-out").status_code == 200
    thief = Caller(application, None)
    thief.client.set_cookie(COOKIE, stolen.value)
    assert thief.get("/api/desk").status_code == 401
