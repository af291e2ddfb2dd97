<script setup lang="ts">
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { useRoute, useRouter } from "vue-router";
import { get, post, remove, type Schemas } from "../api/client";
import AppBar from "../components/AppBar.vue";
import { useTitle } from "../title";
import ChoiceList from "../components/ChoiceList.vue";
import ChoiceRow from "../components/ChoiceRow.vue";
import AllowanceDialog from "../components/AllowanceDialog.vue";
import AskDialog from "../components/AskDialog.vue";
import ExportDialog, { type Wanted } from "../components/ExportDialog.vue";
import IssueChangeDialog from "../components/IssueChangeDialog.vue";
import MissedList from "../components/MissedList.vue";
import MoreMenu from "../components/MoreMenu.vue";
import ResultsGrid from "../components/ResultsGrid.vue";
import StateNote from "../components/StateNote.vue";
import StudentTable from "../components/StudentTable.vue";
import { dueWords, when } from "../times";
import { inAddress } from "../address";
import { useAct } from "../useAct";
import { keys } from "../queries";

const id = Number(useRoute().params.id);
const router = useRouter();
const client = useQueryClient();
const { data, isPending, error, refetch } = useQuery({
  queryKey: keys.results(id),
  queryFn: () => get("/api/issues/{issue_id}/results", { issue_id: id }),
  refetchInterval: (query) => (query.state.data?.students.some((s) => s.state === "waiting") ? 1500 : 20000),
});
const revision = computed(() => data.value?.issue.revision_id);
/** The exercise, for the picture of what a check is about. */
const { data: exercise } = useQuery({
  queryKey: computed(() => keys.exercise(revision.value ?? 0)),
  queryFn: () => get("/api/exercises/{revision_id}", { revision_id: revision.value ?? 0 }),
  enabled: computed(() => revision.value !== undefined),
});
const view = inAddress<"grid" | "list">("view", "grid");
const views = [
  { value: "grid", word: "Grid" },
  { value: "list", word: "List" },
] as const;
const sort = inAddress<"name" | "score" | "time">("sort", "name");
const sorts = [
  { value: "name", word: "by name" },
  { value: "score", word: "lowest marks first" },
  { value: "time", word: "first handed in first" },
] as const;
const order = inAddress<"number" | "missed" | "open">("order", "number");
const orders = [
  { value: "number", word: "all checks in order" },
  { value: "missed", word: "most missed first" },
  { value: "open", word: "missed by anybody" },
] as const;
const withLeft = ref(false);
const present = computed(() => data.value?.students.filter((s) => !s.left) ?? []);
const gone = computed(() => (data.value?.students.length ?? 0) - present.value.length);
const rows = computed(() => {
  const all = (data.value?.students ?? []).filter((s) => withLeft.value || !s.left);
  if (sort.value === "score") all.sort((a, b) => (a.earned ?? -1) - (b.earned ?? -1));
  if (sort.value === "time") all.sort((a, b) => (a.handed_in_at ?? "9").localeCompare(b.handed_in_at ?? "9"));
  return all;
});
const handed = computed(() => present.value.filter((s) => s.attempt_id).length);
const first = computed(() => rows.value.find((s) => s.state === "marked")?.attempt_id);
const toReturn = computed(
  () => data.value?.students.filter((s) => s.state === "marked" && s.returned !== "yes").length ?? 0,
);
const failed = computed(() => data.value?.students.filter((s) => s.state === "failed").length ?? 0);
const missed = computed(() => (data.value?.missed ?? []).map((m) => ({ ...m, key: `finding-${m.finding}` })));
const slips = computed(() =>
  (data.value?.slips ?? []).map((s) => ({ ...s, key: `cause-${s.code}`, name: s.title })),
);
/** What is asked about: of the class, or of one student. */
const asking = ref<"return" | "change" | "allow" | "close" | "withdraw" | null>(null);
const allowFor = ref<number | null>(null);
const wanted = ref<Wanted | null>(null);
const { busy, trouble, said, act, clear } = useAct();
const issue = { issue_id: id };
function ask(what: typeof asking.value): void {
  clear();
  asking.value = what;
}
async function send(work: () => Promise<Schemas["Done"]>): Promise<void> {
  const done = await act(work);
  if (done) asking.value = null;
  await refetch();
}
const returnAll = () => send(() => post("/api/issues/{issue_id}/return", issue));
const markAgain = () => send(() => post("/api/issues/{issue_id}/mark-again", issue));
const close = () => send(() => post("/api/issues/{issue_id}/close", issue));
const reopen = () => send(() => post("/api/issues/{issue_id}/reopen", issue));
async function withdraw(): Promise<void> {
  const group = data.value?.issue.class_id;
  if (!(await act(() => remove("/api/issues/{issue_id}", issue)))) return;
  await client.invalidateQueries();
  await router.push(`/classes/${group}`);
}
function allow(student: number | null): void {
  allowFor.value = student;
  ask("allow");
}
async function changed(says: string): Promise<void> {
  asking.value = null;
  said.value = says;
  await refetch();
}
const items = computed(() => [
  { word: "Date and tries", act: () => ask("change") },
  { word: "Extra time or tries", act: () => allow(null), off: !present.value.length },
  data.value?.issue.closed_at
    ? { word: "Reopen", act: reopen }
    : { word: "Close now", act: () => ask("close") },
  { word: "Record", to: `/record?class=${data.value?.issue.class_id}` },
  { word: "Marks as CSV", href: `/api/issues/${id}/results.csv` },
  {
    word: "Feedback as one PDF",
    off: !first.value,
    act: () =>
      (wanted.value = { kind: "feedback", number: id, title: "Feedback of the class", unit: "drawings" }),
  },
  {
    word: "Drawings as one ZIP",
    off: !handed.value,
    act: () =>
      (wanted.value = { kind: "files", number: id, title: "Drawings of the class", unit: "drawings" }),
  },
  { word: "Withdraw exercise", ends: true, act: () => ask("withdraw") },
]);
useTitle(() => data.value && `${data.value.issue.title}, ${data.value.issue.class_name}`);
</script>

<template>
  <AppBar />
  <main class="mx-auto max-w-[100rem] p-5 sm:p-6">
    <StateNote v-if="isPending || error" :loading="isPending" :error="error" :retry="() => refetch()" />
    <template v-else-if="data">
      <div class="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1>{{ data.issue.title }}</h1>
          <p class="text-ink2">
            <RouterLink :to="`/classes/${data.issue.class_id}`">{{ data.issue.class_name }}</RouterLink> ·
            <RouterLink :to="`/exercises/${data.issue.revision_id}`"
              >revision {{ data.issue.revision }}</RouterLink
            >
            ·
            {{
              data.issue.closed_at
                ? `closed ${when(data.issue.closed_at)}`
                : `due ${dueWords(data.issue.due_at)}`
            }}
            · {{ handed }} of {{ present.length }} handed in ·
            {{ data.issue.returns === "at-once" ? "returned at once" : "returned by you" }}
          </p>
        </div>
        <div class="screen-only flex flex-wrap gap-2">
          <RouterLink :to="`/issues/${id}/hand-in`" class="press-quiet no-underline"
            >Hand in for the class</RouterLink
          >
          <button class="press-quiet" :disabled="!toReturn" @click="ask('return')">
            {{ toReturn ? `Return ${toReturn}` : "All returned" }}
          </button>
          <RouterLink v-if="first" :to="`/marking/${first}`" class="press no-underline"
            >Review drawings</RouterLink
          >
          <MoreMenu :items="items" label="More about what was issued" />
        </div>
      </div>
      <div class="mt-2 space-y-1 text-sm" aria-live="polite">
        <p v-if="said">{{ said }}</p>
        <p v-if="trouble && !asking" class="text-pencil">{{ trouble }}</p>
        <p v-if="data.issue.archived">
          This class is archived: everything can be read, nothing can be handed in.
        </p>
        <p v-if="data.issue.newer">
          A newer revision replaced it; nothing more can be handed in here.
          <RouterLink :to="`/issues/${data.issue.newer}`">Open newer revision</RouterLink>
        </p>
        <p v-for="b in data.batches" :key="b.id">
          A hand-in of {{ when(b.created_at) }} has {{ b.left }} of {{ b.of }} files that are not handed in.
          <RouterLink :to="`/batches/${b.id}`">Continue</RouterLink>
        </p>
        <p v-if="data.outdated">
          {{ data.outdated }} {{ data.outdated === 1 ? "drawing was" : "drawings were" }} marked by an earlier
          engine.
          <button class="text-teal underline" :disabled="busy" @click="markAgain">Mark again</button>
          Returned marks stay as they are until you return them again.
        </p>
        <p v-if="failed">
          {{ failed }} could not be marked.
          <button class="text-teal underline" :disabled="busy" @click="markAgain">Try again</button>
        </p>
      </div>
      <div class="screen-only mt-3 flex flex-wrap items-center gap-2 text-sm">
        <ChoiceRow v-model="view" label="How the class is shown" small :choices="views" />
        <ChoiceList v-model="sort" label="Students" small :choices="sorts" />
        <ChoiceList v-if="view === 'grid'" v-model="order" label="Checks" small :choices="orders" />
        <label v-if="gone" class="flex items-center gap-1.5">
          <input v-model="withLeft" type="checkbox" class="accent-teal" /> with {{ gone }} who left the class
        </label>
      </div>
      <div class="mt-3">
        <StateNote v-if="!data.students.length">Nobody is in this class yet.</StateNote>
        <template v-else-if="view === 'grid'">
          <ResultsGrid
            v-if="data.checks.length"
            :students="rows"
            :checks="data.checks"
            :order="order"
            :scene="exercise?.scene"
          />
          <template v-else>
            <StateNote>Nothing is marked yet. Until then the class is shown as a list.</StateNote>
            <StudentTable class="mt-3" :rows="rows" @allow="allow" />
          </template>
        </template>
        <StudentTable v-else :rows="rows" @allow="allow" />
      </div>
      <div class="mt-6 grid grid-cols-[minmax(0,1fr)] gap-6 lg:grid-cols-2">
        <section>
          <h2 class="mb-2">Most missed</h2>
          <MissedList :rows="missed" none="Nothing so far." />
        </section>
        <section>
          <h2 class="mb-2">Most frequent slips</h2>
          <MissedList :rows="slips" none="None so far." />
        </section>
      </div>
    </template>
    <AskDialog
      :open="asking === 'return'"
      :title="`Return ${toReturn} ${toReturn === 1 ? 'drawing' : 'drawings'}?`"
      word="Return drawings"
      :busy="busy"
      :trouble="trouble"
      @close="asking = null"
      @yes="returnAll"
    >
      <p>
        Each student sees the marks, verdicts and comments as they are now. Later changes show only when you
        return them again.
      </p>
    </AskDialog>
    <AskDialog
      :open="asking === 'close'"
      title="Close this exercise?"
      word="Close exercise"
      :busy="busy"
      :trouble="trouble"
      @close="asking = null"
      @yes="close"
    >
      <p>
        Nothing more can be handed in, except by students with a later date of their own. What was handed in
        stays. You can reopen it.
      </p>
    </AskDialog>
    <AskDialog
      :open="asking === 'withdraw'"
      title="Withdraw this exercise from the class?"
      word="Withdraw exercise"
      ends
      :busy="busy"
      :trouble="trouble"
      @close="asking = null"
      @yes="withdraw"
    >
      <p>
        The class no longer sees it, as if it had not been issued. This works as long as nobody has handed in;
        after that it can be closed.
      </p>
    </AskDialog>
    <template v-if="data">
      <IssueChangeDialog
        :open="asking === 'change'"
        :issue="data.issue"
        @close="asking = null"
        @changed="changed"
      />
      <AllowanceDialog
        :open="asking === 'allow'"
        :issue="data.issue"
        :students="data.students"
        :start="allowFor"
        @close="asking = null"
        @changed="changed"
      />
    </template>
    <ExportDialog :wanted="wanted" @close="wanted = null" />
  </main>
</template>
