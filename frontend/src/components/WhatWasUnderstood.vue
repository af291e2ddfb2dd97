<script setup lang="ts">
/** What was understood of a drawing before it is handed in: its picture, unit, what is drawn and how large, layers, oddities. */
import { computed } from "vue";
import type { Schemas } from "../api/client";
import { plainNumber } from "../numbers";
import DrawingSheet from "./DrawingSheet.vue";

const props = defineProps<{
  reading: Schemas["IntakeOut"]["reading"];
  scene: Schemas["Scene"];
  /** The unit that is asked for, and whether another one is as good. */
  unit: string;
  anyUnit: boolean;
}>();
const COUNTED = { edges: "edge", arcs: "arc", circles: "circle", texts: "text" } as const;
const drawn = computed(() =>
  Object.entries(COUNTED)
    .map(([kind, word]) => [props.reading.counts[kind] ?? 0, word] as const)
    .filter(([count]) => count)
    .map(([count, word]) => `${count} ${word}${count === 1 ? "" : "s"}`)
    .join(", "),
);
/** How large the drawing is over all, in the unit that it is read in. */
const overall = computed(() => {
  const { box } = props.reading;
  if (!box) return "";
  const [wide, high] = [box[2] - box[0], box[3] - box[1]].map((v) => plainNumber(Number(v.toFixed(4))));
  return `${wide} by ${high} ${props.reading.unit ?? props.unit}`;
});
const unitDiffers = computed(() => {
  const { unit } = props.reading;
  if (!unit || unit === props.unit) return "";
  return props.anyUnit
    ? `Your file is in ${unit}, the sheet in ${props.unit}: it is converted. If its numbers are meant in ${props.unit}, set the unit, then export it again.`
    : `Your file is in ${unit}; this exercise asks for ${props.unit}. Set the unit and export it again, or it counts as wrong.`;
});
const layers = computed(() =>
  props.reading.layers
    .filter((l) => l.features)
    .map((l) => `${l.name} (${l.features})`)
    .join(", "),
);
</script>

<template>
  <div>
    <div class="h-48">
      <DrawingSheet label="Your drawing as it was read" :drawn="scene" show="drawing" />
    </div>
    <dl class="mt-2 grid grid-cols-[6rem_1fr] gap-y-1 text-sm">
      <dt class="text-ink2">Unit</dt>
      <dd>
        {{ reading.unit ?? `none declared; read as ${unit}` }}
        <span v-if="unitDiffers" class="block text-near" data-unit-differs>{{ unitDiffers }}</span>
      </dd>
      <dt class="text-ink2">Drawn</dt>
      <dd data-drawn>{{ drawn || "nothing" }}</dd>
      <dt class="text-ink2">Overall size</dt>
      <dd data-overall>{{ overall }}</dd>
      <dt class="text-ink2">Layers</dt>
      <dd>{{ layers }}</dd>
      <template v-if="reading.counts.drawn_twice || reading.counts.debris">
        <dt class="text-ink2">Noticed</dt>
        <dd class="text-near">
          {{ reading.counts.drawn_twice || 0 }} drawn twice, {{ reading.counts.debris || 0 }} specks
        </dd>
      </template>
      <template v-for="o in reading.oddities" :key="o.says">
        <dt class="text-ink2">Noticed</dt>
        <dd class="text-near">{{ o.says }}</dd>
      </template>
    </dl>
  </div>
</template>
