/** Presses on the sheet: what is pointed goes into the sentence, one press after the other. */
import type { Ref } from "vue";
import { patiently } from "./patient";
import type { Pointer } from "./pointing";
import type { useTurns } from "./turns";
import type { Choice } from "./types";
import type { useLine } from "./useLine";
import type { usePointed } from "./usePointed";
import type { PendingPress, usePresses } from "./usePresses";

export function usePressing(on: {
  line: ReturnType<typeof useLine>;
  hand: ReturnType<typeof usePointed>;
  presses: ReturnType<typeof usePresses>;
  inTurn: ReturnType<typeof useTurns>["inTurn"];
  look: () => Promise<void>;
  enter: () => void;
  judgeNow: () => Promise<unknown>;
  askFocus: () => void;
  refused: Ref<string>;
  /** Whether a sentence is begun that something can be pointed into, and whether it could be added as it stands. */
  wants: () => boolean;
  canEnter: () => boolean;
  /** Says that a press was for nothing. */
  nothing: () => unknown;
}) {
  const { line, hand, presses, inTurn, look, enter, judgeNow, askFocus, refused, canEnter } = on;

  /** Takes what is pointed into the sentence; one that is whole and cannot go on is added at once. */
  async function pressOnce(p: Pointer, press: PendingPress): Promise<Choice | null> {
    if (!on.wants()) return null;
    await hand.settled();
    hand.moveTo(p);
    const { says } = presses.stood(press, line.text.value);
    const found = await patiently(() => hand.asPointed(p, says));
    const { behind, later } = presses.stood(press, line.text.value); // with what was typed meanwhile
    if (!found.choices.length) {
      await look();
      // nothing is left to be pointed: it goes in as it stands
      if (line.text.value === says && canEnter()) {
        enter();
        await judgeNow();
      } else if (line.text.value === says) on.nothing();
      return null;
    }
    const chosen = found.choices[found.which] ?? null;
    if (found.preview?.broken && chosen?.kind !== "feature") {
      refused.value = found.preview.broken; // nothing of it is drawn: it stays to be pressed elsewhere
      return null;
    }
    const whole = found.preview?.whole === true && !found.preview.broken && !found.more;
    // what is typed behind a whole sentence begins the next one, unless a sign says that this one goes on
    const goesOn = behind.startsWith(";");
    line.separate(says); // what is typed meanwhile is no thing of its own to be taken back
    line.set(found.text, found.caret);
    line.press(found.onward ?? "");
    hand.forget();
    refused.value = "";
    if (whole && !goesOn) {
      enter();
      if (behind + later) line.set(behind + later);
      await judgeNow();
    } else if (behind) line.type(found.text + behind, found.text.length + behind.length);
    if (later && !(whole && !goesOn)) line.set(line.text.value + later);
    await look();
    return chosen;
  }
  async function press(p: Pointer): Promise<Choice | null> {
    const one = presses.begin();
    try {
      return await inTurn(() => pressOnce(p, one));
    } finally {
      presses.end(one);
      askFocus();
    }
  }
  /** A length that was typed goes where the pointer shows; says whether it did. */
  async function aim(length: string): Promise<boolean> {
    const p = hand.pointer.value;
    if (!p || !on.wants() || !/\d/.test(length)) return false;
    await hand.settled();
    const found = hand.pointed.value;
    if (!found?.choices.length || !found.text.split(/[\s;]+/).includes(length)) return false;
    await press(p);
    return true;
  }
  return { press, aim, pressing: presses.any };
}
