"""DXF text straight to Drawing, without the DXF library: most of the time of a check went into loading what
is then thrown away.

Only files in which everything is plain are read here: sections in order, lines, arcs, circles, polylines and
lettering in the model space. Whatever is not (a block reference, a dimension, an object out of the plane, a
value out of its range, a file that breaks off) makes the whole file unusual; then `read_quickly` returns None
and the DXF library takes over. A test reads every drawing both ways.
"""

from __future__ import annotations

from collections.abc import Callable

from ezdxf.lldxf.const import VALID_DXF_LINEWEIGHTS, acad_release
from ezdxf.tools.text import fast_plain_mtext

from evenmark.core.drawing.look import Style
from evenmark.core.drawing.model import Arc, Circle, Drawing, Line
from evenmark.core.formats.bounds import FARTHEST, MOST_ENTITIES
from evenmark.core.formats.collected import Collected
from evenmark.core.formats.dxf_lettering import ATTACHED, SPREAD, add_text, face_of, text_anchor
from evenmark.core.formats.dxf_look import FIRST_WITH_WEIGHTS, WEIGHT_DEFAULT, Attributes, LayerRow, Look
from evenmark.core.formats.dxf_objects import add_polyline
from evenmark.core.formats.dxf_tags import split
from evenmark.core.formats.dxf_words import line_text
from evenmark.core.formats.oddities import oddity
from evenmark.core.geometry import arcs

Stated = dict[int, str]
"""The values of one object by group code; of a code that occurs again the last."""
Belongs = tuple[str, Style, str]
_WEIGHTS = frozenset([-1, -2, -3, *VALID_DXF_LINEWEIGHTS])


class Unusual(Exception):
    """Something that only the DXF library knows how to read."""


def read_quickly(text: str) -> Drawing | None:
    """Return the drawing of a plain file; None when anything in it is unusual."""
    if "\\U+" in text or "\\M+" in text:
        return None
    try:
        return _Quick(text).drawing()
    except (Unusual, ValueError, KeyError, IndexError, OverflowError):
        return None


class _Quick:
    """One file as group codes and values, with where its objects begin."""

    def __init__(self, text: str) -> None:
        self.codes, self.values = split(text)
        if len(self.codes) != len(self.values) or self.values[-1].strip() != "EOF":
            raise Unusual
        self.begins = [i for i, code in enumerate(self.codes) if code == 0]
        self.taken = Collected()
        self.sections = self._sections()

    def drawing(self) -> Drawing:
        """Return everything in the model space."""
        version, unit, scale = self._header()
        self._nothing_in_spaces()
        self.look = Look(
            self._layers(), self._line_types(), weights_said=version >= FIRST_WITH_WEIGHTS, scale=scale
        )
        self._entities()
        return Drawing(
            entities=tuple(self.taken.out),
            layers=dict(self.look.layers),
            unit=self.taken.unit(unit),
            oddities=tuple(oddity(c, what, n) for (c, what), n in sorted(self.taken.odd.items())),
            version=acad_release[version],
        )

    def _sections(self) -> dict[str, tuple[int, int]]:
        """Return, for each section, between which of the beginnings it stands."""
        found: dict[str, tuple[int, int]] = {}
        name, since = "", -1
        for n, i in enumerate(self.begins):
            word = self.values[i].strip()
            if word == "SECTION":
                if since >= 0 or self.codes[i + 1] != 2:
                    raise Unusual
                name, since = self.values[i + 1].strip(), n
                if name in found:
                    raise Unusual
            elif word == "ENDSEC":
                if since < 0:
                    raise Unusual
                found[name], since = (since, n), -1
        if since >= 0 or not {"HEADER", "TABLES", "ENTITIES"} <= found.keys():
            raise Unusual
        return found

    def _header(self) -> tuple[str, int | None, float]:
        """Return version, unit code and the scale of line types."""
        first, last = self.sections["HEADER"]
        names = {
            self.values[i].strip(): self.values[i + 1]
            for i in range(self.begins[first], self.begins[last])
            if self.codes[i] == 9
        }
        version = names["$ACADVER"].strip()
        if version not in acad_release or version in ("AC1012", "AC1014", "AC1006", "AC1004", "AC1003"):
            raise Unusual
        unit = int(names["$INSUNITS"]) if "$INSUNITS" in names else None
        return version, unit, float(names.get("$LTSCALE", "1"))

    def _table(self, wanted: str) -> list[tuple[int, int]]:
        """Return where the tags of each entry of a table stand."""
        first, last = self.sections["TABLES"]
        out = []
        for n in range(first + 1, last):
            i, end = self.begins[n], self.begins[n + 1]
            if self.values[i].strip() == wanted:
                out.append((i, end))
        return out

    def _stated(self, begin: int, end: int) -> Stated:
        return dict(zip(self.codes[begin:end], self.values[begin:end], strict=True))

    def _layers(self) -> list[LayerRow]:
        rows = []
        for begin, end in self._table("LAYER"):
            d = self._stated(begin, end)
            row = LayerRow(
                name=d[2],
                color=int(d.get(62, "7")),
                true_color=int(d[420]) if 420 in d else None,
                line_type=d.get(6, "Continuous"),
                weight=int(d.get(370, WEIGHT_DEFAULT)),
                flags=int(d.get(70, "0")),
            )
            if not (row.name and 1 <= abs(row.color) <= 255 and row.weight in _WEIGHTS):
                raise Unusual
            rows.append(row)
        if "0" not in {row.name for row in rows}:
            raise Unusual
        return rows

    def _line_types(self) -> list[tuple[str, list[float]]]:
        out = []
        for begin, end in self._table("LTYPE"):
            elements = [float(self.values[i]) for i in range(begin, end) if self.codes[i] == 49]
            out.append((self._stated(begin, end)[2], elements))
        return out

    def _nothing_in_spaces(self) -> None:
        """Make sure that blocks which are spaces hold nothing: what is drawn stands among the entities."""
        if "BLOCKS" not in self.sections:
            return
        first, last = self.sections["BLOCKS"]
        space = False
        for n in range(first + 1, last):
            word = self.values[self.begins[n]].strip()
            if word == "BLOCK":
                name = self._stated(self.begins[n], self.begins[n + 1]).get(2, "").lstrip("*$").upper()
                space = name.startswith(("MODEL_SPACE", "PAPER_SPACE"))
            elif space and word not in ("ENDBLK", "VIEWPORT"):
                raise Unusual

    def _entities(self) -> None:
        first, last = self.sections["ENTITIES"]
        if last - first > MOST_ENTITIES:
            raise Unusual
        handles: list[str] = []
        n = first + 1
        while n < last:
            begin, end = self.begins[n], self.begins[n + 1]
            kind = self.values[begin].strip()
            d = dict(zip(self.codes[begin:end], self.values[begin:end], strict=True))
            n += 1
            if kind == "VIEWPORT" and d.get(69, "").strip() == "1":
                continue  # stands for the sheet layout itself
            taker = _TAKERS.get(kind)
            if taker is None or 67 in d or 101 in d:
                raise Unusual
            if 210 in d and not (float(d[210]) == 0.0 == float(d[220]) and float(d[230]) > 0.0):
                raise Unusual
            handle = d.get(5)
            if handle is not None:
                handles.append(handle)
            vertices: list[Stated] = []
            if kind == "POLYLINE":
                n = self._vertices(n, last, vertices)
            belongs = self._belongs(d, handle or f"n{n}")
            if belongs is not None:
                taker(self, d, begin, end, belongs, vertices)
        if len(set(handles)) != len(handles):
            raise Unusual  # the library gives new ones

    def _vertices(self, n: int, last: int, out: list[Stated]) -> int:
        """Collect the vertices that follow a polyline up to its SEQEND; return what comes behind it."""
        while n < last:
            begin, end = self.begins[n], self.begins[n + 1]
            word = self.values[begin].strip()
            n += 1
            if word == "SEQEND":
                return n
            if word != "VERTEX":
                break
            out.append(self._stated(begin, end))
        raise Unusual

    def _belongs(self, d: Stated, source: str) -> Belongs | None:
        """Return layer, resulting style and source of an object; None when it is switched off."""
        layer = self.look.layer(d.get(8, "0"))
        if not layer.shown or (60 in d and int(d[60])):
            self.taken.odd["switched-off", layer.name] += 1
            return None
        if not (62 in d or 6 in d or 370 in d or 420 in d or 48 in d):
            return layer.name, layer.style, source
        stated: Attributes = {
            "color": int(d.get(62, "256")),
            "linetype": d.get(6, "BYLAYER"),
            "lineweight": int(d.get(370, "-1")),
            "true_color": int(d[420]) if 420 in d else None,
            "ltscale": float(d.get(48, "1")),
        }
        if not (0 <= stated["color"] <= 256 and stated["lineweight"] in _WEIGHTS and stated["ltscale"] > 0.0):
            raise Unusual
        return layer.name, self.look.style(stated, layer, None), source

    # one taker for each kind of plain object

    def take_line(self, d: Stated, _b: int, _e: int, belongs: Belongs, _v: list[Stated]) -> None:
        """LINE."""
        _level(d, 30, 31)
        self.taken.out.append(Line((_place(d[10]), _place(d[20])), (_place(d[11]), _place(d[21])), *belongs))

    def take_circle(self, d: Stated, _b: int, _e: int, belongs: Belongs, _v: list[Stated]) -> None:
        """CIRCLE."""
        _level(d, 30)
        self.taken.out.append(Circle((_place(d[10]), _place(d[20])), _size(d[40]), *belongs))

    def take_arc(self, d: Stated, _b: int, _e: int, belongs: Belongs, _v: list[Stated]) -> None:
        """ARC."""
        _level(d, 30)
        piece = arcs.from_degrees((_place(d[10]), _place(d[20])), _size(d[40]), _place(d[50]), _place(d[51]))
        self.taken.out.append(Arc(*piece, *belongs))

    def take_lwpolyline(self, d: Stated, begin: int, end: int, belongs: Belongs, _v: list[Stated]) -> None:
        """LWPOLYLINE: vertices and bulges in file order."""
        _level(d, 38)
        codes, values = self.codes[begin:end], self.values[begin:end]
        rows: list[tuple[float, float, float]] = []
        for i, code in enumerate(codes):
            if code == 10:
                if codes[i + 1] != 20:
                    raise Unusual
                rows.append((_place(values[i]), _place(values[i + 1]), 0.0))
            elif code == 42:
                x, y, _ = rows[-1]
                rows[-1] = (x, y, _place(values[i]))
        add_polyline(self.taken, rows, bool(int(d.get(70, "0")) & 1), False, belongs)

    def take_polyline(self, d: Stated, _b: int, _e: int, belongs: Belongs, vertices: list[Stated]) -> None:
        """POLYLINE of the plane."""
        flags = int(d.get(70, "0"))
        if flags & ~(1 | 128):  # closed, and how its line type runs
            raise Unusual
        _level(d, 30)
        rows = []
        for v in vertices:
            if int(v.get(70, "0")) or (60 in v and int(v[60])):
                raise Unusual
            _level(v, 30)
            rows.append((_place(v[10]), _place(v[20]), _place(v.get(42, "0"))))
        add_polyline(self.taken, rows, bool(flags & 1), False, belongs)

    def take_text(self, d: Stated, _b: int, _e: int, belongs: Belongs, _v: list[Stated]) -> None:
        """TEXT; aligned text stands at its second point."""
        _level(d, 30, 31)
        across, up = int(d.get(72, "0")), int(d.get(73, "0"))
        at = (_place(d[10]), _place(d[20]))
        second = None
        if (across or up) and 11 in d:
            second = (_place(d[11]), _place(d[21]))
            if across not in SPREAD:
                at, second = second, None
        stands = (_decoded(d.get(1, "")), at, text_anchor(across, up), float(d[40]), float(d.get(50, "0")))
        add_text(self.taken, *stands, belongs, face_of(d.get(7, "")), second, SPREAD.get(across, ""))

    def take_mtext(self, d: Stated, begin: int, end: int, belongs: Belongs, _v: list[Stated]) -> None:
        """MTEXT that states its direction as an angle."""
        _level(d, 30)
        if 11 in d or int(d.get(71, "1")) not in range(1, 10):
            raise Unusual
        wording = "".join(self.values[i] for i in range(begin, end) if self.codes[i] in (1, 3))
        at = (_place(d[10]), _place(d[20]))
        add_text(
            self.taken,
            str(fast_plain_mtext(wording)),
            at,
            ATTACHED[int(d.get(71, "1")) - 1],
            float(d[40]),
            float(d.get(50, "0")),
            belongs,
            face_of(d.get(7, "")),
        )


def _decoded(text: str) -> str:
    """Return a text without its codes; most have none, and looking at every letter of theirs is what reading
    them costs."""
    return line_text(text) if "%" in text or "^" in text or "\r" in text else text


def _place(word: str) -> float:
    value = float(word)
    if not -FARTHEST <= value <= FARTHEST:
        raise Unusual
    return value + 0.0


def _size(word: str) -> float:
    value = float(word)
    if not 0.0 < value <= FARTHEST:
        raise Unusual
    return value


def _level(d: Stated, *codes: int) -> None:
    for code in codes:
        if code in d and float(d[code]) != 0.0:
            raise Unusual


_TAKERS: dict[str, Callable[[_Quick, Stated, int, int, Belongs, list[Stated]], None]] = {
    "LINE": _Quick.take_line,
    "CIRCLE": _Quick.take_circle,
    "ARC": _Quick.take_arc,
    "LWPOLYLINE": _Quick.take_lwpolyline,
    "POLYLINE": _Quick.take_polyline,
    "TEXT": _Quick.take_text,
    "MTEXT": _Quick.take_mtext,
}
