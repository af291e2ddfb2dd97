<script setup lang="ts">
/** What is asked of a drawing beyond its sheet: where it may stand, how exactly it is held, which layers with which look, what earns marks. */
import { computed } from "vue";
import type { Schemas } from "../api/client";
import { marks, plainNumber } from "../numbers";

const props = defineProps<{ work: Schemas["WorkPage"] }>();
const placements: Record<string, string> = {
  "as-drawn": "Coordinates count: draw it where the sheet shows it.",
  slide: "It may be anywhere; its sizes and directions count.",
  "slide-and-turn": "It may be anywhere and turned.",
};
const held = computed(() => {
  const t = props.work.tolerances;
  const size = `${plainNumber(t.length)} ${props.work.unit}`;
  const place = t.position === t.length ? "" : `, positions ±${plainNumber(t.position)} ${props.work.unit}`;
  return `±${size}${place}, ±${plainNumber(t.angle_deg)}°, on the true geometry, not the rounded display.`;
});
const looks = computed(() => props.work.layers.some((l) => l.colour));
</script>

<template>
  <div class="space-y-4">
    <dl class="grid gap-x-4 gap-y-1 sm:grid-cols-[7rem_1fr]">
      <dt class="text-ink2">Unit</dt>
      <dd>
        {{ work.unit
        }}{{
          work.any_unit ? "; a file in another unit is converted" : "; a file in another unit counts as wrong"
        }}
      </dd>
      <dt class="text-ink2">Place</dt>
      <dd>{{ placements[work.placement] }}</dd>
      <dt class="text-ink2">Tolerances</dt>
      <dd>{{ held }}</dd>
    </dl>
    <div v-if="work.layers.length" class="overflow-x-auto" tabindex="0" role="group" aria-label="Layers">
      <table class="w-full text-left text-[0.95rem]" data-layers>
        <caption class="pb-1 text-left font-semibold">
          Layers{{
            work.exact_layers ? ", names exactly as here" : ", upper or lower case"
          }}
        </caption>
        <thead>
          <tr class="border-b border-rule text-sm text-ink2">
            <th class="py-1 pr-4 font-semibold">Name</th>
            <th class="py-1 pr-4 font-semibold">For</th>
            <template v-if="looks">
              <th class="py-1 pr-4 font-semibold">Colour</th>
              <th class="py-1 pr-4 font-semibold">Line</th>
              <th class="py-1 pr-4 font-semibold">Line width</th>
            </template>
          </tr>
        </thead>
        <tbody>
          <tr v-for="l in work.layers" :key="l.name" class="border-b border-hair">
            <td class="max-w-60 truncate py-1 pr-4 font-semibold" :title="l.name">{{ l.name }}</td>
            <td class="py-1 pr-4">{{ l.role ?? "" }}</td>
            <template v-if="looks">
              <td class="py-1 pr-4 whitespace-nowrap">
                <span
                  v-if="l.swatch"
                  class="mr-1.5 inline-block h-3 w-5 rounded-sm border border-rule align-[-1px]"
                  :style="{ background: l.swatch }"
                  aria-hidden="true"
                ></span
                >{{ l.colour ?? "any" }}
              </td>
              <td class="py-1 pr-4">{{ l.line_type ?? "any" }}</td>
              <td class="py-1 pr-4 whitespace-nowrap">
                {{ l.weight === null ? "any" : `${plainNumber(l.weight)} mm` }}
              </td>
            </template>
          </tr>
        </tbody>
      </table>
    </div>
    <details v-if="work.marked.length">
      <summary class="cursor-pointer font-semibold">What the marks are for</summary>
      <ul class="mt-1 grid gap-x-8 sm:grid-cols-2">
        <li
          v-for="m in work.marked"
          :key="m.title"
          class="flex justify-between gap-3 border-b border-hair py-0.5"
        >
          <span>{{ m.title }}</span><span>{{ marks(m.marks) }}</span>
        </li>
      </ul>
      <template v-if="work.charged.length">
        <p class="mt-2 font-semibold">Deductions</p>
        <ul class="mt-0.5 list-disc pl-5">
          <li v-for="c in work.charged" :key="c">{{ c }}</li>
        </ul>
      </template>
    </details>
  </div>
</template>
