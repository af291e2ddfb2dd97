<script setup lang="ts">
/** What can be done next: kinds of steps in groups with small pictures; typing filters them, recent ones come first. */
import { computed, nextTick, ref, watch } from "vue";
import type { Kind } from "../../board/types";
import type { SentenceState } from "../../board/useSentence";

const props = defineProps<{ sentence: SentenceState; active: number }>();
const GROUPS: Record<string, string> = {
  draw: "Draw",
  change: "Change",
  help: "Help",
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

function boxOf(k: Kind): string {
  const [x, y, w, h] = k.picture.box;
  const side = Math.max(w, h, 1);
  const room = side * 0.16;
  return `${x - (side - w) / 2 - room} ${y - (side - h) / 2 - room} ${side + 2 * room} ${side + 2 * room}`;
}
const sideOf = (k: Kind) => Math.max(k.picture.box[2], k.picture.box[3], 1);
watch(
  () => props.active,
  () => void nextTick(() => root.value?.querySelector(".active")?.scrollIntoView({ block: "nearest" })),
);
</script>

<template>
  <div ref="root" class="next" aria-label="What next" data-next>
    <div v-for="g in groups" :key="g.name">
      <h2 v-if="g.name">{{ g.name }}</h2>
      <ul class="kinds">
        <li v-for="k in g.kinds" :key="k.says">
          <button
            type="button"
            class="kind"
            :class="typed && order.get(k.says) === active && 'active'"
            @click="sentence.begin(k)"
          >
            <svg :viewBox="boxOf(k)" width="34" height="34" aria-hidden="true" fill="none">
              <path :d="k.picture.pale" class="pale" />
              <path :d="k.picture.strong" class="strong" />
              <text
                v-for="(t, n) in k.picture.texts"
                :key="n"
                :x="t.at[0]"
                :y="t.at[1]"
                :font-size="Math.max(t.height, sideOf(k) * 0.3)"
                text-anchor="middle"
              >
                {{ t.wording }}
              </text>
            </svg>
            <span>{{ k.says }}</span>
          </button>
        </li>
      </ul>
    </div>
    <p v-if="!sentence.matching.value.length" class="text-ink2">
      No kind of step is called so. Try another word, or take it out to see all.
    </p>
  </div>
</template>

<style scoped>
.next {
  max-height: min(19rem, 38dvh);
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
.kind path {
  vector-effect: non-scaling-stroke;
}
.pale {
  stroke: var(--color-pale);
  stroke-width: 1.1;
}
.strong {
  stroke: var(--color-teal);
  stroke-width: 1.7;
}
.kind text {
  fill: var(--color-teal);
}
</style>
