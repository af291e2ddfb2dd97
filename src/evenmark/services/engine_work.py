"""What is done in a bounded process: the engine's functions on bytes, with plain results that can cross to
another process."""

from __future__ import annotations

from dataclasses import dataclass, replace
from decimal import Decimal
from typing import cast

from evenmark.core.drawing.model import Drawing, Entity, Text, layout_of
from evenmark.core.drawing.moving import moved_entity
from evenmark.core.drawing.refusal import Refusal, refuse
from evenmark.core.formats import UnreadableDrawing, read_file
from evenmark.core.formats.sniff import kind_of
from evenmark.core.geometry.points import Point, distance, point_on
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.linework import Linework, simplify
from evenmark.core.linework.model import CircleFeature
from evenmark.core.marking import RuleSet, prepare
from evenmark.core.marking.engine import Checked, Key, check_any
from evenmark.core.marking.marks_json import to_json
from evenmark.core.marking.marks_types import MarksJson
from evenmark.core.marking.model import Finding, MarkSheet
from evenmark.core.marking.reading_json import ReadingJson, reading
from evenmark.core.marking.rules_json import DERIVED, from_json
from evenmark.core.marking.rules_types import RequirementJson, RulesJson
from evenmark.core.marking.sketch import sketch
from evenmark.core.sheet.marked import Mark
from evenmark.core.sheet.pictures import pictures
from evenmark.core.sheet.scene import Scene, scene
from evenmark.core.sheet.tracing import TracedClutter, Tracing, tracing
from evenmark.services.your_steps import your_steps
from evenmark.store.kept import YourStep

MOST_WORDINGS, MOST_LETTERS = 300, 200


@dataclass(frozen=True, kw_only=True, slots=True)
class Reading:
    """What was understood of a file, whether it can be handed in, and its picture."""

    reading: ReadingJson
    refusal: Refusal | None
    scene: Scene
    wordings: list[str]
    """What stands on the drawing and on its sheet layouts, for finding out whose it is."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Marked:
    """A mark sheet with what the pages show beside it."""

    marks: MarksJson
    drawn: Tracing
    """What was drawn, as it was laid on the key, in key units."""
    partners: dict[str, str]
    places: dict[int, list[float]]
    """Where each finding is seen on what was drawn, in key units."""
    earned: Decimal
    possible: Decimal
    sketches: dict[int, list[Mark]]
    """What is drawn between key and attempt for a finding; places in key units."""
    key: int
    """Which of the accepted keys it was held against."""
    reading: ReadingJson
    """What was understood of it."""
    yours: dict[str, list[YourStep]]
    """Of what was drawn on the board, by its id: which steps drew it."""


def look_at(data: bytes, name: str, examines: str = "model") -> Reading:
    """Read a file and say what was understood of it, and what of it an exercise would examine: the model, or
    the sheet layout."""
    drawing = read_file(data)
    seen = layout_of(drawing) if examines == "sheet" else drawing
    unit = drawing.unit
    linework = simplify(seen, length_tolerance=unit.tolerances.length if unit else 0.001)
    return Reading(
        reading=reading(drawing, name),
        refusal=refuse(drawing, examines),
        scene=scene(tracing(linework, {})),
        wordings=_wordings(drawing),
    )


def _wordings(drawing: Drawing) -> list[str]:
    on_layouts = [e for sheet in drawing.layouts for e in sheet.entities]
    texts = [e.wording for e in (*on_layouts, *drawing.entities) if isinstance(e, Text)]
    return [w[:MOST_LETTERS] for w in texts[:MOST_WORDINGS]]


def mark(
    keys_data: list[bytes],
    rules: RulesJson,
    attempt_data: bytes,
    attempt_name: str,
    fields: dict[str, str],
    start_data: bytes | None = None,
) -> Marked:
    """Hold an attempt against a key, or against several that are all accepted, the first of which the rules
    are for.

    ``fields`` is what the sheet should say of its student.
    """
    return marked_by(_keys(keys_data, rules, start_data), attempt_data, attempt_name, fields)


def mark_many(
    keys_data: list[bytes],
    rules: RulesJson,
    attempts: list[tuple[bytes, str, dict[str, str]]],
    start_data: bytes | None = None,
) -> list[Marked | str]:
    """Hold several attempts (bytes, name, fields) against the same keys, made ready once; for one that cannot
    be read, why not."""
    keys = _keys(keys_data, rules, start_data)
    out: list[Marked | str] = []
    for data, name, fields in attempts:
        try:
            out.append(marked_by(keys, data, name, fields))
        except UnreadableDrawing as why:
            out.append(why.says)
    return out


def look_at_many(files: list[tuple[bytes, str]], examines: str = "model") -> list[Reading | str]:
    """Read several files (bytes, name); for one that cannot be read, why not."""
    out: list[Reading | str] = []
    for data, name in files:
        try:
            out.append(look_at(data, name, examines))
        except UnreadableDrawing as why:
            out.append(why.says)
    return out


def _keys(keys_data: list[bytes], rules: RulesJson, start_data: bytes | None) -> list[Key]:
    start = read_file(start_data) if start_data else None
    first, *others = keys_data
    keys = [prepare(read_file(first), stored(rules), start=start)]
    bare = replace(stored(rules), requirements=None, given=(), views=None, ties={}, taken={}, decided={})
    return keys + [prepare(read_file(other), bare, start=start) for other in others]


def marked_by(keys: list[Key], attempt_data: bytes, attempt_name: str, fields: dict[str, str]) -> Marked:
    """Hold an attempt against keys that are made ready; what the pages show beside the marks comes along.
    Raises UnreadableDrawing."""
    drawing = read_file(attempt_data)
    if kind_of(attempt_data) == "steps":  # handed in from the board, where nobody has looked at it yet
        refusal = refuse(drawing, keys[0].rules.examines)
        if refusal is not None:
            raise UnreadableDrawing(refusal.says)
    checked = check_any(keys, drawing, fields)
    key, sheet, placed = keys[checked.key], checked.sheet, checked.placed
    shown = _laid(key.examined(drawing), key, checked)
    clutter: list[TracedClutter] = [{"code": c.code, "at": list(c.at)} for c in placed.clutter]
    return Marked(
        marks=to_json(sheet, attempt_name),
        drawn={**tracing(placed, key.rules.roles, shown), "unit": key.unit.symbol, "clutter": clutter},
        partners=sheet.partners,
        places={f.id: list(p) for f in sheet.findings if (p := _seen_at(f, key, sheet, placed)) is not None},
        earned=sheet.earned,
        possible=sheet.possible,
        sketches={
            f.id: marks
            for f in sheet.findings
            if (marks := sketch(f, key.linework, placed, sheet.partners, sheet.unit))
        },
        key=checked.key,
        reading=reading(drawing, attempt_name),
        yours=your_steps(attempt_data, placed) if kind_of(attempt_data) == "steps" else {},
    )


def _laid(drawing: Drawing, key: Key, checked: Checked) -> tuple[Entity, ...]:
    """Return the pictures of an attempt's dimensions and notes where the attempt was laid on the key."""
    motion = checked.sheet.motion
    converted = any(n.code == "unit-converted" for n in checked.sheet.notes)
    scale = drawing.unit.mm / key.unit.mm if converted and drawing.unit else 1.0

    onto = Similarity(scale=scale).then(motion)
    return tuple(moved_entity(e, onto) for e in shown_beside(drawing))


def shown_beside(drawing: Drawing) -> tuple[Entity, ...]:
    """Return what is drawn beside features: pictures of dimensions, texts of notes, hatching, endless
    construction lines."""
    return pictures(drawing)


def _seen_at(f: Finding, key: Key, sheet: MarkSheet, placed: Linework) -> Point | None:
    """Return the place on the drawing where a finding shows; None where nothing was drawn for it."""
    if isinstance(f.measured, tuple):
        return f.measured
    if f.items:
        return f.items[0].at
    for i in f.features:
        feature = key.linework.by_id.get(i)
        if feature is None:
            return None
        if i[0] in "xdnh":
            there = placed.by_id.get(sheet.partners.get(i, ""))
            return there.at if there is not None else None
        joined = (
            [m for m, _ in getattr(feature, "ends", ()) or getattr(feature, "members", ())]
            if i[0] in "kto"
            else [i]
        )
        found = [placed.curves[sheet.partners[m]] for m in joined if sheet.partners.get(m) in placed.curves]
        if not found:
            continue
        if i[0] not in "kto":
            return (
                found[0].at
                if not isinstance(found[0], CircleFeature)
                else point_on(found[0].center, found[0].radius, 1.0)
            )
        ends = [p for c in found if not isinstance(c, CircleFeature) for p in c.ends] or [found[0].at]
        return min(ends, key=lambda p: distance(p, f.at or feature.at))
    return None


def plain_requirement(r: RequirementJson) -> RequirementJson:
    """Return a requirement without what is derived from the key."""
    return cast(RequirementJson, {k: v for k, v in r.items() if k not in DERIVED})


def stored(rules: RulesJson | None) -> RuleSet:
    """Return a rule set from stored JSON, which also holds what is derived: marks and expectations."""
    if rules is None:
        return RuleSet()
    if rules.get("requirements") is None:
        return from_json(rules)
    return from_json({**rules, "requirements": [plain_requirement(r) for r in rules["requirements"]]})
