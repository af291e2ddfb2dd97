"""Accounts, sign-in, sessions, classes, rosters."""

from __future__ import annotations

import subprocess
import sys
from datetime import timedelta

import pytest
from argon2 import PasswordHasher
from sqlalchemy import func, select

from evenmark.services import classes, people, throttle
from evenmark.services.errors import NotSignedIn, NotThere, NotUsable, TooOften
from evenmark.store.database import Conflict, Database
from evenmark.store.people import Person, SchoolClass, SignedIn, SignInTry, now
from tests.conftest import PASSWORD, School


def test_passwords_are_hashed_with_argon2id_and_tokens_kept_as_hashes(db: Database, school: School) -> None:
    with db.transaction() as session:
        person = session.get_one(Person, school.ada)
        assert person.password_hash.startswith("$argon2id$")
        ticket = people.sign_in(session, "ADA ", PASSWORD)
        session.flush()
        kept = session.scalar(select(SignedIn.token_hash))
        assert kept
        assert ticket.token not in kept
        assert people.who(session, ticket.token) is not None


@pytest.mark.parametrize(
    ("name", "password"), [("ada", "wrong"), ("nobody", PASSWORD), ("", ""), ("ada", "x" * 5000)]
)
def test_wrong_sign_ins_all_say_the_same(db: Database, school: School, name: str, password: str) -> None:
    with db.transaction() as session, pytest.raises(NotSignedIn, match="Wrong sign-in name or password"):
        people.sign_in(session, name, password)


def wrong(db: Database, name: str, address: str, times: int, device: str | None = None) -> None:
    with db.transaction() as session:
        for _ in range(times):
            session.add(SignInTry(name=name, address=address, at=now(), wrong=True))


def note(db: Database, name: str, address: str, device: str | None = None) -> int:
    with db.transaction() as session:
        return throttle.note_try(session, name, address, device)


def test_guessing_is_slowed_down_and_never_shut(db: Database, school: School) -> None:
    for _ in range(throttle.FREE_AT_PAIR):
        wrong(db, "ada", "10.0.0.1", 1)
    with pytest.raises(TooOften, match=r"Wait [12] second"):
        note(db, "Ada ", "10.0.0.1")
    wrong(db, "ada", "10.0.0.1", 200)
    with pytest.raises(TooOften) as caught:
        note(db, "ada", "10.0.0.1")
    assert caught.value.seconds <= throttle.LONGEST_AT_PAIR + 1
    with db.transaction() as session:
        for row in session.scalars(select(SignInTry)):
            row.at -= timedelta(seconds=throttle.LONGEST_AT_PAIR)
    note(db, "ada", "10.0.0.1")  # one more try every now and then


def test_several_at_once_are_no_guessing_and_very_many_are_held_up(db: Database, school: School) -> None:
    numbers = [note(db, "ada", "10.0.0.1") for _ in range(throttle.MOST_AT_ONCE)]
    with pytest.raises(TooOften):
        note(db, "ada", "10.0.0.1")
    with db.transaction() as session:
        throttle.was_none(session, numbers[0])
        throttle.was_wrong(session, numbers[1])
        kept = dict(session.execute(select(SignInTry.id, SignInTry.wrong)).all())  # type: ignore[arg-type]
        assert (numbers[0] in kept, kept[numbers[1]], kept[numbers[2]]) == (False, True, False)
    note(db, "ada", "10.0.0.1")


def test_what_others_guess_shuts_nobody_out(db: Database, school: School) -> None:
    wrong(db, "ada", "10.0.0.1", 500)
    note(db, "ada", "10.0.0.2")  # from elsewhere at once
    with db.transaction() as session:
        device = throttle.remember_device(session, session.get_one(Person, school.ada), None)
    note(db, "ada", "10.0.0.1", device)  # from behind the same address, on a browser of hers
    with pytest.raises(TooOften):
        note(db, "ben", "10.0.0.1")  # five hundred wrong ones within a moment: a second's wait
    with db.transaction() as session:
        for row in session.scalars(select(SignInTry)):
            row.at -= timedelta(seconds=2)
    note(db, "ben", "10.0.0.1")


def test_fifty_wrong_passwords_do_not_shut_a_school(db: Database, school: School) -> None:
    for n in range(25):
        wrong(db, f"student{n}", "10.0.0.1", 2)
    for name in ("ada", "ben", "cyd", "eve"):
        note(db, name, "10.0.0.1")


def test_guesses_from_many_addresses_are_slowed_down_by_name(db: Database, school: School) -> None:
    for n in range(throttle.FREE_AT_NAME * 3):
        wrong(db, "ada", f"10.0.1.{n}", 1)
    with pytest.raises(TooOften):
        note(db, "ada", "10.0.1.1")
    note(db, "ada", "10.0.9.9")  # a first try is never held up


def test_a_whole_class_signs_in_from_one_address(db: Database, school: School) -> None:
    """Behind a school's one address thirty students sign in at the start of a lesson, and again after the
    break."""
    for n in range(120):
        name = ("ada", "ben", "cyd", "eve")[n % 4]
        number = note(db, name, "10.0.0.1")
        with db.transaction() as session:
            people.sign_in(session, name, PASSWORD)
            throttle.forget_try(session, number)
    with db.transaction() as session:
        assert session.scalar(select(func.count()).select_from(SignInTry)) == 0


def test_devices_of_one_person_are_few(db: Database, school: School) -> None:
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        tokens = [throttle.remember_device(session, ada, None) for _ in range(throttle.MOST_DEVICES + 3)]
        assert throttle.remember_device(session, ada, tokens[-1]) == tokens[-1]
        assert [throttle.is_known(session, "ada", t) for t in (tokens[0], tokens[-1])] == [False, True]
        assert not throttle.is_known(session, "ben", tokens[-1])


def test_an_old_hash_is_renewed_when_its_owner_signs_in(db: Database, school: School) -> None:
    old = PasswordHasher(time_cost=3, memory_cost=64, parallelism=2).hash(PASSWORD)
    with db.transaction() as session:
        session.get_one(Person, school.ada).password_hash = old
    with db.transaction() as session:
        people.sign_in(session, "ada", PASSWORD)
    with db.transaction() as session:
        fresh = session.get_one(Person, school.ada).password_hash
        assert fresh != old
        people.sign_in(session, "ada", PASSWORD)


def test_passwords_cost_what_the_documents_say() -> None:
    code = (
        "from evenmark.services.people import _hasher as h; print(h.memory_cost, h.time_cost, "
        "h.parallelism, h.type.name)"
    )
    said = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True).stdout
    assert said.split() == ["19456", "2", "1", "ID"]


def test_sessions_end_when_ended_unused_or_old(db: Database, school: School) -> None:
    with db.transaction() as session:
        tokens = [people.sign_in(session, "ada", PASSWORD).token for _ in range(4)]
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
        here, there = (people.sign_in(session, "ada", PASSWORD).token for _ in range(2))
        session.flush()
        row = people.who(session, here)
        assert row is not None
        with pytest.raises(NotUsable, match="current password"):
            people.change_password(session, row, "not it", "another few words")
        with pytest.raises(NotUsable, match="10"):
            people.change_password(session, row, PASSWORD, "short")
        people.change_password(session, row, PASSWORD, "another few words")
        session.flush()
        assert people.who(session, here) is not None
        assert people.who(session, there) is None
        people.sign_in(session, "ada", "another few words")


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


def _take(db: Database, school: School, data: bytes) -> list[classes.RosterEntry]:
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
    code = rows["lin.gray"].code
    assert code
    again = {r.sign_in: r for r in _take(db, school, data)}
    assert (again["lin.gray"].outcome, again["lin.gray"].code) == ("known", None)
    with db.transaction() as session:
        lin = session.scalars(select(Person).where(Person.sign_in == "lin.gray")).one()
        assert classes.codes_of(session, school.adas) == {lin.id: code}  # to be read again until it is used
        with pytest.raises(NotSignedIn):
            people.sign_in(session, "lin.gray", "")
        with pytest.raises(NotUsable, match="10"):
            people.use_first_code(session, code, "short")
        people.use_first_code(session, code.lower().replace("-", " "), PASSWORD)
        assert classes.codes_of(session, school.adas) == {}
        with pytest.raises(NotThere, match="used already"):
            people.use_first_code(session, code, PASSWORD)
        people.sign_in(session, "lin.gray", PASSWORD)
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


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"name,username\n" + b"x" * 140_000 + b",lin\n", "far too long"),
        (b'name,username\n"Lin, lin\n', "name"),
        (b"name,username\rLin Gray,lin.gray\r", ""),
        ("name,username\nLin Gray,lin.gray\n".encode("utf-16"), ""),
        (b"name,username\nLin\x1b[2J Gray,lin.gray\n", "cannot be seen"),
        ("name,username\nLin\u202egray,lin.gray\n".encode(), "cannot be seen"),
        ("name,username\nLin Gray,lin\u200bgray\n".encode(), "sign-in name"),
    ],
)
def test_odd_rosters_are_read_or_told(db: Database, school: School, data: bytes, says: str) -> None:
    try:
        rows = _take(db, school, data)
    except NotUsable as why:
        assert says, why.says
        assert says in why.says
        return
    assert [r.outcome for r in rows] == ["left-out" if says else "made"]
    assert says in rows[0].says


def test_somebody_elses_student_is_asked_and_agrees_first(db: Database, school: School) -> None:
    (row,) = _take(db, school, b"name,username\nWhoever,eve\n")
    assert (row.outcome, row.name) == ("asked", "Whoever")  # not the name of the account
    with db.transaction() as session:
        eve = session.get_one(Person, school.eve)
        assert eve not in classes.students_of(session, school.adas)
        assert [i.called for i in classes.asked_into(session, school.adas)] == ["Whoever"]
        assert [i.class_id for i in classes.asked_of(session, eve)] == [school.adas]
    (again,) = _take(db, school, b"name,username\nWhoever,eve\n")
    assert again.says == "Is asked to join already."
    with db.transaction() as session:
        eve = session.get_one(Person, school.eve)
        classes.answer(session, eve, school.adas, join=True)
        assert eve in classes.students_of(session, school.adas)
        with pytest.raises(NotThere):
            classes.answer(session, eve, school.adas, join=True)


def test_a_new_code_only_for_students_of_ones_own_alone(db: Database, school: School) -> None:
    with db.transaction() as session:
        ada, dot = session.get_one(Person, school.ada), session.get_one(Person, school.dot)
        code = classes.new_code_for(session, ada, school.adas, school.ben)
        assert classes.new_code_for(session, ada, school.adas, school.ben) != code
        people.sign_in(session, "ben", PASSWORD)  # the old password works until the code is used
        with pytest.raises(NotThere):
            classes.new_code_for(session, dot, school.adas, school.ben)
        classes.enrol(session, session.get_one(Person, school.ben), session.get_one(SchoolClass, school.dots))
        with pytest.raises(NotUsable, match="another instructor"):
            classes.new_code_for(session, ada, school.adas, school.ben)


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
