"""A key cannot be drawn out of its results: what is handed in is answered with what was handed in, and no
place or size beyond that."""

from __future__ import annotations

import math
from typing import Any

import pytest

from evenmark.core.drawing.look import Style
from evenmark.core.drawing.model import Circle, Drawing, Line
from evenmark.core.formats import read_file
from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.core.linework import simplify
from evenmark.demo import parts
from evenmark.services import own_results
from evenmark.store.database import Database
from evenmark.store.people import Person
from tests.conftest import School
from tests.services.test_from_key_to_result import hand, put

PART = parts.crank_link()
SHIFT = (137.319, 59.773)
"""So that no coordinate of the key is a number that occurs by chance."""
KEY = write_dxf(PART.drawing, Manner(polylines=True, shift=SHIFT))


def drawn(*entities: Any) -> bytes:
    return write_dxf(Drawing(entities=entities, unit=PART.drawing.unit))


def line(a: tuple[float, float], b: tuple[float, float], n: int = 0) -> Line:
    return Line(a, b, "outline", Style(), f"l{n}")


def traced() -> bytes:
    """The sheet's picture traced by eye: everything is there, nothing is where it should be."""
    off = [e._replace(**_moved(e, n)) for n, e in enumerate(PART.drawing.entities)]
    return write_dxf(Drawing(entities=tuple(off), layers=PART.drawing.layers, unit=PART.drawing.unit))


def _moved(e: Any, n: int) -> dict[str, Any]:
    dx, dy = 0.0613 * math.sin(n), 0.0727 * math.cos(2 * n)
    if isinstance(e, Line):
        return {"start": (e.start[0] + dx, e.start[1] + dy), "end": (e.end[0] - dy, e.end[1] + dx)}
    if hasattr(e, "center"):
        return {"center": (e.center[0] + dx, e.center[1] + dy)}
    return {}


ATTEMPTS = {
    "a line": drawn(line((0, 0), (31.7, 3.3))),
    "a corner": drawn(line((0, 0), (31.7, 0), 1), line((31.7, 0), (31.7, 17.9), 2)),
    "a hole": drawn(Circle((3.3, 4.4), 5.51, "outline", Style(), "c")),
    "traced": traced(),
}


def numbers_in(value: Any) -> set[float]:
    out, waiting = set(), [value]
    while waiting:
        v = waiting.pop()
        if isinstance(v, dict):
            waiting += v.values()
        elif isinstance(v, list | tuple):
            waiting += v
        elif isinstance(v, str):
            words = "".join(c if c.isdigit() or c in ".-" else " " for c in v.replace("−", "-")).split()
            for w in words:
                try:
                    out.add(abs(float(w.strip("."))))
                except ValueError:
                    continue
        elif isinstance(v, int | float) and not isinstance(v, bool):
            out.add(abs(float(v)))
    return out


def places_of_key() -> set[float]:
    """Every coordinate on the key, of corners, centres and touching points."""
    linework = simplify(read_file(KEY), length_tolerance=0.001)
    points = [
        p
        for c in linework.curves.values()
        for p in ([c.center] if hasattr(c, "center") else []) + list(getattr(c, "ends", ()))
    ]
    return {abs(round(v, 6)) for p in points for v in p}


def sizes_of_key() -> set[float]:
    out = set()
    for c in simplify(read_file(KEY), length_tolerance=0.001).curves.values():
        out |= {abs(round(v, 6)) for v in (getattr(c, "radius", 0.0), getattr(c, "length", 0.0)) if v}
    return out


SHOWN = {"unit", "box", "features", "joints", "outlines", "texts", "annotations", "clutter"}


@pytest.mark.parametrize("detail", ["score", "checks", "numbers"])
@pytest.mark.parametrize("attempt", ATTEMPTS)
def test_no_number_of_the_key_is_in_an_answer(
    db: Database, school: School, detail: str, attempt: str
) -> None:
    issue = put(db, school, KEY, detail=detail)
    number = hand(db, school.ben, issue, ATTEMPTS[attempt])
    with db.transaction() as session:
        who = session.get_one(Person, school.ben)
        answer = own_results.my_result(session, who, number)
    answer.pop("issue")
    told = {round(v, 6) for v in numbers_in({k: v for k, v in answer.items() if k != "drawn"})}
    told_rough = {round(v, 2) for v in told}
    places = places_of_key()
    assert not places & told, sorted(places & told)[:5]
    assert not {p for p in places if round(p, 2) in told_rough and p != round(p, 0)}
    # the drawing is shown from its own corner, with nothing that says where it was laid on the key
    assert answer["drawn"]["box"][:2] == [0.0, 0.0]
    assert not {"origin", "shape", "shapes"} & {k for f in answer["drawn"]["features"] for k in f}
    assert set(answer["drawn"]) == SHOWN
    if detail != "numbers":
        assert not {s for s in sizes_of_key() if s in told and s != round(s, 0)}
        assert all(
            f["expected"] is None and f["measured"] is None and f["sketch"] == [] for f in answer["findings"]
        )
    for f in answer["findings"]:
        assert not isinstance(f["expected"], list), f
        if f["verdict"] == "absent":
            assert (f["expected"], f["measured"], f["deviation"], f["at"], f["sketch"]) == (
                None,
                None,
                None,
                None,
                [],
            )
    if attempt == "a line" and detail == "numbers":
        asked = [f["expected"] for f in answer["findings"] if isinstance(f["expected"], float)]
        assert len(asked) <= 4  # of the edge that it was taken for


def test_what_was_drawn_is_told_with_what_was_asked(db: Database, school: School) -> None:
    from evenmark.demo import slips as s

    issue = put(db, school, KEY)
    number = hand(db, school.ben, issue, write_dxf(s.circle_scaled(1, 2.0)(PART.drawing)))
    with db.transaction() as session:
        answer = own_results.my_result(session, session.get_one(Person, school.ben), number)
    wrong = next(f for f in answer["findings"] if f["kind"] == "radius" and f["verdict"] == "missed")
    assert wrong["measured"] == 2 * wrong["expected"]
    assert "diameter" in answer["causes"][0]["says"]
