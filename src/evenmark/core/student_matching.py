"""Whose drawing a file is, by its name and by what stands on it: never guessed where two students could be
meant.

- *path*: the file's name with its folders, as an archive holds them. *wording*: one text on the drawing, such
  as in its title block.
- *word*: letters and digits in a row, small, without accents; `WrenHalloran_2` is wren, halloran, 2.
- *evidence*: how plainly a text names a student: 4 the whole name or the sign-in name, 3 a usual short form,
  2 the family name, 1 the given name alone.
"""

from __future__ import annotations

import re
import unicodedata
from collections import Counter, defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

_TOKENS = re.compile(r"[^\W_]+")
_WORDS = re.compile(r"[^\W\d_]+|\d+")
_CAMEL = re.compile(r"(?<=[a-z])(?=[A-Z])")
_ENDING = re.compile(r"\.[A-Za-z]{3,4}$")
LEAST_SIGN_IN = 4
"""A shorter sign-in name may well be a word of the exercise."""
CERTAIN = 2
"""The least evidence that is enough when one student alone has it; a given name alone is asked about."""
MOST_WORDS = 400


@dataclass(frozen=True, kw_only=True, slots=True)
class Student:
    """Somebody whose drawing it could be."""

    id: int
    name: str
    sign_in: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Seen:
    """A file: its path and the wordings on it."""

    id: int
    path: str
    wordings: tuple[str, ...] = ()
    content: str = ""
    """The same for files with the same bytes."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Guess:
    """Whose a file is: nobody, or somebody, for sure or to be asked; ``why`` says what speaks for it."""

    file: int
    student: int | None
    sure: bool
    why: str


def _tokens(text: str) -> list[str]:
    """Return what stands between separators, letters and digits together: student07, plate."""
    bare = "".join(c for c in unicodedata.normalize("NFKD", text) if not unicodedata.combining(c))
    return [t.casefold() for t in _TOKENS.findall(_CAMEL.sub(" ", bare))]


def plain_words(text: str) -> list[str]:
    """Return the words of a text.

    >>> plain_words("WrenHalloran_Gate-2.dxf"), plain_words("Zoë O'Brien")
    (['wren', 'halloran', 'gate', '2', 'dxf'], ['zoe', 'o', 'brien'])
    """
    return [w for token in _tokens(text) for w in _WORDS.findall(token)]


def _runs(words: Sequence[str]) -> set[str]:
    """Return the words and what two or three neighbouring ones make together: o, brien, obrien."""
    words = words[:MOST_WORDS]
    return {"".join(words[i : i + n]) for n in (1, 2, 3) for i in range(len(words) - n + 1)}


class _Named:
    """A student's name in the forms in which files carry it."""

    def __init__(self, student: Student) -> None:
        self.id = student.id
        parts = [plain_words(part) for part in student.name.split()]
        self.parts = [p for p in parts if p]
        self.sign_in = "".join(plain_words(student.sign_in.split("@")[0]))
        joined = ["".join(p) for p in self.parts]
        self.given, self.family = (joined[0], joined[-1]) if joined else ("", "")
        self.short = (
            {self.given + self.family[:1], self.given[:1] + self.family, self.family + self.given[:1]}
            if len(joined) > 1
            else set()
        )

        self.shared = False
        """Whether the sign-in name is also another student's name, and so names nobody by itself."""

    def evidence(self, runs: set[str], compact: str) -> int:
        """Return how plainly a text names the student."""

        def there(part: str) -> bool:
            return bool(part) and (part in runs or (not part.isascii() and part in compact))

        if len(self.parts) > 1 and (
            (there(self.given) and there(self.family))
            or self.given + self.family in runs
            or self.family + self.given in runs
        ):
            return 4
        if (
            len(self.sign_in) >= LEAST_SIGN_IN
            and self.sign_in in runs
            and self.sign_in not in (self.given, self.family)
        ):
            return 4
        if any(len(s) > 2 and s in runs for s in self.short) or (not self.shared and self.sign_in in runs):
            return 3
        if there(self.family):
            return 2
        return 1 if there(self.given) else 0


def match_students(files: Sequence[Seen], students: Iterable[Student]) -> list[Guess]:
    """Return one guess a file, in their order.

    Words that most of the files share (the exercise's title) name nobody. A file is sure when name and
    drawing do not contradict each other, one student alone has the strongest evidence, and no other file is
    that student's.
    """
    named = [_Named(s) for s in students]
    for n in named:
        n.shared = any(n.sign_in in (o.given, o.family) for o in named if o is not n)
    tokens = {f.id: _tokens(_ENDING.sub("", f.path)) for f in files}
    counts = Counter(t for ts in tokens.values() for t in set(ts))
    common = {t for t, n in counts.items() if n >= 3 and n * 2 > len(files)}
    guesses = [
        _guess(f, plain_words(" ".join(t for t in tokens[f.id] if t not in common)), named) for f in files
    ]
    return _one_each(files, guesses)


def _strongest(texts: Iterable[Sequence[str]], named: Sequence[_Named]) -> tuple[int, set[int]]:
    """Return the strongest evidence in any of some texts, and who has it."""
    best: dict[int, int] = defaultdict(int)
    for words in texts:
        runs, compact = _runs(words), "".join(words)
        for n in named:
            best[n.id] = max(best[n.id], n.evidence(runs, compact))
    most = max(best.values(), default=0)
    return most, {i for i, e in best.items() if e == most} if most else set()


def _guess(f: Seen, words: Sequence[str], named: Sequence[_Named]) -> Guess:
    by_path, in_path = _strongest([words], named)
    by_text, on_sheet = _strongest([plain_words(w) for w in f.wordings[:MOST_WORDS]], named)
    both = in_path & on_sheet
    file_words = plain_words(_ENDING.sub("", f.path.rsplit("/", 1)[-1]))
    where = (
        "file name" if _strongest([[w for w in file_words if w in words]], named)[0] == by_path else "folder"
    )

    def said(student: int | None, sure: bool, why: str) -> Guess:
        return Guess(file=f.id, student=student, sure=sure, why=why)

    if len(both) == 1:
        return said(next(iter(both)), True, f"The {where} and the drawing agree.")
    if by_path >= CERTAIN and by_text >= CERTAIN and not both:
        return said(None, False, f"The {where} names one student, the drawing another.")
    if by_path >= by_text and len(in_path) == 1:
        sure = by_path >= CERTAIN
        return said(
            next(iter(in_path)),
            sure,
            f"By the {where}." if sure else f"Only a given name is in the {where}.",
        )
    if len(on_sheet) == 1:
        sure = by_text >= CERTAIN
        return said(
            next(iter(on_sheet)),
            sure,
            "By the text on the drawing." if sure else "Only a given name is on the drawing.",
        )
    if in_path or on_sheet:
        return said(None, False, f"It could be any of {len(in_path or on_sheet)} students.")
    return said(None, False, "File, folder and drawing name no student of the class.")


def _one_each(files: Sequence[Seen], guesses: list[Guess]) -> list[Guess]:
    """Return guesses with those asked about that give one student several files; the same file twice counts
    once."""
    content = {f.id: f.content for f in files}
    by_student: dict[int, list[Guess]] = defaultdict(list)
    for g in guesses:
        if g.student is not None:
            by_student[g.student].append(g)
    out = []
    for g in guesses:
        others = by_student[g.student] if g.student is not None else []
        if len(others) > 1:
            first = others[0]
            if g is not first and content[g.file] and content[g.file] == content[first.file]:
                g = replace(g, student=None, sure=False, why="Same file as another one of this student.")
            elif len({content[o.file] or o.file for o in others}) > 1:
                g = replace(g, sure=False, why="Several files are this student's. Choose which counts.")
        out.append(g)
    return out
