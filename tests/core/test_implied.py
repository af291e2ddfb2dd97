"""What a sheet leaves to convention: it is complete with it, and free without."""

from __future__ import annotations

import pytest

from evenmark.core.drawing.annotations import Dimension
from evenmark.core.drawing.model import Entity
from evenmark.core.marking import RuleSet, check, prepare
from tests.builders import chain, circle, drawing, line, text
from tests.dimensioned import across, diameter, dimensioned, proved, up

PLATE = chain((0, 0), (100, 0), (100, 60), (0, 60))
SAID = [across((0, 0), (100, 0), at=(50, -10)), up((0, 0), (0, 60), at=(-10, 30))]
Case = tuple[list[Entity], list[Dimension], str]


def bored(low: float = 20, high: float = 40) -> list[Entity]:
    """A plate in section with a bore about an axis, and a shoulder that makes its halves unlike."""
    return [
        *chain((0, 0), (80, 0), (80, 60), (30, 60), (30, 55), (0, 55)),
        line((0, low), (80, low)),
        line((0, high), (80, high)),
        line((-5, 30), (85, 30), "centre"),
    ]


def flange(gap: float = 60) -> list[Entity]:
    """A disc in two views: circles, and from the side with the hidden edges of its bore."""
    x = 40 + gap
    return [
        circle((0, 0), 40),
        circle((0, 0), 15),
        *chain((x, -40), (x + 20, -40), (x + 20, 40), (x, 40)),
        line((x, 15), (x + 20, 15), "hidden"),
        line((x, -15), (x + 20, -15), "hidden"),
    ]


BORE_SAID = [
    across((0, 0), (80, 0)),
    up((80, 0), (80, 60)),
    across((30, 60), (0, 55)),
    up((0, 0), (0, 55)),
    up((0, 20), (0, 40), before="Ø"),
]
CASES: dict[str, Case] = {
    "equal spacing": (
        [*PLATE, *(circle((x, 30), 4) for x in (20, 40, 60, 80))],
        [
            *SAID,
            across((0, 0), (20, 30)),
            up((0, 0), (20, 30)),
            across((20, 30), (80, 30)),
            diameter((20, 30), 4, before="4 x "),
        ],
        "even-row",
    ),
    "the sides of a bore in a section": (bored(), [*BORE_SAID, up((80, 0), (80, 40))], ""),
    "the sides of a bore about a drawn axis": (bored(), [*BORE_SAID, up((0, 0), (85, 30))], "mirrored"),
    "two holes about a drawn axis": (
        [
            *chain((0, 0), (100, 0), (100, 60), (40, 60), (40, 50), (0, 50)),
            circle((20, 15), 4),
            circle((80, 15), 4),
            line((50, -5), (50, 65), "centre"),
        ],
        [
            across((0, 0), (100, 0)),
            up((100, 0), (100, 60)),
            up((0, 0), (0, 50)),
            across((0, 50), (40, 50)),
            up((0, 0), (20, 15)),
            across((20, 15), (80, 15)),
            across((0, 0), (50, -5)),
            diameter((20, 15), 4, before="2 x "),
        ],
        "mirrored",
    ),
    "what another view says": (
        flange(),
        [diameter((0, 0), 40), diameter((0, 0), 15), across((100, -40), (120, -40))],
        "projected",
    ),
}


@pytest.mark.parametrize("name", CASES)
def test_it_is_implied_where_the_sheet_is_complete_with_it(name: str) -> None:
    drawn, said, kind = CASES[name]
    proof = proved(drawn, said)
    assert proof.complete, (proof.freedoms, proof.twice, proof.untied)
    on = [t for t in proof.taken if t.id in proof.needed]
    assert {t.kind for t in on} - {"level-with"} == ({kind} if kind else set())
    if kind:
        assert proved(drawn, said, switched={t.id: False for t in proof.taken if t.kind == kind}).freedoms
        assert (
            check(prepare(dimensioned(drawn, said), RuleSet(listing="sheet")), drawing(drawn)).earned == 100
        )


@pytest.mark.parametrize("name", CASES)
def test_each_dimension_of_it_is_needed(name: str) -> None:
    drawn, said, _kind = CASES[name]
    for n in range(len(said)):
        assert not proved(drawn, said[:n] + said[n + 1 :]).complete, said[n]


# the sheet round a part

PART = [*chain((60, 60), (160, 60), (160, 120), (60, 120)), circle((90, 80), 5)]
PART_SAID = [
    across((60, 60), (160, 60), at=(110, 50)),
    up((60, 60), (60, 120), at=(50, 90)),
    across((60, 60), (90, 80), at=(75, 130)),
    up((60, 60), (90, 80), at=(45, 70)),
    diameter((90, 80), 5, at=(110, 100)),
]
BORDER = chain((0, 0), (277, 0), (277, 190), (0, 190))
STRIP = [line((0, 10), (277, 10)), line((80, 0), (80, 10)), line((160, 0), (160, 10))]
CELLS = [text("DRAWN BY", (20, 3)), text("PLATE", (100, 3)), text("GROUP A", (200, 3))]
BLOCK = [line((177, 0), (177, 30)), line((177, 30), (277, 30)), line((177, 15), (277, 15))]
EDGE = chain((-10, -10), (287, -10), (287, 200), (-10, 200))
SHEETS: dict[str, list[Entity]] = {
    "a border": BORDER,
    "a border with a strip": [*BORDER, *STRIP, *CELLS],
    "a border with a block": [*BORDER, *BLOCK, text("PLATE", (200, 5)), text("1:1", (200, 20))],
    "the paper's edge round it": [*EDGE, *BORDER, *STRIP, *CELLS],
}


@pytest.mark.parametrize("layer", ["outline", "frame"])
@pytest.mark.parametrize("name", SHEETS)
def test_a_border_leaves_the_proof_alone(name: str, layer: str) -> None:
    sheet = [e._replace(layer=layer) for e in SHEETS[name]]
    assert proved([*PART, *sheet], PART_SAID).complete
    [motion] = proved([*PART, *sheet], PART_SAID[:-1]).freedoms
    assert len(motion.features) == 1
    key = prepare(dimensioned([*PART, *sheet], PART_SAID))
    assert key.rules.listing == "sheet"
    assert check(key, drawing([*PART, *sheet])).earned == 100
    [longer] = [[*PART, *(s._replace(layer=layer) for s in _stretched(SHEETS[name]))]]
    assert check(key, drawing(longer)).earned < 100


def _stretched(sheet: list[Entity]) -> list[Entity]:
    """The sheet with its right side farther out."""

    def moved(e: Entity) -> Entity:
        ends = {a: (v[0] + 5, v[1]) for a in ("start", "end") if (v := getattr(e, a, None)) and v[0] == 277}
        return e._replace(**ends)

    return [moved(e) for e in sheet]


def test_a_plate_with_holes_is_no_border() -> None:
    holes = [circle((20, 20), 4), circle((70, 40), 6)]
    said = [
        across((20, 20), (70, 40), at=(45, 30)),
        up((20, 20), (70, 40), at=(60, 30)),
        diameter((20, 20), 4, at=(30, 20)),
        diameter((70, 40), 6, at=(80, 40)),
    ]
    assert len(proved([*PLATE, *holes], said).freedoms) == 4
    named = [*PLATE, *holes, text("PLATE", (50, 50))]
    assert len(proved(named, []).freedoms) > 4


# between three views


def test_hidden_edges_are_said_by_the_circle_in_another_view() -> None:
    front = [*chain((0, 0), (60, 0), (60, 40), (0, 40)), circle((20, 25), 6)]
    top = [
        *chain((0, 60), (60, 60), (60, 90), (0, 90)),
        *(line((x, 60), (x, 90), "hidden") for x in (14, 26)),
    ]
    side = [
        *chain((80, 0), (110, 0), (110, 40), (80, 40)),
        *(line((80, y), (110, y), "hidden") for y in (19, 31)),
    ]
    said = [
        across((0, 0), (60, 0)),
        up((0, 0), (0, 40)),
        across((0, 0), (20, 25)),
        up((0, 0), (20, 25)),
        diameter((20, 25), 6),
        across((80, 0), (110, 0)),
    ]
    assert proved([*front, *top, *side], said).complete
    # the circle in the last view, its edges in the others: from above a depth, from the front a height
    bored_top = [*chain((0, 60), (60, 60), (60, 90), (0, 90)), circle((20, 70), 6)]
    bored_front = [
        *chain((0, 0), (60, 0), (60, 40), (0, 40)),
        *(line((x, 0), (x, 40), "hidden") for x in (14, 26)),
    ]
    for ways in ((64.0, 76.0), (74.0, 86.0)):
        depth = [w - 60 if ways[0] == 64 else 90 - w for w in ways]
        bored_side = [
            *chain((80, 0), (110, 0), (110, 40), (80, 40)),
            *(line((80 + d, 0), (80 + d, 40), "hidden") for d in depth),
        ]
        at = (20.0, (ways[0] + ways[1]) / 2)
        top_view = [*bored_top[:4], circle(at, 6)]
        sizes = [
            across((0, 0), (60, 0)),
            up((0, 0), (0, 40)),
            across((0, 60), at),
            up((0, 60), at),
            diameter(at, 6),
            across((80, 0), (110, 0)),
        ]
        proof = proved([*bored_front, *top_view, *bored_side], sizes)
        assert proof.complete, (proof.freedoms, proof.twice)
