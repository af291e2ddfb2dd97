"""The words and lists that pages share with the core, as a TypeScript module: `python -m evenmark.web.words
FILE`. Nothing of it is written twice."""

from __future__ import annotations

import json
import sys
from dataclasses import asdict
from pathlib import Path
from typing import Any

from evenmark.core.conventions.papers import ANSI, ISO
from evenmark.core.dimensioning.says import TAKEN_WORDS
from evenmark.core.drawing.roles import ROLES
from evenmark.core.linework.wording import FEATURE_WORDS
from evenmark.core.marking.charges import CHARGED
from evenmark.core.marking.kinds import MARKS_ITS_FEATURE, SENSES, TITLES
from evenmark.core.marking.model import Charges
from evenmark.core.marking.propose_sheet import PARTS
from evenmark.services.standing import OPEN, VERDICTS


def text() -> str:
    """Return the module as it is committed."""
    return "\n".join(
        [
            "/** Made by `python -m evenmark.web.words`; change the core, then run it again. */",
            _constant(
                "KIND_TITLES",
                TITLES,
                "What all checks of a kind are called together, in the order in which they are listed.",
            ),
            _constant(
                "MARKS_ITS_FEATURE",
                MARKS_ITS_FEATURE,
                "Kinds that are about one feature alone, so that missing them marks it.",
            ),
            _constant("LIST_PARTS", PARTS, "The parts of a list by the sheet."),
            _constant("TAKEN_WORDS", TAKEN_WORDS, "What is implied of some features, by kind."),
            _constant(
                "FEATURE_WORDS",
                FEATURE_WORDS,
                "What features are called, by the letter that their ids begin with, in the order of lists.",
            ),
            _constant("ROLES", ROLES, "What layers can be for."),
            _constant(
                "CHARGED_KINDS",
                (*sorted(CHARGED), SENSES),
                "Kinds that earn nothing and are charged, where an exercise charges.",
            ),
            _constant("CHARGES", asdict(Charges()), "What new exercises charge."),
            _constant("VERDICTS", VERDICTS, "Every verdict."),
            _constant("OPEN", OPEN, "Verdicts that cost marks."),
            _constant(
                "PAPERS",
                {"metric": list(ISO), "inch": list(ANSI)},
                "The papers that a sheet is printed on, smallest first.",
            ),
            "",
        ]
    )


def _constant(name: str, value: Any, says: str) -> str:
    return f"/** {says} */\nexport const {name} = {json.dumps(value, ensure_ascii=False, indent=2)} as const;"


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(text())
