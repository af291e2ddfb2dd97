"""A sentence that is filled in is what reading it gives."""

from __future__ import annotations

import random
import re

import pytest

from evenmark.core.construct import templates
from evenmark.core.construct.building import build
from evenmark.core.construct.document import from_text
from evenmark.core.construct.sentences import Sentence, read_sentence
from evenmark.core.construct.words import Unreadable
from tests.catalogue import EXAMPLES


def said(text: str) -> Sentence | str:
    try:
        return read_sentence(text, lambda n: n if n < 40 else None)
    except Unreadable as why:
        return f"{why.at} {why.says}"


SENTENCES = sorted({i.says.replace("#", "") for e in EXAMPLES for i in from_text(e.text).steps})


@pytest.mark.parametrize("seed", range(3))
def test_other_numbers_are_filled_in_as_they_would_be_read(
    seed: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    chance = random.Random(seed)
    others = (
        "3",
        "0",
        "12.5",
        "0.0625",
        "7/16",
        "4/2",
        "5/0",
        "39.2",
        "40",
        "123456789012345678",
        "00.10",
        "1.2.3",
    )
    for text in SENTENCES:
        templates._templates.clear()
        said(text)
        changed = re.sub(r"(?<![\w.])\d+(?:\.\d+)?", lambda _: chance.choice(others), text)
        filled = said(changed)
        with monkeypatch.context() as without:
            without.setattr("evenmark.core.construct.sentences.filled", lambda *_: None)
            assert filled == said(changed), changed


def test_a_document_is_the_same_read_and_filled_in(monkeypatch: pytest.MonkeyPatch) -> None:
    for example in EXAMPLES:
        once = build(from_text(example.text)).drawing
        again = build(from_text(example.text)).drawing
        with monkeypatch.context() as without:
            without.setattr("evenmark.core.construct.sentences.filled", lambda *_: None)
            read_ = build(from_text(example.text)).drawing
        assert once == again == read_


def test_the_id_of_a_step_is_no_number() -> None:
    said("polygon 6; centre 0, 0; inside 12")
    assert said("polygon #6; centre 0, 0; inside 12") == "8 A number is expected here, not '#'. Type one."
