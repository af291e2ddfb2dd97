/** Where a drawing on the board goes: into files, handed in, made into a key, held against the key before. */
import { computed, ref, shallowRef } from "vue";
import { useRouter } from "vue-router";
import { post, type Schemas } from "../api/client";
import { useAct } from "../useAct";
import type { BoardState } from "./useBoard";
import type { Tried } from "./useChosen";

export function useWaysOut(id: number, board: BoardState, tried: Tried) {
  const router = useRouter();
  const { busy: handing, trouble: refused, act: send } = useAct();
  async function handIn(): Promise<void> {
    if (!(await tried(board.confirmed))) return;
    const made = await send(() => post("/api/boards/{board_id}/hand-in", { board_id: id }));
    if (made) await router.push(`/results/${made.attempt_id}`);
  }
  /** What can be taken away of the drawing as it is saved. */
  const waysOut = [
    { word: "DXF", href: `/api/boards/${id}/file.dxf` },
    { word: "DXF of the oldest version, R12", href: `/api/boards/${id}/file.dxf?version=R12` },
    { word: "SVG", href: `/api/boards/${id}/file.svg` },
    { word: "PDF at true scale, to print", href: `/api/boards/${id}/file.pdf` },
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
    if (!(await tried(board.confirmed))) return;
    told.value = (await send(() => post("/api/boards/{board_id}/check", { board_id: id }))) ?? told.value;
    showing.value = true;
  }
  async function makeKey(): Promise<void> {
    if (!(await tried(board.confirmed))) return;
    const title = board.page.value?.title ?? "Exercise";
    const made = await send(() =>
      post("/api/boards/{board_id}/exercise", { board_id: id }, { title, text: "" }),
    );
    if (made) await router.push(`/exercises/${made.revision_id}`);
  }

  return { handing, refused, waysOut, told, showing, check, handIn, makeKey, checkOwn };
}
export type WaysOut = ReturnType<typeof useWaysOut>;
