"""Points on segments: following a segment from cell to cell finds just what comparing everything finds."""

from __future__ import annotations

import numpy as np
import pytest

from evenmark.core.linework import near


@pytest.mark.parametrize("trial", range(24))
def test_cells_find_what_comparing_all_finds(trial: int, monkeypatch: pytest.MonkeyPatch) -> None:
    rng = np.random.default_rng(trial)
    n, m = rng.integers(20, 200, 2)
    starts, ends = rng.uniform(0, 100, (m, 2)), rng.uniform(0, 100, (m, 2))
    if trial % 3 == 0:
        ends[: m // 2, 1] = starts[: m // 2, 1]  # level
    if trial % 4 == 0:
        ends[m // 2 :, 0] = starts[m // 2 :, 0]  # plumb
    on = rng.integers(0, m, n)
    points = starts[on] + (ends - starts)[on] * rng.uniform(-0.1, 1.1, n)[:, None]
    points[: n // 4] = rng.uniform(0, 100, (n // 4, 2))
    if trial % 5 == 0:
        points[:, 1] = starts[0, 1]  # all on one line
    reach = (1e-3, 1e-6, 0.5)[trial % 3]

    def found(pairs_at_most: int, chunk: int) -> list[tuple[int, int]]:
        monkeypatch.setattr(near, "_MANY_PAIRS", pairs_at_most)
        monkeypatch.setattr(near, "_CHUNK", chunk)
        p, s = near.on_segments(points, starts, ends, reach)
        return sorted(zip(p.tolist(), s.tolist(), strict=True))

    assert found(0, (40, 1000, 2_000_000)[trial % 3]) == found(10**12, 2_000_000)
