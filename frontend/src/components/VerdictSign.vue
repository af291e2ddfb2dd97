<script setup lang="ts">
/** The sign of a verdict: differs by shape first, by word for those who do not see it, by colour last. */
import type { Verdict } from "../api/client";

defineProps<{ verdict: Verdict; quiet?: boolean }>();
const colors: Record<Verdict, string> = {
  met: "text-teal",
  near: "text-near",
  missed: "text-pencil",
  absent: "text-pencil",
  follows: "text-follows",
};
</script>

<template>
  <svg
    viewBox="0 0 24 16"
    class="inline-block h-4 w-6 shrink-0"
    :class="colors[verdict]"
    fill="none"
    stroke="currentColor"
    stroke-width="2"
    stroke-linecap="round"
    :role="quiet ? undefined : 'img'"
    :aria-label="quiet ? undefined : verdict"
    :aria-hidden="quiet || undefined"
  >
    <path v-if="verdict === 'met'" d="M3 8h18M9.5 3.5v9M14.5 3.5v9" />
    <path v-else-if="verdict === 'near'" d="M4 9.5c2.5-6 5.5-6 8-1.5s5.5 4.5 8-1.5" />
    <path v-else-if="verdict === 'missed'" d="M7.5 3.5l9 9M16.5 3.5l-9 9" />
    <circle v-else-if="verdict === 'absent'" cx="12" cy="8" r="5" />
    <path v-else d="M6 3v4.5a2 2 0 0 0 2 2h9M13.5 6l3.5 3.5-3.5 3.5" />
  </svg>
</template>
