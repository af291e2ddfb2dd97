"""Lines of drawings: the dashes of line types, and the weights that files can state.

Dashes after ISO 128-2 (from memory) in mm of paper; weights are those of the published DXF reference, group
code 370.
"""

PATTERNS: dict[str, tuple[float, ...]] = {
    "dashed": (3.5, -1.5),
    "dotted": (0.0, -1.2),
    "chain": (12.0, -2.0, 1.0, -2.0),
    "double chain": (12.0, -2.0, 1.0, -2.0, 1.0, -2.0),
}
"""Dashes (positive), gaps (negative) and dots (zero) of one repeat."""
DASHES = {name: sum(map(abs, elements)) for name, elements in PATTERNS.items()}
"""How long one repeat is."""
_HUNDREDTHS = (
    0,
    5,
    9,
    13,
    15,
    18,
    20,
    25,
    30,
    35,
    40,
    50,
    53,
    60,
    70,
    80,
    90,
    100,
    106,
    120,
    140,
    158,
    200,
    211,
)
WEIGHTS = tuple(w / 100 for w in _HUNDREDTHS)
"""Weights, mm."""


def nearest_weight(weight: float) -> float:
    """Return the weight that can be stated and lies nearest.

    >>> nearest_weight(0.33)
    0.35
    """
    return min(WEIGHTS, key=lambda w: abs(w - weight))
