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


def default_roles(layers: list[str]) -> dict[str, Role]:
    """Return the roles that a new rule set starts with: a layer whose name is the word of a role has that
    role.

    This is what the proposal says and the instructor sees and changes; marking itself never looks at names.
    """
    words: dict[str, Role] = {role: role for role in ROLES} | {"center": "centre", "text": "lettering"}
    return {role: role for role in ROLES} | {
        name: words[name.lower()] for name in layers if name.lower() in words
    }
