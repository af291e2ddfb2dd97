"""Documents of steps: as people write them, one sentence a line, and as they are kept, with ids.

- *item*: one line: a unit, a layer, a value, a step, a bookmark, a remark, or nothing.
- *id*: names a step for good; its number is its place among the steps. In what is kept references hold ids
  (``edge #7.2``), so that a step can be put in or taken away without changing the others.

Text and what is kept turn into each other without loss: a sentence that cannot be read is kept as it is
written.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, Literal, NamedTuple, NotRequired, TypedDict

from evenmark.core.collector import held_still
from evenmark.core.construct.kinds import WORDS
from evenmark.core.construct.references import StepMention
from evenmark.core.construct.sentences import Sentence, read_sentence, renewed
from evenmark.core.construct.values import read_value
from evenmark.core.construct.words import OLDER, Unreadable, remark_begins
from evenmark.core.geometry.exact import Exact
from evenmark.core.geometry.units import BY_SYMBOL, inch_in
from evenmark.core.plain import one_line, why_not_kept
from evenmark.core.plain import shown as as_shown

GONE = "?"
"""Stands for a step that was taken away, where another names it."""
FORMAT, VERSION = "even-mark/steps", 1
MOST_LINES, MOST_LETTERS = 12_000, 2_000_000
ItemKind = Literal["unit", "layer", "value", "step", "bookmark", "remark", "blank", "drawing"]
_LAYER = re.compile(r'layer\s+("(?:[^"\\]|\\.)*"|[^:;"]+?)\s*:(.*)', re.IGNORECASE | re.DOTALL)
_DRAWING = re.compile(r'drawing\s+("(?:[^"\\]|\\.)*"|[^:;"]+?)\s*:(.*)', re.IGNORECASE | re.DOTALL)
_VALUE = re.compile(r"([^\W\d]\w*)\s*=\s*(.*)", re.DOTALL)
_RANGE = re.compile(r"([^\W\d]\w*)\s+((?:from|one\s+of)\b.*)", re.IGNORECASE | re.DOTALL)
_DEFINES = re.compile(r"\w+\s*(=|one\s+of\b|from\s[^;]*\bto\b[^;]*\bby\b(?![^;]*;))", re.IGNORECASE)
"""How a value is defined whose name is a word for what to do: ``pitch = 60``."""
_UNIT = re.compile(r"unit\s+(\S+)\s*", re.IGNORECASE)


class DocumentError(ValueError):
    """A document cannot be used: says what is wrong, with the number of the line."""

    def __init__(self, says: str, line: int = 0) -> None:
        super().__init__(f"Line {line}: {says}" if line else says)
        self.line = line


class DocumentLine(NamedTuple):
    """One line of a document: of a step its id and sentence; of a layer, value or drawing its name and what
    it is. ``after`` is the remark behind a sentence, with the blanks before it."""

    kind: ItemKind
    says: str = ""
    name: str = ""
    id: int = 0
    after: str = ""


class KeptLine(TypedDict):
    """One line as it is kept."""

    kind: ItemKind
    says: NotRequired[str]
    name: NotRequired[str]
    id: NotRequired[int]
    after: NotRequired[str]


class KeptDocument(TypedDict):
    """A document as it is kept (docs/formats/steps.md); ``next`` is the id that the next new step gets."""

    format: str
    version: int
    next: int
    lines: list[KeptLine]


@dataclass(frozen=True, slots=True)
class Document:
    """The lines of a document, and the id that the next new step gets."""

    items: tuple[DocumentLine, ...] = ()
    next_id: int = 1
    read: Mapping[int, Sentence] = field(default_factory=dict, compare=False, repr=False)
    """What its steps say, as far as it was read already."""

    @property
    def unit(self) -> str:
        """The unit that it states; mm where it states none that is known."""
        return next((i.says for i in self.items if i.kind == "unit" and i.says in BY_SYMBOL), "mm")

    @property
    def steps(self) -> list[DocumentLine]:
        """Its steps, in order."""
        return [i for i in self.items if i.kind == "step"]

    def sentences(self) -> list[tuple[DocumentLine, Sentence | Unreadable]]:
        """Return its steps with what they say, or why they cannot be read."""
        ids: list[int] = []
        out: list[tuple[DocumentLine, Sentence | Unreadable]] = []
        inch = inch_in(BY_SYMBOL[self.unit])
        for item in self.steps:
            said = self.read.get(item.id)
            out.append((item, said or understood(item.says, by_number(ids, len(ids)), inch)))
            ids.append(item.id)
        return out


def by_number(ids: list[int], count: int) -> Callable[[int], int | None]:
    """Return what gives the id of a step by its number, of those before one."""

    def id_of(number: int) -> int | None:
        return ids[number - 1] if 1 <= number <= count else None

    return id_of


def understood(says: str, id_of: Callable[[int], int | None], inch: Exact = 1) -> Sentence | Unreadable:
    """Return what a sentence says, or why it cannot be read."""
    try:
        return read_sentence(says, id_of, inch)
    except Unreadable as why:
        return why


def from_text(text: str) -> Document:
    """Return the document that a text is. Raises DocumentError."""
    if len(text) > MOST_LETTERS:
        raise DocumentError(f"The document is too long: {MOST_LETTERS:,} letters at most. Split it.")
    lines = [as_shown(line) for line in text.removeprefix("\ufeff").splitlines()]
    if len(lines) > MOST_LINES:
        raise DocumentError(f"The document has {len(lines):,} lines: {MOST_LINES:,} at most. Split it.")
    items: list[DocumentLine] = []
    step = 1
    with held_still():
        for line in lines:
            items.append(_item(line.rstrip(), step))
            step += items[-1].kind == "step"
        return with_ids(Document(tuple(items), step))


def _item(line: str, step: int) -> DocumentLine:
    bare = line.strip()
    if not bare:
        return DocumentLine("blank")
    if bare.startswith("#"):
        return DocumentLine("remark", bare[1:])
    if bare.startswith("---"):
        return DocumentLine("bookmark", bare[3:].strip())
    says = bare[: remark_begins(bare)].rstrip()
    after = bare[len(says) :]
    first = says.split(None, 1)[0].lower() if says else ""
    if OLDER.get(first, first) in WORDS and first != "layer" and not _DEFINES.match(says):
        return DocumentLine("step", says, "", step, after)
    unit = _UNIT.fullmatch(says)
    if unit is not None:
        return DocumentLine("unit", unit.group(1).lower(), after=after)
    layer = _LAYER.fullmatch(says)
    if layer is not None:
        name = layer.group(1).strip()
        return DocumentLine("layer", layer.group(2).strip(), name.strip('"'), after=after)
    drawing = _DRAWING.fullmatch(says)
    if drawing is not None:
        return DocumentLine(
            "drawing", drawing.group(2).strip(), drawing.group(1).strip().strip('"'), after=after
        )
    for pattern in (_VALUE, _RANGE):
        value = pattern.fullmatch(says)
        if value is not None:
            return DocumentLine("value", value.group(2).strip(), value.group(1), after=after)
    return DocumentLine("step", says, "", step, after)


def with_ids(document: Document) -> Document:
    """Return a document whose sentences name steps by their ids instead of their numbers."""
    ids: list[int] = []
    items = []
    known: dict[int, Sentence] = {}
    inch = inch_in(BY_SYMBOL[document.unit])
    for item in document.items:
        if item.kind == "step":
            found = understood(item.says, by_number(ids, len(ids)), inch)
            if isinstance(found, Sentence):
                if found.places:
                    item, found = by_ids(item, found)
                known[item.id] = found
            ids.append(item.id)
        items.append(item)
    items = [_value_renamed(item, ids, lambda step: f"#{step}") for item in items]
    return Document(tuple(items), document.next_id, known)


def by_ids(item: DocumentLine, found: Sentence) -> tuple[DocumentLine, Sentence]:
    """Return a step whose sentence names steps by their ids, with where they stand in it then."""
    says, places, grown, at = [], [], 0, 0
    for place in sorted(set(found.places)):
        name = f"#{place.step}"
        says += [item.says[at : place.begin], name]
        begin = place.begin + grown
        places.append(StepMention(begin, begin + len(name), place.step))
        grown += len(name) - (place.end - place.begin)
        at = place.end
    text = "".join([*says, item.says[at:]])
    return item._replace(says=text), found._replace(places=tuple(places))


def _value_renamed(item: DocumentLine, ids: list[int], name: Callable[[int], str]) -> DocumentLine:
    """Return a value whose formula names steps otherwise; it may measure what any step drew."""
    if item.kind != "value":
        return item
    try:
        _, places = read_value(item.says, by_number(ids, len(ids)))
    except Unreadable:
        return item
    return item._replace(says=renamed(item.says, places, name))


def renamed(says: str, places: Sequence[StepMention], name: Callable[[int], str]) -> str:
    """Return a sentence that names steps otherwise."""
    for place in sorted(set(places), reverse=True):
        says = says[: place.begin] + name(place.step) + says[place.end :]
    return says


def shown(document: Document) -> list[str]:
    """Return the sentences of the steps as people read them: with the numbers of the steps that they name."""
    numbers = {item.id: n for n, item in enumerate(document.steps, 1)}
    out = []
    for item, found in document.sentences():
        if isinstance(found, Sentence):
            says = renamed(item.says, found.places, lambda step: str(numbers.get(step, GONE)))
            out.append(renewed(says))
        else:
            out.append(item.says)
    return out


def to_text(document: Document) -> str:
    """Return a document as text."""
    sentences = iter(shown(document))
    numbers = {item.id: n for n, item in enumerate(document.steps, 1)}
    ids = list(numbers)
    items = [_value_renamed(i, ids, lambda step: str(numbers.get(step, GONE))) for i in document.items]
    return "".join(f"{_line(item, sentences)}\n" for item in items)


def _line(item: DocumentLine, sentences: Iterable[str]) -> str:
    if item.kind == "blank":
        return ""
    if item.kind == "remark":
        return f"#{item.says}"
    if item.kind == "bookmark":
        return f"--- {item.says}".rstrip()
    if item.kind == "unit":
        return f"unit {item.says}{item.after}"
    if item.kind in ("layer", "drawing"):
        name = f'"{item.name}"' if re.search(r'[:;"#]', item.name) else item.name
        return f"{item.kind} {name}: {item.says}{item.after}"
    if item.kind == "value":
        sign = " " if re.match(r"(from|one\s+of)\b", item.says, re.IGNORECASE) else " = "
        return f"{item.name}{sign}{item.says}{item.after}"
    return f"{next(iter(sentences))}{item.after}"


def to_json(document: Document) -> KeptDocument:
    """Return a document as the JSON object that is kept (docs/formats/steps.md)."""
    lines = [line_of(item) for item in document.items]
    return {"format": FORMAT, "version": VERSION, "next": document.next_id, "lines": lines}


def letters(items: Iterable[DocumentLine]) -> int:
    """Return how long lines are together, in letters."""
    return sum(len(i.says) + len(i.name) + len(i.after) + 1 for i in items)


def line_of(item: DocumentLine) -> KeptLine:
    """Return one line as it is kept."""
    line: KeptLine = {"kind": item.kind}
    if item.says:
        line["says"] = item.says
    if item.name:
        line["name"] = item.name
    if item.after:
        line["after"] = item.after
    if item.kind == "step":
        line["id"] = item.id
    return line


def from_json(data: Any) -> Document:
    """Return the document that a JSON object is, a character that cannot be kept as the replacement sign.
    Raises DocumentError."""
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        raise DocumentError(f"This is no document of steps: its format should say {FORMAT!r}.")
    if data.get("version") != VERSION:
        raise DocumentError(
            f"Version {data.get('version')!r} of the format is not known; this reads {VERSION}."
        )
    lines = data.get("lines")
    if not isinstance(lines, list) or len(lines) > MOST_LINES:
        raise DocumentError(f"'lines' has to be a list of {MOST_LINES:,} at most. Split the document.")
    items = [item_of(_cleaned(line), n) for n, line in enumerate(lines, 1)]
    ids = [i.id for i in items if i.kind == "step"]
    if len(set(ids)) != len(ids):
        raise DocumentError("Two steps have the same id. Give each its own.")
    known = data.get("next")
    following = max(ids, default=0) + 1
    return Document(tuple(items), max(known, following) if isinstance(known, int) else following)


def _cleaned(line: object) -> object:
    """Return a line of which every word can be kept; one that is no line as it is."""
    if not isinstance(line, dict) or all(not isinstance(v, str) or v.isprintable() for v in line.values()):
        return line
    out = {k: as_shown(one_line(v)).rstrip() if isinstance(v, str) else v for k, v in line.items()}
    return {k: v.lstrip() if k == "name" and isinstance(v, str) else v for k, v in out.items()}


_KINDS = ("unit", "layer", "value", "step", "bookmark", "remark", "blank", "drawing")


def item_of(line: object, number: int) -> DocumentLine:
    """Return one line that is kept, the ``number``-th. Raises DocumentError."""
    if not isinstance(line, dict) or line.get("kind") not in _KINDS:
        raise DocumentError(f"'kind' has to be one of: {', '.join(_KINDS)}.", number)
    words = {k: line.get(k, "") for k in ("says", "name", "after")}
    for word in words.values():
        why = why_not_kept(word) if isinstance(word, str) else ("What it says has to be text of one line.", 0)
        if why is not None:
            raise DocumentError(why[0], number)
    kind, step = line["kind"], line.get("id", 0)
    if kind != "step":
        return DocumentLine(kind, words["says"], words["name"], 0, words["after"])
    if not isinstance(step, int) or isinstance(step, bool) or not 0 < step < 10**9:
        raise DocumentError("a step needs an id: a whole number from 1.", number)
    return DocumentLine("step", words["says"], words["name"], step, words["after"])
