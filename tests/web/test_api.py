"""What the API says beside its answers: headers, errors in plain words, files, the document that types come
from."""

from __future__ import annotations

import csv
import io
import json
import re
from pathlib import Path
from typing import Any

import pytest
from PIL import Image

from evenmark.core.formats.dxf_write import write_dxf
from evenmark.demo import parts
from evenmark.demo import slips as s
from evenmark.services import throttle
from evenmark.services.tables import table
from evenmark.store.database import Database
from evenmark.store.people import now
from tests.conftest import PASSWORD, ROOT, Caller, School
from tests.services.test_from_key_to_result import GOOD, WRONG, hand, put


def test_the_words_that_pages_share_are_the_cores() -> None:
    from evenmark.core.marking.kinds import KINDS, MARKS_ITS_FEATURE, TITLES
    from evenmark.web.words import text

    said = (ROOT / "frontend" / "src" / "api" / "words.ts").read_text()
    assert said.split() == text().split(), "run python -m evenmark.web.words frontend/src/api/words.ts"
    assert set(TITLES) == set(KINDS)
    assert set(MARKS_ITS_FEATURE) <= set(KINDS)


def test_types_and_table_of_the_board_are_those_of_the_core() -> None:
    from evenmark.web.board_types import table, text

    again = "run python -m evenmark.web.board_types frontend/src/board/types.ts docs/formats/board.md"
    said = (ROOT / "frontend" / "src" / "board" / "types.ts").read_text()
    said, made = (re.sub(r"\s|;(?=\s*})", "", one) for one in (said, text()))
    assert said == made, again
    assert table() in (ROOT / "docs" / "formats" / "board.md").read_text(), again


def test_the_document_is_the_committed_one() -> None:
    from evenmark.web.openapi import text

    assert (ROOT / "docs/formats/openapi.json").read_text() == text(), (
        "run python -m evenmark.web.openapi and npm run api"
    )


def test_the_generated_types_name_every_model() -> None:
    spec = json.loads((ROOT / "docs/formats/openapi.json").read_text())
    types = (ROOT / "frontend/src/api/generated.d.ts").read_text()
    assert all(f" {name}: " in types for name in spec["components"]["schemas"])


def test_headers_of_pages_and_api(application: Any) -> None:
    caller = Caller(application)
    for path in ("/", "/desk", "/api/session"):
        answer = caller.get(path)
        assert "default-src 'self'" in answer.headers["Content-Security-Policy"]
        assert "frame-ancestors 'none'" in answer.headers["Content-Security-Policy"]
        assert answer.headers["X-Content-Type-Options"] == "nosniff"
        answer.close()
    assert caller.get("/api/session").headers["Cache-Control"] == "no-store"


def test_the_cookie_is_out_of_reach_of_scripts(application: Any, school: School) -> None:
    answer = Caller(application).post("/api/sign-in", {"sign_in": "ada", "password": PASSWORD})
    cookie = answer.headers["Set-Cookie"]
    assert "HttpOnly" in cookie
    assert "SameSite=Lax" in cookie


@pytest.mark.parametrize(
    "path", ["/../../etc/passwd", "/assets/../../../etc/passwd", "/assets/%2e%2e/%2e%2e/etc/passwd"]
)
def test_no_file_outside_the_pages_is_given(application: Any, path: str) -> None:
    answer = Caller(application).get(path)
    assert b"root:" not in answer.data
    answer.close()


@pytest.mark.parametrize(
    ("method", "path", "more", "status"),
    [
        ("GET", "/api/nothing", {}, 404),
        ("GET", "/api/attempts/99999999999999999999", {}, 404),
        ("DELETE", "/api/desk", {}, 405),
        ("POST", "/api/classes", {"data": "{", "content_type": "application/json"}, 422),
        ("POST", "/api/classes", {"json": {"name": 3}}, 422),
        ("POST", "/api/classes", {"json": {"name": "x" * 300}}, 422),
        ("POST", "/api/classes", {"json": {}}, 422),
        ("POST", "/api/exercises", {"data": {"title": "T"}, "content_type": "multipart/form-data"}, 422),
        ("GET", "/api/exercises/1", {}, 404),
    ],
)
def test_bad_requests_are_answered_in_a_sentence(
    application: Any, school: School, method: str, path: str, more: Any, status: int
) -> None:
    answer = Caller(application, "ada").call(method, path, **more)
    assert answer.status_code == status
    assert set(answer.json) == {"code", "says"}
    assert "Traceback" not in answer.text
    assert "/src/" not in answer.text


def test_what_breaks_inside_is_logged_and_said_plainly(
    application: Any, school: School, monkeypatch: pytest.MonkeyPatch, caplog: Any
) -> None:
    from evenmark.services import results

    def broken(*_: Any) -> None:
        raise RuntimeError("secret detail")

    monkeypatch.setattr(results, "desk", broken)
    answer = Caller(application, "ada").get("/api/desk")
    assert answer.status_code == 500
    assert "secret" not in answer.text
    assert "builtins.RuntimeError" in caplog.text
    assert "results.py" in caplog.text
    assert "secret" not in caplog.text  # words of an error may hold what somebody typed


def test_a_request_beyond_the_limit(application: Any, school: School) -> None:
    head = b'--x\r\nContent-Disposition: form-data; name="file"; filename="a.dxf"\r\n\r\n'
    body = head + b"0" * (35 * 1024 * 1024) + b"\r\n--x--\r\n"
    answer = Caller(application, "ada").call(
        "POST", "/api/exercises", data=body, content_type="multipart/form-data; boundary=x"
    )
    assert (answer.status_code, answer.json["code"]) == (413, "too-large")


def test_sign_in_is_throttled(application: Any, school: School, monkeypatch: pytest.MonkeyPatch) -> None:
    time = now()
    monkeypatch.setattr(throttle, "now", lambda: time)  # no wait passes, however long a try takes
    caller = Caller(application)
    codes = [
        caller.post("/api/sign-in", {"sign_in": "ada", "password": "wrong"}).status_code for _ in range(12)
    ]
    assert codes[:5] == [401] * 5
    assert set(codes[5:]) == {429}
    answer = caller.post("/api/sign-in", {"sign_in": "ada", "password": "wrong"})
    assert 1 <= int(answer.headers["Retry-After"]) <= 31
    assert "then try again" in answer.json["says"]


def test_joining_with_a_code(application: Any, school: School) -> None:
    code = Caller(application, "ada").get(f"/api/classes/{school.adas}").json["join_code"]
    form = {"code": code.lower(), "name": "Lin Gray", "sign_in": "lin.gray", "password": PASSWORD}
    caller = Caller(application)
    answer = caller.post("/api/join", form)
    assert (answer.status_code, answer.json["person"]["role"]) == (200, "student")
    assert Caller(application).post("/api/join", form).status_code == 409
    assert (
        Caller(application).post("/api/join", {**form, "code": "AAA-AAA", "sign_in": "other"}).json["code"]
        == "no-such-code"
    )


def test_the_sheet_is_a_picture_fit_for_print(
    application: Any, db: Database, school: School, key_bytes: bytes
) -> None:
    issue = put(db, school, key_bytes)
    answer = Caller(application, "ben").get(f"/api/work/{issue}/sheet.png")
    image = Image.open(io.BytesIO(answer.data))
    assert answer.mimetype == "image/png"
    dpi = image.info["dpi"][0]
    assert dpi == pytest.approx(200, abs=0.5)
    assert image.width / dpi * 25.4 == pytest.approx(297, abs=0.5)
    assert image.height / dpi * 25.4 == pytest.approx(210, abs=0.5)
    dark = sum(image.convert("L").histogram()[:128]) / (image.width * image.height)
    assert 0.002 < dark < 0.2


def _walk(value: Any, path: str = "") -> list[str]:
    if isinstance(value, dict):
        return [p for k, v in value.items() for p in _walk(v, f"{path}.{k}")]
    if isinstance(value, list):
        return [p for v in value for p in _walk(v, f"{path}[]")]
    return [path]


def test_nothing_that_a_student_can_ask_for_holds_the_key(
    application: Any, db: Database, school: School, key_bytes: bytes
) -> None:
    """The key has an edge that the attempt has not; no answer to a student mentions where it lies."""
    issue = put(db, school, key_bytes, detail="numbers")
    attempt = hand(
        db,
        school.ben,
        issue,
        write_dxf(s.left_out(type(parts.crank_link().drawing.entities[1]), 0)(parts.crank_link().drawing)),
    )
    caller = Caller(application, "ben")
    answers = [caller.get(p) for p in (f"/api/work/{issue}", f"/api/work/results/{attempt}", "/api/work")]
    for answer in answers:
        assert answer.status_code == 200
        assert not [p for p in _walk(answer.json) if ".key" in p or "requirements" in p]
    features = answers[1].json["drawn"]["features"]
    assert len(features) == 8  # nine were asked for


def test_results_as_csv(application: Any, db: Database, school: School, key_bytes: bytes) -> None:
    issue = put(db, school, key_bytes)
    hand(db, school.ben, issue, GOOD)
    answer = Caller(application, "ada").get(f"/api/issues/{issue}/results.csv")
    rows = list(csv.DictReader(io.StringIO(answer.data.decode("utf-8-sig"))))
    assert [(r["student"], r["earned"]) for r in rows] == [("Ben Elm", "100.0"), ("Cyd Elm", "")]
    assert "attachment" in answer.headers["Content-Disposition"]


@pytest.mark.parametrize(
    ("text", "cell"),
    [
        ("=1+1", "'=1+1"),
        ("+x", "'+x"),
        ("＝1", "'＝1"),
        ("\t=1", "'=1"),
        ("Ben; =1+1", "Ben; '=1+1"),
        ("Ben;=1", "Ben;'=1"),
        ("a\u202eb", "a‹U+202E›b"),
        ("a\x1bb", "a�b"),
        ("Ben", "Ben"),
        ("Elm-Ash; Ben", "Elm-Ash; Ben"),
        ("", ""),
    ],
)
def test_no_cell_is_taken_for_a_formula(text: str, cell: str) -> None:
    (row,) = csv.reader(io.StringIO(table([[text, 3]]).decode("utf-8-sig")))
    assert row == [cell, "3"]


def test_files_come_back_as_they_went(
    application: Any, db: Database, school: School, key_bytes: bytes
) -> None:
    issue = put(db, school, key_bytes)
    attempt = hand(db, school.ben, issue, GOOD, "größe <1>.dxf")
    for who, path in (("ben", f"/api/work/results/{attempt}/file"), ("ada", f"/api/attempts/{attempt}/file")):
        answer = Caller(application, who).get(path)
        assert answer.data == GOOD
        assert answer.headers["Content-Disposition"] == (
            "attachment; filename=\"gr__e _1_.dxf\"; filename*=UTF-8''gr%C3%B6%C3%9Fe%20%3C1%3E.dxf"
        )


def test_what_an_instructor_changes_is_what_is_examined(
    application: Any, db: Database, school: School, key_bytes: bytes
) -> None:
    ada = Caller(application, "ada")
    made = ada.call(
        "POST",
        "/api/exercises",
        data={"file": (io.BytesIO(key_bytes), "k.dxf"), "title": "Link", "text": ""},
        content_type="multipart/form-data",
    ).json
    rules = made["rules"]
    drop = ("name", "marks", "expected", "of", "part")
    kept = [{k: v for k, v in r.items() if k not in drop} for r in rules["requirements"]]
    for r in kept:
        r["on"] = r["kind"] in ("radius", "whole")
    answer = ada.call(
        "PATCH",
        f"/api/exercises/{made['revision_id']}",
        json={"rules": {**rules, "requirements": kept, "placement": "slide"}},
    )
    assert answer.status_code == 200, answer.json
    on = [r for r in answer.json["rules"]["requirements"] if r["on"]]
    assert sum(r["marks"] for r in on) == pytest.approx(100)
    assert {r["kind"] for r in on} == {"radius", "whole"}
    assert Path(made["key_name"]).name == "k.dxf"


def test_marking_over_the_api(application: Any, db: Database, school: School, key_bytes: bytes) -> None:
    attempt = hand(db, school.ben, put(db, school, key_bytes), WRONG)
    ada, ben = Caller(application, "ada"), Caller(application, "ben")
    path = f"/api/attempts/{attempt}"
    page = ada.get(path).json
    missed = next(f for f in page["marks"]["findings"] if f["verdict"] == "missed")
    assert {m["as"] for m in missed["sketch"]} == {"reach"}
    assert {m["tone"] for m in missed["sketch"]} == {"asked", "drawn"}
    answer = ada.post(
        f"{path}/overrides", {"finding": missed["id"], "verdict": "met", "reason": "As agreed."}
    )
    assert (answer.json["marks"]["earned"], answer.json["returned"]) == (100.0, "changed")
    assert "origin" not in page["key"]
    answer = ada.post(f"{path}/comments", {"text": "Here.", "at": [3.0, 4.0]})
    assert answer.json["comments"][0]["at"] == pytest.approx([3.0, 4.0])
    with db.transaction() as session:
        from evenmark.services.keys import key_view
        from evenmark.store.models import Attempt, MarkingAct

        kept = session.query(MarkingAct).order_by(MarkingAct.id.desc()).first()
        assert kept is not None
        left, _, _, top = key_view(session.get_one(Attempt, attempt).issue.revision).tracing["box"]
        assert kept.detail["at"] == pytest.approx([left + 3.0, top - 4.0])
    mine = ben.get(f"/api/work/results/{attempt}").json
    assert (mine["comments"], mine["earned"] < 100.0) == ([], True)
    assert ada.post(f"{path}/return").json["returned"] == "yes"
    mine = ben.get(f"/api/work/results/{attempt}").json
    assert (len(mine["comments"]), mine["earned"]) == (1, 100.0)
    for bad in (
        {"finding": missed["id"], "verdict": "splendid", "reason": "x"},
        {"finding": missed["id"], "verdict": "met"},
        {"finding": missed["id"], "verdict": "met", "reason": "x", "marks": "1e400"},
        {"finding": 2**40, "verdict": "met", "reason": "x"},
    ):
        answer = ada.post(f"{path}/overrides", bad)
        assert answer.status_code in (404, 422), bad
        assert answer.json["says"].endswith(".")
    for at in ([1e400, 0], [float("nan"), 0], ["a", 0], [1]):
        assert ada.post(f"{path}/comments", {"text": "x", "at": at}).status_code == 422


def test_marked_drawings_over_the_api(
    application: Any, db: Database, school: School, key_bytes: bytes
) -> None:
    attempt = hand(db, school.ben, put(db, school, key_bytes), WRONG, name='we"ird\n näme.dxf')
    ada, ben, cyd = (Caller(application, who) for who in ("ada", "ben", "cyd"))
    for form, starts in (("pdf", b"%PDF-"), ("dxf", b"  0\nSECTION")):
        for caller, path in ((ada, f"/api/attempts/{attempt}"), (ben, f"/api/work/results/{attempt}")):
            answer = caller.get(f"{path}/marked.{form}")
            assert answer.data.startswith(starts)
            assert answer.headers["Content-Disposition"].startswith("attachment")
            assert "\n" not in answer.headers["Content-Disposition"]
        assert cyd.get(f"/api/work/results/{attempt}/marked.{form}").status_code == 404
    assert ada.get(f"/api/attempts/{attempt}/marked.exe").status_code == 404
    own = ben.get(f"/api/work/results/{attempt}/marked.pdf").data
    assert len(own) < len(
        ada.get(f"/api/attempts/{attempt}/marked.pdf").data
    )  # the key's lines are not in it


def test_a_class_handed_in_over_the_api(
    application: Any, db: Database, school: School, key_bytes: bytes
) -> None:
    from evenmark.services import batch_reading

    issue = put(db, school, key_bytes)
    ada = Caller(application, "ada")
    form = {"files": [(io.BytesIO(GOOD), "ben.dxf"), (io.BytesIO(WRONG), "who.dxf")]}
    answer = ada.post(f"/api/issues/{issue}/batches", data=form, content_type="multipart/form-data")
    assert [f["state"] for f in answer.json["files"]] == ["reading", "reading"]
    batch = answer.json["id"]
    with db.transaction() as session:
        for f in answer.json["files"]:
            batch_reading.read_file(session, f["id"])
    answer = ada.get(f"/api/batches/{batch}")
    assert [f["state"] for f in answer.json["files"]] == ["ready", "asked"]
    found = ada.get(f"/api/issues/{issue}/results").json["batches"]
    assert [(b["id"], b["left"], b["of"]) for b in found] == [(batch, 2, 2)]
    answer = ada.post(f"/api/batches/{batch}/hand-in", {})
    assert [f["state"] for f in answer.json["files"]] == ["waiting", "asked"]
    answer = ada.call("DELETE", f"/api/batches/{batch}")
    assert answer.json["says"].endswith("stay.")
    assert (
        ada.post(f"/api/issues/{issue}/batches", data={}, content_type="multipart/form-data").status_code
        == 422
    )


def test_the_csv_has_a_column_for_every_check(
    application: Any, db: Database, school: School, key_bytes: bytes
) -> None:
    import csv

    issue = put(db, school, key_bytes)
    hand(db, school.ben, issue, WRONG)
    data = Caller(application, "ada").get(f"/api/issues/{issue}/results.csv").data.decode("utf-8-sig")
    head, ben, cyd = list(csv.reader(io.StringIO(data)))
    checks = head[head.index("slips") + 1 :]
    assert len(checks) == len(Caller(application, "ada").get(f"/api/issues/{issue}/results").json["checks"])
    assert ben[head.index("returned")] == "yes"
    assert [checks[i] for i, v in enumerate(ben[-len(checks) :]) if v == "missed"][0].endswith(
        "hole, diameter"
    )
    assert set(cyd[head.index("earned") :]) <= {"", "no"}
