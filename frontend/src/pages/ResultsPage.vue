<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { useRoute } from "vue-router";
import { get, post, saysOf, type Schemas } from "../api/client";
import AppBar from "../components/AppBar.vue";
import ChoiceList from "../components/ChoiceList.vue";
import ChoiceRow from "../components/ChoiceRow.vue";
import DialogSheet from "../components/DialogSheet.vue";
import MissedList from "../components/MissedList.vue";
import ResultsGrid from "../components/ResultsGrid.vue";
import StateNote from "../components/StateNote.vue";
import StudentTable from "../components/StudentTable.vue";
import { away, when } from "../numbers";

const id = Number(useRoute().params.id);
const { data, isPending, error, refetch } = useQuery({
  queryKey: ["results", id],
  queryFn: () => get<Schemas["ClassResults"]>(`/issues/${id}/results`),
  refetchInterval: (query) => (query.state.data?.students.some((s) => s.state === "waiting") ? 1500 : 20000),
});
const view = ref<"grid" | "list">("grid");
const views = [
  { value: "grid", word: "Grid" },
  { value: "list", word: "List" },
] as const;
const sort = ref<"name" | "score" | "time">("name");
const sorts = [
  { value: "name", word: "by name" },
  { value: "score", word: "lowest score first" },
  { value: "time", word: "first handed in first" },
] as const;
const order = ref<"number" | "missed" | "open">("number");
const orders = [
  { value: "number", word: "all checks in order" },
  { value: "missed", word: "most missed first" },
  { value: "open", word: "only what somebody missed" },
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
const slips = computed(() => (data.value?.slips ?? []).map((s) => ({ ...s, key: `cause-${s.code}`, name: s.title })));
const returning = ref(false);
const busy = ref(false);
const says = ref("");
async function act(path: string): Promise<void> {
  busy.value = true;
  try {
    says.value = (await post<Schemas["Done"]>(`/issues/${id}/${path}`)).says;
    await refetch();
  } catch (why) {
    says.value = saysOf(why);
  } finally {
    busy.value = returning.value = false;
  }
}
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
            <RouterLink :to="`/exercises/${data.issue.revision_id}`">revision {{ data.issue.revision }}</RouterLink> ·
            due {{ when(data.issue.due_at) }} ({{ away(data.issue.due_at) }}) · {{ handed }} of
            {{ present.length }} handed in ·
            {{ data.issue.returns === "at-once" ? "returned at once" : "returned by you" }}
          </p>
        </div>
        <div class="screen-only flex flex-wrap gap-2">
          <RouterLink :to="`/issues/${id}/hand-in`" class="press-quiet no-underline">Hand in for the class</RouterLink>
          <a :href="`/api/issues/${id}/results.csv`" class="press-quiet no-underline">Save as CSV</a>
          <button class="press-quiet" :disabled="!toReturn" @click="returning = true">
            {{ toReturn ? `Return ${toReturn}` : "All returned" }}
          </button>
          <RouterLink v-if="first" :to="`/marking/${first}`" class="press no-underline">Go through them</RouterLink>
        </div>
      </div>
      <div class="mt-2 space-y-1 text-sm" aria-live="polite">
        <p v-if="says">{{ says }}</p>
        <p v-for="b in data.batches" :key="b.id">
          A hand-in of {{ when(b.created_at) }} has {{ b.left }} of {{ b.of }} files that are not handed in.
          <RouterLink :to="`/batches/${b.id}`">Go on with it</RouterLink>
        </p>
        <p v-if="data.outdated">
          {{ data.outdated }} {{ data.outdated === 1 ? "drawing was" : "drawings were" }} marked by an earlier engine.
          <button class="text-teal underline" :disabled="busy" @click="act('mark-again')">Mark them again</button>
          What was returned stays until you return it again.
        </p>
        <p v-if="failed">
          {{ failed }} could not be marked.
          <button class="text-teal underline" :disabled="busy" @click="act('mark-again')">Try again</button>
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
          <ResultsGrid v-if="data.checks.length" :students="rows" :checks="data.checks" :order="order" />
          <template v-else>
            <StateNote>Nothing is marked yet. Until then the class is shown as a list.</StateNote>
            <StudentTable class="mt-3" :rows="rows" />
          </template>
        </template>
        <StudentTable v-else :rows="rows" />
      </div>
      <div class="mt-6 grid gap-6 lg:grid-cols-2">
        <section>
          <h2 class="mb-2">Missed most</h2>
          <MissedList :rows="missed" none="Nothing so far." />
        </section>
        <section>
          <h2 class="mb-2">Slips made most</h2>
          <MissedList :rows="slips" none="None so far." />
        </section>
      </div>
    </template>
    <DialogSheet :open="returning" :title="`Return ${toReturn} drawings?`" @close="returning = false">
      <p class="mt-2 text-ink2">
        Each student sees the marks, verdicts and comments as they stand now. Later changes show only when you return
        them again.
      </p>
      <div class="mt-4 flex justify-end gap-2">
        <button class="press-quiet" @click="returning = false">Cancel</button>
        <button class="press" :disabled="busy" @click="act('return')">Return them</button>
      </div>
    </DialogSheet>
  </main>
</template>
