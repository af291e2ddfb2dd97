"""An exercise says whether its sheet layout counts: then that is examined, and nothing in the model."""

from __future__ import annotations

import copy
import io
from datetime import timedelta
from typing import Any

import ezdxf
import pytest

from evenmark.core.drawing.model import layout_of
from evenmark.core.formats import read_file
from evenmark.core.marking import RuleSet, check, prepare
from evenmark.core.marking.model import RuleError
from evenmark.core.marking.rules_json import from_json, to_json
from evenmark.services import exercise_edit, exercises, hand_in, marking_view
from evenmark.services.errors import NotUsable
from evenmark.store.database import Database
from evenmark.store.people import Person, now
from tests.conftest import School
from tests.services.test_from_key_to_result import hand


def framed(
    *, strip: float = 10.0, name: str = "WREN HALLORAN", model: float | None = None, layout: str = "Layout1"
) -> bytes:
    """Border and title block on a sheet layout (common practice, no published source: 260 x 196 with a strip
    of 10)."""
    doc = ezdxf.new("R2010")
    doc.header["$INSUNITS"] = 4
    doc.layers.add("frame", color=7, lineweight=100)
    doc.layers.add("lettering", color=7)
    if layout != "Layout1":
        doc.layouts.rename("Layout1", layout)
    sheet = doc.layout(layout)
    look = {"layer": "frame"}
    sheet.add_lwpolyline([(0, 0), (260, 0), (260, 196), (0, 196)], close=True, dxfattribs=look)
    sheet.add_line((0, strip), (260, strip), dxfattribs=look)
    for x in (80, 160):
        sheet.add_line((x, 0), (x, strip), dxfattribs=look)
    sheet.add_text(name, height=6, dxfattribs={"layer": "lettering"}).set_placement((2, 2))
    if model is not None:
        doc.modelspace().add_circle((0, 0), model)
    out = io.StringIO()
    doc.write(out)
    return out.getvalue().encode()


RULES = RuleSet(examines="sheet")


def test_the_sheet_counts_and_the_model_does_not() -> None:
    key = prepare(read_file(framed(model=5.0)), RULES)
    assert {f.kind for f in check(key, read_file(framed())).findings if f.verdict != "met"} == set()
    assert check(key, read_file(framed(model=77.0))).earned == key.possible
    wrong = check(key, read_file(framed(strip=12.0)))
    assert {f.kind for f in wrong.findings if f.verdict in ("missed", "near")}
    assert wrong.earned < key.possible
    assert check(key, read_file(framed(name="SOMEBODY"))).earned < key.possible


def test_a_sheet_under_another_name_is_the_one_that_is_drawn_on() -> None:
    key = prepare(read_file(framed()), RULES)
    assert key.sheet == "Layout1"
    assert check(key, read_file(framed(layout="A4 sheet"))).earned == key.possible


def test_nothing_on_a_sheet_is_nothing_drawn() -> None:
    doc = ezdxf.new("R2010")
    doc.modelspace().add_circle((0, 0), 5)
    out = io.StringIO()
    doc.write(out)
    sheet = check(prepare(read_file(framed()), RULES), read_file(out.getvalue().encode()))
    assert {f.verdict for f in sheet.findings if f.kind in ("length", "wording")} == {"absent"}
    assert sheet.earned == 0


def test_the_sheet_of_a_sheet_is_itself() -> None:
    once = layout_of(read_file(framed(model=5.0)))
    assert layout_of(once) == once
    assert len(once.entities) > 4


def test_a_rule_set_says_which() -> None:
    assert from_json(to_json(RULES)).examines == "sheet"
    assert "examines" not in to_json(RuleSet())
    with pytest.raises(RuleError, match="examines"):
        from_json({"examines": "everything"})


def test_a_key_with_nothing_but_a_sheet_makes_an_exercise_about_the_sheet(
    db: Database, school: School
) -> None:
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        revision = exercises.make_exercise(
            session, ada, title="Title block", text="", key_name="k.dxf", key=framed()
        )
        assert revision.rules["examines"] == "sheet"
        rules: dict[str, Any] = copy.deepcopy(revision.rules)
        for r in rules["requirements"]:
            if r["kind"] == "wording":
                r |= {"by": "field", "pattern": "name", "any_case": True}
        exercise_edit.change_revision(session, ada, revision.id, {"rules": rules})
        issue = exercises.issue_exercise(
            session,
            ada,
            revision_id=revision.id,
            class_id=school.adas,
            due_at=now() + timedelta(days=1),
            tries=3,
            detail="numbers",
        ).id
    with db.transaction() as session:
        ben = session.get_one(Person, school.ben)
        plain = ezdxf.new("R2010")
        plain.modelspace().add_circle((0, 0), 5)
        out = io.StringIO()
        plain.write(out)
        with pytest.raises(NotUsable, match="is marked there"):
            hand_in.lay_in(session, ben, issue, "a.dxf", out.getvalue().encode())
    mine, foreign = (
        hand(db, school.ben, issue, framed(name="BEN ELM", model=3.0)),
        hand(db, school.cy, issue, framed()),
    )
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        open_ones = [
            f
            for f in marking_view.attempt_in_full(session, ada, mine)["marks"]["findings"]
            if f["verdict"] != "met"
        ]
        assert open_ones == []
        page = marking_view.attempt_in_full(session, ada, foreign)
        assert [f["kind"] for f in page["marks"]["findings"] if f["verdict"] == "missed"] == ["wording"]
        assert page["drawn"]["features"]


def test_turning_to_the_sheet_proposes_what_counts_anew(
    db: Database, school: School, key_bytes: bytes
) -> None:
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        both = exercises.make_exercise(
            session, ada, title="Both", text="", key_name="k.dxf", key=framed(model=5.0)
        )
        assert "examines" not in both.rules
        assert {r["kind"] for r in both.rules["requirements"]} >= {"radius"}
        exercise_edit.change_revision(session, ada, both.id, {"rules": {**both.rules, "examines": "sheet"}})
        assert {r["kind"] for r in both.rules["requirements"]} >= {"length", "wording"}
        exercise_edit.change_revision(session, ada, both.id, {"rules": {**both.rules, "examines": "model"}})
        assert {r["kind"] for r in both.rules["requirements"]} >= {"radius"}
        flat = exercises.make_exercise(session, ada, title="Flat", text="", key_name="k.dxf", key=key_bytes)
        with pytest.raises(NotUsable, match="nothing on a sheet layout"):
            exercise_edit.change_revision(
                session, ada, flat.id, {"rules": {**flat.rules, "examines": "sheet"}}
            )
