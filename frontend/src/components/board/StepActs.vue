<script setup lang="ts">
/** What can be done with the step that is chosen: below the list, so that no row moves when one is chosen. */
import type { StepAct } from "../../board/stepActs";
import type { Row } from "../../board/types";

defineProps<{ row: Row }>();
const emit = defineEmits<{ act: [what: StepAct, row: Row] }>();
const ACTS: readonly [StepAct, string][] = [
  ["edit", "Correct"],
  ["insert", "Insert before"],
  ["mark", "Bookmark before"],
  ["up", "Up"],
  ["down", "Down"],
  ["away", "Delete step"],
];
</script>

<template>
  <div
    class="flex flex-wrap items-baseline gap-x-3.5 gap-y-0.5 px-3 text-sm"
    role="group"
    :aria-label="`Step ${row.number}`"
    data-acts
  >
    <strong>Step {{ row.number }}</strong>
    <button
      v-for="[what, says] in ACTS"
      :key="what"
      type="button"
      class="min-h-[1.6rem] text-teal underline underline-offset-2"
      @click="emit('act', what, row)"
    >
      {{ says }}
    </button>
  </div>
</template>
