<script setup lang="ts">
/** Above a long list: words to find in it, its filters in the slot, how many are found, and what to do when none is. */
import FindField from "./FindField.vue";
import StateNote from "./StateNote.vue";

withDefaults(
  defineProps<{
    label: string;
    count: number;
    one: string;
    many: string;
    none?: string;
  }>(),
  { none: "Nothing found. Try fewer words." },
);
const find = defineModel<string>({ required: true });
</script>

<template>
  <div class="mt-4 flex flex-wrap items-center gap-3">
    <FindField v-model="find" :label="label" />
    <slot />
    <span role="status" class="text-sm text-ink2">{{ count }} {{ count === 1 ? one : many }}</span>
  </div>
  <StateNote v-if="!count" class="mt-4">{{ none }}</StateNote>
</template>
