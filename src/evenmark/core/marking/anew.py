"""A list proposed anew, with what somebody had changed in the one before.

- *line*: a requirement as what it asks of which features, whatever its number.

When the instructor says otherwise what a dimension measures, what is taken as read, or how the list is made,
other lines come and go. What was switched, weighed or bounded by hand stays so on every line that is still
there, and what was added by hand is added again.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import fields, replace

from evenmark.core.marking.model import Requirement

_LINE = ("kind", "features", "layer", "direction", "parts", "size")
_BY_HAND = tuple(f.name for f in fields(Requirement) if f.name not in (*_LINE, "id"))


def anew(
    kept: Sequence[Requirement],
    before: Sequence[Requirement],
    proposed: Sequence[Requirement],
    *,
    weights: bool = True,
) -> tuple[Requirement, ...]:
    """Return a proposal with what was changed by hand: ``kept`` is the list as it stands, ``before`` what had
    been proposed for it. Without ``weights`` the new list shares marks out as it proposes."""
    names = _BY_HAND if weights else tuple(n for n in _BY_HAND if n != "weight")
    usual = {_line(r): r for r in before}
    changed: dict[tuple[object, ...], dict[str, object]] = {}
    added: list[Requirement] = []
    for r in kept:
        was = usual.get(_line(r))
        if was is None:
            added.append(r)
        elif by_hand := {n: getattr(r, n) for n in names if getattr(r, n) != getattr(was, n)}:
            changed[_line(r)] = by_hand
    out = [replace(r, **changed.get(_line(r), {})) for r in proposed]  # type: ignore[arg-type]
    there = {_line(r) for r in out}
    number = max((r.id for r in out), default=0)
    for n, r in enumerate((r for r in added if _line(r) not in there), number + 1):
        out.append(replace(r, id=n))
    return tuple(out)


def _line(r: Requirement) -> tuple[object, ...]:
    return tuple(getattr(r, name) for name in _LINE)
