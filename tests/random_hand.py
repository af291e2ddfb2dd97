"""A random hand: points at places of random drawings and presses, until a sentence is whole; then every
pressed place has to be in what was drawn, as the page had said it.

``python -m tests.random_hand 200`` draws two hundred drawings for each kind of sentence.
"""

from __future__ import annotations

import math
import random
import sys
from contextlib import suppress
from typing import Any, NamedTuple

from evenmark.core.board.board import BoardDocument
from evenmark.core.board.near import distance_to
from evenmark.core.board.session import BoardSession
from evenmark.core.construct.completion import complete
from evenmark.core.construct.document import from_text
from evenmark.core.construct.kinds import OFFERS
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Expression, Ref
from evenmark.core.construct.state import Broken, Feature, plain
from evenmark.core.construct.words import Unreadable
from evenmark.core.geometry.arcs import Round
from evenmark.core.geometry.points import Point, distance

REACH_PX = 11.0
MOST_PRESSES = 14
NOT_POINTED = ("frame", "opened drawing", "values")
"""Kinds in which nothing is pointed."""


class Press(NamedTuple):
    """A press: where, how far it reached, and what the page had said that it means."""

    at: Point
    reach: float
    kind: str
    says: str
    meant: Point | None
    on: tuple[str, ...]


class Drawn(NamedTuple):
    """A sentence that was drawn by pressing, and what was wrong with it."""

    says: str
    presses: tuple[Press, ...]
    wrong: str


def some_sentences(rng: random.Random) -> str:
    """Return a document with a few of everything that can be pointed at."""

    def n(low: int, high: int) -> float:
        return rng.randint(low * 2, high * 2) / 2

    def p() -> str:
        return f"{n(-60, 60):g}, {n(-50, 50):g}"

    made = [
        f"line {p()}; {p()}",
        f"circle {p()}; radius {n(4, 20):g}",
        f"chain {p()}; right {n(10, 40):g}; up {n(10, 30):g}; {p()}",
        f"rectangle {p()}; {n(10, 40):g} by {n(8, 30):g}",
        f"circle {p()}; radius {n(4, 20):g}",
        f"line {p()}; {n(8, 40):g} toward {rng.randint(0, 359)}",
        f"arc centre {p()}; from {p()}; turn {rng.choice([90, -60, 200])}",
        f"polygon {rng.randint(3, 7)}; centre {p()}; inside {n(8, 20):g}",
        f"guide level {p()}",
        f'text "A"; {p()}; height 4',
    ]
    rng.shuffle(made)
    count = rng.randint(2, 7)
    lines = made[:count]
    rounds = [k for k, says in enumerate(lines, 1) if says.startswith("circle")]
    if rounds and rng.random() < 0.5:
        lines.append(f"centre mark circle {rng.choice(rounds)}; past 3")
    return "\n".join(lines)


class RandomHand:
    """Draws one sentence after the other on a board."""

    def __init__(self, rng: random.Random) -> None:
        self.rng = rng
        self.desk = BoardSession()
        self.desk.open(BoardDocument(from_text(some_sentences(rng))))
        self.pixel = rng.choice([0.05, 0.2, 0.6])
        self.settings = {
            "level": rng.choice(["gently", "gently", "firmly", "not"]),
            "grid": rng.choice([0.0, 0.0, 5.0, 2.5]),
            "reach": REACH_PX * self.pixel,
            "pixel": self.pixel,
        }
        self.rested: list[dict[str, Any]] = []

    @property
    def board(self) -> BoardDocument:
        """The board that is drawn on."""
        return self.desk.board

    def _somewhere(self, says: str) -> Point:
        """Return a place near something that can be caught, on something that is wanted, or anywhere."""
        rng, features = self.rng, [f for f in self.board.evaluation.state.standing() if not f.endless]
        if rng.random() < 0.7:
            wants = self.desk.ask("state", {"says": says, "caret": len(says)})["wants"]
            wanted = {kind for w in wants for kind in w["kinds"]}  # type: ignore[attr-defined]
            fits = [f for f in features if f.ref.kind in wanted]
            if fits:
                f = rng.choice(fits)
                if not isinstance(f.shape, Round):
                    share = rng.uniform(0.1, 0.9)
                    return (
                        f.start[0] + share * (f.end[0] - f.start[0]),
                        f.start[1] + share * (f.end[1] - f.start[1]),
                    )
                turn = f.shape.start_rad + rng.random() * f.shape.sweep_rad
                (x, y), r = f.shape.center, f.shape.radius
                return x + r * math.cos(turn), y + r * math.sin(turn)
        off = REACH_PX * self.pixel * 0.7
        jitter = (rng.uniform(-off, off), rng.uniform(-off, off)) if rng.random() < 0.8 else (0.0, 0.0)
        if rng.random() < 0.3 or not features:
            return rng.uniform(-70, 70), rng.uniform(-60, 60)
        f = rng.choice(features)
        places = [f.start, f.end, f.shape.middle, *([f.exact[0]] if f.exact else [])]
        x, y = plain(rng.choice(places))  # type: ignore[arg-type]
        return x + jitter[0], y + jitter[1]

    def _point(self, says: str, at: Point) -> Any:
        ox, oy = self.board.frame().origin
        where = {"x": at[0] - ox, "y": oy - at[1]}
        if self.rng.random() < 0.2 and self.rested:
            self.settings["rested"] = self.rested[-4:]
        answer = self.desk.ask("point", {"says": says, "caret": len(says), **where, **self.settings})
        for choice in answer.get("choices", [])[:1]:
            if choice["kind"] in ("end", "centre", "middle", "crossing"):
                x, y = choice["at"]
                self.rested.append({"writes": choice["writes"], "x": x, "y": y})
        return answer

    def draw(self, begins: str) -> Drawn | None:
        """Draw a sentence by pressing; None where it came to nothing."""
        says, presses = begins, []
        for _ in range(MOST_PRESSES):
            at = self._somewhere(says)
            led = self._word(says) if self.rng.random() < 0.15 else None
            if led is not None:
                says = led
                continue
            answer = self._point(says, at)
            if not answer.get("choices"):
                led = self._word(says)
                if led is None:
                    return None
                says = led
                continue
            preview = answer["preview"]
            if preview and preview["whole"] and preview["broken"]:
                continue  # the page does not take it
            choice = answer["choices"][answer["which"]]
            ox, oy = self.board.frame().origin
            meant = (ox + choice["at"][0], oy - choice["at"][1]) if choice["at"] else None
            presses.append(
                Press(at, self.settings["reach"], choice["kind"], choice["says"], meant, tuple(choice["on"]))
            )
            says = answer["text"]
            if preview and preview["whole"] and (not answer["more"] or self.rng.random() < 0.4):
                return self._taken(says, presses)
        return None

    def _word(self, says: str) -> str | None:
        """Return a text with one of the words that may follow, where nothing can be pointed."""
        found = self.desk.ask("state", {"says": says, "caret": len(says)})
        offered = [a["text"] for a in found["answers"]]
        if offered and self.rng.random() < 0.8:
            return str(self.rng.choice(offered))
        kinds = {w["kind"] for w in found["wants"]}
        if says.count('"') % 2:
            return f'{says}B"; '
        if "number" in kinds and "point" not in kinds:
            return f"{says}{'' if says.endswith(' ') else ' '}{self.rng.randint(2, 9)}; "
        if "name" in kinds and not any(kind in kinds for kind in ("point", "feature")):
            return f"{says}n{self.rng.randint(1, 9)}; "
        return f'{says}"B"; ' if "wording" in kinds else None

    def _taken(self, says: str, presses: list[Press]) -> Drawn:
        before = {f.ref: f for f in self.board.evaluation.state.standing()}
        wrong = next(filter(None, (self._lost(says, p) for p in presses)), "")
        done = self.desk.ask("write", {"says": says.rstrip().rstrip(";")})
        if "refused" in done:
            return Drawn(says, tuple(presses), f"refused: {done['refused']}")
        if self.board.evaluation.outcomes[-1].broken:
            return Drawn(says, tuple(presses), f"broken: {self.board.evaluation.outcomes[-1].broken}")
        checks = (check(p) for p in presses for check in (lambda p: self._missed(p, before), self._beside))
        wrong = wrong or next(filter(None, checks), "")
        return Drawn(says, tuple(presses), wrong)

    def _lost(self, says: str, press: Press) -> str:
        """Say that a pressed place is none of those that the sentence says."""
        if press.kind in ("number", "pitch", "answer", "feature"):
            return ""
        if press.meant is None or " toward " in press.says or press.says.startswith("toward"):
            return ""  # the page had said a length or a direction
        if (
            distance(press.meant, press.at) > press.reach + self.pixel * 2
            and self.settings["level"] != "firmly"
        ):
            return f"{press.says} lies farther than was reached"
        if press.says.endswith("closes it"):
            return "" if "close" in says else "not closed"
        said = said_points(self.board, says)
        if any(distance(p, press.meant) <= 1e-6 * (1 + abs(p[0]) + abs(p[1])) for p in said):
            return ""
        return f"{press.says} at {press.meant} is not in {says!r}: {said}"

    def _missed(self, press: Press, before: dict[Ref, Feature]) -> str:
        """Say that what was pressed as a feature was not there."""
        if press.kind != "feature":
            return ""
        named = [f for ref, f in before.items() if f"{ref.kind} {ref.step}.{ref.part}" in press.on]
        if any(distance_to(f, press.at) <= press.reach for f in named):
            return ""
        return f"{press.says} is not where it was pressed"

    def _beside(self, press: Press) -> str:
        """Say that a circle does not go through where its radius or diameter was pressed."""
        last = self.board.document.steps[-1]
        round_ = press.kind == "number" and press.says.startswith(("radius", "diameter"))
        if not round_ or not last.says.startswith("circle") or press.meant is None:
            return ""
        made = [f for f in self.board.evaluation.state.standing() if f.ref.step == last.id]
        if "touching" in last.says or any(distance_to(f, press.meant) <= 2 * self.pixel for f in made):
            return ""
        return f"{press.says} lies beside {last.says!r}"


def said_points(board: BoardDocument, says: str) -> list[Point]:
    """Return the points that a sentence says, as the board stands, with those that they are level with."""
    bare = says.rstrip().rstrip(";")
    id_of = board.ids_before(None)
    context = board.evaluation.context()
    out: list[Point] = []
    end = -1
    for span in complete(bare, len(bare), id_of).spans:
        if span.kind != "point" or span.begin < end:
            continue
        end = span.end
        try:
            said = Reader(bare[span.begin : span.end], id_of).point()
            out += _places(context, said)
        except (Broken, Unreadable):
            continue
    return out


def named_features(board: BoardDocument, says: str) -> list[Feature]:
    """Return what a sentence names, as the board stands."""
    state, out = board.evaluation.state, []
    for span in complete(says, len(says), board.ids_before(None)).spans:
        for ref in span.value.parts if span.kind == "things" else (span.value,):
            with suppress(Broken):
                if isinstance(ref, Ref):
                    out += state.of_step(ref.step) if ref.kind == "step" else [state.find(ref)]
    return out


def _places(context: Context, said: Expression) -> list[Point]:
    """Return where a point lies, and those that it is level and plumb with: these were pressed, too."""
    last, out = context.last, []
    if said.how == "level":
        out = [p for part in said.parts for p in _places(context, part)]
        context.last = last
    return [*out, plain(context.point(said))]


def kinds() -> list[str]:
    """Return how the kinds of sentences begin in which something is pointed."""
    return [o.begins for o in OFFERS if o.says not in NOT_POINTED]


def drawn(begins: str, seed: int) -> Drawn | None:
    """Draw one sentence of a kind on a random drawing."""
    return RandomHand(random.Random(f"{begins}{seed}")).draw(begins)


def main() -> None:
    """Draw so many drawings for each kind; say what was wrong."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 20
    bad = 0
    for begins in kinds():
        found = [drawn(begins, seed) for seed in range(count)]
        taken = [d for d in found if d is not None]
        wrong = [d for d in taken if d.wrong]
        bad += len(wrong)
        print(f"{begins!r}: {len(taken)} of {count} drawn, {len(wrong)} wrong", flush=True)
        for d in wrong[:3]:
            print("   ", d.says, "|", d.wrong)
            print("       ", [(p.kind, p.says) for p in d.presses])
    sys.exit(bool(bad))


if __name__ == "__main__":
    main()
