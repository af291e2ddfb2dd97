<script setup lang="ts">
/** What is to be known of the marks that are shown: that they are not what the student has, or were made by an earlier engine. */
import type { Schemas } from "../../api/client";

defineProps<{ data: Schemas["MarkingOut"]; busy: boolean }>();
defineEmits<{ differs: []; markAgain: [] }>();
</script>

<template>
  <p v-if="data.returned === 'changed'" class="paper px-4 py-2 text-sm">
    The student has {{ data.returned_earned?.toFixed(2) }}. Your later changes are not returned yet.
  </p>
  <p v-if="data.differs && !data.differs.same" class="paper px-4 py-2 text-sm">
    Engines {{ data.differs.engine_before }} and {{ data.differs.engine_after }} differ here.
    <button class="text-teal underline" @click="$emit('differs')">What differs</button>
  </p>
  <p v-if="data.outdated" class="paper px-4 py-2 text-sm">
    Marked by an earlier engine.
    <template v-if="data.trouble">The current engine could not mark it: {{ data.trouble }}</template>
    <button class="text-teal underline" :disabled="busy" @click="$emit('markAgain')">Mark again</button>
  </p>
</template>
