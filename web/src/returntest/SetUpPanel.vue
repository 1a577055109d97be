<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed, onMounted, reactive, ref, watch } from 'vue';
import { ask, Refusal, refusal } from '@/api/client';
import type { InstrumentView, Regime, SetUpPreview } from '@/api/types';
import { newId } from '@/domain/identity';
import { useJob } from '@/job/useJob';
import { REGIME } from '@/words';
import { usePreview } from './usePreview';

/** Bottles and conditions. They belong to the test: other conditions are another test. */
const emit = defineEmits<{ done: []; preview: [SetUpPreview | undefined] }>();
const byHouse = defineModel<boolean>('byHouse', { required: true });
const job = useJob();
const last = job.test.value?.setup;
const text = (value: number | null | undefined, otherwise = '') =>
  value == null ? otherwise : String(value);
const form = reactive({
  id: newId(),
  regime: (last?.regime ?? 'idle_only') as Regime,
  capacity: text(last?.capacity_ml, '100'),
  graduation: text(last?.graduation_ml, '2'),
  planned: text(last?.planned_s, '2:00'),
  temperature: '',
  speed: text(last?.speed_rpm),
  bottles: '',
  timer: '',
  mark: text(last?.mark_ml),
  level_line: '',
  pump_spare: text(last?.pump_spare_ml_min),
});
const MORE = [
  { name: 'mark', word: 'Time bottles to', unit: 'ml' },
  { name: 'level_line', word: 'Level line', unit: 'ml' },
] as const;
const SPARE = { name: 'pump_spare', word: 'Pump can spare', unit: 'ml/min' } as const;
const more = ref(!!form.mark);
const extra = computed(() => [...(form.regime === 'cranking' ? [SPARE] : []), ...(more.value ? MORE : [])]);
const instruments = useQuery({
  queryKey: ['instruments'],
  queryFn: () => ask<InstrumentView[]>('GET', '/instruments'),
});
const of = (...kinds: string[]) =>
  computed(() => (instruments.data.value ?? []).filter((one) => kinds.includes(one.instrument.kind)));
const bottles = of('bottles', 'bench');
const timers = of('timer');
// The bottles of the last test are likely those of the next one.
watch(
  bottles,
  (all) => {
    const used = (last?.instruments ?? []).map((one) => one.id);
    form.bottles ||= all.find((one) => used.includes(one.instrument.id))?.instrument.id ?? '';
  },
  { immediate: true },
);
// The marks of chosen bottles are theirs.
watch(
  () => form.bottles,
  (id) => {
    const chosen = bottles.value.find((one) => one.instrument.id === id)?.instrument;
    if (!chosen) return;
    form.graduation = String(chosen.resolution);
    form.capacity = String(chosen.capacity_ml ?? form.capacity);
  },
);
const body = () => ({
  ...form,
  bottles: form.bottles || null,
  timer: form.timer || null,
  by_house_reference: byHouse.value,
});
const preview = usePreview(job.id, body);
watch(preview, (now) => emit('preview', now), { immediate: true });
const fields = [
  { name: 'capacity', word: 'A bottle holds', unit: 'ml' },
  { name: 'graduation', word: 'A mark every', unit: 'ml' },
  { name: 'planned', word: 'A run takes', unit: 'min:s' },
  { name: 'temperature', word: 'Engine is at', unit: '°C' },
  { name: 'speed', word: 'Engine speed', unit: 'rpm' },
] as const;
const wrong = ref<Refusal>();
onMounted(() => document.getElementById('capacity')?.focus());

async function setUp() {
  try {
    await job.change('POST', `/jobs/${job.id.value}/return-tests`, body());
    emit('done');
  } catch (error) {
    wrong.value = refusal(error);
  }
}
</script>

<template>
  <form class="setup" @submit.prevent="setUp">
    <h2>Set up the return test</h2>
    <fieldset>
      <legend class="hidden">Engine</legend>
      <label v-for="(word, regime) in REGIME" :key="regime" class="choice">
        <input v-model="form.regime" type="radio" :value="regime" /> {{ word }}
      </label>
    </fieldset>
    <label v-if="bottles.length" class="pick">
      Bottles
      <select id="bottles" v-model="form.bottles">
        <option value="">not listed</option>
        <option v-for="one in bottles" :key="one.instrument.id" :value="one.instrument.id">
          {{ one.instrument.name }}{{ one.overdue ? ', overdue' : '' }}
        </option>
      </select>
    </label>
    <label v-if="timers.length" class="pick">
      Timer
      <select id="timer" v-model="form.timer">
        <option value="">by hand</option>
        <option v-for="one in timers" :key="one.instrument.id" :value="one.instrument.id">
          {{ one.instrument.name }}{{ one.overdue ? ', overdue' : '' }}
        </option>
      </select>
    </label>
    <div v-for="field in [...fields, ...extra]" :key="field.name" class="field">
      <label :for="field.name">{{ field.word }}</label>
      <input
        :id="field.name"
        v-model="form[field.name]"
        inputmode="decimal"
        autocomplete="off"
        :aria-invalid="!!wrong?.about(field.name)"
        :aria-describedby="`${field.name}-wrong`"
      />
      <span class="muted small">{{ field.unit }}</span>
      <span v-if="wrong?.about(field.name)" :id="`${field.name}-wrong`" class="wrong small" role="alert">{{
        wrong.about(field.name)
      }}</span>
    </div>
    <button v-if="!more" class="link-act" type="button" @click="more = true">
      Time bottles to a mark, or a level line
    </button>
    <p v-if="wrong && !wrong.fields.length" class="wrong" role="alert">{{ wrong.message }}</p>
    <button class="main-act" type="submit">Ready to run</button>
    <button v-if="job.test.value" class="link-act" type="button" @click="emit('done')">Back</button>
  </form>
</template>

<style scoped>
.setup {
  display: grid;
  gap: 10px;
}
.field {
  display: grid;
  grid-template-columns: 1fr 78px 40px;
  gap: 0 8px;
  align-items: center;
}
.field .wrong {
  grid-column: 1 / -1;
}
.field input {
  min-height: 44px;
  width: 100%;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 8px;
  font-size: 1.1rem;
  font-weight: 700;
}
input[aria-invalid='true'] {
  border-color: var(--too-much);
}
.pick {
  display: grid;
  grid-template-columns: 76px minmax(0, 1fr);
  align-items: center;
}
select {
  min-height: 44px;
  min-width: 0;
  font: inherit;
  color: inherit;
  background: var(--sheet);
  border: 2px solid var(--edge);
  border-radius: 6px;
  padding: 0 6px;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
}
legend {
  font-weight: 700;
  padding: 0;
}
.hidden {
  position: absolute;
  clip-path: inset(50%);
}
.choice {
  display: inline-flex;
  gap: 8px;
  align-items: center;
  min-height: 44px;
  padding-right: 10px;
}
.choice input {
  width: 22px;
  height: 22px;
  accent-color: var(--act);
}
</style>
