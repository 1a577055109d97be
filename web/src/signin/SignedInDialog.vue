<script setup lang="ts">
import { computed, ref } from 'vue';
import { ask, refusal } from '@/api/client';
import PinForm from '@/shell/PinForm.vue';
import PlainDialog from '@/shell/PlainDialog.vue';
import { useBench } from '@/shell/useBench';
import { ROLE } from '@/words';
import PinChoice from './PinChoice.vue';
import { passwordLength, whoIsAtBench } from './words';

/** Who is in, the quick change of hands at a tablet, and the way out. */
const bench = useBench();
const sign = computed(() => bench.sign.value);
const person = computed(() => sign.value?.person);
const part = ref<'pin' | 'password'>();
const [old, password, wrong] = [ref(''), ref(''), ref('')];
const close = () => (bench.choosing.value = false);

async function leave() {
  try {
    bench.took(await ask('post', '/api/sign-in/end'));
  } catch (error) {
    wrong.value = refusal(error).message;
  }
}
async function change() {
  try {
    const body = { old: old.value, password: password.value };
    bench.took(await ask('put', '/api/sign-in/password', { body }));
  } catch (error) {
    wrong.value = refusal(error).about('password') || refusal(error).message;
  }
}
</script>

<template>
  <PlainDialog :title="sign?.bench.length ? whoIsAtBench : 'Signed in'" @close="close">
    <PinChoice v-if="sign?.bench.length && !part" />
    <p v-if="person" class="now">
      <strong>{{ person.name }}</strong> · {{ ROLE[person.role] }}
    </p>
    <PinForm v-if="part === 'pin'" @done="part = undefined" />
    <form v-else-if="part === 'password'" @submit.prevent="change">
      <label for="old-password">Password that is set now</label>
      <input id="old-password" v-model="old" class="line" type="password" autocomplete="current-password" />
      <label for="new-password"
        >New password <span class="muted small">{{ passwordLength }}</span></label
      >
      <input id="new-password" v-model="password" class="line" type="password" autocomplete="new-password" />
      <button class="main-act" type="submit">Save password</button>
    </form>
    <div v-else class="acts">
      <button class="side-act" type="button" @click="leave">Sign out</button>
      <button class="side-act" type="button" @click="part = 'pin'">Set PIN</button>
      <button class="side-act" type="button" @click="part = 'password'">Change password</button>
    </div>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
  </PlainDialog>
</template>

<style scoped>
.now {
  font-size: 1.15rem;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
form {
  display: grid;
  gap: 8px;
  justify-items: start;
}
</style>
