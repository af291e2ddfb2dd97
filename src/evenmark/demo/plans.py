"""The demo as one table: people, exercises, attempts with their slips, what the instructor said of them."""

from __future__ import annotations

from dataclasses import dataclass, field

from evenmark.core.drawing.model import Circle, Line
from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.geometry.units import INCH
from evenmark.core.marking.model import Policy, Verdict
from evenmark.demo import parts
from evenmark.demo import slips as s
from evenmark.demo.drawn import OnTheBoard, with_value

PASSWORD = "tide-mill-2026"  # noqa: S105 - the demo's password is printed at every start
INSTRUCTOR = ("Maren Oakes", "maren")
SCHOOL = "Saltmarsh Road College"
STUDENTS = {
    "Group A": ("Wren Halloran", "Idris Pell", "Tamsin Roe", "Otto Lindqvist", "Priya Nand", "Callum Baird"),
    "Group B": ("Noor Castell", "Felix Arden", "Yuki Morrow", "Bea Sutter", "Rafael Quill", "Hana Voss"),
}


@dataclass(frozen=True, kw_only=True)
class StudentWork:
    """One attempt: whose, at which part, with which slip, drawn in which manner, how many hours ago."""

    student: str
    slip: s.Slip = field(default=lambda d: d)
    manner: Manner = field(default_factory=Manner)
    hours: float = 30.0
    part: parts.Part | None = None
    drawn: OnTheBoard | None = None
    """How it was drawn on the board, instead of in other software."""


@dataclass(frozen=True, kw_only=True)
class Remark:
    """Something the instructor did to a mark: a comment at a place of the key, or another verdict for the
    first finding of a kind that is not met."""

    student: str
    text: str
    at: tuple[float, float] | None = None
    kind: str | None = None
    verdict: Verdict = "met"


@dataclass(frozen=True, kw_only=True)
class Plan:
    """One exercise of the demo, to whom it is issued, and what comes in."""

    title: str
    text: str
    part: parts.Part
    placement: Policy
    group: str
    due_hours: float
    tries: int
    detail: str
    work: tuple[StudentWork, ...]
    returns: str = "at-once"
    remarks: tuple[Remark, ...] = ()
    start: parts.Part | None = None
    fields: tuple[str, ...] = ()
    """What the wordings of the key stand for, in their order: a field of the student, or nothing for the
    wording itself."""
    in_line: bool = False
    """Whether features that look level or plumb with each other are taken as read to be so."""
    numbered: bool = False
    """Whether the sheet shows the numbers of its sizes."""
    returned: bool = True
    """Whether the instructor has returned what is returned by hand."""
    file: str
    on_board: bool = False
    """Whether the instructor drew the key on the board."""
    drafts: tuple[StudentWork, ...] = ()
    """What is begun on the board and not handed in yet."""


def sign_in_of(name: str) -> str:
    """Return the sign-in name of a demo student: the given name in lower case."""
    return name.split()[0].lower()


PLANS = (
    Plan(
        title="Sluice gate plate, outline",
        file="gate-outline",
        text="Draw the outline of the sluice gate plate at full size, starting with its lower left corner "
        "at 0, 0. "
        "Everything belongs on the layer outline. Coordinates count.",
        part=parts.gate_outline(),
        placement="as-drawn",
        group="Group A",
        due_hours=-40,
        tries=3,
        detail="numbers",
        work=(
            StudentWork(student="Wren Halloran", manner=Manner(polylines=True), hours=96),
            StudentWork(student="Idris Pell", slip=s.moved((20, 10)), manner=Manner(version="R12"), hours=80),
            StudentWork(student="Idris Pell", manner=Manner(version="R12"), hours=70),
            StudentWork(student="Tamsin Roe", slip=s.end_moved(1, -0.02), manner=Manner(pieces=2), hours=77),
            StudentWork(student="Otto Lindqvist", slip=s.scaled(1 / 25.4), hours=66),
            StudentWork(student="Priya Nand", slip=s.all_of(s.on_layer("0"), s.twice(Line, 3)), hours=60),
            StudentWork(student="Callum Baird", part=parts.gate_outline(notch=16.0), hours=39),
        ),
    ),
    Plan(
        title="Gate plate, holes and slot",
        file="gate-holes",
        text="Draw the gate plate with its four fixing holes, the middle hole and the slot for the lifting "
        "bar. It may stand "
        "anywhere on the sheet. Holes are dimensioned by diameter.",
        part=parts.gate_holes(),
        in_line=True,
        numbered=True,
        placement="slide",
        group="Group A",
        due_hours=50,
        tries=3,
        detail="numbers",
        work=(
            StudentWork(
                student="Wren Halloran", slip=s.circle_scaled(4, 2), manner=Manner(shift=(12.4, -3)), hours=20
            ),
            StudentWork(
                student="Idris Pell",
                drawn=OnTheBoard(
                    document=parts.document("gate-holes"), says={3: "circle 78.031, 11.983; radius hole"}
                ),
                hours=18,
            ),
            StudentWork(
                student="Tamsin Roe", manner=Manner(below=True, polylines=True, shift=(40, 25)), hours=15
            ),
            StudentWork(
                student="Otto Lindqvist",
                slip=s.construction((0, 12), (100, 12)),
                manner=Manner(version="R2018"),
                hours=7,
            ),
            StudentWork(
                student="Priya Nand", slip=s.all_of(s.circle_scaled(0, 0.5), s.end_moved(2, 0.4)), hours=3
            ),
        ),
    ),
    Plan(
        title="Wheel hub",
        file="wheel-hub",
        text="Draw the wheel hub about 0, 0: flange, boss, bore and six holes on the pitch circle. Axes and "
        "pitch circle belong "
        "on the layer centre.",
        part=parts.wheel_hub(),
        placement="as-drawn",
        group="Group B",
        due_hours=-10,
        tries=2,
        detail="checks",
        returns="by-hand",
        remarks=(
            Remark(
                student="Hana Voss",
                at=(0.0, 30.0),
                text="Your six holes agree with each other. Only their pitch circle is wrong: see the sheet.",
            ),
            Remark(
                student="Bea Sutter",
                kind="layer",
                text="The pitch circle was on construction in the copy that the class was given.",
            ),
        ),
        work=(
            StudentWork(student="Noor Castell", manner=Manner(circles="bulges"), hours=50),
            StudentWork(student="Felix Arden", slip=s.circle_scaled(2, 2), hours=44),
            StudentWork(
                student="Yuki Morrow", slip=s.left_out(Circle, 6), manner=Manner(binary=True), hours=41
            ),
            StudentWork(student="Bea Sutter", slip=s.on_layer("construction", Circle, 4), hours=33),
            StudentWork(student="Rafael Quill", manner=Manner(unit=INCH), hours=28),
            StudentWork(student="Hana Voss", part=parts.wheel_hub(pitch=58.0), hours=12),
        ),
    ),
    Plan(
        title="Crank link",
        file="crank-link",
        on_board=True,
        drafts=(
            StudentWork(
                student="Hana Voss",
                drawn=OnTheBoard(document=parts.document("crank-link"), stops_after=5),
                hours=2,
            ),
        ),
        text="Draw the crank link: two bosses 82 apart, joined by their outer tangents, with a bore in "
        "each. It may be anywhere. "
        "Check that the flanks are tangent before you hand in.",
        part=parts.crank_link(),
        placement="slide",
        group="Group B",
        due_hours=30,
        tries=3,
        detail="numbers",
        work=(
            StudentWork(
                student="Noor Castell", slip=s.circle_scaled(1, 2), manner=Manner(shift=(12.4, -3)), hours=22
            ),
            StudentWork(student="Felix Arden", slip=s.end_moved(0, -0.018), hours=19),
            StudentWork(
                student="Yuki Morrow",
                drawn=OnTheBoard(
                    document=parts.document("crank-link"),
                    at_first={
                        4: "line tangent to circle 2; circle 1; outer left",
                        9: "circle 0, 0; radius 6",
                    },
                ),
                hours=16,
            ),
            StudentWork(
                student="Bea Sutter", slip=s.all_of(s.end_moved(1, 0.4), s.on_layer("0", Circle, 0)), hours=11
            ),
            StudentWork(student="Rafael Quill", slip=s.mirrored(), hours=6),
        ),
    ),
    Plan(
        title="Gear cover gasket",
        file="cover-gasket",
        on_board=True,
        text="Draw the gasket: fillets 12 outside and 6 inside, five holes. One closed outline each.",
        part=parts.cover_gasket(),
        in_line=True,
        placement="slide",
        group="Group A",
        due_hours=120,
        tries=2,
        detail="score",
        work=(
            StudentWork(
                student="Callum Baird",
                drawn=OnTheBoard(document=with_value(parts.document("cover-gasket"), "inner", "12")),
                hours=9,
            ),
            StudentWork(student="Wren Halloran", manner=Manner(polylines=True, reverse=True), hours=5),
            StudentWork(
                student="Tamsin Roe",
                slip=s.all_of(s.twice(Circle, 0), s.circle_moved(2, (0.26, 0.0))),
                hours=2,
            ),
        ),
    ),
    Plan(
        title="Shaft bracket in three views",
        file="shaft-bracket",
        text="Draw front, top and side view of the shaft bracket, 20 apart. Hidden edges dashed on their "
        "layer, axes on centre.",
        part=parts.shaft_bracket(),
        placement="slide",
        group="Group B",
        due_hours=170,
        tries=3,
        detail="numbers",
        returns="by-hand",
        returned=False,
        work=(
            StudentWork(student="Hana Voss", slip=s.left_out(Line, 14), hours=8),
            StudentWork(student="Felix Arden", manner=Manner(pieces=3, reverse=True), hours=4),
            StudentWork(
                student="Noor Castell",
                slip=s.all_of(s.on_layer("construction", Line, 12), s.end_moved(17, -0.05)),
                hours=1,
            ),
        ),
    ),
    Plan(
        title="Kit sheet, title block",
        file="kit-sheet",
        text="Begin with the border that is given. Draw the title block, 10 high, with cells of 80, 80 and "
        "the rest. Letter your name, "
        "the title and your group in capitals, 6 high, 2 from the left and lower edge of each cell.",
        part=parts.kit_sheet(),
        start=parts.kit_sheet(begun=True),
        fields=("name", "", "group"),
        placement="as-drawn",
        group="Group A",
        due_hours=76,
        tries=3,
        detail="numbers",
        work=(
            StudentWork(student="Wren Halloran", part=parts.kit_sheet("WREN HALLORAN", "GROUP A"), hours=13),
            StudentWork(
                student="Priya Nand",
                part=parts.kit_sheet("PRIYA NAND", "GROUP A", height=5.0),
                manner=Manner(version="R2000"),
                hours=10,
            ),
            StudentWork(
                student="Otto Lindqvist",
                part=parts.kit_sheet("OTTO LINDQVIST", "GROUP B", divider=82.0),
                hours=1.5,
            ),
        ),
    ),
)
