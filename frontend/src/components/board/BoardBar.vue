<script setup lang="ts">
/** Above the board: whose drawing it is and whether it is saved; files in and out, check, hand in. */
import { computed } from "vue";
import type { BoardState } from "../../board/useBoard";
import type { OpeningState } from "../../board/useOpening";
import type { WaysOut } from "../../board/useWaysOut";
import { useSession } from "../../session";
import AppBar from "../AppBar.vue";
import MoreMenu from "../MoreMenu.vue";
import OpenFile from "./OpenFile.vue";

const props = defineProps<{ board: BoardState; ways: WaysOut; opening: OpeningState; steps: number }>();
/** Whether the sheet of the exercise stands beside the drawing. */
const beside = defineModel<boolean>("beside", { required: true });
const { page } = props.board;
const { handing, waysOut, check, checkOwn, look, makeKey } = props.ways;
/** Nothing is made of the list that stands here while something is on its way, or another list is being opened. */
const busy = computed(() => handing.value || Boolean(props.opening.reading.value));
const { person } = useSession();
const { saving, unsaved, keeps, sentences, room } = props.board.outbox;
const saved = computed(() => {
  const here = keeps.value
    ? "kept in this browser, not on the server yet."
    : "not saved: this browser has no room to keep it. Leave this page open until it is saved.";
  if (saving.value === "refused") return `The server refused it: ${unsaved.value}`;
  if (saving.value === "waiting" || (!keeps.value && saving.value === "saving"))
    return `${here} ${unsaved.value}`;
  const waits = sentences.value.length;
  if (saving.value === "saved" && waits > 1) return `${waits} steps wait in this browser`;
  return saving.value === "saved" && waits ? "saving" : saving.value;
});
</script>

<template>
  <AppBar class="bar">
    <template #start>
      <p v-if="page" class="min-w-0 truncate">
        <span v-if="page.issue" class="text-ink2">{{ page.title }} · </span>
        <strong>{{ page.issue ? "my drawing" : page.title }}</strong>
        <span class="ml-3 text-sm text-ink2" data-saved>{{ saved }}</span>
        <span v-if="room" class="ml-3 text-sm text-pencil" role="status" data-room>{{ room }}</span>
      </p>
    </template>
    <template #end>
      <OpenFile :opening="opening" :steps="steps" />
      <MoreMenu :items="waysOut" word="Download" />
      <button
        v-if="page?.issue"
        class="press-quiet"
        :class="beside && '!bg-teal-soft'"
        :aria-pressed="beside"
        @click="beside = !beside"
      >
        Exercise sheet
      </button>
      <button v-if="check?.of" class="press-quiet" :disabled="busy || !check.left" @click="checkOwn">
        Check my work<span class="font-normal">, {{ check.left }} left</span>
      </button>
      <button v-if="page?.issue" class="press" :disabled="busy" @click="look">Hand in …</button>
      <template v-else-if="person?.role === 'instructor'">
        <span v-if="!steps" class="text-sm text-ink2">Nothing is drawn yet:</span>
        <button
          class="press"
          :disabled="busy || !steps"
          :title="steps ? undefined : 'Draw something first'"
          @click="makeKey"
        >
          Create key
        </button>
      </template>
    </template>
  </AppBar>
</template>

<style scoped>
.bar :deep(button),
.bar :deep(a) {
  white-space: nowrap;
}
@media (max-height: 520px) {
  .bar :deep(> div) {
    min-height: 2.25rem;
    padding-block: 0.1rem;
  }
  .bar :deep(.press),
  .bar :deep(.press-quiet) {
    padding: 0.1rem 0.5rem;
    font-size: 0.9rem;
  }
}
@media (max-width: 1100px) {
  .bar :deep(.press),
  .bar :deep(.press-quiet) {
    padding: 0.4rem 0.6rem;
  }
}
</style>
