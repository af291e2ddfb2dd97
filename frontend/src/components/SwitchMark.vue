<script setup lang="ts">
/** A switch whose on state shows the two strokes. */
import { Switch } from "@headlessui/vue";

defineProps<{ modelValue: boolean; label: string; disabled?: boolean }>();
const emit = defineEmits<{ "update:modelValue": [value: boolean] }>();
</script>

<template>
  <Switch
    :model-value="modelValue"
    :disabled="disabled"
    class="grid h-5 w-9 shrink-0 place-items-center rounded border"
    :class="modelValue ? 'border-teal bg-teal-soft' : 'border-edge bg-white'"
    @update:model-value="(v: boolean) => emit('update:modelValue', v)"
  >
    <span class="sr-only">{{ label }}</span>
    <svg
      viewBox="0 0 24 14"
      class="h-3.5 w-6"
      fill="none"
      stroke-width="2"
      stroke-linecap="round"
      aria-hidden="true"
    >
      <path d="M2 7h20" :stroke="modelValue ? 'var(--color-teal)' : 'var(--color-edge)'" />
      <path v-if="modelValue" d="M9.5 2.5v9M14.5 2.5v9" stroke="var(--color-teal)" />
    </svg>
  </Switch>
</template>
