<script setup lang="ts">
import { ref } from 'vue';
import { ask, refusal } from '@/api/client';
import { useBench } from '@/shell/useBench';
import { pinOf } from './words';

/** The PIN of one person, by glove or by keyboard. */
const props = defineProps<{ person: { id: string; name: string } }>();
const emit = defineEmits<{ back: [] }>();
const bench = useBench();
const pin = ref('');
const wrong = ref('');
const KEYS = ['1', '2', '3', '4', '5', '6', '7', '8', '9'];

async function sign() {
  try {
    // Not by the outbox: a PIN waits in no store of this browser.
    bench.took(await ask('post', '/api/sign-in/pin', { body: { person: props.person.id, pin: pin.value } }));
  } catch (error) {
    wrong.value = refusal(error).about('pin') || refusal(error).message;
  }
  pin.value = '';
}
function press(key: string) {
  wrong.value = '';
  if (pin.value.length < 8) pin.value += key;
}
</script>

<template>
  <form class="pad" @submit.prevent="sign">
    <label for="sign-pin">{{ pinOf(person.name) }}</label>
    <input
      id="sign-pin"
      v-model="pin"
      class="line"
      type="password"
      inputmode="none"
      autocomplete="off"
      autofocus
      :aria-invalid="!!wrong"
    />
    <p class="wrong" role="alert">{{ wrong }}</p>
    <div class="keys">
      <button v-for="key in KEYS" :key="key" type="button" @click="press(key)">{{ key }}</button>
      <button type="button" aria-label="Delete" @click="pin = pin.slice(0, -1)">⌫</button>
      <button type="button" @click="press('0')">0</button>
      <button type="submit" class="enter">Sign in</button>
    </div>
    <button class="link-act" type="button" @click="emit('back')">Choose another name</button>
  </form>
</template>

<style scoped>
.pad {
  display: grid;
  gap: 8px;
  max-width: 380px;
}
.line {
  font-size: 1.6rem;
  letter-spacing: 0.4em;
  text-align: center;
}
.wrong {
  min-height: 1.4em;
}
.keys {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 8px;
}
.keys button {
  min-height: 68px;
  border: 2px solid var(--edge);
  border-radius: 8px;
  background: var(--sheet);
  font-size: 1.5rem;
  font-weight: 700;
  cursor: pointer;
}
.keys .enter {
  background: var(--act);
  border-color: var(--act);
  color: var(--act-ink);
  font-size: 1.1rem;
}
</style>
