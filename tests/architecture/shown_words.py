"""Strings that people read, as they stand in the code: of Python, of the pages, of docs."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path
from typing import NamedTuple

from tests.conftest import ROOT

REFUSALS = {
    "Broken", "Busy", "Crowded", "DocumentError", "GivenError", "LayerError", "NoRoom", "NotAllowed",
    "NotAsked", "NotDone", "NotSignedIn", "NotSteps", "NotThere", "NotUsable", "NumberError", "Outdated",
    "ProofTooLarge", "RuleError", "StoredError", "TooLarge", "TooOften", "Unreadable", "UnreadableDrawing",
    "UnusableArchive",
}  # fmt: skip
"""Errors whose text is shown as it is."""
_TAG = re.compile(r'<!--.*?-->|</?[A-Za-z][^<>"]*(?:"[^"]*"[^<>"]*)*>', re.DOTALL)
_ATTRIBUTE = re.compile(r'([:@\w.-]+)="([^"]*)"')
_SHOWN_ATTRIBUTES = (
    "aria-label",
    "label",
    "title",
    "placeholder",
    "word",
    "says",
    "alt",
    "one",
    "many",
    "does",
    "doing",
)
_QUOTED = re.compile(r"'((?:[^'\\]|\\.)*)'|`([^`]*)`")
_STRING = re.compile(r'"((?:[^"\\\n]|\\.)*)"|`([^`]*)`')
_TEMPLATE = re.compile(r"^<template>\n(.*)^</template>", re.DOTALL | re.MULTILINE)


class Shown(NamedTuple):
    """A string, where it stands, and by which error it is said, if by one."""

    path: str
    line: int
    text: str
    error: str = ""

    @property
    def prose(self) -> bool:
        """Whether it is words: more than one, or one with a capital."""
        if re.search(r"[<\\]|^(select|insert|update|delete|with|from)\s", self.text):
            return False
        several = re.search(r"[A-Za-z}] [A-Za-z{(“]", self.text)
        return bool(several or re.fullmatch(r"[A-Z][a-z]+", self.text))


def of_python(path: Path) -> Iterator[Shown]:
    """Yield the strings of a module, without its docstrings; of formatted ones what is filled in is
    ``{}``."""
    tree = ast.parse(path.read_text())
    name = str(path.relative_to(ROOT))
    passed: set[int] = set()
    errors: dict[int, str] = {}
    for node in ast.walk(tree):
        if isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant):
            passed.add(id(node.value))
        if isinstance(node, ast.JoinedStr):
            passed.update(
                id(inner) for v in node.values for inner in ast.walk(v) if isinstance(inner, ast.Constant)
            )
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.args:
            errors[id(node.args[0])] = node.func.id
    for node in ast.walk(tree):
        if isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in passed:
            yield Shown(name, node.lineno, node.value, errors.get(id(node), ""))
        elif isinstance(node, ast.JoinedStr):
            text = "".join(str(v.value) if isinstance(v, ast.Constant) else "{}" for v in node.values)
            yield Shown(name, node.lineno, text, errors.get(id(node), ""))


def of_page(path: Path) -> Iterator[Shown]:
    """Yield what a component or module of the pages shows: text between tags, attributes that are read,
    strings of scripts; what is filled in is ``{}``."""
    source, name = path.read_text(), str(path.relative_to(ROOT))
    found = _TEMPLATE.search(source)
    if found:
        body, first = found.group(1), source[: found.start(1)].count("\n") + 1
        for tag in _TAG.finditer(body):
            line = first + body[: tag.start()].count("\n")
            for attribute, value in _ATTRIBUTE.findall(tag.group()):
                if attribute in _SHOWN_ATTRIBUTES:
                    yield Shown(name, line, value)
                elif attribute.lstrip(":") in _SHOWN_ATTRIBUTES:
                    yield from (Shown(name, line, _filled(a or b)) for a, b in _QUOTED.findall(value))
        text = _TAG.sub(lambda t: "\0" + "\n" * t.group().count("\n"), body)
        for part in re.finditer(r"[^\0]+", text):
            line = first + text[: part.start()].count("\n")
            for inner in re.findall(r"\{\{(.*?)\}\}", part.group(), re.DOTALL):
                yield from (Shown(name, line, _filled(a or b)) for a, b in _STRING.findall(inner))
            said = " ".join(re.sub(r"\{\{.*?\}\}", "{}", part.group(), flags=re.DOTALL).split())
            if said:
                yield Shown(name, line, said)
    scripts = (
        re.findall(r"<script[^>]*>\n(.*?)</script>", source, re.DOTALL) if path.suffix == ".vue" else [source]
    )
    for script in scripts:
        first = source[: source.index(script)].count("\n") + 1
        code = re.sub(
            r"/\*.*?\*/|(?m:(?<![:\"'`])//.*$)",
            lambda c: "\n" * c.group().count("\n"),
            script,
            flags=re.DOTALL,
        )
        code = re.sub(r"(?m)^(import|export) .*? from .*$|^} from .*$", "", code)
        for string in _STRING.finditer(code):
            text = _filled(string.group(1) or string.group(2) or "")
            yield Shown(name, first + code[: string.start()].count("\n"), text)


def _filled(template: str) -> str:
    return re.sub(r"\$\{[^{}]*(\{[^{}]*\}[^{}]*)*\}", "{}", template)


def everything() -> list[Shown]:
    """Return all strings that may be shown, of the product and of its demo."""
    python = [p for p in sorted((ROOT / "src").glob("**/*.py")) if "migrations" not in p.parts]
    pages = [
        p
        for p in sorted((ROOT / "frontend" / "src").glob("**/*"))
        if p.suffix in (".vue", ".ts") and p.name not in ("generated.d.ts", "types.ts")
    ]
    return [*(s for p in python for s in of_python(p)), *(s for p in pages for s in of_page(p))]
