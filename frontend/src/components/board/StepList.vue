<script setup lang="ts">
/** The list of steps: readable sentences; each can be chosen, corrected in its place, moved, deleted; parts fold under their headings. */
import { useStorage } from "@vueuse/core";
import { computed, nextTick, ref, watch } from "vue";
import { headingOf, listed, type ListedRow, type NamedPart } from "../../board/listed";
import { layersOf } from "../../board/rows";
import type { LayerRow, Row } from "../../board/types";
import StepHeading from "./StepHeading.vue";
import StepRow from "./StepRow.vue";

const props = defineProps<{
  board: number;
  rows: readonly Row[];
  layers: readonly LayerRow[];
  chosen: ReadonlySet<number>;
  editing: number | null;
  before: number | null;
  /** What is looked for in the list. */
  find: string;
}>();
const emit = defineEmits<{
  choose: [id: number, more: boolean];
  name: [name: NamedPart];
  /** The pointer is over a step, or over none any more. */
  over: [id: number | null];
  edit: [row: Row, number?: [number, number]];
  away: [row: Row];
  move: [row: Row, by: -1 | 1];
  unmark: [row: Row];
  rename: [row: Row, says: string];
  back: [row: Row];
}>();
const root = ref<HTMLElement | null>(null);
const focused = ref<string | null>(null);
const foldedKeys = useStorage<string[]>(`even-mark board ${props.board} folded`, []);
const folded = computed(() => new Set(foldedKeys.value));
const shown = computed(() => listed(props.rows, folded.value, props.find));
const layers = computed(() => layersOf(props.rows, props.layers));
const CHUNK = 60;
/** How many rows stay in view at least, and how high one is. */
const IN_VIEW = 8;
const ROW_REM = 2.3;
const chunks = computed(() => {
  const out: ListedRow[][] = [];
  for (let n = 0; n < shown.value.length; n += CHUNK) out.push(shown.value.slice(n, n + CHUNK));
  return out;
});
const lastStep = computed(() => props.rows.findLast((r) => r.kind === "step")?.line ?? -1);
/** Steps that use the one under the pointer. */
const over = ref<number | null>(null);
const uses = computed(() => {
  const id = over.value;
  if (id === null) return new Set<string>();
  return new Set(props.rows.filter((r) => r.refs?.some(([, , step]) => step === id)).map((r) => r.key));
});
function pointAt(id: number | null): void {
  over.value = id;
  emit("over", id);
}

function fold(key: string): void {
  foldedKeys.value = folded.value.has(key)
    ? foldedKeys.value.filter((k) => k !== key)
    : [...foldedKeys.value, key];
}
function focusRow(key: string): void {
  focused.value = key;
  void nextTick(() => root.value?.querySelector<HTMLElement>(`[data-row="${key}"]`)?.focus());
}
const goneTo = (key: string): void => {
  focused.value = key;
};
const choose = (id: number, more: boolean): void => emit("choose", id, more);
function key(e: KeyboardEvent, row: Row): void {
  if (e.target !== e.currentTarget) return;
  const n = shown.value.findIndex((l) => l.row === row);
  const acts: Record<string, () => void> = {
    ArrowDown: () => focusRow(shown.value[n + 1]?.row.key ?? row.key),
    ArrowUp: () => focusRow(shown.value[n - 1]?.row.key ?? row.key),
    Enter: () => (row.kind === "step" ? emit("edit", row) : fold(row.key)),
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
/** Brings a step into view, out of a folded part, too. */
function show(id: number): void {
  const row = props.rows.find((r) => r.id === id);
  if (!row) return;
  const heading = headingOf(props.rows, row.key);
  if (heading && folded.value.has(heading)) fold(heading);
  void nextTick(() =>
    root.value?.querySelector(`[data-row="${row.key}"]`)?.scrollIntoView({ block: "nearest" }),
  );
}
watch(
  () => props.chosen,
  (now) => {
    const [first] = now;
    if (first !== undefined) show(first);
  },
);
watch(
  () => props.rows.length,
  () => void nextTick(() => root.value?.scrollTo({ top: root.value.scrollHeight })),
);
const first = computed(() => focused.value ?? shown.value.at(-1)?.row.key ?? null);
defineExpose({ show });
</script>

<template>
  <div
    ref="root"
    class="paper min-h-0 flex-1 overflow-y-auto"
    :style="{ minHeight: `${Math.max(Math.min(rows.length, IN_VIEW), 3) * ROW_REM}rem` }"
    role="list"
    aria-label="Steps"
    data-steps
    :tabindex="shown.length ? undefined : 0"
    @pointerleave="pointAt(null)"
  >
    <!-- what is out of sight of a long list is not laid out -->
    <div v-for="(chunk, c) in chunks" :key="c" class="chunk" role="presentation">
      <template v-for="one in chunk" :key="one.row.key">
        <StepRow
          v-if="one.row.kind === 'step'"
          :row="one.row"
          :chosen="!!one.row.id && chosen.has(one.row.id)"
          :editing="editing === one.row.id"
          :before="before === one.row.id"
          :uses="uses.has(one.row.key)"
          :layer="layers.get(one.row.key)?.name ?? ''"
          :line-type="layers.get(one.row.key)?.lineType ?? ''"
          :first="first === one.row.key"
          @choose="choose"
          @name="(name) => emit('name', name)"
          @number="(row, at) => emit('edit', row, at)"
          @edit="emit('edit', one.row)"
          @key="key"
          @focused="goneTo"
          @pointerenter="pointAt(one.row.id ?? null)"
        />
        <StepHeading
          v-else
          :listed="one"
          :folded="folded.has(one.row.key)"
          :goes-back="one.row.line < lastStep"
          :first="first === one.row.key"
          @fold="fold(one.row.key)"
          @back="emit('back', one.row)"
          @unmark="emit('unmark', one.row)"
          @rename="(says) => emit('rename', one.row, says)"
          @key="(e) => key(e, one.row)"
          @focused="focused = one.row.key"
        />
      </template>
    </div>
    <div v-if="!rows.length" class="px-4 py-5 text-ink2" role="listitem" data-empty>
      Nothing is drawn yet. Choose what to draw below, or type it: each step is one sentence, listed here to
      be read and corrected.
    </div>
    <div v-else-if="!shown.length" class="px-4 py-5 text-ink2" role="listitem">
      Nothing found. Try fewer words.
    </div>
  </div>
</template>

<style scoped>
.chunk {
  content-visibility: auto;
  contain-intrinsic-size: auto 150rem;
}
</style>
