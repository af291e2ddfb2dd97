"""Numbers as they are typed."""

from __future__ import annotations

import math
from fractions import Fraction

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from evenmark.core.geometry.exact import Number, cosine, sine
from evenmark.core.geometry.numbers import (
    MOST_PARTS,
    NumberError,
    evaluate,
    parse,
    parse_part,
)


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("12.5", Fraction(25, 2)),
        ("-45", -45),
        ("7/16", Fraction(7, 16)),
        ("4 5/8", Fraction(37, 8)),
        ("-4 5/8", Fraction(-37, 8)),
        ("2'-1 9/32\"", 24 + Fraction(41, 32)),
        ("2' 6\"", 30),
        ("2'", 24),
        ('3/8"', Fraction(3, 8)),
        ("90 - 2*17", 56),
        ("(3+4)/2", Fraction(7, 2)),
        ("2 * 3 1/2", 7),
        ("1--1", 2),
        ("2^3^2", 512),
        ("-2^2", -4),
        ("2^-2", Fraction(1, 4)),
        ("60°15'", Fraction(241, 4)),
        ("60°15'30\"", Fraction(7231, 120)),
        ("60 deg", 60),
        ("sqrt(9/4)", Fraction(3, 2)),
        ("sin(30)", Fraction(1, 2)),
        ("cos(60)+tan(45)", Fraction(3, 2)),
        ("sin(-30)", Fraction(-1, 2)),
        ("min(3, 2, 5)", 2),
        ("round(7/2)", 4),
        ("0.1+0.2", Fraction(3, 10)),
        (".5", Fraction(1, 2)),
        ("5.", 5),
    ],
)
def test_what_is_exact_stays_exact(text: str, value: Number) -> None:
    found = parse(text).exact
    assert found == value
    assert isinstance(found, int | Fraction)


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("sqrt(2)", math.sqrt(2)),
        ("pi", math.pi),
        ("asin(0.5)", 30.0),
        ("sin(20)", math.sin(math.radians(20))),
    ],
)
def test_what_is_not_rational_is_the_nearest_double(text: str, value: float) -> None:
    assert parse(text).exact == pytest.approx(value, abs=1e-13)


@pytest.mark.parametrize(
    ("text", "at", "says"),
    [
        ("", 0, "missing"),
        ("3+", 2, "missing"),
        ("3 4", 2, "'4' does not belong"),
        ("1e308", 1, "'e308'"),
        ("(3+4", 4, "closing bracket"),
        ("3 & 4", 2, "'&'"),
        ("*3", 0, "expected"),
        ("huh(3)", 0, "'huh' is not known"),
        ("sqrt(1, 2)", 0, "takes 1 number"),
        ("60°75'", 0, "below 60"),
        ("9" * 61, 0, "60 digits"),
    ],
)
def test_what_cannot_be_read_is_said_at_its_character(text: str, at: int, says: str) -> None:
    with pytest.raises(NumberError) as why:
        parse(text)
    assert says in why.value.says
    assert why.value.at == at


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("1/0", "Division by zero"),
        ("1/(2-2)", "Division by zero"),
        ("sqrt(-1)", "negative"),
        ("(-8)^(1/3)", "negative"),
        ("tan(90)", "right angle"),
        ("acos(2)", "beyond 1"),
        ("10^99", "too large to be drawn"),
        ("10^999", "too large"),
        ("reach", "'reach' is not known"),
    ],
)
def test_what_has_no_value_says_so(text: str, says: str) -> None:
    with pytest.raises(NumberError, match=says):
        evaluate(parse(text))


@pytest.mark.parametrize(
    ("text", "value", "rest"),
    [
        ("26 toward 60", 26, "toward 60"),
        ("R - 11; 4", 13, "; 4"),
        ("0, -9 from", 0, ", -9 from"),
        ("4 5/8 by 3", Fraction(37, 8), "by 3"),
        ("2*(3+4)) and", 14, ") and"),
    ],
)
def test_a_number_ends_where_nothing_of_it_goes_on(text: str, value: Number, rest: str) -> None:
    typed, end = parse_part("at " + text, 3)
    assert evaluate(typed, {"R": 24}.get) == value
    assert ("at " + text)[end:] == rest


def test_no_formula_takes_long() -> None:
    for text in (
        "(" * 5000,
        "1+" * 5000 + "1",
        "2^" * 60 + "2",
        "max(" + "1," * 9999 + "1)",
    ):
        with pytest.raises(NumberError):
            evaluate(parse(text))
    assert MOST_PARTS < 1000


def test_names_have_the_values_that_they_are_given() -> None:
    typed = parse("2*R - wall/2")
    assert list(typed.names()) == ["R", "wall"]
    assert evaluate(typed, {"R": 24, "wall": Fraction(5, 2)}.get) == 48 - Fraction(5, 4)


def test_inches_in_a_metric_drawing() -> None:
    assert evaluate(parse('1 1/2"', inch=Fraction(254, 10))) == Fraction(381, 10)
    assert evaluate(parse("2'", inch=Fraction(254, 10))) == Fraction(6096, 10)


@given(st.integers(-360, 720))
def test_sines_of_whole_degrees(degrees: int) -> None:
    # the library's are of radians that were rounded: by up to an ulp of 720 degrees
    assert float(sine(degrees)) == pytest.approx(math.sin(math.radians(degrees)), rel=0, abs=1e-14)
    assert float(cosine(degrees)) == pytest.approx(math.cos(math.radians(degrees)), rel=0, abs=1e-14)


@settings(deadline=None)
@given(st.lists(st.decimals(-1000, 1000, places=4), min_size=1, max_size=30))
def test_sums_of_decimals_are_exact(values: list[object]) -> None:
    """Three hundred steps of a tenth come back to where they began."""
    text = "+".join(f"({v})" for v in values)
    assert parse(text).exact == sum(Fraction(str(v)) for v in values)
