"""Make a key ready: what it asks for, what of it is given or covered, its flaws and its marks."""

from __future__ import annotations

import functools
from collections.abc import Callable
from dataclasses import replace
from typing import NamedTuple

from evenmark.core.collector import held_still
from evenmark.core.dimensioning.proof import ProofTooLarge, prove
from evenmark.core.dimensioning.proved import Proof
from evenmark.core.drawing.look import Style
from evenmark.core.drawing.model import Drawing, Text, layout_of
from evenmark.core.drawing.roles import Role, default_roles, role_of, stated_role
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.units import BY_SYMBOL, MM, Unit
from evenmark.core.linework import Linework, simplify
from evenmark.core.linework.model import View
from evenmark.core.linework.naming import names_of
from evenmark.core.marking.assign import exact_pairs
from evenmark.core.marking.bound import spots
from evenmark.core.marking.bulk import bulks_of
from evenmark.core.marking.decisions import as_decided
from evenmark.core.marking.examination import Asked, MarkingSetting, joint_table
from evenmark.core.marking.flaws import Flaw, flaws_of, spared
from evenmark.core.marking.hidden import covered
from evenmark.core.marking.key import Key
from evenmark.core.marking.kinds import KINDS, LINE_TYPE, SENSES, ask
from evenmark.core.marking.kinds.looks import dashes_show
from evenmark.core.marking.model import POLICIES, Listing, Requirement, RuleError, RuleSet
from evenmark.core.marking.propose import NOT_ASKED, propose
from evenmark.core.marking.propose_sheet import propose_by_sheet
from evenmark.core.marking.score import allot
from evenmark.core.marking.shapes import KINDS as SHAPES
from evenmark.core.marking.shapes import tables
from evenmark.core.marking.views import find_views
from evenmark.core.marking.watched import watched

_NOTHING = (
    "The key has only construction: no edges, arcs, circles, text or hatching. Choose the finished drawing."
)
_NO_SHEET = (
    "The key has nothing on a sheet layout. Draw the sheet in the key, then create a new exercise from it."
)


_NOT_DRAWN = ("construction", "dimension")
"""Roles of layers whose lines nobody has to draw."""


@held_still()
def prepare(drawing: Drawing, rules: RuleSet | None = None, *, start: Drawing | None = None) -> Key:
    """Make a key ready: its linework, its requirements (proposed where the rule set has none) and their
    marks.

    ``start`` is the start drawing that students receive: what of it is in the key is given, neither marked
    nor spare. Raises RuleError for a rule set that does not fit the key.
    """
    rules = rules or RuleSet()
    if rules.placement not in POLICIES:
        raise RuleError(f"Placement {rules.placement!r} is not known. Use one of: {', '.join(POLICIES)}.")
    ground = _ground(drawing, rules, start)
    found = functools.cache(functools.partial(_proof_of, ground, rules))
    requirements, listing = _requirements(ground, rules, found)
    if rules.requirements is None and rules.charges is not None:
        requirements = (*requirements, *_without_marks(ground, max((r.id for r in requirements), default=0)))
    rules = replace(
        rules, roles=ground.roles, given=ground.given, views=ground.views, listing=listing or "feature"
    )
    setting = MarkingSetting(
        key=ground.linework,
        rules=rules,
        tolerances=ground.tolerances,
        joints=joint_table(ground.linework),
        views={v.id: v for v in ground.views},
        spared=spared(ground.flaws, ground.linework),
    )
    drawn = ground.linework.drawn
    if not any(f.id[0] in "nh" or role_of(ground.roles, f.layer) not in NOT_ASKED for f in drawn):
        raise RuleError(_NO_SHEET if rules.examines == "sheet" else _NOTHING)
    check_rules(requirements, setting)
    return _key(ground, setting, requirements, found, by_hand=ground.listed)


class _Ground(NamedTuple):
    """A key before anything is asked of it: its linework without what nobody is asked for, the unit and
    tolerances that hold, the roles of its layers, the linework of the start drawing, what is given, what is
    left out, its flaws, its views, and the sheet that is examined. ``listed`` says that a rule set has a list
    of its own."""

    declared: bool
    linework: Linework
    unit: Unit
    tolerances: tol.Tolerances
    roles: dict[str, Role]
    begun: Linework | None
    given: tuple[str, ...]
    out_of: set[str]
    flaws: tuple[Flaw, ...]
    views: tuple[View, ...]
    sheet: str | None
    listed: bool

    @property
    def left_out(self) -> set[str]:
        """What is not asked: covered, or given."""
        return self.out_of.union(self.given)


def _ground(drawing: Drawing, rules: RuleSet, start: Drawing | None) -> _Ground:
    sheet = None
    if rules.examines == "sheet":
        drawing = layout_of(drawing)
        sheet = next((s.name for s in drawing.layouts), None)
        start = start and layout_of(start, sheet)
    unit = drawing.unit or BY_SYMBOL.get(rules.unit or "mm", MM)
    tolerances = rules.tolerances or unit.tolerances
    begun = None
    if start is not None:
        scale = start.unit.mm / unit.mm if start.unit and drawing.unit else 1.0
        begun = simplify(start, length_tolerance=unit.tolerances.length, scale=scale)
        if scale == 1.0:
            drawing = _with_start(drawing, start, begun, tolerances, unit)
    linework = simplify(drawing, length_tolerance=unit.tolerances.length)
    roles = {**default_roles(list(drawing.layers)), **rules.roles}
    out_of = covered(linework, roles, tolerances.length)
    flaws = flaws_of(linework, roles, tolerances, unit.symbol, out_of)
    out_of = out_of | {i for flaw in flaws if flaw.code == "stub" for i in flaw.features}
    linework = _without_joints_of(linework, out_of, roles)
    linework, rules = as_decided(linework, rules, roles, tolerances, out_of)
    given = rules.given
    if begun is not None:
        given = tuple(dict.fromkeys((*given, *_given(linework, begun, tolerances))))
    views = rules.views
    if views is None:
        views = find_views(linework, roles, tolerances.length)
    return _Ground(
        declared=drawing.unit is not None,
        linework=linework.with_(names=names_of(linework, roles, views, tolerances.length)),
        unit=unit,
        tolerances=tolerances,
        roles=roles,
        begun=begun,
        given=given,
        out_of=out_of,
        flaws=flaws,
        views=views,
        sheet=sheet,
        listed=rules.requirements is not None,
    )


def _proof_of(ground: _Ground, rules: RuleSet) -> Proof:
    return prove(
        ground.linework,
        ground.roles,
        ground.tolerances.length,
        angle_deg=ground.tolerances.angle_deg,
        views=ground.views,
        leave_out=ground.out_of,
        given=ground.given,
        ties=rules.ties,
        switched=rules.taken,
    )


def _requirements(
    ground: _Ground, rules: RuleSet, found: Callable[[], Proof]
) -> tuple[tuple[Requirement, ...], Listing | None]:
    """Return what is asked, as the rule set lists it or else proposed, and how it is listed. Raises
    RuleError."""
    if rules.requirements is not None:
        return rules.requirements, rules.listing
    listing = rules.listing or _listing_of(ground.linework, found)
    if listing == "sheet":
        try:
            proof = found()
            return (
                propose_by_sheet(ground.linework, proof, ground.roles, ground.views, ground.left_out),
                listing,
            )
        except ProofTooLarge as why:
            raise RuleError(f"{why} Build the list by feature.") from why
    proposed = propose(
        ground.linework,
        ground.roles,
        ground.tolerances.length,
        angle_deg=ground.tolerances.angle_deg,
        views=ground.views,
        leave_out=ground.left_out,
    )
    return proposed, listing


def _without_marks(ground: _Ground, last: int) -> list[Requirement]:
    """Return what every list asks that earns nothing and costs where it is missed: lines as they are seen,
    one line for each line type of the key, and all that no other line says."""
    lines: dict[str, list[str]] = {}
    for i, f in ground.linework.curves.items():
        role = role_of(ground.roles, f.layer)
        seen = f.style.line_type != Style().line_type and dashes_show(f)
        if seen and role not in NOT_ASKED and i not in ground.left_out:
            lines.setdefault(f.style.line_type, []).append(i)
    asked = [(LINE_TYPE, tuple(features)) for _, features in sorted(lines.items())]
    return [
        Requirement(id=n, kind=kind, features=features, weight=0.0)
        for n, (kind, features) in enumerate([*asked, (SENSES, ())], last + 1)
    ]


def _key(
    ground: _Ground,
    setting: MarkingSetting,
    requirements: tuple[Requirement, ...],
    found: Callable[[], Proof],
    *,
    by_hand: bool,
) -> Key:
    """Return a key with all that is worked out of it once."""
    linework, rules = ground.linework, setting.rules
    marks = allot(requirements, rules)
    besides: tuple[Requirement, ...] = ()
    if by_hand or rules.listing == "sheet":  # a list by feature asks for all of it
        besides = watched(
            linework,
            ground.roles,
            ground.tolerances.length,
            requirements,
            angle_deg=ground.tolerances.angle_deg,
            leave_out=ground.left_out,
        )
    asks = tuple(ask(r, setting) for r in (*requirements, *besides) if r.on)
    centres = {e.id for e in linework.edges if setting.role(e.layer) == "centre"}
    not_drawn = {i for i, f in linework.curves.items() if setting.role(f.layer) in _NOT_DRAWN}
    return Key(
        linework=linework,
        rules=rules,
        requirements=requirements,
        marks=marks,
        unit=ground.unit,
        declared=ground.declared,
        tolerances=ground.tolerances,
        tables=tables(linework),
        setting=setting,
        asked=Asked(asks),
        watched=frozenset(r.id for r in besides),
        bulks=bulks_of(asks),
        joint_spots=spots(asks, marks, "kt"),
        center_spots=spots(asks, marks, "c"),
        axes=frozenset(a.r.features[0] for a in asks if a.r.kind == "axis") | centres,
        aside=frozenset(not_drawn | (ground.out_of & linework.curves.keys())),
        start=ground.begun,
        flaws=ground.flaws,
        prove=found,
        sheet=ground.sheet,
    )


def _listing_of(key: Linework, found: Callable[[], Proof]) -> Listing:
    """Return how the list is proposed where nobody said: by the sheet where its sizes settle every
    feature."""
    if not key.dimensions:
        return "feature"
    try:
        proof = found()
    except ProofTooLarge:
        return "feature"
    return "sheet" if proof.sizes and proof.settled else "feature"


def _without_joints_of(key: Linework, covered_ones: set[str], roles: dict[str, Role]) -> Linework:
    """Return a key whose corners and meetings are those of what is asked for: where axes, construction and
    covered pieces end says nothing. Corners keep their ids, so that a rule set still fits when roles
    change."""
    aside = {"centre", "construction", "dimension"}
    out_of = covered_ones | {i for i, f in key.curves.items() if stated_role(roles, f.layer) in aside}
    if not out_of:
        return key
    corners, tees = [], []
    for k in key.corners:
        ends = tuple(e for e in k.ends if e[0] not in out_of)
        corners.append(k._replace(ends=ends) if len(ends) > 1 else k)
    for t in key.tees:
        ends = tuple(e for e in t.ends if e[0] not in out_of)
        tees.append(t._replace(ends=ends) if ends and t.on not in out_of else t)
    return key.with_(corners=tuple(corners), tees=tuple(tees))


def _with_start(
    key: Drawing, start: Drawing, begun: Linework, tolerances: tol.Tolerances, unit: Unit
) -> Drawing:
    """Return a key with what its own file leaves out of the start drawing: that is given all the same."""
    ours, theirs = tables(simplify(key, length_tolerance=unit.tolerances.length)), tables(begun)
    there: set[str] = set()
    for kind in SHAPES:
        _, columns = exact_pairs(ours[kind], theirs[kind], tolerances.position)
        there.update(theirs[kind].ids[i] for i in columns.tolist())
    lacking = {source for i, f in begun.curves.items() if i not in there for source in f.sources}
    words = {(t.wording, t.layer) for t in key.entities if isinstance(t, Text)}
    more = tuple(
        e
        for e in start.entities
        if (e.source in lacking if not isinstance(e, Text) else (e.wording, e.layer) not in words)
    )
    return replace(key, entities=key.entities + more, layers={**start.layers, **key.layers})


def _given(key: Linework, start: Linework, tolerances: tol.Tolerances) -> list[str]:
    """Return the key features that lie on a feature of the start drawing."""
    ours, theirs = tables(key), tables(start)
    out = []
    for kind in SHAPES:
        rows, _ = exact_pairs(ours[kind], theirs[kind], tolerances.position)
        out += [ours[kind].ids[i] for i in rows.tolist()]
    there = {(t.wording, round(t.at[0], 6), round(t.at[1], 6)) for t in start.texts}
    out += [t.id for t in key.texts if (t.wording, round(t.at[0], 6), round(t.at[1], 6)) in there]
    return out


def check_rules(requirements: tuple[Requirement, ...], setting: MarkingSetting) -> None:
    """Make sure that every requirement can be asked of the key. Raises RuleError."""
    key, seen = setting.key, set[int]()
    for r in requirements:
        kind = KINDS.get(r.kind)
        if kind is None:
            raise RuleError(
                f"Requirement {r.id}: the kind {r.kind!r} is not known. Kinds: {', '.join(KINDS)}."
            )
        missing = [i for i in r.features if i not in key.by_id and i not in setting.views]
        if missing:
            raise RuleError(
                f"Requirement {r.id}: the key has no feature {missing[0]}. Propose a new rule set from "
                "this key."
            )
        if not kind.fits(r.features):
            raise RuleError(
                f"Requirement {r.id}: {r.kind} cannot be asked of {', '.join(r.features) or 'nothing'}."
            )
        if r.id in seen:
            raise RuleError(f"Two requirements have the number {r.id}. Give each its own.")
        seen.add(r.id)
