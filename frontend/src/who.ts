/** Who is signed in, for all that belongs to one person; `session.ts` alone sets it. */
import { ref } from "vue";
import type { Schemas } from "./api/client";

export const person = ref<Schemas["PersonOut"] | null>(null);
export const personId = (): number => person.value?.id ?? 0;
/** Whether a comma between two digits is a decimal one in what this person writes. */
export const decimalComma = (): boolean => person.value?.decimal_comma ?? false;
