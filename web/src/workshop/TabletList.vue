<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { ask, refusal, whoIsIn } from '@/api/client';
import { act } from '@/api/outbox';
import { moment } from '@/domain/time';
import { useBench } from '@/shell/useBench';
import { tabletsLead } from './words';

/** Shared screens of the bench, on which a PIN is enough. */
const bench = useBench();
const cache = useQueryClient();
const tablets = useQuery({ queryKey: ['tablets'], queryFn: () => ask('get', '/api/tablets') });
const owns = computed(() => bench.sign.value?.person?.role === 'owner');
const here = computed(() => bench.sign.value?.tablet);
const [name, wrong] = [ref(''), ref('')];

async function enrol() {
  try {
    cache.setQueryData(['tablets'], await ask('post', '/api/tablets', { body: { name: name.value } }));
    [name.value, wrong.value] = ['', ''];
    await whoIsIn();
  } catch (error) {
    wrong.value = refusal(error).about('name') || refusal(error).message;
  }
}
async function end(tablet: string) {
  try {
    const params = { path: { tablet } };
    cache.setQueryData(['tablets'], await act('post', '/api/tablets/{tablet}/end', { params }));
    await whoIsIn();
  } catch (error) {
    wrong.value = refusal(error).message;
  }
}
</script>

<template>
  <section>
    <h1>Bench tablets</h1>
    <p class="muted">{{ tabletsLead }}</p>
    <ul v-if="tablets.data.value?.length">
      <li v-for="one in tablets.data.value" :key="one.id">
        <span
          ><strong>{{ one.name }}</strong> <span class="muted small">{{ moment(one.signed.at) }}</span></span
        >
        <button v-if="owns" class="side-act" type="button" @click="end(one.id)">Remove {{ one.name }}</button>
      </li>
    </ul>
    <p v-if="here">This screen is {{ here }}.</p>
    <form v-else-if="owns" @submit.prevent="enrol">
      <label for="tablet-name">Name of this screen</label>
      <input id="tablet-name" v-model="name" class="line" autocomplete="off" :aria-invalid="!!wrong" />
      <button class="side-act" type="submit">Add this screen</button>
    </form>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
  </section>
</template>

<style scoped>
section,
form {
  display: grid;
  gap: 8px;
  align-content: start;
  justify-items: start;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 6px;
  width: 100%;
}
li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
}
</style>
