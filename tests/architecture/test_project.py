"""Tests about the project itself: docs for every kind, cause and verdict; no host names; files that can be
read in one sitting."""

from __future__ import annotations

import ast
import doctest
import importlib
import io
import re
import subprocess
import tokenize

import pytest

from evenmark.core.marking.kinds import KINDS
from evenmark.core.marking.slips.records import SLIPS
from tests.conftest import ROOT

TRACKED = subprocess.run(
    ["git", "ls-files"], cwd=ROOT, capture_output=True, text=True, check=False
).stdout.split()


def _read(name: str) -> str:
    return (ROOT / name).read_text(errors="replace")


@pytest.mark.parametrize("kind", sorted(KINDS))
def test_every_requirement_kind_is_documented(kind: str) -> None:
    assert f"| `{kind}` |" in _read("docs/formats/rules.md")


@pytest.mark.parametrize("code", sorted(SLIPS))
def test_every_cause_is_documented(code: str) -> None:
    assert f"| `{code}` | {SLIPS[code].means} |" in _read("docs/formats/marks.md")


def test_the_tables_name_nothing_that_is_not_there() -> None:
    kinds = set(re.findall(r"^\| `([a-z-]+)` \|", _read("docs/formats/rules.md").split("| kind |")[1], re.M))
    causes = set(
        re.findall(r"^\| `([a-z-]+)` \|", _read("docs/formats/marks.md").split("| cause |")[1], re.M)
    )
    assert (kinds, causes) == (set(KINDS), set(SLIPS))


def test_every_setting_of_the_start_command_is_documented() -> None:
    options = set(re.findall(r'add_argument\(\s*"(--[a-z-]+)"', _read("scripts/run.py")))
    assert len(options) >= 5
    assert {o for o in options if o not in _read("docs/operations.md")} == set()


def test_lock_files_name_no_host() -> None:
    for name in TRACKED:
        if re.search(r"(lock|requirements|\.npmrc)", name):
            assert not re.search(
                r'"resolved": "http|^source = .*http|--(extra-)?index-url', _read(name), re.M
            ), name


def test_nothing_is_loaded_from_elsewhere() -> None:
    """Pages load scripts, styles and fonts from their own server alone."""
    for name in TRACKED:
        if (
            name.startswith("frontend/")
            and name.endswith((".vue", ".ts", ".css", ".html"))
            and "generated" not in name
        ):
            found = re.findall(r"https?://(?!127\.0\.0\.1|www\.w3\.org)[\w.]+", _read(name))
            assert found == [], name


def test_docs_link_to_what_is_there() -> None:
    for name in TRACKED:
        if name.endswith(".md"):
            folder = (ROOT / name).parent
            for target in re.findall(r"\]\((?!http|#)([^)#]+)", _read(name)):
                assert (folder / target).exists(), f"{name} links to {target}"


def test_what_the_code_cites_is_there() -> None:
    """A page of the docs that a docstring or comment names, and the heading behind it where one is named."""
    pages = {
        p.name: p for folder in ("docs", "docs/design", "docs/formats") for p in (ROOT / folder).glob("*.md")
    }
    cited = re.compile(r"(?<![\w/`])((?:docs/[a-z/]+)?[a-z]+\.md)(?:, ([A-Z][a-z]+))?")
    seen = 0
    for name in TRACKED:
        if not name.endswith((".py", ".ts", ".vue", ".sh")):
            continue
        for page, heading in cited.findall(_read(name)):
            found = ROOT / page if "/" in page else pages.get(page)
            assert found is not None, f"{name} cites {page}"
            assert found.exists(), f"{name} cites {page}"
            assert not heading or re.search(rf"^#+ .*{heading}|\*\*{heading}", found.read_text(), re.M), (
                name,
                page,
                heading,
            )
            seen += 1
    assert seen > 40


def test_files_can_be_read_in_one_sitting() -> None:
    """Usually under 300 lines; a longer one is listed with its reason."""
    longer = {
        "src/evenmark/core/dimensioning/proof.py": "the proof from equations to what is free",
        "src/evenmark/core/dimensioning/implied.py": "one function a kind of what is implied",
        "src/evenmark/core/linework/model.py": "one value for each kind of feature",
        "src/evenmark/core/formats/dxf_write.py": "one pen for every manner",
        "src/evenmark/core/marking/slips/numbers.py": "one function a slip of a typed number",
        "src/evenmark/demo/parts.py": "one function a part",
        "src/evenmark/demo/load.py": "the demo as one table",
        "src/evenmark/core/marking/align.py": "the alignment from sequences to pairs",
        "scripts/run.py": "the start command from end to end",
        "frontend/src/pages/MarkingPage.vue": "the marking place, with its keys",
        "frontend/src/board/types.ts": "written by evenmark.web.board_types",
    }
    for name in TRACKED:
        code = (
            name.endswith((".py", ".vue", ".ts"))
            and not name.startswith("tests/")
            and "generated" not in name
        )
        if code and _read(name).count("\n") > 345:
            assert name in longer, name


def test_every_small_number_that_compares_stands_in_the_tolerance_module() -> None:
    """A tolerance that is written elsewhere is one that nobody finds again. Docstrings may show small
    numbers."""
    found = []
    for name in TRACKED:
        if (
            not name.startswith("src/evenmark/core/")
            or name.endswith("tolerance.py")
            or not name.endswith(".py")
        ):
            continue
        for token in tokenize.generate_tokens(io.StringIO(_read(name)).readline):
            if token.type == tokenize.NUMBER and re.search(r"e-\d|^0?\.00\d", token.string, re.I):
                found.append(f"{name}:{token.start[0]} {token.string}")
    allowed = {"src/evenmark/core/geometry/units.py"}  # the size of a micrometre
    assert [f for f in found if f.split(":")[0] not in allowed] == []


PAGES = [n for n in TRACKED if n.startswith("frontend/src/") and "generated" not in n]


def test_colours_are_those_of_the_theme() -> None:
    """One that is written elsewhere does not change with it."""
    found = [
        f"{name}: {m[0]}"
        for name in PAGES
        if name.endswith((".vue", ".ts"))
        for m in re.finditer(r"(?<![\w&/])#(?:[0-9a-fA-F]{3}){1,2}\b|\brgba?\(|\bhsla?\(", _read(name))
    ]
    assert found == []


def test_names_of_answers_that_are_kept_stand_in_one_table() -> None:
    own = [n for n in PAGES if re.search(r"query(?:Key|Data)\b.*\[\s*\"|QueryData\(\s*\[", _read(n))]
    assert own == []


SHARES = {
    "PIXEL": "how large a dot of the screen is, until the page says",
    "ENOUGH": "what share of a drawing has to agree for its place to be found",
    "SCALES": "factors between units",
    "MOST_OF_ALL": "what share of a drawing is nearly all of it",
    "LOW_SHARE": "how far centre lines run past, as shares of what they run past",
    "WIDTH_HEIGHTS": "how wide letters are",
    "DESCENDER_HEIGHTS": "how far letters hang below their line",
    "WHOLE_SHARE": "shares of the marks",
    "beside_absent": "a share of the marks",
    "_JOINT": "weights of a list by the sheet",
    "LEAST_MARKS": "marks",
}
"""Small numbers of the core that are no tolerance, by what they are called."""


def _is_small(value: object) -> bool:
    return isinstance(value, float) and 0.0 < abs(value) < 1.0 and value != 0.5


@pytest.mark.parametrize("package", ["geometry", "linework", "marking", "dimensioning", "construct", "board"])
def test_no_number_below_one_stands_beside_a_length_or_an_angle(package: str) -> None:
    """Halves apart. Those of a series, of units and of line weights are no tolerances."""
    spared = {"deterministic.py", "units.py", "layers.py", "tolerance.py", "whole.py"}
    found = []
    for path in sorted((ROOT / "src/evenmark/core" / package).rglob("*.py")):
        if path.name in spared:
            continue
        for top in ast.walk(ast.parse(path.read_text())):
            if not isinstance(top, ast.Assign | ast.AnnAssign | ast.FunctionDef | ast.Lambda):
                continue
            targets = getattr(top, "targets", [getattr(top, "target", None)])
            names = {n.id for t in targets if t is not None for n in ast.walk(t) if isinstance(n, ast.Name)}
            if names & SHARES.keys():
                continue
            found += [
                f"{path.name}:{n.lineno} {n.value}"
                for n in ast.walk(top)
                if isinstance(n, ast.Constant) and _is_small(n.value)
            ]
    assert found == []


@pytest.mark.parametrize("name", [n for n in TRACKED if n.startswith("src/evenmark/") and n.endswith(".py")])
def test_examples_in_docstrings_hold(name: str) -> None:
    if ">>>" not in _read(name):
        return
    module = importlib.import_module(name.removeprefix("src/").removesuffix(".py").replace("/", "."))
    failed, tried = doctest.testmod(module)
    assert tried
    assert failed == 0
