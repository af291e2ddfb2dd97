/** A browser with pages and a server with one board, for tests of what waits. */
import { afterEach, beforeEach, vi } from "vitest";
import { effectScope, type EffectScope } from "vue";
import { Refusal } from "../src/api/client";
import { spliced } from "../src/board/edits";
import type { Presence } from "../src/board/presence";
import type { KeptDocument, Edit } from "../src/board/types";
import { UnsentPlace } from "../src/board/unsent";
import { useOutbox, type Post } from "../src/board/useOutbox";

export const EMPTY: KeptDocument = { format: "even-mark/steps", version: 1, next: 1, lines: [] };
export const AWAY = new Refusal(0, "no-connection", "The server cannot be reached.");
export const act = (n: number, at = n - 1): Edit[] => [
  { at, gone: [], come: [{ kind: "step", id: n, says: `circle ${n}, 0; radius 1` }] },
];
export const says = (document: KeptDocument) => document.lines.map((l) => l.id);

/** The pages of one browser. */
export class Pages implements Presence {
  held = new Set<string>();
  hold = (name: string) => {
    this.held.add(name);
    return Promise.resolve(() => void this.held.delete(name));
  };
  ifGone = async (name: string, work: () => void | Promise<void>) => {
    if (this.held.has(name)) return false;
    await work();
    return true;
  };
}

/** A server that keeps one board as the real one does, and can be away. */
export class Server {
  acts: Edit[][] = [];
  posts = 0;
  away: Error | null = null;
  refuses: (act: Edit[]) => boolean = () => false;
  get document(): KeptDocument {
    return this.acts.reduce((list, one) => spliced(list, one), EMPTY);
  }
  readonly post: Post = {
    acts: async (base, acts) => {
      this.posts++;
      await Promise.resolve();
      if (this.away) throw this.away;
      if (acts.some(this.refuses)) throw new Refusal(422, "not-usable", "It holds what cannot be kept.");
      let known = 0;
      while (known < acts.length && JSON.stringify(this.acts[base + known]) === JSON.stringify(acts[known]))
        known++;
      if (base + known !== this.acts.length) throw new Refusal(409, "parted", "Changed in another tab.");
      this.acts.push(...acts.slice(known));
      return { version: this.acts.length };
    },
    part: async (base) => {
      await Promise.resolve();
      if (base !== this.acts.length) throw new Refusal(409, "parted", "Changed once more.");
      this.acts.push(act(99));
      return { version: this.acts.length };
    },
    found: () => Promise.resolve({ version: this.acts.length, document: this.document }),
  };
}

/** What a test is about; new for each. */
export const here = {} as { scope: EffectScope; server: Server; pages: Pages };
export function page(name: string, person = 7, within = here.scope) {
  const box = within.run(() =>
    useOutbox(here.server.post, new UnsentPlace(person, 3, here.pages, name), () => undefined),
  );
  if (!box) throw new Error("no scope");
  box.opened({ version: here.server.acts.length, document: here.server.document });
  void box.live();
  return box;
}
export const passes = (ms: number) => vi.advanceTimersByTimeAsync(ms);

beforeEach(() => {
  vi.useFakeTimers();
  vi.spyOn(Math, "random").mockReturnValue(0.5);
  localStorage.clear();
  Object.assign(here, { scope: effectScope(), server: new Server(), pages: new Pages() });
});
afterEach(() => {
  here.scope.stop();
  vi.restoreAllMocks();
  vi.useRealTimers();
});
