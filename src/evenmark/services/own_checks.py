"""A student's check of their own work before handing in, where the exercise allows it: which checks are not
met yet, or only how many; never a number or a place of the key, and no marks."""

from __future__ import annotations

from typing import NamedTuple, TypedDict

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from evenmark.core.marking.rules_types import RulesJson
from evenmark.core.marking.self_check import self_check
from evenmark.core.marking.withheld import withheld
from evenmark.core.marking.wording import centre_lines, named
from evenmark.services import boards
from evenmark.services.board_out import as_file
from evenmark.services.bounded import read_bounded
from evenmark.services.engine_work import Marked, mark
from evenmark.services.errors import Crowded, NotThere, NotUsable
from evenmark.services.hand_in import issue_for
from evenmark.services.keys import start_of
from evenmark.services.terms import check_open, terms_of
from evenmark.services.your_steps import steps_of
from evenmark.store.boards import OwnCheck
from evenmark.store.database import Database
from evenmark.store.kept import YourStep
from evenmark.store.people import Person

SECONDS = 30
MOST_NAMED = 200


class Given(NamedTuple):
    """The number of a check, and what the engine is given for it (`engine_work.mark`)."""

    check_id: int
    keys_data: list[bytes]
    rules: RulesJson
    attempt_data: bytes
    attempt_name: str
    fields: dict[str, str]
    start_data: bytes | None


class NotMet(TypedDict):
    """A check that is not met yet, and the steps of the board that drew what it is about."""

    name: str
    yours: list[YourStep]


class OwnCheckTold(NamedTuple):
    """How many checks are not met, of how many; of how many it is not told, and why, in sentences; which are
    not met, where that is said; how many checks are left."""

    not_met: int
    of: int
    held_back: int
    why: list[str]
    which: list[NotMet] | None
    left: int


def to_check(
    session: Session, student: Person, board_id: int, digest: str | None = None, key: str = ""
) -> Given:
    """Count a check, whatever becomes of it, and return what the engine is given for a draft as it is kept;
    one that was asked for by this key before is the same one. Raises NotUsable where no check is left."""
    board = boards.own_board(session, student, board_id)
    if board.issue_id is None:
        raise NotThere("This drawing belongs to no exercise. Open the exercise under My work.")
    issue = issue_for(session, student, board.issue_id)
    check_open(terms_of(session, issue, student.id))
    name, data = as_file(session, student, board_id, digest)
    session.execute(select(Person.id).where(Person.id == student.id).with_for_update())
    own = OwnCheck.issue_id == issue.id, OwnCheck.student_id == student.id
    check = session.scalar(select(OwnCheck).where(*own, OwnCheck.key == key)) if key else None
    if check is None:
        if not boards.allowed(session, issue, student.id).left:
            raise NotUsable(
                "You have no self-check left for this exercise. You can hand in.", "no-check-left"
            )
        check = OwnCheck(issue_id=issue.id, student_id=student.id, key=key)
        session.add(check)
        session.flush()
    revision = issue.revision
    keys = [revision.key_bytes, *(f.data for f in revision.other_keys)]
    fields = {"name": student.name, "group": issue.group_name}
    return Given(check.id, keys, revision.rules, data, name, fields, start_of(revision))


def worked_out(database: Database, given: Given) -> Marked:
    """Hold a draft against its key, while no transaction is open. What was never begun, since many came at
    once, counts as no check. Raises NotUsable."""
    try:
        return read_bounded(mark, *given[1:], seconds=SECONDS)
    except Crowded:
        with database.transaction() as session:
            session.execute(delete(OwnCheck).where(OwnCheck.id == given.check_id))
        raise


def describe_own_check(session: Session, student: Person, given: Given, marked: Marked) -> OwnCheckTold:
    """Return what a check says. Raises NotThere."""
    check = session.get(OwnCheck, given.check_id)
    if check is None:
        raise NotThere("This exercise was withdrawn just now. Ask your instructor.")
    issue = issue_for(session, student, check.issue_id)
    # several at once are told one after the other, each by what was told before it
    session.execute(select(Person.id).where(Person.id == student.id).with_for_update())
    key = f"{marked.key} "  # findings of another accepted key are others
    earlier = session.scalars(
        select(OwnCheck.sizes).where(
            OwnCheck.issue_id == issue.id, OwnCheck.student_id == student.id, OwnCheck.id != check.id
        )
    )
    before = [{n[len(key) :]: a for n, a in told.items() if n.startswith(key)} for told in earlier]
    drawn = [f["id"] for f in marked.drawn["features"]]
    said = self_check(marked.marks["findings"], drawn, marked.partners, before)
    check.sizes = {f"{key}{n}": answer for n, answer in said.answers.items()}
    shown = withheld(marked.marks)["findings"]
    centre = centre_lines(shown)
    wrong = {f["id"] for f in said.not_met}
    which: list[NotMet] = [
        {"name": named(f, centre), "yours": steps_of(f, marked.partners, marked.yours)}
        for f in shown
        if f["id"] in wrong
    ]
    left = boards.allowed(session, issue, student.id).left
    return OwnCheckTold(
        len(wrong),
        len(shown),
        len(said.held_back),
        said.says,
        which[:MOST_NAMED] if issue.own_says == "which" else None,
        left,
    )
