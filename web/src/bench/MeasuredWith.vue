<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed, watch } from 'vue';
import { ask } from '@/api/client';
import type { BenchKind, Entry, JobView } from '@/api/types';
import PickOne from '@/shell/PickOne.vue';
import TypedField from '@/shell/TypedField.vue';

/** The bench with its tubes, the plan, and how tubes are read. */
export interface With {
  bench: string;
  plan: string;
  entry: Entry;
  graduation: string;
  capacity: string;
}
const told = defineModel<With>({ required: true });
/** Benches and plans have come, so what this job needs is chosen already. */
const ready = defineModel<boolean>('ready', { required: true });
const props = defineProps<{ kind: BenchKind; first: JobView; problems: Record<string, string> }>();
const instruments = useQuery({
  queryKey: ['instruments'],
  queryFn: () => ask('get', '/api/instruments'),
});
const benches = computed(() =>
  (instruments.data.value ?? []).filter(
    (one) => one.instrument.kind === 'bench' || one.instrument.kind === 'bottles',
  ),
);
watch(
  benches,
  (all) => (told.value.bench ||= all.find((one) => one.instrument.kind === 'bench')?.instrument.id ?? ''),
  { immediate: true },
);
const library = useQuery({
  queryKey: ['library', 'plans'],
  queryFn: () => ask('get', '/api/library', { params: { query: { kind: 'test_plan', per_page: 60 } } }),
});
const plans = computed(() => library.data.value?.lines ?? []);
/** The library knows which plan is that of this family. */
const own = useQuery({
  queryKey: computed(() => ['bench-plan', props.first.file.job.id]),
  queryFn: () =>
    ask('get', '/api/jobs/{job}/bench-plan', { params: { path: { job: props.first.file.job.id } } }),
});
watch(
  () => own.data.value?.plan,
  (plan) => (told.value.plan ||= plan ?? ''),
  { immediate: true },
);
watch(
  () => instruments.isFetched.value && library.isFetched.value && own.isFetched.value,
  (come) => (ready.value = come),
  { immediate: true },
);
</script>

<template>
  <label class="pick" for="bench">Bench and tubes</label>
  <select id="bench" v-model="told.bench">
    <option value="">not listed: entered below</option>
    <option v-for="one in benches" :key="one.instrument.id" :value="one.instrument.id">
      {{ one.instrument.name }}{{ one.overdue ? ', overdue' : '' }}
    </option>
  </select>
  <template v-if="!told.bench">
    <TypedField
      v-model="told.graduation"
      name="graduation"
      word="Distance between marks"
      unit="ml"
      :wrong="problems.graduation"
    />
    <TypedField
      v-model="told.capacity"
      name="capacity"
      word="Tube holds"
      unit="ml"
      :wrong="problems.capacity"
    />
  </template>
  <template v-if="kind !== 'doser'">
    <label class="pick" for="plan">Test plan</label>
    <select id="plan" v-model="told.plan">
      <option value="">{{ kind === 'petrol' ? 'standard regimes' : 'none' }}</option>
      <option v-for="one in plans" :key="one.id" :value="one.id">{{ one.title }}</option>
    </select>
  </template>
  <PickOne
    v-if="kind !== 'doser'"
    v-model="told.entry"
    word="Tubes read in"
    :options="
      kind === 'diesel'
        ? [
            { value: 'volume', word: 'ml' },
            { value: 'per_stroke', word: 'mm³ a stroke' },
          ]
        : [
            { value: 'volume', word: 'ml' },
            { value: 'percent', word: '% of the fullest' },
          ]
    "
  />
</template>

<style scoped>
select {
  min-height: 48px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  color: inherit;
  font: inherit;
  padding: 0 10px;
}
</style>
