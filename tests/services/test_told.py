"""Students are told everything that is marked, and nothing of the key's geometry."""

from __future__ import annotations

import re

from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.core.marking.kinds import TITLES
from evenmark.demo import parts
from evenmark.services import exercise_edit, exercises, keys, own_work
from evenmark.store.database import Database
from evenmark.store.models import Issue
from evenmark.store.people import Person, now
from tests.conftest import School
from tests.services.test_from_key_to_result import put


def _page(db: Database, school: School, issue: int) -> own_work.WorkView:
    with db.transaction() as session:
        return own_work.work_of(session, session.get_one(Person, school.ben), issue)


def test_layers_are_told_with_the_look_that_is_asked(db: Database, school: School, key_bytes: bytes) -> None:
    issue = put(db, school, key_bytes)
    page = _page(db, school, issue)
    layers = {layer.name: layer for layer in page.layers}
    assert {"outline", "centre"} <= set(layers)
    assert layers["centre"].role == "centre"
    assert re.fullmatch(r"[a-z -]+ \(DXF \d+\)", layers["centre"].colour)
    assert re.fullmatch("#[0-9a-f]{6}", layers["centre"].swatch)
    assert layers["centre"].line_type == "chain"
    with db.transaction() as session:
        shown = keys.key_view(session.get_one(Issue, issue).revision)
        asked = {
            r["layer"] or r["expected"]
            for r in shown.rules["requirements"]
            if r["on"] and r["kind"] in ("layer", "layer-style")
        }
    assert set(layers) == asked


def test_what_is_switched_off_is_not_asked_of_anybody(db: Database, school: School, key_bytes: bytes) -> None:
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        made = exercises.make_exercise(session, ada, title="Link", text="", key_name="k.dxf", key=key_bytes)
        off = ("layer-style", "layer")
        rules = {
            **made.rules,
            "placement": "slide",
            "requirements": [{**r, "on": r["kind"] not in off} for r in made.rules["requirements"]],
        }
        made = exercise_edit.change_revision(session, ada, made.id, {"rules": rules})
        issue = exercises.put_issue(session, made, school.adas, due_at=now(), tries=1, detail="numbers").id
    page = _page(db, school, issue)
    assert page.layers == []
    titles = {m.title for m in page.marked}
    assert TITLES["layer"] not in titles
    assert TITLES["diameter"] in titles
    assert round(sum(m.marks for m in page.marked), 6) == 100.0
    assert page.tolerances == {"length": 0.001, "position": 0.001, "angle_deg": 0.01}


def test_a_layer_whose_look_is_not_asked_has_none_told(
    db: Database, school: School, key_bytes: bytes
) -> None:
    with db.transaction() as session:
        ada = session.get_one(Person, school.ada)
        made = exercises.make_exercise(session, ada, title="Link", text="", key_name="k.dxf", key=key_bytes)
        rules = {
            **made.rules,
            "requirements": [{**r, "on": r["kind"] != "layer-style"} for r in made.rules["requirements"]],
        }
        made = exercise_edit.change_revision(session, ada, made.id, {"rules": rules})
        issue = exercises.put_issue(session, made, school.adas, due_at=now(), tries=1, detail="numbers").id
    layers = _page(db, school, issue).layers
    assert layers
    assert all(layer.colour is layer.line_type is layer.weight is None for layer in layers)


def test_nothing_of_the_geometry_is_told(db: Database, school: School) -> None:
    """No number of the page is one of the key's own: places, sizes that its sheet does not say."""
    part = parts.crank_link()
    issue = put(db, school, write_dxf(part.drawing, Manner()))
    layers = _page(db, school, issue).layers
    with db.transaction() as session:
        view = keys.key_view(session.get_one(Issue, issue).revision)
    told = {float(n) for n in re.findall(r"-?\d+\.\d+", str(layers))}
    own = {
        round(v, 6)
        for r in view.rules["requirements"]
        for v in (r["expected"] if isinstance(r["expected"], list | tuple) else [r["expected"]])
        if isinstance(v, float) and v > 1.0
    }
    assert not told & own
