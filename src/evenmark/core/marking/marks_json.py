"""Mark sheets as JSON (`docs/formats/marks.md`): the same for the command line, the database and the
pages."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from decimal import Decimal
from typing import Any, NamedTuple

from evenmark.core.geometry.points import Point
from evenmark.core.marking.examination import Ask
from evenmark.core.marking.marks_types import (
    BesidesJson,
    CauseJson,
    FindingJson,
    ItemJson,
    MarksJson,
    PlaceJson,
    ValueJson,
)
from evenmark.core.marking.model import Cause, Finding, Item, MarkSheet, Value
from evenmark.core.marking.score import TIMES_PAIRED
from evenmark.core.marking.why_lost import LOST_HABIT, LOST_LOOK, why_lost
from evenmark.core.plain import plain_number as plain

FORMAT, VERSION = "even-mark/marks", 1
NO_MARKS = Decimal(0)
_encode = json.JSONEncoder(ensure_ascii=False, allow_nan=False).encode


def _value(value: Value) -> ValueJson:
    if isinstance(value, tuple):
        return [plain(value[0]), plain(value[1])]
    return value if isinstance(value, str) or value is None else plain(value)


def _place(at: Point | None) -> PlaceJson | None:
    return None if at is None else [plain(at[0]), plain(at[1])]


def _marks(value: Decimal) -> float:
    return float(value)


def to_json(sheet: MarkSheet, attempt: str) -> MarksJson:
    """Return a mark sheet as the documented JSON object; ``attempt`` names the file."""
    return {**_whole(sheet, attempt), "findings": [_finding(f, sheet) for f in sheet.findings]}


def _whole(sheet: MarkSheet, attempt: str) -> MarksJson:
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
    out = ["{"]  # joined once: the text of a large sheet is never copied
    for name, value in whole.items():
        out.append(f'{", " if len(out) > 1 else ""}"{name}": ')
        if name == "findings":
            texts = _texts(sheet)
            if texts:
                lead = [", "] * (2 * len(texts) - 1)
                lead[::2] = texts
                out += ["[", *lead, "]"]
                continue
        out.append(_encode(value))
    out.append("}")
    return "".join(out)


class _Texts(dict[Any, str]):
    """Values as JSON text, each written once: met findings say the same numbers over and over."""

    def __missing__(self, value: Any) -> str:
        if isinstance(value, tuple):
            text = f"[{plain(value[0])!r}, {plain(value[1])!r}]"
        elif value is None or isinstance(value, str):
            text = _encode(value)
        else:
            text = repr(plain(value))
        self[value] = text
        return text


class Head(NamedTuple):
    """What is written of a met finding whatever the attempt: before what was measured, and after by how much
    that is off."""

    at: Value
    expected: Value
    allowed: float | None
    before: str
    asked: str
    after: str


class Written(NamedTuple):
    """What is written of a key's met findings again and again: their heads, and the findings that are kept
    from attempt to attempt (see `kept`) with their whole text."""

    heads: Mapping[int, Head]
    kept: Mapping[int, Finding]
    texts: dict[int, str]


def heads_of(asks: Iterable[Ask], marks: Mapping[int, Decimal], words: Mapping[int, str]) -> dict[int, Head]:
    """Return what is written of met findings, by requirement: made once a key. ``words`` say what some of
    them measure."""
    of = _Texts()
    out: dict[int, Head] = {}
    for r, _, at, expected, allowed, *_ in asks:
        allowed = allowed if r.tolerance is None else r.tolerance
        mark = repr(float(marks.get(r.id, NO_MARKS)))
        quoted = '"' + '", "'.join(r.features) + '"' if r.features else ""
        layer = "" if r.layer is None else f', "layer": {of[r.layer]}'
        what = f', "of": {of[words[r.id]]}' if r.id in words else ""
        out[r.id] = Head(
            at,
            expected,
            allowed,
            f'{{"id": {r.id}, "kind": "{r.kind}", "features": [{quoted}], "at": {of[at]}, '
            f'"expected": {of[expected]}, "measured": ',
            of[expected],
            f', "tolerance": {of[allowed]}, "verdict": "met", "earned": {mark}, "possible": {mark}, '
            f'"causes": [], "follows": null{layer}{what}}}',
        )
    return out


def _texts(sheet: MarkSheet) -> list[str]:
    """Return findings as JSON text."""
    out: list[str] = []
    add = out.append
    of = _Texts()
    written: Written = sheet.written() or Written({}, {}, {})
    head_of, kept, texts = written.heads.get, written.kept.get, written.texts
    earned_for, possible_for = sheet.earned_for.get, sheet.possible_for.get
    odd = {*sheet.lost_with, *sheet.taken_for, *(sheet.words if not written.heads else ())}
    for f in sheet.findings:
        n = f[0]
        whole = n not in odd and ((earned := earned_for(n)) is (all_ := possible_for(n)) or earned == all_)
        holds = whole and kept(n) is f
        if holds and n in texts:
            add(texts[n])
            continue
        _, kind, _, _, at, expected, measured, off, allowed, verdict, causes, follows, items, _ = f
        head = head_of(n)
        if (
            verdict != "met"
            or head is None
            or at is not head.at
            or expected is not head.expected
            or allowed != head.allowed
            or not whole
            or causes
            or items
            or follows is not None
            or kind == "clean"
        ):
            add(_text(f, sheet, of))
        else:
            there = head.asked if measured == expected else of[measured]
            text = f'{head.before}{there}, "deviation": {of[off]}{head.after}'
            if holds:
                texts[n] = text
            add(text)
    return out


def _finding(f: Finding, sheet: MarkSheet) -> FindingJson:
    return {
        "id": f.id,
        "kind": f.kind,
        "features": list(f.features),
        "at": _place(f.at),
        "expected": _value(f.expected),
        "measured": _value(f.measured),
        "deviation": _value(f.deviation),
        "tolerance": _value(f.tolerance),
        "verdict": f.verdict,
        "earned": _marks(sheet.earned_for.get(f.id, NO_MARKS)),
        "possible": _marks(sheet.possible_for.get(f.id, NO_MARKS)),
        "causes": list(f.causes),
        "follows": f.follows,
        **_besides(f, sheet),
    }


def _besides(f: Finding, sheet: MarkSheet) -> BesidesJson:
    """Return what only some findings have: why they did not earn their marks, a layer, items."""
    out: BesidesJson = {}
    earned, possible = sheet.earned_for.get(f.id, NO_MARKS), sheet.possible_for.get(f.id, NO_MARKS)
    if f.id in sheet.lost_with:
        out["lost_with"] = sheet.lost_with[f.id]
        out["why"] = LOST_LOOK if f.kind in TIMES_PAIRED else LOST_HABIT
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


def _text(f: Finding, sheet: MarkSheet, of: _Texts) -> str:
    """Return what `_finding` returns as JSON text."""
    n, kind, features, _, at, expected, measured, off, allowed, verdict, causes, follows, _, _ = f
    quoted = '"' + '", "'.join(features) + '"' if features else ""
    earned, possible = sheet.earned_for.get(n, NO_MARKS), sheet.possible_for.get(n, NO_MARKS)
    besides = _besides(f, sheet)
    return (
        f'{{"id": {n}, "kind": "{kind}", "features": [{quoted}], "at": {of[at]}, "expected": {of[expected]}, '
        f'"measured": {of[measured]}, "deviation": {of[off]}, "tolerance": {of[allowed]}, '
        f'"verdict": "{verdict}", "earned": {_marks(earned)!r}, "possible": {_marks(possible)!r}, '
        f'"causes": {list(causes)}, "follows": {"null" if follows is None else follows}'
        f"{', ' + _encode(besides)[1:-1] if besides else ''}}}"
    )


def _item(item: Item) -> ItemJson:
    return {
        "code": item.code,
        "at": _place(item.at),
        "layer": item.layer,
        "feature": item.feature,
        "charged": item.charged,
    }


def _cause(c: Cause) -> CauseJson:
    out: CauseJson = {"id": c.id, "code": c.code, "explains": list(c.explains), "says": c.says}
    if c.candidates:
        out["candidates"] = list(c.candidates)
    return out
