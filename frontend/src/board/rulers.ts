/** Where a ruler has its marks, and what it says there. */
import type { Point, useView } from "../view";
import type { Pointed, View } from "./types";

export interface Tick {
  at: number;
  says: string;
  long: boolean;
}
const LEAST_PX = 9;
const SAID_PX = 46;

/** The least of 1, 2, 5 times a power of ten (parts of an inch on inch sheets) that is at least so long. */
export function roundStep(least: number, imperial: boolean): number {
  if (imperial && least < 1) return 2 ** Math.ceil(Math.log2(least));
  const power = 10 ** Math.floor(Math.log10(least));
  return ([1, 2, 5, 10].find((n) => n * power >= least * (1 - 1e-9)) ?? 10) * power;
}

function plain(value: number): string {
  const text = value.toFixed(6).replace(/\.?0+$/, "");
  return text === "-0" ? "0" : text;
}

export function ticks(
  view: Pick<ReturnType<typeof useView>, "fromScreen" | "toScreen" | "scale">,
  width: number,
  height: number,
  origin: Point,
  unit: string,
): { across: Tick[]; up: Tick[] } {
  if (width < 1 || height < 1) return { across: [], up: [] };
  const imperial = unit === "in" || unit === "ft";
  const step = roundStep(LEAST_PX / view.scale.value, imperial);
  const said = roundStep(SAID_PX / view.scale.value, imperial);
  const [left, top] = view.fromScreen(0, 0);
  const [right, bottom] = view.fromScreen(width, height);
  const one = (value: number, at: number): Tick => ({
    at,
    says: plain(value).replace("-", "−"),
    long: Math.abs(value / said - Math.round(value / said)) < 1e-6,
  });
  const across: Tick[] = [];
  for (let v = Math.ceil((left + origin[0]) / step) * step; v <= right + origin[0]; v += step)
    across.push(one(v, view.toScreen([v - origin[0], 0])[0]));
  const up: Tick[] = [];
  for (let v = Math.ceil((origin[1] - bottom) / step) * step; v <= origin[1] - top; v += step)
    up.push(one(v, view.toScreen([0, origin[1] - v])[1]));
  return { across: across.filter((t) => t.at > 40), up: up.filter((t) => t.at < height - 20) };
}

const MEASURES: Record<string, string> = { across: "horizontal", up: "vertical" };
/** What a measure is called on the pages. */
export const measureCalled = (name: string): string => MEASURES[name] ?? name;

/** The unit of a number that was told, by its name. */
export function unitOf(name: string, unit: string): string {
  if (name === "direction" || name === "angle") return "°";
  return name === "area" ? `${unit}²` : unit;
}

/** Where the pointer is, in numbers: as it is caught, else about. */
export function placeSaid(pointed: Pointed | null, at: Point | null, view: View | null): string {
  const caught = pointed?.choices[pointed.which]?.at;
  const place = caught ?? at;
  if (!place) return "";
  const [ox, oy] = view?.origin ?? [0, 0];
  const say = (v: number) => plain(Number(v.toFixed(3))).replace("-", "−");
  return `at ${caught ? "" : "≈"}${say(ox + place[0])}, ${say(oy - place[1])} · ${view?.unit ?? "mm"}`;
}
