"""What a sentence may mean that cannot be read as it stands: the readings that the fewest changes make of it.

- *reading*: a sentence that can be read, and the text that says it.
- *change*: one thing put right where reading stopped: a sign between slots, ``to`` for one, ``Ø12`` for
  ``diameter 12``, ``40 x 20`` for ``40 by 20``, a word of the trade that the sentences call otherwise.

Where there is but one reading of the fewest changes, it is what was meant; of several one has to be chosen.
"""

from __future__ import annotations

import heapq
import re
from collections.abc import Callable, Collection, Iterator
from typing import NamedTuple

from evenmark.core.construct.completion import Wanted, wanted
from evenmark.core.construct.kinds import OFFERS
from evenmark.core.construct.kinds.record import Offer
from evenmark.core.construct.sentences import Sentence, read_sentence, renewed
from evenmark.core.construct.synonyms import BEGINNINGS
from evenmark.core.construct.words import Unreadable
from evenmark.core.geometry.exact import Exact
from evenmark.core.geometry.numbers import Typed

MOST_READ, MOST_CHANGES, MOST_READINGS = 160, 7, 4
MOST_MEANT_LETTERS = 400
"""A longer sentence is read as it stands or not at all."""
FRACTIONS = {sign: f"{a}/{b}" for sign, a, b in zip("½¼¾⅛⅜⅝⅞⅓⅔", "113135712", "244888833", strict=True)}
SIGNS = {"−": "-", "–": "-", "\u00a0": " ", "⌀": "Ø", "ø": "Ø", "，": ","}
"""Signs that are read as others where a sentence cannot be read with them."""
INSIDE = {
    r"tangent(?!\s+(?:to|on|arc)\b)": "tangent to",
    r"perpendicular(?!\s+to\b)": "perpendicular to",
    r"normal\s+to": "perpendicular to",
    r"concentric(?!\s+(?:with|to)\b)": "concentric with",
    "symmetry axis": "centre line",
}
"""Words of the trade within a sentence, as patterns, and what the sentences say."""
_FILLERS = ("from", "at", "in", "on", "of", "the", "a", "with", "centre", "center", "point", "=", ":", "is")
NEVER_MEANT = ("layer", "line")
"""Words that are never put before a number that stands alone: it is no name of a layer."""
_NOT_PUT_IN = {"(", *_FILLERS, *NEVER_MEANT} - {"centre"}
_TO = ("to", "and", ",", "then", "=", "with")
_NUMBER = r"-?\d+(?:\.\d+)?(?:\s*/\s*\d+)?"
_TOKEN = re.compile(r'"[^"]*"|[^\W\d_]+|\d[\d./]*|\S')
_SIZE = re.compile(r"(Ø|[rR]|[dD])\s*=?\s*(?=[\d(])")
_NUMBER_THEN_WORD = re.compile(rf"({_NUMBER})\s*(radius|diameter|gap|length|height)\b", re.IGNORECASE)
_PLACE_LAST = re.compile(r"(\w+)\s+([^;]*?)[\s;]+(?:at|from)\s+([^;]+?)\s*\Z", re.IGNORECASE)
"""A sentence in which the place stands last."""
_SIGNED_PAIR = re.compile(r"(?<![\w.)+-])(?<!by )([+-])(\d[\w./]*)\s*,\s*([+-])(\d[\w./]*)")
_DECIMAL_COMMA = re.compile(r"(?<![\d.,])(-?\d+),(\d+)(?![\d.,])")
_DECIMAL_PAIR = re.compile(r"(?<![\d.,])(-?\d+),(\d+)\s*[;\s]\s*(-?\d+),(\d+)(?![\d.,])")


class Meant(NamedTuple):
    """A reading: the text that says it, and what that says."""

    says: str
    sentence: Sentence


def readings(
    text: str,
    id_of: Callable[[int], int | None],
    inch: Exact = 1,
    names: Collection[str] | None = None,
) -> list[Meant]:
    """Return what a sentence may mean: itself where it can be read; else the readings of the fewest changes,
    each once; none where there is none. ``names`` are those of values; without, any word may be one."""
    try:
        return [Meant(text, read_sentence(text, id_of, inch))]
    except Unreadable:
        pass
    if len(text) > MOST_MEANT_LETTERS:
        return []
    begins = _plain_signs(text)
    waits: list[tuple[int, int, str]] = [(0, 0, begins)]
    seen = {begins}
    kind = kind_named(begins)
    if kind is not None:
        named = kind.begins + begins.lstrip()[len(kind.says) :].lstrip()
        if named != begins:
            waits.append((1, 1, named))
    found: dict[Sentence, str] = {}
    best = MOST_CHANGES
    for _ in range(MOST_READ):
        if not waits or waits[0][0] > best:
            break
        cost, _, says = heapq.heappop(waits)
        try:
            sentence = read_sentence(says, id_of, inch)
        except Unreadable as why:
            for changed in _changes(says, why.at, id_of, inch, names or ()):
                if changed not in seen and cost < best:
                    seen.add(changed)
                    heapq.heappush(waits, (cost + 1, len(seen), changed))
            continue
        if names is not None and any(name not in names for name in _names(sentence.meaning)):
            continue  # a word was read as a value that there is not
        best = cost
        found.setdefault(sentence._replace(places=()), says)
    kept = [renewed(says.strip()) for says in found.values()][:MOST_READINGS]
    return [Meant(says, read_sentence(says, id_of, inch)) for says in kept]


def kind_named(text: str) -> Offer | None:
    """Return the kind whose name in the list of kinds a sentence begins with."""
    says = text.lstrip().lower()
    called = [o for o in OFFERS if says.startswith(f"{o.says} ")]
    return max(called, key=lambda o: len(o.says), default=None)


def _names(said: object) -> Iterator[str]:
    """Yield the names of values in what was understood."""
    if isinstance(said, Typed):
        yield from said.names()
    elif isinstance(said, tuple):
        for part in said:
            yield from _names(part)


def meanings(
    text: str,
    id_of: Callable[[int], int | None],
    inch: Exact = 1,
    names: Collection[str] | None = None,
) -> list[str]:
    """Return the sentences that a text may mean, one where it can be read and has one meaning."""
    ways = both_ways(text)
    return list(ways) if ways is not None else [m.says for m in readings(text, id_of, inch, names)]


def both_ways(text: str) -> tuple[str, str] | None:
    """Return the two readings of a sentence in which a pair of numbers has a sign before both, one of them a
    plus, so that it looks like a step and is read as a place: as a place, and as a step; None for any
    other."""
    parts = re.split(r'("(?:[^"\\]|\\.)*")', text)
    for n in range(0, len(parts), 2):
        found = _SIGNED_PAIR.search(parts[n])
        if found and "+" in found.group(1) + found.group(3):
            head, tail = "".join(parts[:n]) + parts[n][: found.start()], parts[n][found.end() :]
            a, x, b, y = found.groups()
            pair = f"{a}{x}, {b}{y}".replace("+", "")
            more = tail + "".join(parts[n + 1 :])
            return f"{head}{pair}{more}", f"{head}by {pair}{more}"
    return None


def separated(text: str, id_of: Callable[[int], int | None], inch: Exact = 1) -> str:
    """Return a sentence that is being written with the signs between slots that were left out, where it is
    certain that a slot has ended: the next one may be written behind a blank."""
    if len(text) > MOST_MEANT_LETTERS:
        return text
    for _ in range(MOST_CHANGES):
        try:
            read_sentence(text, id_of, inch)
        except Unreadable as why:
            at = why.at
            if not why.ends or not text[:at].endswith(" ") or _goes_on(text, at, id_of, inch):
                return text
            text = f"{text[:at].rstrip()}; {text[at:]}"
        else:
            return text
    return text


def _goes_on(text: str, at: int, id_of: Callable[[int], int | None], inch: Exact) -> bool:
    """Say whether what begins at a place may still become more of the slot before it: a word that goes on
    there, the fraction of a mixed number; or is no beginning of a slot."""
    rest = text[at:]
    begins = re.match(r"[^\W\d_]+", rest)
    if begins and begins.group().lower() in (*_TO, *_FILLERS):
        further = wanted(f"{text[:at].rstrip()}; ", id_of, inch)[0]
        if not any(x.says.split(" ")[0] == begins.group().lower() for x in further if x.kind == "word"):
            return True
    if begins and begins.end() == len(rest) and any(w.startswith(rest.lower()) for w in (*_TO, *_FILLERS)):
        return True  # it may become one of them
    if re.fullmatch(r"\d+(?:/\d*)?\s*", rest) and text[:at].rstrip()[-1:].isdigit():
        return True
    word = re.match(r"[^\W\d_]+\Z", rest)
    if word:
        words = [x.says for x in wanted(text[:at], id_of, inch)[0] if x.kind == "word"]
        return any(w.startswith(word.group().lower()) for w in words)
    return not re.match(r'[\w(√"-]', rest)


def _plain_signs(text: str) -> str:
    parts = re.split(r'("(?:[^"\\]|\\.)*")', text)
    for n in range(0, len(parts), 2):
        for sign, plain in SIGNS.items():
            parts[n] = parts[n].replace(sign, plain)
        for sign, plain in FRACTIONS.items():
            parts[n] = re.sub(rf"(?<=\d)\s*{sign}", f" {plain}", parts[n]).replace(sign, plain)
    return "".join(parts)


def _changes(
    text: str, at: int, id_of: Callable[[int], int | None], inch: Exact, names: Collection[str]
) -> Iterator[str]:
    """Yield a text with one thing put right where reading stopped."""
    head, rest = text[:at], text[at:]
    token = _TOKEN.match(rest)
    word = token.group() if token else ""
    behind = rest[len(word) :]
    if not head.strip():
        yield from _first_words(word, behind)
        return
    bare = head.rstrip()
    number = word[:1].isdigit() or (word == "-" and behind[:1].isdigit())
    if ((word and bare != head) or head[-1:] == ")") and not bare.endswith(";"):
        yield f"{bare}; {rest}"
    place = _PLACE_LAST.match(text)
    if place:
        kind, what, where = place.groups()
        yield f"{kind} {where}; {what}"
    if word.lower() in _TO:
        further = wanted(f"{bare.rstrip(' ;')}; ", id_of, inch)[0]
        yield from _to(text, bare.rstrip(" ;"), word, behind.lstrip(), further)
    if word == ";":
        yield f"{bare}, {behind.lstrip()}"
    if number and bare[-1:].isdigit():
        yield f"{bare}, {rest}"
    if word.lower() in ("x", "×", "*"):
        yield f"{bare} by {behind.lstrip()}"
    if word == "at":
        yield f"{bare} toward {behind.lstrip()}"
    for trade, ours in INSIDE.items():
        said = re.search(rf"\b(?:{trade})(?!\w)", text, re.IGNORECASE)
        if said and said.start() > 0 and said.end() >= at - 1:
            yield f"{text[: said.start()]}{ours}{text[said.end() :]}"
    if word.lower() in (*_FILLERS, "mm", "in"):
        yield f"{bare} {behind.lstrip()}"
    before = re.search(r"([^\W\d_]+)\s*\Z", head)
    filler = before is not None and before.group(1).lower() in (*_FILLERS, *_TO)
    if before and filler:
        yield head[: before.start()] + rest
    yield from _sizes(head, rest, word)
    yield from _decimal_commas(text)
    if '"' not in rest and any(x.kind == "wording" for x in wanted(head, id_of, inch)[0]):
        wording, sign, more = rest.partition(";")
        yield f'{head}"{wording.strip()}"{sign}{more}'
    if (number or word == "(" or word in names) and not filler and not bare[-1:].isdigit():
        for x in wanted(head, id_of, inch)[0]:
            if x.kind == "word" and x.says not in _NOT_PUT_IN:
                yield f"{head}{x.says} {rest}"


def _to(text: str, bare: str, word: str, to: str, further: Collection[Wanted]) -> Iterator[str]:
    """Yield what a word such as *to* may mean: the sign to the next slot, everywhere in one change; or how
    far something is to go that is said to go to a place: by so much, or from its own centre or start to
    there."""
    if word != "to" or not any(x.kind == "shift" for x in further):
        yield f"{bare}; {to}"
        if '"' not in text:
            yield re.sub(rf"[\s;]+{re.escape(word)}\s+", "; ", text)
        return
    yield f"{bare}; by {to}"
    lone = re.fullmatch(r"\w+\s+((circle|arc|edge)\s+[\d.]+)", bare)
    if lone:
        yield f"{bare}; from {'start' if lone.group(2) == 'edge' else 'centre'} of {lone.group(1)} to {to}"


def _first_words(word: str, behind: str) -> Iterator[str]:
    """Yield how a sentence begins that begins with a word of the trade."""
    for begin in begun_by(word):
        yield begin + behind.lstrip()


def begun_by(word: str) -> list[str]:
    """Return how a sentence begins that somebody begins with a word of the trade."""
    word = word.lower()
    called = [o.begins for o in OFFERS if word in (*o.words, *o.says.split())]
    return list(dict.fromkeys(BEGINNINGS.get(word) or called))


def _sizes(head: str, rest: str, word: str) -> Iterator[str]:
    """Yield sizes that are said by a sign, or behind their number."""
    sign = _SIZE.match(rest)
    if sign:
        yield f"{head}{'radius' if sign.group(1) in 'rR' else 'diameter'} {rest[sign.end() :]}"
    if word.lower() in ("r", "rad"):
        yield f"{head}radius{rest[len(word) :]}"
    if word.lower() in ("d", "ø"):
        yield f"{head}diameter{rest[len(word) :]}"
    turned = _NUMBER_THEN_WORD.match(rest)
    if turned:
        yield f"{head}{turned.group(2)} {turned.group(1)}{rest[turned.end() :]}"
    unit = re.match(rf"({_NUMBER})\s*(?:mm|cm|m)\b", rest)
    if unit and unit.group(0).endswith("mm"):
        yield f"{head}{unit.group(1)}{rest[unit.end() :]}"


def _decimal_commas(text: str) -> Iterator[str]:
    """Yield a text in which a comma is a decimal one."""
    pair = _DECIMAL_PAIR.search(text)
    if pair:
        a, b, c, d = pair.groups()
        yield f"{text[: pair.start()]}{a}.{b}, {c}.{d}{text[pair.end() :]}"
    for one in _DECIMAL_COMMA.finditer(text):
        yield f"{text[: one.start()]}{one.group(1)}.{one.group(2)}{text[one.end() :]}"
