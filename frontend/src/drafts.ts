/** What somebody has typed and not saved yet: kept in this browser for them alone, over reloads and ended sessions, until it is saved. */
import { personId } from "./who";

const START = "even-mark-draft";

function nameOf(key: string): string {
  return `${START} ${personId() || "nobody"} ${key}`;
}

export function readDraft<T = string>(key: string): T | null {
  try {
    const kept = localStorage.getItem(nameOf(key));
    return kept === null ? null : (JSON.parse(kept) as T);
  } catch {
    return null;
  }
}

export function keepDraft(key: string, value: unknown): void {
  try {
    if (value === null || value === "") localStorage.removeItem(nameOf(key));
    else localStorage.setItem(nameOf(key), JSON.stringify(value));
  } catch {
    // a browser that keeps nothing: the page itself still warns before it is left
  }
}

/** Under what the reason for another verdict is kept. */
export const reasonKey = (attempt: number | undefined, finding: number) =>
  `reason ${attempt ?? ""} ${finding}`;

/** Whose draft stands under which name. */
export function draftNames(): { name: string; person: number }[] {
  try {
    return Object.keys(localStorage)
      .filter((name) => name.startsWith(`${START} `))
      .map((name) => ({ name, person: Number(name.slice(START.length + 1).split(" ")[0]) || 0 }));
  } catch {
    return [];
  }
}
