<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { ask, Refusal, refusal } from '@/api/client';
import { useBench } from '@/shell/useBench';
import { choosePasswordLead, firstOwnerLead, passwordLength } from './words';

/** A link is used: the first owner says a name, everybody chooses a password. */
const bench = useBench();
const router = useRouter();
const token = window.location.hash.slice(1);
const first = computed(() => !!bench.sign.value?.first);
const [name, password] = [ref(''), ref('')];
const wrong = ref<Refusal>();

async function join() {
  try {
    const body = { token, name: name.value, password: password.value };
    bench.took(await ask('post', '/api/sign-in/join', { body }));
    await router.replace('/');
  } catch (error) {
    wrong.value = refusal(error);
  }
}
</script>

<template>
  <form @submit.prevent="join">
    <p class="muted">{{ first ? firstOwnerLead : choosePasswordLead }}</p>
    <template v-if="first">
      <label for="join-name">Your name</label>
      <input
        id="join-name"
        v-model="name"
        class="line"
        autocomplete="username"
        autofocus
        :aria-invalid="!!wrong?.about('name')"
      />
      <p v-if="wrong?.about('name')" class="wrong" role="alert">{{ wrong.about('name') }}</p>
    </template>
    <label for="join-password"
      >Password <span class="muted small">{{ passwordLength }}</span></label
    >
    <input
      id="join-password"
      v-model="password"
      class="line"
      type="password"
      autocomplete="new-password"
      :aria-invalid="!!wrong?.about('password')"
    />
    <p v-if="wrong && !wrong.about('name')" class="wrong" role="alert">
      {{ wrong.about('password') || wrong.about('token') || wrong.message }}
    </p>
    <button class="main-act" type="submit">Save password</button>
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
