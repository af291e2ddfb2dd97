"""The command line as it is documented: output, exit status, one line on standard error."""

from __future__ import annotations

import json
import subprocess
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest

from evenmark import cli
from evenmark.cli import main
from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.demo import parts
from evenmark.demo import slips as s
from tests.conftest import ROOT
from tests.dimensioned import across

LINK = parts.crank_link().drawing


@pytest.fixture
def files(tmp_path: Path) -> Path:
    (tmp_path / "key.dxf").write_bytes(write_dxf(LINK, Manner(polylines=True)))
    (tmp_path / "good.dxf").write_bytes(write_dxf(LINK, Manner(version="R12")))
    (tmp_path / "wrong.dxf").write_bytes(write_dxf(s.circle_scaled(1, 2)(LINK)))
    (tmp_path / "moved.dxf").write_bytes(write_dxf(LINK, Manner(shift=(12.4, -3.0))))
    (tmp_path / "broken.dxf").write_bytes(b"0\nSECTION\n2\nwhat\n")
    (tmp_path / "closed.dxf").write_bytes(b"AC1032" + bytes(100))
    return tmp_path


def run(files: Path, capsys: Any, *words: str) -> tuple[int, list[dict[str, Any]], str]:
    """Exit status, decoded lines, standard error."""
    full = [str(files / w) if w.endswith((".dxf", ".json")) else w for w in words]
    status = main(full)
    out = capsys.readouterr()
    return (
        status,
        [json.loads(row) for row in out.out.splitlines()] if "--json" in words else [{"text": out.out}],
        out.err,
    )


def test_check_prints_one_object_a_line(files: Path, capsys: Any) -> None:
    status, sheets, err = run(files, capsys, "check", "key.dxf", "good.dxf", "wrong.dxf", "--json")
    assert (status, err) == (0, "")
    assert [x["score"]["earned"] for x in sheets] == [100.0, pytest.approx(94.5, abs=0.5)]
    assert sheets[0]["attempt"] == str(files / "good.dxf")
    assert [c["code"] for c in sheets[1]["causes"]] == ["radius-for-diameter"]


def test_a_drawing_that_breaks_the_engine_costs_no_other_its_marks(
    files: Path, capsys: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    real, seen = cli.check_bytes, []

    def broken(keys: Any, data: bytes, fields: Any) -> Any:
        seen.append(data)
        if len(seen) == 2:
            raise KeyError("v1")
        return real(keys, data, fields)

    monkeypatch.setattr(cli, "check_bytes", broken)
    status, sheets, err = run(
        files, capsys, "check", "key.dxf", "good.dxf", "wrong.dxf", "moved.dxf", "--json"
    )
    assert (status, len(sheets)) == (1, 2)
    assert err.count("\n") == 1
    assert "wrong.dxf: this drawing could not be checked" in err


def test_placement_and_rules_from_the_command_line(files: Path, capsys: Any) -> None:
    _, as_drawn, _ = run(files, capsys, "check", "key.dxf", "moved.dxf", "--json")
    _, slid, _ = run(files, capsys, "check", "key.dxf", "moved.dxf", "--placement", "slide", "--json")
    assert [x[0]["score"]["earned"] for x in (as_drawn, slid)] == [80.0, 100.0]
    assert slid[0]["placement"]["shift"] == [-12.4, 3.0]
    _, proposed, _ = run(files, capsys, "propose", "key.dxf", "--json")
    rules = proposed[0]
    for r in rules["requirements"]:
        r["on"] = r["kind"] == "radius"
        r.pop("marks")
        r.pop("expected")
    (files / "rules.json").write_text(json.dumps(rules))
    status, only, _ = run(files, capsys, "check", "key.dxf", "wrong.dxf", "--rules", "rules.json", "--json")
    assert status == 0
    assert {f["kind"] for f in only[0]["findings"]} == {"radius"}
    assert sum(f["verdict"] == "met" for f in only[0]["findings"]) == 3
    assert only[0]["score"]["possible"] == 100.0


def test_a_proposal_is_a_rule_set(files: Path, capsys: Any) -> None:
    _, proposed, _ = run(files, capsys, "propose", "key.dxf", "--json")
    (files / "rules.json").write_text(json.dumps(proposed[0]))
    status, sheets, err = run(
        files, capsys, "check", "key.dxf", "good.dxf", "--rules", "rules.json", "--json"
    )
    assert (status, sheets[0]["score"]["earned"], err) == (0, 100.0, "")


@pytest.mark.parametrize(
    ("words", "status", "said"),
    [
        (("check", "key.dxf", "broken.dxf"), 2, "broken.dxf"),
        (("check", "key.dxf", "closed.dxf"), 2, "DXF"),
        (("check", "key.dxf", "nowhere.dxf"), 2, "nowhere.dxf"),
        (("check", "nowhere.dxf", "good.dxf"), 2, "nowhere.dxf"),
        (("check", "key.dxf", "good.dxf", "broken.dxf", "wrong.dxf"), 1, "broken.dxf"),
        (("check", "key.dxf", "broken.dxf", "closed.dxf"), 1, "closed.dxf"),
        (("check", "key.dxf", "good.dxf", "--rules", "key.dxf"), 2, "JSON"),
        (("read", "broken.dxf"), 2, "broken.dxf"),
        (("propose", "closed.dxf"), 2, "closed"),
    ],
)
def test_what_cannot_be_read_is_said_in_a_line(
    files: Path, capsys: Any, words: tuple[str, ...], status: int, said: str
) -> None:
    got, out, err = run(files, capsys, *words)
    assert got == status
    assert said in err
    assert all(line.startswith("even-mark: ") for line in err.splitlines())
    assert "Traceback" not in err
    if status == 1 and "good.dxf" in words:
        assert "good.dxf" in out[0]["text"]
        assert "wrong.dxf" in out[0]["text"]


def test_reports_for_people(files: Path, capsys: Any) -> None:
    _, check, _ = run(files, capsys, "check", "key.dxf", "wrong.dxf")
    assert "12 is the diameter asked for" in check[0]["text"]
    _, read, _ = run(files, capsys, "read", "key.dxf")
    assert "layer outline" in read[0]["text"]
    _, propose, _ = run(files, capsys, "propose", "key.dxf")
    assert "tangent" in propose[0]["text"]


def test_the_command_line_finds_what_the_pages_show(files: Path, capsys: Any) -> None:
    """The worker's engine on the same bytes gives the same mark sheet, finding by finding."""
    from evenmark.services.engine_work import mark

    for name in ("good.dxf", "wrong.dxf"):
        _, sheets, _ = run(files, capsys, "check", "key.dxf", name, "--json")
        key = (files / "key.dxf").read_bytes()
        marked = mark([key], {"version": 2}, (files / name).read_bytes(), name, {})
        assert json.loads(json.dumps(marked.marks)) == {**sheets[0], "attempt": name}


def test_another_key_a_start_drawing_and_fields(files: Path, capsys: Any) -> None:
    _, sheets, _ = run(files, capsys, "check", "wrong.dxf", "good.dxf", "--or", "key.dxf", "--json")
    assert sheets[0]["score"]["earned"] == 100
    _, given, _ = run(files, capsys, "check", "key.dxf", "good.dxf", "--start", "good.dxf", "--json")
    assert {f["kind"] for f in given[0]["findings"]} <= {
        "whole",
        "clean",
        "differs",
        "layer-style",
        "concentric",
        "closed",
    }
    status, _, err = run(files, capsys, "check", "key.dxf", "good.dxf", "--field", "nonsense")
    assert (status, "name, group, date" in err) == (2, True)


def test_read_as_json(files: Path, capsys: Any) -> None:
    status, data, _ = run(files, capsys, "read", "good.dxf", "--json")
    assert status == 0
    assert (data[0]["format"], data[0]["unit"], data[0]["written_as"]) == ("even-mark/reading", None, "R12")
    assert len(data[0]["features"]) > 10


def test_the_command_at_the_top_of_the_checkout(files: Path) -> None:
    done = subprocess.run(
        [str(ROOT / "even-mark"), "check", "key.dxf", "wrong.dxf", "--json"],
        cwd=files,
        capture_output=True,
        text=True,
        check=False,
    )
    assert done.returncode == 0, done.stderr
    assert json.loads(done.stdout)["attempt"] == "wrong.dxf"


def test_prove_says_what_a_sheet_says(files: Path, capsys: Any) -> None:
    link, plate = parts.crank_link(), parts.gate_outline()
    (files / "said.dxf").write_bytes(write_dxf(link.sheet))
    again = across((36.0, 42.0), (64.0, 42.0), at=(50.0, 32.0), line=(36.0, 30.0))
    (files / "twice.dxf").write_bytes(write_dxf(replace(plate.sheet, dimensions=(*plate.dimensions, again))))
    status, (proof,), err = run(files, capsys, "prove", "said.dxf", "--json")
    assert (status, err) == (0, "")
    assert (proof["format"], proof["complete"], proof["says"]) == (
        "even-mark/proof",
        True,
        "Fully dimensioned, nothing redundant.",
    )
    assert {s["figure"]: s["of"] for s in proof["sizes"]} == {
        "Ø28": "left hole",
        "82": "left hole to right hole, horizontal",
        "R24": "left round end",
        "Ø12": "right hole",
        "R13": "right round end",
    }
    _, (proof,), _ = run(files, capsys, "prove", "twice.dxf", "--json")
    assert [t["says"] for t in proof["twice"]] == ["One of 64, 36 and 28 follows from the others."]
    _, (proof,), _ = run(files, capsys, "prove", "key.dxf", "--json")
    assert proof["says"] == "No dimensions yet; 5 dimensions would fully dimension it."
    assert sorted(s["figure"] for s in proof["proposed"]) == ["82", "R13", "R24", "Ø12", "Ø28"]
    # what is implied is switched by the rule set
    (files / "rules.json").write_text(json.dumps({"taken": {"alike e2 k3 k4": False, "smooth e3 a2": False}}))
    status, (proof,), _ = run(files, capsys, "prove", "said.dxf", "--rules", "rules.json", "--json")
    assert (status, proof["complete"], len(proof["free"])) == (0, False, 1)
    assert [t["id"] for t in proof["taken"] if not t["on"]] == ["smooth e3 a2", "alike e2 k3 k4"]
    _, words, _ = run(files, capsys, "prove", "twice.dxf")
    assert "One of 64, 36 and 28 follows from the others." in words[0]["text"]
    status, _, err = run(files, capsys, "prove", "broken.dxf")
    assert status == 2
    assert len(err.splitlines()) == 1
