<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { useRoute } from "vue-router";
import { get, type Schemas } from "../api/client";
import AppBar from "../components/AppBar.vue";
import StateNote from "../components/StateNote.vue";
import VerdictCounts from "../components/VerdictCounts.vue";
import { away, marks, when } from "../numbers";

const id = Number(useRoute().params.id);
const { data, isPending, error, refetch } = useQuery({
  queryKey: ["results", id],
  queryFn: () => get<Schemas["ClassResults"]>(`/issues/${id}/results`),
  refetchInterval: (query) => (query.state.data?.students.some((s) => s.state === "waiting") ? 1500 : 20000),
});
const sort = ref<"name" | "score" | "time">("name");
const rows = computed(() => {
  const all = [...(data.value?.students ?? [])];
  if (sort.value === "score") all.sort((a, b) => (a.earned ?? -1) - (b.earned ?? -1));
  if (sort.value === "time") all.sort((a, b) => (a.handed_in_at ?? "9").localeCompare(b.handed_in_at ?? "9"));
  return all;
});
const handed = computed(() => data.value?.students.filter((s) => s.attempt_id).length ?? 0);
const first = computed(() => rows.value.find((s) => s.state === "marked")?.attempt_id);
const sorts = [
  { value: "name", word: "name" },
  { value: "score", word: "score" },
  { value: "time", word: "time" },
] as const;
</script>

<template>
  <AppBar />
  <main class="mx-auto max-w-6xl p-5 sm:p-6">
    <StateNote v-if="isPending || error" :loading="isPending" :error="error" :retry="() => refetch()" />
    <template v-else-if="data">
      <div class="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1>{{ data.issue.title }}</h1>
          <p class="text-ink2">
            <RouterLink :to="`/classes/${data.issue.class_id}`">{{ data.issue.class_name }}</RouterLink> · revision
            {{ data.issue.revision }} · due {{ when(data.issue.due_at) }} ({{ away(data.issue.due_at) }}) ·
            {{ handed }} of {{ data.students.length }} handed in
          </p>
        </div>
        <div class="flex gap-2">
          <RouterLink :to="`/exercises/${data.issue.revision_id}`" class="press-quiet no-underline"
            >The exercise</RouterLink
          >
          <a :href="`/api/issues/${id}/results.csv`" class="press-quiet no-underline">Save as CSV</a>
          <RouterLink v-if="first" :to="`/marking/${first}`" class="press no-underline">Go through them</RouterLink>
        </div>
      </div>
      <div class="mt-5 grid gap-6 lg:grid-cols-[1fr_19rem]">
        <section>
          <div class="mb-2 flex items-baseline gap-3 text-sm text-ink2">
            <h2 class="text-ink">Students</h2>
            <span>by</span>
            <button
              v-for="s in sorts"
              :key="s.value"
              class="underline-offset-4"
              :class="sort === s.value ? 'font-semibold text-ink underline' : 'text-teal'"
              :aria-pressed="sort === s.value"
              @click="sort = s.value"
            >
              {{ s.word }}
            </button>
          </div>
          <div class="paper overflow-x-auto">
            <table class="w-full">
              <thead class="border-b border-rule">
                <tr>
                  <th class="cell-head">Student</th>
                  <th class="cell-head w-56">Verdicts</th>
                  <th class="cell-head">Slips</th>
                  <th class="cell-head">Handed in</th>
                  <th class="cell-head !text-right">Score</th>
                </tr>
              </thead>
              <tbody class="divide-y divide-rule">
                <tr v-for="s in rows" :key="s.student_id" :class="s.attempt_id ? 'hover:bg-teal-soft' : ''">
                  <td class="px-2.5 py-2 align-top">
                    <RouterLink v-if="s.attempt_id" :to="`/marking/${s.attempt_id}`" class="font-semibold">{{
                      s.name
                    }}</RouterLink>
                    <span v-else>{{ s.name }}</span>
                    <span v-if="s.try_number > 1" class="block text-sm text-ink2">try {{ s.try_number }}</span>
                  </td>
                  <td class="px-2.5 py-2 align-top">
                    <VerdictCounts v-if="s.verdicts" :verdicts="s.verdicts" />
                    <span v-else-if="s.state === 'waiting'" class="text-near" aria-live="polite">being marked …</span>
                    <span v-else-if="s.state === 'failed'" class="text-pencil">{{ s.trouble }}</span>
                    <span v-else class="text-ink2">nothing yet</span>
                  </td>
                  <td class="px-2.5 py-2 align-top text-sm">
                    <span v-for="c in s.causes" :key="c.code" class="block">{{ c.title }}</span>
                  </td>
                  <td class="px-2.5 py-2 align-top text-sm text-ink2">
                    <template v-if="s.handed_in_at">{{ when(s.handed_in_at) }}</template>
                    <span v-if="s.late" class="block font-semibold text-near">late</span>
                  </td>
                  <td class="px-2.5 py-2 text-right align-top font-semibold">
                    {{ s.earned === null ? "" : marks(s.earned ?? 0) }}
                  </td>
                </tr>
              </tbody>
            </table>
          </div>
        </section>
        <section>
          <h2 class="mb-2">Missed most</h2>
          <ul class="paper divide-y divide-rule">
            <li v-if="!data.missed.length" class="px-4 py-3 text-ink2">Nothing so far.</li>
            <li v-for="m in data.missed" :key="m.finding" class="px-4 py-2">
              <span class="flex justify-between gap-2">
                <span>{{ m.name }}</span><span class="whitespace-nowrap text-ink2">{{ m.students }} of {{ m.of }}</span>
              </span>
              <span
                class="mt-1 block h-1 rounded bg-pencil/70"
                :style="{ width: `${(m.students / m.of) * 100}%` }"
              ></span>
            </li>
          </ul>
        </section>
      </div>
    </template>
  </main>
</template>
