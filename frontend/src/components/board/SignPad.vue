<script setup lang="ts">
/** A pad for numbers, signs and letters, so that everything can be said without a keyboard. */
import { computed, ref } from "vue";

const emit = defineEmits<{ sign: [sign: string]; back: []; slot: [] }>();
const letters = ref(false);
const large = ref(false);
const NUMBERS = [
  ["7", "8", "9", "/", "(", ")"],
  ["4", "5", "6", "*", "°", "'"],
  ["1", "2", "3", "-", "+", '"'],
  ["0", ".", ",", "=", "_", "#"],
];
/** As many rows as of numbers, so that turning from one to the other moves nothing. */
const LETTERS = ["abcdefg", "hijklmn", "opqrstu", "vwxyz×"].map((row) => [...row]);
const rows = computed(() =>
  letters.value ? LETTERS.map((r) => r.map((s) => (large.value ? s.toUpperCase() : s))) : NUMBERS,
);
const NAMES: Record<string, string> = {
  "/": "divided by",
  "*": "times",
  "-": "minus",
  "+": "plus",
  "°": "degrees",
  "'": "feet or minutes",
  '"': "inches, seconds or quotation mark",
  ".": "point",
  ",": "comma",
  "(": "bracket",
  ")": "closing bracket",
  "=": "equals",
  _: "underscore",
  "#": "number sign",
  "×": "times sign",
};
</script>

<template>
  <div class="pad" role="group" aria-label="Pad" data-pad @pointerdown.prevent>
    <div v-for="(row, n) in rows" :key="n" class="keys">
      <button
        v-for="s in row"
        :key="s"
        type="button"
        class="key"
        :aria-label="NAMES[s] ?? s"
        :data-sign="s"
        @click="emit('sign', s)"
      >
        {{ s }}
      </button>
    </div>
    <div class="keys">
      <button type="button" class="key wide" :aria-pressed="letters" @click="letters = !letters">
        {{ letters ? "123" : "abc" }}
      </button>
      <button v-if="letters" type="button" class="key wide" :aria-pressed="large" @click="large = !large">
        {{ large ? "small" : "capital" }}
      </button>
      <button type="button" class="key space" aria-label="space" data-sign=" " @click="emit('sign', ' ')">
        space
      </button>
      <button type="button" class="key" aria-label="next part" data-sign=";" @click="emit('slot')">;</button>
      <button type="button" class="key wide" @click="emit('back')">backspace</button>
    </div>
  </div>
</template>

<style scoped>
.pad {
  display: grid;
  gap: 0.3rem;
  margin-left: 0.4rem;
  touch-action: manipulation;
}
.keys {
  display: flex;
  gap: 0.3rem;
}
.key {
  min-width: 2.1rem;
  min-height: 2.3rem;
  flex: 1;
  border: 1px solid var(--color-rule);
  border-radius: 0.4rem;
  background: var(--color-bar);
  font-size: 1.05rem;
}
.key:hover {
  background: var(--color-teal-soft);
}
.key:active {
  background: var(--color-teal);
  color: white;
}
.wide {
  flex: 2;
  font-size: 0.95rem;
}
.space {
  flex: 3;
  font-size: 0.95rem;
}
</style>
