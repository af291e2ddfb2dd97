<script setup lang="ts">
/** Verdicts of one attempt as a bar whose parts are as long as their counts, with the counts in words. */
import { computed } from "vue";
import type { Verdict } from "../api/client";

const props = defineProps<{ verdicts: Partial<Record<Verdict, number>> }>();
const order: Verdict[] = ["met", "follows", "near", "missed", "absent"];
const fill: Record<Verdict, string> = {
  met: "bg-teal",
  follows: "bg-follows",
  near: "bg-near",
  missed: "bg-pencil",
  absent: "bg-white border border-pencil",
};
const parts = computed(() => order.map((v) => ({ v, n: props.verdicts[v] ?? 0 })).filter((p) => p.n > 0));
const said = computed(() => parts.value.map((p) => `${p.n} ${p.v}`).join(" · "));
</script>

<template>
  <div>
    <div class="flex h-2 w-full gap-px overflow-hidden rounded-full bg-rule" aria-hidden="true">
      <span v-for="p in parts" :key="p.v" :class="fill[p.v]" :style="{ flexGrow: p.n }"></span>
    </div>
    <p class="mt-1 text-[0.82rem] text-ink2">{{ said }}</p>
  </div>
</template>
