"""What a layer is for, said by the rule set and not guessed from its name; asked for here and nowhere
else."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

Role = Literal["outline", "hidden", "centre", "construction", "dimension", "lettering", "section", "frame"]
ROLES: tuple[Role, ...] = (
    "outline",
    "hidden",
    "centre",
    "construction",
    "dimension",
    "lettering",
    "section",
    "frame",
)


def stated_role(roles: Mapping[str, Role], layer: str) -> Role | None:
    """Return the role that is said of a layer, in whatever letter case it is written; None where none is.

    >>> stated_role({"Hidden": "hidden"}, "HIDDEN"), stated_role({}, "0")
    ('hidden', None)
    """
    found = roles.get(layer)
    if found is not None or not roles:
        return found
    same = layer.casefold()
    return next((role for name, role in roles.items() if name.casefold() == same), None)


def role_of(roles: Mapping[str, Role], layer: str) -> Role:
    """Return the role of a layer: outline where nothing is said of it."""
    return stated_role(roles, layer) or "outline"
