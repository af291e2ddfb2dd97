/** Where numbered balloons stand: outward from what they point at, apart from each other, inside the sheet. */
import type { Point } from "./view";

export interface Spot {
  id: number;
  at: Point;
}
export interface Placed extends Spot {
  stand: Point;
}

const REACH = 42;
const APART = 31;
const EDGE = 18;
const ROUNDS = 60;

export function placeBalloons(
  spots: readonly Spot[],
  center: Point,
  width: number,
  height: number,
): Placed[] {
  const placed = spots.map((s, i) => {
    const dx = s.at[0] - center[0];
    const dy = s.at[1] - center[1];
    const far = Math.hypot(dx, dy);
    const angle = far > 4 ? Math.atan2(dy, dx) : i * 2.4;
    return {
      ...s,
      stand: [s.at[0] + Math.cos(angle) * REACH, s.at[1] + Math.sin(angle) * REACH] as [number, number],
    };
  });
  for (let round = 0; round < ROUNDS; round++) {
    let moved = false;
    placed.forEach((p, i) => {
      placed.slice(i + 1).forEach((q, j) => {
        const a = p.stand;
        const b = q.stand;
        let dx = b[0] - a[0];
        let dy = b[1] - a[1];
        const d = Math.hypot(dx, dy);
        if (d >= APART) return;
        if (d < 0.01) [dx, dy] = [Math.cos(i + j), Math.sin(i + j)];
        const push = (APART - d) / 2 / Math.max(d, 1);
        a[0] -= dx * push;
        a[1] -= dy * push;
        b[0] += dx * push;
        b[1] += dy * push;
        moved = true;
      });
    });
    for (const p of placed) {
      p.stand[0] = Math.min(Math.max(p.stand[0], EDGE), Math.max(width - EDGE, EDGE));
      p.stand[1] = Math.min(Math.max(p.stand[1], EDGE), Math.max(height - EDGE, EDGE));
    }
    if (!moved) break;
  }
  return placed;
}
