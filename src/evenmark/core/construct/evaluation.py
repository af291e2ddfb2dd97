"""Evaluation: steps in, what they draw out; one that cannot be built says why, and the rest stands.

- *outcome*: what became of a step: what it made, or why it is broken, or for which step it waits.

The state after each step is kept as what the step changed: changing step k evaluates from k on, and a preview
evaluates one step and takes it back.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from types import MappingProxyType
from typing import NamedTuple

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.kinds import KINDS
from evenmark.core.construct.kinds.keeping import Keep
from evenmark.core.construct.kinds.lines import NamedPoint
from evenmark.core.construct.points import Context
from evenmark.core.construct.sentences import Sentence
from evenmark.core.construct.setting import DocumentSetting
from evenmark.core.construct.state import XY, Broken, Change, KeptThings, State
from evenmark.core.construct.things import things
from evenmark.core.construct.values import Values
from evenmark.core.geometry.exact import Number

GONE = "A step named here is not before this one. Name another one."
MOST_AGAIN = 50_000
"""Steps that are evaluated once more for what is placed with values of its own, in one document."""


class Step(NamedTuple):
    """A step: its id, which is never used again, and its sentence; the text of one that cannot be read has
    none, and ``unreadable`` says why."""

    id: int
    sentence: Sentence | None
    unreadable: str = ""


class Outcome(NamedTuple):
    """What became of a step: what it changed, the last point and layer after it; or why it is broken, and the
    step that it waits for."""

    changes: tuple[Change, ...] = ()
    points: Mapping[str, XY] = MappingProxyType({})
    points_before: Mapping[str, XY] = MappingProxyType({})
    kept: tuple[str, KeptThings | None] | None = None
    """What stood under a name before this step kept something under it."""
    last: XY | None = None
    layer: str = "outline"
    broken: str = ""
    waits_for: int | None = None
    spent: tuple[int, int] = (0, 0)
    """What had been looked at and built again before this step."""


class Evaluation:
    """The steps of a document, evaluated one after the other."""

    def __init__(
        self,
        steps: Sequence[Step],
        values: Values | Mapping[str, Number] | None = None,
        setting: DocumentSetting | None = None,
    ) -> None:
        self.state = State()
        self.values = values if isinstance(values, Values) else Values(given=values)
        self.setting = setting or DocumentSetting()
        self.setting.broken_points = {}
        if self.setting.again is None:
            self.setting.again = self._again
        self.spent = 0
        self.steps: list[Step] = []
        self.outcomes: list[Outcome] = []
        self.failed: set[int] = set()
        self.known: set[int] = set()
        """The ids of the steps so far."""
        self.go_on(steps)

    def context(self) -> Context:
        """Return what a further step would be evaluated in."""
        return Context(self.state, self.values, self.setting)

    def go_on(self, steps: Sequence[Step]) -> None:
        """Evaluate further steps."""
        for step in steps:
            outcome = self._done(step)
            self.steps.append(step)
            self.known.add(step.id)
            self.state.order.append(step.id)
            self.outcomes.append(outcome)

    def back_to(self, count: int) -> None:
        """Go back to the state after so many steps."""
        while len(self.steps) > count:
            step, outcome = self.steps.pop(), self.outcomes.pop()
            self.known.discard(step.id)
            self.state.order.pop()
            self._undo(step, outcome)

    def change(self, place: int, step: Step) -> None:
        """Put another step in the place of one, and evaluate from there on."""
        rest = self.steps[place + 1 :]
        self.back_to(place)
        self.go_on([step, *rest])

    def preview(self, step: Step) -> Outcome:
        """Return what a further step would do, without doing it."""
        outcome = self._done(step)
        self._undo(step, outcome)
        return outcome

    def _done(self, step: Step) -> Outcome:
        state = self.state
        spent = (self.setting.spent, self.spent)
        if step.sentence is None:
            self.failed.add(step.id)
            return Outcome(last=state.last, layer=state.layer, broken=step.unreadable, spent=spent)
        try:
            outcome = self._built(step, step.sentence, spent)
        except Broken as why:
            self.failed.add(step.id)
            if isinstance(step.sentence.meaning, NamedPoint):
                self.setting.broken_points[step.sentence.meaning.name] = step.id
            named = [p.step for p in step.sentence.places]
            waits = next((n for n in named if n in self.failed), why.waits_for)
            if not self.known.issuperset(named):
                return Outcome(last=state.last, layer=state.layer, broken=GONE, spent=spent)
            return Outcome(last=state.last, layer=state.layer, broken=why.says, waits_for=waits, spent=spent)
        state.do(outcome.changes)
        if outcome.points:
            state.points.update(outcome.points)
        state.last, state.layer = outcome.last, outcome.layer
        return outcome

    def _built(self, step: Step, sentence: Sentence, spent: tuple[int, int]) -> Outcome:
        kind = KINDS[type(sentence.meaning)]
        context = self.context()
        made = ChangeSet(step.id, self.state, sentence.layer, sentence.line)
        try:
            kind.build(context, sentence.meaning, made)
        except (ArithmeticError, ValueError) as why:
            raise Broken("The numbers are too large to calculate with. Make them smaller.") from why
        if made.corners:
            self.state.corners[step.id] = made.corners
        known = self.state.points
        before = {n: known[n] for n in made.points if n in known} if made.points else {}
        layer = made.layer if kind.layer_goes_on else self.state.layer
        kept = None
        if made.kept is not None:
            name, what = made.kept
            kept = (name, self.state.kept.get(name))
            self.state.kept[name] = what
        return Outcome(tuple(made.changes), made.points, before, kept, context.last, layer, spent=spent)

    def _again(self, kept: KeptThings, given: Mapping[str, Number]) -> KeptThings:
        """Return what a step would have kept with other values. Raises Broken."""
        count = next(n for n, step in enumerate(self.steps) if step.id == kept.step)
        self.spent += count
        if self.spent > MOST_AGAIN:
            raise Broken("Too many parts have their own values. Place fewer of them.")
        setting = DocumentSetting(
            self.setting.unit, self.setting.layers, drawings=self.setting.drawings, again=_never
        )
        made = Evaluation(self.steps[:count], self.values.with_given(given), setting)
        wrong = next(
            (n for n, o in enumerate(made.outcomes, 1) if o.broken and not self.outcomes[n - 1].broken), 0
        )
        if wrong:
            raise Broken(f"With these values step {wrong} is broken: {made.outcomes[wrong - 1].broken}")
        context = Context(made.state, made.values, setting)
        sentence = self.steps[count].sentence
        assert sentence is not None
        assert isinstance(sentence.meaning, Keep)
        at = sentence.meaning.at
        return KeptThings(tuple(things(context, kept.what)), context.point(at), kept.step, kept.what)

    def _undo(self, step: Step, outcome: Outcome) -> None:
        state = self.state
        state.undo(outcome.changes)
        state.corners.pop(step.id, None)
        if outcome.broken and step.sentence is not None and isinstance(step.sentence.meaning, NamedPoint):
            self.setting.broken_points.pop(step.sentence.meaning.name, None)
        for name in outcome.points:
            state.points.pop(name, None)
        state.points.update(outcome.points_before)
        if outcome.kept is not None:
            name, kept = outcome.kept
            if kept is None:
                del state.kept[name]
            else:
                state.kept[name] = kept
        self.failed.discard(step.id)
        self.setting.spent, self.spent = outcome.spent
        before = self.outcomes[-1] if self.outcomes else Outcome()
        state.last, state.layer = before.last, before.layer


def _never(_kept: KeptThings, _given: Mapping[str, Number]) -> KeptThings:
    raise Broken("A part placed with its own values cannot hold another such part. Place them one by one.")
