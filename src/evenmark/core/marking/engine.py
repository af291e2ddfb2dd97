"""The engine from end to end; reads like the lines at the head of marking.md.

attempt --simplify--> Linework --place--> placed Linework key Linework + placed Linework --match--> Pairing
--examine--> Findings --explain--> Causes --score--> MarkSheet
"""

from __future__ import annotations

import functools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal

from evenmark.core.collector import held_still
from evenmark.core.drawing.model import Drawing
from evenmark.core.formats import read_file
from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.similarities import Similarity
from evenmark.core.linework import Linework, simplify
from evenmark.core.linework.model import Curve, Edge
from evenmark.core.linework.wording import number, off_its_place
from evenmark.core.linework.wording import place as where
from evenmark.core.marking import place
from evenmark.core.marking.attribute import OPEN, describe_causes
from evenmark.core.marking.bound import UpperBound
from evenmark.core.marking.charges import VIEWS, floors_with, right_share
from evenmark.core.marking.conversion import conversion, unit_note
from evenmark.core.marking.disagreements import with_disagreements
from evenmark.core.marking.examination import Measure
from evenmark.core.marking.explain import explain
from evenmark.core.marking.key import Key
from evenmark.core.marking.kinds import IN_DEGREES
from evenmark.core.marking.model import Cause, Finding, MarkSheet, SheetNote
from evenmark.core.marking.most import eased
from evenmark.core.marking.prepare import prepare
from evenmark.core.marking.score import total_of
from evenmark.core.marking.shapes import tables
from evenmark.core.marking.slips import ALL
from evenmark.core.marking.trial import Trial, charged_for, examined_under
from evenmark.core.marking.wording import name_of

__all__ = ["Checked", "Key", "check", "check_any", "check_bytes", "check_in_full", "prepare"]


@dataclass(frozen=True, kw_only=True)
class Checked:
    """A mark sheet, with the attempt's linework as it was laid on the key."""

    sheet: MarkSheet
    placed: Linework
    key: int = 0
    """Which of several acceptable keys it was held against."""


Fields = Mapping[str, str]
"""What a sheet should say of its student, by field: name, group, date."""


def check_bytes(key: Key | Sequence[Key], data: bytes, fields: Fields | None = None) -> MarkSheet:
    """Read an attempt and hold it against a key, or against several that are all accepted. Raises
    UnreadableDrawing."""
    with held_still():
        if isinstance(key, Key):
            return _check(
                key, read_file(data), fields or {}
            ).sheet  # nobody else holds the drawing: it is let go early
        return check_any(key, read_file(data), fields).sheet


def check(key: Key, attempt: Drawing, fields: Fields | None = None) -> MarkSheet:
    """Hold an attempt against a key."""
    return check_in_full(key, attempt, fields).sheet


def check_any(keys: Sequence[Key], attempt: Drawing, fields: Fields | None = None) -> Checked:
    """Hold an attempt against each of several acceptable keys; the one that it earns the largest share with
    counts, the first of equals."""
    found = [check_in_full(key, attempt, fields) for key in keys]
    best = max(range(len(found)), key=lambda n: (_share(found[n].sheet), -n))
    return replace(found[best], key=best)


def _share(sheet: MarkSheet) -> Decimal:
    return sheet.earned / sheet.possible if sheet.possible else Decimal(0)


def check_in_full(key: Key, attempt: Drawing, fields: Fields | None = None) -> Checked:
    """Hold an attempt against a key, and keep what it looked like there."""
    with held_still():
        return _check(key, attempt, fields or {})


def _check(key: Key, attempt: Drawing, fields: Fields) -> Checked:
    attempt = key.examined(attempt)
    oddities = [SheetNote(code=o.code, says=o.says) for o in attempt.oddities]
    scale, notes = conversion(key, attempt)
    drawn = simplify(attempt, length_tolerance=key.unit.tolerances.length, scale=scale)
    in_its_unit = attempt if scale != 1.0 else None
    del attempt  # half the memory of a check, where it is not looked at again
    trial = _best(key, drawn, fields)
    if in_its_unit is not None and (trial.pairing.share < 1.0 or not trial.exam.whole.agrees):
        bare = _as_it_stands(key, in_its_unit, trial, fields)
        if bare is not None:
            trial, notes = bare, [unit_note("unit-not-converted", key, in_its_unit)]
    slips = explain(
        trial.wrong,
        trial.exam,
        key.unit.symbol,
        ALL,
        asked=key.asked,
        start=key.start,
        watched=key.watched,
    )
    trial = charged_for(trial, slips, key)
    findings = trial.shown
    in_numbers = functools.partial(_in_numbers, key=key)
    causes = describe_causes(slips, trial.wrong, findings, trial.heads, key.watched, in_numbers)
    causes = with_disagreements(causes, trial.wrong, trial.exam)
    earned_for, taken_for = _marked(trial, causes, key)
    earned = total_of(earned_for, taken_for)
    if notes and notes[0].code == "unit-not-converted":
        earned = max(Decimal(0), earned - Decimal(str(key.rules.unit_charge)))
    sheet = MarkSheet(
        unit=key.unit.symbol,
        policy=key.rules.placement,
        motion=trial.motion,
        earned=earned,
        possible=key.possible,
        findings=tuple(_with_causes(findings, causes, key)),
        causes=causes,
        notes=(*notes, *_typed_over(key, trial.exam.drawn), *oddities),
        earned_for=earned_for,
        possible_for=key.marks,
        partners={i: p.id for i, p in trial.pairing.partners.items()},
        taken_for=taken_for,
        lost_with=trial.lost_with,
        words=key.words,
        written=key.written,
        view_motions={i: Similarity(shift=s) for i, s in trial.exam.view_shifts.items()},
    )
    return Checked(sheet=sheet, placed=trial.exam.drawn)


def _as_it_stands(key: Key, attempt: Drawing, converted: Trial, fields: Fields) -> Trial | None:
    """Return an attempt in another unit with its numbers as they stand, where these fit better."""
    bare = _best(key, simplify(attempt, length_tolerance=key.unit.tolerances.length), fields)
    better = not converted.exam.whole.agrees or bare.pairing.share > converted.pairing.share
    return bare if bare.exam.whole.agrees and bare.pairing.share >= place.ENOUGH and better else None


def _with_causes(findings: list[Finding], causes: Sequence[Cause], key: Key) -> list[Finding]:
    """Return findings with the causes that explain them."""
    by_finding: dict[int, list[int]] = {}
    for cause in causes:
        for i in cause.explains:
            by_finding.setdefault(i, []).append(cause.id)
    if not by_finding:
        return findings
    out, rows = findings.copy(), key.shown
    for i, ids in by_finding.items():
        out[rows[i]] = out[rows[i]]._replace(causes=tuple(ids))
    return out


def _marked(
    trial: Trial, causes: tuple[Cause, ...], key: Key
) -> tuple[dict[int, Decimal], dict[int, Decimal]]:
    """Return what findings earn, habits no less than they may cost, and what is taken away for them, with
    what the floors of slips take."""
    told = (trial.looked, causes)
    right = right_share(trial.wrong, key.linework, key.rules.given)
    earned = eased(*told, trial.earned_for, trial.lost_with, key.marks, key.rules, *key.scale, right)
    taken = dict(trial.taken_for)
    for i, marks in floors_with(*told, earned, trial.lost_with, key.marks, key.rules, *key.scale).items():
        taken[i] = taken.get(i, Decimal(0)) + marks
    return earned, taken


def _in_numbers(f: Finding, key: Key) -> str:
    """Return what was drawn and what was asked for, where no slip explains it."""
    what = name_of(key.words.get(f.id), f.kind, f.features, f.layer)
    if isinstance(f.measured, tuple) and isinstance(f.expected, tuple):
        across, up = f.measured[0] - f.expected[0], f.measured[1] - f.expected[1]
        return f"{what}: it is {off_its_place(across, up, key.unit.symbol, key.tolerances.position)}."
    if not isinstance(f.measured, float) or not isinstance(f.expected, float):
        return f"{what}: it differs from what was asked; no single slip explains it."
    drawn = f"{number(f.measured)}{'°' if f.kind in IN_DEGREES else ' ' + key.unit.symbol} was drawn"
    return f"{what}: {drawn}, {number(f.expected)} was asked for; no single slip explains it."


def _typed_over(key: Key, drawn: Linework) -> list[SheetNote]:
    """Tell dimensions that say another number than they measure, where dimensions themselves are not asked
    for."""
    if key.asked.of("dimension"):
        return []
    asked = {d.typed for d in key.linework.dimensions}
    return [
        SheetNote(
            code="typed-over",
            says=f"The dimension {where(d)} says {d.typed}, typed over its value; it measures "
            f"{number(d.shown)}{'°' if d.kind == 'angular' else ' ' + key.unit.symbol}.",
        )
        for d in drawn.dimensions
        if d.typed is not None and d.typed not in asked
    ]


def _best(key: Key, drawn: Linework, fields: Fields) -> Trial:
    """Return the placement that earns most: of the policy's candidates, or beyond the policy if that alone
    explains the whole."""
    own = tables(drawn)
    slack = tol.slack(max(key.linework.largest, drawn.largest))
    reach = key.tolerances.position + slack
    policy = key.rules.placement
    best: Trial | None = None
    possible = float(key.possible)
    hopes: UpperBound | None = None
    for motion in place.candidates(key.tables, own, policy, reach):
        if best is not None:
            hopes = hopes or UpperBound(key.joint_spots, key.center_spots, own, key.rules.near_share, slack)
            room = possible - float(best.earned) + tol.SURELY_MARKS
            if hopes.lost(motion, room) > room:
                continue
        trial = examined_under(key, drawn, own, motion, slack, _as_allowed(), fields)
        if best is None or (-trial.earned, place.simplest(trial.motion)) < (
            -best.earned,
            place.simplest(best.motion),
        ):
            best = trial
        if trial.pairing.share == 1.0:
            break
    assert best is not None
    if best.pairing.share < place.ENOUGH and len(drawn.curves):
        slips = [
            examined_under(key, drawn, own, motion, slack, _slipped(motion), fields)
            for motion in place.slips_of_whole(key.tables, own, policy, reach, best.pairing.share)
        ]
        # a slip early in a chain carries most of it along and is charged once where it is; so what leaves
        # fewest to charge holds
        if slips:
            first = min(slips, key=lambda t: (-t.otherwise, place.simplest(t.motion)))
            if _weight(first) < _weight(best):
                best = first
    if key.arranged and best.pairing.share < 1.0:
        apart = examined_under(key, drawn, own, best.motion, slack, best.exam.whole, fields, apart=True)
        if apart.exam.view_shifts and (apart.earned > best.earned or _tells_views(apart, best)):
            best = apart
    return best


def _tells_views(apart: Trial, best: Trial) -> bool:
    """Say whether views that stand elsewhere as they are explain a drawing as shortly as its pieces do: then
    that is told, whatever the pieces would cost one by one."""
    moved = sum(1 for shift in apart.exam.view_shifts.values() if any(shift))
    stands = sum(1 for f in apart.wrong if f.kind in VIEWS and f.verdict in OPEN)
    return apart.pairing.share > best.pairing.share and apart.charged - stands + moved <= best.charged


_LINES = frozenset({"centre", "construction", "dimension"})
"""Roles of layers of which nothing says where a part stands."""


def _weight(trial: Trial) -> tuple[int, bool, Decimal]:
    """Return by what trials are weighed: fewest to charge, then whether at least the largest piece stands
    where it should, then marks. A ring of holes that starts elsewhere is no turned drawing."""
    curves = {i: f for i, f in trial.exam.key.curves.items() if trial.exam.role(f.layer) not in _LINES}
    largest = max(curves, key=lambda i: (_size(curves[i]), i), default="")
    stands = trial.pairing.share == 1.0 or largest in trial.exam.exact
    return (trial.charged, not stands, -trial.earned)


def _size(curve: Curve) -> float:
    return curve.length if isinstance(curve, Edge) else 2 * getattr(curve, "radius", 0.0)


def _as_allowed() -> Measure:
    return Measure(expected="as the exercise allows", measured="as the exercise allows", agrees=True)


def _slipped(motion: Similarity) -> Measure:
    return Measure(expected="as the exercise allows", measured=say_motion(motion), agrees=False)


def say_motion(m: Similarity) -> str:
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
