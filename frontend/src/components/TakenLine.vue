<script setup lang="ts">
/** One thing that the drawing says without figures: points at it, and switches whether it is taken as read. */
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
      :label="`Take as read: ${line.says}`"
      @update:model-value="(v) => $emit('take', v)"
    />
  </li>
</template>
