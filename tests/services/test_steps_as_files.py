"""A document of steps where a drawing is expected: as a key, as an attempt, and with marks drawn over it."""

from __future__ import annotations

import json

import pytest

from evenmark.core.construct.document import to_json
from evenmark.core.formats import read_file
from evenmark.core.formats.dxf_over import Over, draw_over
from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.demo import parts
from evenmark.services import hand_in
from evenmark.services.marking_view import attempt_in_full
from evenmark.store.database import Database
from evenmark.store.people import Person
from tests.conftest import School
from tests.services.test_from_key_to_result import hand, put

LINK = parts.document("crank-link")
KEPT = json.dumps(to_json(LINK)).encode()
TEXT = (parts.KIT / "crank-link.txt").read_bytes()
WRONG = TEXT.replace(b"left_bore = 14", b"left_bore = 28")
DXF = write_dxf(parts.crank_link().sheet, Manner(polylines=True))


@pytest.mark.parametrize("key", [KEPT, TEXT, DXF], ids=["kept", "text", "dxf"])
def test_steps_are_a_key_and_an_attempt(db: Database, school: School, key: bytes) -> None:
    issue = put(db, school, key)
    attempts = [hand(db, school.ben, issue, data, name) for data, name in ((TEXT, "a.txt"), (WRONG, "b.txt"))]
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        right, wrong = (attempt_in_full(session, ada, n) for n in attempts)
    assert right["marks"]["earned"] == right["marks"]["possible"]
    assert wrong["marks"]["earned"] < wrong["marks"]["possible"]
    assert [c["code"] for c in wrong["marks"]["causes"]] == ["radius-for-diameter"]


def test_a_broken_step_is_told_before_it_is_handed_in(db: Database, school: School) -> None:
    issue = put(db, school, TEXT)
    with db.transaction() as session:
        who = session.get_one(Person, school.ben)
        intake, _ = hand_in.lay_in(
            session, who, issue, "c.txt", TEXT + b"circle centre of circle 99; radius 4\n"
        )
        said = [o["says"] for o in intake.reading["oddities"]]
    assert said == ["Step 18: There is no step 99 before this one. Name an earlier one. (At character 25.)"]


def test_marks_are_drawn_over_what_steps_drew() -> None:
    over = Over(layers={"EVENMARK-FINDINGS": 1}, lines=[((0.0, 0.0), (9.0, 9.0), "EVENMARK-FINDINGS")])
    drawn = draw_over(TEXT, over)
    again = read_file(drawn)
    assert len(again.dimensions) == 5
    assert len(again.entities) == len(parts.crank_link().drawing.entities)
    assert [o.code for o in again.oddities] == ["marks-left-out"]
