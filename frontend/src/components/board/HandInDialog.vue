<script setup lang="ts">
/** Before a draft is handed in: what was understood of it, what is not finished, and how many tries there are. Only then is it handed in. */
import { computed } from "vue";
import type { BoardState } from "../../board/useBoard";
import type { SentenceState } from "../../board/useSentence";
import type { WaysOut } from "../../board/useWaysOut";
import DialogSheet from "../DialogSheet.vue";
import WhatWasUnderstood from "../WhatWasUnderstood.vue";

const props = defineProps<{ board: BoardState; ways: WaysOut; sentence: SentenceState }>();
const { understood, handing, refused, handIn, check } = props.ways;
const broken = computed(() => props.board.rows.value.filter((r) => r.kind === "step" && r.broken));
const unfinished = computed(() => props.sentence.text.value.trim());
const notAdded = computed(() => props.sentence.notTaken.value.length);
const tries = computed(() => {
  const u = understood.value;
  if (!u) return "";
  return u.tries_left === 1 ? "your last try" : `one of the ${u.tries_left} tries you have left`;
});
const close = () => (understood.value = null);
</script>

<template>
  <DialogSheet v-if="understood" :open="true" title="Hand in this drawing?" @close="close">
    <div class="mt-3 space-y-3" data-understood>
      <WhatWasUnderstood
        :reading="understood.reading"
        :scene="understood.scene"
        :unit="understood.reading.unit ?? 'mm'"
        any-unit
      />
      <p v-if="unfinished" class="warn" data-unfinished>
        The sentence “{{ unfinished }}” is not a step yet. It is not handed in.
      </p>
      <p v-if="notAdded" class="warn">
        {{ notAdded }} {{ notAdded === 1 ? "sentence was" : "sentences were" }} not added.
      </p>
      <ul v-if="broken.length" class="warn" data-broken-steps>
        <li v-for="row in broken.slice(0, 4)" :key="row.key">
          Step {{ row.number }} draws nothing: {{ row.broken }}
        </li>
        <li v-if="broken.length > 4">{{ broken.length - 4 }} more steps draw nothing.</li>
      </ul>
      <p v-if="understood.past_due" class="warn">The date has passed: it will be marked as late.</p>
      <p v-if="check?.of && check.left" class="text-sm text-ink2">
        You have {{ check.left }} self-check{{ check.left === 1 ? "" : "s" }} left, which cost no try.
      </p>
      <p v-if="refused" role="alert" class="text-pencil">{{ refused }} No try was used.</p>
      <p v-if="understood.handed_in" class="text-sm">
        This drawing is handed in already, unchanged.
        <RouterLink :to="`/results/${understood.handed_in}`">See how it went</RouterLink>
      </p>
      <div class="flex flex-wrap items-center justify-end gap-2">
        <span v-if="!understood.handed_in" class="mr-auto text-sm text-ink2">Uses {{ tries }}.</span>
        <button type="button" class="press-quiet" @click="close">Keep drawing</button>
        <button
          v-if="!understood.handed_in"
          type="button"
          class="press"
          :disabled="handing"
          data-hand-in
          @click="handIn"
        >
          Hand in
        </button>
      </div>
    </div>
  </DialogSheet>
</template>

<style scoped>
.warn {
  border-left: 4px solid var(--color-near);
  background: var(--color-near-soft);
  padding: 0.4rem 0.75rem;
  font-size: 0.95rem;
}
</style>
