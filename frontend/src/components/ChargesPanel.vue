<script setup lang="ts">
/** What slips cost: what is taken away, and what three typical slips would cost with it. */
import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/vue";
import { ChevronRightIcon } from "@heroicons/vue/20/solid";
import { useQuery } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { get, saysOf, type Schemas } from "../api/client";
import { CHARGES } from "../api/words";
import { marks } from "../numbers";
import type { Rules } from "../rules";
import NumberField from "./NumberField.vue";
import SwitchMark from "./SwitchMark.vue";
import { keys } from "../queries";

type Charges = Schemas["ChargesModel"];
type Amount = Exclude<keyof Charges, "habits">;
const props = defineProps<{ rules: Rules; revision: number; saved: boolean }>();
const emit = defineEmits<{ change: [work: (next: Rules) => void] }>();

const fields: { name: Amount; word: string; group: string }[] = [
  { name: "floor_sizes", word: "Wrong size or place, at least", group: "Each slip" },
  { name: "size_most", word: "Wrong size or place, at most", group: "Each slip" },
  { name: "floor_missing", word: "Missing feature, at least", group: "Each slip" },
  { name: "missing_most", word: "Missing feature, at most", group: "Each slip" },
  { name: "floor_views", word: "Views not aligned or swapped, at least", group: "Each slip" },
  { name: "floor", word: "Any other slip, at least", group: "Each slip" },
  { name: "habit_most", word: "One habit, such as a wrong layer, at most", group: "Each slip" },
  { name: "floors_most", word: "Most for several slips", group: "Each slip" },
  { name: "whole", word: "Moved, turned or scaled", group: "The whole drawing" },
  { name: "mirrored", word: "Mirrored", group: "The whole drawing" },
  { name: "each", word: "Each object", group: "Extra objects" },
  { name: "most", word: "All together, at most", group: "Extra objects" },
  { name: "twice", word: "Of that for duplicates, at most", group: "Extra objects" },
];
const groups = ["Each slip", "The whole drawing", "Extra objects"];
const shares: { name: "beside_absent" | "enough"; word: string }[] = [
  { name: "beside_absent", word: "Findings that follow a missing feature earn" },
  { name: "enough", word: "Findings that follow a slip earn in full when this much is right" },
];

function set(name: Amount, value: number | null): void {
  emit("change", (next) => next.charges && (next.charges[name] = value ?? 0));
}
const opened = ref(false);
const costs = useQuery({
  queryKey: computed(() => keys.costs(props.revision)),
  queryFn: () => get("/api/exercises/{revision_id}/costs", { revision_id: props.revision }),
  enabled: computed(() => opened.value && props.saved),
  retry: false,
});
// what is not saved yet is not what it would cost
watch(
  () => props.saved,
  (saved) => saved && opened.value && void costs.refetch(),
);
</script>

<template>
  <Disclosure v-slot="{ open }">
    <DisclosureButton
      class="mt-3 flex w-full items-center gap-1.5 text-left"
      data-charges
      @click="opened = true"
    >
      <ChevronRightIcon class="h-4 w-4 text-ink2" :class="open && 'rotate-90'" aria-hidden="true" />
      <h2>What slips cost</h2>
      <span class="ml-auto truncate text-sm text-ink2">
        <template v-if="rules.charges">
          wrong size at least {{ rules.charges.floor_sizes }} · mirrored {{ rules.charges.mirrored }}
        </template>
        <template v-else>nothing is charged</template>
      </span>
    </DisclosureButton>
    <DisclosurePanel class="paper mt-2 space-y-3 p-4 text-sm">
      <template v-if="!rules.charges">
        <p>This exercise is older than charges for slips. A slip costs what its own checks are worth.</p>
        <button
          class="press-quiet !px-2.5 !py-1"
          @click="emit('change', (next) => (next.charges = { ...CHARGES }))"
        >
          Charge slips as in new exercises
        </button>
      </template>
      <template v-else>
        <div class="border-b border-rule pb-2" aria-live="polite" data-costs>
          <p class="font-semibold">What three typical slips would cost</p>
          <p v-if="costs.error.value" class="text-ink2">{{ saysOf(costs.error.value) }}</p>
          <p v-else-if="!costs.data.value" class="text-ink2">Calculating …</p>
          <ul v-else :class="(costs.isFetching.value || !saved) && 'opacity-60'">
            <li v-for="c in costs.data.value.slips" :key="c.says" class="flex justify-between gap-2">
              <span>{{ c.says }}</span>
              <b class="text-pencil">{{ marks(c.costs) }}</b>
            </li>
            <li v-if="!costs.data.value.slips.length" class="text-ink2">
              This key has nothing to try them on.
            </li>
          </ul>
        </div>
        <p class="text-ink2">Out of 100 marks, on top of what the slip did not earn.</p>
        <fieldset v-for="g in groups" :key="g">
          <legend class="font-semibold">{{ g }}</legend>
          <label
            v-for="f in fields.filter((one) => one.group === g)"
            :key="f.name"
            class="mt-1 flex items-center justify-between gap-2"
          >
            {{ f.word }}
            <NumberField
              class="w-20 shrink-0"
              small
              :value="rules.charges[f.name] ?? CHARGES[f.name]"
              :most="100"
              @set="(v) => set(f.name, v)"
            />
          </label>
        </fieldset>
        <fieldset>
          <legend class="font-semibold">Follow-on findings</legend>
          <label v-for="s in shares" :key="s.name" class="mt-1 flex items-center justify-between gap-2">
            {{ s.word }}, %
            <NumberField
              class="w-20 shrink-0"
              small
              :value="Number((rules.charges[s.name] * 100).toFixed(9))"
              :most="100"
              @set="(v) => set(s.name, (v ?? 0) / 100)"
            />
          </label>
          <div class="mt-1.5 flex items-center gap-2">
            <SwitchMark
              :model-value="rules.charges.habits"
              label="Habits earn only where size and place are right"
              @update:model-value="(v) => emit('change', (next) => next.charges && (next.charges.habits = v))"
            />
            Layers, junctions and line styles earn only where size and place are right
          </div>
        </fieldset>
      </template>
    </DisclosurePanel>
  </Disclosure>
</template>
