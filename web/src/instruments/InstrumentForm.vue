<script setup lang="ts">
import { computed, reactive, ref } from 'vue';
import { Refusal, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { Instrument, InstrumentKind } from '@/api/types';
import { newId } from '@/domain/identity';
import { withUnit } from '@/domain/units';
import PickOne from '@/shell/PickOne.vue';
import TypedField from '@/shell/TypedField.vue';
import { INSTRUMENT } from '@/words';

/** An instrument as typed; a change is a new revision. */
const props = defineProps<{ instrument?: Instrument }>();
const emit = defineEmits<{ done: [id?: string] }>();
const known = props.instrument;
const text = (value: number | null | undefined) => (value ? String(value) : '');
const form = reactive({
  id: known?.id ?? newId(),
  revision: known?.revision ?? 0,
  name: known?.name ?? '',
  kind: (known?.kind ?? 'bottles') as InstrumentKind,
  resolution: known?.kind === 'gauge' ? withUnit(known.resolution, 'kPa') : text(known?.resolution),
  accuracy_pct: text(known?.accuracy_pct),
  accuracy_digits: text(known?.accuracy_digits),
  lead: text(known?.lead_ohm),
  capacity: text(known?.capacity_ml),
  calibration_due: known?.calibration_due ?? '',
  certificate: known?.certificate ?? '',
});
const wrong = ref<Refusal>();
const kinds = (Object.keys(INSTRUMENT) as InstrumentKind[]).map((value) => ({
  value,
  word: INSTRUMENT[value],
}));
const volume = computed(() => form.kind === 'bottles' || form.kind === 'bench');
const unit = computed(
  () => ({ bottles: 'ml', bench: 'ml', meter: 'Ω', gauge: 'kPa', timer: 's' })[form.kind],
);

async function keep() {
  try {
    const kept = await act('put', '/api/instruments', { body: form });
    emit('done', kept.instrument.id);
  } catch (error) {
    wrong.value = refusal(error);
  }
}
</script>

<template>
  <form class="form" @submit.prevent="keep">
    <h2>{{ known ? `Edit ${known.name}` : 'Add an instrument' }}</h2>
    <TypedField v-model="form.name" name="name" word="Name" wide :wrong="wrong?.about('name')" />
    <PickOne v-model="form.kind" word="Kind" :options="kinds" />
    <TypedField
      v-model="form.resolution"
      name="resolution"
      :word="volume ? 'Marks every' : 'Last digit'"
      :unit="unit"
      :wrong="wrong?.about('resolution')"
    />
    <TypedField
      v-if="volume"
      v-model="form.capacity"
      name="capacity"
      word="Holds"
      unit="ml"
      :wrong="wrong?.about('capacity')"
    />
    <TypedField
      v-model="form.accuracy_pct"
      name="accuracy_pct"
      word="Accuracy, of reading"
      unit="%"
      :wrong="wrong?.about('accuracy_pct')"
    />
    <TypedField
      v-model="form.accuracy_digits"
      name="accuracy_digits"
      word="and"
      :unit="volume ? 'marks' : 'digits'"
      :wrong="wrong?.about('accuracy_digits')"
    />
    <TypedField
      v-if="form.kind === 'meter'"
      v-model="form.lead"
      name="lead"
      word="Lead resistance"
      unit="Ω"
      :wrong="wrong?.about('lead')"
    />
    <TypedField
      v-model="form.calibration_due"
      name="calibration_due"
      word="Calibration due, such as 30 Jun 2031"
      wide
      :wrong="wrong?.about('calibration_due')"
    />
    <TypedField
      v-model="form.certificate"
      name="certificate"
      word="Certificate"
      wide
      :wrong="wrong?.about('certificate')"
    />
    <p v-if="wrong && !wrong.fields.length" class="wrong" role="alert">{{ wrong.message }}</p>
    <p class="acts">
      <button class="main-act" type="submit">{{ known ? 'Save changes' : 'Add instrument' }}</button>
      <button class="link-act" type="button" @click="emit('done')">Back</button>
    </p>
  </form>
</template>

<style scoped>
.form {
  display: grid;
  gap: 10px;
}
.acts {
  display: flex;
  gap: 14px;
}
</style>
