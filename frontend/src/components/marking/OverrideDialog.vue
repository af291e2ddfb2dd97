<script setup lang="ts">
/** Change the verdict of one finding, with a reason; verdicts by one key each. */
import { useLocalStorage } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import type { Schemas, Verdict } from "../../api/client";
import { keepDraft, readDraft, reasonKey } from "../../drafts";
import { marks } from "../../numbers";
import ChoiceBoxes from "../ChoiceBoxes.vue";
import DialogSheet from "../DialogSheet.vue";
import VerdictSign from "../VerdictSign.vue";

const props = defineProps<{
  open: boolean;
  finding: Schemas["FindingOut"] | null;
  attempt: number;
  busy: boolean;
}>();
const emit = defineEmits<{
  close: [];
  save: [body: { finding: number; verdict: Verdict; reason: string; marks: number | null }];
}>();
const verdicts = (["met", "near", "missed", "absent"] as const).map((v) => ({ value: v, word: v }));
const verdict = ref<Verdict>("met");
const reason = ref("");
const given = ref("");
const used = useLocalStorage<string[]>("even-mark-reasons", []);
const offered = computed(() =>
  [
    ...new Set([
      ...used.value,
      "Drawn in another way that is also right.",
      "The sheet can be read either way.",
    ]),
  ].slice(0, 4),
);
watch(
  () => props.open,
  (now) => {
    if (!now) return;
    verdict.value = props.finding?.verdict === "met" ? "missed" : "met";
    reason.value = readDraft(reasonKey(props.attempt, props.finding?.id ?? 0)) ?? props.finding?.reason ?? "";
    given.value = "";
  },
);
watch(reason, (text) => {
  const f = props.finding;
  if (props.open && f) keepDraft(reasonKey(props.attempt, f.id), text === (f.reason ?? "") ? null : text);
});
const trouble = computed(() => {
  if (!given.value.trim()) return "";
  const n = Number(given.value.replace(",", "."));
  const most = props.finding?.possible ?? 0;
  return Number.isFinite(n) && n >= 0 && n <= most ? "" : `Give between 0 and ${marks(most)} marks.`;
});
function save(): void {
  const f = props.finding;
  if (!f || !reason.value.trim() || trouble.value || props.busy) return;
  const said = reason.value.trim();
  used.value = [said, ...used.value.filter((r) => r !== said)].slice(0, 6);
  const own = given.value.trim() ? Number(given.value.replace(",", ".")) : null;
  emit("save", { finding: f.id, verdict: verdict.value, reason: said, marks: own });
}
</script>

<template>
  <DialogSheet :open="open" :title="`Change the verdict of ${finding?.id}`" @close="emit('close')">
    <form v-if="finding" class="mt-2 space-y-4" @submit.prevent="save">
      <p class="text-ink2">
        {{ finding.name }}. Even Mark found it
        <b class="text-ink">{{ finding.engine?.verdict ?? finding.verdict }}</b> and gave
        {{ marks(finding.engine?.earned ?? finding.earned) }} of {{ marks(finding.possible) }}.
      </p>
      <ChoiceBoxes v-model="verdict" label="Verdict" :choices="verdicts" even>
        <template #sign="{ value }"><VerdictSign :verdict="value" quiet /></template>
      </ChoiceBoxes>
      <label class="block">
        <span class="label">Reason (the student sees it)</span>
        <input v-model="reason" class="field mt-1" maxlength="2000" required autocomplete="off" />
      </label>
      <div class="flex flex-wrap gap-1.5 text-sm">
        <button
          v-for="r in offered"
          :key="r"
          type="button"
          class="max-w-full truncate rounded-full border border-rule bg-white px-2.5 py-0.5 text-ink2 hover:border-teal hover:text-teal"
          @click="reason = r"
        >
          {{ r }}
        </button>
      </div>
      <label class="block w-52">
        <span class="label">Marks, if different from the verdict</span>
        <input
          v-model="given"
          class="field mt-1"
          inputmode="decimal"
          :placeholder="`of ${marks(finding.possible)}`"
        />
      </label>
      <p v-if="trouble" role="alert" class="text-pencil">{{ trouble }}</p>
      <div class="flex justify-end gap-2">
        <button type="button" class="press-quiet" @click="emit('close')">Cancel</button>
        <button type="submit" class="press" :disabled="!reason.trim() || !!trouble || busy">
          Change verdict
        </button>
      </div>
    </form>
  </DialogSheet>
</template>
