"""Scenes of a drawing in the making: names and places stay while it grows."""

from __future__ import annotations

from typing import Any

from evenmark.core.board.scene import scene_of
from evenmark.core.construct.building import build
from evenmark.core.construct.document import from_text
from tests.catalogue import EXAMPLES

PLATE = (
    "rectangle 0, 0; 80 by 50\ncircle 20, 25; radius 8\nguide level 0, 25\n"
    'text "PLATE"; 5, 5; height 4; layer lettering\nsize diameter circle 2; at 40, 40; layer dimension\n'
    "hatch 60, 10; 45; gap 4; layer section\n"
)


def pieces(text: str) -> dict[str, dict[str, Any]]:
    return {p["id"]: p for p in scene_of(build(from_text(text)).evaluation)["pieces"]}


def test_what_did_not_change_has_its_id_and_its_path() -> None:
    before = pieces(PLATE)
    after = pieces(PLATE + "circle -200, 300; radius 40\nmove circle 2; by 5, 0\n")
    kept = {i for i, p in before.items() if after[i] == p}
    assert {"edge 1.1", "edge 1.2", "edge 1.3", "edge 1.4", "text 4.1", "size 5.1", "hatch 6.1"} <= kept
    assert "circle 2.1" not in kept
    assert after["circle 2.1"]["id"] == "circle 2.1"
    assert set(after) - set(before) == {"circle 7.1"}


def test_coordinates_are_those_of_the_drawing_with_y_down() -> None:
    scene = scene_of(build(from_text("line 10, 20; 30, 40")).evaluation)
    assert scene["pieces"][0]["path"] == "M10 -20L30 -40"
    assert scene["box"] == [10, -40, 20, 20]
    far = scene_of(build(from_text("line 10, 20; 30, 40")).evaluation, (10.0, 20.0))
    assert far["pieces"][0]["path"] == "M0 0L20 -20"


def test_every_kind_of_piece_is_shown() -> None:
    shown = pieces(PLATE)
    assert {p["kind"] for p in shown.values()} == {"edge", "circle", "guide", "text", "size", "hatch"}
    assert shown["size 5.1"]["texts"][0]["wording"] == "Ø16"
    assert shown["text 4.1"]["path"] == ""
    for example in EXAMPLES:
        built = example.built()
        for p in scene_of(built.evaluation)["pieces"]:
            assert p["path"] or p["texts"], (example.name, p["id"])
