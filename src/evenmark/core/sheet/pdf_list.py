"""The pages of a marked drawing that follow it: what happened, comments, and the inspection list."""

from __future__ import annotations

from reportlab.lib.colors import Color
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import BaseDocTemplate, Flowable, KeepTogether, Paragraph, Table

from evenmark.core.geometry.points import Point
from evenmark.core.sheet import faces
from evenmark.core.sheet.cells import fitted
from evenmark.core.sheet.inks import INK, RULE, SECOND, words
from evenmark.core.sheet.marked import Lesson, MarkedSheet, Row, letter

MOST_ROWS = 3000
MOST_LETTERS = 500
"""In one cell of the list: a row is never higher than a page."""


def head(canvas: Canvas, doc: BaseDocTemplate, sheet: MarkedSheet, paper: Point) -> None:
    """Draw the head of a page of the list: what it is of, and its number."""
    y = paper[1] - 12
    said = f"{sheet.score} · sheet {doc.page}"
    room = paper[0] - 36 - faces.width(said, 3.4) - 6
    lines, size = fitted(f"{sheet.title} · {sheet.student}", room, 3.6, faces.BOLD)
    for n, line in enumerate(lines):
        words(canvas, 18, y + (len(lines) - 1 - n) * 3.0, line, size, weight=faces.BOLD)
    words(canvas, paper[0] - 18, y, said, 3.4, align=1.0, color=SECOND)
    canvas.setStrokeColor(RULE)
    canvas.line(18 * mm, (y - 2) * mm, (paper[0] - 18) * mm, (y - 2) * mm)


def _style(
    size: float, *, weight: int = faces.REGULAR, before: float = 0.0, color: Color = INK
) -> ParagraphStyle:
    return ParagraphStyle(
        "s",
        fontName=faces.name_of(weight),
        fontSize=size,
        leading=size * 1.28,
        spaceBefore=before,
        textColor=color,
    )


def story(sheet: MarkedSheet, wide: float) -> list[Flowable]:
    """Return what stands on the pages of the list, ``wide`` mm wide."""
    out: list[Flowable] = [
        Paragraph(faces.markup(f"{sheet.group} · {sheet.file} · {sheet.handed_in}"), _style(9, color=SECOND))
    ]
    if sheet.lessons:
        out.append(_title("What went wrong"))
        out += [_lesson(one) for one in sheet.lessons]
    if sheet.pins:
        out.append(_title("Comments"))
        out += [
            Paragraph(
                f"{faces.markup(letter(p.number), faces.BOLD)} {faces.markup(f'{p.text} ({p.by})')}",
                _style(10, before=3),
            )
            for p in sheet.pins
        ]
    out += [Paragraph(faces.markup(n), _style(9, before=4, color=SECOND)) for n in sheet.notes]
    if sheet.rows:
        out += [_title("Inspection list"), _table(sheet.rows[:MOST_ROWS], sheet, wide)]
    return out


def _title(text: str) -> Flowable:
    return Paragraph(faces.markup(text, faces.BOLD), _style(13, before=12))


def _lesson(one: Lesson) -> Flowable:
    parts: list[Flowable] = [Paragraph(faces.markup(_cut(one.says), faces.BOLD), _style(10.5, before=6))]
    parts += [Paragraph(faces.markup(_cut(line)), _style(9.5, before=1)) for line in one.lines]
    parts.append(Paragraph(faces.markup(f"Next time: {one.avoid}"), _style(9.5, before=2)))
    about = ", ".join(map(str, one.explains[:12])) + (" and more" if len(one.explains) > 12 else "")
    parts.append(Paragraph(faces.markup(f"Explains {about} · costs {one.costs}"), _style(8.5, color=SECOND)))
    return KeepTogether(parts)


def _cut(text: str) -> str:
    """Return a text that fits into a cell: one line of at most so many letters; the page shows it whole."""
    plain = " ".join(text.split())
    return plain if len(plain) <= MOST_LETTERS else f"{plain[: MOST_LETTERS - 1]}…"


def _table(rows: tuple[Row, ...], sheet: MarkedSheet, wide: float) -> Flowable:
    plain, strong, small = _style(8.5), _style(8.5, weight=faces.BOLD), _style(8, color=SECOND)
    numbers = any(r.asked or r.drawn for r in rows)
    named = [("", 0.06, small), ("Characteristic", 0.30 if numbers else 0.60, small)]
    if numbers:
        named += [
            ("asked", 0.15, _right(small)),
            ("measured", 0.15, _right(small)),
            ("off by", 0.12, _right(small)),
        ]
    named += [("verdict", 0.10, small), ("marks", 0.12 if numbers else 0.20, _right(small))]
    data: list[list[Flowable | str]] = [[Paragraph(faces.markup(head), style) for head, _, style in named]]
    for r in rows:
        name: list[Flowable] = [Paragraph(faces.markup(_cut(r.name)), plain)]
        if r.reason:
            name.append(Paragraph(faces.markup(_cut(r.reason)), small))
        cells = tuple(map(_cut, (r.asked, r.drawn, r.off))) if numbers else ()
        heavy = faces.BOLD if r.verdict != "met" else faces.REGULAR
        data.append(
            [
                Paragraph(faces.markup(str(r.id), faces.BOLD), strong),
                name,
                *(Paragraph(faces.markup(c), _right(plain)) for c in cells),
                Paragraph(faces.markup(r.verdict, heavy), plain),
                Paragraph(faces.markup(r.marks), _right(plain)),
            ]
        )
    style = [
        ("LINEBELOW", (0, 0), (-1, -1), 0.4, RULE),
        ("VALIGN", (0, 0), (-1, -1), "TOP"),
        ("LEFTPADDING", (0, 0), (-1, -1), 2),
        ("RIGHTPADDING", (0, 0), (-1, -1), 2),
        ("TOPPADDING", (0, 0), (-1, -1), 2),
        ("BOTTOMPADDING", (0, 0), (-1, -1), 3),
    ]
    return Table(data, colWidths=[wide * share * mm for _, share, _ in named], repeatRows=1, style=style)


def _right(style: ParagraphStyle) -> ParagraphStyle:
    return ParagraphStyle("r", parent=style, alignment=2)
