"""Properties that hold for any key: innocent redrawings are full, one slip is found where it is, placement
undoes any motion."""

from __future__ import annotations

import io
import math
import random
from pathlib import Path
from typing import Any

import ezdxf
import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from evenmark.core.drawing import moving
from evenmark.core.drawing.model import Circle, Drawing, Entity, Line
from evenmark.core.formats import UnreadableDrawing, read_file
from evenmark.core.geometry import rows
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.linework import simplify
from evenmark.core.marking import RuleSet, check, prepare
from evenmark.core.marking.model import POLICIES
from evenmark.core.marking.place import candidates
from evenmark.core.marking.shapes import moved_tables, tables
from tests.builders import arc, chain, circle, drawing, line
from tests.extent import examples

SLOW = settings(
    max_examples=examples(60), deadline=None, derandomize=True, suppress_health_check=[HealthCheck.too_slow]
)
quarter = st.integers(-400, 400).map(lambda n: n / 4)


@st.composite
def plates(draw: st.DrawFn) -> list[Entity]:
    """A plate by construction: a stepped outline, rounded or not, with holes well inside and apart from each
    other."""
    w, h = draw(st.integers(40, 200)), draw(st.integers(30, 150))
    x, y = draw(quarter), draw(quarter)
    step = draw(st.integers(5, min(w, h) // 3))
    points = [
        (x, y),
        (x + w, y),
        (x + w, y + h - step),
        (x + w - step, y + h - step),
        (x + w - step, y + h),
        (x, y + h),
    ]
    out: list[Entity] = list(chain(*points))
    cells = draw(
        st.lists(st.sampled_from([(i, j) for i in range(3) for j in range(3)]), unique=True, max_size=5)
    )
    for n, (i, j) in enumerate(cells):
        at = (x + w * (0.15 + 0.2 * i), y + h * (0.15 + 0.2 * j))
        out.append(circle(at, min(w, h) * (0.03 + 0.011 * n)))
    return out


def redrawn(entities: list[Entity], rng: random.Random) -> Drawing:
    """The same drawing in another way: pieces, reversed, shuffled, circles as arcs."""
    out: list[Entity] = []
    for e in entities:
        if isinstance(e, Line) and rng.random() < 0.5:
            at = rng.uniform(0.2, 0.8)
            p = (e.start[0] + (e.end[0] - e.start[0]) * at, e.start[1] + (e.end[1] - e.start[1]) * at)
            out += [line(p, e.start), line(p, e.end)]
        elif isinstance(e, Circle) and rng.random() < 0.5:
            cuts = sorted(rng.uniform(0, 360) for _ in range(rng.randint(2, 6)))
            out += [arc(e.center, e.radius, a, b) for a, b in zip(cuts, cuts[1:] + cuts[:1], strict=True)]
        else:
            out.append(e._replace(start=e.end, end=e.start) if isinstance(e, Line) else e)
    rng.shuffle(out)
    return drawing(out)


@SLOW
@given(plates(), st.integers(0, 2**32), st.sampled_from(POLICIES))
def test_an_innocent_redrawing_always_scores_full(entities: list[Entity], seed: int, policy: Any) -> None:
    sheet = check(
        prepare(drawing(entities), RuleSet(placement=policy)), redrawn(entities, random.Random(seed))
    )
    assert [f for f in sheet.findings if f.verdict != "met"] == []
    assert (sheet.earned, sheet.causes) == (sheet.possible, ())


@SLOW
@given(plates(), st.integers(0, 2**32), st.sampled_from([0.02, 0.7, 2.0]))
def test_a_hole_of_another_size_is_found_there_and_only_there(
    entities: list[Entity], seed: int, by: float
) -> None:
    rng = random.Random(seed)
    holes = [n for n, e in enumerate(entities) if isinstance(e, Circle)]
    if not holes:
        return
    n = rng.choice(holes)
    wrong = list(entities)
    wrong[n] = wrong[n]._replace(radius=wrong[n].radius + by)  # type: ignore[union-attr]
    key = prepare(drawing(entities))
    sheet = check(key, redrawn(wrong, rng))
    meant = next(c.id for c in key.linework.circles if math.dist(c.center, entities[n].center) < 1e-9)  # type: ignore[union-attr]
    charged = [(f.kind, f.features) for f in sheet.findings if f.verdict in ("near", "missed", "absent")]
    assert charged == [("radius", (meant,))]


@SLOW
@given(plates(), st.integers(0, 5), st.sampled_from([-3.25, 0.3, 4.5]), st.sampled_from(POLICIES[:2]))
def test_one_early_length_is_charged_once(entities: list[Entity], which: int, by: float, policy: Any) -> None:
    """One side of the outline is longer; all that comes after it is carried along, up to a side that takes
    the difference up."""
    outline: list[Any] = [e for e in entities if isinstance(e, Line)]
    corners = [e.start for e in outline]
    a, b = outline[which].start, outline[which].end
    length = math.dist(a, b)
    dx, dy = (b[0] - a[0]) / length * by, (b[1] - a[1]) / length * by
    moved_on = [p if n <= which else (p[0] + dx, p[1] + dy) for n, p in enumerate(corners)]
    attempt = drawing(chain(*moved_on), [e for e in entities if isinstance(e, Circle)])
    sheet = check(prepare(drawing(entities), RuleSet(placement=policy)), attempt)
    charged = [f.kind for f in sheet.findings if f.verdict in ("near", "missed", "absent")]
    assert charged.count("length") == 1 or "whole" in charged or which == 5, charged
    assert len(charged) <= 3, charged


@SLOW
@given(plates(), quarter, quarter, st.floats(0, 359.99), st.integers(0, 2**32))
def test_placement_undoes_any_motion_with_a_third_missing(
    entities: list[Entity], x: float, y: float, turn: float, seed: int
) -> None:
    """To 1e-9 of the drawing's size, as the design asks, among the motions that are examined."""
    rng = random.Random(seed)
    kept = [e for e in entities if rng.random() > 1 / 3]
    if sum(isinstance(e, Line) for e in kept) < 3:
        return
    motion = Similarity(turn_deg=turn, shift=(x, y))
    moved_ones = [moving.moved_entity(e, motion) for e in kept]
    key, made = (simplify(drawing(d), length_tolerance=0.001) for d in (entities, moved_ones))
    found = candidates(tables(key), tables(made), "slide-and-turn", 0.001)
    probes = np.array([e.start for e in entities if isinstance(e, Line)])
    off = min(
        float(np.abs(rows.moved_rows(rows.moved_rows(probes, motion), m) - probes).max()) for m in found
    )
    # arithmetic is relative to how far from the origin the drawing was moved
    assert off <= 1e-9 * (key.extent + abs(x) + abs(y) + 1.0)


@SLOW
@given(plates(), st.floats(0.3, 3), st.floats(0, 360), st.booleans())
def test_tables_move_as_linework_does(
    entities: list[Entity], scale: float, turn: float, mirror: bool
) -> None:
    from evenmark.core.marking.move import moved_linework

    work = simplify(drawing(entities), length_tolerance=0.001)
    motion = Similarity(scale=scale, mirror=mirror, turn_deg=turn, shift=(3, -4))
    a, b = moved_tables(tables(work), motion), tables(moved_linework(work, motion))
    for kind in a:
        for p, q in zip(a[kind].points, b[kind].points, strict=True):
            assert np.abs(p - q).max(initial=0.0) < 1e-9


SAMPLES = sorted(Path(ezdxf.__file__).parent.rglob("*.dxf"))


def test_marking_a_key_against_itself_is_full_for_every_file_that_can_be_read() -> None:
    """Every drawing that comes with the DXF library, and what its own factory makes of each version."""
    files = [p.read_bytes() for p in SAMPLES]
    for version in ("R12", "R2000", "R2004", "R2007", "R2010", "R2013", "R2018"):
        out = io.StringIO()
        doc = ezdxf.new(version, setup=True)
        doc.modelspace().add_circle((1, 2), 3)
        doc.modelspace().add_text("A").set_placement((4, 5))
        doc.write(out)
        files.append(out.getvalue().encode(doc.output_encoding))
    for data in files:
        try:
            found = read_file(data)
        except UnreadableDrawing as why:
            assert why.says
            continue
        for policy in POLICIES:
            sheet = check(prepare(found, RuleSet(placement=policy)), found)
            assert [f for f in sheet.findings if f.verdict not in ("met",) and f.kind != "clean"] == []


@pytest.mark.parametrize("seed", range(5))
def test_the_order_of_attempts_changes_nothing(seed: int) -> None:
    from evenmark.core.marking.marks_json import to_json

    rng = random.Random(seed)
    key = prepare(drawing(chain((0, 0), (80, 0), (80, 50), (0, 50)), circle((20, 20), 5)))
    attempts = [
        drawing(chain((0, 0), (80 + k, 0), (80, 50), (0, 50)), circle((20 + k, 20), 5)) for k in range(4)
    ]
    straight = [to_json(check(key, a), "a") for a in attempts]
    order = list(range(4))
    rng.shuffle(order)
    shuffled = {k: to_json(check(key, attempts[k]), "a") for k in order}
    assert [shuffled[k] for k in range(4)] == straight
