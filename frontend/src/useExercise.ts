/**
 * An exercise that is being changed. Every change is sent by itself; what could not be sent yet is kept in this browser, said, and sent again until it is saved.
 *
 * - saved: as the server has it. mine: as it stands on the page. Their difference is what is unsaved.
 * - held: words of something that is issued, which students see at once, go only when they are put right on purpose.
 * - meet: somebody else changed it meanwhile: both changes are laid together, and what both changed is asked.
 */
import { useEventListener } from "@vueuse/core";
import { computed, type DeepReadonly, onScopeDispose, readonly, ref, shallowRef, watch } from "vue";
import { get, patch, Refusal, saysOf, type Schemas } from "./api/client";
import { about, changesBetween, contested, withChanges, type Change, type Content } from "./changes";
import { keepDraft, readDraft } from "./drafts";
import { kept, type Rules } from "./rules";

export type Page = Schemas["ExercisePage"];
interface Draft {
  base: Content;
  based_on: string;
  changes: Change[];
  agreed?: boolean;
}
interface Meeting {
  page: Page;
  ours: Change[];
  both: Change[];
}
const AGAIN = [2000, 4000, 8000, 15000];
const PAUSE = 500;

const listOf = (rules: DeepReadonly<Rules>): string =>
  rules.requirements.map((r) => `${r.id} ${r.kind} ${r.features.join(" ")}`).join("\n");
const clone = <T>(v: T): T => JSON.parse(JSON.stringify(v)) as T;
export const contentOf = (page: DeepReadonly<Page>): Content =>
  clone({ title: page.title, text: page.text, rules: page.rules as Rules });

export function useExercise(onSaved: (page: Page) => void) {
  const saved = shallowRef<Page | null>(null);
  const mine = ref<Content | null>(null);
  const past = ref<Change[][]>([]);
  const sending = ref(false);
  const failing = ref("");
  const trouble = ref("");
  const notice = ref("");
  const meeting = shallowRef<Meeting | null>(null);
  const unsaved = computed(() =>
    saved.value && mine.value ? changesBetween(contentOf(saved.value), mine.value) : [],
  );
  const agreed = ref(false);
  const held = computed(
    () =>
      !!saved.value?.issued_at &&
      !agreed.value &&
      unsaved.value.length > 0 &&
      unsaved.value.every((c) => c.path[0] !== "rules"),
  );
  let timer: ReturnType<typeof setTimeout> | undefined;
  let running: Promise<void> | null = null;
  let failures = 0;

  function keep(): void {
    const page = saved.value;
    if (!page) return;
    const draft: Draft = {
      base: contentOf(page),
      based_on: page.changed_at,
      changes: unsaved.value,
      agreed: agreed.value,
    };
    keepDraft(`exercise ${page.exercise_id}`, unsaved.value.length ? draft : null);
  }
  watch(unsaved, keep);

  /** Takes what the server gave, with what was left unsaved of this exercise in this browser. */
  function begin(page: Page): void {
    const draft = readDraft<Draft>(`exercise ${page.exercise_id}`);
    saved.value = page;
    mine.value = contentOf(page);
    past.value = [];
    trouble.value = failing.value = notice.value = "";
    meeting.value = null;
    agreed.value = draft?.agreed ?? false;
    if (!draft) return;
    if (draft.based_on === page.changed_at) mine.value = withChanges(contentOf(page), draft.changes);
    else lay(page, draft.base, draft.changes);
    soon(0);
  }
  function soon(after = PAUSE): void {
    clearTimeout(timer);
    timer = setTimeout(() => void push(), after);
  }
  /** Sends what is unsaved; whoever asks meanwhile waits for the same answer. */
  function push(): Promise<void> {
    running ??= send().finally(() => (running = null));
    return running;
  }
  /** Sends until everything is saved or something stands in the way. */
  async function flush(): Promise<void> {
    for (let n = 0; n < 5 && unsaved.value.length && !held.value && !trouble.value && !meeting.value; n++)
      await push();
  }
  async function send(): Promise<void> {
    clearTimeout(timer);
    const page = saved.value;
    const now = mine.value;
    if (!page || !now || meeting.value || held.value || !unsaved.value.length) return;
    sending.value = true;
    const sent = clone(now);
    const parts = new Set(unsaved.value.map((c) => c.path[0]));
    try {
      const fresh = await patch(
        "/api/exercises/{revision_id}",
        { revision_id: page.revision_id },
        {
          ...(parts.has("title") ? { title: sent.title } : {}),
          ...(parts.has("text") ? { text: sent.text } : {}),
          ...(parts.has("rules") ? { rules: kept(sent.rules) } : {}),
          based_on: page.changed_at,
        },
      );
      // a list that came back other than it was sent was proposed anew: undo brings the whole list back
      if (listOf(fresh.rules) !== listOf(sent.rules) && past.value.length)
        past.value[past.value.length - 1] = [{ path: ["rules"], before: null, after: clone(page.rules) }];
      accept(fresh, changesBetween(sent, mine.value ?? sent));
      failures = 0;
      agreed.value = false;
      failing.value = trouble.value = "";
      onSaved(fresh);
    } catch (why) {
      await refused(why, parts);
    } finally {
      sending.value = false;
    }
    if (unsaved.value.length && !failing.value && !trouble.value && !meeting.value) soon(0);
  }
  function accept(page: Page, changes: readonly Change[]): void {
    saved.value = page;
    mine.value = withChanges(contentOf(page), changes);
    keep();
  }
  async function refused(why: unknown, parts: Set<string | undefined>): Promise<void> {
    if (why instanceof Refusal && why.status === 409) return meet();
    const passing = !(why instanceof Refusal) || why.status === 0 || why.status >= 500 || why.status === 429;
    if (passing || (why instanceof Refusal && why.status === 401)) {
      failing.value = saysOf(why);
      soon(AGAIN[Math.min(failures++, AGAIN.length - 1)]);
      return;
    }
    trouble.value = saysOf(why);
    // what cannot be is shown as it was; what was typed stays where it was typed
    if (parts.has("rules") && saved.value && mine.value) mine.value.rules = contentOf(saved.value).rules;
  }
  async function meet(): Promise<void> {
    const before = saved.value;
    if (!before) return;
    try {
      let page = await get("/api/exercises/{revision_id}", { revision_id: before.revision_id });
      if (page.newest !== page.revision_id)
        page = await get("/api/exercises/{revision_id}", { revision_id: page.newest });
      lay(page, contentOf(before), unsaved.value);
      onSaved(page);
    } catch (why) {
      failing.value = saysOf(why);
      soon(AGAIN[0]);
    }
  }
  /** Lays our changes of an older state over what the server has now; asks where others changed the same. */
  function lay(page: Page, base: Content, changes: readonly Change[]): void {
    const theirs = changesBetween(base, contentOf(page));
    const still = changes.filter((c) => stands(c, base.rules, page.rules));
    const both = contested(still, theirs);
    const gone = changes.length - still.length;
    notice.value = theirs.length
      ? `Changed meanwhile, in another window or by somebody else: ${about(theirs, page.rules)}.` +
        (gone ? ` ${gone} of your changes were about checks that are not there any more.` : "")
      : "";
    if (both.length) meeting.value = { page, ours: still, both };
    else accept(page, still);
  }
  function settle(ours: boolean): void {
    const met = meeting.value;
    if (!met) return;
    meeting.value = null;
    accept(met.page, ours ? met.ours : met.ours.filter((c) => !met.both.includes(c)));
    soon(0);
  }

  function change(work: (next: Content) => void): void {
    const now = mine.value;
    if (!now) return;
    const next = clone(now);
    work(next);
    past.value.push(changesBetween(next, now));
    trouble.value = "";
    mine.value = next;
    soon(0);
  }
  function undo(): void {
    const back = past.value.pop();
    if (!back || !mine.value) return;
    mine.value = withChanges(mine.value, back);
    soon(0);
  }
  /** Typing is kept with every letter and sent when it pauses. */
  function type(what: "title" | "text", value: string): void {
    if (!mine.value) return;
    mine.value[what] = value;
    trouble.value = "";
    soon();
  }

  /** Sends the words of something issued. */
  function putRight(): Promise<void> {
    agreed.value = true;
    keep();
    return push();
  }
  /** Goes back to the words as they are. */
  function leaveWords(): void {
    if (!saved.value || !mine.value) return;
    mine.value.title = saved.value.title;
    mine.value.text = saved.value.text;
  }

  const status = computed(() =>
    held.value
      ? "Not put right yet"
      : meeting.value || failing.value || trouble.value
        ? "Not saved"
        : sending.value || unsaved.value.length
          ? "Saving …"
          : "Saved",
  );
  useEventListener(window, "online", () => soon(0));
  useEventListener(window, "beforeunload", (e: BeforeUnloadEvent) => {
    if (unsaved.value.length) e.preventDefault();
  });
  onScopeDispose(() => clearTimeout(timer));

  return {
    saved: readonly(saved),
    mine,
    past: readonly(past),
    unsaved,
    status,
    failing: readonly(failing),
    trouble: readonly(trouble),
    notice,
    meeting: readonly(meeting),
    begin,
    push,
    flush,
    change,
    undo,
    type,
    settle,
    held,
    putRight,
    leaveWords,
  };
}

/** Says whether the check that a change is about is still the same one. */
function stands(c: Change, before: Rules, now: Rules): boolean {
  if (c.path[1] !== "requirements") return true;
  const of = (rules: Rules) => {
    const r = rules.requirements.find((x) => String(x.id) === c.path[2]);
    return r && JSON.stringify([r.kind, r.features, r.layer]);
  };
  return of(now) !== undefined && of(before) === of(now);
}
