<script setup lang="ts">
/** One step of the list: drawn anew only where something of it has changed, since a list may be long. */
import { computed } from "vue";
import type { NamedPart } from "../../board/listed";
import type { Row } from "../../board/types";
import LayerDot from "./LayerDot.vue";
import SentenceLine from "./SentenceLine.vue";

const props = defineProps<{
  row: Row;
  chosen: boolean;
  editing: boolean;
  before: boolean;
  /** Whether it uses the step under the pointer. */
  uses: boolean;
  layer: string;
  lineType: string;
  first: boolean;
}>();
const emit = defineEmits<{
  choose: [id: number, more: boolean];
  name: [name: NamedPart];
  number: [row: Row, at: [number, number]];
  edit: [];
  key: [e: KeyboardEvent, row: Row];
  focused: [key: string];
}>();
/** Without the layer at its end, which stands beside it. */
const says = computed(() => props.row.says.replace(/\s*[;·]\s*layer\s+("(?:[^"\\]|\\.)*"|[^;·"]+)$/i, ""));
</script>

<template>
  <div
    :class="['row', chosen && 'chosen', editing && 'written', before && 'ahead', uses && 'uses']"
    role="listitem"
    :data-step="row.number"
  >
    <div
      class="flex cursor-pointer items-baseline gap-3 px-3 py-1.5"
      role="button"
      :tabindex="first ? 0 : -1"
      :data-row="row.key"
      :aria-pressed="chosen"
      @click="(e) => row.id && emit('choose', row.id, e.shiftKey)"
      @dblclick="emit('edit')"
      @keydown="(e) => emit('key', e, row)"
      @focus="emit('focused', row.key)"
    >
      <span class="w-7 shrink-0 text-right text-ink2">{{ row.number }}</span>
      <span class="min-w-0 flex-1" :class="row.broken && 'text-ink2'">
        <SentenceLine
          :says="says"
          :refs="row.refs"
          :shows="row.shows"
          @name="(name) => emit('name', name)"
          @number="(at) => emit('number', row, at)"
        />
        <span v-if="row.broken" class="why" data-broken>
          <template v-if="row.waits">waits for step {{ row.waits }}: </template>{{ row.broken }}
        </span>
      </span>
      <LayerDot v-if="layer" class="shrink-0 text-sm text-ink2" :name="layer" :line-type="lineType" />
    </div>
  </div>
</template>

<style scoped>
.row {
  border-top: 1px solid var(--color-rule);
}
.chosen {
  background: var(--color-teal-soft);
}
.written {
  background: var(--color-bar);
  outline: 1px dashed var(--color-teal);
  outline-offset: -2px;
}
.uses {
  box-shadow: inset 3px 0 0 var(--color-teal);
}
.ahead {
  border-top: 3px solid var(--color-teal);
}
.why {
  display: block;
  color: var(--color-pencil);
  font-size: 0.9rem;
}
</style>
