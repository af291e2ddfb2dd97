<script setup lang="ts">
/** The checks of an exercise, by the sheet, by feature or by kind: which are on, how they weigh, what they expect. */
import {
  Disclosure,
  DisclosureButton,
  DisclosurePanel,
  Tab,
  TabGroup,
  TabList,
  TabPanel,
  TabPanels,
} from "@headlessui/vue";
import { ChevronRightIcon } from "@heroicons/vue/20/solid";
import { computed, nextTick, ref } from "vue";
import { CHARGED_KINDS } from "../api/words";
import { marks, shown } from "../numbers";
import {
  byFeature,
  byKind,
  bySheet,
  type Group,
  hintOf,
  marksOf,
  type Requirement,
  type Rules,
} from "../rules";
import { calmly } from "../title";
import ChoiceList from "./ChoiceList.vue";
import NumberField from "./NumberField.vue";
import SwitchMark from "./SwitchMark.vue";
import WordingRule from "./WordingRule.vue";

const props = defineProps<{ rules: Rules; chosenIds: ReadonlySet<string> }>();
const emit = defineEmits<{ change: [work: (next: Rules) => void] }>();
/** The check or feature that is chosen, by its number or name. */
const chosen = defineModel<string | null>("chosen", { required: true });
const only = ref<string | null>(null);
const tab = ref(0);

function setOne(r: Requirement, values: Partial<Requirement>): void {
  emit("change", (next) => Object.assign(next.requirements.find((x) => x.id === r.id) ?? {}, values));
}
function setGroup(group: Group, on: boolean): void {
  const ids = new Set(group.requirements.map((r) => r.id));
  emit("change", (next) => next.requirements.forEach((r) => ids.has(r.id) && (r.on = on)));
}
/** Opens the checks of a feature and brings them into view. */
function show(feature: string): void {
  only.value = feature;
  tab.value = views.value.findIndex((v) => v.name === "By feature");
  void nextTick(() =>
    document.getElementById(`group-${feature}`)?.scrollIntoView({ block: "center", behavior: calmly() }),
  );
}
defineExpose({ show });
const charged: ReadonlySet<string> = new Set(CHARGED_KINDS);
const listed = computed(() => props.rules.listing ?? "feature");
const LISTINGS = [
  { value: "sheet", word: "proposed by the sheet" },
  { value: "feature", word: "proposed by feature" },
] as const;
function relist(listing: Rules["listing"] | null): void {
  if (listing && listing !== listed.value) emit("change", (next) => (next.listing = listing));
}
const views = computed(() => [
  ...(listed.value === "sheet" ? [{ name: "By the sheet", groups: bySheet(props.rules) }] : []),
  { name: "By feature", groups: byFeature(props.rules) },
  { name: "By kind", groups: byKind(props.rules) },
]);
const onCount = computed(() => props.rules.requirements.filter((r) => r.on).length);
/** What earns nothing and takes away. */
const isCharged = (r: Requirement) => !!props.rules.charges && charged.has(r.kind);
const more = (g: Group) => (g.requirements.length > 1 ? `${g.requirements.length} checks` : "");
</script>

<template>
  <div class="mt-4 flex items-baseline justify-between">
    <h2>What counts</h2>
    <ChoiceList
      label="How the list is built"
      :choices="LISTINGS"
      :model-value="listed"
      small
      class="text-sm"
      @update:model-value="relist"
    />
    <span class="text-sm text-ink2">{{ onCount }} checks · {{ marks(rules.marks) }} marks</span>
  </div>
  <TabGroup :selected-index="tab" @change="(n: number) => (tab = n)">
    <TabList class="mt-2 flex gap-4 text-sm">
      <Tab
        v-for="v in views"
        :key="v.name"
        class="border-b-2 pb-0.5 text-ink2 data-[headlessui-state=selected]:border-teal data-[headlessui-state=selected]:font-semibold data-[headlessui-state=selected]:text-ink"
        :class="'border-transparent'"
        >{{ v.name }}</Tab
      >
    </TabList>
    <TabPanels class="paper mt-2">
      <TabPanel v-for="v in views" :key="v.name" class="divide-y divide-rule" :tabindex="-1">
        <Disclosure
          v-for="g in v.groups"
          :key="`${g.id}${only === g.id}`"
          v-slot="{ open }"
          :default-open="only === g.id || g.id === 'sizes'"
        >
          <div
            :id="`group-${g.id}`"
            class="flex items-center gap-2 px-3 py-1.5"
            :class="chosenIds.has(g.id) && 'bg-teal-soft'"
          >
            <DisclosureButton
              class="flex flex-1 items-center gap-1.5 text-left font-semibold"
              @click="chosen = g.id"
            >
              <ChevronRightIcon class="h-4 w-4 text-ink2" :class="open && 'rotate-90'" aria-hidden="true" />
              {{ g.name }}
              <span class="truncate text-[0.88rem] font-normal text-ink2">{{ hintOf(g) || more(g) }}</span>
            </DisclosureButton>
            <span class="text-sm">{{
              g.requirements.every(isCharged) ? "charged" : marks(marksOf(g.requirements))
            }}</span>
            <SwitchMark
              :model-value="g.requirements.some((r) => r.on)"
              :label="`Check ${g.name}`"
              @update:model-value="(on) => setGroup(g, on)"
            />
          </div>
          <DisclosurePanel>
            <ul>
              <li
                v-for="r in g.requirements"
                :key="r.id"
                class="grid grid-cols-[1fr_auto_4rem_3.4rem_auto] items-center gap-2 px-3 py-1 text-[0.92rem]"
                :class="[String(r.id) === chosen && 'bg-teal-soft', !r.on && 'text-ink2']"
              >
                <button
                  class="flex min-w-0 items-center gap-1.5 pl-5 text-left"
                  @click="chosen = String(r.id)"
                >
                  <span
                    v-if="r.size && listed === 'sheet'"
                    class="grid h-5 min-w-5 shrink-0 place-items-center rounded-full border border-teal px-0.5 text-[0.75rem] font-semibold text-teal"
                    >{{ r.id }}</span
                  >
                  <span class="leading-tight">{{ r.name }}</span>
                </button>
                <span class="text-right">{{
                  r.expected === null || r.kind === "layer-style" ? "" : shown(r.expected, r.kind, rules.unit)
                }}</span>
                <span v-if="isCharged(r)"></span>
                <NumberField
                  v-else
                  small
                  :value="Number(r.weight.toFixed(4))"
                  :most="1e6"
                  :label="`Weight of ${r.name}`"
                  @set="(v) => setOne(r, { weight: v ?? 0 })"
                />
                <span class="text-right">{{
                  !r.on ? "off" : isCharged(r) ? "charged" : marks(r.marks)
                }}</span>
                <SwitchMark
                  :model-value="r.on"
                  :label="`Check ${r.name}`"
                  @update:model-value="(on) => setOne(r, { on })"
                />
                <WordingRule
                  v-if="r.kind === 'wording' && r.on"
                  class="col-span-5 pl-5"
                  :requirement="r"
                  @set="(values) => setOne(r, values)"
                />
              </li>
            </ul>
          </DisclosurePanel>
        </Disclosure>
      </TabPanel>
    </TabPanels>
  </TabGroup>
</template>
