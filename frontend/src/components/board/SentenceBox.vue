<script setup lang="ts">
/** The sentence being written: what it wants next in words, the answers as a row, and what cannot be read under its character. */
import { refDebounced, useMediaQuery, useStorage } from "@vueuse/core";
import { computed, nextTick, ref, watch } from "vue";
import type { NotTaken } from "../../board/unsent";
import type { SentenceState } from "../../board/useSentence";
import type { Trial } from "../../board/useTrial";
import SignPad from "./SignPad.vue";
import WhatNext from "./WhatNext.vue";

const WAITS_MS = 600;
const props = defineProps<{ sentence: SentenceState; number: number; trial: Trial | null }>();
const s = props.sentence;
const input = ref<HTMLInputElement | null>(null);
const active = ref(0);
const focused = ref(false);
/** The pad is there for fingers and pens, until it is put away; for others when it is asked for. */
const padAsked = useStorage<"" | "yes" | "no">("even-mark board pad", "");
const coarse = useMediaQuery("(pointer: coarse)");
const pad = computed(() => (padAsked.value || (coarse.value ? "yes" : "no")) === "yes");
/** What next is offered to whoever is about to write, and on an empty sheet. */
const offering = computed(() => s.choosing.value && (focused.value || props.number === 1 || s.open.value));

/** What waits is shown once it is seen to wait: where somebody can judge it at once, nothing flickers. */
const waitsLong = refDebounced(
  computed(() => s.waits.value.length > 0),
  WAITS_MS,
);
const waits = computed(() => (waitsLong.value ? s.waits.value : []));
const offers = computed(() => (s.choosing.value ? [] : (s.writing.value?.answers ?? [])));
const whole = computed(() => s.writing.value?.whole === true);
const broken = computed(() => (whole.value ? (s.writing.value?.preview.broken ?? "") : ""));
const wants = computed(() => {
  const w = s.writing.value;
  if (!w || s.choosing.value) return "";
  return w.needs;
});
/** How what is wanted may be said: who draws for the first time reads it here. */
const EXAMPLES: Record<string, string> = {
  point: "as 35, 20, or press it on the sheet",
  feature: "press it on the sheet, or name it as edge 1",
  things: "press it on the sheet, or name it as circle 2",
  number: "as 12.5 or 7/16",
  direction: "as 60, in degrees from the right",
  wording: 'as "GATE PLATE"',
};
const example = computed(() => {
  const kinds = s.writing.value?.wants.map((w) => w.kind) ?? [];
  return Object.entries(EXAMPLES).find(([kind]) => kinds.includes(kind))?.[1] ?? "";
});
watch([offers, s.matching], () => (active.value = 0));
watch(s.focusAsked, () => void nextTick(() => input.value?.focus({ preventScroll: true })));
/** What is written by pointing or choosing goes on behind it. */
watch(
  [s.text, s.caret],
  ([says, at]) => {
    const field = input.value;
    if (field && field.value === says && field.selectionStart !== at) field.setSelectionRange(at, at);
  },
  { flush: "post" },
);

/** What was refused and is typed over is not lost: it is set beside the line. */
function over(e: Event): void {
  const field = input.value;
  const all = field?.selectionStart === 0 && field.selectionEnd === field.value.length;
  if (all && e instanceof InputEvent && e.inputType.startsWith("insert")) s.typedOver();
}
function typed(): void {
  const field = input.value;
  if (field) s.write(field.value, field.selectionStart ?? field.value.length);
}
function moved(): void {
  const at = input.value?.selectionStart ?? 0;
  if (at !== input.value?.selectionEnd) return; // something is selected: the caret stands nowhere
  if (at !== s.caret.value && input.value?.value === s.text.value) s.write(s.text.value, at);
}
/** The word that is being typed becomes the answer that it begins. */
async function complete(): Promise<boolean> {
  if (s.choosing.value) {
    const kind = s.matching.value[active.value];
    if (!kind) return false;
    await s.begin(kind);
    return true;
  }
  const stem = s.text.value.slice(s.writing.value?.begin ?? 0, s.writing.value?.end ?? 0).trim();
  const offer = offers.value[active.value];
  if (offer && ((stem && !offer.more) || active.value > 0) && offer.says !== stem) {
    await s.choose(offer.text);
    return true;
  }
  return false;
}
async function key(e: KeyboardEvent): Promise<void> {
  const count = s.choosing.value ? s.matching.value.length : offers.value.length;
  if (e.key === "Enter") {
    e.preventDefault();
    const says = s.text.value.trim();
    // before the kinds are there nothing is chosen among them: a word is a sentence, or says why it is none
    const few = !s.kinds.value.length && says.length > 0;
    const sentence = few || /\s/.test(says) || s.kinds.value.some((k) => k.begins === says);
    // the line is free at once for who types on; only what is known to be refused as it stands stays in it
    if (sentence && (!s.isCurrent() || (whole.value && !broken.value && !s.choosing.value))) await s.take();
    else if (!sentence) {
      await s.settled();
      await complete();
    } else if (!(await complete())) {
      s.refuse();
      input.value?.select();
    }
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
function writeAgain(one: NotTaken): void {
  s.forget(one);
  s.write(one.says);
  s.askFocus();
}
const root = ref<HTMLElement | null>(null);
function leave(e: FocusEvent): void {
  if (!(e.relatedTarget instanceof Node) || !root.value?.contains(e.relatedTarget)) focused.value = false;
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
    @focusin="focused = true"
    @focusout="leave"
    @pointerdown="focused = true"
  >
    <ol v-if="waits.length" class="ml-9 text-sm text-ink2" aria-label="Waiting" data-waiting>
      <li v-for="(one, n) in waits" :key="n">
        “{{ one.says.trim() }}” {{ s.busy.value && n === 0 ? "is being read" : "waits for the connection" }}
      </li>
    </ol>
    <p v-if="heading" class="text-sm font-semibold text-teal">{{ heading }}</p>
    <div class="flex items-center gap-2">
      <span class="w-7 shrink-0 text-right text-ink2" aria-hidden="true">{{ number }}</span>
      <input
        ref="input"
        class="line"
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
        @input="typed"
        @keydown="key"
        @keyup="moved"
        @click="moved"
      />
      <button
        type="button"
        class="shrink-0 text-sm text-teal underline"
        :aria-pressed="pad"
        @click="((padAsked = pad ? 'no' : 'yes'), s.askFocus())"
      >
        pad
      </button>
    </div>
    <p
      v-if="s.writing.value?.wrong && !s.choosing.value"
      class="wrong"
      data-wrong
      :style="{ marginLeft: '2.25rem' }"
    >
      <span class="under" aria-hidden="true"
        >{{ s.text.value.slice(0, s.writing.value.wrong.at).replace(/./g, " ") }}▴</span
      >
      {{ s.writing.value.wrong.says }}
    </p>
    <p v-if="s.refused.value || broken" class="wrong ml-9" role="alert" data-refused>
      {{ s.refused.value || broken }}
    </p>
    <p v-if="trial?.broken.length" class="wrong ml-9" role="status" data-would-break>
      <template v-for="one in trial.broken.slice(0, 3)" :key="one.number"
        >With this, step {{ one.number }} breaks: {{ one.why }}
      </template>
      <template v-if="trial.broken.length > 3">{{ trial.broken.length - 3 }} more break.</template>
    </p>
    <ul v-if="s.notTaken.value.length" class="ml-9" aria-label="Not taken" role="alert" data-not-taken>
      <li v-for="(one, n) in s.notTaken.value" :key="n" class="wrong">
        “{{ one.says }}” was not taken. {{ one.why }}
        <button type="button" class="underline" @click="writeAgain(one)">write it again</button>
        <button type="button" class="ml-2 underline" @click="s.forget(one)">let it go</button>
      </li>
    </ul>
    <p id="sentence-wants" class="ml-9 text-sm text-ink2" aria-live="polite" data-wants>
      <template v-if="s.unread.value && s.text.value.trim()">
        Nobody can read it without a connection. Enter keeps it here, in order, until somebody can.
      </template>
      <template v-else-if="whole && !broken">whole: Enter takes it</template>
      <template v-else-if="wants && !broken"
        >wants {{ wants }}<span v-if="example" class="block">{{ example }}</span></template
      >
    </p>
    <ul v-if="offers.length" class="ml-9 flex flex-wrap gap-1.5" aria-label="Answers" data-answers>
      <li v-for="(o, n) in offers" :key="o.says">
        <button
          type="button"
          class="pill"
          :class="n === active && 'active'"
          :title="o.broken || undefined"
          @click="s.choose(o.text)"
          @pointerenter="active = n"
        >
          {{ o.says }}
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
        Take it
      </button>
      <button type="button" class="press-quiet !px-3 !py-1" @click="s.letGo()">Let go</button>
      <span class="keys"
        ><kbd class="keycap">Enter</kbd> takes it <kbd class="keycap">Tab</kbd> next in reach
        <kbd class="keycap">↓</kbd> next answer <kbd class="keycap">Esc</kbd> lets go</span
      >
    </div>
    <SignPad v-if="pad && (focused || s.open.value)" @sign="s.put" @back="s.rubOut" @slot="s.put('; ')" />
    <WhatNext v-if="offering" :sentence="s" :active="active" />
  </section>
</template>

<style scoped>
.box {
  display: flex;
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
.wrong {
  color: var(--color-pencil);
  font-size: 0.92rem;
}
.under {
  display: none;
}
.pill {
  border: 1px solid var(--color-edge-soft);
  border-radius: 999px;
  background: white;
  padding: 0.15rem 0.75rem;
}
.pill.active,
.pill:hover {
  border-color: var(--color-teal);
  background: var(--color-teal);
  color: white;
}
.keys {
  color: var(--color-ink2);
  font-size: 0.85rem;
}
</style>
