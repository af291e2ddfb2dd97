<script setup lang="ts">
/** Whether the sheet is fully dimensioned; what is not dimensioned, redundant, unattached or implied, each with what to do. */
import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/vue";
import { ChevronRightIcon } from "@heroicons/vue/20/solid";
import { computed, ref } from "vue";
import { saysOf } from "../api/client";
import { takenGroups, type Proof, type Shown } from "../proof";
import { calledIn, nameOf, type Rules } from "../rules";
import PointRow from "./PointRow.vue";
import SwitchMark from "./SwitchMark.vue";
import TakenLine from "./TakenLine.vue";
import TieSize from "./TieSize.vue";
import VerdictSign from "./VerdictSign.vue";

const props = defineProps<{
  proof: Proof | undefined;
  error: unknown;
  rules: Rules;
  /** What is pointed at. */
  shown: Shown | null;
  /** The dimension that is being tied, and to what so far. */
  tying: { id: string; to: string[] } | null;
  choices: { value: string; word: string }[];
}>();
const emit = defineEmits<{
  show: [what: Shown | null];
  tie: [tying: { id: string; to: string[] } | null];
  change: [work: (next: Rules) => void];
}>();

const groups = computed(() => (props.proof ? takenGroups(props.proof) : []));
const offered = computed(() => new Set(props.proof?.offered));
const on = computed(() => props.proof?.taken.filter((t) => t.on).length ?? 0);
const all = ref(false);
const byHand = computed(() => Object.entries(props.rules.ties ?? {}));
const MANY = 6;

function show(id: string, what: Partial<Shown>): void {
  emit("show", props.shown?.id === id ? null : { id, features: [], arrows: [], sizes: [], ...what });
}
function take(ids: readonly string[], value: boolean): void {
  emit(
    "change",
    (next) => (next.taken = { ...next.taken, ...Object.fromEntries(ids.map((i) => [i, value])) }),
  );
}
function settle(to: string[]): void {
  const id = props.tying?.id;
  if (id) emit("change", (next) => (next.ties = { ...next.ties, [id]: to }));
  emit("tie", null);
}
function untie(id: string): void {
  emit("change", (next) => {
    next.ties = Object.fromEntries(Object.entries(next.ties ?? {}).filter(([d]) => d !== id));
  });
}
/** Says which holds, where a dimension contradicts the drawing; nothing undoes it. */
function decide(id: string, holds: "drawing" | "sheet" | "value" | null): void {
  emit("change", (next) => {
    const others = Object.entries(next.decided ?? {}).filter(([d]) => d !== id);
    next.decided = Object.fromEntries(holds ? [...others, [id, holds]] : others);
  });
}
/** The dimensions each of which would settle something, in words: two at most. */
const settles = (m: Proof["free"][number]) =>
  [...new Set(m.settled_by.map((s) => `${s.figure} (${s.of})`))].slice(0, 2).join(" or ");
const of = (ids: readonly string[]) =>
  props.proof?.sizes.filter((s) => ids.includes(s.id)).flatMap((s) => s.features) ?? [];
const isShown = (id: string) => props.shown?.id === id;
</script>

<template>
  <Disclosure v-slot="{ open }">
    <DisclosureButton class="mt-3 flex w-full items-center gap-1.5 text-left" data-proof>
      <ChevronRightIcon class="h-4 w-4 shrink-0 text-ink2" :class="open && 'rotate-90'" aria-hidden="true" />
      <h2 class="shrink-0">The sheet</h2>
      <span
        class="ml-auto flex min-w-0 items-center gap-1.5 text-sm"
        :class="proof?.complete ? 'text-teal' : 'text-ink2'"
      >
        <template v-if="proof">
          <VerdictSign v-if="proof.complete" verdict="met" />
          <span class="truncate" aria-live="polite">{{ proof.says }}</span>
        </template>
        <template v-else>{{ error ? "Not proved" : "Proving …" }}</template>
      </span>
    </DisclosureButton>
    <DisclosurePanel class="paper mt-2 divide-y divide-rule text-[0.92rem]">
      <p v-if="error" class="p-3 text-ink2">{{ saysOf(error) }}</p>
      <template v-if="proof">
        <p v-if="proof.complete" class="p-3">
          Fully dimensioned, nothing redundant: {{ proof.sizes.length }} dimensions and what is implied. It
          can be drawn from its sheet.
        </p>
        <section v-if="proof.untied.length" class="p-3">
          <h3 class="text-sm font-semibold">Unattached dimensions</h3>
          <ul class="mt-1 space-y-1">
            <li v-for="u in proof.untied" :key="u.id">
              <PointRow :on="isShown(u.id)" @click="show(u.id, { features: u.candidates })">
                {{ u.says }}
              </PointRow>
              <TieSize
                v-if="tying?.id === u.id"
                :to="tying.to"
                :choices="choices"
                :names="rules.names"
                @update:to="(to) => emit('tie', { id: u.id, to })"
                @done="settle"
                @leave="emit('tie', null)"
              />
              <button v-else class="ml-1.5 text-teal underline" @click="emit('tie', { id: u.id, to: [] })">
                Attach dimension
              </button>
            </li>
          </ul>
        </section>
        <section v-if="proof.contradictions.length" class="p-3">
          <h3 class="text-sm font-semibold">Dimensions that contradict the drawing</h3>
          <p class="text-sm text-ink2">Decide which of the two holds. The exercise can be issued then.</p>
          <ul class="mt-1 space-y-2">
            <li v-for="c in proof.contradictions" :key="c.size" data-contradiction>
              <PointRow
                :on="isShown(c.size)"
                @click="show(c.size, { sizes: [c.size], features: of([c.size]) })"
              >
                {{ c.says }}
              </PointRow>
              <div class="mt-1 ml-1.5 flex flex-wrap gap-x-4 gap-y-1">
                <button class="text-teal underline" @click="decide(c.size, 'drawing')">
                  Change drawing to {{ c.figure }}
                </button>
                <button class="text-teal underline" @click="decide(c.size, 'sheet')">
                  Show {{ c.drawn }} on sheet
                </button>
                <button class="text-teal underline" @click="decide(c.size, 'value')">
                  Mark by {{ c.figure }}, keep sheet
                </button>
              </div>
            </li>
          </ul>
        </section>
        <section v-if="proof.decided.length" class="p-3">
          <h3 class="text-sm font-semibold">Decided</h3>
          <ul class="mt-1 space-y-1">
            <li v-for="d in proof.decided" :key="d.size" class="flex items-baseline gap-2">
              <PointRow
                class="flex-1"
                :on="isShown(d.size)"
                @click="show(d.size, { sizes: [d.size], features: of([d.size]) })"
              >
                {{ d.says }}
              </PointRow>
              <button class="text-teal underline" @click="decide(d.size, null)">Undo decision</button>
            </li>
          </ul>
        </section>
        <section v-if="proof.twice.length" class="p-3">
          <h3 class="text-sm font-semibold">Redundant</h3>
          <p class="text-sm text-ink2">Delete one, or put it in brackets as an auxiliary dimension.</p>
          <ul class="mt-1 space-y-1">
            <li v-for="t in proof.twice" :key="t.says">
              <PointRow
                :on="isShown(t.says)"
                @click="show(t.says, { sizes: t.sizes, features: of(t.sizes) })"
              >
                {{ t.says }}
              </PointRow>
            </li>
          </ul>
        </section>
        <section v-if="proof.free.length && proof.sizes.length" class="p-3">
          <h3 class="text-sm font-semibold">Not dimensioned</h3>
          <p class="text-sm text-ink2">
            Each is checked on the feature itself; select one to see how it could move.
          </p>
          <ul class="mt-1 space-y-1">
            <li v-for="m in all ? proof.free : proof.free.slice(0, MANY)" :key="m.says + m.features.join()">
              <PointRow
                :on="isShown(m.says + m.features.join())"
                data-free
                @click="show(m.says + m.features.join(), { features: m.features, arrows: m.arrows })"
              >
                {{ m.says }}
                <span v-if="m.settled_by.length" class="block text-sm text-ink2">Add {{ settles(m) }}</span>
              </PointRow>
            </li>
          </ul>
          <button v-if="proof.free.length > MANY" class="mt-1 ml-1.5 text-teal underline" @click="all = !all">
            {{ all ? "Show fewer" : `Show all ${proof.free.length}` }}
          </button>
        </section>
        <section v-if="proof.proposed.length && proof.free.length" class="p-3">
          <h3 class="text-sm font-semibold">These dimensions would complete it</h3>
          <ul class="mt-1 grid grid-cols-[auto_1fr] gap-x-3">
            <template v-for="s in proof.proposed" :key="s.id">
              <li class="contents">
                <span class="text-right font-semibold">{{ s.figure }}</span>
                <button class="text-left hover:underline" @click="show(`p${s.id}`, { features: s.features })">
                  {{ s.of }}
                </button>
              </li>
            </template>
          </ul>
          <p class="mt-1 text-sm text-ink2">
            Add them to the key drawing, or leave each to be checked on its feature.
          </p>
        </section>
        <section v-if="offered.size" class="p-3">
          <h3 class="text-sm font-semibold">Could be implied</h3>
          <ul class="mt-1 space-y-1">
            <TakenLine
              v-for="t in proof.taken.filter((t) => offered.has(t.id))"
              :key="t.id"
              :line="t"
              :shown="isShown(t.id)"
              @show="show(t.id, { features: t.features })"
              @take="(v) => take([t.id], v)"
            />
          </ul>
          <button
            v-if="offered.size > 1"
            class="mt-1 ml-1.5 text-teal underline"
            @click="take([...offered], true)"
          >
            Imply all {{ offered.size }}
          </button>
        </section>
        <section v-if="byHand.length" class="p-3">
          <h3 class="text-sm font-semibold">Attached by hand</h3>
          <ul class="mt-1 space-y-1">
            <li v-for="[d, to] in byHand" :key="d" class="flex items-center gap-2">
              <span class="flex-1 px-1.5"
                >{{ nameOf(d, rules.names) }}:
                {{ to.map((i) => calledIn(i, rules.names)).join(" and ") }}</span
              >
              <button class="text-teal underline" @click="untie(d)">Detach</button>
            </li>
          </ul>
        </section>
        <section class="p-3">
          <h3 class="text-sm font-semibold">Implied</h3>
          <p class="text-sm text-ink2">
            {{ on }} conditions shown without dimensions. What is switched off needs a dimension.
          </p>
          <Disclosure v-for="g in groups" :key="g.kind" v-slot="{ open: shown_ }">
            <div class="mt-1 flex items-center gap-2">
              <DisclosureButton class="flex flex-1 items-center gap-1.5 text-left">
                <ChevronRightIcon
                  class="h-4 w-4 text-ink2"
                  :class="shown_ && 'rotate-90'"
                  aria-hidden="true"
                />
                <span class="first-letter:uppercase">{{ g.word }}</span>
                <span class="text-sm text-ink2"
                  >{{ g.lines.filter((t) => t.on).length }} of {{ g.lines.length }}</span
                >
              </DisclosureButton>
              <SwitchMark
                :model-value="g.lines.some((t) => t.on)"
                :label="`Implied, all: ${g.word}`"
                @update:model-value="
                  (v) =>
                    take(
                      g.lines.map((t) => t.id),
                      v,
                    )
                "
              />
            </div>
            <DisclosurePanel as="ul" class="mt-0.5 space-y-0.5">
              <TakenLine
                v-for="t in g.lines"
                :key="t.id"
                class="pl-3.5"
                :line="t"
                :shown="isShown(t.id)"
                @show="show(t.id, { features: t.features })"
                @take="(v) => take([t.id], v)"
              />
            </DisclosurePanel>
          </Disclosure>
        </section>
        <div class="flex items-center gap-2 p-3">
          <SwitchMark
            :model-value="rules.numbered ?? false"
            label="Number the dimensions on the sheet"
            @update:model-value="(v) => emit('change', (next) => (next.numbered = v))"
          />
          On the exercise sheet, each dimension shows its number in the list
        </div>
      </template>
    </DisclosurePanel>
  </Disclosure>
</template>
