/**
 * Talks to the server. Paths, what they take and what they answer are typed by the server's own document; the session's guard goes along
 * with every change, and refusals become sentences.
 */
import createClient from "openapi-fetch";
import type { components, paths } from "./generated";
import { keyOf, wasAnswered } from "./once";

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

type Method = "get" | "post" | "patch" | "put" | "delete";
/** The paths that can be called in some way. */
export type PathOf<M extends Method> = {
  [P in keyof paths]: paths[P][M] extends { responses: unknown } ? P : never;
}[keyof paths];
type Operation<P extends keyof paths, M extends Method> = NonNullable<paths[P][M]>;
type PlacesOf<O> = O extends { parameters: { path: infer V } } ? V : undefined;
type Sent<O> = O extends { requestBody?: infer R } ? NonNullable<R> : never;
type BodyOf<O> = [Sent<O>] extends [never]
  ? undefined
  : Sent<O> extends { content: { "application/json": infer B } }
    ? B
    : undefined;
export type AnswerOf<P extends keyof paths, M extends Method> =
  Operation<P, M> extends { responses: { 200: { content: { "application/json": infer A } } } } ? A : never;
/** What stands in a path, left out where nothing does. */
type Places<O> = PlacesOf<O> extends undefined ? [] | [undefined, Query?] : [PlacesOf<O>, Query?];
type PlacesAndBody<O> =
  BodyOf<O> extends undefined
    ? PlacesOf<O> extends undefined
      ? []
      : [PlacesOf<O>, undefined?, Query?]
    : [PlacesOf<O>, BodyOf<O>, Query?];
export type Query = Record<string, string | number | undefined>;

let guard: string | null = null;
let onSignedOut: () => void = () => undefined;

export function setGuard(value: string | null): void {
  guard = value;
}

export function whenSignedOut(action: () => void): void {
  onSignedOut = action;
}

const KEY = "Idempotency-Key";
const AWAY = "The server cannot be reached. Nothing is lost; check the connection, then try again.";
const server = createClient<paths>({ credentials: "same-origin", headers: { Accept: "application/json" } });
server.use({
  onRequest({ request }) {
    if (guard && request.method !== "GET") request.headers.set("X-Even-Mark-Guard", guard);
    return request;
  },
});

const MOST_AGAIN = 8;
/** Where very many ask at once, each has its turn some time. */
const MOST_CROWDED = 30;
/** Asked again by themselves where the answer was lost: they go with a key of their own, so that nothing is done twice. */
const ONCE = [
  "/api/boards/{board_id}/hand-in",
  "/api/boards/{board_id}/check",
  "/api/work/intakes/{intake_id}/hand-in",
];
/** These know by themselves what they have done. */
const NO_KEY = [
  "/api/boards/{board_id}/ask",
  "/api/boards/{board_id}/acts",
  "/api/sign-in",
  "/api/sign-out",
  "/api/step-aside",
];
const pause = (seconds: number) => new Promise((done) => setTimeout(done, seconds * 1000));

/**
 * Asks, and asks again by itself where nothing can have happened yet: a reading that met a closed connection or a part that is being
 * brought back, and anything that was turned away because many came at once.
 */
async function call<T>(
  method: Method,
  path: string,
  places: unknown,
  body: unknown,
  query?: Query,
): Promise<T> {
  const keyed = method === "post" && !NO_KEY.includes(path) ? { path, places, body } : undefined;
  const key = keyed && keyOf(keyed);
  for (let tries = 1; ; tries++) {
    try {
      const answer = await once<T>(method, path, places, body, query, key);
      if (keyed) wasAnswered(keyed);
      return answer;
    } catch (why) {
      if (keyed && isAnswer(why)) wasAnswered(keyed);
      if (!(why instanceof Refusal)) throw why;
      const crowded = why.code === "crowded";
      if (tries >= (crowded ? MOST_CROWDED : MOST_AGAIN)) throw why;
      const again = method === "get" || ONCE.includes(path);
      if (!crowded && (!again || !["no-connection", "away"].includes(why.code))) throw why;
      if (why.code === "no-connection" && tries > 2) throw why;
      await pause(why.status ? why.after : 0.3);
    }
  }
}

/** Whether a refusal says for certain that nothing was done. */
const isAnswer = (why: unknown) => why instanceof Refusal && why.status >= 400 && why.status < 500;

async function once<T>(
  method: Method,
  path: string,
  places: unknown,
  body: unknown,
  query?: Query,
  key?: string,
): Promise<T> {
  let answer: { data?: unknown; error?: unknown; response: Response };
  try {
    // the functions below have checked path, places and body against the document; here they are any of them
    answer = await server.request(
      method as never,
      path as never,
      { params: { path: places, query }, body, headers: key ? { [KEY]: key } : undefined } as never,
    );
  } catch (why) {
    if (why instanceof SyntaxError)
      throw new Refusal(502, "http", "The server did not answer as expected. Try again.");
    throw new Refusal(0, "no-connection", AWAY);
  }
  const { response } = answer;
  if (!response.ok) throw refused(response.status, answer.error, response.headers.get("Retry-After"));
  return answer.data as T;
}

function refused(status: number, data: unknown, after: string | null): Refusal {
  const said = (typeof data === "object" && data ? data : {}) as Partial<Schemas["Problem"]>;
  if (status === 401 && said.code === "not-signed-in") onSignedOut();
  return new Refusal(
    status,
    said.code ?? "http",
    said.says ?? "The server did not answer as expected. Try again.",
    Number(after) || undefined,
  );
}

export const get = <P extends PathOf<"get">>(path: P, ...[places, query]: Places<Operation<P, "get">>) =>
  call<AnswerOf<P, "get">>("get", path, places, undefined, query);
export const remove = <P extends PathOf<"delete">>(path: P, ...[places]: Places<Operation<P, "delete">>) =>
  call<AnswerOf<P, "delete">>("delete", path, places, undefined);
export const post = <P extends PathOf<"post">>(
  path: P,
  ...[places, body, query]: PlacesAndBody<Operation<P, "post">>
) => call<AnswerOf<P, "post">>("post", path, places, body, query);
export const patch = <P extends PathOf<"patch">>(
  path: P,
  ...[places, body, query]: PlacesAndBody<Operation<P, "patch">>
) => call<AnswerOf<P, "patch">>("patch", path, places, body, query);
export const put = <P extends PathOf<"put">>(
  path: P,
  ...[places, body, query]: PlacesAndBody<Operation<P, "put">>
) => call<AnswerOf<P, "put">>("put", path, places, body, query);

/** What is sent on its way: how much of it is there, from 0 to 1, and a way to stop it. */
export interface Sending {
  onProgress?: (share: number) => void;
  signal?: AbortSignal;
}

/** Sends files with what belongs to them; asks again where the server was crowded. Throws a Refusal with the code "stopped" when it is stopped. */
export async function upload<P extends PathOf<"post">>(
  path: P,
  places: PlacesOf<Operation<P, "post">>,
  form: FormData,
  sending: Sending = {},
): Promise<AnswerOf<P, "post">> {
  const to = path.replace(/\{(\w+)\}/g, (_, name: string) =>
    String((places as Record<string, unknown>)[name]),
  );
  const asked = { to, form: [...form].map(([name, value]) => [name, told(value)]) };
  const key = keyOf(asked);
  for (let tries = 1; ; tries++) {
    try {
      const answer = (await sent(to, form, key, sending)) as AnswerOf<P, "post">;
      wasAnswered(asked);
      return answer;
    } catch (why) {
      if (isAnswer(why)) wasAnswered(asked);
      if (!(why instanceof Refusal) || why.code !== "crowded" || tries >= MOST_CROWDED) throw why;
      await pause(why.after);
    }
  }
}

const told = (value: FormDataEntryValue) =>
  typeof value === "string" ? value : [value.name, value.size, value.lastModified];

function sent(to: string, form: FormData, key: string, { onProgress, signal }: Sending): Promise<unknown> {
  return new Promise((done, failed) => {
    // fetch does not say how much of a body has gone
    const request = new XMLHttpRequest();
    request.open("POST", to);
    request.responseType = "json";
    if (guard) request.setRequestHeader("X-Even-Mark-Guard", guard);
    request.setRequestHeader(KEY, key);
    request.upload.onprogress = (e) => e.lengthComputable && onProgress?.(e.loaded / e.total);
    request.onerror = () => failed(new Refusal(0, "no-connection", AWAY));
    request.onabort = () => failed(new Refusal(0, "stopped", "Stopped. Nothing was taken in."));
    request.onload = () =>
      request.status >= 200 && request.status < 300
        ? done(request.response)
        : failed(refused(request.status, request.response, request.getResponseHeader("Retry-After")));
    signal?.addEventListener("abort", () => request.abort());
    request.send(form);
  });
}

export function fileForm(file: File, fields: Record<string, string> = {}): FormData {
  const form = new FormData();
  form.append("file", file);
  for (const [name, value] of Object.entries(fields)) form.append(name, value);
  return form;
}

export function saysOf(why: unknown): string {
  return why instanceof Refusal ? why.says : "Something went wrong on the page. Load it again.";
}
