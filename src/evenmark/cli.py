"""The engine from a shell: ``check``, ``propose``, ``prove``, ``read`` and ``draw``.

Exit status: 0 when everything was checked, whatever the score; 2 with one line on standard error when a file
cannot be read or a rule set is not usable; 1 when some files of a batch could not be read.
"""

from __future__ import annotations

import argparse
import json
import logging
import sys
from collections.abc import Mapping
from dataclasses import replace
from pathlib import Path
from typing import get_args

from evenmark.core.dimensioning.proof import ProofTooLarge
from evenmark.core.dimensioning.proof_json import to_json as proof_json
from evenmark.core.drawing.model import Drawing
from evenmark.core.formats import UnreadableDrawing, read_file
from evenmark.core.formats.sniff import MOST_BYTES
from evenmark.core.linework.wording import number
from evenmark.core.marking import MarkSheet, RuleError, RuleSet, check_bytes, prepare
from evenmark.core.marking.costs import costs_of
from evenmark.core.marking.decisions import undecided
from evenmark.core.marking.flaws import to_json as flaws_json
from evenmark.core.marking.kinds.lettering import FIELDS
from evenmark.core.marking.marks_json import to_json, to_text
from evenmark.core.marking.model import POLICIES, Listing
from evenmark.core.marking.reading_json import reading
from evenmark.core.marking.rules_json import parse, proposal_json
from evenmark.drawing_cli import CannotDraw, add_parser
from evenmark.drawing_cli import run as draw

BROKE = "this drawing could not be checked ({}). Keep the file and report it; the others are not affected."
log = logging.getLogger(__name__)


class CannotRead(Exception):
    """A file named on the command line cannot be used; the message is for the person at the shell."""


_DECIDE = (
    'Decide with a rule set: "decided": {{"{0}": "drawing"}} changes the drawing to what the sheet says, '
    '"sheet" shows on the sheet what is drawn, "value" marks by the sheet\'s value.'
)
"""What to do about a dimension that contradicts."""


KEY_HELP = "the key: DXF, SVG or a document of steps"


def main(arguments: list[str] | None = None) -> int:
    """Run one command and return the exit status."""
    options = _parser().parse_args(arguments)
    try:
        status: int = options.run(options, _bytes) if options.run is draw else options.run(options)
    except (CannotRead, CannotDraw, RuleError) as why:
        print(f"even-mark: {why}", file=sys.stderr)
        return 2
    except BrokenPipeError:
        return 0
    return status


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="even-mark", description="Checks drawings against a key.")
    commands = parser.add_subparsers(required=True, metavar="check | propose | prove | read | draw")
    checking = commands.add_parser("check", help="compare attempts with a key")
    checking.add_argument("key", metavar="KEY", help=KEY_HELP)
    checking.add_argument("attempts", metavar="ATTEMPT", nargs="+", help="drawings to be checked")
    checking.add_argument("--rules", metavar="FILE", help="a rule set as JSON; without it the proposed one")
    checking.add_argument(
        "--or",
        metavar="KEY",
        dest="others",
        action="append",
        default=[],
        help="another accepted key",
    )
    checking.add_argument("--start", metavar="FILE", help="the start drawing that was given out: not marked")
    checking.add_argument(
        "--field",
        metavar="NAME=VALUE",
        action="append",
        default=[],
        help="text of the title block: name, group or date",
    )
    checking.add_argument("--placement", choices=POLICIES, help="overrides the rule set")
    checking.add_argument("--json", action="store_true", help="one JSON object a line, one line an attempt")
    checking.set_defaults(run=_check)
    proposing = commands.add_parser("propose", help="the checks an instructor would start from")
    proposing.add_argument("key", metavar="KEY", help=KEY_HELP)
    proposing.add_argument(
        "--by",
        choices=get_args(Listing),
        help="by the dimensions of the sheet (default where it is fully dimensioned), or by feature",
    )
    proposing.add_argument("--json", action="store_true", help="a rule set that `check --rules` takes")
    proposing.set_defaults(run=_propose)
    proving = commands.add_parser("prove", help="whether a key is fully dimensioned, nothing redundant")
    proving.add_argument("key", metavar="KEY", help=KEY_HELP)
    proving.add_argument(
        "--rules", metavar="FILE", help="a rule set as JSON: what dimensions measure, what is implied"
    )
    proving.add_argument("--json", action="store_true", help="the whole proof as JSON")
    proving.set_defaults(run=_prove)
    reading_ = commands.add_parser("read", help="what is understood of a file")
    reading_.add_argument("file", metavar="FILE", help="a drawing: DXF, SVG or a document of steps")
    reading_.add_argument("--json", action="store_true", help="the whole reading as JSON")
    reading_.set_defaults(run=_read)
    add_parser(commands)
    return parser


def _bytes(name: str, most: int = MOST_BYTES) -> bytes:
    path = Path(name)
    try:
        if path.is_dir():
            raise CannotRead(f"{name}: this is a folder. Name the files in it.")
        if path.stat().st_size > most:
            raise CannotRead(
                f"{name}: the file is larger than {most // 1048576} MB. Remove what does not belong to the "
                "drawing."
            )
        return path.read_bytes()
    except OSError as why:
        raise CannotRead(
            f"{name}: {(why.strerror or 'cannot be opened').lower()}. Check the name and try again."
        ) from why


def _drawing(name: str) -> Drawing:
    try:
        return read_file(_bytes(name))
    except UnreadableDrawing as why:
        raise CannotRead(f"{name}: {why.says}") from why


def _check(options: argparse.Namespace) -> int:
    rules = parse(_bytes(options.rules)) if options.rules else RuleSet()
    if options.placement:
        rules = replace(rules, placement=options.placement)
    start = _drawing(options.start) if options.start else None
    fields = dict(_field(word) for word in options.field)
    keys = [prepare(_drawing(options.key), rules, start=start)]
    # feature ids belong to one key, so that another is held by what is proposed for it
    keys += [
        prepare(_drawing(name), replace(rules, requirements=None, ties={}, taken={}, decided={}), start=start)
        for name in options.others
    ]
    for says in undecided(keys[0]):
        print(f"even-mark: {options.key}: {says}", file=sys.stderr)
    unread = 0
    for name in options.attempts:
        try:
            sheet = check_bytes(keys, _bytes(name), fields)
        except CannotRead as why:
            print(f"even-mark: {why}", file=sys.stderr)
            unread += 1
            continue
        except UnreadableDrawing as why:
            print(f"even-mark: {name}: {why.says}", file=sys.stderr)
            unread += 1
            continue
        except Exception as why:  # a drawing that breaks the engine costs no other its marks
            log.debug("the engine broke", exc_info=True)
            print(f"even-mark: {name}: {BROKE.format(type(why).__name__)}", file=sys.stderr)
            unread += 1
            continue
        if options.json:
            print(to_text(sheet, name), flush=True)
        else:
            print("\n".join(_report(name, sheet)), flush=True)
    if unread == len(options.attempts) == 1:
        return 2
    return 1 if unread else 0


def _field(word: str) -> tuple[str, str]:
    name, sign, value = word.partition("=")
    if not sign or name not in FIELDS:
        raise CannotRead(f"--field {word}: write NAME=VALUE with one of these names: {', '.join(FIELDS)}.")
    return name, value


def _print(data: Mapping[str, object]) -> None:
    print(json.dumps(data, ensure_ascii=False, allow_nan=False), flush=True)


def _report(name: str, sheet: MarkSheet) -> list[str]:
    lines = [f"{name}: {sheet.earned} of {sheet.possible}"]
    costs, _ = costs_of(to_json(sheet, name))
    lines += [
        f"  {cause.says} [{cause.code}; findings {', '.join(map(str, cause.explains))}; costs "
        f"{costs[cause.id]}]"
        for cause in sheet.causes
    ]
    for f in sheet.findings:
        if f.verdict != "met":
            about = " ".join(f.features) or f.layer or "drawing"
            lines.append(
                f"  {f.id:>4}  {f.kind:<12} {about:<10} asked {_said(f.expected):<18} measured "
                f"{_said(f.measured):<18} "
                f"{f.verdict:<8} {sheet.earned_for.get(f.id, 0)} of {sheet.possible_for.get(f.id, 0)}"
            )
    lines += [f"  note: {note.says}" for note in sheet.notes]
    return lines


def _said(value: object) -> str:
    if isinstance(value, float):
        return number(value, 6)
    if isinstance(value, tuple):
        return f"{number(value[0], 6)}, {number(value[1], 6)}"
    return "-" if value is None else str(value)


def _propose(options: argparse.Namespace) -> int:
    key = prepare(_drawing(options.key), RuleSet(listing=options.by))
    proposal = proposal_json(key)
    if options.json:
        _print(proposal)
        return 0
    for r in proposal["requirements"]:
        about = " ".join(r["features"]) or r["layer"] or "drawing"
        expected = r["expected"]
        said = _said(tuple(expected) if isinstance(expected, list) else expected)
        print(f"{r['id']:>5}  {r['kind']:<12} {about:<10} {said:<22} {r['marks']:>7}")
    return 0


def _prove(options: argparse.Namespace) -> int:
    rules = parse(_bytes(options.rules)) if options.rules else RuleSet()
    key = prepare(_drawing(options.key), replace(rules, requirements=None))
    try:
        proof = key.proof
    except ProofTooLarge as why:
        raise CannotRead(f"{options.key}: {why}") from why
    found = proof_json(
        proof,
        key.linework,
        name=options.key,
        unit=key.unit.symbol,
        views=key.rules.views or (),
        chosen=key.rules.decided,
    )
    if options.json:
        _print({**found, "flaws": flaws_json(key.flaws)})
        return 0
    print(f"{options.key}: {found['says']}")
    for size in found["sizes"]:
        print(f"  {size['number']:>4}  {size['figure']:<12} {size['of']}")
    for what in ("contradictions", "decided", "untied", "free", "twice"):
        for one in found[what]:
            print(f"  {one['says']}")
    if found["free"] and found["proposed"]:
        print("  These dimensions would complete it:")
        for size in found["proposed"]:
            print(f"        {size['figure']:<12} {size['of']}")
    if found["contradictions"]:
        first = found["contradictions"][0]["size"]
        print(f"  {_DECIDE.format(first)}")
    for flaw in key.flaws:
        print(f"  {flaw.says}")
    print(f"  Implied: {sum(t['on'] for t in found['taken'])} conditions; --json lists them.")
    return 0


def _read(options: argparse.Namespace) -> int:
    data = reading(_drawing(options.file), options.file, features=options.json)
    if options.json:
        _print(data)
        return 0
    counts = ", ".join(f"{n} {what.replace('_', ' ')}" for what, n in data["counts"].items() if n)
    print(
        f"{data['file']}: {data['written_as']}, unit {data['unit'] or 'not declared'}; "
        f"{counts or 'nothing drawn'}"
    )
    for layer in data["layers"]:
        weight = f", {layer['weight']:.2f} mm" if layer["weight"] is not None else ""
        off = "" if layer["shown"] else ", switched off"
        print(
            f"  layer {layer['name']}: {layer['features']} features, colour {layer['color']}, "
            f"{layer['line_type']}{weight}{off}"
        )
    for oddity in data["oddities"]:
        print(f"  {oddity['says']}")
    if data["refused"]:
        print(f"  {data['refused']['says']}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
