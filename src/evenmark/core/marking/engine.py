"""The engine from end to end; reads like the lines at the head of marking.md.

attempt --simplify--> Linework --place--> placed Linework
key Linework + placed Linework --match--> Pairing --examine--> Findings --explain--> Causes --score--> MarkSheet
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from decimal import Decimal
from functools import cached_property

from evenmark.core.collector import held_still
from evenmark.core.drawing.model import Drawing
from evenmark.core.formats import read
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.motions import Motion
from evenmark.core.geometry.units import BY_SYMBOL, MM, Unit
from evenmark.core.linework import Linework, simplify
from evenmark.core.marking import place
from evenmark.core.marking.bound import Hopes, Spots, spots
from evenmark.core.marking.case import Ask, Case, Measure, joint_table
from evenmark.core.marking.examine import examine
from evenmark.core.marking.explain import explain
from evenmark.core.marking.follow import follow
from evenmark.core.marking.match import Pairing, match
from evenmark.core.marking.measure import KINDS, Joints, ask
from evenmark.core.marking.model import POLICIES, Finding, MarkSheet, Note, Requirement, RuleError, RuleSet
from evenmark.core.marking.move import moved
from evenmark.core.marking.propose import default_roles, propose
from evenmark.core.marking.score import allot, score
from evenmark.core.marking.shapes import Table, tables
from evenmark.core.marking.shapes import moved as moved_tables
from evenmark.core.marking.slips import ALL


@dataclass(frozen=True, kw_only=True)
class Key:
    """A key made ready once for any number of attempts."""

    linework: Linework
    rules: RuleSet
    requirements: tuple[Requirement, ...]
    marks: dict[int, Decimal]
    unit: Unit
    declared: bool
    tolerances: tol.Tolerances
    tables: dict[str, Table]
    joints: Joints
    asks: tuple[Ask, ...]
    joint_spots: Spots
    center_spots: Spots

    @cached_property
    def possible(self) -> Decimal:
        """The marks of everything that is asked, together."""
        return sum(self.marks.values(), Decimal(0))


def prepare(drawing: Drawing, rules: RuleSet | None = None) -> Key:
    """Make a key ready: its linework, its requirements (proposed where the rule set has none) and their marks.

    Raises RuleError for a rule set that does not fit the key.
    """
    rules = rules or RuleSet()
    if rules.placement not in POLICIES:
        raise RuleError(f"Placement {rules.placement!r} is not known. Use one of: {', '.join(POLICIES)}.")
    unit = drawing.unit or BY_SYMBOL.get(rules.unit or "mm", MM)
    tolerances = rules.tolerances or unit.tolerances
    linework = simplify(drawing, length_tolerance=unit.tolerances.length)
    roles = {**default_roles(list(drawing.layers)), **rules.roles}
    requirements = rules.requirements
    if requirements is None:
        requirements = propose(linework, roles, tolerances.length)
    _check_rules(requirements, linework)
    joints = joint_table(linework)
    marks = allot(requirements, rules.marks)
    asks = tuple(ask(r, linework, tolerances, joints) for r in requirements if r.on)
    return Key(
        linework=linework,
        rules=replace(rules, roles=roles),
        requirements=requirements,
        marks=marks,
        unit=unit,
        declared=drawing.unit is not None,
        tolerances=tolerances,
        tables=tables(linework),
        joints=joints,
        asks=asks,
        joint_spots=spots(asks, marks, "kt"),
        center_spots=spots(asks, marks, "c"),
    )


def _check_rules(requirements: tuple[Requirement, ...], key: Linework) -> None:
    seen: set[int] = set()
    for r in requirements:
        if r.kind not in KINDS:
            raise RuleError(
                f"Requirement {r.id}: the kind {r.kind!r} is not known. Kinds: {', '.join(KINDS)}."
            )
        missing = [i for i in r.features if i not in key.by_id]
        if missing:
            raise RuleError(
                f"Requirement {r.id}: the key has no feature {missing[0]}. Propose the rule set anew from this key."
            )
        if r.kind == "layer-style" and r.layer not in key.layers:
            raise RuleError(f"Requirement {r.id}: the key has no layer {r.layer!r}.")
        if r.kind not in ("whole", "clean", "layer-style") and not _fits(r):
            raise RuleError(
                f"Requirement {r.id}: {r.kind} cannot be asked of {', '.join(r.features) or 'nothing'}."
            )
        if r.id in seen:
            raise RuleError(f"Two requirements have the number {r.id}. Give each its own.")
        seen.add(r.id)


_ASKED_OF = {
    "length": ("e",), "angle": ("e",), "radius": ("ac",), "sweep": ("a",), "position": ("kact",), "joined": ("kt",),
    "closed": ("o",), "layer": ("eacx",), "tangent": ("ac", "eac"),
}  # fmt: skip
"""Which features, by the letters of their ids, each kind can be asked of."""


def _fits(r: Requirement) -> bool:
    letters = _ASKED_OF[r.kind]
    return len(letters) == len(r.features) and all(
        i[0] in allowed for i, allowed in zip(r.features, letters, strict=True)
    )


@dataclass(frozen=True, kw_only=True)
class _Trial:
    """One placement examined in full."""

    motion: Motion
    pairing: Pairing
    case: Case
    findings: list[Finding]
    earned_for: dict[int, Decimal]

    @cached_property
    def earned(self) -> Decimal:
        """All marks together."""
        return sum(self.earned_for.values(), Decimal(0))


@dataclass(frozen=True, kw_only=True)
class Checked:
    """A mark sheet, with the attempt's linework as it was laid on the key."""

    sheet: MarkSheet
    placed: Linework


def check_bytes(key: Key, data: bytes) -> MarkSheet:
    """Read an attempt and hold it against a key. Raises UnreadableDrawing."""
    with held_still():
        return check_in_full(key, read(data)).sheet


def check(key: Key, attempt: Drawing) -> MarkSheet:
    """Hold an attempt against a key."""
    return check_in_full(key, attempt).sheet


def check_in_full(key: Key, attempt: Drawing) -> Checked:
    """Hold an attempt against a key, and keep what it looked like there."""
    with held_still():
        return _check(key, attempt)


def _check(key: Key, attempt: Drawing) -> Checked:
    scale, notes = _conversion(key, attempt)
    trial = _best(key, simplify(attempt, length_tolerance=key.unit.tolerances.length, scale=scale))
    if scale != 1.0 and (trial.pairing.share < 1.0 or not trial.case.whole.agrees):
        bare = _best(key, simplify(attempt, length_tolerance=key.unit.tolerances.length))
        better = not trial.case.whole.agrees or bare.pairing.share > trial.pairing.share
        if bare.case.whole.agrees and bare.pairing.share >= place.ENOUGH and better:
            trial, notes = bare, [_unit_note("unit-not-converted", key, attempt)]
    findings = trial.findings
    causes = explain(findings, trial.case, key.unit.symbol, ALL)
    by_finding: dict[int, list[int]] = {}
    for cause in causes:
        for i in cause.explains:
            by_finding.setdefault(i, []).append(cause.id)
    if by_finding:
        findings = [f._replace(causes=tuple(by_finding[f.id])) if f.id in by_finding else f for f in findings]
    earned = trial.earned
    if notes and notes[0].code == "unit-not-converted":
        earned = max(Decimal(0), earned - Decimal(str(key.rules.unit_charge)))
    sheet = MarkSheet(
        unit=key.unit.symbol,
        policy=key.rules.placement,
        motion=trial.motion,
        earned=earned,
        possible=key.possible,
        findings=tuple(findings),
        causes=causes,
        notes=tuple(notes) + tuple(Note(code=o.code, says=o.says) for o in attempt.oddities),
        earned_for=trial.earned_for,
        possible_for=key.marks,
        partners={i: p.id for i, p in trial.pairing.partners.items()},
    )
    return Checked(sheet=sheet, placed=trial.case.drawn)


def _conversion(key: Key, attempt: Drawing) -> tuple[float, list[Note]]:
    """Return the factor from attempt units to key units; other than 1 only when both files declare a unit."""
    if attempt.unit is None:
        return 1.0, [
            Note(
                code="unit-assumed",
                says=f"The file declares no unit; its sizes are read as {key.unit.symbol}.",
            )
        ]
    if not key.declared or not key.rules.any_unit or attempt.unit.mm == key.unit.mm:
        return 1.0, []
    return attempt.unit.mm / key.unit.mm, [_unit_note("unit-converted", key, attempt)]


def _unit_note(code: str, key: Key, attempt: Drawing) -> Note:
    unit = attempt.unit or key.unit
    if code == "unit-converted":
        return Note(
            code=code, says=f"The file declares {unit.symbol}; its sizes were converted to {key.unit.symbol}."
        )
    says = f"The file declares {unit.symbol}, but its numbers are those asked for in {key.unit.symbol}; they were used as they stand."
    return Note(code=code, says=says)


_SURELY = 1e-6
"""Marks by which a candidate must be beaten for certain before it is left out unexamined."""


def _best(key: Key, drawn: Linework) -> _Trial:
    """Return the placement that earns most: of the policy's candidates, or beyond the policy if that alone explains the whole."""
    own = tables(drawn)
    slack = tol.slack(max(key.linework.largest, drawn.largest))
    reach = key.tolerances.position + slack
    policy = key.rules.placement
    best: _Trial | None = None
    possible = float(key.possible)
    hopes: Hopes | None = None
    for motion in place.candidates(key.tables, own, policy, reach):
        if best is not None:
            hopes = hopes or Hopes(key.joint_spots, key.center_spots, own, key.rules.near_share, slack)
            room = possible - float(best.earned) + _SURELY
            if hopes.lost(motion, room) > room:
                continue
        trial = _examined(key, drawn, own, motion, slack, _as_allowed())
        if best is None or (-trial.earned, place.simplest(trial.motion)) < (
            -best.earned,
            place.simplest(best.motion),
        ):
            best = trial
        if trial.pairing.share == 1.0:
            break
    assert best is not None
    if best.pairing.share < place.ENOUGH and len(drawn.curves):
        slip = place.slip_of_whole(key.tables, own, policy, reach, best.pairing.share)
        if slip is not None:
            return _examined(key, drawn, own, slip[0], slack, _slipped(slip[0]))
    return best


def _as_allowed() -> Measure:
    return Measure(expected="as the exercise allows", measured="as the exercise allows", agrees=True)


def _slipped(motion: Motion) -> Measure:
    return Measure(expected="as the exercise allows", measured=say_motion(motion), agrees=False)


def say_motion(m: Motion) -> str:
    """Say a motion in words, leaving out what does nothing."""
    parts = []
    if m.scale != 1.0:
        parts.append(f"scale {m.scale:.6g}")
    if m.mirror:
        parts.append("mirrored")
    if m.turn_deg:
        parts.append(f"turned {m.turn_deg:.6g}°")
    if m.shift != (0.0, 0.0):
        parts.append(f"shifted {m.shift[0]:.6g}, {m.shift[1]:.6g}")
    return ", ".join(parts) or "not moved"


def _examined(
    key: Key, drawn: Linework, own: dict[str, Table], motion: Motion, slack: float, whole: Measure
) -> _Trial:
    placed = moved(drawn, motion)
    placed_tables = moved_tables(own, motion)
    pairing = match(key.linework, placed, key.tables, placed_tables, key.tolerances.position + slack)
    case = Case(
        key=key.linework,
        drawn=placed,
        pairing=pairing,
        rules=key.rules,
        tolerances=key.tolerances,
        slack=slack,
        key_joints=key.joints,
        drawn_tables=placed_tables,
        whole=whole,
        whole_motion=motion,
    )
    findings = follow(examine(key.asks, case), case)
    earned_for = score(findings, key.marks, key.rules, pairing.paired)
    return _Trial(motion=motion, pairing=pairing, case=case, findings=findings, earned_for=earned_for)
