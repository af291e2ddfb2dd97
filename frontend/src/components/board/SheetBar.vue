<script setup lang="ts">
/** Below the sheet: fit, what is caught, how level and plumb draw the pointer, the grid; where the pointer is. */
import { computed } from "vue";
import type { Framing } from "../../board/useFrame";
import type { Hold } from "../../board/useSentence";

const settings = defineModel<Hold>({ required: true });
const framing = defineModel<Framing>("framing", { required: true });
defineProps<{ unit: string; at: string; measuring: boolean; canGoBack: boolean }>();
const emit = defineEmits<{ fit: []; back: []; measure: [] }>();
const toggle = (which: Framing) => (framing.value = framing.value === which ? "" : which);

const LEVELS = ["gently", "firmly", "not"] as const;
/** What catches are called where the engine has another word for them. */
const WORDS: Record<string, string> = { touch: "tangent" };
const CATCHES = ["", "end", "crossing", "centre", "middle", "quarter", "touch", "foot", "nearest"];
function nextLevel(): void {
  const n = LEVELS.indexOf(settings.value.level);
  settings.value = { ...settings.value, level: LEVELS[(n + 1) % 3] ?? "gently" };
}
const catchWord = computed(() =>
  settings.value.off ? "none" : (WORDS[settings.value.held] ?? (settings.value.held || "all")),
);
function setCatch(e: Event): void {
  const value = (e.target as HTMLSelectElement).value;
  settings.value = { ...settings.value, off: value === "none", held: value === "none" ? "" : value };
}
function setGrid(e: Event): void {
  settings.value = { ...settings.value, grid: Number((e.target as HTMLSelectElement).value) || 0 };
}
</script>

<template>
  <div class="sheet-bar">
    <button class="press-quiet !px-2.5 !py-1" @click="emit('fit')">Fit</button>
    <button
      class="bar"
      :class="framing === 'zoom' && 'on'"
      :aria-pressed="framing === 'zoom'"
      title="Zoom to a frame that you drag"
      @click="toggle('zoom')"
    >
      zoom
    </button>
    <button v-if="canGoBack" class="bar" title="Go back to the view before" @click="emit('back')">
      view before
    </button>
    <button
      class="bar"
      :class="framing === 'choose' && 'on'"
      :aria-pressed="framing === 'choose'"
      title="Select by a frame that you drag; Shift+drag does so, too"
      @click="toggle('choose')"
    >
      frame
    </button>
    <label class="bar">
      catches
      <select
        :value="settings.off ? 'none' : settings.held"
        :aria-label="`Catches: ${catchWord}`"
        @change="setCatch"
      >
        <option value="">all</option>
        <option v-for="c in CATCHES.slice(1)" :key="c" :value="c">{{ WORDS[c] ?? c }}</option>
        <option value="none">none</option>
      </select>
    </label>
    <button
      class="bar"
      :aria-label="`Straighten: ${settings.level}`"
      title="Draws the pointer to horizontal and vertical"
      @click="nextLevel"
    >
      straighten <strong class="text-teal">{{ settings.level }}</strong>
    </button>
    <label class="bar">
      grid
      <select :value="settings.grid" aria-label="Grid" @change="setGrid">
        <option :value="0">none</option>
        <option
          v-for="g in unit === 'in' ? [0.0625, 0.125, 0.25, 0.5, 1] : [1, 2, 5, 10, 20]"
          :key="g"
          :value="g"
        >
          {{ g }}
        </option>
      </select>
    </label>
    <button class="bar" :class="measuring && 'on'" :aria-pressed="measuring" @click="emit('measure')">
      measure
    </button>
    <!-- as wide with nothing in it: the sheet keeps its size -->
    <span class="ml-auto h-5 w-38 shrink-0 text-right text-sm whitespace-nowrap text-ink2" data-at>{{
      at
    }}</span>
  </div>
</template>

<style scoped>
.sheet-bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.375rem;
}
@media (max-height: 520px) {
  .sheet-bar {
    flex-wrap: nowrap;
    overflow-x: auto;
  }
  .sheet-bar > * {
    flex-shrink: 0;
  }
}
.bar {
  display: inline-flex;
  align-items: center;
  gap: 0.35rem;
  border: 1px solid var(--color-rule);
  border-radius: 0.5rem;
  background: var(--color-bar);
  padding: 0.22rem 0.5rem;
  font-size: 0.95rem;
}
.bar.on {
  border-color: var(--color-teal);
  background: var(--color-teal);
  color: white;
}
.bar select {
  max-width: 4.6rem;
  background: transparent;
  color: var(--color-teal);
  font-weight: 600;
}
</style>
