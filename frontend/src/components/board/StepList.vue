<script setup lang="ts">
/** The list of steps: readable sentences; each can be chosen, corrected in its place, moved, taken away. */
import { computed, nextTick, ref, watch } from "vue";
import { layersOf } from "../../board/rows";
import type { StepAct } from "../../board/stepActs";
import type { Row } from "../../board/types";
import StepRow from "./StepRow.vue";

const props = defineProps<{
  rows: readonly Row[];
  chosen: ReadonlySet<number>;
  editing: number | null;
  before: number | null;
}>();
const emit = defineEmits<{
  choose: [id: number, more: boolean];
  edit: [row: Row];
  away: [row: Row];
  insert: [row: Row];
  move: [row: Row, by: -1 | 1];
  mark: [row: Row];
  unmark: [row: Row];
  rename: [row: Row, says: string];
  back: [row: Row];
}>();
const root = ref<HTMLElement | null>(null);
const focused = ref<string | null>(null);
/** The bookmark or remark that is being written over. */
const naming = ref<string | null>(null);
const vSelect = { mounted: (field: HTMLInputElement) => field.select() };
function named(e: FocusEvent, row: Row): void {
  if (naming.value !== row.key) return;
  naming.value = null;
  emit("rename", row, (e.target as HTMLInputElement).value.trim());
}
const layers = computed(() => layersOf(props.rows));
const CHUNK = 60;
const chunks = computed(() => {
  const out: Row[][] = [];
  for (let n = 0; n < props.rows.length; n += CHUNK) out.push(props.rows.slice(n, n + CHUNK));
  return out;
});
const lastStep = computed(() => props.rows.findLast((r) => r.kind === "step")?.line ?? -1);

function focusRow(key: string): void {
  focused.value = key;
  void nextTick(() => root.value?.querySelector<HTMLElement>(`[data-row="${key}"]`)?.focus());
}
const goneTo = (key: string): void => {
  focused.value = key;
};
const choose = (id: number, more: boolean): void => emit("choose", id, more);
function act(what: StepAct, row: Row): void {
  if (what === "up" || what === "down") emit("move", row, what === "up" ? -1 : 1);
  else if (what === "edit") emit("edit", row);
  else if (what === "insert") emit("insert", row);
  else if (what === "mark") emit("mark", row);
  else emit("away", row);
}
function key(e: KeyboardEvent, row: Row): void {
  if (e.target !== e.currentTarget) return;
  const n = props.rows.indexOf(row);
  const acts: Record<string, () => void> = {
    ArrowDown: () => focusRow(props.rows[n + 1]?.key ?? row.key),
    ArrowUp: () => focusRow(props.rows[n - 1]?.key ?? row.key),
    Enter: () => row.kind === "step" && emit("edit", row),
    " ": () => row.id && emit("choose", row.id, e.shiftKey),
    Delete: () => (row.kind === "step" ? emit("away", row) : emit("unmark", row)),
    Backspace: () => (row.kind === "step" ? emit("away", row) : emit("unmark", row)),
  };
  if (e.altKey && row.kind === "step" && (e.key === "ArrowUp" || e.key === "ArrowDown")) {
    emit("move", row, e.key === "ArrowUp" ? -1 : 1);
    e.preventDefault();
    return;
  }
  const done = acts[e.key];
  if (!done) return;
  done();
  e.preventDefault();
  e.stopPropagation();
}
watch(
  () => props.rows.length,
  () => void nextTick(() => root.value?.scrollTo({ top: root.value.scrollHeight })),
);
const first = computed(() => focused.value ?? props.rows.at(-1)?.key ?? null);
</script>

<template>
  <div ref="root" class="paper min-h-32 shrink overflow-y-auto" role="list" aria-label="Steps" data-steps>
    <!-- what is out of sight of a long list is not laid out -->
    <div v-for="(chunk, c) in chunks" :key="c" class="chunk" role="presentation">
      <template v-for="row in chunk" :key="row.key">
        <StepRow
          v-if="row.kind === 'step'"
          :row="row"
          :chosen="!!row.id && chosen.has(row.id)"
          :editing="editing === row.id"
          :before="before === row.id"
          :layer="layers.get(row.key) ?? ''"
          :first="first === row.key"
          @choose="choose"
          @act="act"
          @key="key"
          @focused="goneTo"
        />
        <div v-else class="row bg-bar" role="listitem">
          <div
            class="flex items-baseline gap-2 px-3 py-1.5 text-teal"
            role="group"
            :aria-label="`${row.kind}: ${row.says}`"
            :tabindex="first === row.key ? 0 : -1"
            :data-row="row.key"
            @keydown="(e) => key(e, row)"
            @focus="focused = row.key"
          >
            <span aria-hidden="true">{{ row.kind === "bookmark" ? "▸" : "#" }}</span>
            <input
              v-if="naming === row.key"
              v-select
              class="min-w-0 flex-1 border-b border-teal bg-transparent"
              :value="row.says"
              :aria-label="`Say otherwise: ${row.says}`"
              maxlength="200"
              @keydown.stop.enter="(e) => (e.target as HTMLInputElement).blur()"
              @keydown.stop.esc="naming = null"
              @keydown.stop
              @blur="(e) => named(e, row)"
            />
            <button
              v-else
              type="button"
              class="min-w-0 flex-1 text-left break-words"
              :class="row.kind === 'remark' && 'text-ink2'"
              :title="`Say otherwise: ${row.says || 'bookmark'}`"
              @click="naming = row.key"
            >
              {{ row.says || "bookmark" }}
            </button>
            <button
              v-if="row.kind === 'bookmark' && row.line < lastStep"
              type="button"
              class="text-sm text-ink2 hover:text-teal"
              :aria-label="`go back here: ${row.says || 'bookmark'}`"
              @click.stop="emit('back', row)"
            >
              go back here
            </button>
            <button
              type="button"
              class="text-sm text-ink2 hover:text-teal"
              :aria-label="`take away: ${row.says || 'bookmark'}`"
              @click.stop="emit('unmark', row)"
            >
              take away
            </button>
          </div>
        </div>
      </template>
    </div>
    <div v-if="!rows.length" class="px-4 py-5 text-ink2" role="listitem" data-empty>
      Nothing is drawn yet. Choose what to draw below, or type it: each step is one sentence, and stands here
      to be read and corrected.
    </div>
  </div>
</template>

<style scoped>
.chunk {
  content-visibility: auto;
  contain-intrinsic-size: auto 150rem;
}
.row {
  border-top: 1px solid var(--color-rule);
}
</style>
