<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query';
import { reactive, ref } from 'vue';
import { useRouter } from 'vue-router';
import { Refusal, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { EngineEnd, FuelSystem, ItemView, Layout } from '@/api/types';
import { newId } from '@/domain/identity';
import PickOne from '@/shell/PickOne.vue';
import TypedField from '@/shell/TypedField.vue';
import { END, FUEL } from '@/words';

/** An engine that comes back: drawn once, chosen at every booking. */
const props = defineProps<{ view?: ItemView }>();
const emit = defineEmits<{ done: [] }>();
const cache = useQueryClient();
const router = useRouter();
const item = props.view?.item;
const engine = item?.detail.kind === 'engine' ? item.detail : undefined;
const form = reactive({
  name: item?.name ?? '',
  fuel_system: (engine?.fuel_system ?? 'diesel_solenoid') as FuelSystem,
  layout: {
    cylinders: 4,
    banks: 1,
    first_at: 'pulley',
    numbering: 'bank_by_bank',
    ...engine?.layout,
  } as Layout,
  note: engine?.note ?? '',
});
const wrong = ref<Refusal>();
const options = <T extends string>(words: Record<T, string>) =>
  (Object.entries(words) as [T, string][]).map(([value, word]) => ({ value, word }));
async function keep() {
  const { name, ...detail } = form;
  const id = item?.id ?? newId();
  const body = { id, name, revision: item?.revision ?? 0, detail: { kind: 'engine' as const, ...detail } };
  try {
    const kept = await act('put', '/api/library/items', { body });
    await cache.invalidateQueries({ queryKey: ['library'] });
    emit('done');
    void router.push(`/library/items/${kept.id}`);
  } catch (error) {
    wrong.value = refusal(error);
  }
}
</script>

<template>
  <form class="engine" @submit.prevent="keep">
    <h1>{{ item ? `Edit ${item.name}` : 'Add an engine' }}</h1>
    <TypedField v-model="form.name" name="engine-name" word="Name" wide :wrong="wrong?.about('name')" />
    <PickOne v-model="form.fuel_system" word="Fuel system" :options="options(FUEL)" />
    <PickOne
      v-model="form.layout.cylinders"
      word="Cylinders"
      :options="[1, 2, 3, 4, 5, 6, 8, 10, 12].map((n) => ({ value: n, word: String(n) }))"
    />
    <PickOne
      v-model="form.layout.banks"
      word="Banks"
      :options="[
        { value: 1, word: 'one' },
        { value: 2, word: 'two' },
      ]"
    />
    <PickOne v-model="form.layout.first_at" word="Cylinder 1 at the" :options="options<EngineEnd>(END)" />
    <PickOne
      v-if="form.layout.banks === 2"
      v-model="form.layout.numbering"
      word="Numbering of banks"
      :options="[
        { value: 'bank_by_bank', word: 'bank by bank' },
        { value: 'alternating', word: 'side to side' },
      ]"
    />
    <TypedField v-model="form.note" name="engine-note" word="Notes" wide />
    <p v-if="wrong" class="wrong" role="alert">{{ wrong.about('layout') || wrong.message }}</p>
    <p>
      <button class="main-act" type="submit">Save engine</button>
      <button v-if="item" class="link-act" type="button" @click="emit('done')">Back</button>
    </p>
  </form>
</template>

<style scoped>
.engine {
  display: grid;
  gap: 10px;
  max-width: 640px;
}
</style>
