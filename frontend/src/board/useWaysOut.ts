/** Where a drawing on the board goes: into files, handed in, made into a key, held against the key before. */
import { computed, ref, shallowRef } from "vue";
import { useRouter } from "vue-router";
import { post, Refusal, type Schemas } from "../api/client";
import { useAct } from "../useAct";
import type { BoardState } from "./useBoard";
import type { Tried } from "./useChosen";

export function useWaysOut(id: number, board: BoardState, tried: Tried) {
  const router = useRouter();
  const { busy: handing, trouble: refused, act: send } = useAct();
  /** Asks for something to be made of the list that stands here, and of no other. */
  async function madeOf<T>(ask: (list: { digest: string }) => Promise<T>): Promise<T | undefined> {
    const list = await tried(board.confirmed);
    if (!list) return undefined;
    return send(async () => {
      try {
        return await ask(list);
      } catch (why) {
        if (why instanceof Refusal && why.code === "other-list") await board.load();
        throw why;
      }
    });
  }
  /** What was understood of the drawing, for who is about to hand it in. */
  const understood = shallowRef<Schemas["UnderstoodOut"] | null>(null);
  async function look(): Promise<void> {
    const found = await madeOf((list) => post("/api/boards/{board_id}/understood", { board_id: id }, list));
    understood.value = found ?? null;
  }
  async function handIn(): Promise<void> {
    const made = await madeOf((list) => post("/api/boards/{board_id}/hand-in", { board_id: id }, list));
    if (made) await router.push(`/results/${made.attempt_id}`);
  }
  /** What can be downloaded of the drawing as it is saved. */
  const waysOut = [
    { word: "DXF", href: `/api/boards/${id}/file.dxf` },
    { word: "DXF R12, for old programs", href: `/api/boards/${id}/file.dxf?version=R12` },
    { word: "SVG", href: `/api/boards/${id}/file.svg` },
    { word: "PDF to scale, 1:1", href: `/api/boards/${id}/file.pdf` },
    { word: "Steps as text", href: `/api/boards/${id}/file.txt` },
    { word: "Steps as JSON", href: `/api/boards/${id}/file.json` },
  ];
  const showing = ref(false);
  const told = shallowRef<Schemas["OwnCheckTold"] | null>(null);
  const check = computed(() => {
    const own = board.page.value?.own_check;
    return own && { ...own, left: told.value?.left ?? own.left };
  });
  async function checkOwn(): Promise<void> {
    const answer = await madeOf((list) => post("/api/boards/{board_id}/check", { board_id: id }, list));
    told.value = answer ?? told.value;
    showing.value = true;
  }
  async function makeKey(): Promise<void> {
    const title = board.page.value?.title ?? "Exercise";
    const made = await madeOf((list) =>
      post("/api/boards/{board_id}/exercise", { board_id: id }, { ...list, title, text: "" }),
    );
    if (made) await router.push(`/exercises/${made.revision_id}`);
  }

  return {
    handing,
    refused,
    waysOut,
    told,
    showing,
    check,
    understood,
    look,
    handIn,
    makeKey,
    checkOwn,
  };
}
export type WaysOut = ReturnType<typeof useWaysOut>;
