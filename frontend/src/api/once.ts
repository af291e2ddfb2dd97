/**
 * Keys of requests (Idempotency-Key): whatever is asked for has one until there is an answer, over reloads too. Asked again, since the
 * answer was lost, it goes with the same key, and the server does nothing twice.
 */
import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils.js";

const START = "even-mark asked ";
const MOST = 50;

function store(): Storage | null {
  try {
    return sessionStorage;
  } catch {
    return null;
  }
}
const nameOf = (what: unknown) => START + bytesToHex(sha256(utf8ToBytes(JSON.stringify(what)))).slice(0, 32);
const newKey = () => bytesToHex(crypto.getRandomValues(new Uint8Array(16)));

/** The key of something that is asked for. */
export function keyOf(what: unknown): string {
  const kept = store();
  const name = nameOf(what);
  const found = kept?.getItem(name);
  if (found) return found;
  const key = newKey();
  try {
    const old = kept ? Object.keys(kept).filter((n) => n.startsWith(START)) : [];
    if (old.length >= MOST) for (const one of old) kept?.removeItem(one);
    kept?.setItem(name, key);
  } catch {
    // a browser that keeps nothing: then a reload forgets it
  }
  return key;
}
/** It was answered, with whatever: the same, asked once more, is something else. */
export function wasAnswered(what: unknown): void {
  store()?.removeItem(nameOf(what));
}
/** Forgets what was asked and not answered: whoever asked leaves the browser to somebody else. */
export function dropAsked(): void {
  const kept = store();
  if (kept) for (const name of Object.keys(kept)) if (name.startsWith(START)) kept.removeItem(name);
}
