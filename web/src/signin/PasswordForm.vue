<script setup lang="ts">
import { ref } from 'vue';
import { ask, refusal } from '@/api/client';
import { useBench } from '@/shell/useBench';
import { signInHere } from './words';

/** Name and password. */
const bench = useBench();
const [name, password, wrong] = [ref(''), ref(''), ref('')];

async function sign() {
  try {
    const body = { name: name.value, password: password.value };
    bench.took(await ask('post', '/api/sign-in/password', { body }));
  } catch (error) {
    wrong.value = refusal(error).about('password') || refusal(error).message;
    password.value = '';
  }
}
</script>

<template>
  <form @submit.prevent="sign">
    <label for="sign-name">Name</label>
    <input id="sign-name" v-model="name" class="line" autocomplete="username" autofocus required />
    <label for="sign-password">Password</label>
    <input
      id="sign-password"
      v-model="password"
      class="line"
      type="password"
      autocomplete="current-password"
      required
      :aria-invalid="!!wrong"
    />
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <button class="main-act" type="submit">{{ signInHere }}</button>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 8px;
}
.main-act {
  margin-top: 10px;
}
</style>
