"""All kinds of sentences: each said once, in the module of its subject (`record` says what)."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from evenmark.core.construct.kinds import (
    arcs,
    beside,
    centres,
    chains,
    circles,
    corners,
    cutting,
    guides,
    keeping,
    lettering,
    lines,
    long_rounds,
    looks,
    motions,
    outlines,
    parallels,
    pieces,
    repeats,
    sheets,
    sizes,
)
from evenmark.core.construct.kinds.record import GROUPS, FirstWord, Meaning, Offer, SentenceKind

_MODULES = (
    lines,
    chains,
    beside,
    parallels,
    circles,
    arcs,
    outlines,
    long_rounds,
    cutting,
    corners,
    motions,
    repeats,
    pieces,
    looks,
    guides,
    centres,
    keeping,
    sizes,
    lettering,
    sheets,
)

WORDS: Mapping[str, FirstWord] = {word.word: word for module in _MODULES for word in module.WORDS}
"""How a sentence is read, by its first word."""
KINDS: Mapping[type[Meaning], SentenceKind[Any]] = {
    kind.meaning: kind for word in WORDS.values() for kind in word.kinds
}
"""Every kind, by what its sentences read into."""
OFFERS: tuple[Offer, ...] = tuple(
    sorted(
        (offer for kind in KINDS.values() for offer in kind.offers),
        key=lambda offer: (GROUPS.index(offer.group), offer.place),
    )
)
"""What can be done, in the order in which the board lists it."""
