"""Key, rule set and attempt in; a mark sheet out."""

from evenmark.core.marking.engine import Key, check, check_any, check_bytes, prepare
from evenmark.core.marking.model import MarkSheet, Requirement, RuleError, RuleSet

__all__ = [
    "Key",
    "MarkSheet",
    "Requirement",
    "RuleError",
    "RuleSet",
    "check",
    "check_any",
    "check_bytes",
    "prepare",
]
