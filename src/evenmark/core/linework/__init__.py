"""Simplify: a Drawing becomes its canonical Linework."""

from evenmark.core.linework.model import Linework
from evenmark.core.linework.simplify import simplify

__all__ = ["Linework", "simplify"]
