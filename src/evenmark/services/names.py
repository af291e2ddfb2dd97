"""Names and texts that people type: what they may not hold is refused in one sentence, before anything is
kept."""

from __future__ import annotations

from evenmark.core.plain import hidden_in_name, shown
from evenmark.services.errors import NotUsable


def plain_name(name: str, what: str) -> str:
    """Return a name without blanks round it or doubled within. Raises NotUsable for characters that cannot be
    seen."""
    out = " ".join(name.split())
    if hidden_in_name(out):
        raise NotUsable(
            f"The {what} holds a character that cannot be seen or saved. Type it instead of pasting it."
        )
    return out


def plain_text(text: str) -> str:
    """Return a text of several lines; characters that cannot be seen are shown as what they are."""
    return shown(text.replace("\r\n", "\n").replace("\r", "\n")).strip()
