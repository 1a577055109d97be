<script setup lang="ts">
import { ref } from 'vue';
import { refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { Event } from '@/api/types';
import { newId } from '@/domain/identity';

/** Timers of the bath and of soaking: kept with the job, so that they ring on the board. */
const props = defineProps<{ job: string }>();
const OFTEN = [
  { word: 'soak', minutes: 20 },
  { word: 'ultrasonic bath', minutes: 15 },
  { word: 'drip dry', minutes: 10 },
];
const says = ref('');
async function set(word: string, minutes: number) {
  try {
    const seconds = minutes * 60;
    const event: Event = { what: 'timer_set', word: `bench: ${word}`, seconds, stage: 'bench' };
    await act('post', '/api/jobs/{job}/events', {
      params: { path: { job: props.job } },
      body: { id: newId(), event },
    });
    says.value = `${word}, ${minutes} min: it runs, and rings on the board.`;
  } catch (error) {
    says.value = refusal(error).message;
  }
}
</script>

<template>
  <section aria-label="Timers">
    <div class="often">
      <button
        v-for="one in OFTEN"
        :key="one.word"
        class="side-act"
        type="button"
        @click="set(one.word, one.minutes)"
      >
        {{ one.word }} <strong>{{ one.minutes }}′</strong>
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
