<script setup lang="ts">
/** Above the list: named values and layers, in a line, and as tables where they are changed. */
import { computed, ref } from "vue";
import type { ValueRow } from "../../board/types";
import type { BoardState } from "../../board/useBoard";
import type { LayersState } from "../../board/useLayers";
import type { UnderlayState } from "../../board/useUnderlay";
import LayersTable from "./LayersTable.vue";
import ValuesTable from "./ValuesTable.vue";

const props = defineProps<{
  board: BoardState;
  values: readonly ValueRow[];
  layers: LayersState;
  picture: UnderlayState;
}>();
const emit = defineEmits<{ chooseLayer: [layer: string]; openPicture: [] }>();
const open = ref<"" | "values" | "layers">("");
const toggle = (which: "values" | "layers") => (open.value = open.value === which ? "" : which);
const hiddenCount = computed(
  () => props.layers.rows.value.filter((r) => props.layers.hidden.value.has(r.name)).length,
);
</script>

<template>
  <section class="strip" :class="open && 'flex-col-reverse !gap-1'" aria-label="Values and layers">
    <p v-if="!open" class="flex min-w-0 flex-1 flex-wrap gap-x-5">
      <span v-for="v in values" :key="v.line" :class="v.wrong && 'text-pencil'" :title="v.wrong || undefined"
        >{{ v.name }} = <strong>{{ v.shows || v.says }}</strong></span
      >
      <span class="text-ink2"
        >draws on <strong class="text-ink">{{ layers.current.value }}</strong><template v-if="hiddenCount"
          >, {{ hiddenCount }} hidden</template
        ></span
      >
    </p>
    <ValuesTable v-else-if="open === 'values'" :board="board" :values="values" />
    <LayersTable v-else :layers="layers" @choose="(layer) => emit('chooseLayer', layer)" />
    <p class="flex shrink-0 gap-3" :class="open ? 'self-end' : 'self-start'">
      <button
        v-if="picture.lies.value && !picture.opened.value"
        class="text-teal"
        @click="emit('openPicture')"
      >
        picture
      </button>
      <button class="text-teal" :aria-expanded="open === 'values'" @click="toggle('values')">
        {{ open === "values" ? "close" : "values" }}
      </button>
      <button class="text-teal" :aria-expanded="open === 'layers'" @click="toggle('layers')">
        {{ open === "layers" ? "close" : "layers" }}
      </button>
    </p>
  </section>
</template>

<style scoped>
.strip {
  display: flex;
  gap: 0.8rem;
  border: 1px solid var(--color-rule);
  border-radius: 0.4rem;
  background: var(--color-bar);
  padding: 0.4rem 0.75rem;
}
</style>
