<script setup lang="ts">
/** How much room the drawings of a class take up, and how much each student may have. */
import { computed, ref, watch } from "vue";
import type { Schemas } from "../api/client";

const props = defineProps<{ room: Schemas["ClassRoom"]; busy: boolean }>();
const emit = defineEmits<{ give: [student_mb: number] }>();
const MB = 1_000_000;
const CHOICES = [20, 50, 100, 200, 500, 1000, 2000];
const wanted = ref(props.room.student_mb);
watch(
  () => props.room.student_mb,
  (mb) => (wanted.value = mb),
);
const choices = computed(() => [...new Set([...CHOICES, props.room.student_mb])].sort((a, b) => a - b));
const share = computed(() => props.room.used / props.room.of);
const mb = (bytes: number) =>
  (bytes < 10 * MB ? (bytes / MB).toFixed(1) : Math.round(bytes / MB).toLocaleString("en")) + " MB";
</script>

<template>
  <section class="paper p-5" aria-label="Storage for drawings">
    <h2>Storage for drawings</h2>
    <p class="mt-1 text-sm" :class="share >= 0.8 ? 'text-pencil' : 'text-ink2'">
      Drawings and hand-ins use {{ mb(room.used) }} of {{ mb(room.of) }}.
    </p>
    <div class="mt-2 h-1.5 w-full bg-rule" aria-hidden="true">
      <div
        class="h-full"
        :class="share >= 0.8 ? 'bg-pencil' : 'bg-teal'"
        :style="{ width: `${Math.min(100, Math.max(0.5, 100 * share))}%` }"
      ></div>
    </div>
    <form class="mt-2 flex items-end gap-2" @submit.prevent="emit('give', wanted)">
      <label class="text-sm font-semibold">
        Each student
        <select v-model="wanted" class="field mt-1 font-normal">
          <option v-for="one in choices" :key="one" :value="one">{{ one.toLocaleString("en") }} MB</option>
        </select>
      </label>
      <button class="press-quiet" :disabled="busy || wanted === room.student_mb">Change</button>
    </form>
    <p class="mt-2 text-sm text-ink2">One drawing may use a quarter of that, the class ten times as much.</p>
  </section>
</template>
