/** Talks to the server: sends the session's guard with every change, and turns refusals into sentences. */
import type { components } from "./generated";

export type Schemas = components["schemas"];
export type Verdict = "met" | "near" | "missed" | "absent" | "follows";

export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    readonly says: string,
    /** Seconds after which it may be asked again. */
    readonly after = 2,
  ) {
    super(says);
  }
}

let guard: string | null = null;
let onSignedOut: () => void = () => undefined;

export function setGuard(value: string | null): void {
  guard = value;
}

export function whenSignedOut(action: () => void): void {
  onSignedOut = action;
}

type Method = "GET" | "POST" | "PATCH" | "DELETE";

const MOST_AGAIN = 8;
const pause = (seconds: number) => new Promise((done) => setTimeout(done, seconds * 1000));

/**
 * Asks, and asks again by itself where nothing can have happened yet: a reading that met a closed connection or a part that is being
 * brought back, and anything that was turned away because many came at once.
 */
async function call<T>(method: Method, path: string, body?: unknown): Promise<T> {
  for (let tries = 1; ; tries++) {
    try {
      return await once<T>(method, path, body);
    } catch (why) {
      if (!(why instanceof Refusal) || tries >= MOST_AGAIN) throw why;
      const crowded = why.code === "crowded";
      if (!crowded && (method !== "GET" || !["no-connection", "away"].includes(why.code))) throw why;
      if (why.code === "no-connection" && tries > 2) throw why;
      await pause(why.status ? why.after : 0.3);
    }
  }
}

async function once<T>(method: Method, path: string, body?: unknown): Promise<T> {
  const headers: Record<string, string> = { Accept: "application/json" };
  if (guard && method !== "GET") headers["X-Even-Mark-Guard"] = guard;
  let payload: BodyInit | undefined;
  if (body instanceof FormData) payload = body;
  else if (body !== undefined) {
    headers["Content-Type"] = "application/json";
    payload = JSON.stringify(body);
  }
  let response: Response;
  try {
    response = await fetch(`/api${path}`, { method, headers, body: payload, credentials: "same-origin" });
  } catch {
    throw new Refusal(
      0,
      "no-connection",
      "The server cannot be reached. Nothing is lost; check the connection, then try again.",
    );
  }
  const data: unknown = await response.json().catch(() => null);
  if (!response.ok) {
    const said = (data ?? {}) as Partial<Schemas["Problem"]>;
    if (response.status === 401 && said.code === "not-signed-in") onSignedOut();
    throw new Refusal(
      response.status,
      said.code ?? "http",
      said.says ?? "The server did not answer as expected. Try again.",
      Number(response.headers.get("Retry-After")) || undefined,
    );
  }
  return data as T;
}

export const get = <T>(path: string) => call<T>("GET", path);
export const post = <T>(path: string, body?: unknown) => call<T>("POST", path, body);
export const patch = <T>(path: string, body: unknown) => call<T>("PATCH", path, body);
export const remove = <T>(path: string) => call<T>("DELETE", path);

export function fileForm(file: File, fields: Record<string, string> = {}): FormData {
  const form = new FormData();
  form.append("file", file);
  for (const [name, value] of Object.entries(fields)) form.append(name, value);
  return form;
}

export function saysOf(why: unknown): string {
  return why instanceof Refusal ? why.says : "Something went wrong on the page. Load it again.";
}
