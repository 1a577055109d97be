<script setup lang="ts">
import { ref } from 'vue';
import { ask, refusal } from '@/api/client';
import { usePeople } from './usePeople';

/** The person who is working now chooses a PIN; one that is set already has to be known. */
const emit = defineEmits<{ done: [] }>();
const people = usePeople();
const [pin, old] = [ref(''), ref('')];
const wrong = ref({ pin: '', old: '' });

async function choose() {
  const person = people.me.value?.id;
  if (!person) return;
  try {
    // Not by the outbox: a PIN waits in no store of this browser.
    const body = { pin: pin.value, old: old.value };
    people.took(await ask('put', '/api/people/{person}/pin', { params: { path: { person } }, body }));
    [pin.value, old.value, wrong.value] = ['', '', { pin: '', old: '' }];
    emit('done');
  } catch (error) {
    const problem = refusal(error);
    const [aboutOld, aboutPin] = [problem.about('old'), problem.about('pin')];
    wrong.value = { old: aboutOld, pin: aboutPin || (aboutOld ? '' : problem.message) };
  }
}
</script>

<template>
  <form class="pin" @submit.prevent="choose">
    <template v-if="people.me.value?.has_pin">
      <label for="pin-old">PIN that is set now</label>
      <input id="pin-old" v-model="old" type="password" inputmode="numeric" autocomplete="off" />
      <p v-if="wrong.old" class="wrong" role="alert">{{ wrong.old }}</p>
    </template>
    <label for="pin-new">New PIN, 4 to 8 digits</label>
    <input id="pin-new" v-model="pin" type="password" inputmode="numeric" autocomplete="off" />
    <p v-if="wrong.pin" class="wrong" role="alert">{{ wrong.pin }}</p>
    <button class="side-act" type="submit">Save PIN</button>
  </form>
</template>

<style scoped>
.pin {
  display: grid;
  gap: 6px;
  justify-items: start;
}
input {
  min-height: 48px;
  width: 10em;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 10px;
  letter-spacing: 0.2em;
}
</style>
