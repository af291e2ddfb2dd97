<script setup lang="ts">
/** A sentence as it is read: slots apart, numbers strong, steps that it names underlined, what formulas come to behind. */
import { computed } from "vue";
import type { NamedPart } from "../../board/listed";

const props = defineProps<{ says: string; refs?: [number, number, number][]; shows?: string[] }>();
const emit = defineEmits<{
  name: [name: NamedPart];
  /** A number was pressed twice: from where to where it stands. */
  number: [at: [number, number]];
}>();

interface Part {
  text: string;
  as: "plain" | "number" | "step";
  name?: NamedPart;
  /** Where it stands in the sentence. */
  at?: [number, number];
}
const NUMBER = /"(?:[^"\\]|\\.)*"|[-−]?\d[\d./'"°]*|[^\W\d_]+/gu;
const parts = computed<Part[]>(() => {
  const out: Part[] = [];
  const add = (text: string, as: Part["as"], more: Partial<Part> = {}) => {
    if (text) out.push({ text, as, ...more });
  };
  const words = (text: string) => text.replace(/\s*;\s*/g, " · ");
  const plain = (from: number, to: number) => {
    const text = props.says.slice(from, to);
    let at = 0;
    for (const m of text.matchAll(NUMBER)) {
      if (/^[^\W\d_]/u.test(m[0]) && !m[0].startsWith('"')) continue;
      add(words(text.slice(at, m.index)), "plain");
      at = m.index + m[0].length;
      add(m[0], "number", { at: [from + m.index, from + at] });
    }
    add(words(text.slice(at)), "plain");
  };
  let at = 0;
  for (const [from, to, step] of props.refs ?? []) {
    // the kind stands before the number, a part behind it: "edge 1.3"
    const kind = /[^\W\d_]+\s*$/u.exec(props.says.slice(at, from));
    const begin = kind ? at + kind.index : from;
    const part = /^\.\d+/.exec(props.says.slice(to));
    const end = to + (part?.[0].length ?? 0);
    plain(at, begin);
    const name = { kind: kind?.[0].trim() ?? "step", step, part: part ? Number(part[0].slice(1)) : null };
    add(props.says.slice(begin, end), "step", { name });
    at = end;
  }
  plain(at, props.says.length);
  return out;
});
</script>

<template>
  <span class="break-words">
    <template v-for="(p, n) in parts" :key="n"
      ><span v-if="p.name" class="named" @click.stop="emit('name', p.name)">{{ p.text }}</span
      ><strong
        v-else-if="p.as === 'number'"
        class="font-semibold"
        @dblclick.stop="p.at && emit('number', p.at)"
        >{{ p.text }}</strong
      ><template v-else>{{ p.text }}</template></template
    ><span v-if="shows?.length" class="text-ink2"> = {{ shows.join(", ") }}</span>
  </span>
</template>

<style scoped>
.named {
  color: var(--color-teal);
  text-decoration: underline dotted;
  text-underline-offset: 3px;
}
</style>
