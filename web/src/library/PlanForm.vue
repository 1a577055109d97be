<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query';
import { reactive, ref } from 'vue';
import { useRouter } from 'vue-router';
import { Refusal, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { ItemView } from '@/api/types';
import { newId } from '@/domain/identity';
import { withUnit } from '@/domain/units';
import TypedField from '@/shell/TypedField.vue';
import { useUnits } from '@/shell/useUnits';

/** A bench test plan as typed: points in running order, named and ordered as this workshop likes it. */
const props = defineProps<{ view?: ItemView }>();
const emit = defineEmits<{ done: [] }>();
const cache = useQueryClient();
const router = useRouter();
const { unit } = useUnits();
const item = props.view?.item;
const plan = item?.detail.kind === 'test_plan' ? item.detail : undefined;
const blank = () => ({ name: '', rail: '', energising: '', strokes: '', seconds: '', temperature: '' });
const form = reactive({
  id: item?.id ?? newId(),
  revision: item?.revision ?? 0,
  name: item?.name ?? '',
  family: plan?.family ?? '',
  points: plan?.points.map((one) => ({
    name: one.name,
    rail: withUnit(one.rail_kpa, 'kPa'),
    energising: one.energising_ms ? String(one.energising_ms) : '',
    strokes: one.strokes ? String(one.strokes) : '',
    seconds: one.seconds == null ? '' : String(one.seconds),
    temperature: withUnit(one.temperature_c, '°C'),
  })) ?? [blank()],
  note: plan?.note ?? '',
});
const wrong = ref<Refusal>();
const FIELDS = [
  { name: 'rail', word: 'Pressure', unit: 'kPa' },
  { name: 'energising', word: 'Pulse', unit: 'ms' },
  { name: 'strokes', word: 'Strokes', unit: '' },
  { name: 'seconds', word: 'or time', unit: 's' },
  { name: 'temperature', word: 'Fluid', unit: '°C' },
] as const;
function move(at: number, by: number) {
  const [one] = form.points.splice(at, 1);
  if (one) form.points.splice(at + by, 0, one);
}
async function keep() {
  try {
    const kept = await act('put', '/api/library/plans', { body: form });
    await cache.invalidateQueries({ queryKey: ['library'] });
    emit('done');
    void router.push(`/library/items/${kept.id}`);
  } catch (error) {
    wrong.value = refusal(error);
  }
}
</script>

<template>
  <form class="plan" @submit.prevent="keep">
    <h1>{{ item ? `Edit ${item.name}` : 'Add a test plan' }}</h1>
    <TypedField v-model="form.name" name="plan-name" word="Name" wide :wrong="wrong?.about('name')" />
    <TypedField v-model="form.family" name="plan-family" word="Injector family" wide />
    <table>
      <thead>
        <tr>
          <th scope="col">Point</th>
          <th v-for="field in FIELDS" :key="field.name" scope="col">
            {{ field.word }} <span class="unit">{{ unit(field.unit) }}</span>
          </th>
          <th scope="col"><span class="unseen">Order</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(point, i) in form.points" :key="i">
          <td><input v-model="point.name" :aria-label="`Name of point ${i + 1}`" /></td>
          <td v-for="field in FIELDS" :key="field.name">
            <input
              v-model="point[field.name]"
              inputmode="decimal"
              :aria-label="`${field.word} of point ${i + 1}`"
              :aria-invalid="!!wrong?.about(`${field.name} ${i + 1}`)"
            />
            <span v-if="wrong?.about(`${field.name} ${i + 1}`)" class="wrong small" role="alert">{{
              wrong.about(`${field.name} ${i + 1}`)
            }}</span>
          </td>
          <td class="order">
            <button
              type="button"
              :disabled="i === 0"
              :aria-label="`Move point ${i + 1} up`"
              @click="move(i, -1)"
            >
              ↑
            </button>
            <button
              type="button"
              :disabled="form.points.length === 1"
              :aria-label="`Remove point ${i + 1}`"
              @click="form.points.splice(i, 1)"
            >
              ×
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p>
      <button class="side-act" type="button" @click="form.points.push(blank())">Add a point</button>
    </p>
    <TypedField v-model="form.note" name="plan-note" word="Notes" wide />
    <p class="muted small">
      No pulse: standing still, or held open over the time. Strokes are counted, or a time instead.
    </p>
    <p v-if="wrong?.about('points')" class="wrong" role="alert">{{ wrong.about('points') }}</p>
    <p v-if="wrong && !wrong.fields.length" class="wrong" role="alert">{{ wrong.message }}</p>
    <p>
      <button class="main-act" type="submit">Save test plan</button>
      <button v-if="item" class="link-act" type="button" @click="emit('done')">Back</button>
    </p>
  </form>
</template>

<style scoped>
.plan {
  display: grid;
  gap: 10px;
  max-width: 860px;
}
table {
  border-collapse: collapse;
}
th {
  text-align: left;
  padding: 4px 6px;
}
td {
  padding: 3px;
  vertical-align: top;
}
td:first-child {
  width: 28%;
}
input:not([id]) {
  width: 100%;
  min-width: 0;
  min-height: 46px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 8px;
}
.order {
  display: flex;
  gap: 4px;
}
.order button {
  min-width: 44px;
  min-height: 46px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: none;
  color: inherit;
  cursor: pointer;
}
.unseen {
  position: absolute;
  clip-path: inset(50%);
}
</style>
