<script setup lang="ts">
/** Selected tells its numbers; a number that a step has said can be corrected here. */
import { computed, ref } from "vue";
import type { Chosen } from "../../board/types";
import type { BoardState } from "../../board/useBoard";
import { measureCalled, unitOf } from "../../board/rulers";
import { whyOf } from "../../board/useBoard";

const props = defineProps<{
  board: BoardState;
  told: readonly Chosen[];
  together: string;
  unit: string;
  layers: readonly string[];
}>();
const emit = defineEmits<{
  erase: [names: string[]];
  edit: [step: number];
  step: [step: number];
  alike: [by: "kind" | "layer", is: string];
  layer: [names: string[], layer: string];
}>();
const trouble = ref("");
const stays = ref<"start" | "end">("start");

async function correct(one: Chosen, number: string, e: Event): Promise<void> {
  const field = e.target as HTMLInputElement;
  const says = field.value.trim();
  const before = one.numbers.find((n) => n.name === number);
  if (!says || says === before?.says) return;
  trouble.value = "";
  try {
    await props.board.act("correct", { name: one.id, number, says, stays: stays.value });
  } catch (why) {
    trouble.value = whyOf(why);
    field.value = before?.says ?? "";
  }
}
const onLayer = computed(() => {
  const on = new Set(props.told.map((t) => t.layer));
  return on.size === 1 ? (props.told[0]?.layer ?? "") : "";
});
function moveTo(e: Event): void {
  const layer = (e.target as HTMLSelectElement).value;
  if (layer)
    emit(
      "layer",
      props.told.map((t) => t.name),
      layer,
    );
}
</script>

<template>
  <section v-if="told.length" class="paper px-3 py-2" aria-label="Selected" data-chosen>
    <div v-for="one in told.slice(0, 4)" :key="one.id" class="mb-1">
      <p class="flex items-baseline justify-between gap-3">
        <strong>{{ one.name }}</strong>
        <span class="text-sm text-ink2">{{ one.layer }}</span>
      </p>
      <!-- what made it, and what has changed it since -->
      <p class="flex flex-wrap gap-x-2 text-sm text-ink2" data-made-by>
        <template v-for="(t, n) in one.by" :key="t.step">
          <span v-if="n < 2">{{ t.how }} by</span>
          <button type="button" class="link" @click="emit('step', t.step)">step {{ t.number }}</button>
        </template>
      </p>
      <dl class="numbers">
        <template v-for="n in one.numbers" :key="n.name">
          <dt>{{ measureCalled(n.name) }}</dt>
          <dd>
            <input
              v-if="n.can"
              :value="n.says"
              :aria-label="`${measureCalled(n.name)} of ${one.name}, in ${unitOf(n.name, unit)}`"
              class="number"
              @change="(e) => correct(one, n.name, e)"
              @keydown.enter="(e) => (e.target as HTMLInputElement).blur()"
            />
            <span v-else>{{ n.shows }}</span>
            <span class="text-sm text-ink2"> {{ unitOf(n.name, unit) }}</span>
          </dd>
        </template>
      </dl>
      <fieldset
        v-if="one.numbers.some((n) => n.name === 'length' && n.can)"
        class="flex gap-3 text-sm text-ink2"
      >
        <legend class="sr-only">Which end stays when the length changes</legend>
        <label v-for="end in ['start', 'end'] as const" :key="end" class="flex items-center gap-1">
          <input v-model="stays" type="radio" :value="end" /> {{ end }} stays
        </label>
      </fieldset>
    </div>
    <p v-if="told.length > 1" class="text-sm text-ink2">
      {{ told.length }} selected<template v-if="together">, together {{ together }} {{ unit }} long</template>
    </p>
    <p v-if="trouble" class="text-pencil" role="alert">{{ trouble }}</p>
    <p class="mt-1 flex flex-wrap gap-3 text-sm">
      <button v-if="told.length === 1" type="button" class="link" @click="emit('edit', told[0]!.step)">
        Correct step {{ told[0]!.number }}
      </button>
      <button
        type="button"
        class="link"
        @click="
          emit(
            'erase',
            told.map((t) => t.name),
          )
        "
      >
        Erase {{ told.length === 1 ? told[0]!.name : "them" }}
      </button>
      <template v-if="told.length === 1">
        <button type="button" class="link" @click="emit('alike', 'kind', told[0]!.kind)">
          Select all of its kind
        </button>
        <button type="button" class="link" @click="emit('alike', 'layer', told[0]!.layer)">
          all on {{ told[0]!.layer }}
        </button>
      </template>
      <label class="flex items-center gap-1 text-ink2">
        on layer
        <select :value="onLayer" class="text-teal" @change="moveTo">
          <option v-if="!onLayer" value="">several layers</option>
          <option v-for="name in layers" :key="name" :value="name">{{ name }}</option>
        </select>
      </label>
    </p>
  </section>
</template>

<style scoped>
.numbers {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) auto minmax(0, 1fr);
  gap: 0.1rem 0.6rem;
  align-items: baseline;
}
dt {
  color: var(--color-ink2);
  font-size: 0.9rem;
}
dd {
  display: flex;
  gap: 0.25rem;
  align-items: baseline;
  min-width: 0;
}
.number {
  width: 7.2rem;
  min-width: 0;
  border: none;
  border-bottom: 1px dashed var(--color-edge);
  font-weight: 600;
  background: transparent;
}
.link {
  color: var(--color-teal);
  text-decoration: underline;
  text-underline-offset: 2px;
}
</style>
