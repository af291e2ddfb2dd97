<script setup lang="ts">
import { reactive } from "vue";
import { useRouter } from "vue-router";
import { post } from "../api/client";
import DoorForm from "../components/DoorForm.vue";
import NewPassword from "../components/NewPassword.vue";
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
  <DoorForm title="Join a class" does="Join" doing="Joining …" :busy="busy" :trouble="trouble" @send="enter">
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
    <template v-else>
      <label class="block text-sm font-semibold" for="name">Your name, as your instructor knows it</label>
      <input id="name" v-model="form.name" class="field mt-1 mb-3" autocomplete="name" required />
      <label class="block text-sm font-semibold" for="sign-in">Sign-in name</label>
      <input id="sign-in" v-model="form.sign_in" class="field mt-1 mb-3" autocomplete="username" required />
      <NewPassword v-model="form.password" />
    </template>
    <template v-if="!person" #foot>
      Have an account? <RouterLink to="/sign-in">Sign in</RouterLink>, then join from My work.
    </template>
  </DoorForm>
</template>
