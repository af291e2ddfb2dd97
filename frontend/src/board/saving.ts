/** How what was done on a board is sent, by the board itself or when somebody signs out. */
import { post } from "../api/client";
import type { Edit } from "./types";

type Json = Record<string, unknown>;

export const postActs = (board_id: number, base: number, acts: Edit[][]) =>
  post("/api/boards/{board_id}/acts", { board_id }, { base, acts: acts as Json[][] });
