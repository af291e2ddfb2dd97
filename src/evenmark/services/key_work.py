"""What is done in a bounded process with keys: read with the checks that are proposed, proved, drawn as
sheets."""

from __future__ import annotations

import io
from collections.abc import Mapping
from dataclasses import dataclass, replace
from pathlib import Path
from typing import TypedDict

import resvg_py
from PIL import Image

from evenmark.core.conventions.papers import Placed
from evenmark.core.dimensioning.proof import ProofTooLarge
from evenmark.core.dimensioning.proof_json import ProofJson
from evenmark.core.dimensioning.proof_json import to_json as proof_json
from evenmark.core.drawing.model import Drawing
from evenmark.core.drawing.refusal import Refusal, refuse
from evenmark.core.formats import read_file
from evenmark.core.marking import RuleSet, check, prepare
from evenmark.core.marking.anew import anew
from evenmark.core.marking.decisions import key_drawing, undecided
from evenmark.core.marking.flaws import FlawJson
from evenmark.core.marking.flaws import to_json as flaws_json
from evenmark.core.marking.key import Key
from evenmark.core.marking.model import Examines
from evenmark.core.marking.reading_json import ReadingJson, reading
from evenmark.core.marking.rules_json import proposal_json
from evenmark.core.marking.rules_types import RulesJson
from evenmark.core.marking.typical import typical
from evenmark.core.sheet.arrows import arrows
from evenmark.core.sheet.frame import Frame
from evenmark.core.sheet.scene import Scene, frame_of, scene
from evenmark.core.sheet.svg import SheetWords, beside_sizes, exercise_sheet
from evenmark.core.sheet.tracing import Tracing, box_with, tracing
from evenmark.services.engine_work import shown_beside, stored

FONTS = Path(__file__).parent.parent / "core" / "sheet" / "fonts"
PRINT_DPI, PRINT_DPI_LARGE, LARGE = 200, 150, 300_000
"""Dots an inch on a printed sheet, on a large one, and from how many square millimetres on a paper is
large."""


@dataclass(frozen=True, kw_only=True, slots=True)
class KeyView:
    """A key made ready: the complete rule set with marks and expectations, what is kept of the drawing to
    show it, and that as a scene."""

    rules: RulesJson
    tracing: Tracing
    scene: Scene
    reading: ReadingJson
    flaws: list[FlawJson]
    """What is wrong with the key itself."""
    names: Mapping[str, str]
    """What its features are called."""


class CostJson(TypedDict):
    """A typical slip in words, and what it would cost."""

    says: str
    costs: float


def take_key(data: bytes, name: str, title: str, school: str) -> tuple[KeyView, bytes] | Refusal:
    """Return everything that a new exercise is made of: its key with the checks that are proposed, and its
    sheet; else why it is none."""
    drawing = read_file(data)
    refusal = refuse(drawing)
    on_sheet = refusal is not None and refusal.code == "sheet-layout-only"  # then that is what it is about
    if refusal is not None and not on_sheet:
        return refusal
    examines: Examines = "sheet" if on_sheet else "model"
    view = _view(drawing, name, {"examines": examines} if on_sheet else None, None)
    return view, _sheet_png(drawing, title, school, examines)


def view_key(data: bytes, name: str, rules: RulesJson | None, start: bytes | None = None) -> KeyView:
    """Make a key ready, with the rules given or those proposed, and what a start drawing gives."""
    return _view(read_file(data), name, rules, start)


def _view(drawing: Drawing, name: str, rules: RulesJson | None, start: bytes | None) -> KeyView:
    return _shown_key(
        drawing, name, prepare(drawing, stored(rules), start=read_file(start) if start else None)
    )


def _shown_key(drawing: Drawing, name: str, key: Key) -> KeyView:
    shown = shown_beside(key_drawing(key, drawing))
    traced: Tracing = {**tracing(key.linework, key.rules.roles, shown), "unit": key.unit.symbol}
    frame = frame_of(traced)
    return KeyView(
        rules=proposal_json(key),
        tracing=traced,
        scene=scene(traced),
        reading=reading(drawing, name),
        names=key.linework.names,
        flaws=[{**f, "at": frame.at((f["at"][0], f["at"][1]))} for f in flaws_json(key.flaws)],
    )


def propose_anew(
    data: bytes, name: str, before: RulesJson, rules: RulesJson, start: bytes | None = None
) -> KeyView:
    """Make a key ready with a list that is proposed anew, as ``rules`` now say, keeping what was changed by
    hand in the one before."""
    drawing, begun = read_file(data), read_file(start) if start else None
    old, now = stored(before), replace(stored(rules), requirements=None)
    same = old.listing == now.listing
    if same and old.listing == "feature" and _usual_listing(drawing, old, begun) == "feature":
        now = replace(now, listing=None)  # nobody chose it, and the sheet may say everything now
    wanted = prepare(drawing, now, start=begun)
    proposed, now = wanted.requirements, replace(now, listing=wanted.rules.listing)
    if old.requirements is not None:
        usual = prepare(drawing, replace(old, requirements=None), start=begun).requirements
        proposed = anew(old.requirements, usual, proposed, weights=old.listing == now.listing)
    return _shown_key(drawing, name, prepare(drawing, replace(now, requirements=proposed), start=begun))


def _usual_listing(drawing: Drawing, rules: RuleSet, begun: Drawing | None) -> str | None:
    """Return how the list of a key is made where nobody chooses."""
    return prepare(drawing, replace(rules, requirements=None, listing=None), start=begun).rules.listing


def prove_key(data: bytes, name: str, rules: RulesJson, start: bytes | None = None) -> ProofJson | str:
    """Prove a key's sheet; as JSON, with what is free as arrows in the key's scene. Why not, where the key is
    too large."""
    drawing = read_file(data)
    key = prepare(drawing, stored(rules), start=read_file(start) if start else None)
    try:
        proof = key.proof
    except ProofTooLarge as why:
        return str(why)
    views = key.rules.views or ()
    out = proof_json(
        proof, key.linework, name=name, unit=key.unit.symbol, views=views, chosen=key.rules.decided
    )
    frame = Frame(box_with(key.linework.box, shown_beside(key_drawing(key, drawing))))
    for said, motion in zip(out["free"], proof.freedoms, strict=True):
        said["arrows"] = arrows(motion, key.linework, frame)
    for one in (*out["sizes"], *out["untied"], *out["proposed"]):
        one["at"] = frame.at((one["at"][0], one["at"][1]))
    return out


def undecided_in(data: bytes, rules: RulesJson) -> list[str]:
    """Return, in words, the dimensions of a key whose value is not what they measure, and about which nothing
    was decided that could be done."""
    return undecided(prepare(read_file(data), replace(stored(rules), requirements=())))


def draw_sheet(
    data: bytes,
    title: str,
    school: str,
    examines: Examines = "model",
    numbers: Mapping[str, int] | None = None,
    shows: RulesJson | None = None,
) -> bytes:
    """Return the exercise sheet as PNG, with its true size for printing; ``numbers`` stand in balloons beside
    its sizes, by dimension; ``shows`` is the rule set of one that is not drawn as its file has it."""
    return _sheet_png(read_file(data), title, school, examines, numbers, shows)


def draw_sheet_pdf(
    data: bytes,
    words: SheetWords,
    examines: Examines,
    paper: str,
    numbers: Mapping[str, int] | None = None,
    shows: RulesJson | None = None,
) -> bytes:
    """Return the exercise sheet as PDF of exactly its paper's size: a picture in it, so that no geometry of
    the key is given away."""
    from reportlab.lib.units import mm
    from reportlab.lib.utils import ImageReader
    from reportlab.pdfgen.canvas import Canvas

    drawing = read_file(data)
    png, placed = _sheet_picture(
        drawing, words, examines, paper, true_size=True, numbers=numbers, shows=shows
    )
    out = io.BytesIO()
    size = (placed.width * mm, placed.height * mm)
    canvas = Canvas(out, pagesize=size, invariant=1, pageCompression=1)
    canvas.setTitle(words.title)
    canvas.setCreator("Even Mark")
    canvas.drawImage(ImageReader(io.BytesIO(png)), 0, 0, *size)
    canvas.showPage()
    canvas.save()
    return out.getvalue()


def _sheet_png(
    drawing: Drawing,
    title: str,
    school: str,
    examines: Examines,
    numbers: Mapping[str, int] | None = None,
    shows: RulesJson | None = None,
) -> bytes:
    words = SheetWords(title=title, school=school, unit="")
    return _sheet_picture(drawing, words, examines, numbers=numbers, shows=shows)[0]


def _sheet_picture(
    drawing: Drawing,
    words: SheetWords,
    examines: Examines,
    paper: str = "",
    *,
    true_size: bool = False,
    numbers: Mapping[str, int] | None = None,
    shows: RulesJson | None = None,
) -> tuple[bytes, Placed]:
    rules = stored(shows) if shows else RuleSet(examines=examines)
    key = prepare(drawing, replace(rules, requirements=()))
    drawing = key_drawing(key, drawing)
    words = replace(words, unit=key.unit.symbol)
    beside = shown_beside(drawing)
    balloons = beside_sizes(key.linework.dimensions, beside, numbers or {})
    svg, placed = exercise_sheet(
        key.linework, beside, words, key.unit.mm, paper, true_size=true_size, balloons=balloons
    )
    dpi = PRINT_DPI if placed.width * placed.height <= LARGE else PRINT_DPI_LARGE
    raw = resvg_py.svg_to_bytes(
        svg_string=svg,
        dpi=dpi,
        font_dirs=[str(FONTS)],
        skip_system_fonts=True,
        font_family="Even Mark Lettering",
        sans_serif_family="Even Mark Lettering",
    )
    out = io.BytesIO()
    Image.open(io.BytesIO(bytes(raw))).convert("L").save(out, "PNG", dpi=(dpi, dpi), optimize=not true_size)
    return out.getvalue(), placed


def preview(data: bytes, rules: RulesJson, start: bytes | None = None) -> list[CostJson]:
    """Return what typical slips would cost under a rule set: what was done, and what is then earned."""
    drawing = read_file(data)
    begun = read_file(start) if start else None
    key = prepare(drawing, stored(rules), start=begun)
    drawn = key.examined(drawing)
    out: list[CostJson] = []
    for slip in typical(drawn, key.rules.roles, key.unit):
        sheet = check(key, slip.drawing)
        out.append({"says": slip.says, "costs": float(sheet.possible - sheet.earned)})
    return out
