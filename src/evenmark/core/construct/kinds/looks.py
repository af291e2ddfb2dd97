"""What stands on another layer, with another line, as hidden, or goes."""

from __future__ import annotations

from typing import NamedTuple

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.kinds.record import CHANGES, HIDES, FirstWord, Meaning, Offer, SentenceKind
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Expression
from evenmark.core.construct.things import things

HIDDEN = "hidden"


class ChangeLine(NamedTuple):
    """Things drawn with another line."""

    what: Expression
    line: str


class ChangeLayer(NamedTuple):
    """Things on another layer."""

    what: Expression
    layer: str


class HideEdges(NamedTuple):
    """Things that lie behind: dashed, on the layer of hidden lines."""

    what: Expression


class Erase(NamedTuple):
    """Things that go."""

    what: Expression


class EraseGuides(NamedTuple):
    """All guides go."""


def _read_layer(r: Reader) -> ChangeLayer:
    r.first("What goes on another layer")
    what = r.things()
    r.another("The name of the layer")
    return ChangeLayer(what, r.name("the name of a layer"))


def _read_hide(r: Reader) -> HideEdges:
    r.needs("edges")
    r.first("Which edges")
    return HideEdges(r.things())


def _read_erase(r: Reader) -> Meaning:
    if r.takes("guides"):
        return EraseGuides()
    r.first("What goes")
    return Erase(r.things())


def _change_layer(c: Context, s: ChangeLayer, made: ChangeSet) -> None:
    for f in things(c, s.what):
        made.change(f, f._replace(layer=s.layer))


def _change_line(c: Context, s: ChangeLine, made: ChangeSet) -> None:
    for f in things(c, s.what):
        made.change(f, f._replace(line=s.line))


def _hide_edges(c: Context, s: HideEdges, made: ChangeSet) -> None:
    for f in things(c, s.what):
        made.change(f, f._replace(layer=made.said_layer or HIDDEN, line=made.line or "dashed"))


def _erase(c: Context, s: Erase, made: ChangeSet) -> None:
    for f in things(c, s.what):
        made.change(f, None)


def _erase_guides(c: Context, _s: EraseGuides, made: ChangeSet) -> None:
    c.spend(len(c.state.places))
    for f in list(c.state.standing()):
        if f.endless:
            made.change(f, None)


# fmt: off
CHANGE_LINE = SentenceKind("change line", ChangeLine, _change_line, CHANGES, (
    Offer("change", 20, "draw dashed or chain", "line ",
          "line 0, 0; 40, 20|line edge 1; dashed"),
))
# fmt: on
"""Begins with ``line``, as lines do."""

# fmt: off
WORDS: tuple[FirstWord, ...] = (
    FirstWord("layer", _read_layer, (
        SentenceKind("change layer", ChangeLayer, _change_layer, CHANGES, (
            Offer("change", 19, "put on a layer", "layer ",
                  "line 0, 0; 40, 20|layer edge 1; centre"),
        )),
    )),
    FirstWord("hide", _read_hide, (
        SentenceKind("hide edges", HideEdges, _hide_edges, HIDES, (
            Offer("help", 9, "draw as hidden edges", "hide edges ",
                  "rectangle 0, 0; 40 by 26|hide edges edge 1.3"),
        )),
    )),
    FirstWord("erase", _read_erase, (
        SentenceKind("erase", Erase, _erase, CHANGES, (
            Offer("change", 21, "erase", "erase ",
                  "rectangle 0, 0; 40 by 26|circle 20, 13; radius 6|erase edge 1.1"),
        )),
        SentenceKind("erase guides", EraseGuides, _erase_guides, CHANGES, (
            Offer("help", 10, "erase all guides", "erase guides",
                  "guide horizontal 0, 0|circle 0, 0; radius 8|erase guides"),
        )),
    )),
)
# fmt: on
"""Sentences that begin with ``layer``, ``hide`` or ``erase``."""
