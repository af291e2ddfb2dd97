"""What a board is asked and answers, for the page and for people: `python -m evenmark.web.board_types FILE
PAGE` writes the TypeScript types and the table of docs/formats/board.md. Nothing of it is written twice."""

from __future__ import annotations

import ast
import re
import sys
from collections.abc import Iterator
from dataclasses import MISSING, Field, fields
from pathlib import Path
from typing import Any, ForwardRef

from evenmark.core.board import answers
from evenmark.core.board.session import CALLS, TRIED
from evenmark.core.construct.document import KeptDocument, KeptLine
from evenmark.core.sheet.frame import SceneText

_MADE_BY = "Made by `python -m evenmark.web.board_types`; change the core, then run it again."
_BEGIN, _END = "<!-- calls -->\n", "<!-- /calls -->\n"
_NAMES = {
    "str": "string",
    "int": "number",
    "float": "number",
    "bool": "boolean",
    "None": "null",
    "ScenePoint": "Point",
    "SceneBox": "[number, number, number, number]",
    "ItemKind": "string",
    # what is asked
    "Says": "string",
    "Name": "string",
    "Short": "string",
    "Word": "string",
    "Text": "string",
    "StepId": "number",
    "MaybeStep": "number | null",
    "MaybeWhole": "number | null",
    "Number": "number",
    "Switch": "boolean",
    "Steps": "number[]",
    "Names": "string[]",
    "Edits": "Edit[]",
    "Line": "KeptLine | null",
    "Unread": "unknown",
}


def _types() -> list[type]:
    """Return the types of answers, what they are made of first."""
    own = [t for t in vars(answers).values() if isinstance(t, type) and t.__module__ == answers.__name__]
    return [SceneText, KeptLine, KeptDocument, *own]


def _written(node: ast.expr) -> str:
    """Return a type as TypeScript writes it."""
    if isinstance(node, ast.Constant):
        return f'"{node.value}"' if isinstance(node.value, str) else "null"
    if isinstance(node, ast.Name):
        return _NAMES.get(node.id, node.id)
    if isinstance(node, ast.BinOp):
        return f"{_written(node.left)} | {_written(node.right)}"
    assert isinstance(node, ast.Subscript)
    assert isinstance(node.value, ast.Name)
    parts = node.slice.elts if isinstance(node.slice, ast.Tuple) else [node.slice]
    if node.value.id == "Literal":
        return " | ".join(map(_written, parts))
    if node.value.id == "Annotated":
        return _written(parts[0])
    if node.value.id == "list":
        return f"{_written(parts[0])}[]"
    if node.value.id == "Mapping":
        return "object"
    assert node.value.id == "tuple"
    if len(parts) == 2 and isinstance(parts[1], ast.Constant) and parts[1].value is ...:
        return f"{_written(parts[0])}[]"
    return f"[{', '.join(map(_written, parts))}]"


def _hint(hint: Any) -> ast.expr:
    return ast.parse(hint.__forward_arg__ if isinstance(hint, ForwardRef) else str(hint), mode="eval").body


def _one(kind: type) -> str:
    """Return one type of an answer."""
    rows = []
    for name, hint in kind.__annotations__.items():
        node = _hint(hint)
        may_lack = isinstance(node, ast.Subscript) and ast.unparse(node.value) == "NotRequired"
        if may_lack:
            assert isinstance(node, ast.Subscript)
            node = node.slice
        rows.append(f"  {name}{'?' if may_lack else ''}: {_written(node)};")
    return f"/** {_plain(kind)} */\nexport type {kind.__name__} = {{\n" + "\n".join(rows) + "\n};"


def _plain(kind: object) -> str:
    """Return what a type or call says of itself, in one line."""
    return re.sub(r"``([^`]*)``", r"`\1`", " ".join((kind.__doc__ or "").split()))


def _asks(kind: type) -> str:
    rows = "; ".join(f"{f.name}{'' if f.default is MISSING else '?'}: {_asked(f)}" for f in fields(kind))
    return f"{{ {rows} }}" if rows else "object"


def _asked(f: Field[Any]) -> str:
    found = _written(_hint(f.type))
    return f"{found}" if f.default is not None or "null" in found else f"{found} | null"


def _answer(name: str) -> str:
    return str(CALLS[name].answer.__annotations__["return"])


def _interfaces() -> Iterator[str]:
    asks = []
    for name, call in CALLS.items():
        more = "".join(f" & Partial<Asks[{other!r}]>" for other in TRIED) if name == "try" else ""
        asks.append(f"  {name}: {_asks(call.asks)}{more};".replace("'", '"'))
    yield "/** What each call takes. */\nexport interface Asks {\n" + "\n".join(asks) + "\n}"
    given = [f"  {name}: {_answer(name)};" for name in CALLS]
    yield "/** What each call answers. */\nexport interface Answers {\n" + "\n".join(given) + "\n}"
    yield "export type Call = keyof Answers;"


def text() -> str:
    """Return the module as it is committed, but for its line ends."""
    head = f'/** {_MADE_BY} */\nimport type {{ Point }} from "../view";\n'
    return "\n".join([head, *map(_one, _types()), *_interfaces(), ""])


def table() -> str:
    """Return the table of the calls."""
    rows = ["| call | takes | answers | |", "|---|---|---|---|"]
    for name, call in CALLS.items():
        takes = ", ".join(f"`{f.name}`" for f in fields(call.asks))
        rows.append(f"| `{name}` | {takes} | {_answer(name)} | {_plain(call.asks)} |")
    rows += ["", "| answer | | fields |", "|---|---|---|"]
    for kind in _types():
        rows.append(
            f"| {kind.__name__} | {_plain(kind)} | {', '.join(f'`{n}`' for n in kind.__annotations__)} |"
        )
    return "\n".join(rows) + "\n"


def with_table(page: str) -> str:
    """Return the page of docs with its table made anew."""
    begin, end = page.index(_BEGIN) + len(_BEGIN), page.index(_END)
    return page[:begin] + table() + page[end:]


if __name__ == "__main__":
    types, page = map(Path, sys.argv[1:3])
    types.write_text(text())
    page.write_text(with_table(page.read_text()))
