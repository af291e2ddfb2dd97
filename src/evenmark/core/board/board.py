"""The board: a document that is drawn on, step by step.

Every method takes and returns plain values, since the page's worker and the server are asked the same. What
changes the document returns its edits, which are kept and can be taken back, and what has changed in the
view; nothing is saved here.

- *view*: rows, pieces, values, layers (`view`). What has changed in it since it was asked for last is a
  *difference*.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace

from evenmark.core.board.answers import Done, Edit, View
from evenmark.core.board.edits import edit, edited
from evenmark.core.board.laid import laid_in, no_longer_laid_in
from evenmark.core.board.names import as_name
from evenmark.core.board.near import Near, box_of_features, cell_for
from evenmark.core.board.view import BoardView
from evenmark.core.construct.building import Built, build, rebuilt
from evenmark.core.construct.document import (
    Document,
    DocumentLine,
    KeptDocument,
    by_ids,
    by_number,
    from_text,
    to_json,
    to_text,
    understood,
)
from evenmark.core.construct.evaluation import Evaluation, Step
from evenmark.core.construct.kinds import KINDS
from evenmark.core.construct.meant import meanings
from evenmark.core.construct.references import Ref
from evenmark.core.construct.sentences import Sentence
from evenmark.core.construct.state import Feature
from evenmark.core.drawing.stored import StoredError
from evenmark.core.geometry.exact import Exact
from evenmark.core.geometry.units import Unit, inch_in
from evenmark.core.sheet.frame import Frame

FAR = 1e5
"""A drawing that lies farther from its origin than this is shown from an origin near it."""


class NotDone(ValueError):
    """Something that was asked for cannot be done: says why, and what would help; ``readings`` are the
    sentences that it may mean."""

    def __init__(self, says: str, at: int | None = None, readings: Sequence[str] = ()) -> None:
        super().__init__(says)
        self.says, self.at, self.readings = says, at, tuple(readings)


class BoardDocument:
    """A document with its drawing, and how much of it was shown already."""

    def __init__(self, document: Document) -> None:
        built = _ready(build(document))
        box = box_of_features(built.evaluation.state.standing())
        near = box is None or max(map(abs, box)) < FAR
        self.shown = BoardView(built, (0.0, 0.0) if box is None or near else (box[0], box[3]))
        self.ahead: list[Step] = []
        """Steps that are not evaluated while one before them is being written over."""
        self._near: Near | None = None
        self._known: dict[Ref, Feature] = {}

    @property
    def built(self) -> Built:
        """The document with its steps evaluated."""
        return self.shown.built

    @property
    def document(self) -> Document:
        """The document."""
        return self.shown.document

    @property
    def evaluation(self) -> Evaluation:
        """What its steps evaluate to."""
        return self.shown.evaluation

    @property
    def unit(self) -> Unit:
        """The unit of the drawing."""
        return self.shown.unit

    @property
    def inch(self) -> Exact:
        """What an inch is in that unit."""
        return inch_in(self.unit)

    @property
    def numbers(self) -> dict[int, int]:
        """The number of each step by its id."""
        return self.built.numbers

    def ids_before(self, before: int | None) -> Callable[[int], int | None]:
        """Return what gives the id of a step by its number, of those before one, or of all. Raises NotDone
        for one that is not there."""
        ids = [i.id for i in self.document.steps]
        if before is not None and before not in ids:
            raise NotDone("This step was deleted. Reload the page.")
        return by_number(ids, len(ids) if before is None else ids.index(before))

    def frame(self) -> Frame:
        """Return the frame of the scene."""
        return self.shown.frame()

    def near(self) -> Near:
        """Return what is drawn by its place, as it stands now."""
        state = self.evaluation.state
        if self._near is None:
            self._near = Near(cell_for(state.standing()))
            self._known = {}
        known = self._known
        now = state.features
        if now != known:
            for ref in known.keys() - now.keys():
                self._near.drop(ref)
            for ref, f in now.items():
                if known.get(ref) is not f:
                    self._near.put(f)
            self._known = now
        return self._near

    def up_to(self, before: int | None) -> None:
        """Stand at the state before a step, or at that after all."""
        evaluation = self.evaluation
        place = None
        if before is not None:
            place = next((n for n, s in enumerate(self._all_steps()) if s.id == before), None)
        if place is None:
            if self.ahead:
                evaluation.go_on(self.ahead)
                self.ahead = []
            return
        steps = self._all_steps()
        if place < len(evaluation.steps):
            evaluation.back_to(place)
        else:
            evaluation.go_on(steps[len(evaluation.steps) : place])
        self.ahead = steps[place:]

    def _all_steps(self) -> list[Step]:
        return [*self.evaluation.steps, *self.ahead]

    def view(self) -> View:
        """Return all that is shown."""
        self.shown.forget()
        return self.difference()

    def difference(self) -> View:
        """Return what has changed in the view since it was asked for last."""
        self.up_to(None)
        return self.shown.difference()

    # what changes it

    def apply(self, edits: Sequence[Mapping[str, object]]) -> View:
        """Change the document; return what has changed in the view. Raises Conflict, DocumentError."""
        self.up_to(None)
        document = edited(self.document, edits)
        self.shown.built = _ready(rebuilt(self.built, document))
        return self.difference()

    def _did(self, edits: Sequence[Edit], step: int | None = None) -> Done:
        """Change the document; return what was done, with the step that came."""
        view = self.apply(edits)
        if step is None:
            return {"splices": list(edits), "view": view}
        return {"splices": list(edits), "id": step, "view": view}

    def write(self, says: str, before: int | None = None, layer: str = "", own: str = "") -> Done:
        """Put in a step, at the end or before another one; outlines go on ``layer`` where the sentence says
        none, what else is drawn on the layer of its kind; all of it on ``own`` where that was chosen. Raises
        NotDone for what is no sentence."""
        says = self.meant(says, before)
        item = self._item(self._on_layer(says, before, layer, own) if layer or own else says, before)
        at = self._line_of(before) if before is not None else len(self.document.items)
        return self._did([edit(at, [], [item])], item.id)

    def readings(self, says: str, before: int | None = None) -> list[str]:
        """Return the sentences that a text may mean: itself where it can be read and has one meaning."""
        return meanings(says, self.ids_before(before), self.inch, self.built.values.defined)

    def meant(self, says: str, before: int | None = None) -> str:
        """Return the sentence that a text means. Raises NotDone where it may mean several."""
        found = self.readings(says, before)
        if len(found) > 1:
            ways = " or ".join(f"“{one}”" for one in found)
            raise NotDone(f"This can mean {ways}. Choose one.", None, found)
        return found[0] if found else says

    def _on_layer(self, says: str, before: int | None, layer: str, own: str) -> str:
        """Return a sentence with the layer of what it draws, where it would come on another one."""
        found = understood(says, self.ids_before(before), self.inch)
        if not isinstance(found, Sentence) or found.layer is not None:
            return says
        kind = KINDS[type(found.meaning)]
        self.up_to(before)
        now = self.evaluation.state.layer if kind.draws_on_layer else kind.on.usual
        meant = own or kind.layer_by_itself(layer)
        return says if now in (meant, "") else f"{says.strip()}; layer {as_name(meant)}"

    def change(self, step: int, says: str) -> Done:
        """Write a step over. Raises NotDone."""
        at = self._line_of(step)
        item = self._item(self.meant(says, step), step, step)
        old = self.document.items[at]
        return self._did([edit(at, [old], [item._replace(after=old.after)])], step)

    def _item(self, says: str, before: int | None, own: int | None = None) -> DocumentLine:
        says = " ".join(says.split()) if '"' not in says else says.strip()
        found = understood(says, self.ids_before(before), self.inch)
        if not isinstance(found, Sentence):
            raise NotDone(found.says, found.at)
        item = DocumentLine("step", says, "", own or self.document.next_id)
        return by_ids(item, found)[0] if found.places else item

    def _line_of(self, step: int) -> int:
        for n, item in enumerate(self.document.items):
            if item.kind == "step" and item.id == step:
                return n
        raise NotDone("This step was deleted. Reload the page.")

    def needed_by(self, steps: Sequence[int]) -> list[int]:
        """Return the numbers of the steps that name some, or that name those."""
        wanted, out = set(steps), []
        for n, step in enumerate(self._all_steps(), 1):
            named = {p.step for p in step.sentence.places} if step.sentence else set()
            if step.id not in wanted and named & wanted:
                wanted.add(step.id)
                out.append(n)
        return out

    def take_away(self, steps: Sequence[int]) -> Done:
        """Take steps away; what needs them then says so."""
        items = list(self.document.items)
        wanted = set(steps)
        at = [n for n, i in enumerate(items) if i.kind == "step" and i.id in wanted]
        if len(at) < len(wanted):
            raise NotDone("This step was deleted. Reload the page.")
        edits: list[Edit] = []
        while at:
            end = at[-1] + 1
            while len(at) > 1 and at[-2] == at[-1] - 1:
                at.pop()
            begin = at.pop()
            edits.append(edit(begin, items[begin:end], []))
            del items[begin:end]
        return self._did([*edits, *no_longer_laid_in(items, self._all_steps())])

    def move(self, step: int, before: int | None) -> Done:
        """Put a step before another one, or last. Raises NotDone where it would come before what it needs, or
        behind what needs it."""
        numbers = self.numbers
        at = self._line_of(step)
        to = self._line_of(before) if before is not None else len(self.document.items)
        own, place = numbers[step], numbers[before] if before is not None else len(numbers) + 1
        steps = self._all_steps()
        needs = {p.step for p in steps[own - 1].sentence.places} if steps[own - 1].sentence else set()  # type: ignore[union-attr]
        for n, other in enumerate(steps, 1):
            if place <= n < own and other.id in needs:
                raise NotDone(f"Step {own} needs step {n}: it has to stay after it.")
            used = other.sentence is not None and any(p.step == step for p in other.sentence.places)
            if own < n < place and used:
                raise NotDone(f"Step {n} needs step {own}: it has to stay before it.")
        item = self.document.items[at]
        to -= to > at
        return self._did([edit(at, [item], []), edit(to, [], [item])])

    def set_line(self, line: int, gone: bool, come: Mapping[str, object] | None) -> Done:
        """Put in, change or take away what is no step: a value, layer, unit, bookmark or remark. Raises
        NotDone."""
        line = min(line, len(self.document.items))
        old = [self.document.items[line]] if gone and line < len(self.document.items) else []
        if any(i.kind == "step" for i in old):
            raise NotDone("This is a step. Correct it in the list.")
        new = []
        if come is not None:
            words = {k: " ".join(str(come.get(k, "")).split()) for k in ("says", "name")}
            kind = come.get("kind", "")
            if kind not in ("value", "layer", "unit", "bookmark", "remark"):
                raise NotDone("This line was deleted. Reload the page.")
            new.append(DocumentLine(kind, words["says"], words["name"]))
            text = to_text(Document((new[0],)))
            if [i.kind for i in from_text(text).items] != [kind]:
                raise NotDone(f"This cannot be read, write it another way: {text.strip()}")
            [again] = from_text(text).items
            new = [again]
        return self._did([edit(line, old, new)])

    def head_line(self) -> int:
        """Return where a further value or layer stands: behind those that stand before the first step."""
        items = self.document.items
        first = next((n for n, i in enumerate(items) if i.kind == "step"), len(items))
        while first and items[first - 1].kind in ("bookmark", "blank", "remark"):
            first -= 1
        return first

    def open(self, document: Document) -> Done:
        """Put another document in the place of this one; its steps get ids of their own."""
        shift = self.document.next_id - 1
        fresh = from_text(to_text(document))
        moved = [_shifted(i, shift) for i in fresh.items]
        return self._did([edit(0, self.document.items, moved)])

    def lay_in(self, name: str, drawing: object) -> Done:
        """Keep a drawing (plain values, `core.drawing.stored`) with the document, with the layers that it
        needs, and lay it in with a further step. Raises NotDone."""
        try:
            edits = laid_in(self.document, self.head_line(), name, drawing)
        except StoredError as why:
            raise NotDone(str(why)) from why
        return self._did(edits, self.document.next_id)

    def kept(self) -> KeptDocument:
        """Return the document as it is kept."""
        return to_json(self.document)

    def text(self) -> str:
        """Return the document as text."""
        return to_text(self.document)


def _ready(built: Built) -> Built:
    """Return what was built, with a document that knows what its steps say."""
    read = {s.id: s.sentence for s in built.evaluation.steps if s.sentence is not None}
    built.document = replace(built.document, read=read)
    return built


def _shifted(item: DocumentLine, shift: int) -> DocumentLine:
    if item.kind == "step":
        item = item._replace(id=item.id + shift)
    if item.kind in ("step", "value") and "#" in item.says:
        parts = re.split(r'("(?:[^"\\]|\\.)*")', item.says)
        parts[::2] = [re.sub(r"#(\d+)", lambda m: f"#{int(m[1]) + shift}", p) for p in parts[::2]]
        item = item._replace(says="".join(parts))
    return item
