"""Layers and looks: `layer`, `style`, `layer-style`, `line-type`."""

from __future__ import annotations

import itertools

from evenmark.core.conventions import colours
from evenmark.core.drawing.look import Style
from evenmark.core.geometry.points import distance
from evenmark.core.linework.model import ArcFeature, CircleFeature, Edge, Feature
from evenmark.core.marking.examination import Ask, Examination, Kind, MarkingSetting, Measure
from evenmark.core.marking.kinds.common import NOTHING, PARTLY, feature_of
from evenmark.core.marking.model import Requirement, RuleError


def ask_layer(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask a feature for its layer."""
    feature: Feature = feature_of(r, s)  # type: ignore[assignment]
    return Ask(r, feature, feature.at, feature.layer)


def layer(a: Ask, exam: Examination) -> Measure:
    """Compare layer names, in any letter case unless the rule set says exactly."""
    drawn = exam.drawn_for.get(a.feature.id)  # type: ignore[union-attr]
    if drawn is None:
        return NOTHING
    same = drawn.layer == a.expected or exam.layer_key(drawn.layer) == exam.layer_key(str(a.expected))
    return Measure(drawn.layer, agrees=same)


def same_style(asked: Style, found: Style) -> bool:
    """Say whether two styles look the same; a weight that one of the files cannot state is not held against
    it."""
    weights = asked.weight is None or found.weight is None or asked.weight == found.weight
    return colours.same(asked.color, found.color) and asked.line_type == found.line_type and weights


def say_style(style: Style, other: Style) -> str:
    """Say a style in words, in those of the other where the colours look the same; the weight only where both
    files state one."""
    color = style.color
    if isinstance(color, str) and colours.same(color, other.color):
        color = other.color
    weight = f", {style.weight:.2f} mm" if style.weight is not None and other.weight is not None else ""
    return f"{colours.said(color)}, {style.line_type}{weight}"


def drawn_length(f: Feature) -> float:
    """Return how long the line of a feature is; infinite for lettering, which has no dashes to show."""
    if isinstance(f, Edge):
        return f.length
    if isinstance(f, CircleFeature):
        return 6.283185307179586 * f.radius
    if isinstance(f, ArcFeature):
        return f.radius * f.sweep_rad
    points = getattr(f, "points", ())
    return sum(distance(p, q) for p, q in itertools.pairwise(points)) or float("inf")


def dashes_show(f: Feature) -> bool:
    """Say whether one repeat of a line type's pattern fits on a feature, so that its dashes can be seen."""
    return f.style.dash <= drawn_length(f)


def ask_style(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask a feature for its resulting look."""
    feature: Feature = feature_of(r, s)  # type: ignore[assignment]
    return Ask(r, feature, feature.at, say_style(feature.style, feature.style))


def style(a: Ask, exam: Examination) -> Measure:
    """Compare colour, line type by pattern class and weight; dashes must show where they do in the key."""
    key: Feature = a.feature  # type: ignore[assignment]
    drawn = exam.drawn_for.get(key.id)
    if drawn is None:
        return NOTHING
    shows = dashes_show(drawn) or not dashes_show(key)
    said = say_style(drawn.style, key.style) + ("" if shows else ", dashes longer than the line")
    expected = say_style(key.style, drawn.style)
    return Measure(said, agrees=shows and same_style(key.style, drawn.style), expected=expected)


def ask_layer_style(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask for a layer with its look. Raises RuleError for one that the key has not."""
    if r.layer not in s.key.layers:
        raise RuleError(f"Requirement {r.id}: the key has no layer {r.layer!r}.")
    asked = s.key.layers[r.layer].style
    return Ask(r, None, None, say_style(asked, asked), data=asked)


def layer_style(a: Ask, exam: Examination) -> Measure:
    """Compare the look that a layer gives."""
    asked, wanted = a.data, exam.layer_key(str(a.r.layer))
    found = next((known for n, known in exam.drawn.layers.items() if exam.layer_key(n) == wanted), None)
    if found is None:
        return NOTHING
    said, expected = say_style(found.style, asked), say_style(asked, found.style)
    return Measure(said, agrees=same_style(asked, found.style), expected=expected)


def ask_line_type(r: Requirement, s: MarkingSetting) -> Ask:
    """Ask all features of one kind of line for their line type, as it is seen."""
    feature = s.key.curves[r.features[0]]
    return Ask(r, feature, feature.at, feature.style.line_type)


def line_type(a: Ask, exam: Examination) -> Measure:
    """Compare pattern classes; dashes must show where they do in the key. The first feature that is drawn
    otherwise says where and how."""
    there = False
    for i in a.r.features:
        drawn, asked = exam.drawn_for.get(i), exam.key.curves[i]
        if drawn is None:
            continue
        there = True
        if drawn.style.line_type != a.expected:
            return Measure(drawn.style.line_type, agrees=False, at=drawn.at)
        if not dashes_show(drawn) and dashes_show(asked):
            return Measure(f"{drawn.style.line_type}, dashes longer than the line", agrees=False, at=drawn.at)
    return Measure(a.expected, agrees=True) if there else PARTLY


def drawn_otherwise(features: tuple[str, ...], line_type: object, exam: Examination) -> list[str]:
    """Return the features that were drawn with another line type than was asked for."""
    drawn = ((i, exam.drawn_for.get(i)) for i in features)
    return [i for i, d in drawn if d is not None and (d.style.line_type != line_type or not dashes_show(d))]


KINDS = (
    Kind(
        name="layer",
        title="Layers",
        word="layer",
        listed=38,
        of=("eacfxdnh",),
        more="",
        least=0,
        ask=ask_layer,
        measure=layer,
        unit="length",
        weight=1,
        weight_by_sheet=1,
        part="layers",
        settles="",
        of_centres=False,
        habit="habit",
        rank=None,
        watched=False,
        own=True,
        met_where_exact="",
        marks_its_feature=True,
    ),
    Kind(
        name="style",
        title="Line styles",
        word="look",
        listed=39,
        of=("eacfxdnh",),
        more="",
        least=0,
        ask=ask_style,
        measure=style,
        unit="length",
        weight=1,
        weight_by_sheet=1,
        part="look",
        settles="",
        of_centres=False,
        habit="habit",
        rank=None,
        watched=False,
        own=False,
        met_where_exact="",
        marks_its_feature=True,
    ),
    Kind(
        name="layer-style",
        title="Line styles of layers",
        word="Line style of layer",
        listed=40,
        of=(),
        more="",
        least=0,
        ask=ask_layer_style,
        measure=layer_style,
        unit="length",
        weight=0,
        weight_by_sheet=1,
        part="look",
        settles="",
        of_centres=False,
        habit="",
        rank=None,
        watched=False,
        own=False,
        met_where_exact="",
        marks_its_feature=False,
    ),
    Kind(
        name="line-type",
        title="Line types",
        word="line type",
        listed=43,
        of=("eacf",),
        more="eacf",
        least=0,
        ask=ask_line_type,
        measure=line_type,
        unit="length",
        weight=0,
        weight_by_sheet=0,
        part="look",
        settles="",
        of_centres=False,
        habit="shared",
        rank=None,
        watched=False,
        own=False,
        met_where_exact="",
        marks_its_feature=False,
    ),
)
