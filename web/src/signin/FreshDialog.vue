<script setup lang="ts">
import { ref } from 'vue';
import { ask, refusal } from '@/api/client';
import PlainDialog from '@/shell/PlainDialog.vue';
import { useBench } from '@/shell/useBench';
import { enterAgain, enterAgainWhy } from './words';

/** The password once more, before what reaches beyond one job. */
const bench = useBench();
const [password, wrong] = [ref(''), ref('')];

async function enter() {
  try {
    bench.took(await ask('post', '/api/sign-in/fresh', { body: { password: password.value } }));
    bench.freshening.value?.(true);
  } catch (error) {
    wrong.value = refusal(error).about('password') || refusal(error).message;
    password.value = '';
  }
}
</script>

<template>
  <PlainDialog :title="enterAgain" @close="bench.freshening.value?.(false)">
    <form @submit.prevent="enter">
      <p class="muted">{{ enterAgainWhy }}</p>
      <label for="fresh-password">Password of {{ bench.name.value }}</label>
      <input
        id="fresh-password"
        v-model="password"
        class="line"
        type="password"
        autocomplete="current-password"
        autofocus
        :aria-invalid="!!wrong"
      />
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <button class="main-act" type="submit">Confirm password</button>
    </form>
  </PlainDialog>
</template>

<style scoped>
form {
  display: grid;
  gap: 8px;
  justify-items: start;
}
</style>
