/** A list by its digest, as the server works it out too (`services.boards.digest_of`): that nothing is handed in that is not kept there. */
import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils.js";
import type { KeptDocument } from "./types";

/** Neither sign can stand in a line. */
const FIELD = "\x1f";
const LINE = "\x1e";

export function digestOf(document: KeptDocument): string {
  const lines = document.lines.map(
    (l) => [l.kind, l.id ?? "", l.name ?? "", l.says ?? "", l.after ?? ""].join(FIELD) + LINE,
  );
  return bytesToHex(sha256(utf8ToBytes(lines.join(""))));
}
