/** Does work for the newest of many askings: one at a time, and what was asked meanwhile and is old by then is left out. */
export function newest<A>(work: (asked: A) => Promise<void>) {
  let running: Promise<void> | null = null;
  let waiting: { asked: A } | null = null;
  return {
    ask(asked: A): Promise<void> {
      if (running) {
        waiting = { asked };
        return running;
      }
      running = (async () => {
        for (let next: { asked: A } | null = { asked }; next; next = waiting) {
          waiting = null;
          await work(next.asked);
        }
        running = null; // at once: nothing can ask in between
      })();
      return running;
    },
    /** Waits until what was asked is done. */
    settled: async () => {
      await running;
    },
  };
}
