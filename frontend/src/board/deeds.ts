/** What is said of how a drawing was made: in how long, with how many corrections, and where somebody paused. */
import type { Schemas } from "../api/client";
import { many } from "../counted";

type Deed = Schemas["MadeAct"];
const PAUSE_MIN = 5;
/** The minutes before each act, since the one before it. */
const gaps = (deeds: readonly Deed[]) =>
  deeds.map((deed, n) => (Date.parse(deed.at) - Date.parse(deeds[n - 1]?.at ?? deed.at)) / 60_000);

export function lasted(minutes: number): string {
  if (minutes < 1) return "less than a minute";
  if (minutes < 90) return many(Math.round(minutes), "minute");
  if (minutes < 36 * 60) return many(Math.round(minutes / 60), "hour");
  return many(Math.round(minutes / 1440), "day");
}

/** How long somebody paused before an act, where it was long: by the place of the act. */
export function pauses(deeds: readonly Deed[]): ReadonlyMap<number, string> {
  const long = gaps(deeds).map((minutes, n) => [n, minutes] as const);
  return new Map(long.filter(([, m]) => m >= PAUSE_MIN).map(([n, m]) => [n, lasted(m)]));
}

/** In a sentence: steps, how long was drawn without the pauses, what was corrected, deleted and taken back. */
export function drawnIn(made: Schemas["MadeOut"]): string {
  const deeds = made.acts;
  const last = deeds.at(-1);
  if (!last) return "Nothing was drawn on the board.";
  const minutes = gaps(deeds).reduce((sum, gap) => (gap < PAUSE_MIN ? sum + gap : sum), 0);
  const times = 1 + pauses(deeds).size;
  const count = (kind: Deed["kind"]) => deeds.filter((d) => d.kind === kind).length;
  const said = [
    `${many(last.length, "step")}, drawn in ${lasted(minutes)}${times > 1 ? ` in ${times} sittings` : ""}`,
    count("corrected") ? many(count("corrected"), "correction") : "",
    count("away") ? `${many(count("away"), "step")} deleted` : "",
    count("back") ? `${count("back")} undone` : "",
  ];
  return `${said.filter(Boolean).join(", ")}.`;
}
