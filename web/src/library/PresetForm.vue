<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query';
import { reactive, ref } from 'vue';
import { Refusal, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { ItemView } from '@/api/types';
import TypedField from '@/shell/TypedField.vue';

/** A preset is made at its check; here its name and note are changed. */
const props = defineProps<{ view: ItemView }>();
const emit = defineEmits<{ done: [] }>();
const cache = useQueryClient();
const { id, name, revision, detail } = props.view.item;
const held = detail.kind === 'preset' ? detail : { check: '', cells: [], note: '' };
const form = reactive({ id, revision, name, check: held.check, cells: held.cells, note: held.note });
const wrong = ref<Refusal>();
async function keep() {
  try {
    await act('put', '/api/library/presets', { body: form });
    await Promise.all(['library', 'presets'].map((key) => cache.invalidateQueries({ queryKey: [key] })));
    emit('done');
  } catch (error) {
    wrong.value = refusal(error);
  }
}
</script>

<template>
  <form @submit.prevent="keep">
    <h1>Edit {{ name }}</h1>
    <TypedField v-model="form.name" name="preset-name" word="Name" wide :wrong="wrong?.about('name')" />
    <TypedField v-model="form.note" name="preset-note" word="Notes" wide :wrong="wrong?.about('note')" />
    <p v-if="wrong && !wrong.fields.length" class="wrong" role="alert">{{ wrong.message }}</p>
    <p>
      <button class="main-act" type="submit">Save preset</button>
      <button class="link-act" type="button" @click="emit('done')">Back</button>
    </p>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 10px;
  max-width: 620px;
}
</style>
