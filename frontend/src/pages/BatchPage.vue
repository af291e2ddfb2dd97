<script setup lang="ts">
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { useRoute, useRouter } from "vue-router";
import { get, patch, post, remove, saysOf, type Schemas } from "../api/client";
import AppBar from "../components/AppBar.vue";
import { useTitle } from "../title";
import ChoiceList from "../components/ChoiceList.vue";
import DialogSheet from "../components/DialogSheet.vue";
import StateNote from "../components/StateNote.vue";
import { grouped, progressOf, type BatchFile } from "../batches";
import { marks } from "../numbers";
import { keys } from "../queries";

type Batch = Schemas["BatchOut"];
const id = Number(useRoute().params.id);
const router = useRouter();
const client = useQueryClient();
const key = keys.batch(id);
const { data, isPending, error, refetch } = useQuery({
  queryKey: key,
  queryFn: () => get("/api/batches/{batch_id}", { batch_id: id }),
  refetchInterval: (query) => (progressOf(query.state.data?.files ?? []) ? 600 : false),
});
const busy = ref(false);
const trouble = ref("");
const onTime = ref(false);
const dropping = ref(false);
const groups = computed(() => grouped(data.value?.files ?? []));
const progress = computed(() => progressOf(data.value?.files ?? []));
const count = (group: string) => groups.value.find((g) => g.id === group)?.files.length ?? 0;
const LEFT_OUT = -1;
const choices = computed(() => [
  { value: LEFT_OUT, word: "no student: leave it out" },
  ...(data.value?.students ?? []).map((s) => ({
    value: s.id,
    word: s.tries_left ? s.name : `${s.name} (no try left)`,
  })),
]);
const nameOf = (student: number | null) => data.value?.students.find((s) => s.id === student)?.name ?? "";
const folder = (path: string) => path.split("/").slice(0, -1).join("/");
const file = (path: string) => path.split("/").at(-1);

async function act(work: () => Promise<unknown>): Promise<void> {
  busy.value = true;
  trouble.value = "";
  try {
    const now = await work();
    if (now && typeof now === "object" && "files" in now) client.setQueryData(key, now as Batch);
    else await refetch();
  } catch (why) {
    trouble.value = saysOf(why);
  } finally {
    busy.value = false;
  }
}
const decide = (f: BatchFile, student: number | null) =>
  act(() =>
    patch(
      "/api/batches/{batch_id}/files/{file_id}",
      { batch_id: id, file_id: f.id },
      { student_id: student === LEFT_OUT ? null : student },
    ),
  );
const handIn = () =>
  act(() => post("/api/batches/{batch_id}/hand-in", { batch_id: id }, { on_time: onTime.value }));
const readAgain = (f: BatchFile) =>
  act(() => post("/api/batches/{batch_id}/files/{file_id}/read-again", { batch_id: id, file_id: f.id }));
const markAgain = (f: BatchFile) =>
  act(() => post("/api/attempts/{attempt_id}/mark-again", { attempt_id: f.attempt_id ?? 0 }));
async function drop(): Promise<void> {
  const issue = data.value?.issue.id;
  await act(() =>
    remove("/api/batches/{batch_id}", { batch_id: id }).then(() => router.push(`/issues/${issue}`)),
  );
}
useTitle(() => data.value && `${data.value.issue.title}, ${data.value.issue.class_name}`);
</script>

<template>
  <AppBar />
  <main class="mx-auto max-w-6xl p-5 sm:p-6">
    <StateNote v-if="isPending || error" :loading="isPending" :error="error" :retry="() => refetch()" />
    <template v-else-if="data">
      <div class="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1>Hand in for {{ data.issue.class_name }}</h1>
          <p class="text-ink2">
            <RouterLink :to="`/issues/${data.issue.id}`">{{ data.issue.title }}</RouterLink> ·
            {{ data.files.length }}
            {{ data.files.length === 1 ? "file" : "files" }}
          </p>
        </div>
        <div class="flex flex-wrap items-center gap-3">
          <label v-if="data.issue.past_due && count('ready')" class="flex items-center gap-2 text-sm">
            <input v-model="onTime" type="checkbox" class="h-4 w-4 accent-teal" /> They came before the due
            date
          </label>
          <button v-if="count('handed-in') < data.files.length" class="press-quiet" @click="dropping = true">
            Discard remaining files
          </button>
          <button
            v-if="count('ready') || count('reading')"
            class="press"
            :disabled="busy || !count('ready') || !!count('reading')"
            @click="handIn"
          >
            Hand in {{ count("ready") }} {{ count("ready") === 1 ? "drawing" : "drawings" }}
          </button>
          <RouterLink
            v-else-if="count('handed-in')"
            :to="`/issues/${data.issue.id}`"
            class="press no-underline"
            >See the class</RouterLink
          >
        </div>
      </div>
      <div v-if="progress" class="paper mt-4 px-4 py-3" aria-live="polite">
        <p>{{ progress.done }} of {{ progress.of }} {{ progress.word }}</p>
        <div
          class="mt-2 h-2 overflow-hidden rounded bg-rule"
          role="progressbar"
          aria-label="Files read"
          :aria-valuenow="progress.done"
          :aria-valuemax="progress.of"
        >
          <div class="h-full bg-teal" :style="{ width: `${(progress.done / progress.of) * 100}%` }"></div>
        </div>
      </div>
      <p v-if="trouble" role="alert" class="mt-3 text-pencil">{{ trouble }}</p>
      <div class="paper mt-4 overflow-x-clip">
        <table class="w-full">
          <thead class="border-b border-rule">
            <tr>
              <th class="cell-head">File</th>
              <th class="cell-head w-64">Student</th>
              <th class="cell-head">Why</th>
              <th class="cell-head w-44">Outcome</th>
            </tr>
          </thead>
          <tbody v-for="g in groups" :key="g.id">
            <tr>
              <th
                colspan="4"
                class="border-t border-rule bg-bar px-2.5 py-1.5 text-left text-sm font-semibold"
              >
                {{ g.word }} · {{ g.files.length }}
              </th>
            </tr>
            <tr
              v-for="f in g.files"
              :key="f.id"
              class="border-t border-rule align-top"
              :data-file="file(f.path)"
            >
              <td class="max-w-72 px-2.5 py-2 break-words">
                {{ file(f.path) }}
                <span v-if="folder(f.path)" class="block text-sm text-ink2">in {{ folder(f.path) }}</span>
              </td>
              <td class="px-2.5 py-1.5">
                <ChoiceList
                  v-if="g.id === 'asked' || g.id === 'ready' || g.id === 'left-out'"
                  :label="`Student of ${file(f.path)}`"
                  :choices="choices"
                  :model-value="g.id === 'left-out' ? LEFT_OUT : f.student_id"
                  :class="g.id === 'asked' ? 'rounded-md outline-2 outline-near' : ''"
                  @update:model-value="(s) => decide(f, s)"
                />
                <span v-else class="block py-0.5">{{ nameOf(f.student_id) }}</span>
              </td>
              <td class="px-2.5 py-2 text-sm text-ink2">
                <span v-if="f.trouble" class="text-pencil">{{ f.trouble }}</span>
                <template v-else>{{ f.why }}</template>
                <button
                  v-if="g.id === 'asked' && f.student_id"
                  class="ml-1 text-teal underline"
                  :disabled="busy"
                  @click="decide(f, f.student_id)"
                >
                  Confirm
                </button>
                <span v-for="n in f.notes" :key="n" class="block font-semibold text-near">{{ n }}</span>
              </td>
              <td class="px-2.5 py-2 text-sm">
                <RouterLink
                  v-if="f.state === 'marked'"
                  :to="`/marking/${f.attempt_id}`"
                  class="font-semibold"
                >
                  {{ marks(f.earned ?? 0) }} of {{ marks(f.possible ?? 0).replace(/\.00$/, "") }}
                </RouterLink>
                <span v-else-if="f.state === 'waiting'" class="text-near">being marked …</span>
                <span v-else-if="f.state === 'reading'" class="text-near">being read …</span>
                <template v-else-if="f.trouble">
                  <button
                    class="block text-teal underline"
                    :disabled="busy"
                    @click="f.attempt_id ? markAgain(f) : readAgain(f)"
                  >
                    Try again
                  </button>
                </template>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
    </template>
    <DialogSheet :open="dropping" title="Discard remaining files?" @close="dropping = false">
      <p class="mt-2 text-ink2">
        Files that are not handed in are deleted here; your own copies stay. Drawings that were handed in
        stay, too.
      </p>
      <div class="mt-4 flex justify-end gap-2">
        <button class="press-quiet" @click="dropping = false">Cancel</button>
        <button class="press" :disabled="busy" @click="drop">Discard files</button>
      </div>
    </DialogSheet>
  </main>
</template>
