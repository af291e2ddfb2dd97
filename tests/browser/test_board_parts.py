"""Whole parts on the board, from nothing: by typing, by pointing and by touch alone; handed in."""

from __future__ import annotations

import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from evenmark.core.construct.document import from_text, shown
from evenmark.demo.parts import KIT
from tests.browser.boarding import (
    Hands,
    begin,
    draft,
    hand_in,
    kept,
    press,
    step_act,
    type_all,
    type_document,
)
from tests.extent import daily

TYPED = [
    ("Crank link", "noor", "crank-link", {}),
    ("Gear cover gasket", "idris", "cover-gasket", {}),
    ("Wheel hub", "rafael", "wheel-hub", {}),
    ("Kit sheet, title block", "idris", "kit-sheet", {'"NAME"': '"IDRIS PELL"', '"GROUP"': '"GROUP A"'}),
    ("Shaft bracket in three views", "bea", "shaft-bracket", {}),
]
BY_HAND = ("Wheel hub", "Shaft bracket in three views")
"""The instructor returns these."""


@pytest.mark.parametrize(("title", "who", "file", "own"), daily(TYPED, 2))
def test_a_part_by_typing_alone(anyone: Any, title: str, who: str, file: str, own: dict[str, str]) -> None:
    text = (KIT / f"{file}.txt").read_text()
    for old, new in own.items():
        text = text.replace(old, new)
    document = from_text(text)
    page: Page = anyone(who, "/work")
    draft(page, title)
    for given in page.locator("[data-step]").all():  # what the exercise gives is drawn from nothing, too
        given.get_by_role("button").first.click()
        step_act(page, "Delete step")
    expect(page.locator("[data-step]")).to_have_count(0)
    type_document(page, document)
    expect(page.locator("[data-broken]")).to_have_count(0)
    assert shown(from_text(kept(page))) == shown(document)
    hand_in(page, anyone("maren") if title in BY_HAND else None)


def lettered(hands: Hands) -> None:
    """The name on the gate plate, by the pad, a place of the grid and an answer."""
    hands.layer("lettering")
    hands.kind("text")
    hands._press(hands.page.get_by_role("button", name="abc"))
    hands._press(hands.page.get_by_role("button", name="capital"))
    hands.signs("GATE PLATE")
    hands._press(hands.page.get_by_role("button", name="123"))
    hands.signs('";')
    hands.page.get_by_label("Grid").select_option("1")
    hands.place(30, 3, 'text "GATE PLATE"; 30, 3; ')
    hands.answer("height")
    hands.signs("3.5;")
    hands.answer("anchor left bottom")


def plate(hands: Hands) -> None:
    """The gate plate with its holes and slot, by places of the grid and the pad."""
    hands.kind("rectangle")
    hands.place(0, 0, "rectangle 0, 0; ")
    hands.place(100, 60, "")
    holes = [(14, 12, "4"), (78, 12, "4"), (14, 48, "4"), (78, 48, "4"), (46, 30, "9")]
    for x, y, radius in holes:
        hands.kind("circle by centre and size")
        hands.place(x, y, f"circle {x}, {y}; ")
        hands.answer("radius")
        hands.signs(radius)
        hands.take()
    hands.kind("rectangle")
    hands.place(86, 18, "rectangle 86, 18; ")
    hands.place(92, 42, "")
    lettered(hands)
    expect(hands.page.locator("[data-step]")).to_have_count(8)


def test_the_gate_plate_by_pointer_alone(anyone: Any) -> None:
    page: Page = anyone("tamsin", "/work")
    draft(page, "Gate plate, holes and slot")
    page.get_by_label("Grid").select_option("2")
    plate(Hands(page))
    hand_in(page)


def test_the_gate_plate_by_touch_alone(anyone: Any) -> None:
    page: Page = anyone("otto", "/work", has_touch=True)
    draft(page, "Gate plate, holes and slot")
    page.get_by_label("Grid").select_option("2")
    plate(Hands(page, touch=True))
    hand_in(page)


def test_fingers_are_quicker_than_the_answers(anyone: Any) -> None:
    """The keys of the pad stay where they are while what is above them comes and goes, and an answer that
    is pressed before what was typed is read goes behind it."""
    page: Page = anyone("maren", "/exercises", has_touch=True)
    begin(page, "Quick fingers")
    type_all(page, ["rectangle 0, 0; 100, 60"])
    slow = page.context.new_cdp_session(page)
    slow.send("Network.enable")
    line = {"offline": False, "latency": 300, "downloadThroughput": -1, "uploadThroughput": -1}
    slow.send("Network.emulateNetworkConditions", line)
    hands = Hands(page, touch=True)
    back = page.get_by_role("group", name="Pad").get_by_role("button", name="backspace")
    hands.kind("circle by centre and size")
    stands = back.bounding_box()
    hands.signs("14,12;")
    hands.answer("radius")
    hands.signs("4")
    assert back.bounding_box() == stands
    hands.take()
    assert back.bounding_box() == stands
    lettered(hands)
    expect(page.locator("[data-step]")).to_have_count(3)
    assert kept(page).splitlines()[-1].startswith('text "GATE PLATE"; 30, 3; height 3.5; anchor left bottom')


def test_the_crank_link_by_pointer_and_catches_alone(anyone: Any) -> None:
    page: Page = anyone("felix", "/work")
    draft(page, "Crank link")
    page.get_by_label("Grid").select_option("2")
    hands = Hands(page)
    for x, radius in ((0, "24"), (82, "13")):
        hands.kind("circle by centre and size")
        hands.place(x, 0, f"circle {x}, 0; ")
        hands.answer("radius")
        hands.signs(radius)
        hands.take()
    page.get_by_label("Grid").select_option("0")
    page.get_by_role("button", name="Fit").click()
    hands.kind("line tangent to two circles")
    hands.place(17, -17, "line tangent to circle 1; ")
    hands.place(91.2, -9.2, "line tangent to circle 1; circle 2; ")
    hands.place(40, -19, "")
    hands.kind("line tangent to two circles")
    hands.place(17, 17, "line tangent to circle 1; ")
    hands.place(91.2, 9.2, "line tangent to circle 1; circle 2; ")
    hands.place(40, 19, "")
    for n, keep in ((1, (-24, 0)), (2, (95, 0))):
        hands.kind("trim")
        hands.place(keep[0], keep[1], f"trim circle {n}; at ")
        hands.place(41, -18.4, f"trim circle {n}; at edge 3 ")
        hands.answer("and")
        hands.place(41, 18.4, f"trim circle {n}; at edge 3 and edge 4 ")
        hands.answer("keep")
        hands.place(keep[0], keep[1], "")
    hands.kind("join into one outline")
    hands.place(-24, 0, "join arc 1 ")
    for at, named in (((41, -18.4), "edge 3"), ((95, 0), "arc 2"), ((41, 18.4), "edge 4")):
        hands.answer("and")
        hands.place(*at, f"{hands.field.input_value()}{named}")
    hands.take()
    for (x, n), radius in (((0, 1), "14"), ((82, 2), "6")):
        hands.kind("circle by centre and size")
        hands.place(x, 0, f"circle centre of arc {n}; ")
        hands.answer("radius")
        hands.signs(radius)
        hands.take()
    hands.layer("centre")
    page.get_by_label("Grid").select_option("1")
    for a, b in (((-30, 0), (101, 0)), ((0, -30), (0, 30)), ((82, -19), (82, 19))):
        hands.kind("line")
        press(page, *a)
        press(page, *b)
    hand_in(page)


WRONG = [
    "rectangle 0, 0; 100, 60",
    "circle 14, 12; diameter 10",
    "copy circle 2; by 64, 0",
    "copy circle 2; by 0, 36",
    "copy circle 2; by 64, 36",
    "circle 46, 30; radius 9",
    "rectangle 86, 18; 92, 42",
    'text "GATE PLATE"; 30, 3; height 3.5; anchor left bottom; layer lettering',
    *(
        f"dimension 0, 0; {x}, 0; horizontal; at {x / 2}, {-10 - n}; layer dimension"
        for n, x in enumerate(range(5, 60, 5))
    ),
    *(f"dimension 0, 0; 0, {y}; up; at {-10 - n}, {y / 2}" for n, y in enumerate(range(5, 60, 5))),
]


def test_a_wrong_diameter_in_the_second_of_thirty_steps_is_corrected_at_the_end(anyone: Any) -> None:
    assert len(WRONG) == 30
    page: Page = anyone("callum", "/work")
    draft(page, "Gate plate, holes and slot")
    type_all(page, WRONG)
    page.get_by_role("button", name="Hand in …").click()
    page.locator("[data-hand-in]").click()
    expect(page).to_have_url(re.compile("/results/"))
    expect(page.get_by_text("diameter").first).to_be_visible()
    expect(page.get_by_text("100", exact=True)).to_have_count(0)
    # the result calls it as the board does, and leads to its step
    page.locator("[data-yours]").get_by_role("link", name="circle 2", exact=True).first.click()
    expect(page).to_have_url(re.compile(r"/boards/\d+\?step=\d+$"))
    second = page.locator("[data-step='2']").get_by_role("button").first
    expect(second).to_have_attribute("aria-pressed", "true")
    diameter = page.get_by_label("diameter of circle 2")
    diameter.fill("8")
    diameter.press("Enter")
    expect(page.locator("[data-step='2']")).to_contain_text("diameter 8")
    hand_in(page)
