"""Every sentence of the page of steps: drawn as it says, pictured, and the same from moved givens."""

from __future__ import annotations

import re

import pytest

from evenmark.core.construct import points
from evenmark.core.construct.evaluation import Evaluation, Step
from evenmark.core.construct.kinds import KINDS, WORDS
from evenmark.core.construct.references import Expression
from evenmark.core.construct.state import Feature
from evenmark.core.construct.things import ExactTransform, transformed
from evenmark.core.drawing.annotations import Dimension, Hatch
from evenmark.core.formats.svg_write import write_svg
from evenmark.core.geometry.arcs import Round
from evenmark.core.geometry.points import box_of
from evenmark.core.linework.annotations import filled_area, polygon_of
from tests.catalogue import EXAMPLES, PAGE, PICTURES, Example, wrong_in
from tests.moved_steps import Moving, NotMoved

BY_NAME = {e.name: e for e in EXAMPLES}
MOVINGS = {
    "shifted": Moving(shift=(17, -23)),
    "turned by a quarter": Moving(turn=90),
    "turned": Moving(turn=30, shift=(5, 8)),
    "mirrored": Moving(mirror=True),
}


@pytest.mark.parametrize("name", BY_NAME)
def test_an_example_is_as_its_remarks_say(name: str) -> None:
    example = BY_NAME[name]
    assert wrong_in(example, example.built()) == []
    assert example.sure or example.says, "an example says something of what it draws"


@pytest.mark.parametrize("name", BY_NAME)
def test_pictures_are_those_of_the_examples(name: str) -> None:
    """``python -m tests.catalogue`` draws them anew."""
    example = BY_NAME[name]
    assert (PICTURES / example.file).read_bytes() == write_svg(example.built().drawing)
    assert f"(steps/{example.file})" in PAGE.read_text()


def said_in(value: object) -> set[str]:
    """How everything in a slot is said."""
    own = {value.how} if isinstance(value, Expression) else set()
    return own | {h for p in value for h in said_in(p)} if isinstance(value, tuple) else own


def test_no_sentence_and_no_way_of_saying_a_point_is_left_out() -> None:
    kinds: set[str] = set()
    ways: set[str] = set()
    for example in EXAMPLES:
        for step in example.built().evaluation.steps:
            assert step.sentence is not None
            kinds.add(step.sentence.kind)
            ways |= said_in(step.sentence.meaning)
    assert kinds == {kind.name for kind in KINDS.values()}
    assert set(points._POINTS) <= ways
    assert {"length", "radius", "distance"} <= ways | {
        m for e in EXAMPLES for m in re.findall(r"(length|radius|distance) of", e.text)
    }
    first = {line.split()[0] for e in EXAMPLES for line in e.text.splitlines() if line and line[0] != "#"}
    assert set(WORDS) <= first


def moved(example: Example, moving: Moving) -> Evaluation:
    built = example.built()
    steps = [
        Step(s.id, moving.sentence(s.sentence)) for s in built.evaluation.steps if s.sentence is not None
    ]
    return Evaluation(steps, built.values, built.setting)


def numbers_of(f: Feature) -> list[float]:
    if f.says is not None:
        if isinstance(f.says, Hatch):  # its boundary may begin at another corner
            loops = [polygon_of(loop) for loop in f.says.loops]
            box = box_of([p for loop in loops for p in loop])
            return [*(box or ()), filled_area(tuple(loops)), f.says.gap, f.says.angle_deg]
        size = [f.says.measured] if isinstance(f.says, Dimension) else []
        return [*f.shape.start, *size]
    if isinstance(f.shape, Round):
        ends = () if f.shape.whole else (*f.shape.start, *f.shape.end)
        return [*f.shape.center, f.shape.radius, *ends]
    if f.endless:  # through a point, along a direction
        (ux, uy) = f.shape.unit
        return [f.shape.start[0] * uy - f.shape.start[1] * ux] if ux * 2 + uy > 0 else [0.0]
    return [*f.shape.start, *f.shape.end]


@pytest.mark.parametrize("how", MOVINGS)
@pytest.mark.parametrize("name", BY_NAME)
def test_from_moved_givens_the_same_is_drawn(name: str, how: str) -> None:
    example, moving = BY_NAME[name], MOVINGS[how]
    try:
        found = moved(example, moving)
    except NotMoved as why:
        assert how != "shifted" or "frame" in str(why)
        pytest.skip(str(why))
    assert [o.broken for o in found.outcomes] == [""] * len(found.outcomes)
    way = ExactTransform(moving.motion, lambda p: moving.motion.point((float(p[0]), float(p[1]))))
    expected = {f.ref: transformed(f, way) for f in example.built().evaluation.state.standing()}
    there = {f.ref: f for f in found.state.standing()}
    assert list(there) == list(expected)
    for ref, f in there.items():
        if f.endless:
            continue
        a, b = numbers_of(f), numbers_of(expected[ref])
        if f.says is not None and not isinstance(f.says, Dimension | Hatch):
            a, b = a[:2], b[:2]
        if isinstance(f.says, Dimension):
            a, b = a[2:], b[2:]  # figures stay above their lines, whichever way these are turned
        assert a == pytest.approx(b, abs=1e-9), ref
        assert (f.layer, f.line) == (expected[ref].layer, expected[ref].line)
