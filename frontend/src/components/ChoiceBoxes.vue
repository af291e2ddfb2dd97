<script setup lang="ts" generic="T extends string">
/** One of a few, each in a box of its own; enter takes what is chosen and does not leave the form. */
import { RadioGroup, RadioGroupLabel, RadioGroupOption } from "@headlessui/vue";
import { stayOnEnter } from "../useKeys";

defineProps<{ label: string; choices: readonly { value: T; word: string }[]; even?: boolean }>();
const model = defineModel<T>({ required: true });
defineSlots<{ sign?(given: { value: T }): unknown; default?(): unknown }>();
</script>

<template>
  <RadioGroup v-model="model" @keydown.enter.capture="stayOnEnter">
    <RadioGroupLabel as="span" class="label">{{ label }}</RadioGroupLabel>
    <div class="mt-1 gap-2" :class="even ? 'grid grid-cols-4' : 'flex flex-wrap'">
      <RadioGroupOption
        v-for="c in choices"
        :key="c.value"
        v-slot="{ checked }"
        :value="c.value"
        class="cursor-pointer"
      >
        <span
          class="rounded-lg border"
          :class="[
            even ? 'flex items-center justify-center gap-1.5 px-2 py-2' : 'block px-3 py-1.5',
            checked ? 'border-teal bg-teal-soft font-semibold' : 'border-rule bg-white',
          ]"
          ><slot name="sign" :value="c.value" />{{ c.word }}</span
        >
      </RadioGroupOption>
      <slot />
    </div>
  </RadioGroup>
</template>
