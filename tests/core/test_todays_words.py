"""The trade's words are equals of those of before: every document that was ever valid stays valid and means
the same, what is shown is the trade's; other words that are typed lead to the kind that was meant."""

from __future__ import annotations

import re

import pytest

from evenmark.core.board.board import BoardDocument
from evenmark.core.board.session import BoardSession
from evenmark.core.construct.building import build
from evenmark.core.construct.document import Document, from_text, shown, to_text
from evenmark.core.construct.kinds import OFFERS, WORDS
from evenmark.core.construct.meant import begun_by, meanings
from evenmark.core.construct.sentences import Sentence, read_sentence, renewals, renewed
from evenmark.core.construct.synonyms import BEGINNINGS, OTHER_WORDS
from tests.conftest import ROOT
from tests.core.test_sentences import SENTENCES

BEFORE = ROOT / "tests" / "documents"
KIT = ROOT / "src" / "evenmark" / "demo" / "kit"
BLOCK = re.compile(r"^```steps ([^\n]+)\n(.*?)^```\n", re.MULTILINE | re.DOTALL)
RETIRED = re.compile(r"\b(sizes?|square|level|plumb|touch|touching|smooth|upright)\b")


def ids(number: int) -> int:
    return number


def documents() -> list[tuple[str, str]]:
    """Every document of before: of the tests, of the demo, of the docs."""
    found = [(p.name, p.read_text()) for p in sorted(BEFORE.glob("**/*.txt"))]
    return [*found, *BLOCK.findall((BEFORE / "before" / "steps.md").read_text())]


def meant(document: Document) -> list[object]:
    """What the sentences of a document mean, and the text of those that cannot be read."""
    return [
        found._replace(places=()) if isinstance(found, Sentence) else item.says
        for item, found in document.sentences()
    ]


@pytest.mark.parametrize(("name", "text"), documents(), ids=[name for name, _ in documents()])
def test_a_document_of_before_means_the_same_in_the_words_of_today(name: str, text: str) -> None:
    before = from_text(text)
    after = from_text(to_text(before))
    assert meant(after) == meant(before)
    old, new = build(before), build(after)
    assert [str(p) for p in old.problems] == [str(p) for p in new.problems]
    assert old.drawing == new.drawing
    assert not [says for says in shown(after) if '"' not in says and RETIRED.search(says)]
    assert to_text(after) == to_text(before)


def test_the_demos_documents_are_in_the_words_of_today_and_mean_what_they_meant() -> None:
    for path in sorted(KIT.glob("*.txt")):
        today, before = from_text(path.read_text()), from_text((BEFORE / "before" / path.name).read_text())
        assert [item.says for item in today.steps] == shown_as_kept(today)
        assert (shown(today), meant(today)) == (shown(before), meant(before))


def shown_as_kept(document: Document) -> list[str]:
    """The sentences of a document as they are kept, in the words of today."""
    return [renewed(item.says) for item in document.steps]


@pytest.mark.parametrize("says", SENTENCES.strip().splitlines())
def test_a_sentence_is_renewed_once_and_means_the_same(says: str) -> None:
    after = renewed(says)
    old, new = read_sentence(says, ids), read_sentence(after, ids)
    assert old._replace(places=()) == new._replace(places=())
    assert renewed(after) == after
    assert [p.step for p in old.places] == [p.step for p in new.places]


@pytest.mark.parametrize(
    ("before", "today"),
    [
        ("size 0, 0; 9, 0; across; at 4, -9", "dimension 0, 0; 9, 0; horizontal; at 4, -9"),
        ("size 0, 0; 0, 9; up; at 4, -9", "dimension 0, 0; 0, 9; vertical; at 4, -9"),
        ("SIZE radius size 3; at 1, 1", "SIZE radius size 3; at 1, 1"),  # a size has no radius
        ("sizes in a row 0, 0; 9, 0; up; at 4, 9", "dimensions in a chain 0, 0; 9, 0; vertical; at 4, 9"),
        ("line square to edge 1; edge 2", "line perpendicular to edge 1; edge 2"),
        ("line touching circle 1; circle 2; outer left", "line tangent to circle 1; circle 2; outer left"),
        ("circle touching line 1; at 3, 3; radius 2; left",
         "circle tangent to edge 1; at 3, 3; radius 2; left"),
        ("circle level with 1, 2 plumb with 3, 4; radius 2",
         "circle horizontal with 1, 2 vertical with 3, 4; radius 2"),
        ("guide level 0, 3", "guide horizontal 0, 3"),
        ("carry 1, 1; plumb", "carry 1, 1; vertical"),
        ("chain 0, 0; up 9; smooth arc to 9, 9", "chain 0, 0; up 9; tangent arc to 9, 9"),
        ("line touch on circle 1 from 9, 9 left; 0, 0", "line tangent on circle 1 from 9, 9 left; 0, 0"),
        ("frame A3 upright", "frame A3 portrait"),
        ("frame  a4   Across", "frame  a4   landscape"),
        ("erase size 3 and line 2 and line 4.1", "erase dimension 3 and edge 2 and edge 4.1"),
        ("line line 2; dashed", "line edge 2; dashed"),
        ("repeat circle 1; 3 across 9; 2 up 9", "repeat circle 1; 3 across 9; 2 up 9"),
        ("circle across 0, 0; 9, 0", "circle across 0, 0; 9, 0"),
        ('text "square and level"; 0, 0; height 5', 'text "square and level"; 0, 0; height 5'),
        ("circle 0, 0; radius 4; layer square", "circle 0, 0; radius 4; layer square"),
    ],
)  # fmt: skip
def test_the_words_of_before_are_shown_in_the_trades(before: str, today: str) -> None:
    assert renewed(before) == today


NAMES = ("horizontal", "vertical", "tangent", "concentric", "dimension", "perpendicular", "landscape", "line")


@pytest.mark.parametrize("name", NAMES)
@pytest.mark.parametrize(
    "says",
    [
        "circle {0}, 0; radius 3",
        "line 0, {0}; {0} + 3, 5",
        "line {0}, 0; {0} toward 30",
        "line middle 0, 0; {0} toward 30",
        "line middle 0, 0; 8 toward {0}",
        "line 0, 0; 8 toward {0}",
        "turn circle 1; about 0, 0; {0}",
        "rectangle 0, 0; 40 by 26; turned {0}",
        "guide {0} through 0, 0",
        "guide {0} + 5 through 0, 0",
        "chain 0, 0; {0}, 4; up {0}; {0} toward 5",
        "sizes from 0, 0; {0}, 0; {0} + 9, 0; across; at 0, 9",
        "rectangle {0}, {0}; {0} by {0}",
        "repeat circle 1; 3 across {0}",
        "circle by {0}, 0 from {0}, 1; radius {0}",
    ],
)
def test_a_value_may_have_the_name_of_a_word_of_today(name: str, says: str) -> None:
    """As it could when the word was none; a part of a chain never began with ``line``."""
    if name == "line" and says.startswith("chain"):
        return
    said, plain = says.format(name), says.format("reach")
    text = f"{name} = 7\ncircle 0, 0; radius 3\n{said}\n"
    built, other = (
        build(from_text(text)),
        build(from_text(text.replace(said, plain).replace(f"{name} =", "reach ="))),
    )
    assert (built.problems, built.drawing) == (other.problems, other.drawing) == ([], built.drawing)
    assert name in shown(from_text(text))[1]


@pytest.mark.parametrize(
    ("today", "before"),
    [
        ("circle concentric with circle 1; radius 9", "circle centre of circle 1; radius 9"),
        ("circle concentric to circle 1; radius 9", "circle centre of circle 1; radius 9"),
        ("line perpendicular to line 1; circle 2", "line square to edge 1; circle 2"),
        ("dimension line 1; at 4, 4", "size edge 1; at 4, 4"),
        (
            "line 20 perpendicular to line 1 left from 0, 0; 9, 9",
            "line 20 square to edge 1 left from 0, 0; 9, 9",
        ),
        ("trim line 1; at line 2; keep 0, 0", "trim edge 1; at edge 2; keep 0, 0"),
        ("frame A4 landscape", "frame A4 across"),
        ("hide edges line 1.3", "hide edges edge 1.3"),
    ],
)
def test_todays_words_are_equals(today: str, before: str) -> None:
    assert read_sentence(today, ids)._replace(places=()) == read_sentence(before, ids)._replace(places=())


def test_a_list_shows_the_words_of_today_and_its_names_where_they_stand() -> None:
    board = BoardDocument(
        from_text("circle 0, 0; radius 9\nline touching circle 1; from 40, 0; left\nerase line 2")
    )
    item, step = board.document.steps[1], board.evaluation.steps[1]
    says, refs = board.shown.spoken(item, step.sentence, board.numbers)
    assert (says, [says[b:e] for b, e, _ in refs]) == ("line tangent to circle 1; from 40, 0; left", ["1"])


# other words that are typed


def test_there_are_words_enough_and_each_kind_has_some() -> None:
    assert len({word for words in OTHER_WORDS.values() for word in words}) >= 120
    assert set(OTHER_WORDS) == {o.says for o in OFFERS}


@pytest.mark.parametrize("word", sorted({w for words in OTHER_WORDS.values() for w in words if w.isalpha()}))
def test_another_word_leads_to_the_kind_that_was_meant(word: str) -> None:
    """Its kinds are what a sentence that begins with it is answered with."""
    begins = begun_by(word)
    assert begins
    for begin in begins:
        assert read_first(begin) in WORDS
    if word in WORDS or word in BEGINNINGS:
        return
    assert set(begins) >= {o.begins for o in OFFERS if word in OTHER_WORDS[o.says]}


def read_first(text: str) -> str:
    """The first word of a sentence, as it is read."""
    word = text.split()[0].rstrip(";")
    return {"size": "dimension", "square": "perpendicular"}.get(word, word)


@pytest.mark.parametrize(
    ("typed", "meant"),
    [
        ("rotate circle 1 about 0,0 30", "turn circle 1; about 0,0; 30"),
        ("array circle 1 4 across 20", "repeat circle 1; 4 across 20"),
        ("delete circle 1", "erase circle 1"),
        ("flip circle 1 about 0,0; 0,9", "mirror circle 1; about 0,0; 0,9"),
        ("translate circle 1 by 9,0", "move circle 1; by 9,0"),
        ("duplicate circle 1 by 9,0", "copy circle 1; by 9,0"),
        ("oval 0,0; 40 x 20", "ellipse 0,0; 40 by 20"),
        ("bevel edge 1 edge 2 5", "chamfer edge 1; edge 2; 5"),
        ("hexagon centre 0,0 inside 20", "polygon 6; centre 0,0; inside 20"),
    ],
)
def test_a_sentence_with_another_word_is_read(typed: str, meant: str) -> None:
    assert meant in meanings(typed, ids)


def test_an_unknown_word_is_answered_with_what_it_may_mean() -> None:
    desk = BoardSession()
    desk.ask("open", {"document": {"format": "even-mark steps", "version": 1, "next": 1, "lines": []}})
    answer = desk.ask("state", {"says": "reflect something else"})
    assert "mirror" in answer["wrong"]["says"] if answer["wrong"] else answer["readings"]


def test_nothing_of_a_sentence_that_cannot_be_read_is_renewed() -> None:
    assert renewals("size 0, 0 and so on") == []
