<script setup lang="ts" generic="T extends string | number">
/** One of several, from a list that opens; works by keyboard and says what it is for. */
import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from "@headlessui/vue";
import { computed } from "vue";

export interface Choice<V> {
  value: V;
  word: string;
}
const props = defineProps<{ label: string; choices: readonly Choice<T>[]; small?: boolean }>();
const model = defineModel<T | null>({ required: true });
const word = computed(() => props.choices.find((c) => c.value === model.value)?.word ?? "choose");
</script>

<template>
  <Listbox v-model="model" as="div" class="relative">
    <ListboxButton
      class="field flex items-center justify-between gap-2 text-left"
      :class="small ? '!w-auto !px-2.5 !py-0.5' : ''"
      :aria-label="`${label}: ${word}`"
    >
      <span class="truncate">{{ word }}</span>
      <svg viewBox="0 0 10 6" class="h-1.5 w-2.5 shrink-0 text-ink2" aria-hidden="true">
        <path d="M1 1l4 4 4-4" fill="none" stroke="currentColor" stroke-width="1.6" />
      </svg>
    </ListboxButton>
    <ListboxOptions
      class="paper absolute z-50 mt-1 max-h-64 min-w-full overflow-y-auto py-1 shadow-lg focus:outline-none"
      :class="small ? 'w-max' : ''"
    >
      <ListboxOption
        v-for="c in choices"
        :key="c.value"
        v-slot="{ active, selected }"
        :value="c.value"
        class="cursor-pointer"
      >
        <span
          class="block px-3 py-1.5"
          :class="[active ? 'bg-teal-soft' : '', selected ? 'font-semibold text-teal' : '']"
        >
          {{ c.word }}
        </span>
      </ListboxOption>
    </ListboxOptions>
  </Listbox>
</template>
