<script setup lang="ts">
/** One slip: what happened, which findings it explains, what it costs. */
import { marks } from "../numbers";

defineProps<{
  cause: { id: number; code: string; says: string; explains: number[]; costs: number };
  chosen: boolean;
}>();
const emit = defineEmits<{ choose: [] }>();
const list = (ids: number[]) =>
  ids.length <= 6 ? ids.join(", ") : `${ids.slice(0, 5).join(", ")} and ${ids.length - 5} more`;
</script>

<template>
  <button
    class="paper block w-full rounded-lg border-l-4 px-4 py-2.5 text-left"
    :class="chosen ? '!border-l-pencil' : '!border-l-rule hover:!border-l-pencil/60'"
    :aria-pressed="chosen"
    @click="emit('choose')"
  >
    <span class="block leading-snug" :class="cause.code === 'unexplained' ? '' : 'font-semibold'">{{
      cause.says
    }}</span>
    <span class="mt-1 block text-sm text-ink2">
      explains <b class="text-pencil">{{ list(cause.explains) }}</b> · costs {{ marks(cause.costs) }}
    </span>
  </button>
</template>
