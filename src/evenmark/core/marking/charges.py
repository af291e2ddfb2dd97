"""Charges: what is taken away, and what earns nothing (marking.md, Charges, Each slip costs, Habits).

- *charge*: marks taken away for the whole drawing, for what is left over, and up to the floor of a slip.
- *slip*: findings that are charged for one reason: those of one cause, or one by itself, with what follows.
- *habit*: a layer, a joint, a whole edge, a look. *settled*: a feature whose size and place are met or
  follow.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Iterable, Mapping, Sequence
from decimal import ROUND_HALF_UP, Decimal

from evenmark.core.linework.model import Linework
from evenmark.core.marking.attribute import OPEN
from evenmark.core.marking.examination import Asked
from evenmark.core.marking.kinds import SENSES, those
from evenmark.core.marking.led import OWN, PLACES
from evenmark.core.marking.missing import missing_with, shares_beside
from evenmark.core.marking.model import Cause, Charges, Finding, RuleSet, Verdict

HABITS = those(lambda k: k.habit == "habit")
"""Kinds that earn only for a settled feature."""
READ = those(lambda k: k.habit == "implied")
"""By the sheet, what is taken as read earns like a habit: level edges alone make no part."""
_OF_CENTRES = those(lambda k: k.of_centres)
"""Kinds that ask for places alone: a hole of another size may well stand where it should."""
_SIZES = those(lambda k: k.settles in ("size", "place", "said"))
_SHARED = those(lambda k: k.habit == "shared")
VIEWS = those(lambda k: k.settles == "views")
"""Kinds that say how views stand."""
CHARGED = those(lambda k: k.part == "charged")
"""Kinds that earn nothing and are charged."""


def unsettled(
    findings: Iterable[Finding],
    key: Linework,
    verdicts: tuple[Verdict, ...] = OPEN,
    kinds: Collection[str] = OWN,
) -> dict[str, int]:
    """Return the features whose own size or place is neither met nor follows, each with the finding that says
    so: curves, corners and meetings, and edges both of whose ends are out of place."""
    out: dict[str, int] = {}
    for f in findings:
        if f.kind in kinds and len(f.features) == 1 and f.verdict in verdicts:
            out.setdefault(f.features[0], f.id)
    astray: dict[str, list[int]] = {}
    for i, number in out.items():
        joint = key.meetings.get(i)
        for e, _ in joint.ends if joint is not None else ():
            astray.setdefault(e, []).append(number)
    return {e: numbers[0] for e, numbers in astray.items() if len(numbers) > 1} | out


def _told(
    off: dict[str, int],
    findings: Iterable[Finding],
    looked: Sequence[Finding],
    heads: Mapping[int, int],
    watched: Collection[int],
) -> dict[str, int]:
    """Return what is not settled with the finding that a mark sheet tells of it, or else with another that is
    wrong about it or where it ends; what none tells of loses nothing."""
    beside: dict[str, int] = {}
    for f in sorted(looked, key=lambda f: f.verdict == "follows"):
        told = f.root if f.verdict == "follows" else f.id
        if f.verdict != "met" and f.kind not in CHARGED and f.id not in watched and told not in watched:
            beside.update((i, told) for i in f.features if i not in beside)
    about = {f.id: f.features[0] for f in findings if f.id in watched and f.features}
    out: dict[str, int] = {}
    for i, n in off.items():
        told = heads.get(n, n)
        if told in watched:
            told = beside.get(i, beside.get(about.get(n, i), n))
        if told not in watched:
            out[i] = told
    return out


def _with_outlines(off: dict[str, int], key: Linework) -> dict[str, int]:
    """Return features that are not settled with the outlines that they are members of, each with the finding
    of the first of them."""
    out = dict(off)
    for outline in key.outlines:
        because = next((off[m] for m, _ in outline.members if m in off), None)
        if because is not None:
            out.setdefault(outline.id, because)
    return out


def settled_share(
    findings: Iterable[Finding], key: Linework, gone: Collection[str] = (), beside: Collection[str] = ()
) -> Decimal:
    """Return the share of a key's curves, but for those ``beside`` of which it is asked, that were drawn and
    are settled, or nearly; ``gone`` are others that are missing."""
    off = unsettled(findings, key, ("missed", "absent"))
    asked = [i for i in key.curves if i not in beside]
    return Decimal(sum(i not in off and i not in gone for i in asked)) / max(1, len(asked))


def right_share(findings: Sequence[Finding], key: Linework, given: Collection[str]) -> Decimal:
    """Return the share of a key's curves that were drawn and are settled, what is missing with others taken
    as missing; what students are given is nobody's work."""
    gone = {f.id for f in findings if f.verdict == "absent"}
    lacking = frozenset().union(*missing_with(findings, gone, {}, key.curves).values())
    return settled_share(findings, key, lacking, given)


def charged(
    findings: Sequence[Finding], charges: Charges, mirrored: bool, scale: Decimal, step: Decimal
) -> dict[int, Decimal]:
    """Return what the whole drawing and what is left over are charged, by finding; ``mirrored`` says whether
    the drawing had to be mirrored, ``scale`` is what one mark of 100 is worth, ``step`` the smallest mark."""
    out: dict[int, Decimal] = {}
    for f in findings:
        if f.kind == "whole" and f.verdict == "missed":
            out[f.id] = _marks(charges.mirrored if mirrored else charges.whole, scale, step)
        elif f.kind == "clean" and f.verdict == "missed":
            counted = [i for i in f.items if i.charged]
            twice = sum(i.code == "drawn-twice" for i in counted)
            pieces = sum(i.code == "chords" for i in counted)
            cost = min(charges.each * twice, charges.twice) + min(charges.each * pieces, charges.habit_most)
            cost += charges.each * (len(counted) - twice - pieces)
            out[f.id] = _marks(min(cost, charges.most), scale, step)
    return {i: v for i, v in out.items() if v}


def earned_with(
    out: dict[int, Decimal],
    looked: Sequence[Finding],
    wrong: Sequence[Finding],
    asked: Asked,
    watched: Collection[int],
    heads: Mapping[int, int],
    key: Linework,
    rules: RuleSet,
    marks: Mapping[int, Decimal],
    step: Decimal,
) -> dict[int, int]:
    """Change what findings earn to what they earn under the charges of a rule set: habits only where the
    feature is settled, looks by the share of their layer that is, and what follows by how much of the drawing
    is right. Return for each habit that earned nothing the finding that it was lost with.

    ``out`` is what each finding that has marks earned, ``looked`` are those that are asked and may earn less
    than their marks (see `score.looked_at`), ``wrong`` all that were examined and are not met, ``asked`` what
    was examined, ``watched`` of it what nobody asked for, ``heads`` what stands for it on a mark sheet.
    """
    charges = rules.charges
    if charges is None or not any(f.verdict in OPEN for f in looked):
        return {}  # nothing that anybody could be shown went wrong
    off, astray = (
        _told(unsettled(wrong, key, kinds=kinds), wrong, looked, heads, watched) for kinds in (OWN, PLACES)
    )
    gone = {f.id for f in (*wrong, *looked) if f.verdict == "absent"}
    carried = _followed(out, looked, wrong, gone, heads, key, rules, charges, marks, step)
    if not charges.habits:
        return {}
    off, astray = _with_outlines(off, key), _with_outlines(astray, key)
    by_sheet = rules.listing == "sheet"
    not_met = {f.id for f in looked if f.verdict != "met"}.union(watched)
    lost = _habits(out, asked, off, astray, not_met, carried if by_sheet else None, step)
    return lost | _looks(out, looked, asked, off, gone, marks, step)


def _followed(
    out: dict[int, Decimal],
    looked: Sequence[Finding],
    wrong: Sequence[Finding],
    gone: Collection[int],
    heads: Mapping[int, int],
    key: Linework,
    rules: RuleSet,
    charges: Charges,
    marks: Mapping[int, Decimal],
    step: Decimal,
) -> Decimal:
    """Let what follows earn by how much of the drawing is right, beside what is ``gone`` less; return the
    share that what follows a slip earns."""
    missing = missing_with(wrong, gone, heads, key.curves)
    lacking = frozenset().union(*missing.values())
    given = frozenset(rules.given)
    share = settled_share(wrong, key, lacking, given)
    carried = min(Decimal(1), share / Decimal(str(charges.enough))) if charges.enough else Decimal(1)
    scale = Decimal(str(rules.marks)) / 100
    beside = shares_beside(
        gone,
        missing,
        looked,
        marks,
        charges,
        scale,
        lambda i: settled_share(wrong, key, lacking, given.union(i)) if i else share,
    )
    for f in looked:
        if f.verdict == "follows" and f.id in out:
            part = beside.get(f.root, carried)
            out[f.id] = (out[f.id] * part).quantize(step, ROUND_HALF_UP)
    return carried


def _habits(
    out: dict[int, Decimal],
    asked: Asked,
    off: Mapping[str, int],
    astray: Mapping[str, int],
    spared: Collection[int],
    carried: Decimal | None,
    step: Decimal,
) -> dict[int, int]:
    """Let habits of what is not settled earn nothing, and by the sheet what is read from it (``carried``)
    less; return with which finding each was lost."""
    lost: dict[int, int] = {}
    about_them = {a.r.id: a.r for i in {**off, **astray} for a in asked.by_feature.get(i, ())}
    for n, r in sorted(about_them.items()):
        is_read = carried is not None and r.kind in READ
        if n in spared or not (r.kind in HABITS or is_read):
            continue
        about = astray if r.kind in _OF_CENTRES else off
        because = next((about[i] for i in r.features if i in about), None)
        if because is None:
            continue
        if r.kind in HABITS:
            out[n], lost[n] = Decimal(0), because
        elif carried is not None and carried < 1 and n in out:
            out[n], lost[n] = (out[n] * carried).quantize(step, ROUND_HALF_UP), because
    return lost


def _looks(
    out: dict[int, Decimal],
    looked: Sequence[Finding],
    asked: Asked,
    off: Mapping[str, int],
    gone: Collection[int],
    marks: Mapping[int, Decimal],
    step: Decimal,
) -> dict[int, int]:
    """Let the look of a layer earn by the share of it that is settled; return what it was lost with: of
    several, what is wrong about most of it."""
    lost: dict[int, int] = {}
    looks = [f for f in looked if f.kind == "layer-style" and f.layer is not None and out.get(f.id)]
    elsewhere = {
        f.features[0]: f.root
        for f in looked
        if f.kind == "layer" and f.verdict != "met" and (f.follows is None or f.follows in gone)
    }
    for f in looks:
        own = asked.layers.get(f.layer or "", [])
        reasons = [n for i in own if (n := off.get(i, elsewhere.get(i))) is not None]
        part = Decimal(len(own) - len(reasons)) / len(own) if own else Decimal(1)
        out[f.id] = (marks.get(f.id, Decimal(0)) * part).quantize(step, ROUND_HALF_UP)
        if reasons:
            lost[f.id] = max(dict.fromkeys(reasons), key=reasons.count)
    return lost


def floors_with(
    findings: Sequence[Finding],
    causes: Sequence[Cause],
    earned_for: Mapping[int, Decimal],
    lost_with: Mapping[int, int],
    marks: Mapping[int, Decimal],
    rules: RuleSet,
    scale: Decimal,
    step: Decimal,
) -> dict[int, Decimal]:
    """Return what is charged so that each slip costs its floor, by the finding that it is charged to.

    Habits of features that are not settled were lost with a slip, too (``lost_with``). Where the floors of
    many slips come to more than they may together, each is taken in proportion. ``findings`` are those that
    may earn less than their marks (see `score.looked_at`).
    """
    charges, none = rules.charges, Decimal(0)
    if charges is None or not any(f.verdict in OPEN and f.kind not in CHARGED for f in findings):
        return {}
    lost: dict[int, Decimal] = {}
    for i, slip in ({f.id: f.root for f in findings} | dict(lost_with)).items():
        lost[slip] = lost.get(slip, none) + marks.get(i, none) - earned_for.get(i, none)
    short: dict[int, Decimal] = {}
    done = Counter(f.root for f in findings if f.verdict == "follows" and f.kind in HABITS)
    for group in slips_of(findings, causes):
        several = _several(group, causes)
        often = sum(done[f.id] for f in group) > 1
        by = several * _floor_of(group, charges, often) * scale - sum(
            (lost.get(f.id, none) for f in group), none
        )
        if by > 0:
            short[group[0].id] = by
    _together(short, findings, Decimal(str(charges.floor_sizes)) * scale)
    total, most = sum(short.values(), none), Decimal(str(charges.floors_most)) * scale
    part = min(total, most) / total if total else none
    return {i: v for i, by in short.items() if (v := (by * part).quantize(step, ROUND_HALF_UP))}


def slips_of(findings: Iterable[Finding], causes: Sequence[Cause]) -> list[list[Finding]]:
    """Return the charged findings in groups: those of one cause, or one by itself."""
    slip_of: dict[int, tuple[str, int]] = {}
    for cause in causes:
        for i in cause.explains:
            slip_of.setdefault(i, ("cause", cause.id))
    slips: dict[tuple[str, int], list[Finding]] = {}
    for f in findings:
        if f.verdict in OPEN and f.kind not in CHARGED:
            slips.setdefault(slip_of.get(f.id, ("finding", f.id)), []).append(f)
    return list(slips.values())


def _several(group: Sequence[Finding], causes: Sequence[Cause]) -> int:
    """Return how many slips a group is: sides and senses are one line, whatever went wrong with them."""
    senses = [f.id for f in group if f.kind == SENSES]
    return max(1, *(sum(1 for c in causes if i in c.explains) for i in senses)) if senses else 1


def _together(short: dict[int, Decimal], findings: Sequence[Finding], most: Decimal) -> None:
    """Let what was not drawn count as one slip: it is missing for one reason, and each feature lost its own
    marks."""
    gone = [f.id for f in findings if f.verdict == "absent" and f.id in short]
    total = sum((short[i] for i in gone), Decimal(0))
    if total > most:
        for i in gone:
            short[i] *= most / total


def _floor_of(slip: Sequence[Finding], charges: Charges, often: bool) -> Decimal:
    """Return what a slip costs at least: half of it where it is only near; ``often`` says whether it is a
    habit."""
    floor = charges.floor_sizes if often or any(f.kind in _SIZES for f in slip) else charges.floor
    if any(f.verdict == "absent" for f in slip):
        floor = max(floor, charges.floor_missing)
    if any(f.kind in _SHARED for f in slip):
        floor = max(floor, charges.floor_sizes)
    if any(f.kind in VIEWS for f in slip):
        floor = max(floor, charges.floor_views)
    return Decimal(str(floor / 2 if all(f.verdict == "near" for f in slip) else floor))


def _marks(of_hundred: float, scale: Decimal, step: Decimal) -> Decimal:
    return (Decimal(str(of_hundred)) * scale).quantize(step, ROUND_HALF_UP)
