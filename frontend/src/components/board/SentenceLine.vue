<script setup lang="ts">
/** A sentence as it is read: slots apart, numbers strong, steps that it names underlined, what formulas come to behind. */
import { computed } from "vue";

const props = defineProps<{ says: string; refs?: [number, number, number][]; shows?: string[] }>();
const emit = defineEmits<{ step: [id: number] }>();

interface Part {
  text: string;
  as: "plain" | "number" | "step";
  step?: number;
}
const NUMBER = /"(?:[^"\\]|\\.)*"|[-−]?\d[\d./'"°]*|[^\W\d_]+/gu;
const parts = computed<Part[]>(() => {
  const out: Part[] = [];
  const add = (text: string, as: Part["as"], step?: number) => {
    if (text) out.push({ text, as, step });
  };
  const plain = (from: number, to: number) => {
    const text = props.says.slice(from, to).replace(/\s*;\s*/g, " · ");
    let at = 0;
    for (const m of text.matchAll(NUMBER)) {
      if (/^[^\W\d_]/u.test(m[0]) && !m[0].startsWith('"')) continue;
      add(text.slice(at, m.index), "plain");
      add(m[0], "number");
      at = m.index + m[0].length;
    }
    add(text.slice(at), "plain");
  };
  let at = 0;
  for (const [from, to, step] of props.refs ?? []) {
    // the kind stands before the number, a part behind it: "edge 1.3"
    const kind = /[^\W\d_]+\s*$/u.exec(props.says.slice(at, from));
    const begin = kind ? at + kind.index : from;
    const part = /^\.\d+/.exec(props.says.slice(to));
    const end = to + (part?.[0].length ?? 0);
    plain(at, begin);
    add(props.says.slice(begin, end), "step", step);
    at = end;
  }
  plain(at, props.says.length);
  return out;
});
</script>

<template>
  <span class="break-words">
    <template v-for="(p, n) in parts" :key="n"
      ><span v-if="p.as === 'step'" class="named" @click.stop="p.step && emit('step', p.step)">{{
        p.text
      }}</span
      ><strong v-else-if="p.as === 'number'" class="font-semibold">{{ p.text }}</strong
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
