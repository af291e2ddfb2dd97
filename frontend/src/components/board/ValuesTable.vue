<script setup lang="ts">
/** Named values: what they are, changed in their place; a slider where a set is permitted, to see that the drawing holds. */
import { ref } from "vue";
import type { ValueRow } from "../../board/types";
import { whyOf, type BoardState } from "../../board/useBoard";

const props = defineProps<{ board: BoardState; values: readonly ValueRow[] }>();
const trouble = ref("");
const name = ref("");
const says = ref("");

async function set(v: ValueRow | null, next: { name: string; says: string } | null): Promise<boolean> {
  trouble.value = "";
  try {
    await props.board.act("line", {
      line: v?.line ?? null,
      gone: v !== null,
      come: next && { kind: "value", ...next },
    });
    return true;
  } catch (why) {
    trouble.value = whyOf(why);
    return false;
  }
}
async function add(): Promise<void> {
  if (
    name.value.trim() &&
    says.value.trim() &&
    (await set(null, { name: name.value.trim(), says: says.value.trim() }))
  )
    name.value = says.value = "";
}
function changed(v: ValueRow, e: Event): void {
  const field = e.target as HTMLInputElement;
  const next = field.value.trim();
  if (next && next !== v.says)
    void set(v, { name: v.name, says: next }).then((ok) => ok || (field.value = v.says));
}
/** A permitted value, said with what it is now. */
function now(v: ValueRow, value: string): void {
  void set(v, { name: v.name, says: `${v.says.replace(/,?\s*now\s.*$/i, "")}, now ${value}` });
}
</script>

<template>
  <div class="min-w-0 flex-1">
    <div v-for="v in values" :key="v.line" class="mb-1.5 flex flex-wrap items-center gap-2">
      <span class="min-w-14 font-semibold">{{ v.name }} =</span>
      <input
        class="field !w-44 !py-0.5"
        :value="v.says"
        :aria-label="`What ${v.name} is`"
        @change="(e) => changed(v, e)"
      />
      <span class="text-ink2">{{ v.shows }}</span>
      <input
        v-if="v.permitted && !v.permitted.listed.length"
        type="range"
        :min="v.permitted.first"
        :max="v.permitted.last"
        :step="v.permitted.by"
        :value="Number(v.shows.replace('≈', ''))"
        :aria-label="`${v.name}, ${v.permitted.says}`"
        @change="(e) => now(v, (e.target as HTMLInputElement).value)"
      />
      <select
        v-else-if="v.permitted"
        :aria-label="`${v.name}, ${v.permitted.says}`"
        :value="Number(v.shows.replace('≈', ''))"
        @change="(e) => now(v, (e.target as HTMLSelectElement).value)"
      >
        <option v-for="one in v.permitted.listed" :key="one" :value="one">{{ one }}</option>
      </select>
      <button class="text-sm text-teal underline" @click="set(v, null)">
        Delete<span class="sr-only">: {{ v.name }}</span>
      </button>
      <p v-if="v.wrong" class="w-full text-sm text-pencil">{{ v.wrong }}</p>
    </div>
    <form class="flex flex-wrap items-center gap-2" @submit.prevent="add">
      <input v-model="name" class="field !w-20 !py-0.5" aria-label="Name of a new value" placeholder="name" />
      =
      <input
        v-model="says"
        class="field !w-44 !py-0.5"
        aria-label="What the new value is"
        placeholder="24 or R - 11"
      />
      <button class="press-quiet !py-0.5">Add</button>
    </form>
    <p v-if="trouble" class="text-sm text-pencil" role="alert">{{ trouble }}</p>
  </div>
</template>
