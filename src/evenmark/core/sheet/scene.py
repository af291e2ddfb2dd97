"""Scene: what the browser draws. Paths are made here; the browser only pans, zooms and chooses.

Scene coordinates are those of a frame (`frame`). What lies on each other is laid out from one origin.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import TypedDict, TypeVar

from evenmark.core.geometry.points import Point
from evenmark.core.sheet.frame import Frame
from evenmark.core.sheet.tracing import (
    Named,
    TracedClutter,
    TracedOutline,
    TracedText,
    Tracing,
    curve_of,
)

P = TypeVar("P", Named, TracedOutline, TracedClutter)


class SceneFeature(TypedDict):
    """A feature as a path."""

    id: str
    kind: str
    path: str
    layer: str
    role: str
    line_type: str
    at: list[float]


class SceneBeside(TypedDict):
    """The pictures beside the features, as one path, and their lettering."""

    path: str
    texts: list[TracedText]


class Scene(TypedDict):
    """What the browser draws."""

    unit: str | None
    box: list[float]
    features: list[SceneFeature]
    joints: list[Named]
    outlines: list[TracedOutline]
    texts: list[TracedText]
    annotations: SceneBeside
    clutter: list[TracedClutter]


def frame_of(tracing: Tracing) -> Frame:
    """Return the frame that a tracing is shown in by itself, from the upper left corner of its box."""
    left, bottom, right, top = tracing["box"]
    return Frame((left, bottom, right, top))


def scene(tracing: Tracing, frame: Frame | None = None) -> Scene:
    """Return features with their paths and label anchors, joints, outlines, lettering and the pictures beside
    them, in a frame: that of the tracing itself, or that of what it lies on."""
    here = frame or frame_of(tracing)
    left, bottom, right, top = tracing["box"]

    def placed(one: P) -> P:
        return {**one, "at": here.at(one["at"])}

    return {
        "unit": tracing.get("unit"),
        "box": [*here.at((left, top)), round(right - left, 9), round(top - bottom, 9)],
        "features": [
            {
                "id": f["id"],
                "kind": f["kind"],
                "path": here.curve(curve_of(f["shape"])),
                "layer": f["layer"],
                "role": f["role"],
                "line_type": f["line_type"],
                "at": here.at(f["at"]),
            }
            for f in tracing["features"]
        ],
        "joints": [placed(j) for j in tracing["joints"]],
        "outlines": [placed(o) for o in tracing["outlines"]],
        "texts": [_lettering(t, here) for t in tracing["texts"]],
        "annotations": {
            "path": "".join(here.curve(curve_of(s)) for s in tracing["annotations"]["shapes"]),
            "texts": [_lettering(t, here) for t in tracing["annotations"]["texts"]],
        },
        "clutter": [placed(c) for c in tracing.get("clutter", ())],
    }


def _lettering(t: TracedText, frame: Frame) -> TracedText:
    return {**t, "at": frame.at(t["at"]), "height": round(t["height"], 9), "turn": round(t["turn"], 6)}


def in_scene(at: Sequence[float] | None, frame: Frame) -> list[float] | None:
    """Return a place in drawing units as one of the scene; None for none."""
    return frame.at((at[0], at[1])) if at else None


def from_scene(at: Sequence[float], frame: Frame) -> Point:
    """Return a place of the scene in drawing units."""
    return (frame.origin[0] + at[0], frame.origin[1] - at[1])
