<script setup lang="ts">
/** The sentence being written: what comes next in words, the answers as a row, and what cannot be read. */
import { useMediaQuery, useResizeObserver, useStorage } from "@vueuse/core";
import { computed, nextTick, ref, watch } from "vue";
import type { LayersState } from "../../board/useLayers";
import type { SentenceState } from "../../board/useSentence";
import { beginOf } from "../../board/pointing";
import { wantedSays } from "../../board/wanted";
import type { Trial } from "../../board/useTrial";
import SentenceLayer from "./SentenceLayer.vue";
import SentenceNotes from "./SentenceNotes.vue";
import KindExample from "./KindExample.vue";
import SignPad from "./SignPad.vue";
import WhatNext from "./WhatNext.vue";

const props = defineProps<{
  sentence: SentenceState;
  number: number;
  trial: Trial | null;
  layers: LayersState;
  /** The kind that a drawing which is followed needs next. */
  marked?: string;
}>();
/** Keys that mean something where nothing is written yet. */
const emit = defineEmits<{ key: [e: KeyboardEvent]; help: [] }>();
const s = props.sentence;
const input = ref<HTMLTextAreaElement | null>(null);
const active = ref(0);
const focused = ref(false);
/** The pad is there for fingers and pens, until it is put away; for others when it is asked for. */
const padAsked = useStorage<"" | "yes" | "no">("even-mark board pad", "");
const coarse = useMediaQuery("(pointer: coarse)");
const pad = computed(() => (padAsked.value || (coarse.value ? "yes" : "no")) === "yes");
/** What next is offered to whoever is about to write, and on an empty sheet. */
const offering = computed(() => s.choosing.value && (focused.value || props.number === 1 || s.open.value));

/** The example of the kind that is being written, or would be begun; the key ? shows it. */
const shows = ref(false);
const exampleOf = computed(() => {
  const begins = beginOf(s.kinds.value, s.text.value);
  if (s.choosing.value) return s.matching.value[active.value];
  return s.kinds.value.find((k) => k.begins === begins);
});

const offers = computed(() => (s.choosing.value ? [] : (s.writing.value?.answers ?? [])));
const whole = computed(() => s.writing.value?.whole === true);
const broken = computed(() => (whole.value ? (s.writing.value?.preview.broken ?? "") : ""));
const wants = computed(() => (s.choosing.value ? "" : (s.writing.value?.needs ?? "")));
const example = computed(() => wantedSays(s.writing.value));
watch([offers, s.matching], () => (active.value = 0));
watch(s.focusAsked, () => void nextTick(() => input.value?.focus({ preventScroll: true })));
/** What is written by pointing or choosing goes on behind it. */
watch(
  [s.text, s.caret],
  ([says, at]) => {
    const field = input.value;
    if (!field) return;
    if (field.value !== says) field.value = says;
    if (field.selectionStart !== at && document.activeElement === field) field.setSelectionRange(at, at);
    grow(field);
  },
  { flush: "post" },
);
/** A number that is to be written over is selected. */
watch(s.selected, (at) => {
  if (at) void nextTick(() => void nextTick(() => input.value?.setSelectionRange(...at)));
});
/** The field is as high as what is written needs. */
useResizeObserver(input, () => input.value && grow(input.value));
function grow(field: HTMLTextAreaElement): void {
  field.style.height = "auto";
  field.style.height = `${field.scrollHeight}px`;
}

/** What was refused and is typed over is not lost: it is set beside the line. */
function over(e: Event): void {
  const field = input.value;
  const all = field?.selectionStart === 0 && field.selectionEnd === field.value.length;
  if (all && e instanceof InputEvent && e.inputType.startsWith("insert")) s.typedOver();
}
/** Several lines that are pasted are several steps. */
function pasted(e: ClipboardEvent): void {
  const lines = (e.clipboardData?.getData("text") ?? "").split(/\r?\n/).map((one) => one.trim());
  const steps = lines.filter((one) => one && !one.startsWith("#"));
  if (steps.length < 2 || s.text.value.trim()) return;
  e.preventDefault();
  void s.takeAll(steps);
}
function typed(): void {
  const field = input.value;
  if (!field) return;
  const says = field.value.replace(/[\r\n]+/g, " ");
  s.type(says, Math.min(field.selectionStart ?? says.length, says.length));
}
function moved(): void {
  const at = input.value?.selectionStart ?? 0;
  if (at !== input.value?.selectionEnd) return; // something is selected: the caret stands nowhere
  if (at !== s.caret.value && input.value?.value === s.text.value) s.write(s.text.value, at);
}
/** What of the slot stands there already. */
const stem = computed(() =>
  s.text.value.slice(s.writing.value?.begin ?? 0, s.writing.value?.end ?? 0).trim(),
);
/** The word that is being typed becomes the answer that it begins. */
async function complete(): Promise<boolean> {
  if (s.choosing.value) {
    const kind = s.matching.value[active.value];
    if (!kind) return false;
    await s.begin(kind);
    return true;
  }
  const offer = offers.value[active.value];
  if (offer && ((stem.value && !offer.more) || active.value > 0) && offer.says !== stem.value) {
    await s.pick(offer);
    return true;
  }
  return false;
}
async function enter(): Promise<void> {
  const says = s.text.value.trim();
  // before the kinds are there nothing is chosen among them: a word is a sentence, or says why it is none
  const few = !s.kinds.value.length && says.length > 0;
  const sentence = few || /\s/.test(says) || s.kinds.value.some((k) => k.begins === says);
  // the line is free at once for who types on; only what is known to be refused as it stands stays in it
  if (sentence && (!s.isCurrent() || (whole.value && !broken.value && !s.choosing.value))) await s.take();
  else if (!sentence) {
    await s.settled();
    await complete();
  } else if (!active.value && (await s.aim(stem.value))) {
    return; // a typed length goes where the pointer shows, unless another answer was chosen for it
  } else if (!(await complete()) && !goOn()) {
    s.refuse();
    input.value?.select();
  }
}
/** A slot that is filled goes on to the next one. */
const onward = computed(() =>
  !whole.value && s.readOf.value === s.text.value ? (s.writing.value?.onward ?? "") : "",
);
function goOn(): boolean {
  if (!onward.value) return false;
  s.write(onward.value);
  s.askFocus();
  return true;
}
async function key(e: KeyboardEvent): Promise<void> {
  const count = s.choosing.value ? s.matching.value.length : offers.value.length;
  if (!s.text.value && "=/".includes(e.key)) emit("key", e);
  else if (e.key === "?" && s.text.value.split('"').length % 2) {
    e.preventDefault();
    if (s.text.value.trim()) shows.value = !shows.value;
    else emit("help");
  } else if (e.key === "Enter") {
    e.preventDefault();
    await enter();
  } else if (e.key === "Tab" && s.pointed.value && s.pointed.value.choices.length > 1) {
    e.preventDefault();
    s.nextInReach(e.shiftKey ? -1 : 1);
  } else if (e.key === "Tab" && !e.shiftKey && count && s.text.value.trim() && !whole.value) {
    e.preventDefault();
    await complete();
  } else if (e.key === "ArrowDown" || e.key === "ArrowUp") {
    if (!count) return;
    e.preventDefault();
    active.value = (active.value + (e.key === "ArrowDown" ? 1 : -1) + count) % count;
  } else if (e.key === "Escape") {
    e.preventDefault();
    s.letGo();
  }
}
const root = ref<HTMLElement | null>(null);
const AFTER_A_PRESS_MS = 350;
/** What is open for whoever writes folds only once the press that led away is over: nothing moves under a finger. */
function leave(e: FocusEvent): void {
  if (e.relatedTarget instanceof Node && root.value?.contains(e.relatedTarget)) return;
  setTimeout(() => {
    if (!root.value?.contains(document.activeElement)) focused.value = false;
  }, AFTER_A_PRESS_MS);
}
const heading = computed(() => {
  const at = s.place.value;
  if (at?.how === "change") return "Correct this step";
  if (at?.how === "before") return "Insert a step before it";
  return "";
});
defineExpose({ focus: () => input.value?.focus() });
</script>

<template>
  <section
    ref="root"
    class="box"
    :class="s.open.value && 'open'"
    aria-label="The sentence being written"
    data-sentence
    :data-read="!s.atWork.value && (!s.text.value.trim() || s.readOf.value === s.text.value) ? 'yes' : 'no'"
    @focusin="(e) => e.target === input && (focused = true)"
    @focusout="leave"
    @click="focused = true"
  >
    <p v-if="heading" class="ml-9 text-sm font-semibold text-teal">{{ heading }}</p>
    <div class="flex items-start gap-2">
      <span class="w-7 shrink-0 pt-1 text-right text-ink2" aria-hidden="true">{{ number }}</span>
      <textarea
        ref="input"
        class="line"
        rows="1"
        :value="s.text.value"
        :aria-label="`Step ${number}, what to do`"
        aria-describedby="sentence-wants"
        :aria-invalid="!!s.writing.value?.wrong || !!s.refused.value"
        placeholder="what to draw, in words"
        autocomplete="off"
        autocapitalize="off"
        spellcheck="false"
        maxlength="20000"
        :inputmode="pad && coarse ? 'none' : 'text'"
        @beforeinput="over"
        @paste="pasted"
        @input="typed"
        @keydown="key"
        @keyup="moved"
        @click="moved"
      />
      <span class="flex shrink-0 flex-col items-end gap-0.5 pt-1">
        <SentenceLayer v-if="s.open.value && !s.choosing.value" :sentence="s" :layers="layers" />
        <button
          type="button"
          class="text-sm text-teal underline"
          :aria-pressed="pad"
          @click="((padAsked = pad ? 'no' : 'yes'), s.askFocus())"
        >
          pad
        </button>
        <button
          v-if="s.open.value && exampleOf"
          type="button"
          class="text-sm text-teal underline"
          :aria-pressed="shows"
          @click="((shows = !shows), s.askFocus())"
        >
          example
        </button>
      </span>
    </div>
    <SentenceNotes :sentence="s" :trial="trial" />
    <p id="sentence-wants" class="ml-9 text-sm text-ink2" aria-live="polite" data-wants>
      <template v-if="s.unread.value && s.text.value.trim()">
        No connection. Enter keeps it here, in order, until there is one.
      </template>
      <template v-else-if="whole && !broken"
        >Step complete. Enter adds it{{
          s.writing.value?.goes_on && wants ? `, or go on: ${wants}` : ""
        }}.</template
      >
      <template v-else-if="wants && !broken"
        ><strong class="text-ink">Next: {{ wants }}.</strong> {{ example }}</template
      >
    </p>
    <ul v-if="offers.length" class="ml-9 flex flex-wrap gap-1.5" aria-label="Answers" data-answers>
      <li v-for="(o, n) in offers" :key="o.says">
        <button
          type="button"
          class="pill"
          :class="n === active && 'active'"
          :title="o.broken || undefined"
          @click="s.pick(o)"
          @pointerenter="active = n"
        >
          {{ o.says.replaceAll(";", " ·") }}
        </button>
      </li>
    </ul>
    <div v-if="s.open.value" class="ml-9 flex flex-wrap items-center gap-2">
      <button
        v-if="whole && !broken"
        type="button"
        class="press !px-3 !py-1"
        :disabled="s.busy.value"
        @click="s.take()"
      >
        Add step
      </button>
      <button v-else-if="onward" type="button" class="press !px-3 !py-1" @click="goOn()">Continue</button>
      <button type="button" class="press-quiet !px-3 !py-1" @click="s.letGo()">Cancel</button>
      <span class="keys"
        ><kbd class="keycap">Enter</kbd> {{ whole ? "adds" : "goes on" }} <kbd class="keycap">Tab</kbd> other
        <kbd class="keycap">↓</kbd> next answer <kbd class="keycap">Esc</kbd> cancels</span
      >
    </div>
    <KindExample v-if="shows && s.open.value && exampleOf" class="ml-9" :kind="exampleOf" />
    <WhatNext v-if="offering" :sentence="s" :active="active" :steps="number - 1" :marked="marked" />
    <!-- last, and held at the foot: its keys stay where they are while what is above them comes and goes -->
    <SignPad
      v-if="pad && (focused || s.open.value)"
      class="-mb-[0.6rem] bg-white pt-1 pb-[0.6rem] min-[861px]:sticky min-[861px]:bottom-px"
      @sign="s.put"
      @back="s.rubOut"
      @slot="s.put('; ')"
    />
  </section>
</template>

<style scoped>
.box {
  display: flex;
  flex-shrink: 0;
  flex-direction: column;
  gap: 0.4rem;
  border: 1px solid var(--color-rule);
  border-left: 5px solid var(--color-rule);
  border-radius: 0.45rem;
  background: white;
  padding: 0.6rem 0.8rem 0.6rem 0.4rem;
}
.box.open,
.box:focus-within {
  border-color: var(--color-teal);
}
.line {
  width: 100%;
  min-width: 0;
  max-height: 9rem;
  resize: none;
  overflow-y: auto;
  border: none;
  border-bottom: 1px dashed var(--color-edge-soft);
  padding: 0.2rem 0.1rem;
  font-size: 1.1rem;
  font-weight: 600;
  background: transparent;
}
.line:focus {
  outline: none;
  border-bottom: 2px solid var(--color-teal);
}
.line::placeholder {
  font-weight: 400;
  color: var(--color-quiet);
}
.keys {
  color: var(--color-ink2);
  font-size: 0.85rem;
}
</style>
