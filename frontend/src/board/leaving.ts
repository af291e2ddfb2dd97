/** What of somebody's boards is not on the server when they sign out: sent where that can be done, else counted. */
import { post } from "../api/client";
import { personId } from "../who";
import { sendLeft, unsentIn } from "./unsent";

/** Boards that are open on this page: each sends what is its own. */
const open = new Set<() => Promise<unknown>>();
export function whileOpen(send: () => Promise<unknown>): () => void {
  open.add(send);
  return () => void open.delete(send);
}

export async function sendLeftOf(): Promise<void> {
  for (const send of open) await send().catch(() => undefined);
  await sendLeft(personId(), (board_id, base, acts) =>
    post(
      "/api/boards/{board_id}/acts",
      { board_id },
      { base, acts: acts as unknown as Record<string, unknown>[][] },
    ),
  );
}

/** How many steps and sentences would go. */
export const unsentOf = (): number => unsentIn(personId()).reduce((sum, left) => sum + left.count, 0);
