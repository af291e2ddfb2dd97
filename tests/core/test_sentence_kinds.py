"""One record a kind of sentence: nothing about a kind is said twice, and none is left out of the list."""

from __future__ import annotations

import pytest

from evenmark.core.construct.building import build
from evenmark.core.construct.document import from_text
from evenmark.core.construct.kinds import KINDS, OFFERS, WORDS
from evenmark.core.construct.kinds.record import GROUPS, Offer, SentenceKind

ALL = list(KINDS.values())


def test_names_and_meanings_are_one_to_one() -> None:
    assert sum(len(word.kinds) for word in WORDS.values()) == len(ALL)
    assert len({kind.name for kind in ALL}) == len(ALL)
    assert all(word.word == name for name, word in WORDS.items())


def test_the_list_has_a_place_for_each_offer() -> None:
    for group in GROUPS:
        places = [offer.place for offer in OFFERS if offer.group == group]
        assert places == list(range(1, len(places) + 1)), group
    assert {offer.group for offer in OFFERS} == set(GROUPS)


@pytest.mark.parametrize("kind", ALL, ids=lambda k: k.name)
def test_each_kind_is_found_in_the_list(kind: SentenceKind[tuple[object, ...]]) -> None:
    word = next(word for word in WORDS.values() if kind in word.kinds)
    begun = [offer for k in word.kinds for offer in k.offers]
    assert kind.offers or begun, "nothing in the list begins such a sentence"
    assert all(offer.begins.split()[0] == word.word for offer in begun)


@pytest.mark.parametrize(
    ("kind", "offer"),
    [(kind, offer) for kind in ALL for offer in kind.offers],
    ids=lambda x: x.says if isinstance(x, Offer) else "",
)
def test_an_example_is_one_of_its_kind(kind: SentenceKind[tuple[object, ...]], offer: Offer) -> None:
    last = build(from_text("\n".join(offer.example.split("|")))).evaluation.steps[-1].sentence
    assert last is not None
    assert offer.says == "named point" or last.kind == kind.name
