"""What is asked and what went wrong in words: kinds of requirements, causes, lines of an inspection list."""

from __future__ import annotations

from collections.abc import Container, Iterable, Mapping, Sequence
from typing import Any

from evenmark.core.linework.wording import feature_name

KIND_TITLES = {
    "whole": "Placement",
    "length": "Lengths",
    "angle": "Directions",
    "radius": "Radii",
    "diameter": "Diameters",
    "arc-length": "Lengths of arcs",
    "sweep": "Included angles",
    "position": "Positions",
    "free-ends": "Free ends",
    "distance": "Distances",
    "included-angle": "Angles between edges",
    "axis": "Centre lines",
    "tangent": "Tangency",
    "perpendicular": "Square to each other",
    "parallel": "Parallel",
    "concentric": "One centre",
    "in-line": "In line",
    "joined": "Ends that meet",
    "closed": "Closed outlines",
    "whole-edge": "Edges without gaps",
    "one-piece": "Outlines of one object",
    "area": "Areas",
    "perimeter": "Lengths round",
    "equal": "Equal sizes",
    "symmetric": "Symmetry",
    "evenly-spaced": "Even patterns",
    "on-circle": "Holes on their pitch circle",
    "count": "How many",
    "wording": "Wording",
    "text-height": "Heights of lettering",
    "text-anchor": "Places of lettering",
    "text-turn": "Directions of lettering",
    "dimension": "Dimensions",
    "note": "Notes",
    "hatch": "Hatching",
    "arrangement": "Views in line",
    "agreement": "Sizes that views share",
    "layer": "Layers",
    "style": "Looks",
    "layer-style": "Look of layers",
    "clean": "Nothing left over",
}
"""What all checks of a kind are called together, in the order in which they are listed."""
MARKS_ITS_FEATURE = (
    "length",
    "angle",
    "radius",
    "diameter",
    "arc-length",
    "sweep",
    "position",
    "free-ends",
    "layer",
    "style",
    "axis",
    "perimeter",
    "area",
)
"""Kinds that are about one feature alone, so that missing them marks it, on page, PDF and DXF."""

KIND_WORDS = {
    "whole": "Placement of the whole drawing",
    "length": "length",
    "angle": "direction",
    "position": "position",
    "free-ends": "places of its ends",
    "distance": "distance to",
    "included-angle": "angle to",
    "radius": "radius",
    "diameter": "diameter",
    "arc-length": "length along the arc",
    "sweep": "included angle",
    "tangent": "tangent to",
    "perpendicular": "square to",
    "parallel": "parallel to",
    "concentric": "one centre with",
    "in-line": "in line with",
    "joined": "ends meet",
    "closed": "closed",
    "one-piece": "one object",
    "whole-edge": "without a gap",
    "area": "area",
    "perimeter": "length round",
    "equal": "equal to",
    "symmetric": "axis of symmetry for",
    "evenly-spaced": "evenly spaced with",
    "on-circle": "pitch circle of",
    "count": "how many like it",
    "axis": "through its centres",
    "layer": "layer",
    "style": "look",
    "layer-style": "Look of layer",
    "wording": "wording",
    "text-height": "height",
    "text-anchor": "place",
    "text-turn": "direction",
    "dimension": "measures and shows",
    "note": "points at its feature",
    "hatch": "region filled",
    "arrangement": "in line with",
    "agreement": "same sizes as",
    "clean": "Nothing left over",
}
"""Each requirement kind as the pages name it."""

CAUSE_TITLES = {
    "radius-for-diameter": "A diameter was drawn as a radius",
    "diameter-for-radius": "A radius was drawn as a diameter",
    "clockwise-angle": "An angle was taken clockwise",
    "angle-from-vertical": "An angle was taken from the vertical",
    "angle-from-previous": "An angle was taken from the line before",
    "supplementary-angle": "The supplement of an angle was drawn",
    "axes-swapped": "Across and up were exchanged",
    "sign-flipped": "A sign was changed",
    "coordinate-as-step": "A coordinate was taken as a step",
    "step-as-coordinate": "A step was taken as a coordinate",
    "baseline-as-chain": "Sizes from one base were chained",
    "chain-as-baseline": "Chained sizes were taken from one base",
    "size-of-another": "The size of another feature",
    "unit-factor": "Drawn in another unit",
    "by-eye": "Placed by eye",
    "gap": "Ends do not meet",
    "overshoot": "An end runs past its meeting point",
    "caught-wrong-point": "Another point was caught",
    "not-quite-tangent": "Not quite tangent",
    "wrong-tangent-side": "Tangent on the other side",
    "tangent-to-another": "Tangent to another circle",
    "wrong-side": "On the other side",
    "mirrored": "Mirrored",
    "turned": "Turned",
    "shifted": "Out of its place as one",
    "follows-edge": "Carried along by an edge",
    "left-behind": "Left behind",
    "corner-left-sharp": "A corner was left sharp",
    "wrong-fillet": "A fillet of another radius",
    "pattern-start": "The pattern starts elsewhere",
    "pattern-circle": "Another pitch circle",
    "pattern-count": "Another number of holes",
    "views-exchanged": "Views were exchanged",
    "edges-exchanged": "Hidden and visible edges were exchanged",
    "wrong-layer": "On another layer",
    "layer-misnamed": "A layer is misnamed",
    "default-layer": "Left on the default layer",
    "wrong-line-type": "Another line type",
    "dashes-too-long": "Dashes do not show",
    "drawn-twice": "Drawn twice",
    "construction-left": "Construction left in",
    "left-on-construction": "Left on the construction layer",
    "debris": "Debris",
    "free-curve": "A free curve for an arc",
    "rounded-value": "A rounded value was drawn",
    "text-height": "Lettering of another height",
    "text-case": "Capitals and small letters",
    "text-anchor": "Lettering at another corner",
    "typed-over": "A dimension was typed over",
    "not-drawn": "Not drawn",
    "unexplained": "No single slip explains it",
}
"""Each cause without its numbers, for results that show which checks were missed but no sizes."""


def centre_lines(requirements: Iterable[Mapping[str, Any]]) -> frozenset[str]:
    """Return the edges that are centre lines: those of which requirements or findings, as JSON, ask what they
    run through."""
    return frozenset(r["features"][0] for r in requirements if r["kind"] == "axis")


def for_reader(one: Mapping[str, Any]) -> dict[str, Any]:
    """Return a finding or requirement, as JSON, with its numbers as a person reads them: a circle by its
    diameter."""
    if one["kind"] != "radius" or not all(i[0] == "c" for i in one["features"]):
        return dict(one)
    doubled = ("expected", "measured", "deviation", "tolerance")
    return {**one, **{n: 2 * v for n in doubled if isinstance(v := one.get(n), int | float)}}


_ROUND = frozenset({"radius", "diameter", "arc-length"})


def named(one: Mapping[str, Any], centre: Container[str] = ()) -> str:
    """Return the name of a requirement or finding, as JSON, in an inspection list (see `characteristic`): a
    size of the sheet by what it measures."""
    of = one.get("of")
    if of:
        return f"{of[0].upper()}{of[1:]}"
    return characteristic(one["kind"], one["features"], one.get("layer"), centre)


def characteristic(kind: str, features: Sequence[str], layer: str | None, centre: Container[str] = ()) -> str:
    """Return the name of a requirement in an inspection list; ``centre`` are the edges that are centre lines.

    >>> characteristic("radius", ["c2"], None), characteristic("tangent", ["a1", "e3"], None)
    ('Circle 2, diameter', 'Arc 1, tangent to edge 3')
    """
    word = KIND_WORDS["diameter" if kind == "radius" and features and features[0][0] == "c" else kind]
    if kind == "layer-style":
        return f"{word} {layer}"
    if not features:
        return word
    if len(features) > 1 and kind in _ROUND:
        few = [feature_name(features[0], centre), *(feature_name(i, centre).lower() for i in features[1:3])]
        rest = f" and {len(features) - len(few)} more" if len(features) > len(few) else ""
        return f"{', '.join(few)}{rest}, {word}"
    if len(features) > 1:
        others = ", ".join(feature_name(i, centre).lower() for i in features[1:4])
        more = f" and {len(features) - 4} more" if len(features) > 4 else ""
        return f"{feature_name(features[0], centre)}, {word} {others}{more}"
    return f"{feature_name(features[0], centre)}, {word}"
