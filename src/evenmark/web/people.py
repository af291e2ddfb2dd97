"""Sign-in, accounts."""

from __future__ import annotations

from apiflask import APIBlueprint
from flask import Response, g, jsonify, request

from evenmark.services import people
from evenmark.services.classes import class_of_code, enrol
from evenmark.services.people import OLDEST, Ticket
from evenmark.store.models import Person, SignedIn
from evenmark.web.access import COOKIE, me, signed_in
from evenmark.web.app import database
from evenmark.web.models.base import Done
from evenmark.web.models.people import CodeIn, JoinIn, PasswordIn, PersonOut, SchoolIn, SessionOut, SignInIn

routes = APIBlueprint("people", __name__, url_prefix="/api")


@routes.get("/session")
@routes.output(SessionOut)
def session() -> SessionOut:
    """Say who is signed in."""
    row: SignedIn | None = g.signed_in
    return SessionOut(
        person=PersonOut.model_validate(row.person) if row else None, guard=row.guard if row else None
    )


@routes.post("/sign-in")
@routes.input(SignInIn)
@routes.output(SessionOut)
def sign_in(json_data: SignInIn) -> Response:
    """Open a session."""
    address = request.remote_addr or "unknown"
    with database().transaction() as db:
        people.note_try(db, json_data.sign_in, address)
    with database().transaction() as db:
        ticket = people.sign_in(db, json_data.sign_in, json_data.password, address)
        return _with_cookie(ticket)


def _with_cookie(ticket: Ticket) -> Response:
    body = SessionOut(person=PersonOut.model_validate(ticket.person), guard=ticket.guard)
    response = jsonify(body.model_dump(mode="json"))
    response.set_cookie(
        COOKIE,
        ticket.token,
        max_age=int(OLDEST.total_seconds()),
        httponly=True,
        samesite="Lax",
        secure=request.is_secure,
    )
    return response


@routes.post("/join")
@routes.input(JoinIn)
@routes.output(SessionOut)
def join(json_data: JoinIn) -> Response:
    """Make a student account with a join code, enrol it and sign it in."""
    with database().transaction() as db:
        people.note_try(db, f"code {json_data.sign_in}", request.remote_addr or "unknown")
    with database().transaction() as db:
        group = class_of_code(db, json_data.code)
        person = people.make_person(
            db, name=json_data.name, sign_in=json_data.sign_in, password=json_data.password, role="student"
        )
        enrol(db, person, group)
        return _with_cookie(people.open_session(db, person))


@routes.post("/join-class")
@routes.input(CodeIn)
@routes.output(Done)
def join_class(json_data: CodeIn) -> Done:
    """Enrol the student who is signed in with a join code."""
    with database().transaction() as db:
        people.note_try(db, f"code of {me().sign_in}", request.remote_addr or "unknown")
    with database().transaction() as db:
        group = class_of_code(db, json_data.code)
        fresh = enrol(db, db.get_one(Person, me().id), group)
        return Done(says=f"You are in {group.name} now." if fresh else f"You were in {group.name} already.")


@routes.post("/sign-out")
@routes.output(Done)
def sign_out() -> Response:
    """End this session."""
    with database().transaction() as db:
        people.end_session(db, signed_in().id)
    response = jsonify(Done(says="You are signed out.").model_dump())
    response.delete_cookie(COOKIE)
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
    with database().transaction() as db:
        people.change_password(db, signed_in(), json_data.old, json_data.new)
    return Done(says="The password is changed; other sessions were ended.")


@routes.post("/school")
@routes.input(SchoolIn)
@routes.output(Done)
def change_school(json_data: SchoolIn) -> Done:
    """Change what stands as school on the caller's sheets."""
    with database().transaction() as db:
        people.change_school(db, signed_in(), json_data.school)
    return Done(says="Sheets that are made from now on show this school.")
