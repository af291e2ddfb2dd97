<script setup lang="ts">
/** What was done, one thing under the other, with when; pressing one shows the drawing as it was then. */
import type { Schemas } from "../../api/client";
import { clock } from "../../times";

defineProps<{
  deeds: readonly Schemas["MadeAct"][];
  rests: ReadonlyMap<number, string>;
  at: number;
}>();
const emit = defineEmits<{ go: [count: number] }>();
const WORDS: Record<Schemas["MadeAct"]["kind"], string> = {
  wrote: "",
  corrected: "corrected",
  away: "",
  moved: "",
  value: "value",
  back: "undone",
  other: "",
};
</script>

<template>
  <ol class="paper min-h-32 flex-1 overflow-y-auto" aria-label="What was done">
    <li v-for="(d, n) in deeds" :key="n">
      <p v-if="rests.get(n)" class="rest">{{ rests.get(n) }} later</p>
      <button
        type="button"
        class="deed"
        :class="[n + 1 === at && 'now', n + 1 > at && 'later']"
        :aria-current="n + 1 === at ? 'step' : undefined"
        :data-now="n + 1 === at ? '' : undefined"
        @click="emit('go', n + 1)"
      >
        <span class="time">{{ clock(d.at) }}</span>
        <span class="min-w-0 flex-1 break-words">
          <strong v-if="WORDS[d.kind]" class="mr-1.5 text-teal">{{ WORDS[d.kind] }}</strong>{{ d.says }}
          <span v-if="d.was" class="block text-sm text-ink2">was {{ d.was }}</span>
        </span>
      </button>
    </li>
    <li v-if="!deeds.length" class="px-4 py-5 text-ink2">Nothing was drawn on the board.</li>
  </ol>
</template>

<style scoped>
.deed {
  display: flex;
  width: 100%;
  gap: 0.8rem;
  padding: 0.35rem 0.75rem;
  text-align: left;
}
li + li {
  border-top: 1px solid var(--color-rule);
}
.deed:hover {
  background: var(--color-bar);
}
.deed.now {
  background: var(--color-teal-soft);
}
.deed.later {
  color: var(--color-quiet);
}
.time {
  flex-shrink: 0;
  color: var(--color-ink2);
  font-size: 0.9rem;
  font-variant-numeric: tabular-nums;
}
.rest {
  background: var(--color-bar);
  padding: 0.1rem 0.75rem;
  color: var(--color-ink2);
  font-size: 0.9rem;
}
</style>
