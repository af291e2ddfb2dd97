<script setup lang="ts">
/** Layers: on which is drawn, which are shown, how they look; all of one can be chosen. */
import { ref } from "vue";
import type { LayerRow } from "../../board/types";
import type { LayersState } from "../../board/useLayers";
import { whyOf } from "../../board/useBoard";

const props = defineProps<{ layers: LayersState }>();
const emit = defineEmits<{ choose: [layer: string] }>();
const LINES = ["continuous", "dashed", "chain"];
const WEIGHTS = [0.13, 0.18, 0.25, 0.35, 0.5, 0.7, 1];
const trouble = ref("");
const name = ref("");

async function look(row: LayerRow, line: string, weight: number | null): Promise<void> {
  trouble.value = "";
  const parts = [
    ...(row.color === null ? [] : [`colour ${row.color}`]),
    line,
    ...(weight === null ? [] : [`${weight}`]),
  ];
  try {
    await props.layers.set(row, parts.join(", "));
  } catch (why) {
    trouble.value = whyOf(why);
  }
}
async function add(): Promise<void> {
  const made = name.value.trim();
  trouble.value = "";
  if (!made) return;
  try {
    if (!props.layers.rows.value.some((r) => r.name === made))
      await props.layers.set({ name: made, line: null }, "continuous, 0.25");
    props.layers.drawOn(made);
    name.value = "";
  } catch (why) {
    trouble.value = whyOf(why);
  }
}
const weightOf = (e: Event) => Number((e.target as HTMLSelectElement).value) || null;
</script>

<template>
  <div class="min-w-0 flex-1">
    <table class="w-full text-left">
      <thead class="text-sm text-ink2">
        <tr>
          <th scope="col">drawn on</th>
          <th scope="col">shown</th>
          <th scope="col">line</th>
          <th scope="col">width</th>
          <th scope="col"><span class="sr-only">objects</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in layers.rows.value" :key="row.name">
          <th scope="row">
            <label class="flex items-center gap-1.5 font-semibold">
              <input
                type="radio"
                name="layer drawn on"
                :checked="layers.current.value === row.name"
                @change="layers.drawOn(row.name)"
              />
              <span class="break-words">{{ row.name }}</span>
            </label>
          </th>
          <td>
            <input
              type="checkbox"
              :checked="!layers.hidden.value.has(row.name)"
              :aria-label="`${row.name} is shown`"
              @change="(e) => layers.show(row.name, (e.target as HTMLInputElement).checked)"
            />
          </td>
          <td>
            <select
              :value="row.line_type"
              :aria-label="`Line of ${row.name}`"
              @change="(e) => look(row, (e.target as HTMLSelectElement).value, row.weight)"
            >
              <option v-for="line in LINES" :key="line">{{ line }}</option>
              <option v-if="!LINES.includes(row.line_type)">{{ row.line_type }}</option>
            </select>
          </td>
          <td>
            <select
              :value="row.weight ?? ''"
              :aria-label="`Width of lines of ${row.name}, in mm`"
              @change="(e) => look(row, row.line_type, weightOf(e))"
            >
              <option value="">default</option>
              <option v-for="w in WEIGHTS" :key="w" :value="w">{{ w }}</option>
              <option v-if="row.weight !== null && !WEIGHTS.includes(row.weight)" :value="row.weight">
                {{ row.weight }}
              </option>
            </select>
          </td>
          <td class="text-right">
            <button
              v-if="row.count"
              type="button"
              class="text-sm text-teal underline"
              @click="emit('choose', row.name)"
            >
              <span class="sr-only">choose</span> all {{ row.count }}
              <span class="sr-only">on {{ row.name }}</span>
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="layers.usual.value.length" class="mt-1 flex flex-wrap gap-x-3 text-sm text-ink2">
      draw on
      <button
        v-for="usual in layers.usual.value"
        :key="usual"
        type="button"
        class="underline"
        :class="layers.current.value === usual ? 'font-semibold text-ink' : 'text-teal'"
        :aria-pressed="layers.current.value === usual"
        @click="layers.drawOn(usual)"
      >
        {{ usual }}
      </button>
    </p>
    <form class="mt-1.5 flex flex-wrap items-center gap-2" @submit.prevent="add">
      <input
        v-model="name"
        class="field !w-40 !py-0.5"
        aria-label="Name of a new layer"
        placeholder="another layer"
        maxlength="255"
      />
      <button class="press-quiet !py-0.5">Draw on it</button>
    </form>
    <p v-if="trouble" class="text-sm text-pencil" role="alert">{{ trouble }}</p>
  </div>
</template>

<style scoped>
td,
th {
  padding: 0.1rem 0.6rem 0.1rem 0;
  font-weight: 400;
  white-space: nowrap;
}
th:first-child {
  max-width: 11rem;
  white-space: normal;
}
select {
  background: transparent;
  color: var(--color-teal);
}
</style>
