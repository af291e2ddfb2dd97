"""Rule sets as JSON (`docs/formats/rules.md`): what an instructor edits, stores and hands to the command
line."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import asdict, fields
from typing import TypeVar, cast, get_args

from evenmark.core.dimensioning.deciding import Decision
from evenmark.core.dimensioning.figures import MOST_EQUAL
from evenmark.core.drawing.roles import Role
from evenmark.core.geometry.tolerance import Tolerances
from evenmark.core.geometry.units import BY_SYMBOL
from evenmark.core.linework.model import View
from evenmark.core.marking.key import Key
from evenmark.core.marking.kinds import KINDS, ask
from evenmark.core.marking.model import (
    POLICIES,
    Charges,
    Examines,
    Listing,
    Requirement,
    RuleError,
    RuleSet,
    Value,
    WordingBy,
)
from evenmark.core.marking.propose_sheet import parts_of
from evenmark.core.marking.rules_types import RequirementJson, RulesJson, TolerancesJson
from evenmark.core.plain import plain_number as plain

FORMAT, VERSION = "even-mark/rules", 2
"""Version 1 has no charges: in it `whole` and `clean` earn, and nothing else is taken away."""
_VERSIONS = (1, 2)
MOST_REQUIREMENTS = 400_000
_FIELDS = {"format", "version", *(f.name for f in fields(RuleSet))}
DERIVED = frozenset({"marks", "expected", "of", "part"})
"""What a proposal says of a requirement besides what is kept: it follows from the key."""
LEAST_MARKS = 0.01
_MOST_NAMES = 10_000
T = TypeVar("T")


def to_json(rules: RuleSet) -> RulesJson:
    """Return a rule set as the documented JSON object."""
    version = 1 if rules.charges is None else VERSION
    out: dict[str, object] = {"format": FORMAT, "version": version, **asdict(rules)}
    if rules.requirements is not None:
        out["requirements"] = [_plain_requirement(r) for r in rules.requirements]
    for name in ("kind_marks", "feature_marks", "given", "ties", "taken", "decided"):
        if not out[name]:
            del out[name]
    if out["examines"] == "model":
        del out["examines"]
    if not out["numbered"]:
        del out["numbered"]
    if version == 1:
        del out["listing"]
    if rules.views is not None:
        out["views"] = [{"id": v.id, "name": v.name, "box": [plain(n) for n in v.box]} for v in rules.views]
    if "given" in out:
        out["given"] = list(rules.given)
    if "ties" in out:
        out["ties"] = {i: list(features) for i, features in rules.ties.items()}
    return cast(RulesJson, {name: value for name, value in out.items() if value is not None})


def _plain_requirement(r: Requirement) -> RequirementJson:
    """Return a requirement; what only some kinds have is left out where it is not said."""
    out = {**asdict(r), "features": list(r.features)}
    for name, default in (
        ("by", "fixed"),
        ("pattern", ""),
        ("any_case", False),
        ("low", None),
        ("high", None),
        ("direction", None),
        ("parts", ()),
        ("size", ""),
    ):
        if out[name] == default:
            del out[name]
    return cast(RequirementJson, out)


def proposal_json(key: Key) -> RulesJson:
    """Return a prepared key's rule set complete, each requirement with its marks, what it expects, what
    a size measures, and its part of a list by the sheet."""
    out = to_json(key.rules)
    out["unit"] = key.unit.symbol
    out["tolerances"] = cast(TolerancesJson, asdict(key.tolerances))
    expected = {r.id: ask(r, key.setting).expected for r in key.requirements if r.kind != "layer-style"}
    parts = parts_of(key.requirements) if key.rules.listing == "sheet" else {}
    out["requirements"] = [
        {
            **_plain_requirement(r),
            "marks": float(key.marks.get(r.id, 0)),
            "expected": _expected(expected.get(r.id)),
        }
        for r in key.requirements
    ]
    for r, one in zip(key.requirements, out["requirements"], strict=True):
        if r.id in key.words:
            one["of"] = key.words[r.id]
        if r.id in parts:
            one["part"] = parts[r.id]
    return out


def _expected(value: Value) -> float | list[float] | str | None:
    """Return what is asked for with 9 decimals and no minus zero."""
    if isinstance(value, tuple):
        return [plain(value[0]), plain(value[1])]
    return value if isinstance(value, str) or value is None else plain(value)


def parse(text: str | bytes) -> RuleSet:
    """Read a rule set. Raises RuleError with a sentence that says which part is wrong and what would be
    right."""
    try:
        data = json.loads(text)
    except (ValueError, RecursionError) as why:
        raise RuleError("The rule set is not JSON. Write one with `propose --json` and edit that.") from why
    return from_json(data)


def from_json(data: object) -> RuleSet:
    """Return the rule set of a decoded JSON object. Raises RuleError."""
    if not isinstance(data, dict) or data.get("format", FORMAT) != FORMAT:
        raise RuleError(f'The rule set must be an object with "format": "{FORMAT}".')
    version = data.get("version", 1 if "charges" not in data else VERSION)
    if version not in _VERSIONS:
        raise RuleError(f"The rule set has version {version!r}; this engine reads versions 1 and {VERSION}.")
    unknown = sorted(set(data) - _FIELDS)
    if unknown:
        raise RuleError(
            f"The rule set has a field {unknown[0]!r} that is not known. Fields: "
            f"{', '.join(sorted(_FIELDS))}."
        )
    unit = data.get("unit")
    if unit is not None and (not isinstance(unit, str) or unit not in BY_SYMBOL):
        raise RuleError(f"unit: {unit!r} is not known. Units: {', '.join(BY_SYMBOL)}.")
    placement = data.get("placement", "as-drawn")
    if placement not in POLICIES:
        raise RuleError(f"placement: {placement!r} is not known. Use one of: {', '.join(POLICIES)}.")
    requirements = data.get("requirements")
    return RuleSet(
        unit=unit,
        placement=placement,
        tolerances=_tolerances(data.get("tolerances"), unit),
        near_share=_number(data, "near_share", 0.5, 0.0, 1.0),
        marks=_number(data, "marks", 100.0, LEAST_MARKS, 100_000.0),
        any_unit=_flag(data, "any_unit", True),
        exact_layers=_flag(data, "exact_layers", False),
        unit_charge=_number(data, "unit_charge", 0.0, 0.0, 100_000.0),
        kind_marks=_marks_of(data, "kind_marks", set(KINDS)),
        feature_marks=_marks_of(data, "feature_marks", None),
        clutter_each=_maybe(data, "clutter_each", 0.0, 100_000.0),
        clutter_cap=_maybe(data, "clutter_cap", 0.0, 100_000.0),
        examines=_one_of(data, "examines", "model", get_args(Examines)),
        numbered=_flag(data, "numbered", False),
        listing=_one_of(data, "listing", None if version > 1 else "feature", (*get_args(Listing), None)),
        charges=_charges(data.get("charges", {})) if version > 1 else None,
        ties=_ties(data.get("ties", {})),
        taken=_taken(data.get("taken", {})),
        decided=_decided(data.get("decided", {})),
        given=_given(data.get("given", [])),
        views=None if data.get("views") is None else _views(data["views"]),
        roles=_roles(data.get("roles", {})),
        requirements=None if requirements is None else _requirements(requirements),
    )


def _number(data: Mapping[str, object], name: str, default: float, least: float, most: float) -> float:
    value = data.get(name, default)
    if isinstance(value, bool) or not isinstance(value, int | float) or not least <= value <= most:
        raise RuleError(f"{name}: {value!r} must be a number from {least:g} to {most:g}.")
    return float(value)


def _maybe(data: Mapping[str, object], name: str, least: float, most: float) -> float | None:
    return None if data.get(name) is None else _number(data, name, 0.0, least, most)


def _marks_of(data: Mapping[str, object], name: str, known: set[str] | None) -> dict[str, float]:
    given = data.get(name, {})
    if not isinstance(given, dict) or len(given) > _MOST_NAMES:
        raise RuleError(f"{name} must be an object that gives marks by name.")
    for key in given:
        if known is not None and key not in known:
            raise RuleError(f"{name}: the kind {key!r} is not known. Kinds: {', '.join(sorted(known))}.")
    return {str(key): _number(given, key, 0.0, 0.0, 100_000.0) for key in given}


def _given(data: object) -> tuple[str, ...]:
    if not isinstance(data, list) or not all(isinstance(i, str) for i in data):
        raise RuleError('given must be a list of feature ids such as "e1".')
    return tuple(data)


def _ties(data: object) -> dict[str, tuple[str, ...]]:
    if not isinstance(data, dict) or len(data) > _MOST_NAMES:
        raise RuleError("ties must be an object that gives feature ids by the id of a dimension.")
    for features in data.values():
        if not isinstance(features, list) or not 1 <= len(features) <= MOST_EQUAL:
            raise RuleError(f"ties: name 1 to {MOST_EQUAL} features for each dimension.")
    return {str(i): _given(features) for i, features in data.items()}


def _taken(data: object) -> dict[str, bool]:
    if not isinstance(data, dict) or len(data) > _MOST_NAMES:
        raise RuleError("taken must be an object that says true or false by the id of what is implied.")
    return {str(i): _flag(data, i, True) for i in data}


def _decided(data: object) -> dict[str, Decision]:
    if not isinstance(data, dict) or len(data) > _MOST_NAMES:
        raise RuleError("decided must be an object that says what holds by the id of a dimension.")
    return {str(i): _one_of(data, i, "sheet", get_args(Decision)) for i in data}


def _views(data: object) -> tuple[View, ...]:
    if not isinstance(data, list) or len(data) > 12:
        raise RuleError("views must be a list of at most 12 objects.")
    out = []
    for n, v in enumerate(data, 1):
        box = v.get("box") if isinstance(v, dict) else None
        if not (
            isinstance(box, list)
            and len(box) == 4
            and all(isinstance(x, int | float) and not isinstance(x, bool) and abs(x) <= 1e12 for x in box)
            and box[0] < box[2]
            and box[1] < box[3]
        ):
            raise RuleError(f'View {n} needs a "box": left, bottom, right, top in key units.')
        left, bottom, right, top = (float(x) for x in box)
        out.append(
            View(
                id=str(v.get("id") or f"v{n}"),
                name=str(v.get("name") or f"view {n}"),
                box=(left, bottom, right, top),
            )
        )
    if len({v.id for v in out}) != len(out) or not all(v.id[:1] == "v" for v in out):
        raise RuleError('Each view needs an "id" of its own that begins with v, such as "v1".')
    return tuple(out)


def _flag(data: Mapping[str, object], name: str, default: bool) -> bool:
    value = data.get(name, default)
    if not isinstance(value, bool):
        raise RuleError(f"{name}: {value!r} must be true or false.")
    return value


def _one_of(data: Mapping[str, object], name: str, usual: T, known: tuple[T, ...]) -> T:
    value = data.get(name, usual)
    if value not in known:
        names = ", ".join(str(k) for k in known if k)
        raise RuleError(f"{name}: {value!r} is not known. Use one of: {names}.")
    return value


def _charges(data: object) -> Charges:
    known = asdict(Charges())
    if not isinstance(data, dict) or set(data) - set(known):
        raise RuleError(f"charges must be an object with any of: {', '.join(known)}.")
    marks = {n: _number(data, n, v, 0.0, 100.0) for n, v in known.items() if not isinstance(v, bool)}
    return Charges(**marks, habits=_flag(data, "habits", True))


def _tolerances(data: object, unit: str | None) -> Tolerances | None:
    if data is None:
        return None
    if not isinstance(data, dict) or set(data) - {"length", "position", "angle_deg", "near"}:
        raise RuleError('tolerances must be an object with "length", "position", "angle_deg" and "near".')
    base = asdict(BY_SYMBOL[unit or "mm"].tolerances)
    return Tolerances(**{name: _number(data, name, base[name], 0.0, 1e6) for name in base})


def _roles(data: object) -> dict[str, Role]:
    known = get_args(Role)
    if not isinstance(data, dict) or any(role not in known for role in data.values()):
        raise RuleError(f"roles must map layer names to one of: {', '.join(known)}.")
    return {str(layer): role for layer, role in data.items()}


def _requirements(data: object) -> tuple[Requirement, ...]:
    if not isinstance(data, list) or len(data) > MOST_REQUIREMENTS:
        raise RuleError(f"requirements must be a list of at most {MOST_REQUIREMENTS} objects.")
    return tuple(_requirement(n, r) for n, r in enumerate(data, 1))


def _requirement(n: int, data: object) -> Requirement:
    if not isinstance(data, dict) or data.get("kind") not in KINDS:
        raise RuleError(f'Requirement {n} needs a "kind", one of: {", ".join(KINDS)}.')
    features = data.get("features", [])
    if not isinstance(features, list) or not all(isinstance(f, str) for f in features):
        raise RuleError(f'Requirement {n}: "features" must be a list of feature ids such as "e1".')
    number = data.get("id", n)
    if isinstance(number, bool) or not isinstance(number, int):
        raise RuleError(f'Requirement {n}: "id" must be a whole number.')
    layer = data.get("layer")
    if layer is not None and not isinstance(layer, str):
        raise RuleError(f'Requirement {n}: "layer" must be a layer name.')
    return Requirement(
        id=number,
        kind=data["kind"],
        features=tuple(features),
        layer=layer,
        weight=_number(data, "weight", 1.0, 0.0, 1e6),
        tolerance=None if data.get("tolerance") is None else _number(data, "tolerance", 0.0, 0.0, 1e6),
        near=None if data.get("near") is None else _number(data, "near", 0.0, 0.0, 1e6),
        on=_flag(data, "on", True),
        by=_by(n, data.get("by", "fixed")),
        pattern=str(data.get("pattern", ""))[:1000],
        any_case=_flag(data, "any_case", False),
        direction=_maybe(data, "direction", -360.0, 360.0),
        parts=_parts(n, data.get("parts", [])),
        size=str(data.get("size", ""))[:40],
        low=_maybe(data, "low", 0.0, 1e6),
        high=_maybe(data, "high", 0.0, 1e6),
    )


def _parts(n: int, value: object) -> tuple[str, ...]:
    if not isinstance(value, list | tuple) or not all(isinstance(p, str) for p in value):
        raise RuleError(f'Requirement {n}: "parts" must be a list of words.')
    return tuple(value)


def _by(n: int, value: object) -> WordingBy:
    if value not in get_args(WordingBy):
        raise RuleError(f'Requirement {n}: "by" must be one of: {", ".join(get_args(WordingBy))}.')
    return cast(WordingBy, value)
