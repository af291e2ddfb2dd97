"""Who may call what. Every route is in one table; a route that is not in it is refused to everybody.

What a role may see within a route (whose class, whose attempt) is decided by the services, which look nothing
up that is not the caller's.
"""

from __future__ import annotations

import hmac
from typing import Literal

from flask import current_app, g, request

from evenmark.services.bounded import whose_turn
from evenmark.services.disk import see_room
from evenmark.services.errors import NotAllowed, NotSignedIn
from evenmark.services.people import who
from evenmark.store.people import Person, SignedIn
from evenmark.web.request_checks import READS, look_over

Who = Literal["anyone", "signed-in", "instructor", "student"]
COOKIE = "even_mark_session"
GUARD_HEADER = "X-Even-Mark-Guard"

OPENS_A_SESSION = ("people.sign_in", "people.join", "people.use_code")
"""They prove who is there by themselves, also on a page that was opened before somebody else signed in."""
ACCESS: dict[str, Who] = {
    "people.session": "anyone",
    "people.sign_in": "anyone",
    "people.join": "anyone",
    "people.use_code": "anyone",
    "people.forgotten": "anyone",
    "people.asked": "student",
    "people.answer": "student",
    "people.sign_out": "signed-in",
    "people.step_aside": "signed-in",
    "people.end_others": "signed-in",
    "people.change_password": "signed-in",
    "people.change_school": "instructor",
    "people.join_class": "student",
    "people.change_zone": "instructor",
    "people.change_numbers": "signed-in",
    "classes.listing": "instructor",
    "classes.make": "instructor",
    "classes.page": "instructor",
    "classes.rename": "instructor",
    "classes.archive": "instructor",
    "classes.duplicate": "instructor",
    "classes.deletion": "instructor",
    "classes.delete": "instructor",
    "classes.student_deletion": "instructor",
    "classes.wipe": "instructor",
    "classes.renew_code": "instructor",
    "classes.roster": "instructor",
    "classes.remove": "instructor",
    "classes.new_code": "instructor",
    "exercises.listing": "instructor",
    "exercises.make": "instructor",
    "exercises.page": "instructor",
    "exercises.change": "instructor",
    "exercises.sheet": "instructor",
    "exercises.proof": "instructor",
    "exercises.costs": "instructor",
    "exercises.key_file": "instructor",
    "exercises.add_file": "instructor",
    "exercises.remove_file": "instructor",
    "exercises.file": "instructor",
    "exercises.issue": "instructor",
    "exercises.sheet_pdf": "instructor",
    "exercises.archive": "instructor",
    "exercises.duplicate": "instructor",
    "exercises.deletion": "instructor",
    "exercises.delete": "instructor",
    "issues.change": "instructor",
    "issues.withdraw": "instructor",
    "issues.close": "instructor",
    "issues.reopen": "instructor",
    "issues.allow": "instructor",
    "record.record": "instructor",
    "record.start": "instructor",
    "record.export": "instructor",
    "record.export_file": "instructor",
    "record.cancel": "instructor",
    "results.desk": "instructor",
    "results.class_results": "instructor",
    "results.csv_results": "instructor",
    "marking.page": "instructor",
    "marking.override": "instructor",
    "marking.comment": "instructor",
    "marking.undo": "instructor",
    "marking.redo": "instructor",
    "marking.return_one": "instructor",
    "marking.take_back": "instructor",
    "marking.mark_again": "instructor",
    "marking.return_all": "instructor",
    "marking.mark_class_again": "instructor",
    "marking.attempt_file": "instructor",
    "marking.marked": "instructor",
    "batches.start": "instructor",
    "batches.page": "instructor",
    "batches.decide": "instructor",
    "batches.read_again": "instructor",
    "batches.hand_in": "instructor",
    "batches.drop": "instructor",
    "work.listing": "student",
    "work.page": "student",
    "work.sheet": "student",
    "work.sheet_pdf": "student",
    "work.lay_in": "student",
    "work.hand_in": "student",
    "work.result": "student",
    "work.own_file": "student",
    "work.own_marked": "student",
    "work.start": "student",
    "boards.listing": "signed-in",
    "boards.make": "instructor",
    "boards.draft": "student",
    "boards.page": "signed-in",
    "boards.save": "signed-in",
    "boards.ask": "signed-in",
    "boards.part": "signed-in",
    "boards.aside": "signed-in",
    "boards.rename": "instructor",
    "boards.take_away": "signed-in",
    "boards.file": "signed-in",
    "boards.opened": "signed-in",
    "boards.put_picture": "signed-in",
    "boards.picture": "signed-in",
    "boards.place_picture": "signed-in",
    "boards.drop_picture": "signed-in",
    "boards.hand_in_board": "student",
    "boards.understood": "student",
    "boards.check": "student",
    "boards.made": "instructor",
    "boards.made_so_far": "instructor",
    "boards.exercise": "instructor",
    "boards.from_key": "instructor",
    "pages.app": "anyone",
    "pages.health": "anyone",
    "pages.asset": "anyone",
    "static": "anyone",
}


TAKE_NOTHING_IN = frozenset(
    {
        "people.sign_in",
        "people.sign_out",
        "people.step_aside",
        "people.end_others",
        "people.change_password",
        "people.use_code",
        "boards.ask",
        "marking.take_back",
    }
)
"""What goes on where the disk is full, as reading and taking away do."""


def load_session() -> None:
    """Find out who is calling, and refuse what they may not: runs before every request.

    Raises NotSignedIn, NotAllowed. Changes need the session's guard beside the cookie, so that no other site
    can have a browser make them.
    """
    g.signed_in = None
    whose_turn.set("")
    if request.endpoint is None or request.endpoint in ("pages.app", "pages.asset", "pages.health", "static"):
        return
    look_over()
    with current_app.extensions["database"].transaction() as session:
        g.signed_in = who(session, request.cookies.get(COOKIE, "")[:100])
    if g.signed_in is not None:
        whose_turn.set(str(g.signed_in.person_id))
    if request.method not in READS and request.method != "DELETE" and request.endpoint not in TAKE_NOTHING_IN:
        see_room()
    needed = ACCESS.get(request.endpoint)
    if needed is None:
        raise NotAllowed("This is not available. Go back.")
    if needed != "anyone":
        row = signed_in()
        if needed != "signed-in" and row.person.role != needed:
            raise NotAllowed(f"This page is for {needed}s. Sign in with another account to see it.")
    if request.method not in READS and g.signed_in is not None and request.endpoint not in OPENS_A_SESSION:
        given = request.headers.get(GUARD_HEADER, "")
        if not hmac.compare_digest(given.encode(), g.signed_in.guard.encode()):
            raise NotAllowed("The page is out of date. Reload it, then try again.", "guard")


def signed_in() -> SignedIn:
    """Return the caller's session. Raises NotSignedIn."""
    row: SignedIn | None = g.signed_in
    if row is None:
        raise NotSignedIn("You are signed out. Sign in, then go on.")
    return row


def me() -> Person:
    """Return who is calling. Raises NotSignedIn."""
    return signed_in().person
