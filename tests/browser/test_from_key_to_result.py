"""The main job, all in the browser: a key by other software, issued, handed in for, marked, read."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any

import pytest
from ezdxf.document import Drawing as DxfDocument
from playwright.sync_api import Page, expect

from tests.builders import dxf


def bracket(radius: float = 8.0, short: float = 0.0) -> Any:
    """A plate with two holes and a filleted corner, as the DXF library itself writes it, dimensioned and with
    an axis."""

    def draw(space: Any, doc: DxfDocument) -> None:
        doc.layers.add("outline", color=7, lineweight=50)
        doc.layers.add("axes", color=1, linetype="CENTER", lineweight=25)
        look = {"layer": "outline"}
        space.add_line((0, 0), (70 - short, 0), dxfattribs=look)
        space.add_line((70, 0), (70, 40), dxfattribs=look)
        space.add_arc((60, 40), 10, 0, 90, dxfattribs=look)
        space.add_line((60, 50), (0, 50), dxfattribs=look)
        space.add_line((0, 50), (0, 0), dxfattribs=look)
        space.add_circle((20, 25), radius, dxfattribs=look)
        space.add_circle((50, 25), 5, dxfattribs=look)
        space.add_line((5, 25), (65, 25), dxfattribs={"layer": "axes"})
        space.add_linear_dim((0, -12), (0, 0), (70, 0)).render()

    return draw


@pytest.fixture
def files(tmp_path: Path) -> Path:
    (tmp_path / "angle_bracket.dxf").write_bytes(dxf(bracket(), "R2013"))
    (tmp_path / "mine.dxf").write_bytes(dxf(bracket(radius=16.0, short=0.02), "R2000"))
    (tmp_path / "better.dxf").write_bytes(dxf(bracket(), "R2018"))
    (tmp_path / "closed.dxf").write_bytes(b"AC1032" + bytes(500))
    (tmp_path / "empty.dxf").write_bytes(dxf(lambda s, d: None))
    return tmp_path


def test_an_exercise_from_key_to_result(anyone: Any, files: Path) -> None:
    maren: Page = anyone("maren", "/exercises")
    maren.get_by_role("button", name="New exercise").click()
    maren.get_by_label("Choose the key drawing").set_input_files(files / "angle_bracket.dxf")
    expect(maren.get_by_label("Title")).to_have_value("angle bracket")
    maren.get_by_label("Title").fill("Angle bracket")
    maren.get_by_label("Instructions for students").fill("Draw the bracket at full size.")
    maren.get_by_role("button", name="Create exercise").click()
    expect(maren.get_by_text("What counts")).to_be_visible()

    # choosing on the drawing shows its checks, and switching one off keeps the total
    maren.get_by_role("tab", name="By kind").click()
    expect(maren.get_by_role("button", name=re.compile("^Tangency"))).to_be_visible()
    maren.get_by_role("switch", name="Check Line styles of layers").click()
    expect(maren.get_by_text("Saved")).to_be_visible()
    expect(maren.get_by_text("100.00 marks")).to_be_visible()

    maren.get_by_role("button", name="Issue to a class").click()
    maren.get_by_role("button", name=re.compile("^Class:")).click()
    maren.get_by_role("option", name=re.compile("Group A")).click()
    maren.get_by_label("Tries").fill("2")
    maren.get_by_role("button", name="Issue", exact=True).click()
    expect(maren.get_by_text("Group A: 0 of 6")).to_be_visible()

    otto: Page = anyone("otto")
    otto.get_by_role("link", name=re.compile("Angle bracket")).click()
    expect(otto.get_by_text("2 of 2 tries left")).to_be_visible()
    expect(otto.get_by_alt_text("Sheet of Angle bracket")).to_be_visible()
    for name, said in (("closed.dxf", "closed drawing format"), ("empty.dxf", "nothing in it")):
        otto.get_by_label(re.compile("Choose")).set_input_files(files / name)
        expect(otto.get_by_role("alert")).to_contain_text(said)
        expect(otto.get_by_role("alert")).to_contain_text("No try was used up")
    otto.get_by_label(re.compile("Choose")).set_input_files(files / "mine.dxf")
    expect(otto.get_by_text("What was understood of mine.dxf")).to_be_visible()
    expect(otto.get_by_text("5 edges")).to_be_visible()
    otto.get_by_role("button", name=re.compile("^Hand in ·")).click()
    expect(otto.get_by_text("16 is the diameter asked for")).to_be_visible()
    expect(otto.get_by_text("do not meet")).to_be_visible()

    maren.goto("/desk")
    maren.get_by_role("link", name=re.compile("Angle bracket")).first.click()
    expect(maren.get_by_role("heading", name="Angle bracket")).to_be_visible()
    maren.get_by_role("link", name="Otto Lindqvist").click()
    maren.wait_for_url("**/marking/*")
    expect(maren.get_by_text("1 of 1")).to_be_visible()
    expect(maren.get_by_text("16 is the diameter asked for")).to_be_visible()
    maren.keyboard.press("ArrowDown")
    expect(maren.locator("tr[aria-current]")).to_have_count(1)
    maren.get_by_role("button", name=re.compile("do not meet")).click()
    expect(
        maren.get_by_label(re.compile("enlarged|times", re.I)).or_(
            maren.get_by_text(re.compile(r"\d+ times")).first
        )
    ).to_be_visible()

    otto.get_by_role("link", name=re.compile("Another try|try again", re.I)).click()
    otto.get_by_label(re.compile("Choose")).set_input_files(files / "better.dxf")
    otto.get_by_role("button", name=re.compile("^Hand in ·")).click()
    expect(otto.get_by_text("100.00").first).to_be_visible()
    otto.goto("/work")
    expect(otto.get_by_role("link", name=re.compile("Angle bracket"))).to_contain_text("100")
