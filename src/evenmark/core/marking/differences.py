"""What differs between two mark sheets of one attempt, such as by an older and a newer engine: a list that a
person can read.

Sheets are compared as JSON (`docs/formats/marks.md`), in which numbers have nine decimals; so they are
compared as written.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from evenmark.core.marking.wording import centre_lines, named

_TOLD = ("verdict", "earned", "measured")


def differences(before: Mapping[str, Any], after: Mapping[str, Any]) -> dict[str, Any]:
    """Return the findings and causes that differ, and both scores; ``same`` when nothing that a person would
    see does.

    A finding that only one sheet has is told with None on the other side.
    """
    old = {f["id"]: f for f in before["findings"]}
    new = {f["id"]: f for f in after["findings"]}
    centre = centre_lines([*old.values(), *new.values()])
    rows = []
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


def _told(f: Mapping[str, Any] | None) -> dict[str, Any] | None:
    return None if f is None else {k: f[k] for k in _TOLD}


def _says(sheet: Mapping[str, Any]) -> list[str]:
    return [c["says"] for c in sheet["causes"]]
