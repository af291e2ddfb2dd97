"""Accounts, sign-in, sessions, classes, rosters."""

from __future__ import annotations

from datetime import timedelta

import pytest
from sqlalchemy import select

from evenmark.services import classes, people
from evenmark.services.errors import NotSignedIn, NotThere, NotUsable, TooOften
from evenmark.store.database import Conflict, Database
from evenmark.store.models import Person, SchoolClass, SignedIn, now
from tests.conftest import PASSWORD, School


def test_passwords_are_hashed_with_argon2id_and_tokens_kept_as_hashes(db: Database, school: School) -> None:
    with db.transaction() as session:
        person = session.get_one(Person, school.ada)
        assert person.password_hash.startswith("$argon2id$")
        ticket = people.sign_in(session, "ADA ", PASSWORD, "127.0.0.1")
        session.flush()
        kept = session.scalar(select(SignedIn.token_hash))
        assert kept
        assert ticket.token not in kept
        assert people.who(session, ticket.token) is not None


@pytest.mark.parametrize(
    ("name", "password"), [("ada", "wrong"), ("nobody", PASSWORD), ("", ""), ("ada", "x" * 5000)]
)
def test_wrong_sign_ins_all_say_the_same(db: Database, school: School, name: str, password: str) -> None:
    with db.transaction() as session, pytest.raises(NotSignedIn, match="do not belong together"):
        people.sign_in(session, name, password, "127.0.0.1")


def test_guessing_is_slowed_down_by_name_and_by_address(db: Database, school: School) -> None:
    with db.transaction() as session:
        for _ in range(people.MOST_TRIES):
            people.note_try(session, "ada", "10.0.0.1")
            session.flush()
        with pytest.raises(TooOften, match="Wait"):
            people.note_try(session, "Ada", "10.0.0.2")
        for n in range(people.MOST_TRIES * 4):
            people.note_try(session, f"other {n}", "10.0.0.1")
            session.flush()
        with pytest.raises(TooOften):
            people.note_try(session, "fresh", "10.0.0.1")


def test_a_whole_class_signs_in_from_one_address(db: Database, school: School) -> None:
    """Behind a school's one address thirty students sign in at the start of a lesson, and again after the break."""
    with db.transaction() as session:
        for n in range(people.MOST_TRIES * 12):
            name = ("ada", "ben", "cyd", "eve")[n % 4]
            people.note_try(session, name, "10.0.0.1")
            session.flush()
            people.sign_in(session, name, PASSWORD, "10.0.0.1")
            session.flush()
        for n in range(people.MOST_TRIES * 5):  # guessing from the same address is still slowed down
            people.note_try(session, f"other {n}", "10.0.0.1")
            session.flush()
        with pytest.raises(TooOften):
            people.note_try(session, "fresh", "10.0.0.1")


def test_sessions_end_when_ended_unused_or_old(db: Database, school: School) -> None:
    with db.transaction() as session:
        tokens = [people.sign_in(session, "ada", PASSWORD, "a").token for _ in range(4)]
        session.flush()
        rows = [people.who(session, t) for t in tokens]
        assert all(rows)
        people.end_session(session, rows[0].id)  # type: ignore[union-attr]
        rows[1].seen_at = now() - people.IDLE - timedelta(seconds=1)  # type: ignore[union-attr]
        rows[2].created_at = now() - people.OLDEST - timedelta(seconds=1)  # type: ignore[union-attr]
        session.flush()
        assert [people.who(session, t) is not None for t in tokens] == [False, False, False, True]


def test_a_changed_password_ends_other_sessions(db: Database, school: School) -> None:
    with db.transaction() as session:
        here, there = (people.sign_in(session, "ada", PASSWORD, "a").token for _ in range(2))
        session.flush()
        row = people.who(session, here)
        assert row is not None
        with pytest.raises(NotUsable, match="present password"):
            people.change_password(session, row, "not it", "another few words")
        with pytest.raises(NotUsable, match="10"):
            people.change_password(session, row, PASSWORD, "short")
        people.change_password(session, row, PASSWORD, "another few words")
        session.flush()
        assert people.who(session, here) is not None
        assert people.who(session, there) is None
        people.sign_in(session, "ada", "another few words", "a")


@pytest.mark.parametrize(
    ("name", "sign_in", "password"),
    [
        ("", "okay", PASSWORD),
        ("A", "ab", PASSWORD),
        ("A", "with blank", PASSWORD),
        ("A", "okay", "short"),
        ("x" * 121, "okay", PASSWORD),
    ],
)
def test_accounts_that_cannot_be(db: Database, name: str, sign_in: str, password: str) -> None:
    with db.transaction() as session, pytest.raises(NotUsable):
        people.make_person(session, name=name, sign_in=sign_in, password=password, role="student")


def test_sign_in_names_are_taken_in_any_letter_case(db: Database, school: School) -> None:
    with pytest.raises(Conflict) as caught, db.transaction() as session:
        people.make_person(session, name="Another", sign_in="ADA", password=PASSWORD, role="student")
    assert caught.value.constraint == "uq_person_sign_in"


def test_join_codes_are_read_however_typed_and_replaced(db: Database, school: School) -> None:
    with db.transaction() as session:
        group = session.get_one(SchoolClass, school.adas)
        code = group.join_code
        for typed in (code, code.lower(), code.replace("-", " "), f" {code[:3]}{code[4:]} "):
            assert classes.class_of_code(session, typed).id == school.adas
        classes.renew_code(session, session.get_one(Person, school.ada), school.adas)
        session.flush()
        with pytest.raises(NotThere, match="code"):
            classes.class_of_code(session, code)


def _take(db: Database, school: School, data: bytes) -> list[classes.RosterRow]:
    with db.transaction() as session:
        return classes.take_roster(session, session.get_one(Person, school.ada), school.adas, data)


def test_a_roster_in_the_open_column_names(db: Database, school: School) -> None:
    data = (
        b"sourcedId,status,enabledUser,role,username,givenName,familyName,email\n"
        b"1,active,true,student,lin.gray,Lin,Gray,\n"
        b"2,active,true,student,ben,Ben,Elm,\n"
        b"3,active,true,teacher,someone,Some,Teacher,\n"
        b"4,active,false,student,gone,Gone,Away,\n"
        b"5,active,true,student,dot,Dot,Ash,\n"
        b"6,active,true,student,,No,Name,\n"
    )
    rows = {r.sign_in: r for r in _take(db, school, data)}
    assert {k: r.outcome for k, r in rows.items()} == {
        "lin.gray": "made",
        "ben": "known",
        "dot": "left-out",
        "": "left-out",
    }
    assert rows["lin.gray"].password
    again = {r.sign_in: r for r in _take(db, school, data)}
    assert again["lin.gray"].outcome == "known"
    assert again["lin.gray"].password is None
    with db.transaction() as session:
        people.sign_in(session, "lin.gray", rows["lin.gray"].password or "", "a")
        assert [p.name for p in classes.students_of(session, school.adas)] == [
            "Ben Elm",
            "Cyd Elm",
            "Lin Gray",
        ]


@pytest.mark.parametrize(
    "data",
    [
        b"name;sign-in\nLin Gray;lin.gray\n",
        "\ufeffName,Email\nLin Gray,lin.gray\n".encode(),
        "name,username\r\nLin Gröy,lin.gray\r\n".encode("cp1252"),
    ],
)
def test_rosters_as_spreadsheets_save_them(db: Database, school: School, data: bytes) -> None:
    assert [r.outcome for r in _take(db, school, data)] == ["made"]


@pytest.mark.parametrize(
    ("data", "word"),
    [
        (b"", "heading"),
        (b"first,second\na,b\n", "heading"),
        (b"PK\x03\x04\0\0", "CSV"),
        (b"name,username\n", "no students"),
        (b"x" * 1_000_001, "1 MB"),
    ],
)
def test_files_that_are_no_roster_say_what_to_do(
    db: Database, school: School, data: bytes, word: str
) -> None:
    with pytest.raises(NotUsable, match=word):
        _take(db, school, data)


def test_classes_are_their_instructors_alone(db: Database, school: School) -> None:
    with db.transaction() as session:
        dot = session.get_one(Person, school.dot)
        for act in (
            lambda: classes.own_class(session, dot, school.adas),
            lambda: classes.renew_code(session, dot, school.adas),
            lambda: classes.remove_student(session, dot, school.adas, school.ben),
            lambda: classes.take_roster(session, dot, school.adas, b"name,username\nA B,abc\n"),
        ):
            with pytest.raises(NotThere):
                act()
