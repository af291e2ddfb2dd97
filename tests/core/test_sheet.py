"""Scenes for the browser and the exercise sheet."""

from __future__ import annotations

import json
import re
import xml.etree.ElementTree as ET

import pytest

from evenmark.core.geometry.arcs import Round
from evenmark.core.sheet import faces
from evenmark.core.sheet.scene import frame_of, from_scene, in_scene, scene
from evenmark.core.sheet.svg import SheetWords, exercise_sheet
from evenmark.core.sheet.tracing import box_with, curve_of, shape_of, tracing
from tests.builders import PLATE, arc, circle, line, linework, text

WORK = linework(PLATE, arc((100, 20), 8, 300, 60), text("A < B & C", (3, 60)))


def test_a_scene_has_every_feature_with_its_role() -> None:
    made = scene(tracing(WORK, {"outline": "outline"}))
    assert [f["id"] for f in made["features"]] == ["e1", "e2", "e3", "e4", "a1", "c1", "c2"]
    assert {f["role"] for f in made["features"]} == {"outline"}
    assert {j["id"] for j in made["joints"]} == {"k1", "k2", "k3", "k4"}
    assert made["outlines"][0]["members"][0] in {"e1", "e2", "e3", "e4"}
    assert made["box"][:2] == [0.0, 0.0]


def test_a_gap_of_a_thousandth_survives_far_from_zero() -> None:
    far = 5e6
    work = linework(line((far, far), (far + 10, far)), line((far + 10.001, far), (far + 10.001, far + 8)))
    made = scene(tracing(work, {}))
    numbers = [float(v) for f in made["features"] for v in re.findall(r"-?[\d.]+(?:e-?\d+)?", f["path"])]
    assert any(abs(v - 10.001) < 1e-6 for v in numbers)
    assert max(numbers) < 100


def test_the_empty_scene_has_a_frame() -> None:
    made = scene(tracing(linework(), {}))
    assert made["features"] == []
    assert made["box"] == [0.0, 0.0, 100.0, 70.0]
    assert box_with(None, ()) is None


@pytest.mark.parametrize(
    ("size", "scale"), [(100.0, "1:1"), (300.0, "1:2"), (1500.0, "1:10"), (10.0, "10:1"), (70000.0, "1:500")]
)
def test_the_sheet_takes_the_largest_standard_scale_that_fits(size: float, scale: str) -> None:
    svg = exercise_sheet(
        linework(circle((0, 0), size / 2)), (), SheetWords(title="T", school="S", unit="mm")
    )[0]
    assert f">{scale}</text>" in svg


def test_the_sheet_is_well_formed_whatever_is_lettered() -> None:
    words = SheetWords(title='"<script>" & more', school="O'Brien & Söhne", unit="mm")
    root = ET.fromstring(exercise_sheet(WORK, (), words)[0])
    said = ["".join(t.itertext()) for t in root.iter("{http://www.w3.org/2000/svg}text")]
    assert "A < B & C" in said
    assert '"<script>" & more' in said
    assert root.attrib["width"] == "297mm"


@pytest.mark.parametrize("letters", [10, 60, 95, 160])
@pytest.mark.parametrize("broken", [True, False])
def test_long_words_stay_in_their_cells(letters: int, broken: bool) -> None:
    word = "Wide W" if broken else "WWWWWW"
    title, school = (word * 40)[:letters].strip(), (word * 40)[: min(letters, 120)].strip()
    root = ET.fromstring(exercise_sheet(WORK, (), SheetWords(title=title, school=school, unit="mm"))[0])
    texts = [
        t
        for t in root.iter("{http://www.w3.org/2000/svg}text")
        if (t.text or "").startswith(("W", "i", "d", "e"))
    ]
    assert texts
    for t in texts:
        size = float(t.attrib["font-size"])
        room = 95 if float(t.attrib["x"]) < 150 else 46
        assert faces.width(t.text or "", size) <= room
        assert size >= 2.8
    said = "".join(t.text or "" for t in texts if float(t.attrib["x"]) < 150)
    assert said.replace(" ", "") == title.replace(" ", "") or said.endswith("…")


def test_a_tracing_keeps_every_number_to_the_last_bit() -> None:
    """What is printed and drawn over files is made of the numbers, not of paths that have twelve figures."""
    kept = json.loads(json.dumps(tracing(WORK, {})))
    for f, feature in zip(kept["features"], WORK.curves.values(), strict=True):
        again = curve_of(f["shape"])
        whole = isinstance(again, Round) and again.whole
        assert f["shape"] == ({"circle": [*again.center, again.radius]} if whole else shape_of(again))
        assert f["shape"] == shape_of(feature)
    arcs = [f["shape"]["arc"] for f in kept["features"] if "arc" in f["shape"]]
    assert [(*a.center, a.radius, a.start_rad, a.sweep_rad) for a in WORK.arcs] == [tuple(a) for a in arcs]


def test_what_lies_on_each_other_is_laid_out_from_one_origin() -> None:
    key, other = tracing(WORK, {}), tracing(linework(circle((10, 10), 3)), {})
    frame = frame_of(key)
    shown = scene(other, frame)
    assert shown["box"] == [*frame.at((7.0, 13.0)), 6.0, 6.0]
    assert shown["features"][0]["path"] == frame.curve(curve_of({"circle": [10.0, 10.0, 3.0]}))
    assert scene(other)["box"] == [0.0, 0.0, 6.0, 6.0]
    place = in_scene((12.5, 1.25), frame)
    assert place is not None
    assert from_scene(place, frame) == (12.5, 1.25)
    assert in_scene(None, frame) is None
