<script setup lang="ts">
/** Placement, tolerances, near band, units and the roles of layers. */
import { Disclosure, DisclosureButton, DisclosurePanel, RadioGroup, RadioGroupOption } from "@headlessui/vue";
import { ChevronRightIcon } from "@heroicons/vue/20/solid";
import { computed } from "vue";
import type { Schemas } from "../api/client";
import { ROLES } from "../api/words";
import { PLACEMENTS, type Rules } from "../rules";
import ChoiceList from "./ChoiceList.vue";
import MarksByKind from "./MarksByKind.vue";
import NumberField from "./NumberField.vue";
import SwitchMark from "./SwitchMark.vue";

const props = defineProps<{ rules: Rules; layers: Schemas["LayerOut"][] }>();
const emit = defineEmits<{ change: [work: (next: Rules) => void] }>();

const sizes = [
  { name: "length", word: "Sizes", unit: true },
  { name: "position", word: "Positions", unit: true },
  { name: "angle_deg", word: "Angles", unit: false },
  { name: "near", word: "Near band", unit: true },
] as const;

const imperial = computed(() => ["in", "ft"].includes(props.rules.unit ?? ""));
const roles = [
  { value: "", word: "no role" },
  ...ROLES.map((r) => ({ value: r as string, word: r as string })),
];
function setRole(layer: string, role: string | null): void {
  emit("change", (next) => {
    if (role) next.roles[layer] = role;
    else next.roles = Object.fromEntries(Object.entries(next.roles).filter(([name]) => name !== layer));
  });
}
</script>

<template>
  <Disclosure v-slot="{ open }">
    <DisclosureButton class="mt-3 flex w-full items-center gap-1.5 text-left">
      <ChevronRightIcon class="h-4 w-4 text-ink2" :class="open && 'rotate-90'" aria-hidden="true" />
      <h2>Tolerances and placement</h2>
      <span class="ml-auto text-sm text-ink2">
        {{ PLACEMENTS.find((p) => p.value === rules.placement)?.name }} · ±{{ rules.tolerances.length }}
        {{ rules.unit }}
      </span>
    </DisclosureButton>
    <DisclosurePanel class="paper mt-2 space-y-4 p-4">
      <RadioGroup
        aria-label="Placement"
        :model-value="rules.placement"
        @update:model-value="(v: Rules['placement']) => emit('change', (next) => (next.placement = v))"
      >
        <p class="text-sm font-semibold">Placement</p>
        <div class="mt-1 grid gap-2">
          <RadioGroupOption
            v-for="p in PLACEMENTS"
            :key="p.value"
            v-slot="{ checked }"
            :value="p.value"
            class="cursor-pointer"
          >
            <span
              class="flex gap-2 rounded border px-3 py-1.5"
              :class="checked ? 'border-teal bg-teal-soft' : 'border-rule'"
            >
              <span class="font-semibold">{{ p.name }}</span><span class="text-ink2">{{ p.says }}</span>
            </span>
          </RadioGroupOption>
        </div>
      </RadioGroup>
      <div class="grid grid-cols-2 gap-3">
        <label v-for="s in sizes" :key="s.name" class="text-sm">
          <span class="font-semibold">{{ s.word }}</span> ±{{ s.unit ? rules.unit : "degrees" }}
          <NumberField
            :value="rules.tolerances[s.name]"
            :fractions="s.unit && imperial"
            @set="(v) => emit('change', (next) => (next.tolerances[s.name] = v ?? 0))"
          />
        </label>
        <label class="text-sm">
          <span class="font-semibold">Near earns</span> % of the marks
          <NumberField
            :value="Number((rules.near_share * 100).toFixed(9))"
            :most="100"
            @set="(v) => emit('change', (next) => (next.near_share = (v ?? 0) / 100))"
          />
        </label>
        <label class="text-sm">
          <span class="font-semibold">Marks</span> in all
          <NumberField
            :value="rules.marks"
            above
            :most="100000"
            @set="(v) => emit('change', (next) => (next.marks = v ?? next.marks))"
          />
        </label>
      </div>
      <div class="space-y-2 text-sm">
        <div class="flex items-center gap-2">
          <SwitchMark
            :model-value="rules.any_unit"
            label="Accept any unit"
            @update:model-value="(v) => emit('change', (next) => (next.any_unit = v))"
          />
          Accept any unit that the file declares, and convert
        </div>
        <div class="flex items-center gap-2">
          <SwitchMark
            :model-value="rules.exact_layers"
            label="Letter case of layer names counts"
            @update:model-value="(v) => emit('change', (next) => (next.exact_layers = v))"
          />
          Upper and lower case count in layer names
        </div>
        <div class="flex items-center gap-2">
          <SwitchMark
            :model-value="rules.examines === 'sheet'"
            label="Mark the sheet layout"
            @update:model-value="(v) => emit('change', (next) => (next.examines = v ? 'sheet' : 'model'))"
          />
          The sheet layout counts, not the model. What counts is proposed again.
        </div>
      </div>
      <MarksByKind :rules="rules" @change="(work) => emit('change', work)" />
      <div>
        <p class="text-sm font-semibold">Roles of layers</p>
        <ul class="mt-1 space-y-1 text-sm">
          <li v-for="l in layers" :key="l.name" class="flex items-center gap-2">
            <span class="w-32 truncate">{{ l.name }}</span>
            <span class="flex-1 truncate text-ink2">{{ l.features }} drawn · {{ l.line_type }}</span>
            <ChoiceList
              :label="`Role of layer ${l.name}`"
              :choices="roles"
              :model-value="rules.roles[l.name] ?? ''"
              class="w-36"
              @update:model-value="(role) => setRole(l.name, role)"
            />
          </li>
        </ul>
      </div>
      <slot />
    </DisclosurePanel>
  </Disclosure>
</template>
