"""Which steps of a board drew what a mark sheet speaks of: as the board calls it."""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Mapping

from evenmark.core.construct.references import NAMED
from evenmark.core.formats import steps
from evenmark.core.linework import Linework
from evenmark.core.marking.marks_types import FindingJson
from evenmark.store.kept import YourStep

MOST_STEPS = 4
"""Steps that are named with a finding: one that many steps drew is not found by them."""
_NAME = re.compile(r"(\w+) (\d+)\.(\d+)\Z")


def your_steps(data: bytes, placed: Linework) -> dict[str, list[YourStep]]:
    """Return the steps of a document that drew each feature and annotation of what it draws, by the ids of
    these."""
    numbers = {item.id: n for n, item in enumerate(steps.document(data).steps, 1)}
    things = [*placed.curves.values(), *placed.texts, *placed.dimensions, *placed.notes, *placed.hatches]
    parts: dict[tuple[str, str], set[str]] = defaultdict(set)
    found = [(t.id, [m for s in t.sources if (m := _NAME.match(s))]) for t in things]
    for _, names in found:
        for m in names:
            parts[m[1], m[2]].add(m[3])
    out: dict[str, list[YourStep]] = {}
    for one, names in found:
        for m in names:
            kind, step, part = m.groups()
            number = numbers.get(int(step))
            if number is None:
                continue
            several = len(parts[kind, step]) > 1
            says = (
                f"step {number}"
                if kind == "outline"
                else f"{NAMED.get(kind, kind)} {number}{f'.{part}' if several else ''}"
            )
            yours: YourStep = {"step": int(step), "says": says}
            if yours not in out.setdefault(one, []):
                out[one].append(yours)
    return out


def steps_of(
    f: FindingJson, partners: Mapping[str, str], yours: Mapping[str, list[YourStep]]
) -> list[YourStep]:
    """Return the steps that drew what a finding is about, in their order; none where many did."""
    out: list[YourStep] = []
    for feature in f["features"]:
        for one in yours.get(partners.get(feature, ""), []):
            if one not in out:
                out.append(one)
    return sorted(out, key=lambda y: y["step"]) if len(out) <= MOST_STEPS else []
