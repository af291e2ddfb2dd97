<script setup lang="ts" generic="T extends string">
/** One of a few, side by side. */
import { RadioGroup, RadioGroupLabel, RadioGroupOption } from "@headlessui/vue";

defineProps<{ label: string; choices: readonly { value: T; word: string }[]; small?: boolean }>();
const model = defineModel<T>({ required: true });
</script>

<template>
  <RadioGroup v-model="model" class="flex overflow-hidden rounded-lg border border-edge-soft bg-white">
    <RadioGroupLabel as="span" class="sr-only">{{ label }}</RadioGroupLabel>
    <RadioGroupOption
      v-for="c in choices"
      :key="c.value"
      v-slot="{ checked }"
      :value="c.value"
      class="cursor-pointer"
    >
      <span
        class="block px-3"
        :class="[small ? 'py-1' : 'py-1.5', checked ? 'bg-teal-soft font-semibold text-teal' : '']"
        >{{ c.word }}</span
      >
    </RadioGroupOption>
  </RadioGroup>
</template>
