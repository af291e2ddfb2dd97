"""What the reader noticed in a file, in one sentence each: nothing is dropped in silence."""

from __future__ import annotations

from evenmark.core.drawing.model import Oddity

DEEPEST_BLOCK = 32
"""Block references inside block references."""


def oddity(code: str, what: str, count: int) -> Oddity:
    """Return an oddity with its sentence; ``what`` is the kind of object, layer or block that it is about."""
    many = f"{count} objects" if count != 1 else "1 object"
    verb = "are" if count != 1 else "is"
    says = {
        "switched-off": f"{many} on layer {what} {verb} switched off and not part of the visible drawing.",
        "not-understood": f"{many} of the kind {what} {verb} not understood and left out.",
        "not-examined": f"{many} of the kind {what} {verb} not examined.",
        "not-readable": f"{many} of the kind {what} {verb} damaged or far too large, and left out.",
        "off-plane": f"{count} points lie off the drawing plane; they are moved onto it."
        if count != 1
        else "1 point is off the drawing plane; it is moved onto it.",
        "tilted": f"{many} {verb} drawn in a tilted plane; what is seen of it from above is what is checked."
        if count == 1
        else f"{many} {verb} drawn in tilted planes; what is seen of them from above is what is checked.",
        "blocks-too-deep": (
            f"Block {what} is nested more than {DEEPEST_BLOCK} deep; its contents are left out."
        ),
        "block-missing": f"Block {what} is used but not in the file.",
        "cut-short": (
            "The file breaks off before its end; some of the drawing may be missing. Export it again to be "
            "sure."
        ),
        "marks-left-out": (
            f"{many} of marks that were returned earlier (layers {what}...) {verb} in the file and left out."
        ),
        "odd-characters": ("The file has characters that cannot be shown; a sign replaces them."),
        "unit-unknown": f"The file declares an unusual unit (code {what}); it is read as having none.",
    }[code]
    return Oddity(code=code, says=says, count=count)
