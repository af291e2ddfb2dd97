<script setup lang="ts">
/** What the grid says of where one is: the student and the verdict, or the check alone, with a picture of what it is about. */
import type { Schemas, Verdict } from "../api/client";
import FeatureGlimpse from "./FeatureGlimpse.vue";

defineProps<{
  /** The check of the column. */
  asked: Schemas["CheckOut"] | null;
  reading: { student: Schemas["ResultRow"]; verdict: Verdict | null; byHand: boolean } | null;
  scene: Schemas["Scene"] | undefined;
}>();
</script>

<template>
  <div class="relative mb-1.5 flex min-h-9 items-end pr-36">
    <p class="min-w-0 flex-1" aria-live="polite" data-reading>
      <template v-if="asked && !reading">
        {{ asked.id }} <b>{{ asked.name }}</b>
        <span class="text-ink2"> · {{ asked.missed }} of the class missed it</span>
      </template>
      <template v-else-if="asked && reading">
        <b>{{ reading.student.name }}</b> · {{ asked.id }} {{ asked.name }} ·
        <b :class="reading.verdict === 'missed' || reading.verdict === 'absent' ? 'text-pencil' : ''">{{
          reading.verdict ?? "not marked"
        }}</b><template v-if="reading.byHand"> · set by hand</template>
        <span class="text-ink2"> · {{ asked.missed }} of the class missed it</span>
      </template>
      <span v-else class="text-ink2"
        >Point at a cell or a column head, or use the arrow keys. Enter opens a cell.</span
      >
    </p>
    <FeatureGlimpse
      v-if="scene"
      class="absolute right-0 bottom-0"
      :scene="scene"
      :features="asked?.features ?? []"
    />
  </div>
</template>
