"""What people read is in the words of docs/words.md: nothing retired, no sentence too long, every refusal
says what to do, numbers in one style."""

from __future__ import annotations

import re
from functools import cache
from typing import NamedTuple

import pytest

from evenmark.core.linework.wording import number, typed_number
from tests.architecture.shown_words import REFUSALS, Shown, everything
from tests.conftest import ROOT

PAGE = (ROOT / "docs" / "words.md").read_text()
PROSE = ("README.md", "docs/guide.md", "docs/slips.md", "docs/operations.md")
MOST_WORDS = 30
SAYS_WHAT_TO_DO = re.compile(
    r"[.:;?]\s+\S|^\{\} [A-Z{]|^(Choose|Correct|Expected|Give|Nothing to)\b"
    r"|(has|have) to be |must be |needs an "
)
"""Another sentence or half of one, an order, or what is needed."""


class Retired(NamedTuple):
    """A pattern that nothing shown holds, and what is said now."""

    pattern: re.Pattern[str]
    now: str


def _rows(heading: str) -> list[list[str]]:
    part = PAGE.split(f"## {heading}\n")[1].split("\n## ")[0]
    lines = [line for line in part.splitlines() if line.startswith("| ") and "---" not in line]
    return [[cell.strip() for cell in re.split(r"(?<!\\)\|", line)[1:-1]] for line in lines[1:]]


RETIRED = [
    Retired(re.compile(rf"\b(?:{pattern})\b".replace("\\|", "|"), re.IGNORECASE), now)
    for cell, now in _rows("Retired")
    for pattern in re.findall(r"`([^`]+)`", cell)
]
STAYS = [
    (re.findall(r"`([^`]+)`", words), re.findall(r"`([^`]+)`", where))
    for words, where, _ in _rows("Where one stays")
]


@cache
def shown() -> tuple[Shown, ...]:
    return tuple(s for s in everything() if s.prose)


def _stays(s: Shown, found: str) -> bool:
    """Whether a word is one that stays where it stands, or within what it stands in."""
    for words, places in STAYS:
        if found.lower() in words and any(s.path.endswith(p) or p in s.text for p in places):
            return True
    return False


def _in(s: Shown) -> list[str]:
    return [
        f"{s.path}:{s.line}: “{found.group()}” is {r.now}: {s.text[:120]!r}"
        for r in RETIRED
        for found in r.pattern.finditer(re.sub(r"\{\}", " 1 ", s.text))
        if not _stays(s, found.group())
    ]


def test_there_is_enough_to_look_at() -> None:
    assert len(shown()) > 2500
    assert len(RETIRED) > 50
    assert {s.path.split("/")[0] for s in shown()} == {"src", "frontend"}


def test_nothing_shown_holds_a_retired_word() -> None:
    wrong = [w for s in shown() for w in _in(s)]
    assert not wrong, "\n".join(wrong)


@pytest.mark.parametrize("name", PROSE)
def test_nothing_of_what_is_read_on_paper_does(name: str) -> None:
    text = re.sub(r"```.*?```|`[^`]*`", "", (ROOT / name).read_text(), flags=re.DOTALL)
    wrong = [w for n, line in enumerate(text.splitlines(), 1) for w in _in(Shown(name, n, line))]
    assert not wrong, "\n".join(wrong)


def test_no_shown_sentence_is_longer_than_thirty_words() -> None:
    wrong = [
        f"{s.path}:{s.line}: {len(sentence.split())} words: {sentence}"
        for s in shown()
        for sentence in re.split(r"(?<=[.!?:;])\s+", s.text)
        if len(sentence.split()) > MOST_WORDS and not re.search(r"[|{]\w|;", sentence)
    ]
    assert not wrong, "\n".join(wrong)


def test_every_refusal_says_what_to_do() -> None:
    """What happened is followed by another sentence, or by what is meant; or the sentence itself says what is
    needed. What begins with a small letter is a part of another one."""
    refusals = [s for s in everything() if s.error in REFUSALS and " " in s.text and not s.text[0].islower()]
    assert len(refusals) > 250
    wrong = [f"{s.path}:{s.line}: {s.text}" for s in refusals if not SAYS_WHAT_TO_DO.search(s.text.strip())]
    assert not wrong, "\n".join(wrong)


def test_numbers_are_shown_in_one_style() -> None:
    odd = re.compile(r"\+/-|\+-\d|(?<![\w.,)+-])-\d+ (?:mm|in|°)|\d ?deg\b|\b\d+ ?x ?\d|± \d|Ø \d|\bR \d")
    wrong = [f"{s.path}:{s.line}: {s.text}" for s in shown() if odd.search(s.text)]
    assert not wrong, "\n".join(wrong)
    assert (number(-28.58), typed_number(-28.58)) == ("−28.58", "-28.58")
