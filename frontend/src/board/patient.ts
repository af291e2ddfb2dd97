/** Asking on behalf of a hand that has pressed already: it is asked again while nobody can be reached, so that no press is lost. */
import { unreachable } from "./useOutbox";

const WAITS_MS = [300, 600, 1200, 2400, 4800];

/** Throws what was answered last, where nobody could be reached for ten seconds; at once where it was refused. */
export async function patiently<T>(ask: () => Promise<T>): Promise<T> {
  for (const wait of WAITS_MS) {
    try {
      return await ask();
    } catch (why) {
      if (!unreachable(why)) throw why;
      await new Promise((done) => setTimeout(done, wait));
    }
  }
  return ask();
}
