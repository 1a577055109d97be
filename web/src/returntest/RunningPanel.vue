<script setup lang="ts">
import { computed, ref } from 'vue';
import { ahead } from '@/api/clock';
import { refusal } from '@/api/client';
import { plain } from '@/domain/numbers';
import { clock } from '@/domain/time';
import { useNow } from '@/domain/useNow';
import { useJob } from '@/job/useJob';
import { useKeys } from '@/shell/useKeys';
import LiveState from '@/connections/LiveState.vue';
import { useAlarm } from './useAlarm';
import { useCaught } from './useCaught';
import { useEntry } from './useEntry';
import {
  abortSavesRunBut,
  lineCameOff,
  readsItself,
  stoppedBeforeTime,
  stopRunReadBottles,
  timeUp,
} from '@/returntest/words';

/** Hands-free: a large count-down that comes from the start time kept by the program. */
const job = useJob();
const entry = useEntry();
const caught = useCaught();
const stop = () => (caught.by.value ? caught.end() : entry.stop());
const now = useNow();
const mark = computed(() => job.test.value?.setup.mark_ml ?? null);
const planned = computed(() => job.test.value?.setup.planned_s ?? 0);
const gone = computed(() => {
  const started = Date.parse(entry.run.value?.started_at ?? '');
  return Number.isFinite(started) ? (now.value + ahead.value - started) / 1000 : 0;
});
const left = computed(() => planned.value - gone.value);
const over = computed(() => left.value <= 0);
useAlarm(computed(() => Number(over.value)));
const wrong = ref('');

async function abort(reason = stoppedBeforeTime) {
  try {
    await job.change('post', '/api/runs/{run}/aside', {
      params: { path: { run: entry.run.value!.id } },
      body: { reason },
    });
  } catch (error) {
    wrong.value = refusal(error).message;
  }
}
useKeys([
  { key: ' ', word: stopRunReadBottles, run: () => void stop() },
  { key: 'Escape', word: abortSavesRunBut, run: () => void abort() },
]);
</script>

<template>
  <div class="panel">
    <h2>Return test, run {{ entry.run.value?.number }}</h2>
    <p class="big" :class="{ over }" role="timer">{{ over ? `+${clock(-left)}` : clock(left) }}</p>
    <p :class="over ? 'wrong' : 'muted'">
      {{ over ? timeUp(!!caught.by.value) : `left of ${clock(planned)}` }}
    </p>
    <progress :max="planned" :value="Math.min(gone, planned)" aria-label="Time elapsed"></progress>
    <button class="main-act stop" type="button" @click="stop()">
      Stop and read <span class="key">space</span>
    </button>
    <template v-if="caught.by.value">
      <LiveState :live="caught.live" :name="caught.by.value.name" />
      <button v-if="caught.dropped.value" class="side-act" type="button" @click="caught.takeUp()">
        Resume recording
      </button>
      <p class="muted">{{ readsItself(mark) }}</p>
    </template>
    <p v-else class="full">
      <strong>{{ mark ? `At ${plain(mark)} ml?` : 'Bottle full?' }}</strong> Press its number or tap it.
      Repeat to undo.
    </p>
    <p class="said wrong" role="alert">{{ caught.wrong.value || entry.wrong.value || wrong }}</p>
    <p class="caution small">
      <strong>Hot fuel under pressure: burns, pierces skin.</strong> Keep hands and face away from lines and
      joints; never loosen one while it runs.
    </p>
    <button class="link-act" type="button" @click="abort()">
      Abort run (not counted) <span class="key">Esc</span>
    </button>
    <button class="link-act" type="button" @click="abort(lineCameOff)">Abort: a line came off</button>
  </div>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 12px;
}
.big {
  font-size: 4.6rem;
  font-weight: 700;
  line-height: 1.05;
}
.over {
  color: var(--too-much);
}
.stop {
  min-height: 76px;
  font-size: 1.15rem;
}
.full {
  border: 2px solid var(--ink);
  border-radius: 8px;
  padding: 10px 12px;
}
/* Its place is there from the start: a refusal moves nothing under a finger. */
.said {
  min-height: 2.6em;
}
progress {
  width: 100%;
  height: 12px;
  accent-color: var(--act);
}
</style>
