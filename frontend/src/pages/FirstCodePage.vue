<script setup lang="ts">
/** Somebody with a one-time code chooses a password and is signed in. */
import { ref } from "vue";
import { useRoute, useRouter } from "vue-router";
import DoorForm from "../components/DoorForm.vue";
import NewPassword from "../components/NewPassword.vue";
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
  <DoorForm
    title="Choose a password"
    does="Save password and sign in"
    doing="Signing in …"
    :busy="busy"
    :trouble="trouble"
    @send="choose"
  >
    <template #lead>
      Use the code on your sign-in card. It works once; after that you sign in with your password.
    </template>
    <label class="block text-sm font-semibold" for="code">Code on your sign-in card</label>
    <input
      id="code"
      v-model="code"
      class="field mt-1 mb-3 uppercase"
      autocomplete="off"
      spellcheck="false"
      maxlength="24"
      required
    />
    <NewPassword v-model="password" />
    <template #foot>Have a password already? <RouterLink to="/sign-in">Sign in</RouterLink>.</template>
  </DoorForm>
</template>
