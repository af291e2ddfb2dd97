<script setup lang="ts">
/** Placement, tolerances, near band, units and the roles of layers. */
import { Disclosure, DisclosureButton, DisclosurePanel, RadioGroup, RadioGroupOption } from "@headlessui/vue";
import { ChevronRightIcon } from "@heroicons/vue/20/solid";
import type { Schemas } from "../api/client";
import { PLACEMENTS, ROLES, type Rules } from "../rules";
import ChoiceList from "./ChoiceList.vue";
import MarksByKind from "./MarksByKind.vue";
import SwitchMark from "./SwitchMark.vue";

const props = defineProps<{ rules: Rules; layers: Schemas["LayerOut"][] }>();
const emit = defineEmits<{ change: [work: (next: Rules) => void] }>();

const sizes = [
  { name: "length", word: "Sizes", unit: true },
  { name: "position", word: "Positions", unit: true },
  { name: "angle_deg", word: "Angles", unit: false },
  { name: "near", word: "Near band", unit: true },
] as const;

function setTolerance(name: (typeof sizes)[number]["name"], e: Event): void {
  const input = e.target as HTMLInputElement;
  const value = Number(input.value.replace(",", "."));
  if (input.value.trim() && Number.isFinite(value) && value >= 0)
    emit("change", (next) => (next.tolerances[name] = value));
  else input.value = String(props.rules.tolerances[name]);
}
function setShare(e: Event): void {
  const input = e.target as HTMLInputElement;
  const value = Number(input.value) / 100;
  if (value >= 0 && value <= 1) emit("change", (next) => (next.near_share = value));
}
function setTotal(e: Event): void {
  const input = e.target as HTMLInputElement;
  const value = Number(input.value);
  if (value > 0 && value <= 100000) emit("change", (next) => (next.marks = value));
  else input.value = String(props.rules.marks);
}
const roles = [{ value: "", word: "no role" }, ...ROLES.map((r) => ({ value: r as string, word: r as string }))];
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
      <h2>How exactly</h2>
      <span class="ml-auto text-sm text-ink2">
        {{ PLACEMENTS.find((p) => p.value === rules.placement)?.name }} · ±{{ rules.tolerances.length }}
        {{ rules.unit }}
      </span>
    </DisclosureButton>
    <DisclosurePanel class="paper mt-2 space-y-4 p-4">
      <RadioGroup
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
          <input
            class="field mt-1 text-right"
            inputmode="decimal"
            :value="rules.tolerances[s.name]"
            @change="(e) => setTolerance(s.name, e)"
          />
        </label>
        <label class="text-sm">
          <span class="font-semibold">Near earns</span> % of the marks
          <input
            class="field mt-1 text-right"
            type="number"
            min="0"
            max="100"
            :value="rules.near_share * 100"
            @change="setShare"
          />
        </label>
        <label class="text-sm">
          <span class="font-semibold">Marks</span> in all
          <input class="field mt-1 text-right" type="number" min="1" :value="rules.marks" @change="setTotal" />
        </label>
      </div>
      <div class="space-y-2 text-sm">
        <div class="flex items-center gap-2">
          <SwitchMark
            :model-value="rules.any_unit"
            label="Accept any unit"
            @update:model-value="(v) => emit('change', (next) => (next.any_unit = v))"
          />
          Accept any unit that the file declares, and convert its sizes
        </div>
        <div class="flex items-center gap-2">
          <SwitchMark
            :model-value="rules.exact_layers"
            label="Letter case of layer names counts"
            @update:model-value="(v) => emit('change', (next) => (next.exact_layers = v))"
          />
          Capital and small letters count in layer names
        </div>
        <div class="flex items-center gap-2">
          <SwitchMark
            :model-value="rules.examines === 'sheet'"
            label="Examine the sheet layout"
            @update:model-value="(v) => emit('change', (next) => (next.examines = v ? 'sheet' : 'model'))"
          />
          The sheet layout counts, not the model; what counts is then proposed anew
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
