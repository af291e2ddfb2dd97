<script setup lang="ts">
/** Students by checks: one sign a cell, the words of a cell above the grid; by mouse, by touch and by arrow keys. */
import { computed, nextTick, onMounted, ref, watch } from "vue";
import { useRoute, useRouter } from "vue-router";
import type { Schemas, Verdict } from "../api/client";
import { signs } from "../signs";
import GridReading from "./GridReading.vue";
import { marks } from "../numbers";

const SIGNS = signs();

const props = defineProps<{
  students: Schemas["ResultRow"][];
  checks: Schemas["CheckOut"][];
  order: "number" | "missed" | "open";
  /** The key, for the picture of what a check is about. */
  scene?: Schemas["Scene"] | undefined;
}>();
const route = useRoute();
const router = useRouter();
const root = ref<HTMLElement | null>(null);
const at = ref<{ row: number; column: number } | null>(null);

/** More columns than this nobody reads, and no browser draws gladly. */
const MOST = 400;
const wanted = computed(() => {
  const all = props.checks.map((check, index) => ({ check, index }));
  if (props.order === "number") return all;
  const missed = props.order === "open" ? all.filter((c) => c.check.missed) : all;
  return [...missed].sort((a, b) => b.check.missed - a.check.missed || a.index - b.index);
});
const columns = computed(() => wanted.value.slice(0, MOST));
const most = computed(() => Math.max(1, ...props.checks.map((c) => c.missed)));
const cellOf = (row: number, column: number): Verdict | null => {
  const index = columns.value[column]?.index;
  return index === undefined ? null : (props.students[row]?.cells[index] ?? null);
};
/** The row of the heads of columns. */
const HEAD = -1;
const asked = computed(() => (at.value ? (columns.value[at.value.column]?.check ?? null) : null));
const reading = computed(() => {
  const here = at.value;
  if (!here) return null;
  const student = props.students[here.row];
  const column = columns.value[here.column];
  if (!student || !column) return null;
  const verdict = cellOf(here.row, here.column);
  const byHand = student.by_hand.includes(column.check.id);
  return { student, verdict, byHand };
});

/** Where one was stands in the address of this page, so that going back finds it again. */
async function open(row: number, column: number): Promise<void> {
  const student = props.students[row];
  const check = columns.value[column]?.check;
  if (!student?.attempt_id || !check) return;
  await router.replace({ query: { ...route.query, at: `${student.student_id}-${check.id}` } });
  await router.push(`/marking/${student.attempt_id}?finding=${check.id}`);
}
onMounted(async () => {
  const [student, check] = String(route.query.at ?? "")
    .split("-")
    .map(Number);
  const row = props.students.findIndex((s) => s.student_id === student);
  const column = columns.value.findIndex((c) => c.check.id === check);
  if (row < 0 || column < 0) return;
  at.value = { row, column };
  await nextTick();
  root.value?.querySelector<HTMLElement>("[role=grid]")?.focus({ preventScroll: true });
  cellHere()?.scrollIntoView({ block: "nearest", inline: "nearest" });
});
function move(e: KeyboardEvent): void {
  const here = at.value ?? { row: 0, column: 0 };
  const by: Record<string, [number, number]> = {
    ArrowUp: [-1, 0],
    ArrowDown: [1, 0],
    ArrowLeft: [0, -1],
    ArrowRight: [0, 1],
  };
  if (e.key === "Enter") return void open(here.row, here.column);
  const step = by[e.key];
  if (!step) return;
  e.preventDefault();
  at.value = {
    row: Math.min(Math.max(here.row + step[0], HEAD), props.students.length - 1),
    column: Math.min(Math.max(here.column + step[1], 0), columns.value.length - 1),
  };
  cellHere()?.scrollIntoView({ block: "nearest", inline: "nearest" });
}
const cellHere = () =>
  at.value ? root.value?.querySelector<HTMLElement>(`#cell-${at.value.row}-${at.value.column}`) : null;
/** Frames that lie over the table: moving them draws none of its cells again. */
const spot = ref<Record<"cell" | "line" | "column", Record<string, string>> | null>(null);
function frame(x: number, y: number, width: number, height: number): Record<string, string> {
  return { transform: `translate(${x}px, ${y}px)`, width: `${width}px`, height: `${height}px` };
}
function lay(): void {
  const cell = cellHere();
  const table = cell?.closest("table");
  if (!cell || !table) return void (spot.value = null);
  const [x, y, w, h] = [cell.offsetLeft, cell.offsetTop, cell.offsetWidth, cell.offsetHeight];
  spot.value = {
    cell: frame(x, y, w, h),
    line: frame(0, y, table.offsetWidth, h),
    column: frame(x, 0, w, table.offsetHeight),
  };
}
watch([at, columns, () => props.students], lay, { flush: "post" });
function go(row: number, column: number): void {
  if (at.value?.row !== row || at.value.column !== column) at.value = { row, column };
}
/** A pointer that moves says where one is; one that lies still while the page is laid out says nothing. */
function point(e: Event): void {
  const head = (e.target as HTMLElement).closest<HTMLElement>("[data-head]");
  if (head) return go(HEAD, Number(head.dataset.head));
  const cell = (e.target as HTMLElement).closest<HTMLElement>("[data-cell]");
  const [row, column] = (cell?.dataset.cell ?? "").split(" ").map(Number);
  if (row !== undefined && column !== undefined && !Number.isNaN(row)) go(row, column);
}
function press(e: MouseEvent): void {
  point(e);
  if ((e.target as HTMLElement).closest("[data-cell]") && at.value) void open(at.value.row, at.value.column);
}
</script>

<template>
  <div>
    <GridReading :asked="asked" :reading="reading" :scene="scene" />
    <div
      ref="root"
      class="paper relative max-h-[78vh] overflow-auto will-change-scroll"
      @pointermove="point"
      @click="press"
    >
      <template v-if="spot">
        <div class="over line" :style="spot.line" aria-hidden="true"></div>
        <div class="over column" :style="spot.column" aria-hidden="true"></div>
        <div class="over spot" :style="spot.cell" aria-hidden="true" data-spot></div>
      </template>
      <table
        :style="SIGNS"
        class="grid-table border-separate border-spacing-0 text-[0.86rem]"
        tabindex="0"
        role="grid"
        aria-label="Students by checks"
        :aria-activedescendant="at ? `cell-${at.row}-${at.column}` : undefined"
        @keydown="move"
      >
        <thead>
          <tr>
            <th class="name sticky top-0 left-0 z-20 bg-bar px-2 text-left font-semibold text-ink2">
              Student
            </th>
            <th class="sticky top-0 z-10 bg-bar px-2 text-right font-semibold text-ink2">Marks</th>
            <th
              v-for="(c, n) in columns"
              :id="`cell-${HEAD}-${n}`"
              :key="c.check.id"
              v-memo="[c, n]"
              class="sticky top-0 z-10 bg-bar font-semibold text-ink2"
              :data-head="n"
              :aria-label="`${c.check.id} ${c.check.name}`"
            >
              <span class="turned">{{ c.check.id }}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <!-- thousands of cells are drawn once: where one is lies over them -->
          <tr v-for="(s, r) in students" :key="s.student_id" v-memo="[s, r, columns]">
            <th class="name sticky left-0 z-10 bg-sheet px-2 text-left font-normal" scope="row">
              <span class="flex items-baseline gap-2">
                <RouterLink
                  v-if="s.attempt_id"
                  :to="`/marking/${s.attempt_id}`"
                  class="truncate font-semibold text-ink no-underline hover:text-teal"
                  :title="s.name"
                  @click.stop
                  >{{ s.name }}</RouterLink
                >
                <span v-else class="truncate text-ink2">{{ s.name }}</span>
                <span
                  v-if="s.key"
                  class="text-[0.76rem] text-ink2"
                  title="Compared with another accepted key, which has its own checks"
                  >key {{ s.key + 1 }}</span
                >
                <span
                  v-if="s.allowance"
                  class="text-[0.76rem] text-ink2"
                  title="Has a later date or more tries"
                  >more</span
                >
                <span v-if="s.late" class="text-[0.76rem] font-semibold text-near">late</span>
                <span v-if="s.returned === 'changed'" class="ml-auto text-[0.76rem] text-near">changed</span>
                <span v-else-if="s.returned === 'yes'" class="ml-auto text-[0.76rem] text-ink2"
                  >returned</span
                >
              </span>
            </th>
            <td class="px-2 text-right font-semibold whitespace-nowrap">
              <template v-if="s.earned !== null">{{ marks(s.earned) }}</template>
              <span v-else-if="s.state === 'waiting'" class="font-normal text-near">marking …</span>
              <span v-else-if="s.state === 'failed'" class="font-normal text-pencil" :title="s.trouble ?? ''"
                >failed</span
              >
            </td>
            <td
              v-for="(c, n) in columns"
              :id="`cell-${r}-${n}`"
              :key="c.check.id"
              class="cell"
              :class="[s.cells[c.index] ?? 'empty', s.by_hand.includes(c.check.id) && 'by-hand']"
              :data-cell="`${r} ${n}`"
              role="gridcell"
              :aria-label="`${s.name}, ${c.check.id}: ${s.cells[c.index] ?? 'nothing'}`"
            ></td>
          </tr>
        </tbody>
        <tfoot>
          <tr>
            <th class="name sticky bottom-0 left-0 z-20 bg-bar px-2 text-left font-semibold text-ink2">
              Missed by
            </th>
            <td class="sticky bottom-0 z-10 bg-bar"></td>
            <td
              v-for="c in columns"
              :key="c.check.id"
              v-memo="[c, most]"
              class="sticky bottom-0 z-10 bg-bar text-center align-bottom text-[0.72rem] text-pencil"
            >
              <span
                class="mx-auto block w-2 bg-pencil/60"
                :style="{ height: `${(c.check.missed / most) * 18}px` }"
              ></span>
              {{ c.check.missed || "" }}
            </td>
          </tr>
        </tfoot>
      </table>
    </div>
    <p v-if="wanted.length > columns.length" class="mt-1 text-sm text-ink2">
      {{ wanted.length - columns.length }} more checks are not shown. The CSV has them all.
    </p>
  </div>
</template>

<style scoped>
.name {
  min-width: 11.5rem;
  max-width: 13rem;
}
.turned {
  display: inline-block;
  writing-mode: vertical-rl;
  transform: rotate(180deg);
  padding: 4px 0;
  font-size: 0.74rem;
  line-height: 1;
  vertical-align: bottom;
}
tbody td,
tbody th {
  height: 20px;
  border-bottom: 1px solid var(--color-hair);
}
.cell {
  width: 16px;
  min-width: 16px;
  max-width: 16px;
  padding: 0;
  cursor: pointer;
  border-left: 1px solid var(--color-hair-soft);
  background: center / 14px no-repeat;
  print-color-adjust: exact;
}
.met {
  background-image: var(--sign-met);
}
.near {
  background-color: var(--color-near-soft);
  background-image: var(--sign-near);
}
.missed,
.absent {
  background-color: var(--color-pencil-soft);
}
.missed {
  background-image: var(--sign-missed);
}
.absent {
  background-image: var(--sign-absent);
}
.follows {
  background-color: var(--color-follows-soft);
  background-image: var(--sign-follows);
}
.cell.empty {
  cursor: default;
}
.cell.by-hand {
  box-shadow: inset 0 -2px 0 var(--color-teal);
}
.over {
  position: absolute;
  top: 0;
  left: 0;
  z-index: 5;
  pointer-events: none;
  will-change: transform;
}
.line {
  border-bottom: 1px solid var(--color-teal);
}
.column {
  border-inline: 1px solid color-mix(in srgb, var(--color-teal) 25%, transparent);
}
.spot {
  outline: 2px solid var(--color-teal);
  outline-offset: -1px;
}
</style>
