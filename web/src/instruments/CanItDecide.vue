<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query';
import { computed, reactive } from 'vue';
import { ask, type Refusal } from '@/api/client';
import type { CanDecide, InstrumentView } from '@/api/types';
import { useDelayed } from '@/domain/useDelayed';
import TypedField from '@/shell/TypedField.vue';
import DecidesBar from './DecidesBar.vue';

/** Before anything is measured: can this instrument carry this limit, and what would? */
const props = defineProps<{ view: InstrumentView }>();
const volume = computed(() => ['bottles', 'bench'].includes(props.view.instrument.kind));
const START: Record<string, [string, string]> = {
  meter: ['0R36', '0R44'],
  bottles: ['', '24'],
  bench: ['228', '252'],
  gauge: ['6000', '7000'],
  timer: ['115', '125'],
};
const form = reactive({
  lower: START[props.view.instrument.kind]![0],
  upper: START[props.view.instrument.kind]![1],
  planned: '2:00',
});
const unit = computed(() => (volume.value ? 'ml/min' : props.view.unit));
const asked = useDelayed(() => ({
  instrument: props.view.instrument.id,
  timer: null,
  lower: form.lower,
  upper: form.upper,
  planned: volume.value ? form.planned : '',
  revision: props.view.instrument.revision,
}));
const query = useQuery<CanDecide, Refusal>({
  queryKey: computed(() => ['can-decide', asked.value]),
  queryFn: () => {
    const { instrument, timer, lower, upper, planned } = asked.value;
    return ask('post', '/api/instruments/can-decide', { body: { instrument, timer, lower, upper, planned } });
  },
  placeholderData: keepPreviousData,
  retry: false,
});
const wrong = computed(() => query.error.value);
const can = computed(() => (wrong.value ? undefined : query.data.value));
const WORD = { well: 'Yes', narrow: 'Only in part', not: 'No' };
</script>

<template>
  <section class="can">
    <h2>Can {{ view.instrument.name }} decide it?</h2>
    <div class="fields">
      <TypedField
        v-model="form.lower"
        name="lower"
        word="Minimum"
        :unit="unit"
        :wrong="wrong?.about('lower')"
      />
      <TypedField
        v-model="form.upper"
        name="upper"
        word="Maximum"
        :unit="unit"
        :wrong="wrong?.about('upper')"
      />
      <TypedField
        v-if="volume"
        v-model="form.planned"
        name="planned"
        word="Length of run"
        unit="min:s"
        :wrong="wrong?.about('planned')"
      />
    </div>
    <div v-if="can" aria-live="polite">
      <p class="verdict" :class="can.carries">{{ WORD[can.carries] }}</p>
      <DecidesBar :can="can" :lower="can.lower ?? null" :upper="can.upper ?? null" />
      <p>{{ can.sentence }}</p>
      <p v-for="way in can.would" :key="way" class="way">{{ way }}</p>
      <p v-if="can.capability != null" class="muted small">
        Capability {{ can.capability.toFixed(2) }}: the limits over four standard uncertainties. Below 0.98 no
        reading can be called within.
      </p>
    </div>
    <p v-else-if="wrong && !wrong.fields.length" class="wrong" role="alert">{{ wrong.message }}</p>
  </section>
</template>

<style scoped>
.can {
  display: grid;
  gap: 12px;
}
.can > div[aria-live] {
  display: grid;
  gap: 10px;
}
.fields {
  display: grid;
  gap: 8px;
}
.verdict {
  font-size: 2.4rem;
  font-weight: 700;
  line-height: 1.1;
  color: var(--inside);
}
.verdict.narrow {
  color: var(--undecided);
}
.verdict.not {
  color: var(--too-much);
}
.way {
  border-left: 4px solid var(--act);
  padding-left: 12px;
  font-weight: 700;
}
</style>
