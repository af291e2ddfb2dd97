"""The page of typical slips says what the engine says."""

from __future__ import annotations

from scripts.slips_page import DOCS, PAGE, PICTURES, page


def test_the_page_of_typical_slips_is_what_the_engine_says() -> None:
    text, pictures = page()
    assert (DOCS / PAGE).read_text() == text, "python -m scripts.slips_page writes it anew"
    kept = {p.name: p.read_bytes() for p in (DOCS / PICTURES).iterdir()}
    assert kept == pictures, "python -m scripts.slips_page writes them anew"
    assert text.count("![") == 21  # the right drawing, and twenty slips
