"""Whose drawing a file is: plain cases are sure, everything that could be two students is asked."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from evenmark.core.student_matching import Seen, Student, match_students
from tests.extent import examples

CLASS = [
    Student(id=i, name=name, sign_in=sign_in)
    for i, (name, sign_in) in enumerate(
        [
            ("Wren Halloran", "wren"),
            ("Idris Pell", "idris"),
            ("Tamsin Roe", "tamsin"),
            ("Tamsin Pell", "tpell2"),
            ("Zoë O'Brien", "zoe"),
            ("王小明", "wxm"),
            ("Ana Smith-Jones", "ana.sj"),
            ("Maria del Carmen Ruiz", "mruiz@school.example"),
        ]
    )
]
WREN, IDRIS, ROE, TPELL, ZOE, WANG, ANA, MARIA = range(8)


@pytest.mark.parametrize(
    ("path", "wordings", "student", "sure"),
    [
        ("wren-gate.dxf", (), WREN, True),
        ("Halloran, Wren/gate.dxf", (), WREN, True),
        ("Halloran_Wren_1234_assignsubmission_file/gate.dxf", (), WREN, True),
        ("WrenHalloran.dxf", (), WREN, True),
        ("whalloran-gate-v2.DXF", (), WREN, True),
        ("hallow.dxf", (), None, False),
        ("pell_gate.dxf", (), None, False),
        ("idrispell gate.dxf", (), IDRIS, True),
        ("tpell2.dxf", (), TPELL, True),
        ("tamsin.dxf", (), None, False),
        ("tamsin roe.dxf", (), ROE, True),
        ("obrien-gate.dxf", (), ZOE, True),
        ("Zoe_OBrien.dxf", (), ZOE, True),
        ("gate_王小明作业.dxf", (), WANG, True),
        ("SmithJonesA.dxf", (), ANA, True),
        ("ana.dxf", (), ANA, False),
        ("ruiz-maria.dxf", (), MARIA, True),
        ("mruiz.dxf", (), MARIA, True),
        ("gate7.dxf", ("DRAWN BY T. ROE",), ROE, True),
        ("gate8.dxf", ("Tamsin Roe", "GATE"), ROE, True),
        ("gate9.dxf", ("TITLE", "GATE"), None, False),
        ("wren.dxf", ("Wren Halloran",), WREN, True),
        ("halloran.dxf", ("Tamsin Roe",), None, False),
        ("pell.dxf", ("Idris Pell",), IDRIS, True),
        ("", (), None, False),
    ],
)
def test_one_file(path: str, wordings: tuple[str, ...], student: int | None, sure: bool) -> None:
    [guess] = match_students([Seen(id=1, path=path, wordings=wordings)], CLASS)
    assert (guess.student, guess.sure) == (student, sure), guess.why
    assert guess.why.endswith(".")


def test_words_that_all_files_share_name_nobody() -> None:
    """A student called Gate, and an exercise too."""
    people = [
        Student(id=1, name="Robin Gate", sign_in="rg"),
        Student(id=2, name="Wren Halloran", sign_in="wren"),
    ]
    files = [Seen(id=n, path=f"gate plate {who}.dxf") for n, who in enumerate(("wren", "x", "y", "z"))]
    assert [(g.student, g.sure) for g in match_students(files, people)] == [
        (2, True),
        (None, False),
        (None, False),
        (None, False),
    ]


def test_sign_in_names_that_differ_in_a_number_alone() -> None:
    people = [Student(id=n, name=f"Anna Bell{chr(97 + n)}", sign_in=f"student{n:02}") for n in range(9)]
    files = [Seen(id=n, path=f"student{n:02}-plate.dxf") for n in range(9)]
    assert [(g.student, g.sure) for g in match_students(files, people)] == [(n, True) for n in range(9)]


def test_several_files_of_one_student_are_asked_about() -> None:
    a, b = match_students(
        [Seen(id=1, path="wren.dxf", content="x"), Seen(id=2, path="wren2.dxf", content="y")], CLASS
    )
    assert (a.student, a.sure, b.student, b.sure) == (WREN, False, WREN, False)


def test_the_same_file_twice_counts_once() -> None:
    a, b = match_students(
        [Seen(id=1, path="wren.dxf", content="x"), Seen(id=2, path="wren copy.dxf", content="x")], CLASS
    )
    assert (a.student, a.sure, b.student, b.sure) == (WREN, True, None, False)


@settings(max_examples=examples(150), deadline=None)
@given(st.lists(st.tuples(st.text(max_size=40), st.lists(st.text(max_size=30), max_size=4)), max_size=8))
def test_no_two_files_are_surely_one_students_and_nothing_breaks(
    given_ones: list[tuple[str, list[str]]],
) -> None:
    files = [
        Seen(id=n, path=path, wordings=tuple(words), content=str(n))
        for n, (path, words) in enumerate(given_ones)
    ]
    sure = [g.student for g in match_students(files, CLASS) if g.sure]
    assert None not in sure
    assert len(sure) == len(set(sure))


@pytest.mark.parametrize(
    ("path", "why"),
    [
        ("Wren Halloran/gate.dxf", "By the folder."),
        ("Group A/wren halloran gate.dxf", "By the file name."),
        ("Wren Halloran/wren halloran.dxf", "By the file name."),
        ("Wren/gate.dxf", "Only a given name is in the folder."),
    ],
)
def test_it_is_said_what_named_the_student(path: str, why: str) -> None:
    [guess] = match_students(
        [Seen(id=1, path=path)], [Student(id=7, name="Wren Halloran", sign_in="w.halloran")]
    )
    assert (guess.student, guess.why) == (7, why)
