<script setup lang="ts">
/** One condition that the drawing shows without a dimension: points at it, and switches whether it is implied. */
import type { Proof } from "../proof";
import PointRow from "./PointRow.vue";
import SwitchMark from "./SwitchMark.vue";

defineProps<{ line: Proof["taken"][number]; shown: boolean }>();
defineEmits<{ show: []; take: [value: boolean] }>();
</script>

<template>
  <li class="flex items-center gap-2" :class="!line.on && 'text-ink2'">
    <PointRow class="flex-1" :on="shown" @click="$emit('show')">{{ line.says }}</PointRow>
    <SwitchMark
      :model-value="line.on"
      :label="`Implied: ${line.says}`"
      @update:model-value="(v) => $emit('take', v)"
    />
  </li>
</template>
