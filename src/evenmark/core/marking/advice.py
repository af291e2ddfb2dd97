"""Feedback that teaches: for a slip, what was asked, what was drawn, and how to keep it from happening again.

The advice is common practice of the drawing room; no published source.
"""

from __future__ import annotations

from collections.abc import Container, Mapping, Sequence
from typing import Any

from evenmark.core.linework.wording import number
from evenmark.core.marking.model import IN_DEGREES
from evenmark.core.marking.wording import for_reader, named

ADVICE: dict[str, str] = {
    "radius-for-diameter": (
        "Look for the diameter sign on the sheet before you type: with it, the number goes right across "
        "the circle."
    ),
    "diameter-for-radius": (
        "An R before the number means from the centre to the rim. Check which of the two you are being "
        "asked for."
    ),
    "clockwise-angle": (
        "Angles count counter-clockwise from east. Before typing one, point roughly where the line should "
        "go and see whether the number agrees."
    ),
    "angle-from-vertical": (
        "Angles count from the horizontal. If the sheet shows one from the vertical, take it from 90 first."
    ),
    "angle-from-previous": (
        "Say to yourself what the angle is measured from: the horizontal, or the line before. Then type it."
    ),
    "supplementary-angle": (
        "Two lines make two angles that add up to 180. Check on the sheet which side its arc is on."
    ),
    "axes-swapped": "Across comes first, then up. Say both aloud as you type them.",
    "sign-flipped": (
        "Left and down are negative. Sketch the step before you type it, and look where the point lands."
    ),
    "coordinate-as-step": (
        "A place counted from the origin and a step counted from the last point are typed differently. "
        "Decide which one the sheet gives."
    ),
    "step-as-coordinate": (
        "A step starts at the last point, not at the origin. If a line shoots off toward the origin, this "
        "is why."
    ),
    "baseline-as-chain": (
        "When all dimensions start at one edge, each is counted from that edge. Add nothing up."
    ),
    "chain-as-baseline": (
        "When dimensions stand one behind the other, each begins where the one before ended."
    ),
    "size-of-another": (
        "Put a finger on the dimension and follow its lines to the edge that it belongs to before you type "
        "it."
    ),
    "unit-factor": "Set the unit before the first line, and measure one known edge before you go on.",
    "by-eye": "Pointing by hand is never exact. Type the number, or catch the exact point.",
    "gap": (
        "Let the second line begin on the end of the first instead of near it. Enlarge each corner once "
        "before you hand in."
    ),
    "overshoot": "Trim what runs past its corner, then enlarge the corner and look again.",
    "caught-wrong-point": (
        "When several points are close together, enlarge first, and read which one is being caught."
    ),
    "not-quite-tangent": (
        "A tangent cannot be placed by eye. Construct it from the circle, and its touching point with it."
    ),
    "wrong-tangent-side": (
        "Two tangents fit most pairs of circles. Look at the sheet: does the line cross between the "
        "circles or stay on one side?"
    ),
    "tangent-to-another": "Name both circles that a tangent touches before you draw it.",
    "wrong-side": (
        "A parallel lies on one of two sides. Point to the side that you mean before you accept it."
    ),
    "mirrored": (
        "Compare one corner of your drawing with the sheet before you go on: what is on the left there "
        "should be on the left here."
    ),
    "turned": "Check which way up the sheet is: one long edge level on both is enough.",
    "shifted": "Begin at the point that the sheet gives, and read its coordinates back before you draw on.",
    "follows-edge": (
        "One wrong length carries everything after it along. Put that one right, and the rest will follow."
    ),
    "left-behind": (
        "When you move or stretch a piece, look at its neighbours: all of them have to come along."
    ),
    "corner-left-sharp": (
        "Go round the outline once on the sheet and count the rounded corners, then count yours."
    ),
    "wrong-fillet": "Read the radius of each corner by itself; corners that look alike may differ.",
    "pattern-start": (
        "Besides how many and how large, the sheet says where the first hole stands. Start there."
    ),
    "pattern-circle": (
        "The size of a pitch circle is most often given as a diameter. Draw the circle itself first, and "
        "the holes on it."
    ),
    "pattern-count": (
        "Count the holes on the sheet, then yours. A full turn divided by the count is the angle from one "
        "to the next."
    ),
    "views-exchanged": "Name each view before you place it: from the front, from above, from the side.",
    "edges-exchanged": (
        "For each edge ask whether you would see it from this side. Only what is hidden is dashed."
    ),
    "wrong-layer": (
        "Choose the layer before you draw. At the end show one layer after the other and look at what is "
        "on it."
    ),
    "layer-misnamed": "Type layer names exactly as the page of the exercise lists them.",
    "default-layer": (
        "Nothing belongs on the layer that is there before you make any. Make and choose your layers first."
    ),
    "wrong-line-type": "Let the layer set the line type, and set it there once.",
    "dashes-too-long": (
        "Dashes longer than the line do not show. Make the pattern so fine that several of its dashes fit "
        "on the shortest line."
    ),
    "drawn-twice": (
        "Two lines on top of each other look like one. Take one away: if a line still stands there, it was "
        "drawn twice."
    ),
    "construction-left": (
        "Rub out helper lines when they have done their work, or keep them on the construction layer if "
        "the exercise allows it."
    ),
    "left-on-construction": (
        "Switch the construction layer off before you hand in: whatever vanishes and should not belongs on "
        "another layer."
    ),
    "debris": (
        "Points and lines without length come from a doubled press. Clear them away before you hand in."
    ),
    "free-curve": "A free curve only looks round. Draw an arc with its radius.",
    "rounded-value": (
        "A number on the screen may be rounded. Type the size from the sheet, not the one that you read off."
    ),
    "text-height": "Set the height of lettering before you write, from the heights that the sheet asks for.",
    "text-case": "Lettering on drawings is in capitals unless the sheet says otherwise.",
    "text-anchor": "Choose which corner of the lettering stands on the point before you place it.",
    "typed-over": (
        "A dimension should show what it measures. If it is wrong, the drawing is wrong: correct that."
    ),
    "not-drawn": "Before you hand in, go over the sheet with a pencil and tick off each line that you have.",
    "unexplained": (
        "Measure it on your drawing, hold that against the sheet, and go back to the step where they part."
    ),
}
"""How to keep each slip from happening again: one or two plain sentences to the student."""

MOST_LINES = 4


def told(value: Any, kind: str, unit: str) -> str | None:
    """Return a value of a finding in words, with its unit; None where there is none."""
    if value is None:
        return None
    if isinstance(value, str):
        return f"“{value}”" if kind == "wording" else value
    if isinstance(value, list | tuple):
        return f"{number(float(value[0]))}, {number(float(value[1]))} {unit}"
    if kind in IN_DEGREES:
        return f"{number(float(value))}°"
    if kind in ("count", "clean"):
        return number(float(value))
    return f"{number(float(value))} {unit}{'²' if kind in ('area', 'hatch') else ''}"


def lesson(
    cause: Mapping[str, Any], findings: Sequence[Mapping[str, Any]], unit: str, centre: Container[str] = ()
) -> dict[str, Any]:
    """Return what was asked and drawn, line by line for the findings that a cause explains, and how to avoid
    it.

    ``cause`` and ``findings`` are as in a mark sheet's JSON; at most four lines are given, and how many more
    there are; ``centre`` are the edges that are centre lines.
    """
    explained = set(cause["explains"])
    lines = []
    for f in findings:
        if f["id"] not in explained:
            continue
        read = for_reader(f)
        asked, drawn = told(read["expected"], f["kind"], unit), told(read["measured"], f["kind"], unit)
        if asked is None and drawn is None:
            continue
        lines.append(
            {
                "finding": f["id"],
                "name": named(f, centre),
                "asked": asked,
                "drawn": drawn or ("nothing" if f["verdict"] == "absent" else None),
            }
        )
    return {
        "lines": lines[:MOST_LINES],
        "more": max(0, len(lines) - MOST_LINES),
        "avoid": ADVICE[cause["code"]],
    }
