<script setup lang="ts">
import { reactive, ref } from 'vue';
import { Refusal, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { Connection, DeviceKind } from '@/api/types';
import { newId } from '@/domain/identity';
import PickOne from '@/shell/PickOne.vue';
import TypedField from '@/shell/TypedField.vue';
import { DEVICE } from '@/words';

/** Where an instrument is reached, as typed; a change is a new revision. */
const props = defineProps<{ connection?: Connection }>();
const emit = defineEmits<{ done: [id?: string] }>();
const known = props.connection;
const form = reactive({
  id: known?.id ?? newId(),
  revision: known?.revision ?? 0,
  name: known?.name ?? '',
  kind: (known?.kind ?? 'bottles') as DeviceKind,
  address: known?.address ?? '',
});
const wrong = ref<Refusal>();
const kinds = (Object.keys(DEVICE) as DeviceKind[]).map((value) => ({ value, word: DEVICE[value] }));

async function keep(removed = false) {
  try {
    const body = { ...form, instrument: known?.instrument ?? null, removed };
    const kept = await act('put', '/api/connections', { body });
    emit('done', removed ? undefined : kept.id);
  } catch (error) {
    wrong.value = refusal(error);
  }
}
</script>

<template>
  <form class="form" @submit.prevent="keep()">
    <h2>{{ known ? `Edit ${known.name}` : 'Add a connection' }}</h2>
    <TypedField v-model="form.name" name="name" word="Name" wide :wrong="wrong?.about('name')" />
    <TypedField
      v-model="form.address"
      name="address"
      word="Address and port"
      wide
      :wrong="wrong?.about('address')"
    />
    <PickOne v-model="form.kind" word="Kind" :options="kinds" />
    <p v-if="wrong && !wrong.fields.length" class="wrong" role="alert">{{ wrong.message }}</p>
    <p class="acts">
      <button class="main-act" type="submit">{{ known ? 'Save changes' : 'Add connection' }}</button>
      <button v-if="known" class="side-act" type="button" @click="keep(true)">Remove connection</button>
      <button class="link-act" type="button" @click="emit('done')">Back</button>
    </p>
  </form>
</template>

<style scoped>
.form {
  display: grid;
  gap: 12px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 14px;
}
</style>
