/** The signs of the verdicts as pictures for grids with thousands of cells: a picture is drawn far sooner than a drawing. */
import type { Verdict } from "./api/client";
import { colour } from "./theme";

const PATHS: Record<Verdict, string> = {
  met: '<path d="M2 8h12M6.2 4v8M9.8 4v8"/>',
  near: '<path d="M2 9.5c2-5.5 4-5.5 6-1.5s4 4 6-1.5"/>',
  missed: '<path d="M4 4l8 8M12 4l-8 8"/>',
  absent: '<circle cx="8" cy="8" r="4.6"/>',
  follows: '<path d="M3 3v4a2 2 0 0 0 2 2h7M9 5.5l3.5 3.5L9 12.5"/>',
};
const COLOURS: Record<Verdict, string> = {
  met: "met",
  near: "near",
  missed: "pencil",
  absent: "pencil",
  follows: "follows",
};

/** Each sign as a value of a style, by the name `--sign-met` and so on. */
export const signs = (): Record<string, string> =>
  Object.fromEntries(
    (Object.keys(PATHS) as Verdict[]).map((verdict) => {
      const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 16 16" width="14" height="14" fill="none" stroke="${colour(COLOURS[verdict])}" stroke-width="2.2" stroke-linecap="round">${PATHS[verdict]}</svg>`;
      return [`--sign-${verdict}`, `url("data:image/svg+xml,${encodeURIComponent(svg)}")`];
    }),
  );
