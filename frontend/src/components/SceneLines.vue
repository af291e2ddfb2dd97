<script setup lang="ts">
/** The lines and lettering of one scene. */
import type { Schemas } from "../api/client";
import SceneLettering from "./SceneLettering.vue";

const props = defineProps<{
  scene: Schemas["Scene"];
  tone: "ink" | "key";
  wrong?: ReadonlySet<string>;
  chosen?: ReadonlySet<string>;
  annotations?: boolean;
  pickable?: boolean;
}>();
const DASHES: ReadonlyMap<string, string> = new Map([
  ["dashed", "dashed"],
  ["dotted", "dotted"],
  ["chain", "chain"],
  ["double chain", "chain"],
]);
const emit = defineEmits<{ pick: [id: string] }>();

function classOf(f: Schemas["SceneFeature"]): string[] {
  const out = ["line"];
  // dashes as they were drawn, whatever the layer is for
  if (DASHES.has(f.line_type)) out.push(DASHES.get(f.line_type) ?? "");
  if (f.role === "centre") out.push("axis");
  else if (f.role === "hidden") out.push("narrow");
  if (f.role === "construction") out.push("construction");
  if (props.tone === "key") out.push("key");
  if (props.wrong?.has(f.id)) out.push("wrong");
  if (props.chosen?.has(f.id)) out.push("chosen");
  return out;
}
</script>

<template>
  <g class="scene" fill="none">
    <g v-if="annotations" class="annotations">
      <path :d="scene.annotations.path" />
      <SceneLettering v-for="(t, n) in scene.annotations.texts" :key="n" :text="t" />
    </g>
    <path v-for="f in scene.features" :key="f.id" :d="f.path" :class="classOf(f)" :data-feature="f.id" />
    <SceneLettering
      v-for="t in scene.texts"
      :key="t.id ?? t.wording"
      :text="t"
      :class="['lettering', tone === 'key' && 'ghost']"
    />
    <g v-if="pickable">
      <path
        v-for="f in scene.features"
        :key="f.id"
        :d="f.path"
        class="grip"
        @click.stop="emit('pick', f.id)"
        @pointerdown.stop
      />
    </g>
  </g>
</template>

<style scoped>
.scene path {
  vector-effect: non-scaling-stroke;
}
.line {
  stroke: var(--color-ink);
  stroke-width: 1.9;
  stroke-linecap: round;
}
.key {
  stroke: var(--color-drawn);
  stroke-width: 1.1;
}
.narrow,
.dashed,
.dotted {
  stroke-width: 1.2;
}
.dashed {
  stroke-dasharray: 7 4;
}
.dotted {
  stroke-dasharray: 1 4;
}
.axis,
.chain {
  stroke: var(--color-axis);
  stroke-width: 1;
}
.chain {
  stroke-dasharray: 14 4 3 4;
}
.construction {
  stroke: var(--color-blue);
  stroke-width: 1.3;
}
.wrong {
  stroke: var(--color-pencil);
  stroke-width: 2.4;
}
.key.wrong {
  stroke-width: 1.3;
  stroke-dasharray: 3 4;
}
.chosen {
  stroke-width: 4;
}
.chosen:not(.wrong) {
  stroke: var(--color-teal);
}
.grip {
  stroke: transparent;
  stroke-width: 12;
  pointer-events: stroke;
  cursor: pointer;
}
.annotations path {
  stroke: var(--color-beside);
  stroke-width: 0.9;
}
.lettering.ghost :deep(text) {
  fill: var(--color-lettering);
}
.annotations :deep(text),
.lettering:not(.ghost) :deep(text) {
  fill: var(--color-ink2);
}
</style>
