<script setup lang="ts">
/** Where words are typed that a list is searched for. */
import { useDebounceFn } from "@vueuse/core";
import { ref, watch } from "vue";

defineProps<{ label: string }>();
const model = defineModel<string>({ required: true });
const text = ref(model.value);
watch(model, (value) => (text.value = value));
const tell = useDebounceFn(() => (model.value = text.value.trim()), 150);
</script>

<template>
  <input
    v-model="text"
    type="search"
    class="field !w-auto min-w-0 flex-1 sm:max-w-72"
    :aria-label="label"
    :placeholder="label"
    maxlength="100"
    @input="tell"
  />
</template>
