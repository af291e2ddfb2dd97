/**
 * Presses that are still being worked out, and what is typed behind each of them meanwhile: hands are quicker than answers, and what
 * was typed after a press stands behind what that says.
 */
export interface PendingPress {
  /** What has been typed since, before the next press. */
  behind: string;
}

export function usePresses() {
  const pending: PendingPress[] = [];
  return {
    any: () => pending.length > 0,
    begin(): PendingPress {
      const one = { behind: "" };
      pending.push(one);
      return one;
    },
    end(one: PendingPress): void {
      const n = pending.indexOf(one);
      if (n >= 0) pending.splice(n, 1);
    },
    /** Notes down what was typed at the end of a text; anything else that is done to it ends the noting. */
    typed(before: string, after: string, at: number): void {
      const last = pending.at(-1);
      if (!last) return;
      if (after.startsWith(before) && at === after.length) last.behind += after.slice(before.length);
      else for (const one of pending) one.behind = "";
    },
    /** What of a text stood there when something was pressed, what was typed behind that, and behind later presses. */
    stood(one: PendingPress, text: string): { says: string; behind: string; later: string } {
      const from = pending.indexOf(one);
      const later = pending
        .slice(from + 1)
        .map((p) => p.behind)
        .join("");
      const typed = one.behind + later;
      if (!typed || !text.endsWith(typed)) return { says: text, behind: "", later: "" };
      return { says: text.slice(0, text.length - typed.length), behind: one.behind, later };
    },
  };
}
