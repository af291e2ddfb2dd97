<script setup lang="ts">
/** A comment: about the chosen finding, pinned to a place of the drawing, or about the drawing as a whole. */
import { computed, ref, watch } from "vue";
import type { Schemas } from "../../api/client";
import type { Point } from "../../view";
import ChoiceBoxes from "../ChoiceBoxes.vue";
import DialogSheet from "../DialogSheet.vue";

type Where = "finding" | "place" | "whole";
const props = defineProps<{
  open: boolean;
  finding: Schemas["FindingOut"] | null;
  /** The place that was pressed on the sheet, if one was. */
  place: Point | null;
  busy: boolean;
}>();
const emit = defineEmits<{
  close: [];
  pick: [];
  save: [body: Schemas["CommentIn"]];
}>();
const text = defineModel<string>("text", { required: true });
const where = ref<Where>("whole");
watch(
  () => props.open,
  (now) => {
    if (now) where.value = props.place ? "place" : props.finding ? "finding" : "whole";
  },
);
const choices = computed<{ value: Where; word: string }[]>(() => [
  ...(props.finding ? [{ value: "finding" as const, word: `Finding ${props.finding.id}` }] : []),
  { value: "place", word: "A place" },
  { value: "whole", word: "The whole drawing" },
]);
/** A place was chosen and is not shown yet: a row of choices never leads away by itself. */
const unplaced = computed(() => where.value === "place" && !props.place);
function save(): void {
  if (!text.value.trim() || props.busy || unplaced.value) return;
  const f = props.finding;
  const onFinding = where.value === "finding" && f;
  const at = where.value === "place" ? props.place : onFinding ? ((f.seen_at ?? f.at) as Point | null) : null;
  emit("save", {
    text: text.value.trim(),
    finding: onFinding ? f.id : null,
    at: at ? [at[0], at[1]] : null,
  });
}
</script>

<template>
  <DialogSheet :open="open" title="Comment" @close="emit('close')">
    <form class="mt-3 space-y-4" @submit.prevent="save" @keydown.ctrl.enter="save" @keydown.meta.enter="save">
      <label class="block">
        <span class="label">What the student should read</span>
        <textarea v-model="text" rows="4" maxlength="2000" class="field mt-1" required></textarea>
      </label>
      <ChoiceBoxes v-model="where" label="About" :choices="choices">
        <button v-if="where === 'place'" type="button" class="px-1 text-teal underline" @click="emit('pick')">
          {{ place ? "Another place" : "Click it on the drawing" }}
        </button>
      </ChoiceBoxes>
      <div class="flex justify-end gap-2">
        <button type="button" class="press-quiet" @click="emit('close')">Cancel</button>
        <button type="submit" class="press" :disabled="!text.trim() || busy || unplaced">Add comment</button>
      </div>
    </form>
  </DialogSheet>
</template>
