"""The drawing as a whole: `whole`, `clean` and `differs`."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace

import numpy as np
from scipy.spatial import cKDTree

from evenmark.core.linework.model import EndlessFeature
from evenmark.core.linework.nodes import as_rows, cluster, unique_rows
from evenmark.core.marking.assign import displacement
from evenmark.core.marking.broken_dimensions import parts_of_dimensions
from evenmark.core.marking.examination import Ask, Examination, Kind, MarkingSetting, Measure
from evenmark.core.marking.kinds.common import NOTHING
from evenmark.core.marking.model import Item, Requirement
from evenmark.core.marking.strokes import strokes_of


def ask_whole(r: Requirement, _s: MarkingSetting) -> Ask:
    """Ask the whole drawing to stand as the exercise allows."""
    return Ask(r)


def whole(_a: Ask, exam: Examination) -> Measure:
    """Say how the whole drawing had to be moved."""
    return exam.whole if exam.pairing.paired else NOTHING


def ask_clean(r: Requirement, _s: MarkingSetting) -> Ask:
    """Ask for nothing left over."""
    return Ask(r, None, None, 0.0, 0.0)


def clean(_a: Ask, exam: Examination) -> Measure:
    """Count spare geometry, duplicates, debris, construction left behind, and given geometry that was
    changed."""
    items = [Item(code=c.code, at=c.at, layer=c.layer) for c in exam.drawn.clutter]
    missing = {"e": 0, "a": 0, "c": 0, "f": 0}
    for i in exam.key.curves:
        if i not in exam.pairing.partners and i not in exam.aside:
            missing[i[0]] += 1
    doubling = _doubling(exam)
    for i in exam.pairing.spare:
        f = exam.drawn.feature(i)
        if isinstance(f, EndlessFeature):
            items.append(Item(code="construction-left", at=f.at, layer=f.layer, feature=i))
            continue
        layer = str(getattr(f, "layer", ""))
        construction = exam.role(layer) == "construction"
        charged = construction or missing[i[0]] <= 0
        if not charged:
            missing[i[0]] -= 1
        code = "construction-left" if construction else "drawn-twice" if i in doubling else "spare"
        items.append(Item(code=code, at=f.at, layer=layer, feature=i, charged=charged))
    if exam.rules.charges is not None:
        items += _lettering(exam)
    items += [
        Item(code="given-changed", at=exam.key.by_id[i].at, layer=exam.key.by_id[i].layer, feature=i)  # type: ignore[union-attr]
        for i in exam.rules.given
        if i in exam.key.by_id and i not in exam.exact
    ]
    items = _without_own(_without_dimensions(_without_strokes(items, exam), exam), exam)
    count = float(sum(1 for item in items if item.charged))
    return Measure(count, count, items=tuple(items))


def _without_strokes(items: list[Item], exam: Examination) -> list[Item]:
    """Charge no stroke of lettering that was drawn as lines: the lettering itself is charged."""
    open_ = [i.feature for i in items if i.charged and i.code == "spare" and i.feature is not None]
    strokes = {i for ids in strokes_of(exam, open_).values() for i in ids}
    return [replace(i, charged=False) if i.feature in strokes else i for i in items]


def _without_dimensions(items: list[Item], exam: Examination) -> list[Item]:
    """Charge no part of a dimension that was broken into lines and figures: dimensions of their own are not
    charged, either."""
    open_ = [i.feature for i in items if i.charged and i.code == "spare" and i.feature is not None]
    if len(open_) < 2:
        return items
    reach = exam.tolerances.length + exam.slack
    parts = parts_of_dimensions(
        exam.drawn, [i for i in open_ if i[0] == "e"], [i for i in open_ if i[0] == "x"], reach
    )
    return [replace(i, charged=False) if i.feature in parts else i for i in items]


def ask_differs(r: Requirement, _s: MarkingSetting) -> Ask:
    """Ask for all that no other line says: sides and senses (see `senses`)."""
    return Ask(r, None, None, 0.0, 0.0)


def differs(_a: Ask, _exam: Examination) -> Measure:
    """Find nothing by itself: what differs is known once all else is found (`trial`)."""
    return Measure(0.0, 0.0)


def _lettering(exam: Examination) -> list[Item]:
    """Return lettering, notes and hatches that nobody asked for; one of the kind of something that is missing
    is not charged again. Rule sets without charges, from before, pass them over."""
    key = exam.key
    asked = [*(t.id for t in key.texts), *(n.id for n in key.notes), *(h.id for h in key.hatches)]
    missing = Counter(i[0] for i in asked if i not in exam.pairing.partners)
    reach = exam.tolerances.position + exam.slack
    used = [exam.drawn.feature(p.id) for i, p in exam.pairing.partners.items() if i[0] in "xnh"]
    tree = cKDTree(np.array([f.at for f in used])) if used and exam.pairing.beside else None
    out = []
    for i in exam.pairing.beside:
        f = exam.drawn.feature(i)
        near = tree.query_ball_point(f.at, reach) if tree is not None else []
        twice = any(used[n].id[0] == i[0] for n in near)
        charged = twice or missing[i[0]] <= 0
        if not charged:
            missing[i[0]] -= 1
        layer = str(getattr(f, "layer", ""))
        code = "drawn-twice" if twice else "spare"
        out.append(Item(code=code, at=f.at, layer=layer, feature=i, charged=charged))
    return out


def _without_own(items: list[Item], exam: Examination) -> list[Item]:
    """Charge nothing that lies on the key's own clutter: each of those excuses one thing."""
    if not exam.key.clutter or not items:
        return items
    reach = exam.tolerances.position + exam.slack
    places = as_rows([c.at for c in exam.key.clutter])
    labels, count = cluster(places, reach)  # what is drawn over and over lies in one place
    left = np.bincount(labels, minlength=count).tolist()
    _, first, _ = unique_rows(places)
    places, labels = places[first], labels[first]
    _, near = cKDTree(places).query(as_rows([i.at for i in items]), distance_upper_bound=reach)
    out = []
    for item, n in zip(items, np.asarray(near).tolist(), strict=True):
        place = int(labels[n]) if item.charged and n < len(labels) else -1
        if place >= 0 and left[place]:
            left[place] -= 1
            item = replace(item, charged=False)
        out.append(item)
    return out


def _doubling(exam: Examination) -> set[str]:
    """Return the spare features that lie on the partner of some key feature: something was drawn twice."""
    out: set[str] = set()
    spare = set(exam.pairing.spare)
    if not spare:
        return out
    reach = exam.tolerances.position + exam.slack
    for table in exam.drawn_tables.values():
        own = np.array([i in spare for i in table.ids], dtype=bool)
        extra, used = table.only(np.nonzero(own)[0]), table.only(np.nonzero(~own)[0])
        if len(extra) and len(used):
            _, near = cKDTree(used.place).query(extra.place)
            off, _ = displacement(extra, used, np.arange(len(extra)), np.asarray(near).astype(np.int64))
            out.update(extra.ids[i] for i in np.nonzero(off <= reach)[0].tolist())
    return out


KINDS = (
    Kind(
        name="whole",
        title="Placement",
        word="Placement of the whole drawing",
        listed=1,
        of=(),
        more="",
        least=0,
        ask=ask_whole,
        measure=whole,
        unit="length",
        weight=0,
        weight_by_sheet=1,
        part="charged",
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
        name="clean",
        title="Extra objects",
        word="Extra objects",
        listed=41,
        of=(),
        more="",
        least=0,
        ask=ask_clean,
        measure=clean,
        unit="count",
        weight=0,
        weight_by_sheet=1,
        part="charged",
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
        name="differs",
        title="Sides and directions",
        word="Sides and directions",
        listed=42,
        of=(),
        more="",
        least=0,
        ask=ask_differs,
        measure=differs,
        unit="count",
        weight=0,
        weight_by_sheet=0,
        part="read",
        settles="place",
        of_centres=False,
        habit="",
        rank=None,
        watched=False,
        own=False,
        met_where_exact="",
        marks_its_feature=False,
    ),
)
