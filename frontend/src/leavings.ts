/** What this browser keeps of people beside the one who is signed in: others may use it, so nobody finds what another one has left. */
import { dropAsked } from "./api/once";
import { draftNames } from "./drafts";
import { historyNames, outboxNames, unsentIn } from "./board/unsent";

export interface Left {
  /** Steps and sentences that were drawn and are not on the server. */
  steps: number;
  /** Texts that were typed and not saved. */
  texts: number;
}

/** By whom something is, of what is kept by names; `person` is none of them. */
const others = (found: { name: string; person: number }[], person: number) =>
  found.filter((f) => f.person !== person);

/** What others than one have left unsaved; everybody, for 0. */
export function leftByOthers(person: number): Left {
  const people = new Set(others(outboxNames(), person).map((f) => f.person));
  let steps = 0;
  for (const one of people) for (const left of unsentIn(one)) steps += left.count;
  return { steps, texts: others(draftNames(), person).length };
}
export const isSomething = (left: Left) => left.steps > 0 || left.texts > 0;

/** Forgets everything of everybody but one; of all, for 0. */
export function dropOthers(person: number): void {
  for (const { name } of others([...outboxNames(), ...draftNames(), ...historyNames()], person))
    localStorage.removeItem(name);
  if (!person) dropAsked();
}
/** Forgets what is no work of anybody's: what could be undone, once nobody is signed in. */
export function dropHistory(): void {
  for (const { name } of historyNames()) localStorage.removeItem(name);
  dropAsked();
}

/** What was left, in words. */
export function leftInWords(left: Left): string {
  const many = (n: number, word: string) => `${n === 1 ? "one" : n} ${word}${n === 1 ? "" : "s"}`;
  const parts = [
    ...(left.steps ? [`${many(left.steps, "step")} of a drawing`] : []),
    ...(left.texts ? [many(left.texts, "text")] : []),
  ];
  return parts.join(" and ");
}
