"""Mark sheets as JSON (`docs/formats/marks.md`): the same for the command line, the database and the
pages."""

from __future__ import annotations

import json
from collections.abc import Iterator
from decimal import Decimal
from typing import Any

from evenmark.core.marking.model import Cause, Finding, Item, MarkSheet, Value
from evenmark.core.marking.why_lost import why_lost
from evenmark.core.plain import plain_number as plain

FORMAT, VERSION = "even-mark/marks", 1
NO_MARKS = Decimal(0)


def _value(value: Value) -> Any:
    if isinstance(value, tuple):
        return [plain(value[0]), plain(value[1])]
    return value if isinstance(value, str) or value is None else plain(value)


def _marks(value: Decimal) -> float:
    return float(value)


def to_json(sheet: MarkSheet, attempt: str) -> dict[str, Any]:
    """Return a mark sheet as the documented JSON object; ``attempt`` names the file."""
    return _whole(sheet, attempt) | {"findings": [_finding(f, sheet) for f in sheet.findings]}


def _whole(sheet: MarkSheet, attempt: str) -> dict[str, Any]:
    """Return everything of a mark sheet but its findings, in whose place stands an empty list."""
    m = sheet.motion
    return {
        "format": FORMAT,
        "version": VERSION,
        "attempt": attempt,
        "unit": sheet.unit,
        "placement": {
            "policy": sheet.policy,
            "scale": plain(m.scale),
            "mirror": m.mirror,
            "turn": plain(m.turn_deg),
            "shift": [plain(m.shift[0]), plain(m.shift[1])],
            "views": [
                {"view": i, "shift": [plain(v.shift[0]), plain(v.shift[1])]}
                for i, v in sorted(sheet.view_motions.items())
            ],
        },
        "score": {"earned": _marks(sheet.earned), "possible": _marks(sheet.possible)},
        "findings": [],
        "causes": [_cause(c) for c in sheet.causes],
        "notes": [{"code": n.code, "says": n.says} for n in sheet.notes],
    }


def to_text(sheet: MarkSheet, attempt: str) -> str:
    """Return what `to_json` returns as JSON text, written at once: nearly every finding is met, and needs no
    object made of it."""
    whole = _whole(sheet, attempt)
    parts = {name: json.dumps(value, ensure_ascii=False, allow_nan=False) for name, value in whole.items()}
    parts["findings"] = f"[{', '.join(_texts(sheet))}]"
    return "{" + ", ".join(f'"{name}": {text}' for name, text in parts.items()) + "}"


class _Written(dict[Any, str]):
    """Values as JSON text, each written once: met findings say the same numbers over and over."""

    def __missing__(self, value: Any) -> str:
        if isinstance(value, tuple):
            text = f"[{plain(value[0])!r}, {plain(value[1])!r}]"
        elif value is None or isinstance(value, str):
            text = json.dumps(value, ensure_ascii=False)
        else:
            text = repr(plain(value))
        self[value] = text
        return text


def _texts(sheet: MarkSheet) -> Iterator[str]:
    """Yield findings as JSON text."""
    of = _Written()
    marks: dict[Decimal, str] = {}
    earned_for, possible_for = sheet.earned_for.get, sheet.possible_for.get
    odd = {*sheet.lost_with, *sheet.taken_for, *sheet.words}
    for f in sheet.findings:
        n, kind, features, layer, at, expected, measured, off, allowed, verdict, causes, follows, items = f
        possible = possible_for(n, NO_MARKS)
        if (
            verdict != "met"
            or earned_for(n, NO_MARKS) != possible
            or n in odd
            or causes
            or items
            or kind == "clean"
        ):
            yield json.dumps(_finding(f, sheet), ensure_ascii=False, allow_nan=False)
            continue
        mark = marks.get(possible)
        if mark is None:
            mark = marks[possible] = repr(float(possible))
        quoted = '"' + '", "'.join(features) + '"' if features else ""
        of_layer = "" if layer is None else f', "layer": {of[layer]}'
        yield (
            f'{{"id": {n}, "kind": "{kind}", "features": [{quoted}], "at": {of[at]}, '
            f'"expected": {of[expected]}, "measured": {of[measured]}, "deviation": {of[off]}, '
            f'"tolerance": {of[allowed]}, "verdict": "met", "earned": {mark}, "possible": {mark}, '
            f'"causes": [], "follows": {"null" if follows is None else follows}{of_layer}}}'
        )


def _finding(f: Finding, sheet: MarkSheet) -> dict[str, Any]:
    out: dict[str, Any] = {
        "id": f.id,
        "kind": f.kind,
        "features": list(f.features),
        "at": _value(f.at),
        "expected": _value(f.expected),
        "measured": _value(f.measured),
        "deviation": _value(f.deviation),
        "tolerance": _value(f.tolerance),
        "verdict": f.verdict,
        "earned": _marks(sheet.earned_for.get(f.id, NO_MARKS)),
        "possible": _marks(sheet.possible_for.get(f.id, NO_MARKS)),
        "causes": list(f.causes),
        "follows": f.follows,
    }
    earned, possible = (of.get(f.id, NO_MARKS) for of in (sheet.earned_for, sheet.possible_for))
    if f.id in sheet.lost_with:
        out["lost_with"] = sheet.lost_with[f.id]
        out["why"] = "It earns only where size and place are right, and one of them is not."
    elif earned != possible:
        out["why"] = why_lost(f, sheet.unit)
    if f.id in sheet.taken_for:
        out["taken"] = _marks(sheet.taken_for[f.id])
    if f.layer is not None:
        out["layer"] = f.layer
    if f.id in sheet.words:
        out["of"] = sheet.words[f.id]
    if f.kind == "clean":
        out["items"] = [_item(i) for i in f.items]
    return out


def _item(item: Item) -> dict[str, Any]:
    return {
        "code": item.code,
        "at": _value(item.at),
        "layer": item.layer,
        "feature": item.feature,
        "charged": item.charged,
    }


def _cause(c: Cause) -> dict[str, Any]:
    out: dict[str, Any] = {"id": c.id, "code": c.code, "explains": list(c.explains), "says": c.says}
    if c.candidates:
        out["candidates"] = list(c.candidates)
    return out
