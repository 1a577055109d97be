<script setup lang="ts">
import { computed, ref } from 'vue';
import { ask, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { Role } from '@/api/types';
import { newId } from '@/domain/identity';
import { useBench } from '@/shell/useBench';
import { usePeople } from '@/shell/usePeople';
import LinkShown from './LinkShown.vue';
import RoleChoice from './RoleChoice.vue';

/** The owner lets somebody in: a name, a role, and a link that is handed over. */
const bench = useBench();
const people = usePeople();
const name = ref('');
const role = ref<Role>('technician');
const made = ref<{ name: string; token: string }>();
const wrong = ref('');
const owns = computed(() => bench.sign.value?.person?.role === 'owner');

async function add() {
  try {
    const person = await act('post', '/api/people', { body: { id: newId(), name: name.value } });
    const params = { path: { person: person.id } };
    people.took(
      await act('put', '/api/people/{person}/account', { params, body: { role: role.value, closed: false } }),
    );
    const { token } = await ask('post', '/api/people/{person}/link', { params });
    made.value = { name: person.name, token };
    [name.value, wrong.value] = ['', ''];
  } catch (error) {
    wrong.value = refusal(error).about('name') || refusal(error).message;
  }
}
</script>

<template>
  <form v-if="owns" @submit.prevent="add">
    <label for="new-person">Add a person</label>
    <span class="row">
      <input id="new-person" v-model="name" class="line" autocomplete="off" :aria-invalid="!!wrong" />
      <RoleChoice id="new-role" v-model="role" label="Role" />
      <button class="side-act" type="submit">Add person</button>
    </span>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <LinkShown v-if="made" :name="made.name" :token="made.token" />
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 8px;
  width: 100%;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.row .line:first-child {
  flex: 1 1 12em;
  width: auto;
}
</style>
