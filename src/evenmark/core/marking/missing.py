"""What is missing as one: what follows a feature that was not drawn earns a share of its marks, and no group
that is missing costs more than many slips together (marking.md, Groups are one)."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Collection, Mapping, Sequence
from decimal import Decimal

from evenmark.core.marking.led import OWN
from evenmark.core.marking.model import Charges, Finding


def missing_with(
    findings: Sequence[Finding], gone: Collection[int], heads: Mapping[int, int], curves: Collection[str]
) -> dict[int, set[str]]:
    """Return the curves that are missing with another, by the finding of that one; ``gone`` are findings of
    what was not drawn, ``curves`` those of the key."""
    out: dict[int, set[str]] = defaultdict(set)
    first = {f.id: f.features for f in findings}
    for f in findings:
        follows = f.verdict == "follows" and f.follows in gone and f.measured is None
        if follows and f.kind in OWN and f.features[0] in curves:
            out[heads.get(f.root, f.root)].update((*f.features, *first.get(f.root, ())))
    return out


def shares_beside(
    gone: Collection[int],
    missing: Mapping[int, set[str]],
    looked: Sequence[Finding],
    marks: Mapping[int, Decimal],
    charges: Charges,
    scale: Decimal,
    settled: Callable[[Collection[str]], Decimal],
) -> dict[int, Decimal]:
    """Return by what share of its marks what follows each finding of something that was not drawn earns.

    ``marks`` is what each finding may earn, ``scale`` what one mark of 100 is worth; ``settled`` gives the
    share of a drawing that is right beside some features.
    """
    behind, own = dict[int, Decimal](), dict[tuple[str, ...], Decimal]()
    for f in looked:
        if f.verdict == "follows" and f.root in missing:
            behind[f.root] = behind.get(f.root, Decimal(0)) + marks.get(f.id, Decimal(0))
        elif f.verdict == "absent":
            own[f.features] = own.get(f.features, Decimal(0)) + marks.get(f.id, Decimal(0))
    features = {f.id: f.features for f in looked}
    usual = Decimal(str(charges.beside_absent))
    out = {}
    for n in gone:
        share = settled(missing.get(n, ()))
        part = usual
        if behind.get(n):
            room = Decimal(str(charges.floors_most)) * scale - own.get(features[n], Decimal(0))
            part = max(part, 1 - max(room, Decimal(0)) / behind[n])
        out[n] = part * share * share
    return out
