<script setup lang="ts">
/** What can be done with a whole exercise: duplicating it, putting it away, deleting it, its record. */
import { useQueryClient } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { useRouter } from "vue-router";
import { fileForm, get, post, remove, upload, type Schemas } from "../api/client";
import { useAct } from "../useAct";
import AskDialog from "./AskDialog.vue";
import FileDrop from "./FileDrop.vue";
import MoreMenu from "./MoreMenu.vue";
import NameDialog from "./NameDialog.vue";
import { keys } from "../queries";
import { many } from "../counted";

const props = defineProps<{ page: Schemas["ExercisePage"] }>();
const emit = defineEmits<{ open: [open: boolean] }>();
const router = useRouter();
const client = useQueryClient();
const asking = ref<"copy" | "delete" | null>(null);
const goes = ref<Schemas["ExerciseGoes"] | null>(null);
const otherKey = ref<File | null>(null);
const { busy, trouble: refused, act, clear } = useAct();
const here = () => ({ revision_id: props.page.revision_id });
async function archive(away: boolean): Promise<void> {
  if (await act(() => post("/api/exercises/{revision_id}/archive", here(), { away })))
    await client.invalidateQueries();
}
async function copy(title: string): Promise<void> {
  const form = otherKey.value ? fileForm(otherKey.value, { title }) : new FormData();
  form.set("title", title);
  const made = await act(() => upload("/api/exercises/{revision_id}/duplicate", here(), form));
  if (!made) return;
  asking.value = null;
  await client.invalidateQueries({ queryKey: keys.exercises });
  await router.push(`/exercises/${made.revision_id}`);
}
/** The key on a board of its own: it can be added to there, and become the key of an exercise. */
async function drawOn(): Promise<void> {
  const made = await act(() => post("/api/exercises/{revision_id}/board", here()));
  if (made) await router.push(`/boards/${made.board_id}`);
}
function askToCopy(): void {
  clear();
  otherKey.value = null;
  asking.value = "copy";
}
async function askToDelete(): Promise<void> {
  clear();
  goes.value = null;
  asking.value = "delete";
  goes.value = (await act(() => get("/api/exercises/{revision_id}/deletion", here()))) ?? null;
}
async function deleteAll(): Promise<void> {
  if (!(await act(() => remove("/api/exercises/{revision_id}", here())))) return;
  client.clear();
  await router.push("/exercises");
}
const items = computed(() => [
  { word: "Duplicate", act: askToCopy },
  { word: "Draw on its key", act: drawOn },
  { word: "Record", to: `/record?exercise=${props.page.exercise_id}` },
  props.page.archived
    ? { word: "Restore", act: () => archive(false) }
    : { word: "Archive", act: () => archive(true) },
  { word: "Delete exercise", ends: true, act: askToDelete },
]);
watch(asking, (what) => emit("open", what !== null));
</script>

<template>
  <MoreMenu :items="items" label="More about this exercise" />
  <NameDialog
    :open="asking === 'copy'"
    title="Duplicate this exercise"
    label="Title of the new exercise"
    word="Duplicate exercise"
    :start="page.title"
    :most="160"
    :busy="busy"
    :trouble="refused"
    @close="asking = null"
    @take="copy"
  >
    <FileDrop
      :label="otherKey ? otherKey.name : 'With another key'"
      says="optional: DXF, SVG or steps"
      accept=".dxf,.svg,.txt,.json"
      @file="(f) => (otherKey = f)"
    />
    <p class="text-sm text-ink2">
      Instructions, tolerances and marks are copied, drawings of students are not. With another key, what
      counts is proposed again.
    </p>
  </NameDialog>
  <AskDialog
    :open="asking === 'delete'"
    :title="`Delete “${page.title}” for good?`"
    word="Delete exercise"
    ends
    :busy="busy || !goes"
    :trouble="refused"
    @close="asking = null"
    @yes="deleteAll"
  >
    <p v-if="goes?.attempts">
      This also deletes {{ many(goes.attempts, "drawing") }} that {{ many(goes.students, "student") }} handed
      in, with every mark and comment.
    </p>
    <p v-else-if="goes?.issues">
      It is issued, and nobody has handed in yet. Students will no longer find it.
    </p>
    <p>You cannot undo this. To keep everything and only hide it, choose Archive.</p>
  </AskDialog>
</template>
