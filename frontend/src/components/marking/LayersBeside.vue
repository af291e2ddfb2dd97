<script setup lang="ts">
/** The layers of key and drawing side by side, with what differs said in words. */
import { computed } from "vue";
import type { Schemas } from "../../api/client";
import { besideEachOther } from "../../layers";

const props = defineProps<{
  asked: Schemas["LayerOut"][];
  drawn: Schemas["LayerOut"][];
  /** Layers of the finding at hand: asked for, and drawn on. */
  marked: readonly string[];
}>();
const isMarked = (name?: string) =>
  name !== undefined && props.marked.some((m) => m.toLowerCase() === name.toLowerCase());
const rows = computed(() => {
  const all = besideEachOther(props.asked, props.drawn);
  const rank = (r: (typeof all)[number]) => (isMarked(r.key) ? 0 : r.differs.length ? 1 : 2);
  return [...all].sort((a, b) => rank(a) - rank(b));
});
const dash: Record<string, string | undefined> = {
  dashed: "5 2.5",
  dotted: "1 3",
  chain: "9 2.5 2 2.5",
  "double chain": "12 3 2 3 2 3",
};
</script>

<template>
  <div class="paper overflow-x-auto" data-layers>
    <table class="w-full text-[0.88rem]">
      <thead>
        <tr>
          <th class="cell-head">Layer asked for</th>
          <th class="cell-head">On the drawing</th>
          <th class="cell-head">Differs in</th>
        </tr>
      </thead>
      <tbody class="divide-y divide-rule">
        <tr
          v-for="r in rows"
          :key="r.key"
          :class="isMarked(r.asked?.name ?? r.drawn?.name) ? 'bg-pencil-soft' : ''"
        >
          <td v-for="(side, n) in [r.asked, r.drawn]" :key="n" class="px-2.5 py-1.5 align-top">
            <template v-if="side">
              <b>{{ side.name }}</b> <span class="text-ink2">· {{ side.features }}</span>
              <span class="flex items-center gap-1.5 text-ink2">
                <svg width="26" height="6" class="shrink-0" aria-hidden="true">
                  <line
                    x1="0"
                    y1="3"
                    x2="26"
                    y2="3"
                    stroke="currentColor"
                    :stroke-width="side.weight && side.weight >= 0.4 ? 2.4 : 1.2"
                    :stroke-dasharray="dash[side.line_type]"
                  />
                </svg>
                {{ side.line_type }}, colour {{ side.color }}
              </span>
            </template>
            <span v-else class="text-ink2">{{ n ? "not there" : "not asked for" }}</span>
          </td>
          <td class="px-2.5 py-1.5 align-top text-pencil">{{ r.differs.join(", ") }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
