<script setup lang="ts">
/** What has to be said of the sentence: what cannot be read and what was meant, why it was not added, what would break. */
import { refDebounced } from "@vueuse/core";
import { computed } from "vue";
import type { NotTaken } from "../../board/unsent";
import type { SentenceState } from "../../board/useSentence";
import type { Trial } from "../../board/useTrial";

const WAITS_MS = 600;
const props = defineProps<{ sentence: SentenceState; trial: Trial | null }>();
const s = props.sentence;
/** What waits is shown once it is seen to wait: where somebody can judge it at once, nothing flickers. */
const waitsLong = refDebounced(
  computed(() => s.waits.value.length > 0),
  WAITS_MS,
);
const waits = computed(() => (waitsLong.value ? s.waits.value : []));
const broken = computed(() => (s.writing.value?.whole ? (s.writing.value.preview.broken ?? "") : ""));
const readings = computed(() => (s.choosing.value ? [] : (s.writing.value?.readings ?? [])));
/** A wording that is still being written is not wrong yet. */
const opensWording = computed(() => s.text.value.split('"').length % 2 === 0);
/** One message, once: what was refused, else what cannot be built, else what cannot be read. */
const says = computed(() => {
  if (s.refused.value || broken.value) return s.refused.value || broken.value;
  if ((s.choosing.value && s.matching.value.length) || readings.value.length || opensWording.value) return "";
  return s.writing.value?.wrong?.says ?? "";
});
function writeAgain(one: NotTaken, text = one.says): void {
  s.forget(one);
  s.write(text);
  s.askFocus();
}
</script>

<template>
  <ol v-if="waits.length" class="ml-9 text-sm text-ink2" aria-label="Waiting" data-waiting>
    <li v-for="(one, n) in waits" :key="n">
      “{{ one.says.trim() }}” {{ s.busy.value && n === 0 ? "is being read" : "waits for the connection" }}
    </li>
  </ol>
  <p v-if="says" class="wrong ml-9" role="alert" data-refused>{{ says }}</p>
  <div v-if="readings.length" class="ml-9 flex flex-wrap items-baseline gap-1.5" role="status" data-readings>
    <span class="text-sm text-ink2">{{ readings.length > 1 ? "Which do you mean?" : "Read as" }}</span>
    <button v-for="one in readings" :key="one" type="button" class="pill" @click="s.choose(one)">
      {{ one.replaceAll(";", " ·") }}
    </button>
  </div>
  <p v-if="trial?.broken.length" class="wrong ml-9" role="status" data-would-break>
    <template v-for="one in trial.broken.slice(0, 3)" :key="one.number"
      >With this, step {{ one.number }} breaks: {{ one.why }}
    </template>
    <template v-if="trial.broken.length > 3">{{ trial.broken.length - 3 }} more break.</template>
  </p>
  <ul v-if="s.notTaken.value.length" class="ml-9" aria-label="Not added" role="alert" data-not-taken>
    <li v-for="(one, n) in s.notTaken.value" :key="n" class="wrong">
      “{{ one.says }}” was not added. {{ one.why }}
      <template v-if="one.readings?.length">
        <button
          v-for="reading in one.readings"
          :key="reading"
          type="button"
          class="mr-2 underline"
          @click="writeAgain(one, reading)"
        >
          {{ reading }}
        </button>
      </template>
      <button v-else type="button" class="underline" @click="writeAgain(one)">Correct it</button>
      <button type="button" class="ml-2 underline" @click="s.forget(one)">Dismiss</button>
    </li>
  </ul>
</template>

<style scoped>
.wrong {
  color: var(--color-pencil);
  font-size: 0.92rem;
}
</style>
