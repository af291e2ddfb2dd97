"""``even-mark draw``: documents of steps from a shell."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest

from evenmark.cli import main

LINK = """\
unit mm
R = 24
reach from 60 to 96 by 2, now 82
circle 0, 0; radius R
circle reach, 0; radius R - 11
line tangent to circle 1; circle 2; outer left
dimension diameter circle 1; at -30, 30; layer dimension
"""


@pytest.fixture
def link(tmp_path: Path) -> Path:
    (tmp_path / "link.txt").write_text(LINK)
    return tmp_path


def said(files: Path, capsys: Any, *words: str) -> tuple[int, list[str], list[str]]:
    """Run a command in a folder; its status, and the lines of its output and of its errors."""
    status = main(
        [
            *words[:1],
            *(
                str(files / w) if w.endswith((".txt", ".dxf", ".svg", ".pdf", ".json")) else w
                for w in words[1:]
            ),
        ]
    )
    out = capsys.readouterr()
    return status, out.out.splitlines(), out.err.splitlines()


def test_draw_writes_every_way_out_and_each_can_be_read_again(link: Path, capsys: Any) -> None:
    for name in ("link.dxf", "link.svg", "link.pdf", "again.json", "again.txt"):
        assert said(link, capsys, "draw", "link.txt", "-o", name) == (0, [], [])
        assert (link / name).stat().st_size > 100
    assert (link / "again.txt").read_text() == LINK
    assert said(link, capsys, "draw", "again.json", "--measure", "radius of circle 2")[1] == [
        "radius of circle 2 = 13"
    ]
    status, out, _ = said(link, capsys, "check", "link.txt", "link.dxf")
    assert (status, out[0].split(": ")[1]) == (0, "100.00 of 100.00")
    assert said(link, capsys, "read", "link.txt")[0] == 0
    assert said(link, capsys, "propose", "again.json")[0] == 0


def test_draw_with_other_values_and_measures(link: Path, capsys: Any) -> None:
    measure = ["--measure", "distance of (0, 0) and (centre of circle 2)"]
    assert said(link, capsys, "draw", "link.txt", "--set", "reach=96", *measure)[1] == [f"{measure[1]} = 96"]
    status, _, err = said(link, capsys, "draw", "link.txt", "--set", "reach=83")
    assert (status, "not permitted" in err[0]) == (2, True)
    status, _, err = said(link, capsys, "draw", "link.txt", "--set", "reach")
    assert (status, "NAME=VALUE" in err[0]) == (2, True)
    _, out, _ = said(link, capsys, "draw", "link.txt", "--measure", "circle 1", "--measure", "edge 3")
    assert out[0].startswith("circle 1: centre 0, 0; radius 24; diameter 48; perimeter 150.79")
    assert out[1].startswith("edge 3: start 3.2195")
    assert said(link, capsys, "draw", "link.txt", "--measure", "length of circle 9")[0] == 1


def test_draw_explains_each_step(link: Path, capsys: Any) -> None:
    status, out, err = said(link, capsys, "draw", "link.txt", "--explain")
    assert (status, err) == (0, [])
    assert out[:2] == ["R = 24", "reach = 82"]
    assert "    3  line tangent to circle 1; circle 2; outer left" in out
    assert any("dimension 4.1: Ø48" in line for line in out)


def test_draw_says_what_is_broken_and_draws_the_rest(link: Path, capsys: Any) -> None:
    (link / "broken.txt").write_text(
        "circle 0, 0; radius -1\nline 0, 0; 9, 0\ncircel 1, 1\nline start of edge 3; 4, 4\n"
    )
    status, out, err = said(link, capsys, "draw", "broken.txt", "-o", "rest.dxf")
    assert (status, out) == (1, [])
    assert [line.split(":")[0] for line in err] == ["step 1", "step 3", "step 4"]
    assert "waits for step 3" in err[2]
    assert said(link, capsys, "read", "rest.dxf")[1][0].endswith("1 edges")
    status, out, _ = said(link, capsys, "draw", "broken.txt")
    assert (status, "4 steps, 3 broken" in out[0]) == (1, True)


def test_draw_refuses_what_it_cannot_write(link: Path, capsys: Any) -> None:
    assert said(link, capsys, "draw", "link.txt", "-o", "link.png")[0] == 2
    (link / "odd.txt").write_text("line 0, 0; 9, 0; layer a/b\n")
    status, _, err = said(link, capsys, "draw", "odd.txt", "-o", "odd.dxf")
    assert (status, "a/b" in err[0]) == (2, True)
    _, _, err = said(link, capsys, "draw", "link.txt", "-o", "old.dxf", "--version", "R12")
    assert "note: R12 has no line widths: they are left out." in err
