<script setup lang="ts">
import { ref } from 'vue';
import { refusal } from '@/api/client';
import { act } from '@/api/outbox';
import { newId } from '@/domain/identity';
import PlainDialog from './PlainDialog.vue';
import { useBench } from './useBench';
import { usePeople } from './usePeople';

const bench = useBench();
const people = usePeople();
const name = ref('');
const wrong = ref('');

async function add() {
  try {
    const person = await act('post', '/api/people', { body: { id: newId(), name: name.value } });
    await people.again();
    bench.sit(person);
  } catch (error) {
    wrong.value = refusal(error).about('name') || refusal(error).message;
  }
}
</script>

<template>
  <PlainDialog title="Who is working now?" @close="bench.choosing.value = false">
    <p class="muted">Every entry is signed with this name.</p>
    <div class="people">
      <button
        v-for="person in people.active.value"
        :key="person.id"
        class="side-act"
        type="button"
        @click="bench.sit(person)"
      >
        {{ person.name }}
      </button>
    </div>
    <form class="add" @submit.prevent="add">
      <label for="new-person">Add another name</label>
      <input id="new-person" v-model="name" autocomplete="off" :aria-invalid="!!wrong" />
      <button class="side-act" type="submit">Add name</button>
    </form>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
  </PlainDialog>
</template>

<style scoped>
.people {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 10px;
}
.add {
  display: flex;
  gap: 10px;
  align-items: center;
  flex-wrap: wrap;
}
input {
  min-height: 48px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 10px;
  flex: 1;
}
</style>
