<script setup lang="ts">
/** One step of the list: drawn anew only where something of it has changed, since a list may be long. */
import type { StepAct } from "../../board/stepActs";
import type { Row } from "../../board/types";
import SentenceLine from "./SentenceLine.vue";

defineProps<{
  row: Row;
  chosen: boolean;
  editing: boolean;
  before: boolean;
  layer: string;
  first: boolean;
}>();
const emit = defineEmits<{
  choose: [id: number, more: boolean];
  act: [what: StepAct, row: Row];
  key: [e: KeyboardEvent, row: Row];
  focused: [key: string];
}>();
</script>

<template>
  <div
    :class="['row', chosen && 'chosen', editing && 'written', before && 'ahead']"
    role="listitem"
    :data-step="row.number"
  >
    <div
      class="flex cursor-pointer items-baseline gap-3 px-3 py-2"
      role="button"
      :tabindex="first ? 0 : -1"
      :data-row="row.key"
      :aria-pressed="chosen"
      @click="(e) => row.id && emit('choose', row.id, e.shiftKey)"
      @dblclick="emit('act', 'edit', row)"
      @keydown="(e) => emit('key', e, row)"
      @focus="emit('focused', row.key)"
    >
      <span class="w-7 shrink-0 text-right text-ink2">{{ row.number }}</span>
      <span class="min-w-0 flex-1" :class="row.broken && 'text-ink2'">
        <SentenceLine
          :says="row.says"
          :refs="row.refs"
          :shows="row.shows"
          @step="(id) => emit('choose', id, false)"
        />
        <span v-if="row.broken" class="why" data-broken>
          <template v-if="row.waits">waits for step {{ row.waits }}: </template>{{ row.broken }}
        </span>
      </span>
      <span v-if="layer" class="shrink-0 text-sm text-ink2">{{ layer }}</span>
    </div>
    <div v-if="chosen" class="acts screen-only">
      <button type="button" @click="emit('act', 'edit', row)">Correct</button>
      <button type="button" @click="emit('act', 'insert', row)">Insert before</button>
      <button type="button" @click="emit('act', 'mark', row)">Bookmark before</button>
      <button type="button" @click="emit('act', 'up', row)">Up</button>
      <button type="button" @click="emit('act', 'down', row)">Down</button>
      <button type="button" @click="emit('act', 'away', row)">Take away</button>
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
.ahead {
  border-top: 3px solid var(--color-teal);
}
.why {
  display: block;
  color: var(--color-pencil);
  font-size: 0.9rem;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 0.15rem 0.9rem;
  padding: 0 0.75rem 0.5rem 3.25rem;
  font-size: 0.9rem;
}
.acts button {
  color: var(--color-teal);
  text-decoration: underline;
  text-underline-offset: 2px;
  min-height: 1.6rem;
}
</style>
