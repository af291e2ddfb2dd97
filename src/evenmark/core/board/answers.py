"""What a board answers, as plain values: the page's types and the table of docs/formats/board.md are made of
these (``python -m evenmark.web.board_types``). Places are those of the scene: y downward."""

from __future__ import annotations

from typing import Literal, NotRequired, TypedDict

from evenmark.core.construct.document import KeptDocument, KeptLine
from evenmark.core.sheet.frame import SceneBox, ScenePoint, SceneText


class Piece(TypedDict):
    """A piece of the drawing under its name: its lines as one path, and what is lettered."""

    id: str
    kind: str
    step: int
    layer: str
    line_type: str
    weight: float | None
    path: str
    texts: list[SceneText]


class Row(TypedDict):
    """A line of the list as it is shown: a step with its number and sentence, a bookmark, a remark. ``refs``
    is where the sentence names other steps: from, to, the step's id; ``shows`` what its formulas come to."""

    key: str
    kind: Literal["step", "bookmark", "remark"]
    line: int
    says: str
    id: NotRequired[int]
    number: NotRequired[int]
    after: NotRequired[str]
    refs: NotRequired[list[tuple[int, int, int]]]
    does: NotRequired[str | None]
    layer: NotRequired[str | None]
    broken: NotRequired[str]
    waits: NotRequired[int | None]
    shows: NotRequired[list[str]]


class PermittedNumbers(TypedDict):
    """The set that a value is one of."""

    listed: list[float]
    first: float
    last: float
    by: float
    says: str


class ValueRow(TypedDict):
    """A value: how it is defined, what it comes to, or what is wrong with it."""

    line: int
    name: str
    says: str
    shows: str
    wrong: str
    permitted: NotRequired[PermittedNumbers]


class LayerRow(TypedDict):
    """A layer: how much stands on it, how it looks, and the line that declares it."""

    name: str
    count: int
    line_type: str
    weight: float | None
    color: str | int | None
    line: int | None


class LineProblem(TypedDict):
    """What is wrong with a line that is no step."""

    line: int
    says: str


class View(TypedDict):
    """What is shown of a board, or what has changed in it: rows and pieces that are new or other, the names
    of pieces that went, in which order rows stand; ``layer`` is the one on which outlines were drawn last."""

    unit: str
    order: list[str]
    rows: list[Row]
    pieces: list[Piece]
    gone: list[str]
    box: SceneBox
    empty: bool
    origin: ScenePoint
    values: list[ValueRow]
    layers: list[LayerRow]
    layer: str
    usual_layers: list[str]
    problems: list[LineProblem]
    lines: int


class Edit(TypedDict):
    """Some lines that go and some that come in one place of the list."""

    at: int
    gone: list[KeptLine]
    come: list[KeptLine]


class Refusal(TypedDict):
    """Why something was not done, with the character where a sentence cannot be read and the sentences that
    it may mean; ``parted`` where the list has changed meanwhile."""

    refused: str
    at: NotRequired[int | None]
    readings: NotRequired[list[str]]
    parted: NotRequired[bool]


class Done(TypedDict):
    """What was done: how the list changed, the step that came, and what has changed in the view."""

    splices: list[Edit]
    view: View
    id: NotRequired[int]


class Tried(TypedDict):
    """The view as it would be, and the difference back."""

    view: View
    back: View


class Applied(TypedDict):
    """What has changed in the view."""

    view: View


class Needed(TypedDict):
    """The numbers of the steps that need some."""

    by: list[int]


class Preview(TypedDict):
    """What a sentence would draw: pieces that would be there, the names of those that would go or change; or
    why it cannot be built."""

    whole: bool
    pieces: list[Piece]
    gone: list[str]
    broken: str


class Answer(TypedDict):
    """A word that may follow, the sentence with it, and what it would draw; ``more`` where it goes on behind
    what stands there, instead of being what stands there."""

    says: str
    text: str
    paths: NotRequired[list[str]]
    broken: NotRequired[str]
    more: NotRequired[bool]


class Wish(TypedDict):
    """One thing that may stand at a place of a sentence."""

    kind: str
    says: str
    kinds: list[str]


class Wrong(TypedDict):
    """Why a sentence cannot be read, and at which character."""

    says: str
    at: int


class Writing(TypedDict):
    """A sentence being written: whether it is whole, whether more may be pointed behind it (it is then taken
    by a press of its own), what it needs in words, its answers, slots, what is wrong, what it would draw, and
    the points that it has said. ``text`` is the sentence with signs between slots that were left out;
    ``onward`` as it goes on to its next slot, ``follows`` what that wants, where the one before is filled
    with something drawn: it is what is needed, though a list may go on; ``readings`` what it may mean where
    it cannot be read, the one that is meant where there is but one."""

    text: str
    named: list[str]
    onward: str
    readings: list[str]
    layer: str
    whole: bool
    goes_on: bool
    about: str
    needs: str
    wants: list[Wish]
    follows: list[Wish]
    answers: list[Answer]
    begin: int
    end: int
    spans: list[tuple[int, int, str]]
    wrong: Wrong | None
    preview: Preview
    points: list[ScenePoint]


class Choice(TypedDict):
    """Something that a pointer may mean; ``writes`` is how its place alone is written."""

    kind: str
    says: str
    writes: str
    at: ScenePoint | None
    on: list[str]


class Pointed(TypedDict):
    """What is in reach of a pointer, the sentence with the one that is meant, and what that draws; ``live``
    is what is said of its numbers, ``others`` what the other answers of a construction draw, ``onward`` the
    sentence as it goes on to its next slot, where something is written there that nobody points."""

    choices: list[Choice]
    which: int
    text: str
    caret: int
    preview: Preview | None
    more: NotRequired[bool]
    onward: NotRequired[str]
    points: NotRequired[list[ScenePoint]]
    others: NotRequired[list[str]]
    live: NotRequired[str]


class Told(TypedDict):
    """A number of what is chosen: as it is shown, as it would be written, and whether it can be given another
    value."""

    name: str
    shows: str
    says: str
    can: bool


class Grip(TypedDict):
    """A point that can be pulled."""

    which: str
    at: ScenePoint


class Touched(TypedDict):
    """A step that made a piece, or changed it."""

    step: int
    number: int
    how: Literal["made", "changed"]


class Chosen(TypedDict):
    """A piece that is chosen, with its numbers, the points that can be pulled, and the steps that made and
    changed it, in their order."""

    id: str
    name: str
    kind: str
    layer: str
    step: int
    number: int
    wording: str
    numbers: list[Told]
    pulled: list[Grip]
    by: list[Touched]


class AllChosen(TypedDict):
    """The numbers of what is chosen: of each piece its own, of several their length together."""

    chosen: list[Chosen]
    together: str


class Measure(TypedDict):
    """A number that was measured."""

    name: str
    shows: str


class Measured(TypedDict):
    """The numbers of a feature, a step, a point, or between two."""

    told: list[Measure]


class InWindow(TypedDict):
    """What lies in a window, as sentences name it."""

    names: list[str]


class Picture(TypedDict):
    """A small picture: what stands in pale lines, what the sentence does in strong ones."""

    box: SceneBox
    pale: str
    strong: str
    texts: list[SceneText]


class Kind(TypedDict):
    """Something that can be done: its group, what it is called, how its sentence begins, other words for it,
    an example, and its picture."""

    group: str
    says: str
    begins: str
    words: str
    example: str
    picture: Picture


class Offered(TypedDict):
    """All that can be done."""

    kinds: list[Kind]


class Found(TypedDict):
    """The kinds that a word may mean, by what they are called."""

    kinds: list[str]


class Kept(TypedDict):
    """The document, as it is kept and as text."""

    document: KeptDocument
    text: str
