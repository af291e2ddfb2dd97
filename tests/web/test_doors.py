"""Who is let in, and what is let in with them: other sites, odd bodies, guesses, proxies, sessions of
others."""

from __future__ import annotations

import email
import email.policy
import io
import json
import logging
import re
import shutil
from datetime import timedelta
from pathlib import Path
from typing import Any

import pytest
from psycopg.errors import DiskFull
from sqlalchemy import select
from sqlalchemy.exc import OperationalError

from evenmark.services import disk, throttle
from evenmark.store.database import Database
from evenmark.store.people import FirstCode, Person, SignedIn, now
from evenmark.web.access import COOKIE
from evenmark.web.app import HEADERS, create_app
from evenmark.web.request_checks import Forwarded
from tests.conftest import GUARD, PASSWORD, Caller, School

SIGN_IN = {"sign_in": "ada", "password": PASSWORD}


@pytest.mark.parametrize(
    "headers",
    [
        {"Origin": "https://elsewhere.example"},
        {"Origin": "null"},
        {"Origin": "http://localhost.elsewhere.example"},
        {"Sec-Fetch-Site": "cross-site"},
        {"Sec-Fetch-Site": "same-site"},
    ],
)
@pytest.mark.parametrize("path", ["/api/sign-in", "/api/join", "/api/first-code", "/api/sign-out"])
def test_other_sites_change_nothing(
    application: Any, school: School, headers: dict[str, str], path: str
) -> None:
    caller = Caller(application, "ada")
    answer = caller.client.post(path, json=SIGN_IN, headers={**headers, GUARD: caller.guard})
    assert (answer.status_code, answer.json["code"]) == (403, "other-site")
    assert "Set-Cookie" not in answer.headers
    assert caller.get("/api/classes").status_code == 200


@pytest.mark.parametrize(
    "kind", ["text/plain", "application/x-www-form-urlencoded", "application/octet-stream"]
)
def test_a_form_of_another_kind_is_no_sign_in(application: Any, school: School, kind: str) -> None:
    answer = Caller(application).client.post("/api/sign-in", data=json.dumps(SIGN_IN), content_type=kind)
    assert (answer.status_code, answer.json["code"]) == (422, "form")


def test_signing_out_has_the_browser_clear_what_it_keeps(application: Any, school: School) -> None:
    """W3C Clear Site Data; who steps aside for somebody else leaves what that one has not saved."""
    for path, cleared in (("/api/sign-out", '"cache", "storage"'), ("/api/step-aside", '"cache"')):
        caller = Caller(application, "ada")
        assert caller.post(path).headers["Clear-Site-Data"] == cleared
        assert caller.get("/api/desk").status_code == 401


def test_signing_in_anew_ends_the_session_before(application: Any, school: School, db: Database) -> None:
    caller = Caller(application, "ada")
    stolen = caller.client.get_cookie(COOKIE)
    assert stolen is not None
    assert caller.client.post("/api/sign-in", json=SIGN_IN).status_code == 200
    thief = Caller(application)
    thief.client.set_cookie(COOKIE, stolen.value)
    assert thief.get("/api/desk").status_code == 401


def test_a_full_disk_leaves_reading_signing_in_and_deleting_alive(
    application: Any, school: School, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    ada = Caller(application, "ada")
    board = ada.post("/api/boards", {"title": "Key", "unit": "mm"}).json["board_id"]
    usage = shutil.disk_usage(tmp_path)
    monkeypatch.setenv(disk.VARIABLE, str(tmp_path))
    monkeypatch.setattr(disk, "_known", None)
    monkeypatch.setattr(shutil, "disk_usage", lambda _: usage._replace(free=1_000_000))
    for path, body in (
        ("/api/classes", {"name": "One more"}),
        ("/api/boards", {"title": "One more", "unit": "mm"}),
        (f"/api/boards/{board}/acts", {"base": 0, "acts": []}),
    ):
        answer = ada.post(path, body)
        assert (answer.status_code, answer.json["code"]) == (503, "full")
    assert ada.get("/api/health").json["parts"]["disk"]["state"] == "down"
    assert Caller(application, "ada").get("/api/classes").status_code == 200
    assert ada.call("DELETE", f"/api/boards/{board}").status_code == 200
    monkeypatch.setattr(shutil, "disk_usage", lambda _: usage)
    monkeypatch.setattr(disk, "_known", None)
    monkeypatch.setattr(disk, "LEAST_FREE", 1)
    assert ada.post("/api/classes", {"name": "One more"}).status_code == 200


def test_our_own_pages_may(application: Any, school: School) -> None:
    headers = {"Origin": "http://localhost", "Sec-Fetch-Site": "same-origin"}
    assert Caller(application).client.post("/api/sign-in", json=SIGN_IN, headers=headers).status_code == 200


DEEP = "[" * 50_000
BODIES = [
    '{"sign_in": "a\\u0000da", "password": "x"}',
    '{"sign_in": "\\ud800", "password": "x"}',
    '{"sign_in": "ada", "password": "\\u0000"}',
    '{"a\\u0000": 1}',
    DEEP,
    '{"a":' * 50_000,
    '{"sign_in": NaN}',
    '{"sign_in": 1e999, "password": []}',
    '{"finding": 2147483648, "verdict": "met", "reason": "x"}',
    '{"class_id": -99999999999999999999999, "name": "x", "code": "y"}',
    "\x00",
    "\ufeff{}",
    "[]",
    "3",
    "null",
    '"text"',
    "{}",
]
ROUTES = [
    ("POST", "/api/sign-in"),
    ("POST", "/api/join"),
    ("POST", "/api/first-code"),
    ("POST", "/api/join-class"),
    ("POST", "/api/password"),
    ("POST", "/api/school"),
    ("POST", "/api/classes"),
    ("PATCH", "/api/exercises/1"),
    ("POST", "/api/exercises/1/issues"),
    ("POST", "/api/attempts/1/overrides"),
    ("POST", "/api/attempts/1/comments"),
    ("POST", "/api/attempts/1/undo"),
    ("POST", "/api/asked/1"),
    ("PATCH", "/api/batches/1/files/1"),
    ("POST", "/api/batches/1/hand-in"),
    ("POST", "/api/sign-out"),
]


@pytest.mark.parametrize("who", [None, "ada", "ben"])
def test_odd_bodies_are_answered_in_a_sentence(
    application: Any, school: School, who: str | None, caplog: pytest.LogCaptureFixture
) -> None:
    caller = Caller(application, who)
    for method, path in ROUTES[: None if who else 3]:
        for body in BODIES:
            answer = caller.call(
                method, path, data=body.encode("utf-8", "replace"), content_type="application/json"
            )
            assert 400 <= answer.status_code < 500 or answer.status_code == 200, (
                path,
                body[:40],
                answer.status_code,
            )
            if answer.status_code != 200:
                assert set(answer.json) == {"code", "says"}
                assert answer.json["says"].endswith("."), (path, body[:40])
    assert [r for r in caplog.records if r.levelno >= logging.ERROR] == []


def test_names_hold_nothing_that_cannot_be_seen(application: Any, school: School) -> None:
    ada = Caller(application, "ada")
    code = ada.get(f"/api/classes/{school.adas}").json["join_code"]
    for name in ("Lin\u202eGray", "Lin\u200bGray", "\u2066Lin", "Lin\ue000"):
        form = {"code": code, "name": name, "sign_in": "lin.gray", "password": PASSWORD}
        assert Caller(application).post("/api/join", form).status_code == 422, ascii(name)
        assert ada.post("/api/classes", {"name": name}).status_code == 422
        assert ada.post("/api/school", {"school": name}).status_code == 422
    for name in ("Wren Ó Hallorán", "李 娜", "Søren-Åse d’Arc", "नेहा", "محمد"):
        form = {"code": code, "name": name, "sign_in": f"u{abs(hash(name))}", "password": PASSWORD}
        assert Caller(application).post("/api/join", form).status_code == 200, name


def test_fields_of_forms_with_files_are_looked_at_too(
    application: Any, school: School, key_bytes: bytes
) -> None:
    data = {"file": (io.BytesIO(key_bytes), "k\x00\x1b.dxf"), "title": "a\x00b", "text": ""}
    answer = Caller(application, "ada").call(
        "POST", "/api/exercises", data=data, content_type="multipart/form-data"
    )
    assert answer.status_code == 422


def test_signing_in_over_another_person_ends_that_session(
    application: Any, db: Database, school: School
) -> None:
    caller = Caller(application, "ben")
    token = caller.client.get_cookie("even_mark_session").value  # type: ignore[union-attr]
    caller.post("/api/sign-in", SIGN_IN)
    with db.transaction() as session:
        ended = {r.person_id: r.ended_at is not None for r in session.scalars(select(SignedIn))}
    assert ended == {school.ben: True, school.ada: False}
    other = application.test_client()
    other.set_cookie("even_mark_session", token)
    assert other.get("/api/work").status_code == 401


def test_changing_a_password_is_slowed_down_too(application: Any, school: School) -> None:
    caller = Caller(application, "ben")
    body = {"old": "not it at all", "new": "another few words"}
    codes = [caller.post("/api/password", body).status_code for _ in range(8)]
    assert codes == [422] * 5 + [429] * 3


def test_sixty_join_from_one_address_and_codes_cannot_be_tried_out(application: Any, school: School) -> None:
    code = Caller(application, "ada").get(f"/api/classes/{school.adas}").json["join_code"]
    for n in range(60):
        form = {"code": code, "name": f"Student {n}", "sign_in": f"student{n}", "password": PASSWORD}
        assert Caller(application).post("/api/join", form).status_code == 200, n
    wrong = {"code": "AAA-AAA", "name": "Lin", "sign_in": "lin.gray", "password": PASSWORD}
    answers = [Caller(application).post("/api/join", wrong).status_code for _ in range(36)]
    assert set(answers[:20]) == {404}
    assert 429 in answers[20:]  # each wait is twice as long as the one before, however slow the machine
    assert Caller(application, "ben")  # while signing in goes on


@pytest.mark.parametrize(
    ("remote", "said", "seen"),
    [
        ("10.0.0.1", "203.0.113.9", "203.0.113.9"),
        (
            "10.0.0.1",
            "198.51.100.1, 203.0.113.9",
            "203.0.113.9",
        ),  # what a caller adds in front is passed over
        ("10.0.0.1", "203.0.113.9, 10.0.0.2", "203.0.113.9"),
        ("192.0.2.7", "203.0.113.9", "192.0.2.7"),  # nobody's proxy
        ("10.0.0.1", "nonsense", "10.0.0.1"),
        ("10.0.0.1", "", "10.0.0.1"),
    ],
)
def test_proxies_of_the_settings_are_believed_and_no_others(remote: str, said: str, seen: str) -> None:
    found: dict[str, Any] = {}

    def app(environ: dict[str, Any], _start: Any) -> list[bytes]:
        found.update(environ)
        return []

    environ = {
        "REMOTE_ADDR": remote,
        "HTTP_X_FORWARDED_FOR": said,
        "HTTP_X_FORWARDED_PROTO": "https",
        "wsgi.url_scheme": "http",
    }
    Forwarded(app, ["10.0.0.0/24"])(environ, None)
    assert (found["REMOTE_ADDR"], found["wsgi.url_scheme"]) == (
        seen,
        "https" if remote == "10.0.0.1" else "http",
    )


def test_behind_a_proxy_cookies_are_for_https_alone(
    db: Database, school: School, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("EVENMARK_PROXIES", "127.0.0.1")
    client = create_app(db).test_client()
    headers = {"X-Forwarded-Proto": "https", "X-Forwarded-For": "203.0.113.9", "Origin": "https://localhost"}
    answer = client.post("/api/sign-in", json=SIGN_IN, headers=headers)
    assert answer.status_code == 200
    assert all("Secure" in c and "HttpOnly" in c for c in answer.headers.getlist("Set-Cookie"))
    assert "max-age" in answer.headers["Strict-Transport-Security"]


@pytest.mark.parametrize("name", HEADERS)
def test_every_answer_carries_the_headers_of_the_table(application: Any, name: str) -> None:
    for path in ("/", "/api/session", "/api/nothing", "/api/desk"):
        answer = Caller(application).get(path)
        assert answer.headers[name] == HEADERS[name]
        answer.close()


def test_the_table_of_headers_is_documented() -> None:
    from tests.conftest import ROOT

    said = (ROOT / "docs" / "operations.md").read_text()
    for name in (*HEADERS, "Strict-Transport-Security", "even_mark_session", "even_mark_device"):
        assert f"`{name}`" in said, name


def test_health_tells_the_parts_apart(application: Any, school: School) -> None:
    answer = Caller(application).get("/api/health")
    assert set(answer.json["parts"]) == {"database", "queue", "workers", "readers", "disk"}
    assert answer.json["parts"]["database"]["state"] == "up"
    assert "/" not in json.dumps(answer.json)
    assert Caller(application).get("/api/health/nothing").status_code == 404
    assert Caller(application).get("/api/healthy").status_code == 404


def test_a_database_that_is_away_is_said(db: Database, school: School) -> None:
    away = Database(db.url.rsplit(":", 1)[0] + ":1/nowhere")
    client = create_app(away).test_client()
    answer = client.get("/api/session")
    assert (answer.status_code, answer.json["code"], answer.headers["Retry-After"]) == (503, "away", "2")
    health = client.get("/api/health")
    assert (health.status_code, health.json["parts"]["database"]["state"]) == (503, "down")


def test_a_full_disk_is_said(application: Any, school: School, monkeypatch: pytest.MonkeyPatch) -> None:
    def full(*_: Any) -> None:
        raise OperationalError("insert", {}, DiskFull("could not extend file"))

    monkeypatch.setattr("evenmark.services.classes.make_class", full)
    answer = Caller(application, "ada").post("/api/classes", {"name": "New"})
    assert (answer.status_code, answer.json["code"]) == (503, "full")


def test_no_value_of_a_failed_statement_is_logged(db: Database, school: School) -> None:
    with pytest.raises(Exception) as caught, db.transaction() as session:  # noqa: PT011
        session.add(
            Person(name="n" * 200, sign_in="secretname", role="student", password_hash="$argon2secret")
        )
        session.flush()
    assert "argon2secret" not in str(caught.value)


def test_a_forgotten_password_is_sent_to_instructors_and_said_alike_to_all(
    application: Any, db: Database, school: School, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("EVENMARK_MAIL", str(tmp_path / "mail"))
    says = {
        Caller(application).post("/api/forgotten", {"sign_in": n}).json["says"]
        for n in ("ADA", "ben", "nobody")
    }
    assert len(says) == 1
    (place,) = (tmp_path / "mail").iterdir()
    assert place.stat().st_mode & 0o777 == 0o600
    message = email.message_from_bytes(place.read_bytes(), policy=email.policy.default)
    assert message["To"].addresses[0].display_name == "Ada Ash"
    code = re.search(r"[A-Z0-9]{4}(?:-[A-Z0-9]{4}){2}", message.get_content())
    assert code is not None
    with db.transaction() as session:
        session.scalars(select(FirstCode)).one().made_at -= timedelta(hours=2)
    body = {"code": code[0], "password": "another few words"}
    assert Caller(application).post("/api/first-code", body).json["code"] == "no-such-code"
    with db.transaction() as session:
        session.scalars(select(FirstCode)).one().made_at += timedelta(hours=2)
    assert Caller(application).post("/api/first-code", body).json["person"]["sign_in"] == "ada"
    assert Caller(application).post("/api/sign-in", SIGN_IN).status_code == 401  # the old one works no more
    time = now()
    monkeypatch.setattr(throttle, "now", lambda: time)  # no wait passes, however long a try takes
    tries = [Caller(application).post("/api/forgotten", {"sign_in": "dot"}).status_code for _ in range(8)]
    assert tries[-1] == 429


def test_without_a_mail_folder_nothing_is_sent_and_nothing_breaks(
    application: Any, school: School, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.delenv("EVENMARK_MAIL", raising=False)
    assert Caller(application).post("/api/forgotten", {"sign_in": "ada"}).status_code == 200
