<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { useRoute, useRouter } from "vue-router";
import { fileForm, get, type Schemas } from "../api/client";
import AppBar from "../components/AppBar.vue";
import OnTheBoard from "../components/board/OnTheBoard.vue";
import ChoiceList from "../components/ChoiceList.vue";
import DialogSheet from "../components/DialogSheet.vue";
import FileDrop from "../components/FileDrop.vue";
import FindBar from "../components/FindBar.vue";
import PageSteps from "../components/PageSteps.vue";
import StateNote from "../components/StateNote.vue";
import { away } from "../times";
import { useListing } from "../useListing";
import { useUpload } from "../useUpload";
import { keys } from "../queries";

type Row = Schemas["ExerciseRow"];
const route = useRoute();
const router = useRouter();
const { data, isPending, error, refetch } = useQuery({
  queryKey: keys.exercises,
  queryFn: () => get("/api/exercises"),
});
const PASSES: Record<string, (e: Row) => boolean> = {
  here: (e) => !e.archived,
  issued: (e) => !e.archived && e.classes.length > 0,
  not: (e) => !e.archived && !e.classes.length,
  away: (e) => e.archived,
};
const which = [
  { value: "here", word: "all" },
  { value: "issued", word: "issued" },
  { value: "not", word: "not issued" },
  { value: "away", word: "archived" },
];
const rows = computed(() => data.value?.exercises ?? []);
const list = useListing(rows, {
  textOf: (e) => [e.title, e.key_name, ...e.classes].join(" "),
  per: 24,
  filters: { which: { otherwise: "here", passes: (e, value) => (PASSES[value] ?? (() => true))(e) } },
});
const { find, page, pages, shown, count, first } = list;
const filter = list.filter("which");

const drawn = ref<InstanceType<typeof OnTheBoard> | null>(null);
const making = ref(route.query.new === "1");
const title = ref("");
const text = ref("");
const file = ref<File | null>(null);
const { busy, share, trouble, send, stop } = useUpload();

function take(chosen: File): void {
  file.value = chosen;
  trouble.value = "";
  if (!title.value) title.value = chosen.name.replace(/\.[^.]*$/, "").replace(/[_-]+/g, " ");
}
async function make(): Promise<void> {
  const key = file.value;
  if (!key) return;
  const form = fileForm(key, { title: title.value, text: text.value });
  const made = await send("/api/exercises", undefined, form);
  if (made) await router.push(`/exercises/${made.revision_id}`);
}
</script>

<template>
  <AppBar />
  <main class="mx-auto max-w-6xl p-5 sm:p-6">
    <div class="flex items-end justify-between gap-4">
      <h1>Exercises</h1>
      <span class="flex flex-wrap justify-end gap-2">
        <button class="press-quiet" :disabled="!drawn" @click="drawn?.begin()">Draw a key</button>
        <button class="press" @click="making = true">New exercise</button>
      </span>
    </div>
    <StateNote
      v-if="isPending || error"
      class="mt-5"
      :loading="isPending"
      :error="error"
      :retry="() => refetch()"
    />
    <StateNote v-else-if="!rows.length" class="mt-5">
      No exercises yet. Begin with a key: the drawing as it should be, as a DXF or SVG file, or a document of
      steps.
    </StateNote>
    <template v-else>
      <FindBar
        v-model="find"
        label="Find an exercise"
        :count="count"
        one="exercise"
        many="exercises"
        none="Nothing found. Try fewer words, or choose All."
      >
        <ChoiceList v-model="filter" label="Which exercises" small :choices="which" />
      </FindBar>
      <ul class="mt-4 grid gap-4 sm:grid-cols-2 lg:grid-cols-3">
        <li v-for="e in shown" :key="e.exercise_id" class="min-w-0">
          <RouterLink
            :to="`/exercises/${e.revision_id}`"
            class="paper block overflow-hidden text-ink no-underline hover:border-teal"
          >
            <img
              :src="`/api/exercises/${e.revision_id}/sheet.png`"
              :alt="`Sheet of ${e.title}`"
              class="aspect-[297/190] w-full border-b border-rule bg-white object-cover object-top"
              loading="lazy"
            />
            <span class="block px-4 py-3">
              <span class="block truncate font-semibold" :title="e.title">{{ e.title }}</span>
              <span class="block truncate text-sm text-ink2" :title="e.classes.join(', ')">
                {{ e.classes.length ? `issued to ${e.classes.join(", ")}` : "not issued" }} · changed
                {{ away(e.changed_at) }}
              </span>
            </span>
          </RouterLink>
        </li>
      </ul>
      <PageSteps v-model="page" :first="first" :shown="shown.length" :count="count" :pages="pages" />
    </template>
    <!-- behind the list, once that is there: what is about to be pressed does not move -->
    <OnTheBoard v-if="data" ref="drawn" />
    <DialogSheet :open="making" title="New exercise" @close="making = false">
      <form class="mt-4 space-y-3" @submit.prevent="make">
        <FileDrop
          :label="file ? file.name : 'Choose the key drawing'"
          accept=".dxf,.svg,.txt,.json"
          says="a DXF file of any version, SVG, or a document of steps; drop it here or choose it"
          :busy="busy"
          :share="share"
          @stop="stop"
          @file="take"
        />
        <div>
          <label class="block text-sm font-semibold" for="title">Title</label>
          <input id="title" v-model="title" class="field mt-1" maxlength="160" required />
        </div>
        <div>
          <label class="block text-sm font-semibold" for="text">Instructions for students</label>
          <textarea id="text" v-model="text" class="field mt-1" rows="3"></textarea>
        </div>
        <p v-if="trouble" role="alert" class="text-pencil">{{ trouble }}</p>
        <div class="flex justify-end gap-2 pt-2">
          <button type="button" class="press-quiet" @click="making = false">Cancel</button>
          <button class="press" :disabled="busy || !file">
            {{ busy ? "Reading the key …" : "Create exercise" }}
          </button>
        </div>
      </form>
    </DialogSheet>
  </main>
</template>
