/** Files opened on the board: a list of steps takes the place of the one here, a drawing is laid in by a step, a picture under it. */
import { ref, shallowRef } from "vue";
import { fileForm, upload } from "../api/client";
import type { KeptDocument } from "./types";
import type { BoardState } from "./useBoard";
import type { Tried } from "./useChosen";
import { isPicture, PICTURES, type UnderlayState } from "./useUnderlay";

export const OPENED = `.dxf,.svg,.json,.txt,${PICTURES}`;

export function useOpening(id: number, board: BoardState, underlay: UnderlayState, tried: Tried) {
  const reading = ref("");
  /** A list that was opened while another one stands here. */
  const instead = shallowRef<{ name: string; document: KeptDocument; steps: number } | null>(null);
  /** What was opened last, with what was left out of it. */
  const opened = shallowRef<{ name: string; says: string[] } | null>(null);

  async function open(file: File): Promise<void> {
    if (reading.value) return;
    opened.value = null;
    reading.value = file.name;
    await tried(async () => {
      if (isPicture(file)) {
        await underlay.put(file);
        return;
      }
      const found = await upload("/api/boards/{board_id}/opened", { board_id: id }, fileForm(file));
      if (found.drawing) {
        await board.act("lay_in", { name: found.name, drawing: found.drawing });
        opened.value = { name: file.name, says: found.says ?? [] };
      } else if (found.document) {
        const document = found.document as KeptDocument;
        const steps = document.lines.filter((l) => l.kind === "step").length;
        if (board.rows.value.length) instead.value = { name: file.name, document, steps };
        else await replace(document, file.name);
      }
    });
    reading.value = "";
  }
  async function replace(document: KeptDocument, name: string): Promise<void> {
    instead.value = null;
    const done = await tried(() => board.act("replace", { document }));
    if (done) opened.value = { name, says: [] };
  }
  return { reading, instead, opened, open, replace };
}
export type OpeningState = ReturnType<typeof useOpening>;
