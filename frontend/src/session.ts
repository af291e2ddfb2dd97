/** Who is signed in. One state for the whole application. */
import { readonly, ref } from "vue";
import { get, post, setGuard, type Schemas } from "./api/client";
import { dropHistory, dropOthers } from "./leavings";
import { person } from "./who";

const known = ref(false);

function take(session: Schemas["SessionOut"]): void {
  person.value = session.person ?? null;
  setGuard(session.guard ?? null);
  known.value = true;
}

/** The time zone of this browser, by its name. */
export function browserZone(): string {
  return new Intl.DateTimeFormat().resolvedOptions().timeZone ?? "";
}

export function useSession() {
  return { person: readonly(person), known: readonly(known) };
}

export async function findSession(): Promise<Schemas["PersonOut"] | null> {
  if (!known.value) take(await get("/api/session"));
  return person.value;
}

export async function findSessionAnew(): Promise<void> {
  take(await get("/api/session"));
}

export async function signIn(sign_in: string, password: string): Promise<void> {
  take(await post("/api/sign-in", undefined, { sign_in, password, zone: browserZone() }));
}

export async function join(form: {
  code: string;
  name: string;
  sign_in: string;
  password: string;
}): Promise<void> {
  take(await post("/api/join", undefined, form));
}

export async function firstPassword(code: string, password: string): Promise<void> {
  take(await post("/api/first-code", undefined, { code, password }));
}

export async function forgotten(sign_in: string): Promise<string> {
  return (await post("/api/forgotten", undefined, { sign_in })).says;
}

/** Ends the session; nothing of anybody stays in this browser. */
export async function signOut(): Promise<void> {
  await post("/api/sign-out");
  dropOthers(0);
  forget();
}

/** Ends the session, so that those can sign in who have left something: what they left stays. */
export async function letOthersIn(): Promise<void> {
  await post("/api/step-aside");
  forget();
}

export function forget(): void {
  take({ person: null, guard: null });
  dropHistory();
}
