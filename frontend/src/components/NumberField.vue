<script setup lang="ts">
/** A number that is typed: what was typed stays, and what was expected is said at the field. Inch exercises take fractions. */
import { ref, useId, watch } from "vue";
import { plainNumber, typedNumber } from "../numbers";

const props = withDefaults(
  defineProps<{
    value: number | null;
    least?: number;
    most?: number;
    /** Whether the field may be left empty; then its value is null. */
    empty?: boolean;
    fractions?: boolean;
    /** What it is for a screen reader, where no label stands beside it. */
    label?: string;
    /** A word on why there is a most, such as "the marks in all". */
    why?: string;
    small?: boolean;
    /** Whether zero itself is too little. */
    above?: boolean;
  }>(),
  { least: 0, most: undefined, empty: false, label: undefined, why: undefined },
);
const emit = defineEmits<{ set: [value: number | null] }>();
const id = useId();
const trouble = ref("");
const text = ref(plainNumber(props.value));
watch(
  () => props.value,
  (value) => {
    // "1/64" stays as it was typed while it says the same
    if (trouble.value || typedNumber(text.value, props.fractions) === value) return;
    text.value = plainNumber(value);
  },
);
function expected(): string {
  const such = props.fractions ? ", such as 0.001 or 1/64" : "";
  const [least, most] = [plainNumber(props.least), plainNumber(props.most)];
  const size = props.above
    ? `above ${least}${most && ` and up to ${most}`}`
    : most
      ? `from ${least} to ${most}`
      : `of ${least} or more`;
  return `Type a number ${size}${props.why ? ` (${props.why})` : ""}${such}${props.empty ? ", or leave it empty" : ""}.`;
}
function take(): void {
  if (!text.value.trim() && props.empty) {
    trouble.value = "";
    return emit("set", null);
  }
  const value = typedNumber(text.value, props.fractions);
  const small = value === null || value < props.least || (props.above && value === props.least);
  if (small || (props.most !== undefined && value > props.most)) {
    trouble.value = expected();
    return;
  }
  trouble.value = "";
  if (value !== props.value) emit("set", value);
}
</script>

<template>
  <span class="block">
    <input
      v-model="text"
      class="field text-right"
      :class="[small ? '!px-1.5 !py-0.5' : 'mt-1', trouble && '!border-pencil']"
      inputmode="decimal"
      autocomplete="off"
      :aria-label="label"
      :aria-invalid="!!trouble"
      :aria-describedby="trouble ? id : undefined"
      @change="take"
    />
    <span v-if="trouble" :id="id" role="alert" class="mt-0.5 block text-left text-sm text-pencil">{{
      trouble
    }}</span>
  </span>
</template>
