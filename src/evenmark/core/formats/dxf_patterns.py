"""The dashes (positive), gaps (negative) and dots (zero) of line types as they are written, in drawing
units."""

PATTERNS: dict[str, tuple[float, ...]] = {
    "dashed": (3.5, -1.5),
    "dotted": (0.0, -1.2),
    "chain": (12.0, -2.0, 1.0, -2.0),
    "double chain": (12.0, -2.0, 1.0, -2.0, 1.0, -2.0),
}
