"""What a drawing shows beside its features: dimensions, notes, hatching, its construction lines without an
end, and the texts that belong to notes.

They are pictures only, as lines and lettering; what is examined of notes and hatching is elsewhere.
"""

from __future__ import annotations

from evenmark.core.drawing.model import Drawing, Entity, Text
from evenmark.core.drawing.shown import pictures_of
from evenmark.core.linework.annotations import notes_of


def pictures(drawing: Drawing) -> tuple[Entity, ...]:
    """Return the lines and lettering that are no features."""
    return (*pictures_of(drawing), *_note_texts(drawing))


def _note_texts(drawing: Drawing) -> list[Text]:
    """Return the texts that belong to notes, which are no lettering of their own."""
    texts = [e for e in drawing.entities if isinstance(e, Text)] if drawing.notes else []
    _, left = notes_of(drawing.notes, texts, 1.0, 0.0)
    others = {id(t) for t in left}
    return [t for t in texts if id(t) not in others]
