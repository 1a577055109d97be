<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';
import { ahead } from '@/api/clock';
import { refusal } from '@/api/client';
import type { Stage } from '@/api/types';
import { clock } from '@/domain/time';
import { useNow } from '@/domain/useNow';
import { useAlarm } from '@/returntest/useAlarm';
import PlainDialog from '@/shell/PlainDialog.vue';
import { STAGES } from '@/words';
import { useJob } from './useJob';
import { standCheckForAir } from '@/job/words';

/** Timers of a job: kept by the program, so they survive a reload and ring on the board too. */
const job = useJob();
const now = useNow();
const route = useRoute();
const timers = computed(() =>
  (job.view.value?.timers ?? []).map((one) => {
    const left = (Date.parse(one.ends_at) - now.value - ahead.value) / 1000;
    return { ...one, left, over: left <= 0 };
  }),
);
const over = computed(() => timers.value.filter((one) => one.over).length);
useAlarm(over);

const setting = ref(false);
const wrong = ref('');
const OFTEN = [
  { word: 'warm up', minutes: 10 },
  { word: 'settle', minutes: 2 },
  { word: standCheckForAir, minutes: 15 },
  { word: 'soak', minutes: 20 },
];
const word = ref('');
const minutes = ref('10');
const stage = computed<Stage>(
  () => STAGES.find((one) => one.path === route.path.split('/')[3])?.id ?? 'on_engine',
);

async function set(what: string, long: number) {
  try {
    await job.happened({ what: 'timer_set', word: what, seconds: long * 60, stage: stage.value });
    setting.value = false;
    wrong.value = '';
  } catch (error) {
    wrong.value = refusal(error).fields[0]?.message ?? refusal(error).message;
  }
}
</script>

<template>
  <div class="timers" :class="{ none: !timers.length }">
    <button
      v-for="one in timers"
      :key="one.id"
      type="button"
      :class="{ over: one.over }"
      :aria-label="`${one.over ? 'up' : clock(one.left)} ${one.word}. Remove timer`"
      @click="job.happened({ what: 'timer_off', timer: one.id })"
    >
      <strong>{{ one.over ? 'up' : clock(one.left) }}</strong> {{ one.word }}
      <span aria-hidden="true">×</span>
    </button>
    <button type="button" class="add" @click="setting = true">Add timer</button>
    <PlainDialog v-if="setting" title="Set a timer" @close="setting = false">
      <p class="muted">Runs in the program, shows on every screen and rings on the board.</p>
      <div class="often">
        <button
          v-for="one in OFTEN"
          :key="one.word"
          class="side-act"
          type="button"
          @click="set(one.word, one.minutes)"
        >
          {{ one.word }} <strong>{{ one.minutes }} min</strong>
        </button>
      </div>
      <form @submit.prevent="set(word, Number(minutes.replace(',', '.')))">
        <label>For <input id="timer-word" v-model="word" autocomplete="off" /></label>
        <label>Minutes <input id="timer-minutes" v-model="minutes" inputmode="decimal" /></label>
        <button class="main-act" type="submit">Start timer</button>
      </form>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    </PlainDialog>
  </div>
</template>

<style scoped>
.timers {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  padding: 4px 22px;
  background: var(--sheet);
  border-bottom: 1px solid var(--line);
}
.timers > button {
  min-height: 44px;
  border: 2px solid var(--act);
  border-radius: 22px;
  background: none;
  padding: 0 16px;
  cursor: pointer;
}
.timers > .over {
  background: var(--too-much);
  border-color: var(--too-much);
  color: var(--sheet);
}
.timers > .add {
  border: 2px dashed var(--edge);
  color: var(--muted);
}
/* Nothing runs: the button stands at the end of the rail and takes no row. */
.none {
  position: absolute;
  right: 8px;
  top: 4px;
  padding: 0;
  border: 0;
  background: none;
}
.none > .add {
  background: var(--sheet);
  padding: 0 12px;
  font-size: 0.85rem;
}
.often {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
form {
  display: grid;
  grid-template-columns: 1fr 110px auto;
  gap: 10px;
  align-items: end;
}
input {
  display: block;
  width: 100%;
  min-height: 46px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 10px;
}
@media print {
  .timers {
    display: none;
  }
}
</style>
