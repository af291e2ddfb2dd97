"""What is said of each kind of sentence, once: the reader, the board's list, its pictures, the pages of docs
and the tests go by these records.

- *meaning*: the frozen value that a sentence of a kind reads into, as ``Fillet(first, second, radius)``.
- *offer*: how the board lists what a sentence can do.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Generic, Literal, NamedTuple, TypeVar

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.synonyms import OTHER_WORDS

Meaning = tuple[object, ...]
"""What a sentence says: a named tuple of its kind."""
M = TypeVar("M", bound=Meaning)


class On(NamedTuple):
    """On which layer a kind of sentence draws where it says none: on the one drawn on, or by itself on one
    of its own or on those of what is there. Later steps draw on what is said, unless it is said of this one
    alone. ``usual`` is the layer that the board writes into what is drawn, or that it comes on by itself;
    nothing for outlines, which go on the layer of the outlines before."""

    where: Literal["the layer drawn on", "a layer of its own", "the layers of what is there"]
    usual: str = ""


GROUPS = ("draw", "change", "help", "annotate", "keep")
"""The groups of the board's list, in their order."""


class Offer(NamedTuple):
    """How the board lists something that can be done: in which group and where in it, what it is called,
    how its sentence begins, and an example: steps one after the other (``|``), the last of which is meant and
    pictured."""

    group: str
    place: int
    says: str
    begins: str
    example: str

    @property
    def words(self) -> tuple[str, ...]:
        """Other words that find it."""
        return OTHER_WORDS.get(self.says, ())


@dataclass(frozen=True, slots=True)
class SentenceKind(Generic[M]):
    """A kind of sentence. ``name`` is shown with a step and kept in no file; ``build`` draws what a meaning
    says, and raises Broken; ``offers`` are its lines of the board's list, none where another kind's line
    begins it, too."""

    name: str
    meaning: type[M]
    build: Callable[[Context, M, ChangeSet], None]
    on: On
    offers: tuple[Offer, ...]

    @property
    def draws_on_layer(self) -> bool:
        """Whether what it draws comes on the layer that is drawn on."""
        return self.on.where == "the layer drawn on"

    def layer_by_itself(self, outlines: str) -> str:
        """Return on which layer the board draws it where none is said or chosen: one of its own, or that of
        outlines; nothing where it changes what stands."""
        return self.on.usual or (outlines if self.draws_on_layer else "")

    @property
    def layer_goes_on(self) -> bool:
        """Whether later steps draw on its layer."""
        return self.on.where != "a layer of its own"

    @property
    def draws_outlines(self) -> bool:
        """Whether what it draws is outlines, which go on the layer of those before."""
        return self.draws_on_layer and not self.on.usual


DRAWS = On("the layer drawn on")
DIMENSIONS = On("the layer drawn on", "dimension")
LETTERS = On("the layer drawn on", "lettering")
SECTIONS = On("the layer drawn on", "section")
HELPS = On("a layer of its own", "construction")
CENTRES = On("a layer of its own", "centre")
HIDES = On("a layer of its own", "hidden")
FRAMES = On("the layers of what is there", "frame")
CHANGES = On("the layers of what is there")
"""On which layers the kinds draw."""


class FirstWord(NamedTuple):
    """A word with which sentences begin: how what follows it is read, and the kinds that it can be."""

    word: str
    read: Callable[[Reader], Meaning]
    kinds: tuple[SentenceKind[Any], ...]
