"""Which combinations of layer and resulting style a drawing has; pieces merge only within one."""

from __future__ import annotations

from evenmark.core.drawing.look import Style
from evenmark.core.drawing.model import Arc, Circle, FreeCurve, Line


class Looks:
    """Numbers the combinations of layer and resulting style; pieces merge only within one."""

    def __init__(self) -> None:
        self._known: dict[tuple[str, Style], int] = {}
        self._by_object: dict[tuple[str, int], int] = {}

    def number(self, entity: Line | Arc | Circle | FreeCurve) -> int:
        """Return the number of an entity's combination."""
        key = (entity.layer, id(entity.style))  # styles are shared, and slow to hash
        found = self._by_object.get(key)
        if found is None:
            found = self._known.setdefault((entity.layer, entity.style), len(self._known))
            self._by_object[key] = found
        return found
