/** What of somebody's boards is not on the server when they sign out: sent where that can be done, else counted. */
import { personId } from "../who";
import { postActs } from "./saving";
import { sendLeft, unsentIn } from "./unsent";

/** Boards that are open on this page: each sends what is its own. */
const open = new Set<() => Promise<unknown>>();
export function whileOpen(send: () => Promise<unknown>): () => void {
  open.add(send);
  return () => void open.delete(send);
}

export async function sendLeftOf(): Promise<void> {
  for (const send of open) await send().catch(() => undefined);
  await sendLeft(personId(), postActs);
}

/** How many steps and sentences would go. */
export const unsentOf = (): number => unsentIn(personId()).reduce((sum, left) => sum + left.count, 0);
