<script setup lang="ts">
/** One piece of lettering of a scene: it stands on its place by its anchor; the capitals of the face are 0.66 of its size. */
import { computed } from "vue";
import type { Schemas } from "../api/client";

const props = defineProps<{ text: Schemas["SceneText"] }>();
const ANCHORS = { left: "start", centre: "middle", right: "end" } as const;
const set = computed(() => {
  const t = props.text;
  const [across = "left", up = "baseline"] = t.anchor.split(" ");
  const size = t.height / 0.66;
  const drop = up === "top" ? t.height : up === "middle" ? t.height / 2 : 0;
  return {
    size,
    anchor: ANCHORS[across as "left"] ?? "start",
    lines: t.wording.split("\n").map((text, n) => ({ text, y: drop + n * size * 1.25 })),
  };
});
</script>

<template>
  <g :transform="`translate(${text.at[0]} ${text.at[1]}) rotate(${-text.turn})`">
    <text v-for="row in set.lines" :key="row.y" :y="row.y" :font-size="set.size" :text-anchor="set.anchor">
      {{ row.text }}
    </text>
  </g>
</template>
