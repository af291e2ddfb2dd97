<script setup lang="ts">
/** Two pages have gone on from the same list: both are shown, one is taken, the other is set aside. */
import { computed } from "vue";
import type { KeptDocument } from "../../board/types";
import DialogSheet from "../DialogSheet.vue";

const props = defineProps<{ parted: { mine: KeptDocument; kept: KeptDocument }; trouble?: string }>();
const emit = defineEmits<{ take: [which: "mine" | "kept"] }>();

function says(document: KeptDocument): { id: number; says: string }[] {
  const numbers = new Map(document.lines.filter((l) => l.kind === "step").map((l, n) => [l.id, n + 1]));
  return document.lines
    .filter((l) => l.kind === "step")
    .map((l) => ({
      id: l.id ?? 0,
      says: (l.says ?? "").replace(/#(\d+)/g, (_, step) => String(numbers.get(Number(step)) ?? "?")),
    }));
}
const lists = computed(() => {
  const mine = says(props.parted.mine);
  const kept = says(props.parted.kept);
  const known = (list: { id: number; says: string }[]) => new Set(list.map((s) => `${s.id} ${s.says}`));
  const [a, b] = [known(mine), known(kept)];
  return [
    {
      which: "mine" as const,
      name: "Drawn in this tab",
      steps: mine.map((s) => ({ ...s, own: !b.has(`${s.id} ${s.says}`) })),
    },
    {
      which: "kept" as const,
      name: "Drawn in another tab",
      steps: kept.map((s) => ({ ...s, own: !a.has(`${s.id} ${s.says}`) })),
    },
  ];
});
</script>

<template>
  <DialogSheet :open="true" title="This drawing was changed in two tabs" wide @close="() => undefined">
    <p class="mb-3 text-ink2">
      Choose the list to keep working on. The other one is set aside with this drawing; you can open it later.
    </p>
    <p v-if="trouble" role="alert" class="mb-3 text-pencil">{{ trouble }}</p>
    <div class="grid gap-4 sm:grid-cols-2">
      <section v-for="list in lists" :key="list.which" :aria-label="list.name">
        <h3 class="font-semibold">{{ list.name }}, {{ list.steps.length }} steps</h3>
        <ol class="paper my-2 max-h-72 overflow-y-auto px-3 py-1.5" tabindex="0">
          <li
            v-for="(s, n) in list.steps"
            :key="n"
            class="py-0.5"
            :class="s.own && 'font-semibold text-teal'"
          >
            <span class="mr-2 text-ink2">{{ n + 1 }}</span>{{ s.says.replaceAll(";", " ·") }}
          </li>
        </ol>
        <button class="press-quiet" @click="emit('take', list.which)">Use this list</button>
      </section>
    </div>
  </DialogSheet>
</template>
