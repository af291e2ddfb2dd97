<script setup lang="ts">
/** The board: a drawing as a list of exact steps, written and pointed, seen as it grows. */
import { useEventListener, useStorage } from "@vueuse/core";
import { computed, nextTick, onMounted, ref, shallowRef, watch } from "vue";
import { useRoute } from "vue-router";
import { useBoard, whyOf } from "../board/useBoard";
import { placeSaid } from "../board/rulers";
import { useBoardKeys } from "../board/useBoardKeys";
import { useChosen } from "../board/useChosen";
import { useLayers } from "../board/useLayers";
import { useMeasure } from "../board/useMeasure";
import { usePull } from "../board/usePull";
import { useOpening } from "../board/useOpening";
import { useUnderlay } from "../board/useUnderlay";
import { useTrial } from "../board/useTrial";
import { useSteps } from "../board/useSteps";
import { useWaysOut } from "../board/useWaysOut";
import { useSentence, type Hold, type Pointer } from "../board/useSentence";
import BoardBar from "../components/board/BoardBar.vue";
import BoardSheet from "../components/board/BoardSheet.vue";
import DocumentBar from "../components/board/DocumentBar.vue";
import ExerciseSheet from "../components/board/ExerciseSheet.vue";
import KeysLine from "../components/board/KeysLine.vue";
import MeasureBox from "../components/board/MeasureBox.vue";
import ChosenBox from "../components/board/ChosenBox.vue";
import OwnCheck from "../components/board/OwnCheck.vue";
import SentenceBox from "../components/board/SentenceBox.vue";
import SheetBar from "../components/board/SheetBar.vue";
import StepDialogs from "../components/board/StepDialogs.vue";
import StepList from "../components/board/StepList.vue";
import UnderlayBox from "../components/board/UnderlayBox.vue";
import TwoLists from "../components/board/TwoLists.vue";
import StateNote from "../components/StateNote.vue";
import { when } from "../times";
import { useTitle } from "../title";
import type { Point } from "../view";

const id = Number(useRoute().params.id);
const board = useBoard(id);
const settings = useStorage<Hold>("even-mark board pointing", {
  held: "",
  off: false,
  level: "gently",
  grid: 0,
});
const beside = useStorage("even-mark board sheet beside", window.innerWidth >= 1500);
const layers = useLayers(id, board);
const hold = (): Hold => ({ ...settings.value, hidden: [...layers.hidden.value] });
const sentence = useSentence(board, hold, {
  chosen: () => layers.chosen.value,
  current: () => layers.current.value,
});
const measure = useMeasure(board, hold);
const sheet = ref<InstanceType<typeof BoardSheet> | null>(null);
const says = ref("");
const at = shallowRef<Point | null>(null);

onMounted(async () => {
  await board.open();
  // without a connection they come later
  await sentence.loadKinds().catch(() => undefined);
  sheet.value?.fit();
});
useTitle(() => board.page.value?.title);

async function tried<T>(work: () => Promise<T>): Promise<T | undefined> {
  says.value = "";
  try {
    return await work();
  } catch (why) {
    says.value = whyOf(why);
    return undefined;
  }
}
const listing = useSteps(board, sentence, tried);
const { steps, edit, editStep, away, goBack, move, mark, rename, unmark } = listing;
const trial = useTrial(board, sentence);
const number = computed(() => {
  const place = sentence.place.value;
  const found = place && steps.value.find((r) => r.id === place.step);
  return found?.number ?? steps.value.length + sentence.waits.value.length + 1;
});
const later = computed(() => {
  const place = sentence.place.value;
  if (!place) return new Set<number>();
  const from = steps.value.findIndex((r) => r.id === place.step);
  return new Set(steps.value.slice(from).map((r) => r.id ?? 0));
});
const unit = computed(() => board.view.value?.unit ?? "mm");
const choosing = useChosen(board, sentence, hold, tried);
const {
  told: chosenTold,
  chosen,
  chosenSet,
  chosenSteps,
  chooseStep,
  chooseAll,
  pressed,
  inWindow,
} = choosing;
const underlay = useUnderlay(id, board, tried);
const pull = usePull(board, choosing, hold, tried);

const putOn = (names: string[], layer: string) => tried(() => board.act("put_on", { names, layer }));
async function erase(names: string[]): Promise<void> {
  const done = await tried(() => board.act("write", { says: `erase ${names.join(" and ")}` }));
  if (done) chosen.value = [];
}

// the bar below the sheet

function moved(p: Pointer | null): void {
  at.value = p?.at ?? null;
  if (underlay.doing.value) return;
  if (measure.on.value) measure.point(p);
  else void sentence.point(p);
}
async function press(p: Pointer, more: boolean): Promise<void> {
  if (underlay.doing.value) await underlay.press(p.at);
  else if (measure.on.value) await measure.press(p);
  else await pressed(p, more);
}
const pointed = computed(
  () => pull.pointed.value ?? (measure.on.value ? measure.pointed.value : sentence.pointed.value),
);
const coordinates = computed(() => placeSaid(pointed.value, at.value, board.view.value));
/** Writes a number into the sentence that is being written, or begins one with it. */
function use(writes: string): void {
  const says = sentence.text.value;
  sentence.write(says && !says.endsWith(" ") ? `${says} ${writes}` : says + writes);
  sentence.askFocus();
}

const undo = () => tried(async () => sentence.takeBack() || (await board.undo()));
const fit = () => sheet.value?.fit();
useBoardKeys({ board, sentence, measure, layers, chosen, pointed, tried, undo, fit });

const ways = useWaysOut(id, board, tried);
const { refused, told, showing } = ways;
const opening = useOpening(id, board, underlay, tried);
const { opened } = opening;
watch([opened, () => underlay.here.value?.mark], () => void nextTick(fit));
useEventListener(window, "beforeprint", fit);
useEventListener(window, "beforeunload", (e: BeforeUnloadEvent) => {
  if (board.outbox.saving.value !== "saved" || board.outbox.sentences.value.length) e.preventDefault();
});
</script>

<template>
  <div
    class="flex h-dvh flex-col"
    style="min-height: 34rem"
    :data-worker="board.inWorker.value ? 'ready' : 'not yet'"
  >
    <BoardBar v-model:beside="beside" :board="board" :ways="ways" :opening="opening" :steps="steps.length" />
    <StateNote
      v-if="!board.view.value || board.trouble.value"
      :loading="!board.trouble.value"
      :error="board.trouble.value"
      :retry="board.open"
    />
    <main v-else class="board">
      <div class="flex min-h-0 min-w-0 flex-col gap-2.5">
        <div class="with-sheet">
          <ExerciseSheet
            v-if="beside && board.page.value?.issue"
            :issue="board.page.value.issue.id"
            :title="board.page.value.title"
          />
          <BoardSheet
            ref="sheet"
            :pieces="board.pieces.value"
            :shown="board.view.value"
            :chosen="chosenSet"
            :later="later"
            :hidden="layers.hidden.value"
            :writing="sentence.writing.value"
            :pointed="pointed"
            :trial="pull.trial.value ?? trial"
            :grid="settings.grid"
            :drawing="
              !!underlay.doing.value || measure.on.value || (sentence.open.value && !sentence.choosing.value)
            "
            :pulled="pull.places.value"
            :underlay="underlay.here.value"
            :places="underlay.places.value"
            @pull="pull.begin"
            @pulling="pull.move"
            @let-go="pull.end"
            @move="moved"
            @press="press"
            @window="inWindow"
          />
        </div>
        <SheetBar
          v-model="settings"
          class="screen-only"
          :unit="unit"
          :at="coordinates"
          :measuring="measure.on.value"
          @fit="fit()"
          @measure="measure.begin()"
        />
      </div>
      <div class="flex min-h-0 min-w-0 flex-col gap-2.5 overflow-y-auto">
        <h1 class="!text-lg">
          Steps
          <span class="ml-2 text-base font-normal text-ink2"
            >{{ steps.length }}{{ sentence.open.value ? ", and one being written" : "" }}</span
          >
        </h1>
        <DocumentBar
          class="screen-only"
          :board="board"
          :values="board.view.value.values"
          :layers="layers"
          :picture="underlay"
          @open-picture="underlay.open()"
          @choose-layer="(layer) => chooseAll((p) => p.layer === layer)"
        />
        <UnderlayBox v-if="underlay.opened.value" :underlay="underlay" :unit="unit" />
        <StepList
          :rows="board.rows.value"
          :chosen="chosenSteps"
          :editing="sentence.place.value?.how === 'change' ? sentence.place.value.step : null"
          :before="sentence.place.value?.how === 'before' ? sentence.place.value.step : null"
          @choose="chooseStep"
          @edit="edit"
          @away="away"
          @insert="(row) => row.id && sentence.insertBefore(row.id)"
          @move="move"
          @mark="mark"
          @unmark="unmark"
          @rename="rename"
          @back="goBack"
        />
        <p v-if="opened" class="screen-only text-sm" role="status" data-opened>
          {{ opened.name }} is on the board. {{ opened.says.join(" ") }}
          <button class="ml-1 text-teal underline" @click="opened = null">all right</button>
        </p>
        <details v-if="board.page.value?.aside.length" class="text-sm text-ink2">
          <summary class="cursor-pointer">Set aside</summary>
          <p v-for="a in board.page.value.aside" :key="a.id" class="flex justify-between gap-3">
            <span>{{ a.says }}, {{ when(a.at) }}</span>
            <button class="text-teal underline" @click="tried(() => board.opened(a.id))">
              go on with this one
            </button>
          </p>
        </details>
        <MeasureBox v-if="measure.on.value" :measure="measure" :unit="unit" @use="use" />
        <ChosenBox
          v-else-if="!sentence.open.value"
          class="screen-only"
          :board="board"
          :told="chosenTold"
          :together="choosing.together.value"
          :unit="unit"
          :layers="layers.rows.value.map((r) => r.name)"
          @erase="erase"
          @edit="editStep"
          @alike="(by, is) => chooseAll((p) => p[by] === is)"
          @layer="putOn"
        />
        <OwnCheck v-if="told && showing" :told="told" @close="showing = false" />
        <p v-if="says || refused" class="text-pencil" role="alert" data-says>{{ says || refused }}</p>
        <SentenceBox
          class="screen-only"
          :sentence="sentence"
          :number="number"
          :trial="pull.trial.value ?? trial"
        />
        <KeysLine
          class="screen-only"
          :board="board"
          :sentence="sentence"
          :layers="layers"
          :tried="tried"
          :undo="undo"
        />
      </div>
    </main>
    <StepDialogs :listing="listing" />
    <TwoLists
      v-if="board.outbox.parted.value"
      :parted="board.outbox.parted.value"
      :trouble="says"
      @take="(which) => tried(() => board.choose(which))"
    />
  </div>
</template>

<style scoped>
.board {
  display: grid;
  min-height: 0;
  flex: 1;
  grid-template-columns: minmax(0, 1.65fr) minmax(22rem, 1fr);
  grid-template-rows: minmax(0, 1fr);
  gap: 1rem;
  padding: 1rem;
}
.with-sheet {
  display: flex;
  flex: 1;
  flex-direction: column;
  gap: 0.6rem;
  min-height: 0;
}
.with-sheet > * {
  flex: 1;
  min-height: 0;
  min-width: 0;
}
@media (min-width: 1500px) {
  .with-sheet {
    flex-direction: row;
  }
}
/* printed, the drawing stands above its whole list; at true scale it is printed from the PDF */
@media print {
  .board {
    display: block;
    overflow: visible;
  }
  .with-sheet {
    flex: none;
    height: 60vh;
  }
  .board :deep(canvas) {
    object-fit: contain;
  }
  .board :deep([data-steps]) {
    overflow: visible;
  }
}
@media (max-width: 860px) {
  .board {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: minmax(16rem, 45dvh) auto;
    overflow-y: auto;
  }
}
</style>
