"""What is asked and what went wrong in words: kinds of requirements, causes, lines of an inspection list."""

from __future__ import annotations

from collections.abc import Container, Iterable, Mapping, Sequence
from typing import cast

from evenmark.core.linework.wording import feature_name
from evenmark.core.marking.kinds import KINDS, those
from evenmark.core.marking.marks_types import FindingJson
from evenmark.core.marking.rules_types import RequirementJson


def centre_lines(requirements: Iterable[FindingJson | RequirementJson]) -> frozenset[str]:
    """Return the edges that are centre lines: those of which requirements or findings, as JSON, ask what they
    run through."""
    return frozenset(r["features"][0] for r in requirements if r["kind"] == "axis")


def for_reader(one: FindingJson) -> FindingJson:
    """Return a finding, as JSON, with its numbers as a person reads them: a circle by its
    diameter."""
    if one["kind"] != "radius" or not all(i[0] == "c" for i in one["features"]):
        return {**one}
    doubled = ("expected", "measured", "deviation", "tolerance")
    return cast(
        FindingJson, {**one, **{n: 2 * v for n in doubled if isinstance(v := one.get(n), int | float)}}
    )


_FOR_ALL = frozenset({"radius", "diameter", "arc-length"}) | those(lambda k: k.habit == "shared")
"""Kinds that ask the same of each of several features."""


def named(one: FindingJson | RequirementJson, centre: Container[str] = ()) -> str:
    """Return the name of a requirement or finding, as JSON, in an inspection list (see `characteristic`): a
    size of the sheet by what it measures."""
    return name_of(one.get("of"), one["kind"], one["features"], one.get("layer"), centre)


def name_of(
    of: str | None, kind: str, features: Sequence[str], layer: str | None, centre: Container[str] = ()
) -> str:
    """Return the name of a requirement in an inspection list; ``of`` is what a size of the sheet measures."""
    return f"{of[0].upper()}{of[1:]}" if of else characteristic(kind, features, layer, centre)


def characteristic(
    kind: str,
    features: Sequence[str],
    layer: str | None,
    centre: Container[str] = (),
    names: Mapping[str, str] | None = None,
) -> str:
    """Return the name of a requirement in an inspection list; ``centre`` are the edges that are centre lines,
    ``names`` what features are called where somebody named them.

    >>> characteristic("radius", ["c2"], None), characteristic("tangent", ["a1", "e3"], None)
    ('Circle 2, diameter', 'Arc 1, tangent to edge 3')
    """
    word = KINDS["diameter" if kind == "radius" and features and features[0][0] == "c" else kind].word
    if kind == "layer-style":
        return f"{word} {layer}"
    if not features:
        return word
    own = names or {}
    first = own.get(features[0]) or feature_name(features[0], centre)
    first = first[0].upper() + first[1:]

    def other(i: str) -> str:
        return own.get(i) or feature_name(i, centre).lower()

    if len(features) > 1 and kind in _FOR_ALL:
        few = [first, *map(other, features[1:3])]
        rest = f" and {len(features) - len(few)} more" if len(features) > len(few) else ""
        return f"{', '.join(few)}{rest}, {word}"
    if len(features) > 1:
        others = ", ".join(map(other, features[1:4]))
        more = f" and {len(features) - 4} more" if len(features) > 4 else ""
        return f"{first}, {word} {others}{more}"
    return f"{first}, {word}"
