/** What is chosen on the drawing, as a sentence names it: where that wants something drawn, and nothing else. */
import { kindCalled } from "./listed";
import type { Wish, Writing } from "./types";
import type { BoardState } from "./useBoard";

/** Which of some kinds of features a beginning takes: as many as are chosen, one, or none, since it may mean something else. */
export function takes(wants: readonly Wish[]): { many: boolean; kinds: readonly string[] } | null {
  if (wants.some((w) => w.kind === "point")) return null;
  const things = wants.find((w) => w.kind === "things");
  if (things) return { many: true, kinds: things.kinds };
  const features = wants.filter((w) => w.kind === "feature");
  return features.length ? { many: false, kinds: features.flatMap((w) => w.kinds) } : null;
}

export function useNaming(board: BoardState) {
  /** Returns how a beginning goes on with what is chosen; nothing where it has no use for that. */
  async function named(begins: string, before: number | null, chosen: readonly string[]): Promise<string> {
    if (!chosen.length) return "";
    const { wants } = await board.ask("state", { says: begins, before });
    const taken = takes(wants);
    if (!taken) return "";
    const told = (await board.ask("tell", { names: [...chosen] })).chosen;
    const fit = told.filter((c) => taken.kinds.includes(kindCalled(c.name.split(" ")[0] ?? "")));
    if (taken.many ? fit.length < told.length : fit.length !== 1) return "";
    return `${begins}${fit.map((c) => c.name).join(" and ")} `;
  }
  /** Returns a text with the names of what lies in a window, where it wants what is drawn; nothing elsewhere. */
  function withNames(says: string, writing: Writing | null, names: readonly string[]): string {
    if (!names.length || !writing?.wants.some((x) => x.kind === "things")) return "";
    const head = says.slice(0, writing.begin);
    return `${head}${head && !/\s$/.test(head) ? " " : ""}${names.join(" and ")}`;
  }
  return { named, withNames };
}
