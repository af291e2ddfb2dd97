"""Answers stay the named ones: while the givens move a little at a time, what is drawn moves a little, too,
except where it ceases to exist."""

from __future__ import annotations

import math
import random

import pytest

from evenmark.core.construct.building import build
from evenmark.core.construct.document import from_text
from evenmark.core.construct.state import Feature
from evenmark.core.geometry.arcs import Round

STEPS = 120
MOST = 60.0
"""How much farther than its givens an answer may move in one small step; near where it ceases to exist it
moves fastest."""

TWO = "circle 0, 0; radius a\ncircle 40 + 8*b toward 3*c from 0, 0; radius b\n"
EDGES = "line 0, 0; 90 toward c from 0, 0\nline -10, -20; 70 toward c + 60 + a\n"
CASES = {
    **{
        f"line touching two: {kind} {side}": TWO + f"line touching circle 1; circle 2; {kind} {side}"
        for kind in ("outer", "crossing")
        for side in ("left", "right")
    },
    **{
        f"line touching from: {side}": (
            f"circle 0, 0; radius a\nline touching circle 1; from 30 + b, c; {side}"
        )
        for side in ("left", "right")
    },
    **{
        f"circle touching two: {one} {other}": EDGES
        + f"circle touching edge 1; edge 2; radius 3 + b; {one}; {other}"
        for one in ("left", "right")
        for other in ("left", "right")
    },
    **{
        f"circle touching three: {one} {other} {last}": (
            "circle 0, 0; radius a\ncircle 70 + b, c/9; radius 12\ncircle 20, 60 + a; radius b\n"
            f"circle touching circle 1; circle 2; circle 3; {one}; {other}; {last}"
        )
        for one in ("outside", "inside")
        for other in ("outside", "inside")
        for last in ("outside", "inside")
    },
    "the circle in three edges": (
        "chain 0, 0; right 80 + a; 60 + b toward 90 + c; close\n"
        "circle touching edge 1.1; edge 1.2; edge 1.3; left; left; left"
    ),
    "bisector": EDGES + "bisector edge 1; edge 2; length 30",
    "crossings of an edge and a circle": (
        "circle 0, 0; radius 20 + a\nline -60, b; 90 toward c/6 from -60, b\n"
        "circle crossing of edge 2 and circle 1; radius 3"
    ),
    "crossings of two circles": (
        "circle 0, 0; radius 20 + a\ncircle 25 + b, 4; radius 22\n"
        "circle crossing of circle 1 and circle 2; radius 3"
    ),
    "fillet": EDGES + "fillet edge 1; edge 2; radius 2 + b/4",
    "fillet of an edge and an arc": (
        "line -60, 0; 0, 0\narc centre 0, 30 + a; from 0, 0; turn 80\nline 20, -40; 20 + c/9, 60\n"
        "fillet edge 1; edge 3; radius 2 + b/3"
    ),
    "arc of a radius": "arc 0, 0; 20 + b, c/4; radius 40 + a; left",
    "arc smooth": "chain 0, 0; 30 toward c/4; smooth arc to 60 + a, 20 + b",
    "parallel": "line 0, 0; 30 + a, 10 + c/9\nparallel edge 1; gap b; left",
    "trim": (
        "line 0, 0; 90 toward c/2 from 0, 0\nline 30, -60; 30 + a, 60 + b\n"
        "trim edge 1; at edge 2; keep end of edge 1"
    ),
    "mirror": EDGES + "circle 20 + a, 30; radius b\nmirror circle 3; about edge 1",
    "foot": EDGES + "line start of edge 1; foot on edge 2 from end of edge 1",
    "carried round a mitre": (
        "mitre 50 + a, 40\ncarry 20, 10 + b; round guide 1\n"
        "circle crossing of guide 1 and guide 2.2; radius 4"
    ),
}


def numbers_of(f: Feature) -> list[float]:
    if isinstance(f.shape, Round):
        ends = () if f.shape.whole else (*f.start, *f.end)
        return [*f.shape.center, f.shape.radius, *ends]
    return [*f.shape.start, *f.shape.end]


@pytest.mark.parametrize("seed", range(3))
@pytest.mark.parametrize("name", CASES)
def test_an_answer_moves_as_its_givens_do(name: str, seed: int) -> None:
    chance = random.Random(seed)
    names = ("a", "b", "c")
    document = from_text("a = 9\nb = 8\nc = 20\n" + CASES[name])
    waves = {n: (chance.uniform(0.3, 1.3), chance.uniform(0, 6)) for n in names}
    middle, reach = {"a": 9.0, "b": 8.0, "c": 20.0}, {"a": 5.0, "b": 5.0, "c": 18.0}
    before: dict[str, list[float]] | None = None
    was: dict[str, float] = {}
    drawn = 0
    for k in range(STEPS):
        t = k / STEPS * 2.0
        now = {n: middle[n] + reach[n] * math.sin(w * t + p) for n, (w, p) in waves.items()}
        built = build(document, {n: repr(v) for n, v in now.items()})
        if built.problems:
            before = None  # it does not exist here
            continue
        found = {str(f.ref): numbers_of(f) for f in built.evaluation.state.standing() if f.drawn}
        if before is not None:
            assert before.keys() == found.keys()
            moved = max(abs(now[n] - was[n]) for n in names)
            for key, numbers in found.items():
                off = max(abs(a - b) for a, b in zip(numbers, before[key], strict=True))
                assert off <= MOST * moved + 1e-9, (name, key, now)
        before, was = found, now
        drawn += 1
    assert drawn > STEPS / 8, "it should exist for some of its givens"
