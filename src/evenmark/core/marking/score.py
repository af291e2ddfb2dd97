"""Score: marks, in decimal arithmetic, so that they add up to the last digit.

- *step*: the smallest mark that is given: a hundredth, or finer when there are more requirements than
  hundredths.
- All requirements that are on share the exercise's marks by weight; what rounding leaves goes to the largest
  remainders.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from decimal import ROUND_HALF_UP, Decimal

from evenmark.core.marking.charges import CHARGED
from evenmark.core.marking.model import Finding, Requirement, RuleError, RuleSet

CLUTTER_STEP = Decimal("0.2")
"""What one charged item takes of the marks of `clean`; five take all."""
TIMES_PAIRED = frozenset({"whole", "clean", "layer-style"})
"""Kinds that earn times the share of key features paired, so that an empty sheet earns nothing."""
FINEST_MARKS = Decimal("0.000000001")
"""No mark is finer, however many requirements there are."""
EARNS_ALL = ("met", "follows")
"""Verdicts that cost nothing; a pair is looked through faster than a set is hashed."""


def step_of(marks: float, requirements: int) -> Decimal:
    """Return the smallest mark: a hundredth, or the power of ten that still gives each requirement one
    step."""
    step = Decimal("0.01")
    while requirements and Decimal(str(marks)) / step < requirements * 10 and step > FINEST_MARKS:
        step /= 10
    return step if requirements * 10 > Decimal(str(marks)) / Decimal("0.01") else Decimal("0.01")


def allot(requirements: tuple[Requirement, ...], rules: RuleSet) -> dict[int, Decimal]:
    """Return the marks of each requirement that is on, by id; they sum exactly to the exercise's marks unless
    all weights are zero.

    Marks that the rule set fixes for a feature are shared among the requirements about it, those fixed for a
    kind among the others of that kind, and what is left among all others, each by weight. Raises RuleError
    when more is fixed than there is.
    """
    on = [r for r in requirements if r.on and r.weight > 0]
    if rules.charges is not None:
        on = [r for r in on if r.kind not in CHARGED]
    step = step_of(rules.marks, len(on))
    fixed: list[tuple[Decimal, list[Requirement]]] = []
    rest = on
    for feature, given in rules.feature_marks.items():
        chosen = [r for r in rest if r.features[:1] == (feature,)]
        rest = [r for r in rest if r.features[:1] != (feature,)]
        fixed.append((Decimal(str(given)), chosen))
    for kind, given in rules.kind_marks.items():
        chosen = [r for r in rest if r.kind == kind]
        rest = [r for r in rest if r.kind != kind]
        fixed.append((Decimal(str(given)), chosen))
    used = sum((marks for marks, chosen in fixed if chosen), Decimal(0))
    left = Decimal(str(rules.marks)) - used
    if left < 0:
        raise RuleError(
            f"Kinds and features are given {used} marks, more than the {rules.marks:g} of the exercise. "
            "Give less, or raise the exercise's marks."
        )
    if not rest and left and used:
        raise RuleError(
            f"Every requirement has its marks fixed, and {left} of {rules.marks:g} are not given out. "
            "Make them add up."
        )
    out = _shared(rest, left, step)
    for marks, chosen in fixed:
        out |= _shared(chosen, marks, step)
    return out


def _shared(on: list[Requirement], marks: Decimal, step: Decimal) -> dict[int, Decimal]:
    """Share marks among requirements by weight, to the last step."""
    weights = {w: Decimal(str(w)) for w in {r.weight for r in on}}
    total = sum((weights[r.weight] for r in on), Decimal(0))
    if not total:
        return {}
    steps = int((marks / step).to_integral_value(ROUND_HALF_UP))
    shares = {w: v * steps / total for w, v in weights.items()}
    exact = {r.id: shares[r.weight] for r in on}
    whole = {i: int(v) for i, v in exact.items()}
    for i in sorted(exact, key=lambda i: (whole[i] - exact[i], i))[: steps - sum(whole.values())]:
        whole[i] += 1
    return {i: n * step for i, n in whole.items()}


def looked_at(findings: Sequence[Finding]) -> list[Finding]:
    """Return the findings that may earn anything but their marks: those that are not met, and those about the
    whole drawing."""
    return [f for f in findings if f[9] != "met" or f[1] in TIMES_PAIRED]


def score(
    looked: Sequence[Finding], marks: Mapping[int, Decimal], rules: RuleSet, paired: float
) -> dict[int, Decimal]:
    """Return what each finding that has marks earned, by its id: ``looked`` are those that may earn less than
    their marks (see `looked_at`), ``paired`` is the share of the key for which something was drawn."""
    share, near = Decimal(str(min(1.0, paired))), Decimal(str(rules.near_share))
    step = step_of(rules.marks, len(marks))
    nothing = Decimal(0)
    bounded = rules.clutter_each is not None or rules.clutter_cap is not None
    out = dict(marks)
    for f in looked:
        possible = marks.get(f.id, nothing)
        if f.kind not in TIMES_PAIRED:
            if f.verdict not in EARNS_ALL:
                out[f.id] = (
                    (possible * near).quantize(step, ROUND_HALF_UP) if f.verdict == "near" else nothing
                )
        elif f.kind == "clean" and bounded:
            earned = possible * share - clutter_cost(f, possible, rules) if f.verdict != "absent" else nothing
            out[f.id] = earned.quantize(step, ROUND_HALF_UP)
        else:
            out[f.id] = (possible * _part(f, near) * share).quantize(step, ROUND_HALF_UP)
    return out


def _part(f: Finding, near: Decimal) -> Decimal:
    """Return the share of its marks that a finding about the whole drawing earns."""
    if f.verdict in EARNS_ALL:
        return Decimal(1)
    if f.kind == "clean":
        return max(Decimal(0), 1 - CLUTTER_STEP * int(f.deviation or 0))
    return near if f.verdict == "near" else Decimal(0)


def clutter_cost(f: Finding, possible: Decimal, rules: RuleSet) -> Decimal:
    """Return what the charged items of `clean` cost together: each its marks, never more than the cap."""
    each = possible * CLUTTER_STEP if rules.clutter_each is None else Decimal(str(rules.clutter_each))
    cap = possible if rules.clutter_cap is None else Decimal(str(rules.clutter_cap))
    return min(each * int(f.deviation or 0), cap)


def total_of(earned_for: Mapping[int, Decimal], taken_for: Mapping[int, Decimal] | None = None) -> Decimal:
    """Return all marks together less what is taken away, never less than none."""
    taken = sum((taken_for or {}).values(), Decimal(0))
    return max(Decimal(0), sum(earned_for.values(), Decimal(0)) - taken)
