/** Why what stands in the line is not added; what is typed over then is set beside the line. */
import { ref, type Ref } from "vue";
import type { Writing } from "./types";
import type { Waits } from "./unsent";
import type { BoardState } from "./useBoard";

export function useRefused(
  outbox: BoardState["outbox"],
  on: { text: Readonly<Ref<string>>; writing: Readonly<Ref<Writing | null>>; place: () => Waits["place"] },
) {
  const refused = ref("");
  /** What was refused where it stands, and not changed since. */
  const here = ref("");

  /** Says why what stands there is not added. It stays, and where somebody types over it, it is set aside. */
  function refuse(): void {
    const w = on.writing.value;
    refused.value =
      ((w?.readings.length ?? 0) > 1 && "This can mean more than one thing. Choose one.") ||
      w?.wrong?.says ||
      w?.preview.broken ||
      (w?.needs ? `The step is not complete. Next: ${w.needs}.` : "The step is not complete yet.");
    here.value = on.text.value;
  }
  function typedOver(): void {
    if (here.value !== on.text.value || !refused.value) return;
    outbox.refuse({ says: on.text.value.trim(), place: on.place(), layer: "" }, refused.value);
  }
  return { refused, refuse, typedOver };
}
