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

/** Forgets all drafts of whoever is signed in: they leave the browser to somebody else. */
export function dropDrafts(): void {
  const own = nameOf("");
  for (const name of Object.keys(localStorage)) if (name.startsWith(own)) localStorage.removeItem(name);
}
