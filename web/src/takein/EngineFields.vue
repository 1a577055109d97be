<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed, watch } from 'vue';
import { ask, type Refusal } from '@/api/client';
import type { FuelSystem, LayoutView } from '@/api/types';
import PickOne from '@/shell/PickOne.vue';
import { END, FUEL } from '@/words';
import EngineDrawing from './EngineDrawing.vue';
import type { Draft } from './useIntake';
import { useUnits } from '@/shell/useUnits';

/** The engine: what feeds it, its cylinders and banks, its injectors and their family. */
const draft = defineModel<Draft>({ required: true });
defineProps<{ wrong?: Refusal }>();
const families = useQuery({ queryKey: ['families'], queryFn: () => ask('get', '/api/families') });
const choices = computed(() =>
  (families.data.value ?? [])
    .filter((family) => family.fuel_system === draft.value.intake.fuel_system)
    .map((family) => ({
      value: family.id,
      label: `${family.name}: ${family.return_limit_ml_min ? `limit ${family.return_limit_ml_min} ${unit('ml/min')}` : 'no limit, comparison'}`,
    })),
);
const family = computed({
  get: () => draft.value.intake.family_id ?? undefined,
  set: (id: string | undefined) => (draft.value.intake.family_id = id ?? null),
});
const drawn = useQuery({
  queryKey: computed(() => ['layout', JSON.stringify(draft.value.intake.layout)]),
  queryFn: () => ask('post', '/api/layout', { body: draft.value.intake.layout }),
  placeholderData: (before: LayoutView | undefined) => before,
});
const counts = [1, 2, 3, 4, 5, 6, 8, 10, 12].map((n) => ({ value: n, word: String(n) }));
const fuels = Object.entries(FUEL).map(([value, word]) => ({ value: value as FuelSystem, word }));

watch(
  () => draft.value.intake.layout.cylinders,
  (cylinders) => {
    draft.value.labels.length = Math.min(draft.value.labels.length, cylinders);
    if (cylinders % 2 || cylinders < 2) draft.value.intake.layout.banks = 1;
  },
);
const { unit } = useUnits();
</script>

<template>
  <PickOne v-model="draft.intake.fuel_system" word="Fuel system" :options="fuels" />
  <PickOne v-model="draft.intake.layout.cylinders" word="Cylinders" :options="counts" />
  <div class="side-by-side">
    <PickOne
      v-model="draft.intake.layout.banks"
      word="Banks"
      :options="[
        { value: 1, word: 'one' },
        { value: 2, word: 'two' },
      ]"
    />
    <PickOne
      v-model="draft.intake.layout.first_at"
      word="Maker’s cylinder 1 at the"
      :options="[
        { value: 'pulley', word: END.pulley },
        { value: 'flywheel', word: END.flywheel },
      ]"
    />
    <PickOne
      v-if="draft.intake.layout.banks === 2"
      v-model="draft.intake.layout.numbering"
      word="Numbering of banks"
      :options="[
        { value: 'bank_by_bank', word: 'bank by bank' },
        { value: 'alternating', word: 'side to side' },
      ]"
    />
  </div>
  <EngineDrawing
    v-model:labels="draft.labels"
    :banks="drawn.data.value?.banks ?? []"
    :first-at="draft.intake.layout.first_at"
    :wrong="wrong?.about('labels') ?? ''"
  />
  <p v-if="drawn.data.value?.problem || wrong?.about('layout')" class="wrong" role="alert">
    {{ wrong?.about('layout') || drawn.data.value?.problem }}
  </p>
  <div class="family">
    <label for="family">Injector family</label>
    <select id="family" v-model="family">
      <option :value="undefined">Unknown: injectors compared to one another</option>
      <option v-for="one in choices" :key="one.value" :value="one.value">{{ one.label }}</option>
    </select>
  </div>
</template>

<style scoped>
.family {
  display: grid;
  gap: 4px;
}
select {
  min-height: 46px;
  font: inherit;
  color: inherit;
  background: var(--sheet);
  border: 2px solid var(--edge);
  border-radius: 6px;
  padding: 0 10px;
}
.side-by-side {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 28px;
}
:deep([role='radio']) {
  padding: 0 11px;
}
</style>
