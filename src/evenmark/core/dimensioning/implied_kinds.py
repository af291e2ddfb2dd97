"""The kinds of what is taken as read, and one thing of it as a value (see `implied`)."""

from __future__ import annotations

from typing import NamedTuple

OFFERED = ("level-with", "plumb-with", "even-row", "mirrored", "projected")
"""Kinds that are taken as read only where the sheet says everything with them and not without."""
KINDS = (
    "meet",
    "on",
    "level",
    "plumb",
    "square",
    "parallel",
    "in-line",
    "smooth",
    "one-centre",
    "on-axis",
    "alike",
    "even",
    "views",
    *OFFERED,
)
"""Kinds of what is taken as read, in the order in which they are listed."""


class Implied(NamedTuple):
    """One thing that is taken as read: its kind, its features, and for `views` and `projected` the
    coordinates that are shared (0 across, 1 up) with the side from which depths run (1 or -1)."""

    kind: str
    features: tuple[str, ...]
    axes: tuple[int, int] = (0, 0)
    sign: float = 1.0

    @property
    def id(self) -> str:
        """What it is switched by."""
        return " ".join((self.kind, *self.features))
