<script setup lang="ts">
/** How often students may have their drawing on the board checked before they hand it in, and how much that says. */
import { useId } from "vue";
import type { Schemas } from "../api/client";

const checks = defineModel<number>("checks", { required: true });
const says = defineModel<Schemas["IssueIn"]["own_says"]>("says", { required: true });
const id = useId();
function typed(e: Event): void {
  const value = Math.round(Number((e.target as HTMLInputElement).value));
  checks.value = Number.isFinite(value) ? Math.min(Math.max(value, 0), 99) : 0;
}
</script>

<template>
  <div class="flex flex-wrap items-center gap-2 text-sm">
    <label class="font-semibold" :for="id">Self-checks on the board</label>
    <input :id="id" :value="checks" type="number" min="0" max="99" class="field !w-20" @change="typed" />
    <label class="flex items-center gap-1.5"
      >saying
      <select v-model="says" class="field !w-auto">
        <option value="which">which checks are not met yet</option>
        <option value="count">only how many are not met</option>
      </select></label
    >
    <p v-if="checks" class="basis-full text-ink2">
      No number is shown. For each size, at most four different answers are told right or wrong. While there
      are extra objects, sizes are not told.
    </p>
  </div>
</template>
