"""What differs between two mark sheets of one attempt, such as by an older and a newer engine: a list that a
person can read.

Sheets are compared as JSON (`docs/formats/marks.md`), in which numbers have nine decimals; so they are
compared as written.
"""

from __future__ import annotations

from typing import TypedDict

from evenmark.core.marking.marks_types import FindingJson, MarksJson, Number, ValueJson
from evenmark.core.marking.model import Verdict
from evenmark.core.marking.wording import centre_lines, named


class ToldJson(TypedDict):
    """What a person would see of a finding."""

    verdict: Verdict
    earned: Number
    measured: ValueJson


class DifferenceJson(TypedDict):
    """A finding on which two mark sheets differ; None where one of them does not have it."""

    finding: int
    name: str
    kind: str
    before: ToldJson | None
    after: ToldJson | None


class DifferencesJson(TypedDict):
    """What differs between two mark sheets; both scores."""

    same: bool
    findings: list[DifferenceJson]
    causes_gone: list[str]
    causes_come: list[str]
    earned: list[Number]


def differences(before: MarksJson, after: MarksJson) -> DifferencesJson:
    """Return the findings and causes that differ, and both scores; ``same`` when nothing that a person would
    see does.

    A finding that only one sheet has is told with None on the other side.
    """
    old = {f["id"]: f for f in before["findings"]}
    new = {f["id"]: f for f in after["findings"]}
    centre = centre_lines([*old.values(), *new.values()])
    rows: list[DifferenceJson] = []
    for i in sorted(old.keys() | new.keys()):
        was, now = old.get(i), new.get(i)
        if was is not None and now is not None and _told(was) == _told(now):
            continue
        f = now or was
        assert f is not None
        name = named(f, centre)
        rows.append(
            {"finding": i, "name": name, "kind": f["kind"], "before": _told(was), "after": _told(now)}
        )
    said_before, said_after = _says(before), _says(after)
    gone = [s for s in said_before if s not in said_after]
    come = [s for s in said_after if s not in said_before]
    score = [before["score"]["earned"], after["score"]["earned"]]
    return {
        "same": not rows and not gone and not come and score[0] == score[1],
        "findings": rows,
        "causes_gone": gone,
        "causes_come": come,
        "earned": score,
    }


def _told(f: FindingJson | None) -> ToldJson | None:
    return f and {"verdict": f["verdict"], "earned": f["earned"], "measured": f["measured"]}


def _says(sheet: MarksJson) -> list[str]:
    return [c["says"] for c in sheet["causes"]]
