"""What can be wrong with bytes that should be a drawing: one sentence each, saying what to do."""

from __future__ import annotations


class UnreadableDrawing(ValueError):
    """The bytes cannot be read as a drawing."""

    code = "not-a-drawing"
    default = (
        "This file is not a drawing that Even Mark can read. Export the drawing as DXF and use that file."
    )

    def __init__(self, says: str | None = None) -> None:
        self.says = says or self.default
        super().__init__(self.says)

    def __reduce__(self) -> tuple[type[UnreadableDrawing], tuple[str]]:
        return type(self), (self.says,)


class EmptyFile(UnreadableDrawing):
    """The file has no bytes."""

    code = "empty-file"
    default = "The file is empty. Save the drawing again as DXF and use that file."


class ClosedFormat(UnreadableDrawing):
    """The file is in a closed drawing format."""

    code = "closed-format"
    default = (
        "This file is in a closed drawing format. In the program that drew it, export a copy as DXF and "
        "use that."
    )


class TooLarge(UnreadableDrawing):
    """The file is larger than is accepted, or unfolds to more than is accepted."""

    code = "too-large"
    default = (
        "The drawing is too large to read. Remove what does not belong to it, then export it as DXF again."
    )


class Damaged(UnreadableDrawing):
    """The file is a DXF file that cannot be put in order."""

    code = "damaged"
    default = (
        "The file is damaged and cannot be read as DXF. Export the drawing as DXF again and use the new file."
    )


class Unwritable(ValueError):
    """A drawing holds what no file of a format can: says what, one sentence each."""

    def __init__(self, says: list[str]) -> None:
        self.says = says
        super().__init__(" ".join(says))
