<script setup lang="ts">
import { onMounted, ref } from "vue";
import { useRoute, useRouter } from "vue-router";
import { saysOf } from "../api/client";
import LogoMark from "../components/LogoMark.vue";
import { dropOthers, isSomething, leftByOthers, leftInWords, type Left } from "../leavings";
import { homeOf } from "../router";
import { forgotten, signIn, useSession } from "../session";
import { useAct } from "../useAct";

const route = useRoute();
const router = useRouter();
const { person } = useSession();
const name = ref("");
const password = ref("");
const { busy, trouble, act } = useAct();
const said = ref("");

/** What was drawn or typed here, and not saved, by whoever was signed in before. */
const left = ref<Left | null>(null);
onMounted(() => {
  const found = leftByOthers(0);
  left.value = isSomething(found) ? found : null;
});
function drop(): void {
  dropOthers(0);
  left.value = null;
}

async function forgot(): Promise<void> {
  trouble.value = said.value = "";
  if (!name.value.trim()) trouble.value = "Type your sign-in name first.";
  else
    await forgotten(name.value).then(
      (says) => (said.value = says),
      (why: unknown) => (trouble.value = saysOf(why)),
    );
}

const enter = () =>
  act(async () => {
    await signIn(name.value, password.value);
    const to = typeof route.query.to === "string" && /^\/(?!\/)/.test(route.query.to) ? route.query.to : null;
    await router.push(to ?? (person.value ? homeOf(person.value.role) : "/"));
  });
</script>

<template>
  <main class="grid min-h-dvh place-items-center p-4">
    <div class="w-full max-w-4xl gap-12 md:grid md:grid-cols-[1fr_22rem] md:items-center">
      <div class="mb-8 md:mb-0">
        <p class="flex items-center gap-3 text-2xl font-bold"><LogoMark />Even Mark</p>
        <p class="mt-4 max-w-md text-lg text-ink2">
          Checks a drawing against its key: every length, tangency and layer. It says what is off, by how
          much, and which slip most likely explains it.
        </p>
        <svg viewBox="0 0 420 150" class="mt-8 w-full max-w-md" fill="none" aria-hidden="true">
          <path d="M92 30 315 52M92 120 315 98" stroke="var(--color-ink)" stroke-width="2" />
          <path
            d="M92 30a45 45 0 1 0 0 90M315 52a23 23 0 0 1 0 46"
            stroke="var(--color-ink)"
            stroke-width="2"
          />
          <circle cx="88" cy="75" r="24" stroke="var(--color-ink)" stroke-width="2" />
          <circle cx="313" cy="75" r="17" stroke="var(--color-pencil)" stroke-width="2" />
          <circle cx="313" cy="75" r="8.5" stroke="var(--color-drawn)" stroke-dasharray="2 3" />
          <path
            d="M30 75h350M88 15v120M313 40v70"
            stroke="var(--color-axis-soft)"
            stroke-dasharray="14 4 3 4"
          />
          <path d="M327 65l36-30" stroke="var(--color-pencil)" />
          <circle cx="372" cy="28" r="12" fill="var(--color-pencil)" />
          <text
            x="372"
            y="32.5"
            text-anchor="middle"
            fill="var(--color-sheet)"
            font-size="12.5"
            font-weight="650"
          >
            4
          </text>
          <path d="M200 27.5v26M208 28.5v26M190 40.6l28 2.7" stroke="var(--color-teal)" stroke-width="2.5" />
        </svg>
      </div>
      <form class="paper p-6" @submit.prevent="enter">
        <h1 class="mb-4">Sign in</h1>
        <p v-if="left" class="mb-4 border-l-4 border-pencil pl-3 text-sm" role="status" data-left>
          Not saved yet and kept in this browser: {{ leftInWords(left) }}. Sign in as before to save it, or
          <button type="button" class="text-teal underline" @click="drop">delete it</button>, since others may
          use this browser.
        </p>
        <label class="block text-sm font-semibold" for="name">Sign-in name</label>
        <input id="name" v-model="name" class="field mt-1 mb-3" autocomplete="username" autofocus required />
        <label class="block text-sm font-semibold" for="password">Password</label>
        <input
          id="password"
          v-model="password"
          class="field mt-1"
          type="password"
          autocomplete="current-password"
          required
        />
        <p v-if="trouble" role="alert" class="mt-3 text-pencil">{{ trouble }}</p>
        <button class="press mt-5 w-full justify-center" :disabled="busy">
          {{ busy ? "Signing in …" : "Sign in" }}
        </button>
        <p v-if="said" role="status" class="mt-3 text-sm">{{ said }}</p>
        <p class="mt-4 text-sm text-ink2">
          <button type="button" class="text-teal underline" @click="forgot">Forgot your password?</button>
        </p>
        <p class="mt-2 text-sm text-ink2">
          Have a class's code from your instructor? <RouterLink to="/join">Join a class</RouterLink>. A
          sign-in card with a code? <RouterLink to="/first">Choose a password</RouterLink>.
        </p>
      </form>
    </div>
  </main>
</template>
