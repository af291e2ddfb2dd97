<script setup lang="ts">
/** What a page says instead of its content: it is loading, something went wrong, or there is nothing yet. */
import { computed } from "vue";
import { Refusal, saysOf } from "../api/client";

const props = defineProps<{ loading?: boolean; error?: unknown; retry?: () => void }>();
/** What is not there, or not for this person, is so the next time, too. */
const FOR_GOOD = [400, 403, 404, 409, 410, 422];
const again = computed(
  () => props.retry && !(props.error instanceof Refusal && FOR_GOOD.includes(props.error.status)),
);
</script>

<template>
  <div v-if="error" role="alert" class="paper max-w-2xl border-l-4 !border-l-pencil p-5">
    <p class="font-semibold">{{ saysOf(error) }}</p>
    <button v-if="again && retry" class="press-quiet mt-3" @click="retry">Try again</button>
  </div>
  <p v-else-if="loading" class="p-2 text-ink2" aria-live="polite">Loading …</p>
  <div v-else class="paper max-w-2xl p-6 text-ink2"><slot /></div>
</template>
