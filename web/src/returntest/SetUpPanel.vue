<script setup lang="ts">
import { onMounted, reactive, ref } from 'vue';
import { Refusal, refusal } from '@/api/client';
import type { Regime } from '@/api/types';
import { newId } from '@/domain/identity';
import { useJob } from '@/job/useJob';
import { REGIME } from '@/words';

/** Bottles and conditions. They belong to the test: other conditions are another test. */
const emit = defineEmits<{ done: [] }>();
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
});
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
    await job.change('POST', `/jobs/${job.id.value}/return-tests`, { ...form });
    emit('done');
  } catch (error) {
    wrong.value = refusal(error);
  }
}
</script>

<template>
  <form class="setup" @submit.prevent="setUp">
    <h2>Set up the return test</h2>
    <div v-for="field in fields" :key="field.name" class="field">
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
    <fieldset>
      <legend>Engine</legend>
      <label v-for="(word, regime) in REGIME" :key="regime" class="choice">
        <input v-model="form.regime" type="radio" :value="regime" /> {{ word }}
      </label>
    </fieldset>
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
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
}
legend {
  font-weight: 700;
  padding: 0;
}
.choice {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 44px;
}
.choice input {
  width: 22px;
  height: 22px;
  accent-color: var(--act);
}
</style>
