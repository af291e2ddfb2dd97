"""Exact drawing in steps: sentences in, a drawing out (docs/formats/steps.md)."""
