"""Sign-in, accounts."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import timedelta
from email.utils import formataddr

from apiflask import APIBlueprint
from flask import Response, g, jsonify, request
from sqlalchemy import select
from sqlalchemy.orm import Session

from evenmark.services import classes, people, throttle
from evenmark.services.classes import asked_of, class_of_code, enrol
from evenmark.services.errors import NotSignedIn, NotThere
from evenmark.services.people import OLDEST, Ticket
from evenmark.standins import mail
from evenmark.store.people import Person, SignedIn
from evenmark.web.access import COOKIE, me, signed_in
from evenmark.web.context import database
from evenmark.web.models.base import Done
from evenmark.web.models.people import (
    AnswerIn,
    AskedRows,
    CodeIn,
    FirstCodeIn,
    ForgottenIn,
    JoinIn,
    NumbersIn,
    PasswordIn,
    PersonOut,
    SchoolIn,
    SessionOut,
    SignInIn,
    ZoneIn,
)

DEVICE = "even_mark_device"
DEVICE_KNOWN = timedelta(days=365)
CODES = "codes"
"""As what tries at codes are counted: a code is nobody's until it is right."""
routes = APIBlueprint("people", __name__, url_prefix="/api")


@routes.get("/session")
@routes.output(SessionOut)
def session() -> SessionOut:
    """Say who is signed in; also whether anybody can be: without its database nothing here is well."""
    with database().transaction() as db:
        db.execute(select(1))
    row: SignedIn | None = g.signed_in
    return SessionOut(
        person=PersonOut.model_validate(row.person) if row else None, guard=row.guard if row else None
    )


@routes.post("/sign-in")
@routes.input(SignInIn)
@routes.output(SessionOut)
def sign_in(json_data: SignInIn) -> Response:
    """Open a session; one of somebody else's in this browser ends."""
    return _opened(
        json_data.sign_in,
        lambda db: people.sign_in(db, json_data.sign_in, json_data.password, zone=json_data.zone),
    )


@routes.post("/join")
@routes.input(JoinIn)
@routes.output(SessionOut)
def join(json_data: JoinIn) -> Response:
    """Make a student account with a join code, enrol it and sign it in."""

    def joined(db: Session) -> Ticket:
        group = class_of_code(db, json_data.code)
        person = people.make_person(
            db, name=json_data.name, sign_in=json_data.sign_in, password=json_data.password, role="student"
        )
        enrol(db, person, group)
        return people.open_session(db, person)

    return _opened(CODES, joined)


@routes.post("/first-code")
@routes.input(FirstCodeIn)
@routes.output(SessionOut)
def use_code(json_data: FirstCodeIn) -> Response:
    """Choose a password with a one-time code, and open a session."""
    return _opened(CODES, lambda db: people.use_first_code(db, json_data.code, json_data.password))


@routes.post("/forgotten")
@routes.input(ForgottenIn)
@routes.output(Done)
def forgotten(json_data: ForgottenIn) -> Done:
    """Send an instructor a one-time code. Says the same whoever asks, so that nothing is learnt of who there
    is."""
    with database().transaction() as db:
        throttle.was_wrong(db, throttle.note_try(db, f"forgotten {json_data.sign_in}", _address()))
    with database().transaction() as db:
        found = people.ask_for_code(db, json_data.sign_in)
    if found is not None:
        person, code = found
        mail.send(
            to=formataddr((person.name, person.sign_in)),
            subject="A new password for Even Mark",
            body=f"Somebody, most likely you, asked for a new password for {person.sign_in}.\n\n"
            "Open Even Mark, choose “Choose a password” at the sign-in, and enter this code within an "
            f"hour:\n\n    {code}\n\n"
            "If it was not you, do nothing: your password still works.\n",
        )
    return Done(
        says="If this name is an instructor's, a message with a code is on its way. Students ask their "
        "instructor for a code."
    )


def _opened(name: str, open_: Callable[[Session], Ticket]) -> Response:
    """Open a session in one way or another; a try that goes wrong is counted, one that goes well is not."""
    device = request.cookies.get(DEVICE, "")[:100] or None
    free = throttle.FREE_AT_CODES if name == CODES else throttle.FREE_AT_PAIR
    with _one_try(name, device, free) as number, database().transaction() as db:
        ticket = open_(db)
        before: SignedIn | None = g.signed_in
        if before is not None:  # this browser does not know it any more
            people.end_session(db, before.id)
        device = throttle.remember_device(db, ticket.person, device)
        throttle.forget_try(db, number)
    body = SessionOut(person=PersonOut.model_validate(ticket.person), guard=ticket.guard)
    response = jsonify(body.model_dump(mode="json"))
    for cookie, value, age in ((COOKIE, ticket.token, OLDEST), (DEVICE, device, DEVICE_KNOWN)):
        response.set_cookie(
            cookie,
            value,
            max_age=int(age.total_seconds()),
            httponly=True,
            samesite="Lax",
            secure=request.is_secure,
        )
    return response


@contextmanager
def _one_try(name: str, device: str | None = None, free: int = throttle.FREE_AT_PAIR) -> Iterator[int]:
    """Note a try at a name and yield its number; what guessed wrong is counted, what only wants the form
    otherwise is not."""
    with database().transaction() as db:
        number = throttle.note_try(db, name, _address(), device, free=free)
    try:
        yield number
    except Exception as why:
        guessed = isinstance(why, NotSignedIn | NotThere) or getattr(why, "code", "") == "wrong-password"
        with database().transaction() as db:
            (throttle.was_wrong if guessed else throttle.was_none)(db, number)
        raise


def _address() -> str:
    return request.remote_addr or "unknown"


@routes.post("/join-class")
@routes.input(CodeIn)
@routes.output(Done)
def join_class(json_data: CodeIn) -> Done:
    """Enrol the student who is signed in with a join code."""
    with _one_try(f"code of {me().sign_in}") as number, database().transaction() as db:
        group = class_of_code(db, json_data.code)
        throttle.forget_try(db, number)
        fresh = enrol(db, db.get_one(Person, me().id), group)
        return Done(says=f"You are in {group.name} now." if fresh else f"You were in {group.name} already.")


@routes.get("/asked")
@routes.output(AskedRows)
def asked() -> AskedRows:
    """List the classes that the caller is asked to join."""
    with database().transaction() as db:
        rows = [
            {
                "class_id": i.class_id,
                "class_name": i.school_class.name,
                "instructor": db.get_one(Person, i.school_class.instructor_id).name,
            }
            for i in asked_of(db, me())
        ]
        return AskedRows.model_validate({"asked": rows})


@routes.post("/asked/<int:class_id>")
@routes.input(AnswerIn)
@routes.output(Done)
def answer(class_id: int, json_data: AnswerIn) -> Done:
    """Join a class that the caller is asked into, or decline."""
    with database().transaction() as db:
        group = classes.answer(db, db.get_one(Person, me().id), class_id, join=json_data.join)
        return Done(
            says=f"You are in {group.name} now." if json_data.join else f"You are not joining {group.name}."
        )


@routes.post("/sign-out")
@routes.output(Done)
def sign_out() -> Response:
    """End this session, and have the browser clear all that it keeps of this place."""
    return _ended('"cache", "storage"')


@routes.post("/step-aside")
@routes.output(Done)
def step_aside() -> Response:
    """End this session, and leave what somebody else has left in the browser, who can sign in and save it."""
    return _ended('"cache"')


def _ended(cleared: str) -> Response:
    """End this session; the browser clears what is said (W3C Clear Site Data, 3.1)."""
    with database().transaction() as db:
        people.end_session(db, signed_in().id)
    response = jsonify(Done(says="You are signed out.").model_dump())
    response.delete_cookie(COOKIE)
    response.headers["Clear-Site-Data"] = cleared
    return response


@routes.post("/sessions/end-others")
@routes.output(Done)
def end_others() -> Done:
    """End all other sessions of the caller."""
    with database().transaction() as db:
        ended = people.end_other_sessions(db, signed_in())
    return Done(says=f"{ended} other sessions were ended." if ended != 1 else "1 other session was ended.")


@routes.post("/password")
@routes.input(PasswordIn)
@routes.output(Done)
def change_password(json_data: PasswordIn) -> Done:
    """Change the caller's password."""
    with _one_try(f"password of {me().id}") as number, database().transaction() as db:
        people.change_password(db, signed_in(), json_data.old, json_data.new)
        throttle.forget_try(db, number)
    return Done(says="Password changed; other sessions were ended.")


@routes.post("/school")
@routes.input(SchoolIn)
@routes.output(Done)
def change_school(json_data: SchoolIn) -> Done:
    """Change what stands as school on the caller's sheets."""
    with database().transaction() as db:
        people.change_school(db, signed_in(), json_data.school)
    return Done(says="New sheets show this school.")


@routes.post("/numbers")
@routes.input(NumbersIn)
@routes.output(Done)
def change_numbers(json_data: NumbersIn) -> Done:
    """Change how the caller writes numbers in sentences."""
    with database().transaction() as db:
        people.change_numbers(db, signed_in(), decimal_comma=json_data.decimal_comma)
    if json_data.decimal_comma:
        return Done(says="From now on, 3,5 in your sentences is three and a half.")
    return Done(says="From now on, a comma in your sentences separates two coordinates.")


@routes.post("/zone")
@routes.input(ZoneIn)
@routes.output(Done)
def change_zone(json_data: ZoneIn) -> Done:
    """Change the time zone in which times are told on prints, tables and in the record."""
    with database().transaction() as db:
        people.change_zone(db, signed_in(), json_data.zone)
    return Done(says="From now on, times are shown in this zone.")
