<script setup lang="ts">
/** Says what a dimension measures: one or two features, pressed on the drawing or chosen from a list. */
import { calledIn, type Names } from "../rules";
import ChoiceList from "./ChoiceList.vue";

const props = defineProps<{ to: string[]; choices: { value: string; word: string }[]; names?: Names }>();
const emit = defineEmits<{ "update:to": [to: string[]]; done: [to: string[]]; leave: [] }>();
function add(id: string | null): void {
  if (id && !props.to.includes(id)) emit("update:to", [...props.to, id]);
}
</script>

<template>
  <div class="mt-1 ml-1.5 space-y-1.5 rounded border border-teal bg-teal-soft p-2" data-tie>
    <p aria-live="polite">
      {{
        to.length
          ? `It measures ${to.map((i) => `the ${calledIn(i, names)}`).join(" and ")}.`
          : "Click one or two features on the drawing, or select them here."
      }}
    </p>
    <ChoiceList label="Add a feature" :choices="choices" :model-value="null" @update:model-value="add" />
    <div class="flex gap-2">
      <button class="press !px-2.5 !py-1" :disabled="!to.length" @click="emit('done', to)">Done</button>
      <button v-if="to.length" class="press-quiet !px-2.5 !py-1" @click="emit('update:to', to.slice(0, -1))">
        Undo last
      </button>
      <button class="press-quiet !px-2.5 !py-1" @click="emit('leave')">Cancel</button>
    </div>
  </div>
</template>
