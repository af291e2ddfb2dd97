/** Who is signed in. One state for the whole application. */
import { readonly, ref } from "vue";
import { get, post, setGuard, type Schemas } from "./api/client";
import { dropDrafts } from "./drafts";

const person = ref<Schemas["PersonOut"] | null>(null);
const known = ref(false);

function take(session: Schemas["SessionOut"]): void {
  person.value = session.person ?? null;
  setGuard(session.guard ?? null);
  known.value = true;
}

export function useSession() {
  return { person: readonly(person), known: readonly(known) };
}

export async function findSession(): Promise<Schemas["PersonOut"] | null> {
  if (!known.value) take(await get<Schemas["SessionOut"]>("/session"));
  return person.value;
}

export async function findSessionAnew(): Promise<void> {
  take(await get<Schemas["SessionOut"]>("/session"));
}

export async function signIn(sign_in: string, password: string): Promise<void> {
  take(await post<Schemas["SessionOut"]>("/sign-in", { sign_in, password }));
}

export async function join(form: { code: string; name: string; sign_in: string; password: string }): Promise<void> {
  take(await post<Schemas["SessionOut"]>("/join", form));
}

export async function firstPassword(code: string, password: string): Promise<void> {
  take(await post<Schemas["SessionOut"]>("/first-code", { code, password }));
}

export async function forgotten(sign_in: string): Promise<string> {
  return (await post<Schemas["Done"]>("/forgotten", { sign_in })).says;
}

export async function signOut(): Promise<void> {
  await post("/sign-out");
  dropDrafts();
  forget();
}

export function forget(): void {
  take({ person: null, guard: null });
}
