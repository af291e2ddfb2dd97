<script setup lang="ts">
/** The keys that help most, to be read and to be pressed. */
import type { BoardState } from "../../board/useBoard";
import type { LayersState } from "../../board/useLayers";
import type { SentenceState } from "../../board/useSentence";

const props = defineProps<{
  board: BoardState;
  sentence: SentenceState;
  layers: LayersState;
  undo: () => unknown;
  redo: () => unknown;
}>();
const emit = defineEmits<{ help: [] }>();
const s = props.sentence;
</script>

<template>
  <p class="keys">
    <button type="button" @click="s.askFocus()"><kbd class="keycap">/</kbd> all kinds</button>
    <button type="button" :disabled="!s.last.value" @click="s.sameAgain()">
      <kbd class="keycap">=</kbd> same again
    </button>
    <button
      type="button"
      :disabled="!board.done.value && !s.waits.value.length && !s.canGoBack.value && !s.open.value"
      @click="undo()"
    >
      <kbd class="keycap">Ctrl+Z</kbd> undo
    </button>
    <button type="button" :disabled="!board.undone.value && !s.canGoForward.value" @click="redo()">
      <kbd class="keycap">Ctrl+Y</kbd> redo
    </button>
    <button type="button" @click="emit('help')"><kbd class="keycap">?</kbd> help</button>
    <button type="button" @click="layers.construction()">
      <kbd class="keycap">.</kbd>
      {{ layers.hidden.value.has("construction") ? "show" : "hide" }} construction
    </button>
  </p>
</template>

<style scoped>
.keys {
  display: flex;
  flex-wrap: wrap;
  gap: 0.3rem 1rem;
  color: var(--color-ink2);
}
.keys button:disabled {
  color: var(--color-quiet);
}
</style>
