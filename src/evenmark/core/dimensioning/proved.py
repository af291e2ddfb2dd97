"""What a proof found, as values (see `proof`)."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from evenmark.core.dimensioning.implied_kinds import OFFERED, Implied
from evenmark.core.dimensioning.size import Size, Untied
from evenmark.core.geometry.points import Point


@dataclass(frozen=True, kw_only=True)
class FreeMotion:
    """A way in which features are free: how points move and radii grow, the largest of them by 1.

    ``moves`` has every point that moves, by the id of its corner, circle or arc, or of an end as ``e3.1``;
    ``grows`` every radius that changes. ``settled_by`` are sizes that would settle it.
    """

    moves: Mapping[str, Point]
    grows: Mapping[str, float]
    features: tuple[str, ...]
    settled_by: tuple[Size, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Proof:
    """What the proof of a sheet found."""

    sizes: tuple[Size, ...]
    untied: tuple[Untied, ...]
    taken: tuple[Implied, ...]
    switched: Mapping[str, bool]
    """What was switched by hand, by the id of what is taken as read: on or off."""
    freedoms: tuple[FreeMotion, ...]
    twice: tuple[tuple[str, ...], ...]
    """Ids of sizes, by smallest dependent set."""
    contradictions: tuple[str, ...]
    proposed: tuple[Size, ...] = ()
    """Sizes that would settle everything that is free, in the order in which they would be placed."""
    offered: tuple[str, ...] = ()
    """Ids of what is not taken as read and would settle something that is free."""
    held: tuple[str, ...] = ()
    """What the rest is told against, as nothing says where the drawing stands: a point (by the id of its
    corner or centre, or of an end as ``e3.1``), then an edge or a second point where nothing says how it is
    turned."""
    needed: frozenset[str] = frozenset()
    """Ids of what is taken as read because the sheet says everything with it and not without."""
    not_proved: tuple[str, ...] = ()
    """Free curves, about which figures say nothing."""

    def is_taken(self, t: Implied) -> bool:
        """Say whether something that the drawing looks like is taken as read."""
        return t.id in self.needed or is_taken(t, self.switched)

    @property
    def complete(self) -> bool:
        """Whether everything is said once."""
        return not (self.freedoms or self.twice or self.contradictions or self.untied)

    @property
    def settled(self) -> bool:
        """Whether nothing is free."""
        return not self.freedoms

    def loose(self) -> frozenset[str]:
        """Return every feature that some motion touches."""
        return frozenset(i for motion in self.freedoms for i in motion.features)


def is_taken(t: Implied, switched: Mapping[str, bool]) -> bool:
    """Say whether something is taken as read: as it was switched, else unless it is only offered."""
    return switched.get(t.id, t.kind not in OFFERED)
