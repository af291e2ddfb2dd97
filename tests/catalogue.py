"""The examples of docs/formats/steps.md: each with what its remarks say of it.

``python -m tests.catalogue`` draws their pictures anew.
"""

from __future__ import annotations

import re
from typing import NamedTuple

from evenmark.core.construct.building import Built, build
from evenmark.core.construct.document import from_text
from evenmark.core.construct.measuring import measured
from evenmark.core.construct.references import CALLED, Ref
from evenmark.core.construct.state import Broken
from evenmark.core.construct.words import Unreadable
from evenmark.core.drawing.annotations import Dimension, Note
from evenmark.core.drawing.model import Text
from evenmark.core.drawing.picture import figure
from tests.conftest import ROOT

PAGE = ROOT / "docs" / "formats" / "steps.md"
PICTURES = ROOT / "docs" / "formats" / "steps"
_BLOCK = re.compile(r"^```steps ([^\n]+)\n(.*?)^```\n", re.MULTILINE | re.DOTALL)
_IS = re.compile(r"^# (.+) is (.+)$", re.MULTILINE)
_SAYS = re.compile(r"^# (dimension|text|note) (\d+)(?:\.(\d+))? says (.+)$", re.MULTILINE)


class Example(NamedTuple):
    """An example: its name and its text."""

    name: str
    text: str

    @property
    def sure(self) -> list[tuple[str, str]]:
        """What its remarks say that measures are."""
        return _IS.findall(self.text)

    @property
    def says(self) -> list[tuple[str, str, str, str]]:
        """What its remarks say that dimensions, texts and notes say."""
        return _SAYS.findall(self.text)

    @property
    def file(self) -> str:
        """The name of its picture."""
        return re.sub(r"[^a-z]+", "-", self.name.lower()).strip("-") + ".svg"

    def built(self) -> Built:
        """The example, built."""
        return build(from_text(self.text))


EXAMPLES = [Example(*found) for found in _BLOCK.findall(PAGE.read_text())]


def number_of(built: Built, says: str) -> float:
    """One number that a measure is."""
    (told,) = measured(built, says)
    assert not isinstance(told.value, tuple)
    return float(told.value)


def wrong_in(example: Example, built: Built) -> list[str]:
    """What of its remarks is not so."""
    out = [str(p) for p in built.problems]
    for what, is_ in example.sure:
        try:
            value, expected = (number_of(built, said) for said in (what, is_))
        except (Broken, Unreadable) as why:
            out.append(f"{what} is {is_}: {why.says}")
            continue
        if abs(value - expected) > 1e-9 * (1 + abs(expected)):
            out.append(f"{what} is {value}, not {expected}")
    for kind, step, part, says in example.says:
        ids = [item.id for item in built.document.steps]
        found = built.evaluation.state.find(
            Ref(CALLED.get(kind, kind), ids[int(step) - 1], int(part) if part else None)
        ).says
        said = figure(found) if isinstance(found, Dimension) else ""
        if isinstance(found, Text | Note):
            said = found.wording
        if said != says:
            out.append(f"{kind} {step} says {said!r}, not {says!r}")
    return out


if __name__ == "__main__":
    from evenmark.core.formats.svg_write import write_svg

    PICTURES.mkdir(exist_ok=True)
    for old in PICTURES.glob("*.svg"):
        old.unlink()
    for example in EXAMPLES:
        (PICTURES / example.file).write_bytes(write_svg(example.built().drawing))
        print(f"{example.file}: {'; '.join(wrong_in(example, example.built())) or 'as it says'}")
