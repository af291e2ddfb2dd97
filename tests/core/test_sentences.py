"""Sentences of steps: all that the language has are read, and what cannot be is said at its character."""

from __future__ import annotations

import pytest

from evenmark.core.construct.kinds import WORDS
from evenmark.core.construct.kinds.circles import CircleByCentre
from evenmark.core.construct.kinds.lettering import Lettering
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Expression, Ref
from evenmark.core.construct.sentences import Sentence, read_sentence
from evenmark.core.construct.words import Unreadable
from evenmark.core.geometry.numbers import evaluate

SENTENCES = """
circle 0, 0; radius R
circle reach toward 0 from centre of circle 1; radius R - 11
line touching circle 1; circle 2; outer left
circle centre of circle 1; diameter 28; layer outline
line middle 10, 10; 5 toward 30
line middle 10, 10; 13, 14
line middle of edge 1; 3, 4
line middle middle of edge 1; 8 toward 90
line 0,0; 40 at 30 to edge 2
line start of edge 1; by 3, 4
chain 35, 20; right 72; 26 toward 60; left 48; close; layer outline
chain 0,0; arc to 10, 0 radius 8 left long; arc through 3,4 to by 5, 5; smooth arc to 9, 9
parallel edge 1.1; gap 11; left; times 3
parallel circle 2; gap 3; outside
square edge 1; at middle of edge 1; length 9; left
square edge 1; from 3, 4
line square to circle 1; circle 2
bisector edge 1; edge 2; length 20
bisector 0, 0; 3, 4; 5, 6; length 8
line touching circle 1; from 60, 0; left
line touching circle 1; at quarter of circle 1 above; length 10
shortest circle 1; edge 2
circle 3, 4; through 5, 6
circle across 0,0; 10, 0
circle through 0,0; 1,1; 2,0
circle touching edge 1; at middle of edge 1; radius 5; left
circle touching edge 1; circle 2; radius 8; left; outside
circle touching edge 1; edge 2; edge 3; left; left; right; first
arc through 0,0; 1,1; 2,0
arc centre 0, 0; from 5, 0; turn 90
arc centre centre of circle 1; from 5, 0; turn -45
arc 0,0; 10, 0; radius 8; left; long
arc centre of circle 1; 10,0; radius 8; left
rectangle 0,0; 40, 20
rectangle 0,0; 40 by 20; turned 30; rounded 4
rectangle 0,0; 40 toward 30
polygon 6; centre 0,0; inside 20; turned 15
polygon 5; edge 0,0; 10,0; left
point A; 3, 4
trim edge 1; at circle 1; keep 0, 0
trim edge 1; at edge 2 and edge 3; drop 5, 5
extend edge 1; to circle 2
fillet edge 1; edge 2; radius 5
fillet corners of step 3; radius 4
chamfer edge 1; edge 2; 3 and 5
run past edge 1; 6
run past edge 1; 6; start
split edge 1; at 4, 5
split circle 1; at 4, 5 and end of edge 2
slot 0, 0; right 30; width 12
slot middle centre of circle 1; 40 by 12; turned 30
slot middle of edge 1; 40, 12; width 3
ellipse 0, 0; 40 by 22; turned 15
ellipse 0, 0; 40, 0; 5, 12
parallel edge 1; through 3, 4
parallel outline step 1; gap 5; inside
parallel outline edge 1.2; gap 5; left; rounded
mirror step 1 and edge 2.3; about edge 4; copy
mirror everything on hidden layer; about 0,0; 0, 10
move edge 1 and step 2; by 3, 4
copy step 1; right 40
turn step 1; about 0,0; 30; copy
scale step 1; about 0,0; 4 becomes 6
stretch 0,0; 50, 50; by 6, 2.5
repeat circle 1; 3 across 20; 2 up 15
repeat circle 1; 6 round 0,0; over 180
join step 1 and step 2
break up step 4
tidy
layer edge 1; hidden
line edge 1; dashed
erase (inside 0,0; 50, 40)
erase guides
guide level 0, 5
guide 30 through 0, 0
mitre 10, 10
carry end of edge 1; round guide 6
centre mark circle 1; past 2
centre line 0,0; 10,0; past 2
centre line edge 1; edge 2; past 2
pitch circle 0,0; diameter 120; 4 holes diameter 12; first 45
hide edges step 1
size 0,0; 10,0; across; at 5, -8
size edge 1; at 5, 5
size radius arc 1; at 5,5; times 4
size angle edge 1; edge 2; at 5,5; brackets
sizes from 0,0; 10,0; 20,0; across; at 0,-10
sizes in a row 0,0; up 10; 5,20; up; at -10, 0
text "GATE PLATE; A"; 10, 10; height 5; anchor centre middle; turned 90
text "A"; between 0,0; 10,0
text "B"; in 0,0; 10,10; height 3.5
note "2 holes"; 0,0; 10,10; 20, 10
hatch 5,5; 45; gap 3
frame A4 across
keep stud plate; everything; at 0,0
place stud plate; 10,10; turned 90; R = 24; wall = 3/8
lay in plate
lay in plate.dxf; at 90, 0; turned 45; layer outline
lay in "a; b"; at by 3, 4
line share 1/3 of start of edge 1 and (3, 4); level with 0,0 plumb with 5,5
line crossing of edge 1 and edge 2 nearest 0,0; foot on edge 1 from 3, 4
line corner 2 of step 1; nearest on circle 1 to 9, 9
line (0,0); (3+4)/2, 5
line 5 along edge 1; 5 square to edge 1 left from 0, 0
circle length of edge 1, distance of (0, 0) and (3, 4); radius radius of circle 2/2
"""


def understood(text: str, steps: int = 99) -> Sentence:
    return read_sentence(text, lambda n: 1000 + n if 1 <= n <= steps else None)


@pytest.mark.parametrize("text", SENTENCES.strip().splitlines())
def test_every_sentence_is_read(text: str) -> None:
    found = understood(text)
    assert found.kind
    if '"' not in text:  # as it is shown
        assert understood(text.replace(";", " ·"))._replace(places=()) == found._replace(places=())
    for place in found.places:  # where a step is named its number stands
        assert text[place.begin : place.end] == str(place.step - 1000)
    kept = text
    for place in sorted(found.places, reverse=True):
        kept = f"{kept[: place.begin]}#{place.step}{kept[place.end :]}"
    assert read_sentence(kept, lambda n: None)._replace(places=()) == found._replace(places=())


def test_every_kind_of_sentence_is_among_them() -> None:
    assert {Reader(line, lambda n: n).peek() for line in SENTENCES.strip().splitlines()} == set(WORDS)


@pytest.mark.parametrize(
    ("text", "at", "says"),
    [
        ("", 0, "a word for what to do"),
        ("draw 3, 4", 0, "not 'draw'"),
        ("circle 0, 0", 11, "Radius, diameter or a point on it is missing"),
        ("circle 0; radius 3", 8, "a comma"),
        ("circle 0, 0; radius", 19, "A number is missing"),
        ("circle 0, 0; radius 3 4", 22, "';' or the end"),
        ("circle 0, 0; radius 3; blue", 23, "'layer' or 'line'"),
        ("circle 0, 0; radius 3; layer", 28, "the name of a layer"),
        ("line 0, 0; 3 toward", 19, "A number is missing"),
        ("trim edge 100; at edge 1; keep 0, 0", 10, "There is no step 100"),
        ("line touching circle 1; circle 2; outer", 39, "left or right"),
        ("fillet edge 1; circle", 21, "the number of a step"),
        ('text "A; 0, 0', 5, "quotation marks"),
        ("line " + "(" * 50 + "0, 0", 56, "closing bracket"),
        ("line " + "foot on edge 1 from " * 50 + "0, 0", 404, "Too many points"),
        ("line 0, 0; " + "9" * 30_000, 20_000, "letters at most"),
    ],
)
def test_what_cannot_be_read_is_said_at_its_character(text: str, at: int, says: str) -> None:
    with pytest.raises(Unreadable) as why:
        understood(text)
    assert says in why.value.says
    assert why.value.at == at


def test_words_are_the_same_in_capitals_and_in_other_spellings() -> None:
    one, other = (
        understood("circle center of circle 1; dia 28"),
        understood("CIRCLE Centre of Circle 1; DIAMETER 28"),
    )
    assert one.meaning == other.meaning
    assert isinstance(one.meaning, CircleByCentre)
    assert one.meaning.centre == Expression("centre", (Ref("circle", 1001),))


def test_names_and_wordings_are_kept_as_they_are_written() -> None:
    found = understood('text "Gate; \\"plate\\""; 0, 0; height 5; layer Title Block')
    assert isinstance(found.meaning, Lettering)
    assert found.meaning.wording == 'Gate; "plate"'
    assert found.layer == "Title Block"
    assert found.meaning.height is not None
    assert evaluate(found.meaning.height) == 5
