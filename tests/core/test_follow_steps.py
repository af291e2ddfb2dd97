"""Follow-through is one rule: repair the slip, measure again, and what is then met followed it. It tells by
itself which relations follow (`follow_relations`). What of a feature's own size and place followed cannot be
measured that way: repaired alone, it would no longer meet what was drawn after it. Each step that finds such
things stays because a drawing here is charged otherwise without it."""

from __future__ import annotations

from dataclasses import replace

import pytest

from evenmark.core.construct.building import build
from evenmark.core.construct.document import from_text
from evenmark.core.drawing.model import Drawing
from evenmark.core.marking import RuleSet, check, follow, prepare
from evenmark.core.marking.model import MarkSheet

PLATE = "rectangle 0, 0; 120 by 60\n"
FRAME = "chain 0, 0; 90, 0; 90, 60; {top}, 60; {top}, 40; 30, 40; 30, 60; 0, 60; close\n"
CENTRE = "layer centre: colour 7, chain\n"
RING = (
    "circle {}; diameter 8\nline {}; layer centre\nrepeat circle 2; 6 round 60, 30\n"
    "repeat edge 3; 6 round 60, 30\n"
)
HIDDEN = "layer hidden: colour 7, dashed\n"
VIEWS = (
    HIDDEN + "rectangle 0, 0; 60 by 40\ncircle 30, 20; diameter {0}\nrectangle 0, 60; 60 by 30\n"
    "line {1}, 60; {1}, 90; layer hidden\nline {2}, 60; {2}, 90; layer hidden\nrectangle 80, 0; 30 by 40\n"
    "line 80, {3}; 110, {3}; layer hidden\nline 80, {4}; 110, {4}; layer hidden\n"
)
HALVES = "line 60, {}; 120, {}; layer hidden\n"
TRUSS = (
    "line 0, 0; 80, 0\nline 0, 0; 20, 30\nline {0}; 80, 0\nline 20, 30; {0}\n"
    "line 40, 0; 20, 30\nline 40, 0; {0}\n"
)
FAN = (
    "arc centre 0, 0; from 20, 0; turn {0}\narc centre 0, 0; from 30, 0; turn {0}\n"
    "arc centre 0, 0; from 40, 0; turn {0}\nline 20, 0; 40, 0\n"
)
STROKES = "line {0}, 80; {1}, 85\nline {1}, 85; {2}, 80\nline {3}, 80; {3}, 85\nline {3}, 85; {4}, 82\n"
CASES = {
    # one node of a truss elsewhere, with its members
    "follow_nodes": (TRUSS.format("60, 30"), TRUSS.format("62, 33")),
    # arcs about one centre that sweep too little
    "follow_sweeps": (FAN.format(90), FAN.format(80)),
    # a hole of another size, projected into two other views
    "follow_views": (VIEWS.format(16, 22, 38, 12, 28), VIEWS.format(20, 20, 40, 10, 30)),
    # a bore in a section: its two edges lie as far from their centre line
    "follow_halves": (
        HIDDEN
        + CENTRE
        + PLATE
        + HALVES.format(22, 22)
        + HALVES.format(38, 38)
        + "line 50, 30; 130, 30; layer centre\n",
        HIDDEN
        + CENTRE
        + PLATE
        + HALVES.format(20, 20)
        + HALVES.format(40, 40)
        + "line 50, 30; 130, 30; layer centre\n",
    ),
    # coordinates as a display shows them
    "follow_rounded": (
        "chain 0, 0; 50.3, 0; 61.28, 30.74; 12.46, 44.31; close\ncircle 31.27, 20.64; diameter 10\n",
        "chain 0, 0; 50.3, 0; 61.3, 30.7; 12.5, 44.3; close\ncircle 31.3, 20.6; diameter 10\n",
    ),
    # every end a little long
    "follow_loose_ends": (
        "line 0, 0; 80, 0\nline 80, 0; 80, 50\nline 80, 50; 0, 50\nline 0, 50; 0, 0\n",
        "line 0, 0; 80.3, 0\nline 80, 0; 80, 50.3\nline 80, 50; -0.3, 50\nline 0, 50; 0, -0.3\n",
    ),
    # a pocket that was turned as one: its corners, angles and lengths are one slip
    "follow_rigid": (
        PLATE + "rectangle 40, 20; 30 by 16\n",
        PLATE + "rectangle 40, 20; 30 by 16; turned 7\n",
    ),
    # four holes of one wrong size
    "follow_repeats": (
        PLATE + "circle 15, 15; diameter 10\nrepeat circle 2; 4 across 25\n",
        PLATE + "circle 15, 15; diameter 14\nrepeat circle 2; 4 across 25\n",
    ),
    # a corner of another radius moves its centre and shortens its edges
    "follow_fillets": (
        "rectangle 0, 0; 80 by 50\nfillet edge 1.1; edge 1.2; radius 8\n",
        "rectangle 0, 0; 80 by 50\nfillet edge 1.1; edge 1.2; radius 13\n",
    ),
    # a corner that was left sharp makes its edges longer
    "follow_sharp": (
        "rectangle 0, 0; 80 by 50\nfillet edge 1.1; edge 1.2; radius 8\n",
        "rectangle 0, 0; 80 by 50\n",
    ),
    # a chamfer of another size
    "follow_parallels": (
        "chain 12, 0; 80, 0; 80, 50; 0, 50; 0, 12; close\n",
        "chain 15, 0; 80, 0; 80, 50; 0, 50; 0, 15; close\n",
    ),
    # a ring of holes that begins elsewhere: its centre lines turned with it
    "follow_marks": (
        CENTRE + PLATE + RING.format("80, 30", "75, 30; 85, 30"),
        CENTRE + PLATE + RING.format("60, 50", "60, 45; 60, 55"),
    ),
    # a hole that was left out with its centre lines
    "follow_gone": (
        CENTRE + PLATE + "circle 30, 30; diameter 12\ncentre mark circle 2; past 3\n",
        CENTRE + PLATE,
    ),
    # lettering that an export left behind as lines
    "follow_strokes": (
        PLATE
        + 'text "AB"; 10, 80; height 5; anchor left bottom\n'
        + 'text "CD"; 60, 80; height 5; anchor left bottom\n',
        PLATE + STROKES.format(10, 12, 14, 16, 18) + STROKES.format(60, 62, 64, 66, 68),
    ),
    # one wrong length early in a chain carries along all that was drawn after it
    "follow_propagation": (
        FRAME.format(top=60),
        "chain 0, 0; right 97; up 60; left 30; down 20; left 30; up 20; left 30; close\n",
    ),
    # things that stand off by the same way
    "follow_together": (
        PLATE + "circle 30, 30; diameter 12\nrectangle 60, 20; 20 by 20\ncircle 100, 30; diameter 12\n",
        PLATE + "circle 34, 33; diameter 12\nrectangle 64, 23; 20 by 20\ncircle 100, 30; diameter 12\n",
    ),
    # a pulley of another size turns the belt
    "follow_touching": (
        "circle 0, 0; radius 24\ncircle 90, 0; radius 13\nline touching circle 1; circle 2; outer left\n"
        "line touching circle 1; circle 2; outer right\n",
        "circle 0, 0; radius 29\ncircle 90, 0; radius 13\nline touching circle 1; circle 2; outer left\n"
        "line touching circle 1; circle 2; outer right\n",
    ),
    # what ends on an edge that stands elsewhere is longer with it
    "follow_tees": (
        PLATE + "line 40, 0; 40, 60\nline 0, 30; 40, 30\n",
        PLATE + "line 47, 0; 47, 60\nline 0, 30; 47, 30\n",
    ),
    # an end that misses its corner makes its edge short, and opens the outline
    "_follow_joints": (
        "line 0, 0; 80, 0\nline 80, 0; 80, 50\nline 80, 50; 0, 50\nline 0, 50; 0, 0\n",
        "line 0, 0; 79.6, 0\nline 80, 0; 80, 50\nline 80, 50; 0, 50\nline 0, 50; 0, 0\n",
    ),
    # relations by the one rule
    "follow_relations": (
        PLATE
        + "circle 20, 20; diameter 10\ncircle 90, 20; diameter 10\nsize 20, 20; 90, 20; across; at 55, -14\n",
        PLATE
        + "circle 20, 20; diameter 10\ncircle 96, 20; diameter 10\nsize 20, 20; 96, 20; across; at 55, -14\n",
    ),
    # a dimension that measures rightly what was drawn wrongly
    "follow_dimensions": (
        PLATE + "circle 30, 30; diameter 20\nsize diameter circle 2; at 50, 45\n",
        PLATE + "circle 30, 30; diameter 24\nsize diameter circle 2; at 50, 45\n",
    ),
}


def drawn(text: str) -> Drawing:
    built = build(from_text(text))
    assert not built.problems, built.problems
    return built.drawing


def marked(key: str, attempt: str, listing: str) -> MarkSheet:
    """Mark an attempt; what is only offered, as dimensions, is asked, too."""
    rules = RuleSet(listing="sheet" if listing == "sheet" else "feature")
    proposed = prepare(drawn(key), rules).requirements
    asked = tuple(replace(r, on=True, weight=r.weight or 1.0) for r in proposed)
    return check(prepare(drawn(key), replace(rules, requirements=asked)), drawn(attempt))


def charged(sheet: MarkSheet) -> int:
    return sum(1 for f in sheet.findings if f.verdict in ("near", "missed", "absent"))


def test_every_step_has_its_drawing() -> None:
    assert set(CASES) == {step.__name__ for step in (*follow._STEPS, *follow._OF_GROUPS)}


@pytest.mark.parametrize("step", CASES)
def test_without_a_step_a_slip_is_charged_more_than_once(step: str, monkeypatch: pytest.MonkeyPatch) -> None:
    key, attempt = CASES[step]
    told: list[tuple[MarkSheet, MarkSheet]] = []
    for listing in ("feature", "sheet"):
        whole = marked(key, attempt, listing)
        with monkeypatch.context() as without:
            for steps in ("_STEPS", "_OF_GROUPS"):
                left = tuple(s for s in getattr(follow, steps) if s.__name__ != step)
                without.setattr(follow, steps, left)
            told.append((whole, marked(key, attempt, listing)))
    assert all(whole.earned >= less.earned for whole, less in told)
    assert any(charged(whole) < charged(less) for whole, less in told)
