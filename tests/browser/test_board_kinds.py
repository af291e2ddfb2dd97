"""Every kind of sentence by keyboard alone, and by pointer alone."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

from playwright.sync_api import Page, expect

from evenmark.core.board.offers import OFFERS, Offer
from evenmark.core.construct.document import from_text, shown
from evenmark.core.formats.dxf_write import write_dxf as dxf
from tests.browser.boarding import PLATE, Hands, begin, give, kept, type_all
from tests.extent import daily

CLEAR = "erase everything"
"""Stands behind an example, so that the next one has the sheet for itself."""
STEPS = re.compile(r"\b(edge|arc|circle|step) (\d+)(?![\d.]*\s*,)")
"""Steps that a sentence names; what stands before a comma is a coordinate."""


def examples() -> Iterator[tuple[Offer, list[str], list[str]]]:
    """Each kind with the sentences of its example, as they are numbered in one long list, and what clears the
    sheet behind them: guides are not drawn and stay. What is laid in was opened before (`opened`)."""
    count = len(OPENED)
    for kind in TODAYS:
        one = [says for says in kind.example.split("|") if not says.startswith("drawing ")]
        if kind.says == "named point":  # which nothing is seen of: its picture is that of something else
            one.append("point A; 3, 4")
        clear = [] if all(says.startswith(("guide", "mitre")) for says in one) else [CLEAR]
        yield kind, [STEPS.sub(lambda m, n=count: f"{m[1]} {int(m[2]) + n}", says) for says in one], clear
        count += len(one) + len(clear)


TODAYS = daily(list(OFFERS), 6)
OPENED = ["lay in plate", CLEAR]


def opened(page: Page) -> None:
    """Open a file, so that there is something to lay in; and clear the sheet."""
    give(page, "plate.dxf", dxf(PLATE))
    expect(page.locator("[data-step]")).to_have_count(1)
    type_all(page, [CLEAR])


def without_own_layers(page: Page, typed: list[str]) -> list[str]:
    """What is kept, without the layers that the board has written behind what has one of its own."""
    return [
        says if says in typed else re.sub(r"; layer \w+\Z", "", says) for says in shown(from_text(kept(page)))
    ]


def test_by_keyboard_alone(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "All kinds, typed")
    opened(page)
    typed = [says for _, one, clear in examples() for says in (*one, *clear)]
    type_all(page, typed)
    expect(page.locator("[data-broken]")).to_have_count(0)
    assert without_own_layers(page, typed) == [*OPENED, *typed]


def test_by_pointer_alone(anyone: Any) -> None:
    page: Page = anyone("maren", "/exercises")
    begin(page, "All kinds, pointed")
    opened(page)
    hands = Hands(page)
    typed = [*OPENED]
    for kind, (*before, meant), clear in examples():
        if before:
            type_all(page, before)
        hands.kind(kind.says)
        hands.say(meant)
        type_all(page, clear)
        typed += [*before, meant, *clear]
    expect(page.locator("[data-broken]")).to_have_count(0)
    assert without_own_layers(page, typed) == typed
