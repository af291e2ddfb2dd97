<script setup lang="ts">
/** How an attempt was drawn on the board: what was done, when, played forward on the drawing. Evidence beside the marks. */
import { useEventListener } from "@vueuse/core";
import { computed, nextTick, onMounted, ref, watch } from "vue";
import { useRoute } from "vue-router";
import AppBar from "../components/AppBar.vue";
import StateNote from "../components/StateNote.vue";
import BoardSheet from "../components/board/BoardSheet.vue";
import DeedList from "../components/board/DeedList.vue";
import { drawnIn, pauses } from "../board/deeds";
import { useMade } from "../board/useMade";
import { when } from "../times";
import { useLetterKeys } from "../useKeys";
import { useTitle } from "../title";

const id = Number(useRoute().params.id);
const play = useMade(id);
const { made, acts, at, plays, trouble } = play;
const sheet = ref<InstanceType<typeof BoardSheet> | null>(null);
onMounted(async () => {
  await play.open();
  await nextTick();
  sheet.value?.fit();
});
useTitle(() => made.value && `How it was made: ${made.value.student}, ${made.value.title}`);

const now = computed(() => acts.value[at.value - 1] ?? null);
/** What the last act was about is set off. */
const chosen = computed(() => {
  const steps = new Set(now.value?.steps ?? []);
  return new Set([...play.pieces.value.values()].filter((p) => steps.has(p.step)).map((p) => p.id));
});
const summary = computed(() => (made.value ? drawnIn(made.value) : ""));
const rests = computed(() => pauses(acts.value));
const none = new Set<never>();
watch(
  at,
  () => void nextTick(() => document.querySelector("[data-now]")?.scrollIntoView({ block: "nearest" })),
);

const letters = useLetterKeys();
useEventListener(window, "keydown", (e: KeyboardEvent) => {
  if (e.ctrlKey || e.altKey || e.metaKey) return;
  const target = e.target instanceof Element ? e.target : null;
  if (target?.closest("input, [data-sheet]")) return;
  const keys: Record<string, () => void> = {
    ArrowRight: () => play.go(at.value + 1),
    ArrowLeft: () => play.go(at.value - 1),
    Home: () => play.go(0),
    End: () => play.go(acts.value.length),
  };
  if (e.key === " " && letters.value && !target?.closest("button, a")) {
    if (plays.value) play.stop();
    else play.play();
  } else if (keys[e.key]) keys[e.key]?.();
  else return;
  e.preventDefault();
});
</script>

<template>
  <div
    class="flex min-h-dvh flex-col lg:h-dvh"
    :data-worker="play.inWorker.value ? 'ready' : 'not yet'"
    :data-pieces="play.pieces.value.size"
  >
    <AppBar>
      <template #start>
        <p v-if="made" class="min-w-0 truncate">
          <span class="text-ink2">{{ made.title }} · </span><strong>{{ made.student }}</strong>
        </p>
      </template>
      <template #end>
        <RouterLink class="press-quiet no-underline" :to="`/marking/${id}`">Back to the marks</RouterLink>
      </template>
    </AppBar>
    <StateNote
      v-if="!made || !play.view.value || trouble"
      class="m-5"
      :loading="!trouble"
      :error="trouble"
      :retry="play.open"
    />
    <main v-else class="grid min-h-0 flex-1 gap-4 p-4 lg:grid-cols-[minmax(0,1.65fr)_minmax(22rem,1fr)]">
      <section class="flex min-h-0 min-w-0 flex-col gap-2.5">
        <div class="min-h-[45dvh] flex-1 lg:min-h-0">
          <BoardSheet
            ref="sheet"
            :pieces="play.pieces.value"
            :shown="play.view.value"
            :chosen="chosen"
            :later="none"
            :hidden="none"
            :writing="null"
            :pointed="null"
            :grid="0"
            :drawing="false"
          />
        </div>
        <div class="flex flex-wrap items-center gap-3">
          <button class="press !px-3 !py-1" @click="plays ? play.stop() : play.play()">
            {{ plays ? "Stop" : at >= acts.length ? "Play from the start" : "Play" }}
          </button>
          <button class="press-quiet !px-2.5 !py-1" :disabled="at < 1" @click="play.go(at - 1)">
            Previous <kbd class="keycap">←</kbd>
          </button>
          <button class="press-quiet !px-2.5 !py-1" :disabled="at >= acts.length" @click="play.go(at + 1)">
            Next <kbd class="keycap">→</kbd>
          </button>
          <input
            class="min-w-32 flex-1 accent-teal"
            type="range"
            min="0"
            :max="acts.length"
            :value="at"
            aria-label="Point in the history"
            :aria-valuetext="now ? `${at} of ${acts.length}: ${now.says}` : 'the start'"
            @input="(e) => play.go(Number((e.target as HTMLInputElement).value))"
          />
          <button class="press-quiet !px-2.5 !py-1" @click="sheet?.fit()">Fit</button>
        </div>
        <p class="min-h-6 text-ink2" aria-live="polite" data-doing>
          <template v-if="now">{{ at }} of {{ acts.length }} · {{ when(now.at) }} · {{ now.says }}</template>
          <template v-else>the start</template>
        </p>
      </section>
      <section class="flex min-h-0 min-w-0 flex-col gap-2">
        <h1 class="!text-lg">How it was made</h1>
        <p class="text-ink2" data-summary>
          {{ acts.length < made.of ? `Reading, ${acts.length} of ${made.of} so far ...` : summary }}
        </p>
        <DeedList :deeds="acts" :rests="rests" :at="at" @go="play.go" />
        <p class="text-sm text-ink2">
          What was done on the board, as it was saved. It says nothing of what the student thought, and does
          not enter the marks.
        </p>
      </section>
    </main>
  </div>
</template>
