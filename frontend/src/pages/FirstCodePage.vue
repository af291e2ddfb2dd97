<script setup lang="ts">
/** Somebody with a one-time code chooses a password and is signed in. */
import { ref } from "vue";
import { useRoute, useRouter } from "vue-router";
import LogoMark from "../components/LogoMark.vue";
import { homeOf } from "../router";
import { firstPassword, useSession } from "../session";
import { useAct } from "../useAct";

const router = useRouter();
const { person } = useSession();
const code = ref(String(useRoute().params.code ?? ""));
const password = ref("");
const { busy, trouble, act } = useAct();

const choose = () =>
  act(async () => {
    await firstPassword(code.value, password.value);
    if (person.value) await router.push(homeOf(person.value.role));
  });
</script>

<template>
  <main class="grid min-h-dvh place-items-center p-4">
    <form class="paper w-full max-w-md p-6" @submit.prevent="choose">
      <p class="flex items-center gap-2.5 font-bold"><LogoMark />Even Mark</p>
      <h1 class="mt-4 mb-1">Choose a password</h1>
      <p class="mb-4 text-ink2">
        With the code on your slip. It works once; after that you sign in with your password.
      </p>
      <label class="block text-sm font-semibold" for="code">Code on your slip</label>
      <input
        id="code"
        v-model="code"
        class="field mt-1 mb-3 uppercase"
        autocomplete="off"
        spellcheck="false"
        maxlength="24"
        required
      />
      <label class="block text-sm font-semibold" for="password">Password, ten characters or more</label>
      <input
        id="password"
        v-model="password"
        class="field mt-1"
        type="password"
        autocomplete="new-password"
        required
      />
      <p v-if="trouble" role="alert" class="mt-3 text-pencil">{{ trouble }}</p>
      <button class="press mt-5 w-full justify-center" :disabled="busy">
        {{ busy ? "Signing in …" : "Keep it and sign in" }}
      </button>
      <p class="mt-4 text-sm text-ink2">
        Have a password already? <RouterLink to="/sign-in">Sign in</RouterLink>.
      </p>
    </form>
  </main>
</template>
