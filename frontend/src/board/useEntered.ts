/** Sentences that were entered: judged in the order in which they were, by whoever can, now or once somebody can. */
import { ref } from "vue";
import { Refused } from "./engine";
import type { useTurns } from "./turns";
import type { Waits } from "./unsent";
import { whyOf, type BoardState } from "./useBoard";
import { unreachable } from "./useOutbox";

/** `layer` is the one that was drawn on last, by the time a sentence is judged; `accepted` hears what became a step; `then` does what else waited for somebody to ask, and says whether that is done. */
export function useEntered(
  board: BoardState,
  inTurn: ReturnType<typeof useTurns>["inTurn"],
  on: { layer: () => string; accepted: (says: string) => void; then: () => Promise<boolean> },
) {
  const { outbox } = board;
  const busy = ref(false);

  /** Puts a sentence into the list; returns why it was not added, nothing where it was. Throws where nobody could judge it. */
  async function accepted(one: Waits): Promise<{ says: string; readings: readonly string[] } | null> {
    const says = one.says.trim().replace(/[;·]\s*$/, "");
    busy.value = true;
    try {
      if (one.place?.how === "change") await board.act("change", { step: one.place.step, says }, one);
      else {
        const layer = one.layer || on.layer();
        const own = one.own ?? "";
        await board.act("write", { says, before: one.place?.step ?? null, layer, own }, one);
      }
      on.accepted(says);
      return null;
    } catch (why) {
      if (unreachable(why)) throw why;
      return { says: whyOf(why), readings: why instanceof Refused ? why.readings : [] };
    } finally {
      busy.value = false;
    }
  }

  /** Judges what waits, within a turn; answers whether nothing waits any more. */
  async function judgeNow(): Promise<boolean> {
    try {
      for (let next = outbox.sentences.value[0]; next; next = outbox.sentences.value[0]) {
        if (outbox.parted.value) return false;
        const why = await accepted(next);
        if (why && outbox.parted.value) return false; // it waits for the choice between two lists
        // never back into the line, where something else may be being written by now
        if (why) outbox.refuse(next, why.says, why.readings);
      }
    } catch {
      outbox.retry.later();
      return false;
    }
    return on.then();
  }
  const judge = () => inTurn(judgeNow);
  outbox.judges(judge);

  return { busy, judge, judgeNow };
}
