"""Feedback that teaches: for a slip, what was asked, what was drawn, and how to avoid it."""

from __future__ import annotations

from collections.abc import Container, Sequence
from typing import TypedDict

from evenmark.core.geometry.points import Point
from evenmark.core.linework.wording import number
from evenmark.core.marking.kinds import KINDS
from evenmark.core.marking.marks_types import CauseJson, FindingJson
from evenmark.core.marking.slips.records import SLIPS
from evenmark.core.marking.wording import for_reader, named

MOST_LINES = 4


class LessonLine(TypedDict):
    """What was asked and what was drawn, in words."""

    finding: int
    name: str
    asked: str | None
    drawn: str | None


class LessonJson(TypedDict):
    """What there is to learn from a slip."""

    lines: list[LessonLine]
    more: int
    avoid: str


def describe_value(value: float | str | list[float] | Point | None, kind: str, unit: str) -> str | None:
    """Return a value of a finding in words, with its unit; None where there is none."""
    if value is None:
        return None
    if isinstance(value, str):
        return f"“{value}”" if kind == "wording" else value
    if isinstance(value, list | tuple):
        return f"{number(float(value[0]))}, {number(float(value[1]))} {unit}"
    of = KINDS[kind].unit
    if of == "degrees":
        return f"{number(float(value))}°"
    if of == "count":
        return number(float(value))
    return f"{number(float(value))} {unit}{'²' if of == 'area' else ''}"


def lesson(
    cause: CauseJson, findings: Sequence[FindingJson], unit: str, centre: Container[str] = ()
) -> LessonJson:
    """Return what was asked and drawn, line by line for the findings that a cause explains, and how to avoid
    it.

    ``cause`` and ``findings`` are as in a mark sheet's JSON; at most four lines are given, and how many more
    there are; ``centre`` are the edges that are centre lines.
    """
    explained = set(cause["explains"])
    lines: list[LessonLine] = []
    for f in findings:
        if f["id"] not in explained:
            continue
        read = for_reader(f)
        asked, drawn = (
            describe_value(read["expected"], f["kind"], unit),
            describe_value(read["measured"], f["kind"], unit),
        )
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
        "avoid": SLIPS[cause["code"]].advice,
    }
