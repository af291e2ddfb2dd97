"""Documents of steps, built: what they draw, and what is wrong with which step or line."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

from evenmark.core.collector import held_still
from evenmark.core.construct.document import Document, DocumentLine
from evenmark.core.construct.drawn import drawing_of
from evenmark.core.construct.evaluation import Evaluation, Step
from evenmark.core.construct.layers import LayerError, layer_of, read_layer
from evenmark.core.construct.laying import read_drawing
from evenmark.core.construct.sentences import Sentence
from evenmark.core.construct.setting import DocumentSetting
from evenmark.core.construct.state import Broken
from evenmark.core.construct.values import MOST_VALUES, Value, Values, read_value
from evenmark.core.construct.words import Unreadable
from evenmark.core.drawing.look import Layer
from evenmark.core.drawing.model import Drawing
from evenmark.core.drawing.stored import StoredError
from evenmark.core.geometry.exact import Exact, Number
from evenmark.core.geometry.numbers import NumberError, evaluate, parse
from evenmark.core.geometry.units import BY_SYMBOL, Unit, inch_in

MOST_STEPS = 10_000


class StepProblem(NamedTuple):
    """What is wrong: with which step, by its number, or else with which line; and the number of the broken
    step that it waits for."""

    says: str
    step: int | None
    line: int
    waits_for: int | None = None

    def __str__(self) -> str:
        where = f"step {self.step}" if self.step is not None else f"line {self.line}"
        if self.waits_for is not None:
            return f"{where}: waits for step {self.waits_for}, which is broken. {self.says}"
        return f"{where}: {self.says}"


class GivenError(ValueError):
    """A value cannot be given so: says why, and what would help."""


@dataclass
class Built:
    """A document with its steps evaluated, and all that is wrong with it in the order of its lines."""

    document: Document
    evaluation: Evaluation
    values: Values
    setting: DocumentSetting
    problems: list[StepProblem]

    @cached_property
    def drawing(self) -> Drawing:
        """What its steps draw."""
        return drawing_of(self.evaluation.state, self.setting)

    @property
    def numbers(self) -> dict[int, int]:
        """The number of each step by its id."""
        return {item.id: n for n, item in enumerate(self.document.steps, 1)}


def build(document: Document, given: Mapping[str, str] | None = None) -> Built:
    """Return a document built, some of its values given as they are typed. Raises GivenError where a value
    that is given is not one of the document, or not permitted."""
    with held_still():
        return _built(document, given or {})


def _built(document: Document, given: Mapping[str, str]) -> Built:
    unit = BY_SYMBOL[document.unit]
    inch = inch_in(unit)
    problems: list[StepProblem] = []
    values = _values(document, inch, problems)
    values = values.with_given(_given(values, given, inch))
    setting = DocumentSetting(unit, _layers(document, unit, problems), drawings=_drawings(document, problems))
    _known_units(document, problems)
    steps = _steps(document, inch, problems)
    evaluation = Evaluation(steps, values, setting)
    _wrong_values(document, values, evaluation, problems)
    _broken(document, evaluation, problems)
    problems.sort(key=lambda p: p.line)
    return Built(document, evaluation, values, setting, problems)


def rebuilt(built: Built, document: Document) -> Built:
    """Return a document built, after a change of the one that was built before: where unit, layers and values
    are the same, what it was is taken back to the first step that differs, and evaluated from there on.

    ``built`` must not be used any more.
    """
    with held_still():
        if _set(document) != _set(built.document) or built.values.given:
            return _built(document, {})
        problems: list[StepProblem] = []
        _values(document, inch_in(built.setting.unit), problems)
        _layers(document, built.setting.unit, problems)
        _drawings(document, problems)
        _known_units(document, problems)
        steps = _steps(document, inch_in(built.setting.unit), problems)
        evaluation = built.evaluation
        same = 0
        for old, new in zip(evaluation.steps, steps, strict=False):
            if old is not new and old != new:
                break
            same += 1
        evaluation.back_to(same)
        evaluation.go_on(steps[same:])
        _wrong_values(document, built.values, evaluation, problems)
        _broken(document, evaluation, problems)
        problems.sort(key=lambda p: p.line)
        return Built(document, evaluation, built.values, built.setting, problems)


def _set(document: Document) -> list[DocumentLine]:
    """Return the lines that hold for all steps."""
    return [i for i in document.items if i.kind in ("unit", "layer", "value", "drawing")]


def _steps(document: Document, inch: Exact, problems: list[StepProblem]) -> list[Step]:
    found = document.sentences()
    if len(found) > MOST_STEPS:
        line = next(n for n, i in enumerate(document.items, 1) if i.id == found[MOST_STEPS][0].id)
        says = f"A document has {MOST_STEPS:,} steps at most: this one and later ones are left out. Split it."
        problems.append(StepProblem(says, MOST_STEPS + 1, line))
    return [
        Step(item.id, said) if isinstance(said, Sentence) else Step(item.id, None, _at(said, item.says))
        for item, said in found[:MOST_STEPS]
    ]


def _at(why: Unreadable, says: str) -> str:
    """Return why a sentence cannot be read, with the place."""
    return f"{why.says} (At character {min(why.at, len(says)) + 1}.)"


def _values(document: Document, inch: Exact, problems: list[StepProblem]) -> Values:
    defined: dict[str, Value] = {}
    wrong: dict[str, str] = {}
    ids = [item.id for item in document.steps]
    for line, item in enumerate(document.items, 1):
        if item.kind != "value":
            continue
        if len(defined) + len(wrong) >= MOST_VALUES:
            says = (
                f"A document has {MOST_VALUES:,} values at most: this one and later ones are left out. "
                "Split it."
            )
            problems.append(StepProblem(says, None, line))
            break
        if item.name in defined or item.name in wrong:
            says = f"The value {item.name} is there twice. The first one counts; delete the other."
            problems.append(StepProblem(says, None, line))
            continue
        try:
            defined[item.name], _ = read_value(
                item.says, lambda n: ids[n - 1] if n <= len(ids) else None, inch
            )
        except Unreadable as why:
            wrong[item.name] = why.says
            problems.append(StepProblem(_at(why, item.says), None, line))
    return Values(defined, wrong=wrong)


def _given(values: Values, given: Mapping[str, str], inch: Exact) -> dict[str, Number]:
    out: dict[str, Number] = {}
    for name, typed in given.items():
        if name not in values.defined:
            known = ", ".join(values.defined) or "none"
            raise GivenError(f"There is no value {name!r} in the document. Use one of: {known}.")
        try:
            out[name] = evaluate(parse(typed, inch=inch), values.get)
        except NumberError as why:
            raise GivenError(f"{name}={typed}: {why.says}") from None
        permitted = values.defined[name].permitted
        if permitted is not None and not permitted.holds(out[name]):
            raise GivenError(f"{name}={typed} is not permitted: it is {permitted}.")
    return out


def _layers(document: Document, unit: Unit, problems: list[StepProblem]) -> dict[str, Layer]:
    layers: dict[str, Layer] = {}
    for line, item in enumerate(document.items, 1):
        if item.kind != "layer":
            continue
        try:
            if item.name in layers:
                raise LayerError(
                    f"The layer {item.name} is there twice. The first one counts; delete the other."
                )
            layers[item.name] = read_layer(item.name, item.says, unit)
        except LayerError as why:
            layers.setdefault(item.name, layer_of(item.name, unit))
            problems.append(StepProblem(str(why), None, line))
    return layers


def _drawings(document: Document, problems: list[StepProblem]) -> dict[str, Drawing]:
    drawings: dict[str, Drawing] = {}
    for line, item in enumerate(document.items, 1):
        if item.kind != "drawing":
            continue
        try:
            if item.name in drawings:
                raise StoredError(
                    f"The drawing {item.name} is there twice. The first one counts; delete the other."
                )
            drawings[item.name] = read_drawing(item.says)
        except StoredError as why:
            problems.append(StepProblem(str(why), None, line))
    return drawings


def _known_units(document: Document, problems: list[StepProblem]) -> None:
    seen = False
    for line, item in enumerate(document.items, 1):
        if item.kind == "unit":
            if item.says not in BY_SYMBOL:
                known = ", ".join(BY_SYMBOL)
                problems.append(
                    StepProblem(f"The unit {item.says!r} is not known. Use one of: {known}.", None, line)
                )
            elif seen:
                problems.append(
                    StepProblem(
                        "The unit is there twice. The first one counts; delete the other.", None, line
                    )
                )
            seen = seen or item.says in BY_SYMBOL


def _wrong_values(
    document: Document, values: Values, evaluation: Evaluation, problems: list[StepProblem]
) -> None:
    """Say which values cannot be worked out, whether a step needs them or not."""
    measured = evaluation.context().measured
    for line, item in enumerate(document.items, 1):
        if item.kind == "value" and item.name in values.defined:
            try:
                values.get(item.name, measured)
            except (NumberError, Broken) as why:
                problems.append(StepProblem(why.says, None, line))


def _broken(document: Document, evaluation: Evaluation, problems: list[StepProblem]) -> None:
    numbers = {item.id: n for n, item in enumerate(document.steps, 1)}
    lines = [n for n, item in enumerate(document.items, 1) if item.kind == "step"]
    for n, outcome in enumerate(evaluation.outcomes, 1):
        if outcome.broken:
            waits = numbers.get(outcome.waits_for) if outcome.waits_for is not None else None
            problems.append(StepProblem(outcome.broken, n, lines[n - 1], waits))
