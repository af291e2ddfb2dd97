"""Sentences: what a step says, read into the value of its kind.

A sentence begins with the word of its kind; its slots are separated by ``;`` (shown as ``·``). The last slots
of what draws may be a layer and a line. The words are those of docs/formats/steps.md.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from difflib import get_close_matches
from typing import NamedTuple

from evenmark.core.construct.kinds import KINDS, WORDS
from evenmark.core.construct.kinds.record import Meaning
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import StepMention
from evenmark.core.construct.slots import LINES
from evenmark.core.construct.templates import filled, learn
from evenmark.core.construct.words import Renewal, Unreadable
from evenmark.core.geometry.exact import Exact


class Sentence(NamedTuple):
    """A step as it was understood: what it means, by the value of its kind, and the layer and line of what it
    draws, where they are said. ``places`` are where its text names other steps."""

    meaning: Meaning
    layer: str | None = None
    line: str | None = None
    places: tuple[StepMention, ...] = ()

    @property
    def kind(self) -> str:
        """The name of its kind."""
        return KINDS[type(self.meaning)].name


def read_sentence(text: str, id_of: Callable[[int], int | None], inch: Exact = 1) -> Sentence:
    """Read a sentence. Raises Unreadable.

    ``id_of`` gives the id of a step by its number, None where there is none before this one; ``inch`` is what
    an inch is in the unit of the drawing.
    """
    known = filled(text, id_of)
    if known is not None:
        return Sentence(*known)
    r = Reader(text, id_of, inch)
    sentence = read_by(r)
    learn(r, sentence.meaning, sentence.layer, sentence.line)
    return sentence


def read_by(r: Reader) -> Sentence:
    """Read a sentence by a reader of one's own. Raises Unreadable."""
    word = r.peek()
    if word not in WORDS:
        raise _unknown(r, word)
    r.takes(word)
    meaning = WORDS[word].read(r)
    layer, line = _looks(r)
    if not r.all_read:
        raise r.expected("';' or the end", ends=True)
    return Sentence(meaning, layer, line, tuple(r.places))


OLDER_WORDS = re.compile(
    r"\b(sizes?|square|level|plumb|touch(?:ing)?|smooth|across|up|upright|in\s+a\s+row|line)\b", re.IGNORECASE
)


def renewals(text: str) -> list[Renewal]:
    """Return where older words stand in a sentence that names steps by their numbers or ids, and what is
    shown for them; none in what cannot be read."""
    if not OLDER_WORDS.search(text):
        return []
    r = Reader(text, lambda number: number)
    try:
        read_by(r)
    except Unreadable:
        return []
    return r.renewals


def renewed(text: str) -> str:
    """Return a sentence in the words of today: it reads as the same."""
    for begin, end, word in reversed(renewals(text)):
        text = text[:begin] + word + text[end:]
    return text


def _unknown(r: Reader, word: str) -> Unreadable:
    """Return the error that a sentence begins with no word for what to do, with the one that it is like."""
    why = r.expected("a word for what to do, as line, circle, rectangle, trim, move, dimension or text")
    near = get_close_matches(word, WORDS, 1)
    return Unreadable(f"{why.says} Is {near[0]!r} meant?" if near else why.says, why.at)


def _looks(r: Reader) -> tuple[str | None, str | None]:
    """Read the last slots: a layer, a line."""
    layer = line = None
    while r.next_slot():
        if r.takes("layer"):
            layer = r.name("the name of a layer")
        elif r.takes("line"):
            line = r.one_of(LINES, "which line")
        else:
            raise r.expected("'layer' or 'line', or nothing more")
    return layer, line
