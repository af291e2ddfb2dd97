"""Adding something (docs/adding.md): whoever adds a kind of requirement, a slip, a sentence, a page or a file
format and forgets one of its lists is told which. Each list is tried with one that is in none of them."""

from __future__ import annotations

import re
import typing
from collections.abc import Callable
from dataclasses import replace

import pytest

from evenmark.core.construct.kinds import KINDS as SENTENCES
from evenmark.core.construct.kinds import WORDS
from evenmark.core.formats import sniff
from evenmark.core.marking.kinds import KINDS, TITLES
from evenmark.core.marking.slips.records import SLIPS
from evenmark.web import words
from tests.architecture import test_project
from tests.browser import test_axe
from tests.conftest import ROOT
from tests.core import test_catalogue, test_cause_table, test_kinds, test_sentence_kinds
from tests.web import test_access, test_api

NEW = "never-heard-of"
Guard = Callable[[], object]


def _is_named(guard: Guard) -> None:
    """Hold that a test which was content fails now."""
    with pytest.raises(AssertionError):
        guard()


@pytest.mark.parametrize(
    "guard",
    [
        lambda: test_project.test_every_requirement_kind_is_documented(NEW),
        test_project.test_the_tables_name_nothing_that_is_not_there,
        test_kinds.test_every_kind_is_tried_here_or_beside,
    ],
)
def test_a_requirement(monkeypatch: pytest.MonkeyPatch, guard: Guard) -> None:
    monkeypatch.setitem(KINDS, NEW, replace(KINDS["length"], name=NEW))
    _is_named(guard)


def test_words_of_a_requirement_are_the_pages_too(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setitem(TITLES, NEW, "Never heard of")
    assert NEW in words.text()
    _is_named(test_api.test_the_words_that_pages_share_are_the_cores)


@pytest.mark.parametrize(
    "guard",
    [
        lambda: test_project.test_every_cause_is_documented(NEW),
        test_project.test_the_tables_name_nothing_that_is_not_there,
        test_cause_table.test_no_cause_is_left_out,
    ],
)
def test_a_slip(monkeypatch: pytest.MonkeyPatch, guard: Guard) -> None:
    monkeypatch.setitem(SLIPS, NEW, replace(SLIPS["gap"], means="Something else."))
    _is_named(guard)


@pytest.mark.parametrize(
    "guard",
    [
        test_catalogue.test_no_sentence_and_no_way_of_saying_a_point_is_left_out,
        test_sentence_kinds.test_names_and_meanings_are_one_to_one,
    ],
)
def test_a_sentence(monkeypatch: pytest.MonkeyPatch, guard: Guard) -> None:
    class Unheard(typing.NamedTuple):
        """A sentence that is in no list."""

    known = next(iter(SENTENCES.values()))
    monkeypatch.setitem(SENTENCES, Unheard, replace(known, name=NEW))
    monkeypatch.setattr(test_sentence_kinds, "ALL", list(SENTENCES.values()))
    _is_named(guard)


def test_a_first_word(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setitem(WORDS, NEW, next(iter(WORDS.values())))
    _is_named(test_catalogue.test_no_sentence_and_no_way_of_saying_a_point_is_left_out)


def test_a_route(application: typing.Any) -> None:
    application.add_url_rule("/api/unheard", NEW, lambda: "")
    _is_named(lambda: test_access.test_every_route_is_in_both_tables(application))


def test_a_page_is_examined() -> None:
    router = (ROOT / "frontend/src/router.ts").read_text()
    pages = set(re.findall(r'^ {6}name: "([a-z-]+)"', router, re.M))
    states = {**test_axe.STRANGER, **test_axe.INSTRUCTORS, **test_axe.STUDENTS}
    assert pages == set(test_axe.EXAMINED), "say in test_axe where the page is examined"
    for where in test_axe.EXAMINED.values():
        assert where in states or hasattr(test_axe, where) or "violations(" in (ROOT / where).read_text()


@pytest.mark.parametrize("kind", typing.get_args(sniff.Kind))
def test_a_file_format_is_known_broken_and_kept(kind: str) -> None:
    """Each is told by its bytes, tried with broken files, and documented."""
    named = {"ascii": "dxf", "binary": "binary", "svg": "svg", "steps": "steps"}
    assert kind in named, "a new format: name it here, in the mutations and in the docs"
    assert named[kind] in (ROOT / "tests/mutations.py").read_text().lower()
    docs = "".join(p.read_text() for p in (ROOT / "docs/formats").glob("*.md"))
    assert named[kind] in docs.lower()
