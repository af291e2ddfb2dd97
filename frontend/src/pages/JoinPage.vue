<script setup lang="ts">
import { reactive } from "vue";
import { useRouter } from "vue-router";
import { post } from "../api/client";
import LogoMark from "../components/LogoMark.vue";
import { join, useSession } from "../session";
import { useAct } from "../useAct";

const router = useRouter();
const { person } = useSession();
const form = reactive({ code: "", name: "", sign_in: "", password: "" });
const { busy, trouble, act } = useAct();

const enter = () =>
  act(async () => {
    if (person.value) await post("/api/join-class", undefined, { code: form.code });
    else await join({ ...form });
    await router.push("/work");
  });
</script>

<template>
  <main class="grid min-h-dvh place-items-center p-4">
    <form class="paper w-full max-w-md p-6" @submit.prevent="enter">
      <p class="flex items-center gap-2.5 font-bold"><LogoMark />Even Mark</p>
      <h1 class="mt-4 mb-4">Join a class</h1>
      <label class="block text-sm font-semibold" for="code">Code from your instructor</label>
      <input
        id="code"
        v-model="form.code"
        class="field mt-1 mb-3 uppercase"
        autocomplete="off"
        required
        maxlength="9"
      />
      <p v-if="person" class="mb-3 text-ink2">
        You are signed in as <b class="text-ink">{{ person.name }}</b> ({{ person.sign_in }}). Not you?
        <RouterLink to="/account">Sign out first</RouterLink>.
      </p>
      <template v-if="!person">
        <label class="block text-sm font-semibold" for="name">Your name, as your instructor knows it</label>
        <input id="name" v-model="form.name" class="field mt-1 mb-3" autocomplete="name" required />
        <label class="block text-sm font-semibold" for="sign-in">Sign-in name</label>
        <input id="sign-in" v-model="form.sign_in" class="field mt-1 mb-3" autocomplete="username" required />
        <label class="block text-sm font-semibold" for="password">Password, ten characters or more</label>
        <input
          id="password"
          v-model="form.password"
          class="field mt-1"
          type="password"
          autocomplete="new-password"
          required
        />
      </template>
      <p v-if="trouble" role="alert" class="mt-3 text-pencil">{{ trouble }}</p>
      <button class="press mt-5 w-full justify-center" :disabled="busy">
        {{ busy ? "Joining …" : "Join" }}
      </button>
      <p v-if="!person" class="mt-4 text-sm text-ink2">
        Have an account? <RouterLink to="/sign-in">Sign in</RouterLink>, then join from My work.
      </p>
    </form>
  </main>
</template>
