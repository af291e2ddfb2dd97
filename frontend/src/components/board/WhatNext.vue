<script setup lang="ts">
/** What can be done next: kinds of steps in groups with small pictures; typing filters them, recent ones come first. */
import { computed, nextTick, ref, watch } from "vue";
import type { Kind } from "../../board/types";
import type { SentenceState } from "../../board/useSentence";
import KindPicture from "./KindPicture.vue";

const props = defineProps<{
  sentence: SentenceState;
  active: number;
  steps: number;
  /** The kind that a drawing which is followed needs next. */
  marked?: string;
}>();
/** As high as the page has room beside the list, of which eight steps stay in view. */
const most = computed(() => `max(7.5rem, 100dvh - ${21.5 + 2.3 * Math.min(Math.max(props.steps, 2), 8)}rem)`);
const GROUPS: Record<string, string> = {
  draw: "Draw",
  change: "Change",
  help: "Construct",
  annotate: "Annotate",
  keep: "Keep",
};
const root = ref<HTMLElement | null>(null);
const typed = computed(() => props.sentence.text.value.trim() !== "");
const groups = computed(() => {
  const all = props.sentence.matching.value;
  if (typed.value) return [{ name: "", kinds: all }];
  const out = new Map<string, Kind[]>();
  for (const k of all) out.set(k.group, [...(out.get(k.group) ?? []), k]);
  return [...out].map(([name, kinds]) => ({ name: GROUPS[name] ?? name, kinds }));
});
const order = computed(() => new Map(props.sentence.matching.value.map((k, n) => [k.says, n])));
watch(
  () => [props.marked, props.sentence.matching.value],
  () => void nextTick(() => root.value?.querySelector(".marked")?.scrollIntoView({ block: "nearest" })),
  { immediate: true },
);
watch(
  () => props.active,
  () => void nextTick(() => root.value?.querySelector(".active")?.scrollIntoView({ block: "nearest" })),
);
</script>

<template>
  <div
    v-show="sentence.matching.value.length || !sentence.writing.value?.wrong"
    ref="root"
    class="next"
    :style="{ maxHeight: most }"
    role="group"
    aria-label="What next"
    data-next
  >
    <div v-for="g in groups" :key="g.name">
      <h2 v-if="g.name">{{ g.name }}</h2>
      <ul class="kinds">
        <li v-for="k in g.kinds" :key="k.says">
          <button
            type="button"
            class="kind"
            :class="[typed && order.get(k.says) === active && 'active', k.says === marked && 'marked']"
            @click="sentence.begin(k)"
          >
            <KindPicture :kind="k" :side="34" />
            <span>{{ k.says }}</span>
          </button>
        </li>
      </ul>
    </div>
    <p v-if="!sentence.matching.value.length" class="text-ink2">Nothing found. Try fewer words.</p>
  </div>
</template>

<style scoped>
.next {
  overflow-y: auto;
  margin-left: 0.4rem;
}
h2 {
  margin: 0.4rem 0 0.1rem;
  font-size: 0.85rem;
  font-weight: 600;
  color: var(--color-ink2);
}
.kinds {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(12.2rem, 1fr));
}
.kind {
  display: flex;
  width: 100%;
  align-items: center;
  gap: 0.5rem;
  border-radius: 0.35rem;
  padding: 0.1rem 0.3rem;
  text-align: left;
  line-height: 1.15;
}
.kind:hover,
.kind.active {
  background: var(--color-teal-soft);
}
.kind.marked {
  outline: 2px solid var(--color-pencil);
  outline-offset: -2px;
}
</style>
