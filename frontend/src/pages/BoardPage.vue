<script setup lang="ts">
/** The board: a drawing as a list of exact steps, written and pointed, seen as it grows. */
import { useEventListener, useStorage } from "@vueuse/core";
import { computed, nextTick, onMounted, ref, shallowRef, watch } from "vue";
import { useRoute } from "vue-router";
import { useBoard } from "../board/useBoard";
import { placeSaid } from "../board/rulers";
import { useBoardKeys } from "../board/useBoardKeys";
import { useChosen } from "../board/useChosen";
import { useChosenActs } from "../board/useChosenActs";
import { useFollowing } from "../board/useFollowing";
import { useLayers } from "../board/useLayers";
import type { Framing } from "../board/useFrame";
import { useLit } from "../board/useLit";
import { useMeasure } from "../board/useMeasure";
import { usePull } from "../board/usePull";
import { useOpening } from "../board/useOpening";
import { useUnderlay } from "../board/useUnderlay";
import { useUndo } from "../board/useUndo";
import { useTried } from "../board/useTried";
import { useTrial } from "../board/useTrial";
import { useSteps } from "../board/useSteps";
import { useWaysOut } from "../board/useWaysOut";
import { useSentence, type Hold, type Pointer } from "../board/useSentence";
import BoardBar from "../components/board/BoardBar.vue";
import BoardHelp from "../components/board/BoardHelp.vue";
import BoardLayout from "../components/board/BoardLayout.vue";
import BoardSheet from "../components/board/BoardSheet.vue";
import DocumentBar from "../components/board/DocumentBar.vue";
import ExerciseSheet from "../components/board/ExerciseSheet.vue";
import FollowBox from "../components/board/FollowBox.vue";
import FollowOffer from "../components/board/FollowOffer.vue";
import HandInDialog from "../components/board/HandInDialog.vue";
import KeysLine from "../components/board/KeysLine.vue";
import ListHead from "../components/board/ListHead.vue";
import MeasureBox from "../components/board/MeasureBox.vue";
import ChosenBox from "../components/board/ChosenBox.vue";
import OwnCheck from "../components/board/OwnCheck.vue";
import SentenceBox from "../components/board/SentenceBox.vue";
import SetAside from "../components/board/SetAside.vue";
import SheetBar from "../components/board/SheetBar.vue";
import StepActs from "../components/board/StepActs.vue";
import StepDialogs from "../components/board/StepDialogs.vue";
import StepList from "../components/board/StepList.vue";
import UnderlayBox from "../components/board/UnderlayBox.vue";
import TwoLists from "../components/board/TwoLists.vue";
import StateNote from "../components/StateNote.vue";
import { useTitle } from "../title";
import type { Point } from "../view";

const route = useRoute();
const id = Number(route.params.id);
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
const { says, tried } = useTried();
const at = shallowRef<Point | null>(null);

onMounted(async () => {
  await board.open();
  // without a connection they come later
  await sentence.loadKinds().catch(() => undefined);
  sheet.value?.fit();
  follow.open();
  // a result leads to the step that it is about
  const step = Number(route.query.step);
  if (step && steps.value.some((r) => r.id === step)) chooseStep(step, false);
});
useTitle(() => board.page.value?.title);

const listing = useSteps(board, sentence, tried);
const { steps, number, later, edit, editStep, away, goBack, move, rename, unmark } = listing;
const stepAct = listing.act;
const trial = useTrial(board, sentence);
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
/** The one step that is chosen; it is not written anew just now. */
const chosenRow = computed(() => {
  const [one, ...others] = chosenSteps.value;
  return others.length || sentence.place.value ? undefined : steps.value.find((r) => r.id === one);
});
const underlay = useUnderlay(id, board, tried);
const pull = usePull(board, choosing, hold, tried);

const { putOn, erase, remove, chooseNamed } = useChosenActs(board, choosing, tried, away);
const { over, lit } = useLit(board, sentence);
const find = ref("");
const framing = ref<Framing>("");

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
  else {
    follow.press(p);
    await pressed(p, more);
  }
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

// a drawing that is followed

const helping = ref(false);
const follow = useFollowing(board, sentence, settings, tried);
const startFollowing = follow.start;

const { undo, redo } = useUndo(board, sentence, tried);
const fit = () => sheet.value?.fit();
const keys = useBoardKeys({ sentence, measure, layers, chosen, pointed, undo, redo, fit, remove });

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
    class="flex h-dvh min-h-[34rem] flex-col [@media(max-height:520px)]:min-h-0"
    :data-worker="board.inWorker.value ? 'ready' : 'not yet'"
  >
    <BoardBar v-model:beside="beside" :board="board" :ways="ways" :opening="opening" :steps="steps.length" />
    <StateNote
      v-if="!board.view.value || board.trouble.value"
      class="m-5"
      :loading="!board.trouble.value"
      :error="board.trouble.value"
      :retry="board.open"
    />
    <BoardLayout v-else>
      <template #sheets>
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
          :lit="lit"
          :later="later"
          :hidden="layers.hidden.value"
          :writing="sentence.writing.value"
          :pointed="pointed"
          :trial="pull.trial.value ?? trial"
          :grid="settings.grid"
          :framing="framing"
          :drawing="
            !!underlay.doing.value || measure.on.value || (sentence.open.value && !sentence.choosing.value)
          "
          :pulled="pull.places.value"
          :underlay="underlay.here.value"
          :places="underlay.places.value"
          :mark="follow.next.value?.at"
          @pull="pull.begin"
          @grab="pull.grab"
          @pulling="pull.move"
          @let-go="pull.end"
          @move="moved"
          @press="press"
          @window="inWindow"
          @framed="framing = ''"
        />
      </template>
      <template #bar>
        <SheetBar
          v-model="settings"
          v-model:framing="framing"
          class="screen-only"
          :unit="unit"
          :at="coordinates"
          :measuring="measure.on.value"
          :can-go-back="sheet?.canGoBack ?? false"
          @fit="fit()"
          @back="sheet?.back()"
          @measure="measure.begin()"
        />
      </template>
      <FollowBox v-if="follow.lesson.value" :follow="follow" :board="id" @start="startFollowing" />
      <ListHead v-model:find="find" :rows="board.rows.value" :chosen="chosenSteps" @choose="chooseStep" />
      <DocumentBar
        class="screen-only shrink-0"
        :board="board"
        :values="board.view.value.values"
        :layers="layers"
        :picture="underlay"
        @open-picture="underlay.open()"
        @choose-layer="(layer) => chooseAll((p) => p.layer === layer)"
      />
      <UnderlayBox v-if="underlay.opened.value" :underlay="underlay" :unit="unit" />
      <StepList
        :board="id"
        :find="find"
        :rows="board.rows.value"
        :layers="board.view.value.layers"
        :chosen="chosenSteps"
        :editing="sentence.place.value?.how === 'change' ? sentence.place.value.step : null"
        :before="sentence.place.value?.how === 'before' ? sentence.place.value.step : null"
        @choose="chooseStep"
        @name="chooseNamed"
        @over="(step) => (over = step)"
        @edit="edit"
        @away="away"
        @move="move"
        @unmark="unmark"
        @rename="rename"
        @back="goBack"
      />
      <FollowOffer
        v-if="!steps.length && !follow.lesson.value && follow.offered.value"
        class="paper screen-only px-4 py-3"
        closes
        @start="startFollowing"
        @close="follow.putAway()"
      />
      <StepActs v-if="chosenRow" class="screen-only" :row="chosenRow" @act="stepAct" />
      <p v-if="opened" class="screen-only text-sm" role="status" data-opened>
        {{ opened.name }} is on the board. {{ opened.says.join(" ") }}
        <button class="ml-1 text-teal underline" @click="opened = null">Dismiss</button>
      </p>
      <SetAside
        v-if="board.page.value"
        :aside="board.page.value.aside"
        @open="(aside) => tried(() => board.opened(aside))"
      />
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
        @step="(step) => chooseStep(step, false)"
        @alike="(by, is) => chooseAll((p) => p[by] === is)"
        @layer="putOn"
      />
      <OwnCheck
        v-if="told && showing"
        :told="told"
        @close="showing = false"
        @step="(step) => chooseStep(step, false)"
      />
      <p v-if="says || refused" class="text-pencil" role="alert" data-says>{{ says || refused }}</p>
      <SentenceBox
        class="screen-only"
        :sentence="sentence"
        :number="number"
        :trial="pull.trial.value ?? trial"
        :layers="layers"
        :marked="follow.next.value?.kind"
        @key="keys"
        @help="helping = true"
      />
      <KeysLine
        class="screen-only"
        :board="board"
        :sentence="sentence"
        :layers="layers"
        :undo="undo"
        :redo="redo"
        @help="helping = true"
      />
    </BoardLayout>
    <StepDialogs :listing="listing" />
    <BoardHelp
      :open="helping"
      :kinds="sentence.kinds.value"
      @close="helping = false"
      @start="startFollowing"
    />
    <HandInDialog :board="board" :ways="ways" :sentence="sentence" />
    <TwoLists
      v-if="board.outbox.parted.value"
      :parted="board.outbox.parted.value"
      :trouble="says"
      @take="(which) => tried(() => board.choose(which))"
    />
  </div>
</template>
