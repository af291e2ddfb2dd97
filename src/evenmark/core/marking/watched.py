"""What is examined of a key although nobody asks for it: each feature's own size, place and relations, so
that a slip is found where it was made (see `attribute`)."""

from __future__ import annotations

from collections.abc import Iterable

from evenmark.core.drawing.roles import Role
from evenmark.core.geometry import tolerance as tol
from evenmark.core.linework.model import Linework
from evenmark.core.marking.kinds import those
from evenmark.core.marking.model import Requirement
from evenmark.core.marking.propose import wishes_of

WATCHED_KINDS = those(lambda k: k.watched)
"""Kinds of what is examined of a feature although nobody asks for it, to find where a slip was made."""


def watched(
    key: Linework,
    roles: dict[str, Role],
    tolerance: float,
    asked: Iterable[Requirement],
    *,
    angle_deg: float = tol.ANGLE_DEG,
    leave_out: set[str] | None = None,
) -> tuple[Requirement, ...]:
    """Return what is examined besides what is asked, with ids after those."""
    known = list(asked)
    there = {(r.kind, r.features) for r in known if r.on}
    number = max((r.id for r in known), default=0)
    out: list[Requirement] = []
    for kind, features in wishes_of(key, roles, tolerance, angle_deg, leave_out or set()).all():
        if kind in WATCHED_KINDS and (kind, features) not in there:
            out.append(Requirement(id=number + 1 + len(out), kind=kind, features=features, weight=0.0))
    return tuple(out)
