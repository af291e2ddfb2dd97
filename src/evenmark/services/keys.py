"""Key drawings made ready: read once, with their checks, scene and sheet, and remembered as long as key and
rules are the same."""

from __future__ import annotations

import hashlib
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import TypeVar, cast

from sqlalchemy.orm import Session

from evenmark.core.dimensioning.proof_json import ProofJson
from evenmark.core.drawing.refusal import Refusal
from evenmark.core.formats.errors import UnreadableDrawing
from evenmark.core.marking.model import Examines, RuleError
from evenmark.core.marking.rules_types import RulesJson
from evenmark.services.bounded import run_bounded
from evenmark.services.errors import NotUsable
from evenmark.services.key_work import CostJson, KeyView, preview, prove_key, take_key, undecided_in, view_key
from evenmark.services.names import plain_name
from evenmark.store.database import Database
from evenmark.store.models import Revision, RevisionFile
from evenmark.store.people import Person

KEY_SECONDS = 30
"""A key is read with all its checks and drawn as a sheet: once, for a whole class."""
_views: OrderedDict[str, KeyView] = OrderedDict()
_MOST_VIEWS = 32
_proofs: OrderedDict[str, ProofJson | str] = OrderedDict()
_PROVED = ("ties", "taken", "decided", "roles", "tolerances", "given", "views", "examines", "unit")
"""What of a rule set the proof of its sheet depends on."""
_DECIDE = "Open the exercise, and decide under The sheet which of the two holds. Then issue it."
T = TypeVar("T")


def title_of(title: str) -> str:
    """Return the title of an exercise without blanks round it. Raises NotUsable."""
    title = plain_name(title, "title")
    if not 1 <= len(title) <= 160:
        raise NotUsable("Give the exercise a title of at most 160 letters.")
    return title


def examined(rules: RulesJson) -> Examines:
    """Return what a stored rule set examines: the model, or the sheet layout."""
    return "sheet" if rules.get("examines") == "sheet" else "model"


def numbers_of(rules: RulesJson) -> dict[str, int]:
    """Return the numbers that the students' sheet shows beside its sizes, by dimension; none unless it
    should."""
    if not rules.get("numbered"):
        return {}
    return {r["size"]: r["id"] for r in rules["requirements"] if r.get("size") and r.get("on", True)}


def shown_by(rules: RulesJson) -> RulesJson | None:
    """Return the rule set that a students' sheet is drawn by, where it is not as its file has it: what was
    decided about dimensions, but for those that are marked by the sheet's value."""
    holds = {i: how for i, how in rules.get("decided", {}).items() if how != "value"}
    if not holds:
        return None
    kept = {k: v for k, v in rules.items() if k in _PROVED}
    return cast(RulesJson, {**kept, "decided": holds, "requirements": []})


@dataclass(frozen=True, kw_only=True, slots=True)
class TakenKey:
    """A key drawing that was read, with everything that an exercise is made of."""

    title: str
    key_name: str
    key: bytes
    view: KeyView
    sheet: bytes


def read_key(instructor: Person, *, title: str, key_name: str, key: bytes) -> TakenKey:
    """Read a key drawing for an exercise, outside any transaction. Raises NotUsable."""
    title = title_of(title)
    try:
        found = run_bounded(take_key, key, key_name, title, instructor.school, seconds=KEY_SECONDS)
    except UnreadableDrawing as why:
        raise NotUsable(why.says, why.code) from why
    except RuleError as why:
        raise NotUsable(str(why), "asks-for-nothing") from why
    if isinstance(found, Refusal):
        raise NotUsable(found.says, found.code)
    return TakenKey(title=title, key_name=key_name, key=key, view=found[0], sheet=found[1])


@dataclass(frozen=True, kw_only=True, slots=True)
class Unread:
    """A key that is not made ready yet, as plain values: worked through while no transaction is open."""

    mark: str
    data: bytes
    name: str
    rules: RulesJson
    start: bytes | None

    def read(self) -> KeyView:
        """Make it ready, and remember it. Raises NotUsable for a key that asks for nothing, as one may that
        was kept before this was refused."""
        view = _done(view_key, self.data, self.name, self.rules, self.start)
        remember(self.mark, view)
        return view


def key_view(revision: Revision, which: int = 0) -> KeyView:
    """Return a revision's key made ready, or another one that is accepted; remembered, since it is the same
    as long as key, start drawing and rules are."""
    found = _at_hand(revision, which)
    return found.read() if isinstance(found, Unread) else found


def _at_hand(revision: Revision, which: int = 0) -> KeyView | Unread:
    """Return a key made ready if it is remembered, else what is needed to make it so."""
    others = revision.other_keys
    other = others[which - 1] if 0 < which <= len(others) else None
    mark = mark_of(revision, other)
    view = _views.get(mark)
    if view is not None:
        return view
    rules = revision.rules if other is None else unbound(revision.rules)
    data, name = (other.data, other.name) if other else (revision.key_bytes, revision.key_name)
    return Unread(mark=mark, data=data, name=name, rules=rules, start=start_of(revision))


def make_ready(database: Database, find: Callable[[Session], tuple[Revision, int]]) -> None:
    """See to it that a key is at hand before a use case needs it, while no transaction is open."""
    with database.transaction() as session:
        found = _at_hand(*find(session))
    if isinstance(found, Unread):
        found.read()


def to_prove(revision: Revision) -> Unread:
    """Return what the proof of a revision's sheet needs, told apart by nothing but what it depends on."""
    start = revision.start
    proved = {k: v for k, v in revision.rules.items() if k in _PROVED}
    known = (revision.key_hash, start.sha256 if start else "", sorted_items(proved))
    return Unread(
        mark=hashlib.sha256(repr(known).encode()).hexdigest(),
        data=revision.key_bytes,
        name=revision.key_name,
        rules={**revision.rules, "requirements": []},
        start=start_of(revision),
    )


def proof_of(key: Unread) -> ProofJson:
    """Prove a sheet, while no transaction is open; remembered. Raises NotUsable for a key that is too large
    or asks for nothing."""
    found = _proofs.get(key.mark)
    if found is None:
        found = _proofs[key.mark] = _done(prove_key, key.data, key.name, key.rules, key.start)
        while len(_proofs) > _MOST_VIEWS:
            _proofs.popitem(last=False)
    if isinstance(found, str):
        raise NotUsable(found, "too-large")
    return found


def see_decided(key: Unread) -> None:
    """See to it that no dimension of a key contradicts it, while no transaction is open. Raises NotUsable."""
    wrong = _done(undecided_in, key.data, key.rules)
    if wrong:
        raise NotUsable(f"{wrong[0]} {_DECIDE}", "undecided")


def to_cost(revision: Revision) -> Unread:
    """Return what it needs to say what typical slips cost."""
    return replace(to_prove(revision), mark=mark_of(revision, None), rules=revision.rules)


def costs_of(key: Unread) -> list[CostJson]:
    """Return what typical slips would cost under a revision's rules, while no transaction is open."""
    return _done(preview, key.data, key.rules, key.start)


def _done(work: Callable[..., T], *of: object) -> T:
    try:
        return run_bounded(work, *of, seconds=KEY_SECONDS)
    except RuleError as why:
        raise NotUsable(str(why), "asks-for-nothing") from why


def mark_of(revision: Revision, other: RevisionFile | None) -> str:
    """Return what tells one view of a key from another."""
    start = revision.start
    rules = revision.rules if other is None else unbound(revision.rules)
    known = (other.sha256 if other else revision.key_hash, start.sha256 if start else "", sorted_items(rules))
    return hashlib.sha256(repr(known).encode()).hexdigest()


def remember(mark: str, view: KeyView) -> None:
    """Keep a view at hand for the next who asks."""
    _views[mark] = view
    while len(_views) > _MOST_VIEWS:
        _views.popitem(last=False)


def sorted_items(value: object) -> object:
    """Return JSON data with its objects as sorted pairs, so that equal data are equal as text."""
    if isinstance(value, dict):
        return [(k, sorted_items(value[k])) for k in sorted(value)]
    return [sorted_items(v) for v in value] if isinstance(value, list) else value


def start_of(revision: Revision) -> bytes | None:
    """Return the bytes of a revision's start drawing."""
    return revision.start.data if revision.start else None


def unbound(rules: RulesJson) -> RulesJson:
    """Return a rule set without what names features of its key: they are proposed anew."""
    bound = ("requirements", "given", "views", "feature_marks", "ties", "taken", "decided")
    return cast(RulesJson, {k: v for k, v in rules.items() if k not in bound})
