<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query';
import { computed, reactive, ref } from 'vue';
import { useRouter } from 'vue-router';
import { Refusal, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { FamilyKind, LibraryFamily } from '@/api/types';
import { newId } from '@/domain/identity';
import { withUnit } from '@/domain/units';
import PickOne from '@/shell/PickOne.vue';
import TypedField from '@/shell/TypedField.vue';
import { FAMILY_KIND } from '@/words';
import { tighteningSuch } from '@/library/words';
import { useUnits } from '@/shell/useUnits';

/** A family as typed. Empty fields are not specified, and that is a normal state. */
const props = defineProps<{ family?: LibraryFamily }>();
const emit = defineEmits<{ done: [] }>();
const cache = useQueryClient();
const router = useRouter();
const known = props.family?.detail;
const text = (value: number | null | undefined) => (value == null ? '' : String(value));
const form = reactive({
  id: props.family?.id ?? newId(),
  revision: props.family?.revision ?? 0,
  name: props.family?.name ?? '',
  kind: (known?.kind ?? 'diesel_solenoid') as FamilyKind,
  drive_voltage_v: text(known?.drive_voltage_v),
  peak_voltage_v: text(known?.peak_voltage_v),
  peak_current_a: text(known?.peak_current_a),
  code_length: text(known?.code?.length),
  code_alphabet: known?.code?.alphabet ?? '',
  code_check: known?.code?.check ?? '',
  torque: (known?.torque ?? [])
    .map((stage) => (stage.torque_nm != null ? withUnit(stage.torque_nm, 'N·m') : `${stage.angle_deg}°`))
    .join('; '),
  service_life_h: text(known?.service_life_h),
  cleaning_cycles: text(known?.cleaning_cycles),
  note: known?.note ?? '',
});
const cleaning = ref(known?.cleaning == null ? '' : known.cleaning ? 'yes' : 'no');
const wrong = ref<Refusal>();
const kinds = (Object.keys(FAMILY_KIND) as FamilyKind[]).map((value) => ({
  value,
  word: FAMILY_KIND[value],
}));
const fields = [
  { name: 'drive_voltage_v', word: 'Drive voltage', unit: 'V' },
  { name: 'peak_voltage_v', word: 'Maximum voltage', unit: 'V' },
  { name: 'peak_current_a', word: 'Maximum current', unit: 'A' },
  { name: 'service_life_h', word: 'Service life', unit: 'h' },
  { name: 'cleaning_cycles', word: 'Maximum cleanings', unit: '' },
  { name: 'code_length', word: 'Trim code length', unit: '' },
] as const;
const { unit } = useUnits();
const texts = computed(
  () =>
    [
      { name: 'code_alphabet', word: 'Trim code characters' },
      { name: 'torque', word: tighteningSuch(unit('N·m')) },
      { name: 'note', word: 'Notes' },
    ] as const,
);

async function keep() {
  const body = { ...form, cleaning: cleaning.value === '' ? null : cleaning.value === 'yes' };
  try {
    const kept = await act('put', '/api/library/families', { body });
    await cache.invalidateQueries({ queryKey: ['library'] });
    void cache.invalidateQueries({ queryKey: ['families'] });
    emit('done');
    void router.push(`/library/families/${kept.id}`);
  } catch (error) {
    wrong.value = refusal(error);
  }
}
</script>

<template>
  <form class="form" @submit.prevent="keep">
    <h1>{{ family ? `Edit ${family.name}` : 'Add a family' }}</h1>
    <TypedField v-model="form.name" name="name" word="Name" wide :wrong="wrong?.about('name')" />
    <PickOne v-model="form.kind" word="Kind" :options="kinds" />
    <TypedField
      v-for="field in fields"
      :key="field.name"
      v-model="form[field.name]"
      :name="field.name"
      :word="field.word"
      :unit="field.unit"
      :wrong="wrong?.about(field.name)"
    />
    <TypedField
      v-for="field in texts"
      :key="field.name"
      v-model="form[field.name]"
      wide
      :name="field.name"
      :word="field.word"
      :wrong="wrong?.about(field.name)"
    />
    <PickOne
      v-model="form.code_check"
      word="Check characters of its trim code"
      :options="[
        { value: '', word: 'none' },
        { value: 'iso7064_mod97_10', word: 'two digits (MOD 97-10)' },
        { value: 'iso7064_mod37_36', word: 'one character (MOD 37,36)' },
      ]"
    />
    <PickOne
      v-model="cleaning"
      word="Cleaning"
      :options="[
        { value: '', word: 'not specified' },
        { value: 'yes', word: 'allowed' },
        { value: 'no', word: 'not allowed' },
      ]"
    />
    <p v-if="wrong" class="wrong" role="alert">{{ wrong.about('code') || wrong.message }}</p>
    <p class="acts">
      <button class="main-act" type="submit">{{ family ? 'Save as new revision' : 'Add family' }}</button>
      <button v-if="family" class="link-act" type="button" @click="emit('done')">Back</button>
    </p>
  </form>
</template>

<style scoped>
.form {
  display: grid;
  gap: 11px;
  max-width: 620px;
}
.acts {
  display: flex;
  gap: 14px;
}
</style>
