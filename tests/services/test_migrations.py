"""Migrations go forward without losing data: what students could see before is what was returned to them
afterwards."""

from __future__ import annotations

import json
import math
from collections.abc import Iterator
from typing import Any

import pytest
from alembic import command
from scripts.cluster import Cluster
from sqlalchemy import create_engine, select, text
from sqlalchemy.exc import IntegrityError

from evenmark.core.drawing.look import Style
from evenmark.core.drawing.model import FreeCurve
from evenmark.core.linework import simplify
from evenmark.core.sheet.scene import scene
from evenmark.core.sheet.tracing import tracing
from evenmark.services import board_history, own_results, own_work, results, wiping
from evenmark.store.boards import Board, BoardSnapshot
from evenmark.store.database import Database
from evenmark.store.migrate import configuration, upgrade
from evenmark.store.models import Attempt
from evenmark.store.people import Enrolment, Person
from tests.builders import PLATE, arc, circle, drawing
from tests.builders import text as lettering

MARKS = {
    "unit": "mm",
    "score": {"earned": 42.0, "possible": 100.0},
    "findings": [
        {
            "id": 1,
            "kind": "radius",
            "features": ["c1"],
            "at": [0.0, 0.0],
            "expected": 5.0,
            "measured": 6.0,
            "deviation": 1.0,
            "tolerance": 0.001,
            "verdict": "missed",
            "earned": 0.0,
            "possible": 2.0,
            "causes": [],
            "follows": None,
        }
    ],
    "causes": [],
    "notes": [],
}
SHEET = {"marks": MARKS, "partners": {}, "places": {}, "scene": {"origin": [0.0, 0.0]}}
OLD = """
insert into person (id, name, sign_in, role, password_hash, created_at) values (1, 'Ada Ash', 'ada', 'instructor', 'x', now()), (2, 'Ben Elm', 'ben', 'student', 'x', now()), (3, 'Lin Gray', 'lin', 'student', 'x', now());
insert into school_class (id, name, instructor_id, join_code, created_at) values (1, 'A', 1, 'AAA-AAA', now());
insert into enrolment (class_id, student_id, joined_at) values (1, 2, now());
insert into exercise (id, instructor_id, created_at) values (1, 1, now());
insert into revision (id, exercise_id, number, title, text, key_name, key_hash, key_bytes, rules, sheet_png, created_at, changed_at)
 values (1, 1, 1, 'Link', '', 'k.dxf', 'h', '', '{"requirements": [], "placement": "slide"}', '', now(), now());
insert into issue (id, revision_id, class_id, issued_at, due_at, tries, detail) values (1, 1, 1, now(), now(), 3, 'numbers');
insert into attempt (id, issue_id, student_id, number, file_name, sha256, data, reading, handed_in_at, late, state)
 values (1, 1, 2, 1, 'a.dxf', 'h', '', '{}', now(), false, 'marked'), (2, 1, 2, 2, 'b.dxf', 'h', '', '{}', now(), false, 'waiting'),
 (3, 1, 3, 1, 'c.dxf', 'h', '', '{}', now(), false, 'marked');
"""


@pytest.fixture
def old(cluster: Cluster) -> Iterator[str]:
    """A database as release 0.2 left it, with one marked attempt and one that waits."""
    admin = create_engine(cluster.url, isolation_level="AUTOCOMMIT")
    with admin.connect() as connection:
        connection.execute(text("create database aged"))
    url = cluster.url.rsplit("/", 1)[0] + "/aged"
    command.upgrade(configuration(url), "0002")
    engine = create_engine(url)
    with engine.begin() as connection:
        connection.connection.driver_connection.execute(OLD)  # type: ignore[union-attr]
        for n, version in enumerate(("1.0", "2.0"), 1):
            connection.execute(
                text(
                    "insert into mark_sheet (id, attempt_id, engine_version, sheet, summary, earned, "
                    "possible, marked_at) "
                    "values (:id, 1, :version, cast(:sheet as jsonb), '{}', :earned, 100, now())"
                ),
                {"id": n, "version": version, "sheet": json.dumps(SHEET), "earned": 40 + n},
            )
    engine.dispose()
    yield url
    with admin.connect() as connection:
        connection.execute(text("drop database aged with (force)"))
    admin.dispose()


def test_marks_that_could_be_seen_are_returned_marks(old: str) -> None:
    upgrade(old)
    upgrade(old)  # once more does nothing
    db = Database(old)
    with db.transaction() as session:
        ben = session.get_one(Person, 2)
        mine = own_results.my_result(session, ben, 1)
        assert (mine["state"], mine["earned"], [f["measured"] for f in mine["findings"]]) == (
            "marked",
            42.0,
            [12.0],
        )
        assert own_results.my_result(session, ben, 2)["state"] == "waiting"
        assert session.get_one(Attempt, 1).issue.returns == "at-once"
        assert [w.best for w in own_work.my_work(session, ben)] == [42.0]
    db.close()


def test_who_was_taken_out_before_is_brought_back_as_having_left(old: str) -> None:
    upgrade(old)
    database = Database(old)
    with database.transaction() as session:
        rows = {e.student_id: e.left_at is not None for e in session.scalars(select(Enrolment))}
        assert rows == {2: False, 3: True}
        assert [w.left for w in own_work.my_work(session, session.get_one(Person, 3))] == [True]
    database.close()


def test_the_last_release_goes_forward_with_everything_in_it(old: str) -> None:
    """Release 0.4 stood at 0005: classes keep the name that title blocks were asked for, and nothing is closed, put away or allowed."""
    command.upgrade(configuration(old), "0005")
    engine = create_engine(old)
    counts = "select (select count(*) from person), (select count(*) from attempt), (select count(*) from mark_sheet)"
    with engine.begin() as connection:
        before = connection.execute(text(counts)).one()
        connection.execute(text("update revision set issued_at = now()"))
    upgrade(old)
    with engine.begin() as connection:
        assert connection.execute(text(counts)).one() == before
        assert connection.execute(text("select group_name, closed_at from issue")).all() == [("A", None)]
        connection.execute(text("update revision set title = 'Link, right'"))
    with pytest.raises(IntegrityError), engine.begin() as connection:
        connection.execute(text("update revision set rules = '{}'"))
    engine.dispose()
    database = Database(old)
    with database.transaction() as session:
        ada, ben = session.get_one(Person, 1), session.get_one(Person, 2)
        assert results.class_results(session, ada, 1).issue.archived is False
        [work] = own_work.my_work(session, ben)
        assert (work.title, work.shut, work.tries_left, work.earlier) == (
            "Link, right",
            None,
            1,
            [],
        )
        wiping.wipe_student(session, ada, 2)
    with database.transaction() as session:
        assert session.get(Person, 2) is None
    database.close()


def as_scenes_were(drawn: dict[str, Any], places: dict[str, list[float]]) -> dict[str, Any]:
    """What release 0.7 kept of a mark sheet: paths about the upper left corner of what was drawn."""
    left, _, _, top = drawn["box"]
    shown = scene(drawn)
    at = {i: [x - left, top - y] for i, (x, y) in places.items()}
    return {"marks": MARKS, "partners": {}, "places": at, "scene": {**shown, "origin": [left, top]}}


def differ(a: Any, b: Any, at: str = "") -> list[str]:
    """Where kept values are not the same, numbers to six decimals."""
    if isinstance(a, dict) and isinstance(b, dict):
        return [d for k in a.keys() | b.keys() for d in differ(a.get(k), b.get(k), f"{at}.{k}")]
    if isinstance(a, list) and isinstance(b, list) and len(a) == len(b):
        return [d for n, (x, y) in enumerate(zip(a, b, strict=True)) for d in differ(x, y, f"{at}.{n}")]
    if isinstance(a, float) and isinstance(b, float):
        off = math.remainder(a - b, math.tau) if at.endswith("arc.3") else a - b  # where an arc starts
        return [] if abs(off) < 5e-7 else [f"{at}: {a} for {b}"]
    return [] if a == b else [f"{at}: {a} for {b}"]


def test_sheets_that_kept_paths_keep_numbers(old: str) -> None:
    curve = FreeCurve(tuple((300.0 + t, 40.0 + 0.01 * t * t) for t in range(9)), "spline", "0", Style(), "")
    arcs = [
        arc((200.0 + 30.0 * n, 1e3), 10.0, n * 37.0, n * 37.0 + turn)
        for n, turn in enumerate((20, 180, 181, 340))
    ]
    drawings = {
        n: drawing(
            *PLATE,
            *arcs,
            circle((-7.25, 1 / 3), 2.5),
            lettering("A\nB", (3, 60)),
            curve,
            circle((x, 0), 1e-3),
        )
        for n, x in ((1, 0.0), (2, 4e5))
    }
    kept = {
        n: {
            **tracing(simplify(d, length_tolerance=0.001), {}, (*arcs, circle((0.0, 0.0), 3.0))),
            "unit": "mm",
            "clutter": [],
        }
        for n, d in drawings.items()
    }
    command.upgrade(configuration(old), "0006")
    engine = create_engine(old)
    put = text("update mark_sheet set sheet = cast(:sheet as jsonb) where id = :id")
    with engine.begin() as connection:
        for n, drawn in kept.items():
            sheet = as_scenes_were(drawn, {"1": [5.0, -4.5]})
            connection.execute(put, {"id": n, "sheet": json.dumps(sheet)})
    upgrade(old)
    with engine.begin() as connection:
        rows = connection.execute(text("select id, sheet from mark_sheet order by id")).all()
    engine.dispose()
    for n, sheet in rows:
        assert "scene" not in sheet
        assert not differ(sheet["places"], {"1": [5.0, -4.5]})
        assert not differ(sheet["drawn"], kept[n])


HISTORY = """
update attempt set data = convert_to('{"format": "even-mark/steps", "version": 1, "next": 3, "lines": [
  {"kind": "unit", "says": "mm"}, {"kind": "step", "id": 1, "says": "a"}, {"kind": "step", "id": 2, "says": "b"}]}', 'UTF8'),
 made = '[{"at": "2026-01-01T10:00:00+00:00", "splices": [{"at": 1, "gone": [], "come": [{"kind": "step", "id": 1, "says": "a"}]}]},
  {"at": "2026-01-01T10:01:00+00:00", "splices": [{"at": 2, "gone": [], "come": [{"kind": "step", "id": 2, "says": "b"}]}]}]'
 where id in (1, 3);
insert into board (id, person_id, issue_id, title, document, version, created_at, changed_at)
 select 7, 2, 1, 'Mine', jsonb_set(convert_from(data, 'UTF8')::jsonb, '{lines, 3}', '{"kind": "step", "id": 3, "says": "c"}', true), 3, now(), now()
 from attempt where id = 1;
insert into board_act (board_id, version, at, splices)
 select 7, n, '2026-01-01T10:00:00Z', act -> 'splices' from attempt, jsonb_array_elements(made) with ordinality m(act, n) where attempt.id = 1;
insert into board_act values (7, 3, now(), '[{"at": 3, "gone": [], "come": [{"kind": "step", "id": 3, "says": "c"}]}]');
select setval('board_id_seq', 20);
"""


def test_how_attempts_were_made_goes_into_rows(old: str) -> None:
    """Of an attempt whose board is there it is the board's; of one whose board is gone another is made of it."""
    command.upgrade(configuration(old), "0008")
    engine = create_engine(old)
    with engine.begin() as connection:
        connection.connection.driver_connection.execute(HISTORY)  # type: ignore[union-attr]
    upgrade(old)
    database = Database(old)
    with database.transaction() as session:
        first, second, third = (session.get_one(Attempt, n) for n in (1, 2, 3))
        assert (first.board_id, first.made_version) == (7, 2)
        assert (second.board_id, second.made_version) == (None, None)
        assert (third.board_id, third.made_version) == (21, 2)
        for board_id, version in ((7, 2), (21, 2)):
            [begins] = board_history.snapshots_of(session, board_id, version)
            assert begins == 0
            acts = list(board_history.acts_between(session, board_id, 0, version))
            assert [a["splices"][0]["come"][0]["says"] for a in acts] == ["a", "b"]
            assert acts[0]["at"].startswith("2026-01-01T10:00:00")
            start = session.get_one(BoardSnapshot, (board_id, 0)).document
            assert start["lines"] == [{"kind": "unit", "says": "mm"}]
        boards_ = {b.id: b for b in session.scalars(select(Board))}
        assert boards_[7].taken_away_at is None
        assert boards_[7].bytes > 200
        assert boards_[21].taken_away_at is not None
    database.close()
    engine.dispose()
