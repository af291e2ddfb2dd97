"""What is shown of a board: rows of the list, pieces of the drawing, values and layers; and what has changed
in it since it was asked for last.

- *row*: a line of the list as it is shown: a step with its number and sentence, a bookmark, a remark.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Literal

from evenmark.core.board.answers import LayerRow, Piece, Row, ValueRow, View
from evenmark.core.board.figures import shown as figure
from evenmark.core.board.near import box_of, box_of_features, box_round_all
from evenmark.core.board.scene import box_in, piece, roomy
from evenmark.core.construct.building import Built
from evenmark.core.construct.document import GONE, Document, DocumentLine, renamed
from evenmark.core.construct.drawn import name_of, style_of
from evenmark.core.construct.evaluation import Evaluation, Outcome, Step
from evenmark.core.construct.kinds import KINDS
from evenmark.core.construct.layers import LAYERS
from evenmark.core.construct.sentences import Sentence, renewals
from evenmark.core.construct.state import Broken, Feature
from evenmark.core.geometry.numbers import NumberError, Typed
from evenmark.core.geometry.points import Box, Point
from evenmark.core.geometry.units import Unit
from evenmark.core.sheet.frame import EMPTY_BOX, Frame

ToldRow = tuple[tuple[DocumentLine, Step, Outcome, int], Row]
"""Of what the row of a step was made, and the row."""


class BoardView:
    """What was shown of a document that is built, from an origin that stays."""

    def __init__(self, built: Built, origin: Point) -> None:
        self.built, self.origin = built, origin
        self._rows: dict[str, Row] = {}
        self._told: dict[int, ToldRow] = {}
        """Of what the row of a step was made, by its id; without those that say what a formula comes to."""
        self._numbers: dict[int, int] = {}
        self._pieces: dict[str, tuple[Feature, Piece | None, Box]] = {}
        self._setting = built.setting
        self._box: Box | None = box_of_features(built.evaluation.state.standing())

    @property
    def document(self) -> Document:
        """The document that is shown."""
        return self.built.document

    @property
    def evaluation(self) -> Evaluation:
        """What its steps evaluate to."""
        return self.built.evaluation

    @property
    def unit(self) -> Unit:
        """The unit of the drawing."""
        return self.built.setting.unit

    def frame(self) -> Frame:
        """Return the frame of the scene."""
        return Frame(self._box or EMPTY_BOX, self.origin)

    def forget(self) -> None:
        """Show everything once more when it is asked for next."""
        self._rows, self._told, self._pieces = {}, {}, {}

    def difference(self) -> View:
        """Return what has changed since it was asked for last: rows and pieces that are new or other, the
        names of pieces that went, and in which order rows stand."""
        rows = self._rows_now()
        other = [r for key, r in rows.items() if self._rows.get(key) != r]
        self._rows = rows
        pieces, gone = self._pieces_now()
        box = self._box or EMPTY_BOX
        return {
            "unit": self.unit.symbol,
            "order": list(rows),
            "rows": other,
            "pieces": pieces,
            "gone": gone,
            "box": box_in(self.frame(), box),
            "empty": self._box is None,
            "origin": list(self.origin),
            "values": self._values(),
            "layers": self._layers(),
            "layer": outline_layer(self.evaluation),
            "usual_layers": list(LAYERS),
            "problems": [{"line": p.line, "says": p.says} for p in self.built.problems if p.step is None],
            "lines": len(self.document.items),
        }

    def _rows_now(self) -> dict[str, Row]:
        out: dict[str, Row] = {}
        steps = iter(zip(self.evaluation.steps, self.evaluation.outcomes, strict=True))
        numbers = self.built.numbers
        told = self._told if self._numbers.items() <= numbers.items() else {}
        self._told, self._numbers = {}, numbers
        for line, item in enumerate(self.document.items):
            if item.kind == "step":
                step, outcome = next(steps, (None, None))
                row = self._row_of(item, step, outcome, line, told)
            elif item.kind in ("bookmark", "remark"):
                kind: Literal["bookmark", "remark"] = "bookmark" if item.kind == "bookmark" else "remark"
                row = {"key": f"{kind} {line}", "kind": kind, "says": item.says, "line": line}
            else:
                continue
            out[row["key"]] = row
        return out

    def _row_of(
        self,
        item: DocumentLine,
        step: Step | None,
        outcome: Outcome | None,
        line: int,
        told: Mapping[int, ToldRow],
    ) -> Row:
        """Return the row of a step: the one that was told before, where it is made of the same."""
        known = told.get(item.id)
        if (
            known is not None
            and known[0][0] is item
            and known[0][1] is step
            and known[0][2] is outcome
            and known[0][3] == line
        ):
            self._told[item.id] = known
            return known[1]
        numbers = self._numbers
        says, refs = self.spoken(item, step.sentence if step else None, numbers)
        row: Row = {
            "key": f"s{item.id}",
            "kind": "step",
            "id": item.id,
            "number": numbers[item.id],
            "says": says,
            "after": item.after,
            "refs": refs,
            "does": step.sentence.kind if step and step.sentence else None,
            "layer": layer_of(step.sentence, outcome) if step and step.sentence and outcome else None,
            "broken": outcome.broken if outcome else "A document cannot hold more steps. Begin another one.",
            "waits": numbers.get(outcome.waits_for) if outcome and outcome.waits_for else None,
            "shows": self._worked_out(step),
            "line": line,
        }
        if step is not None and outcome is not None and not row.get("shows"):
            self._told[item.id] = ((item, step, outcome, line), row)
        return row

    def spoken(
        self, item: DocumentLine, sentence: Sentence | None, numbers: Mapping[int, int]
    ) -> tuple[str, list[tuple[int, int, int]]]:
        """Return a sentence with the numbers of steps, and where it names which (from, to, id)."""
        if sentence is None:
            return item.says, []
        places = sorted(set(sentence.places))
        says = renamed(item.says, places, lambda step: str(numbers.get(step, GONE)))
        refs, grown = [], 0
        for p in places:
            long = len(str(numbers.get(p.step, GONE)))
            refs.append((p.begin + grown, p.begin + grown + long, p.step))
            grown += long - (p.end - p.begin)
        for begin, end, word in reversed(renewals(says)):
            says = says[:begin] + word + says[end:]
            more = len(word) - (end - begin)
            refs = [(b + more, e + more, step) if b >= end else (b, e, step) for b, e, step in refs]
        return says, refs

    def _worked_out(self, step: Step | None) -> list[str]:
        """Return what the formulas of a sentence come to, in the order in which they stand."""
        if step is None or step.sentence is None:
            return []
        out: list[str] = []
        for typed in _formulas(step.sentence.meaning):
            try:
                out.append(figure(self.evaluation.context().number(typed), self.unit))
            except Broken:
                return []
        return out

    def _pieces_now(self) -> tuple[list[Piece], list[str]]:
        setting = self.built.setting
        features = {name_of(f): f for f in self.evaluation.state.standing()}
        old = self._pieces
        boxes = {
            name: old[name][2] if name in old and old[name][0] is f else box_of(f)
            for name, f in features.items()
            if not f.endless
        }
        box = box_round_all(boxes.values())
        guides_move = (box and roomy(box)) != (self._box and roomy(self._box))
        self._box = box
        frame = self.frame()
        # looks come from the setting: where that is the same, so are they
        looks = setting is not self._setting
        self._setting = setting
        pieces: list[Piece] = []
        kept: dict[str, tuple[Feature, Piece | None, Box]] = {}
        for name, f in features.items():
            known = old.get(name)
            if known is not None and (known[0] is f or known[0] == f) and not (f.endless and guides_move):
                made = known[1]
                if looks and made is not None and (made["line_type"], made["weight"]) != self._look(f):
                    known = None
            else:
                known = None
            if known is None:
                made = piece(f, setting, frame, box or EMPTY_BOX)
                if made is not None:
                    pieces.append(made)
            kept[name] = (f, made, boxes.get(name, EMPTY_BOX))
        gone = [
            name
            for name, (_, made, _) in old.items()
            if made is not None and (name not in kept or kept[name][1] is None)
        ]
        self._pieces = kept
        return pieces, gone

    def _look(self, f: Feature) -> tuple[str, float | None]:
        style = style_of(f, self.built.setting)
        return (style.line_type, style.weight)

    def _values(self) -> list[ValueRow]:
        out: list[ValueRow] = []
        measured = self.evaluation.context().measured
        for line, item in enumerate(self.document.items):
            if item.kind != "value":
                continue
            value = self.built.values.defined.get(item.name)
            row: ValueRow = {
                "line": line,
                "name": item.name,
                "says": item.says,
                "shows": "",
                "wrong": "",
            }
            try:
                found = self.built.values.get(item.name, measured)
                row["shows"] = figure(found, self.unit) if found is not None else ""
            except (NumberError, Broken) as why:
                row["wrong"] = why.says
            if value is not None and value.permitted is not None:
                p = value.permitted
                row["permitted"] = {
                    "listed": [float(v) for v in p.listed],
                    "first": float(p.first),
                    "last": float(p.last),
                    "by": float(p.by),
                    "says": str(p),
                }
            out.append(row)
        return out

    def layer_names(self) -> list[str]:
        """Return the layers that the document says or draws on, and that it goes on drawing on."""
        state = self.evaluation.state
        return list(
            dict.fromkeys([*self.built.setting.layers, *(f.layer for f in state.standing()), state.layer])
        )

    def _layers(self) -> list[LayerRow]:
        counts: dict[str, int] = {}
        for f in self.evaluation.state.standing():
            counts[f.layer] = counts.get(f.layer, 0) + 1
        setting = self.built.setting
        names = self.layer_names()
        said = {i.name: n for n, i in enumerate(self.document.items) if i.kind == "layer"}
        return [
            {
                "name": name,
                "count": counts.get(name, 0),
                "line_type": setting.layer(name).style.line_type,
                "weight": setting.layer(name).style.weight,
                "color": setting.layer(name).style.color,
                "line": said.get(name),
            }
            for name in names
        ]


def layer_of(sentence: Sentence, outcome: Outcome) -> str:
    """Return the layer on which a step draws; nothing where it changes what stands."""
    kind = KINDS[type(sentence.meaning)]
    drawn_on: str = outcome.layer if kind.draws_on_layer else kind.layer_by_itself("")
    return sentence.layer or drawn_on


def outline_layer(evaluation: Evaluation) -> str:
    """Return the layer on which outlines were drawn last."""
    for step, outcome in zip(reversed(evaluation.steps), reversed(evaluation.outcomes), strict=True):
        said = step.sentence
        if said is not None and not outcome.broken and KINDS[type(said.meaning)].draws_outlines:
            layer: str = outcome.layer
            return layer
    return Outcome().layer


def _formulas(value: object) -> Iterator[Typed]:
    """Yield the numbers of a sentence that are more than a number, in the order in which they stand."""
    if isinstance(value, Typed):
        if value.op not in ("number", "neg"):
            yield value
    elif isinstance(value, tuple):
        for part in value:
            yield from _formulas(part)
