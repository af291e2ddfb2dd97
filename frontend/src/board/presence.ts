/**
 * Which pages of this browser live, by a name that each holds until it is gone. By the browser's locks, which need no clock and end
 * with the page however it ends; where a browser has none (an address without https), pages answer when they are asked.
 */
export interface Presence {
  /** Holds a name until the page is gone, or until what is returned is called. */
  hold(name: string): Promise<() => void>;
  /** Does something that no page may do at the same time, unless a page that lives holds the name; says whether it was done. */
  ifGone(name: string, work: () => void | Promise<void>): Promise<boolean>;
}

const ANSWERS_MS = 300;

const byLocks = (locks: LockManager): Presence => ({
  hold: (name) =>
    new Promise((held) => {
      void locks.request(
        name,
        () => new Promise<void>((release) => held(() => release())), // held until it is released
      );
    }),
  ifGone: async (name, work) =>
    await locks.request(name, { ifAvailable: true }, async (lock) => {
      if (lock) await work();
      return lock !== null;
    }),
});

function byAsking(): Presence {
  const channel = new BroadcastChannel("even-mark pages");
  const mine = new Set<string>();
  const heard = new Set<string>();
  channel.onmessage = (e: MessageEvent<{ asks?: string; lives?: string }>) => {
    if (e.data.asks && mine.has(e.data.asks)) channel.postMessage({ lives: e.data.asks });
    if (e.data.lives) heard.add(e.data.lives);
  };
  return {
    hold: (name) => {
      mine.add(name);
      return Promise.resolve(() => void mine.delete(name));
    },
    async ifGone(name, work) {
      if (mine.has(name)) return false;
      heard.delete(name);
      channel.postMessage({ asks: name });
      await new Promise((done) => setTimeout(done, ANSWERS_MS));
      if (heard.has(name)) return false;
      mine.add(name);
      try {
        await work();
      } finally {
        mine.delete(name);
      }
      return true;
    },
  };
}

let one: Presence | null = null;
export function presence(): Presence {
  return (one ??= "locks" in navigator ? byLocks(navigator.locks) : byAsking());
}
