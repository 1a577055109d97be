<script setup lang="ts">
import { computed, ref } from 'vue';
import { refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { BenchTest, Event } from '@/api/types';
import { newId } from '@/domain/identity';
import { minRunsRingsBoard } from '@/bench/words';

/** Timers of the bath and of soaking: kept with the job, so that they ring on the board. */
const props = defineProps<{ job: string; test: BenchTest }>();
type Often = { word: string; minutes: number };
const BATH: Often[] = [
  { word: 'soak', minutes: 20 },
  { word: 'ultrasonic bath', minutes: 15 },
  { word: 'drip dry', minutes: 10 },
];
const RUN: Often[] = [
  { word: 'run', minutes: 1 },
  { word: 'long run', minutes: 3 },
];
const WARM: Often[] = [
  { word: 'warm-up', minutes: 10 },
  { word: 'settle', minutes: 2 },
];
const OFTEN: Partial<Record<BenchTest, Often[]>> = {
  cleaning: BATH,
  flow: RUN,
  sweep: RUN,
  supply_offset: RUN,
  leak: RUN,
  doser: RUN,
  map: WARM,
};
const often = computed(() => OFTEN[props.test] ?? []);
const says = ref('');
async function set(word: string, minutes: number) {
  try {
    const seconds = minutes * 60;
    const event: Event = { what: 'timer_set', word: `bench: ${word}`, seconds, stage: 'bench' };
    await act('post', '/api/jobs/{job}/events', {
      params: { path: { job: props.job } },
      body: { id: newId(), event },
    });
    says.value = minRunsRingsBoard(word, minutes);
  } catch (error) {
    says.value = refusal(error).message;
  }
}
</script>

<template>
  <section v-if="often.length" aria-label="Timers">
    <div class="often">
      <button
        v-for="one in often"
        :key="one.word"
        class="side-act"
        type="button"
        @click="set(one.word, one.minutes)"
      >
        Time {{ one.word }} <strong>{{ one.minutes }} min</strong>
      </button>
    </div>
    <p v-if="says" class="small" role="status">{{ says }}</p>
  </section>
</template>

<style scoped>
.often {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.often button {
  padding: 4px 10px;
  font-size: 0.85rem;
}
</style>
