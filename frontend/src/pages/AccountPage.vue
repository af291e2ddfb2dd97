<script setup lang="ts">
import { computed, ref } from "vue";
import { post } from "../api/client";
import AppBar from "../components/AppBar.vue";
import { findSessionAnew, useSession } from "../session";
import { useAct } from "../useAct";
import { useLetterKeys } from "../useKeys";

const { person } = useSession();
const letters = useLetterKeys();
const old = ref("");
const next = ref("");
const { busy, said, trouble, act } = useAct();
async function change(): Promise<void> {
  if (await act(() => post("/api/password", undefined, { old: old.value, new: next.value })))
    old.value = next.value = "";
}
const school = ref(person.value?.school ?? "");
const changeSchool = () =>
  act(async () => {
    const done = await post("/api/school", undefined, { school: school.value });
    await findSessionAnew();
    return done;
  });
const zone = ref(person.value?.zone ?? "");
const zones = computed(() => {
  const known = Intl.supportedValuesOf("timeZone");
  const all = zone.value && !known.includes(zone.value) ? [zone.value, ...known] : known;
  return [{ value: "", word: "UTC" }, ...all.map((z) => ({ value: z, word: z.replace(/_/g, " ") }))];
});
const changeZone = () =>
  act(async () => {
    const done = await post("/api/zone", undefined, { zone: zone.value });
    await findSessionAnew();
    return done;
  });
const comma = ref(person.value?.decimal_comma ?? false);
const changeComma = () =>
  act(async () => {
    const done = await post("/api/numbers", undefined, { decimal_comma: comma.value });
    await findSessionAnew();
    return done;
  });
const endOthers = () => act(() => post("/api/sessions/end-others"));
</script>

<template>
  <AppBar />
  <main class="mx-auto max-w-3xl p-6">
    <h1>{{ person?.name }}</h1>
    <p class="text-ink2">Signs in as {{ person?.sign_in }}</p>
    <p v-if="said" role="status" class="mt-4 font-semibold text-teal">{{ said }}</p>
    <p v-if="trouble" role="alert" class="mt-4 text-pencil">{{ trouble }}</p>
    <form class="paper mt-5 p-5" @submit.prevent="change">
      <h2>Change password</h2>
      <label class="mt-3 block text-sm font-semibold" for="old">Current password</label>
      <input
        id="old"
        v-model="old"
        class="field mt-1"
        type="password"
        autocomplete="current-password"
        required
      />
      <label class="mt-3 block text-sm font-semibold" for="new">New password, ten characters or more</label>
      <input
        id="new"
        v-model="next"
        class="field mt-1"
        type="password"
        autocomplete="new-password"
        required
      />
      <button class="press mt-4">Change password</button>
    </form>
    <form v-if="person?.role === 'instructor'" class="paper mt-4 p-5" @submit.prevent="changeSchool">
      <h2>School</h2>
      <label class="mt-3 block text-sm font-semibold" for="school"
        >Name in the title block of your sheets</label
      >
      <input id="school" v-model="school" class="field mt-1" maxlength="120" autocomplete="organization" />
      <button class="press mt-4" :disabled="busy">Save</button>
    </form>
    <form v-if="person?.role === 'instructor'" class="paper mt-4 p-5" @submit.prevent="changeZone">
      <h2>Time zone</h2>
      <label class="mt-3 block text-sm font-semibold" for="zone">
        Times on prints, in tables and in the record
      </label>
      <select id="zone" v-model="zone" class="field mt-1">
        <option v-for="z in zones" :key="z.value" :value="z.value">{{ z.word }}</option>
      </select>
      <button class="press mt-4" :disabled="busy">Save</button>
    </form>
    <section v-if="person?.role === 'instructor'" class="paper mt-4 p-5">
      <h2>Record</h2>
      <p class="mt-1 text-ink2">What you changed: exercises, classes, issued work.</p>
      <RouterLink to="/record" class="mt-2 inline-block">Open the record</RouterLink>
    </section>
    <section class="paper mt-4 p-5">
      <h2>Keyboard</h2>
      <label class="mt-2 flex items-start gap-2.5">
        <input v-model="letters" type="checkbox" class="mt-1.5 accent-teal" />
        <span
          >Single keys work as shortcuts: / and 0 on the board, letters while marking. Switch them off if they
          get in the way of speech input. Kept in this browser.</span
        >
      </label>
    </section>
    <section class="paper mt-4 p-5">
      <h2>Numbers</h2>
      <label class="mt-2 flex items-start gap-2.5">
        <input
          v-model="comma"
          type="checkbox"
          class="mt-1.5 accent-teal"
          :disabled="busy"
          @change="changeComma"
        />
        <span
          >Decimal comma: in your sentences 3,5 is three and a half. Put <b>;</b> or a space between two
          coordinates: <i>circle 3,5; 4; diameter 2,5</i>. Steps in the list show a decimal point.</span
        >
      </label>
    </section>
    <section class="paper mt-4 p-5">
      <h2>Signed in elsewhere?</h2>
      <p class="mt-1 text-ink2">Signs you out on all other devices.</p>
      <button class="press-quiet mt-3" @click="endOthers">End other sessions</button>
    </section>
  </main>
</template>
