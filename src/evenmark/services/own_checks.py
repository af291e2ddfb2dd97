"""A student's check of their own work before handing in, where the exercise allows it: which checks are not
met yet, or only how many; never a number or a place of the key, and no marks."""

from __future__ import annotations

from typing import NamedTuple

from sqlalchemy import select
from sqlalchemy.orm import Session

from evenmark.core.marking.rules_types import RulesJson
from evenmark.core.marking.withheld import withheld
from evenmark.core.marking.wording import centre_lines, named
from evenmark.services import boards
from evenmark.services.bounded import read_bounded
from evenmark.services.engine_work import Marked, mark
from evenmark.services.errors import NotThere, NotUsable
from evenmark.services.hand_in import issue_for
from evenmark.services.keys import start_of
from evenmark.services.terms import check_open, terms_of
from evenmark.store.boards import OwnCheck
from evenmark.store.people import Person

SECONDS = 30
MOST_NAMED = 200


class Given(NamedTuple):
    """What the engine is given (`engine_work.mark`)."""

    keys_data: list[bytes]
    rules: RulesJson
    attempt_data: bytes
    attempt_name: str
    fields: dict[str, str]
    start_data: bytes | None


class OwnCheckTold(NamedTuple):
    """How many checks are not met, of how many; which, where that is said; how many checks are left."""

    not_met: int
    of: int
    which: list[str] | None
    left: int


def to_check(session: Session, student: Person, board_id: int) -> Given:
    """Return what the engine is given for a draft as it is kept. Raises NotUsable where no check is left."""
    board = boards.own_board(session, student, board_id)
    if board.issue_id is None:
        raise NotThere("This drawing belongs to no exercise.")
    issue = issue_for(session, student, board.issue_id)
    check_open(terms_of(session, issue, student.id))
    if not boards.allowed(session, issue, student.id).left:
        raise NotUsable("No check of your own work is left for this exercise.", "no-check-left")
    name, data = boards.as_file(session, student, board_id)
    revision = issue.revision
    keys = [revision.key_bytes, *(f.data for f in revision.other_keys)]
    fields = {"name": student.name, "group": issue.group_name}
    return Given(keys, revision.rules, data, name, fields, start_of(revision))


def worked_out(given: Given) -> Marked:
    """Hold a draft against its key, while no transaction is open. Raises NotUsable."""
    return read_bounded(mark, *given, seconds=SECONDS)


def describe_own_check(session: Session, student: Person, board_id: int, marked: Marked) -> OwnCheckTold:
    """Count a check, and return what it says. Raises NotUsable where none is left any more."""
    board = boards.own_board(session, student, board_id)
    if board.issue_id is None:
        raise NotThere("This drawing belongs to no exercise.")
    session.execute(select(Person.id).where(Person.id == student.id).with_for_update())
    issue = issue_for(session, student, board.issue_id)
    if not boards.allowed(session, issue, student.id).left:
        raise NotUsable("No check of your own work is left for this exercise.", "no-check-left")
    session.add(OwnCheck(issue_id=issue.id, student_id=student.id))
    session.flush()
    findings = withheld(marked.marks)["findings"]
    centre = centre_lines(findings)
    wrong = [f for f in findings if f["verdict"] not in ("met", "follows")]
    names = [named(f, centre) for f in wrong][:MOST_NAMED] if issue.own_says == "which" else None
    left = boards.allowed(session, issue, student.id).left
    return OwnCheckTold(len(wrong), len(findings), names, left)
