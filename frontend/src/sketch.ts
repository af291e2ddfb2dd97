/** Where the marks of a sketch lie on the screen: geometry comes from the server, only sizes of lettering and offsets are set here. */
import type { Schemas } from "./api/client";
import type { Point } from "./view";

export type SketchMark = Schemas["SketchMark"];
export interface DrawnMark {
  tone: "asked" | "drawn";
  /** Lines without heads. */
  thin: string;
  /** Lines that end in an arrowhead. */
  headed: string[];
  says: string;
  at: Point;
  anchor: "start" | "middle" | "end";
}

const OFF = { drawn: 26, asked: 62 } as const;
const TURN = { drawn: 34, asked: 52 } as const;

const pair = (p: Point) => `${p[0].toFixed(2)} ${p[1].toFixed(2)}`;
const path = (a: Point, b: Point) => `M${pair(a)}L${pair(b)}`;
const along = (a: Point, b: Point, by: number): Point => [
  a[0] + (b[0] - a[0]) * by,
  a[1] + (b[1] - a[1]) * by,
];
const onCircle = (c: Point, r: number, deg: number): Point => {
  const rad = (deg * Math.PI) / 180;
  return [c[0] + r * Math.cos(rad), c[1] - r * Math.sin(rad)];
};

/** Returns a mark as it is drawn; `middle` is the middle of the drawing on the screen, from which spans stand away. */
export function drawnMark(
  mark: SketchMark,
  toScreen: (p: Point) => Point,
  scale: number,
  middle: Point,
): DrawnMark {
  const a = toScreen(mark.a);
  const base = {
    tone: mark.tone,
    thin: "",
    headed: [] as string[],
    says: mark.says,
    at: a,
    anchor: "middle" as const,
  };
  if (mark.as === "back") return { ...base, tone: "drawn", headed: [path(a, toScreen(mark.b))] };
  if (mark.as === "span") return span(base, a, toScreen(mark.b), middle);
  if (mark.as === "reach") {
    const rim = onCircle(a, mark.b[0] * scale, mark.b[1]);
    const left = rim[0] < a[0];
    return {
      ...base,
      headed: [path(a, rim)],
      at: [rim[0] + (left ? -8 : 8), rim[1] - 4],
      anchor: left ? "end" : "start",
    };
  }
  const [start, sweep] = mark.b;
  const r = TURN[mark.tone];
  const end = onCircle(a, r, start + sweep);
  const arc = `M${pair(onCircle(a, r, start))}A${r} ${r} 0 ${sweep > 180 ? 1 : 0} 0 ${pair(end)}`;
  const legs = path(a, onCircle(a, r + 16, start)) + path(a, onCircle(a, r + 16, start + sweep));
  const at = onCircle(a, r + 14, start + sweep / 2);
  return { ...base, thin: legs, headed: [arc], at: [at[0], at[1] + 4], anchor: "start" };
}

function span(base: DrawnMark, a: Point, b: Point, middle: Point): DrawnMark {
  const far = Math.hypot(b[0] - a[0], b[1] - a[1]);
  if (far < 1) return { ...base, thin: "", headed: [] };
  let n: Point = [-(b[1] - a[1]) / far, (b[0] - a[0]) / far];
  const m = along(a, b, 0.5);
  if ((m[0] - middle[0]) * n[0] + (m[1] - middle[1]) * n[1] < 0) n = [-n[0], -n[1]];
  const off = OFF[base.tone];
  const out = (p: Point, by: number): Point => [p[0] + n[0] * by, p[1] + n[1] * by];
  const [p, q] = [out(a, off), out(b, off)];
  const center = along(p, q, 0.5);
  const beside = Math.abs(n[0]) > 0.5;
  return {
    ...base,
    thin: path(out(a, 5), out(a, off + 5)) + path(out(b, 5), out(b, off + 5)),
    headed: [path(center, p), path(center, q)],
    at: [center[0] + n[0] * (beside ? 5 : 2), center[1] + n[1] * 2 + 4],
    anchor: beside ? (n[0] < 0 ? "end" : "start") : "middle",
  };
}
