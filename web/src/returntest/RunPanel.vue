<script setup lang="ts">
import { computed, ref } from 'vue';
import { refusal } from '@/api/client';
import { newId } from '@/domain/identity';
import { clock } from '@/domain/time';
import { useJob } from '@/job/useJob';
import { useKeys } from '@/shell/useKeys';
import { PHASE, REGIME } from '@/words';
import CautionList from '@/job/CautionList.vue';
import StartTicks from '@/job/StartTicks.vue';
import ReaderChoice from './ReaderChoice.vue';
import { useExercise } from '@/trainer/useExercise';
import RejudgeDialog from './RejudgeDialog.vue';
import { useBefore } from './useBefore';
import { useRepeat } from './useRepeat';
import { confirmWholeChecklist, enterFinishedRun } from '@/returntest/words';

/** Between runs: start one, or type in one that was timed elsewhere. */
defineEmits<{ other: [] }>();
const job = useJob();
const test = computed(() => job.test.value!);
const setup = computed(() => test.value.setup);
const temperature = computed(() => {
  const at = job.view.value?.file.return_tests?.findIndex((one) => one.id === test.value.id) ?? -1;
  return job.view.value?.temperatures[at];
});
const next = computed(() => job.view.value?.current.next_run?.number ?? 1);
const wanted = computed(() => setup.value.rules.runs_to_replace);
const wrong = ref('');
const rejudging = ref(false);
const rules = computed(() =>
  setup.value.rules.revision ? `workshop rule, revision ${setup.value.rules.revision}` : 'workshop rule',
);
const read = computed(() => test.value.runs.some((run) => run.readings.length > 0));

const before = useBefore(job);
const repeat = useRepeat(job);
const banks = computed(() => job.view.value?.banks ?? []);
const reader = ref('');
const missing = computed(
  () => (before.form.value?.start ?? []).filter((one) => !before.ticked.value.includes(one.id)).length,
);
async function timer(word: string, minutes: number) {
  await job.happened({ what: 'timer_set', word, seconds: minutes * 60, stage: 'on_engine' });
}
/** A made-up engine has a clock of its own: its run is over at once, and its bottles are read. */
const exercise = useExercise(job);
async function begin(own: boolean) {
  const id = newId();
  const atOnce = own && exercise.is.value && !reader.value;
  const timer = own && !atOnce;
  try {
    await job.change('post', '/api/return-tests/{test}/runs', {
      params: { path: { test: test.value.id } },
      body: {
        id,
        timer,
        phase: before.phase.value,
        bank: before.bank.value,
        ticked: before.ticked.value,
        connection: timer && reader.value ? reader.value : null,
      },
    });
    if (atOnce) await exercise.readRun(id);
    wrong.value = exercise.wrong.value;
  } catch (error) {
    wrong.value = refusal(error).message;
  }
}
useKeys([
  { key: ' ', word: 'start the run', run: () => void begin(true) },
  { key: 'a', word: confirmWholeChecklist, run: before.all },
  { key: 't', word: enterFinishedRun, run: () => void begin(false) },
]);
</script>

<template>
  <div class="panel">
    <h2>Return test, run {{ next }}</h2>
    <p class="muted">
      {{ REGIME[setup.regime].toLowerCase() }}<template v-if="temperature">, {{ temperature }}</template
      ><template v-if="setup.speed_rpm != null">, {{ setup.speed_rpm }} rpm</template>
    </p>
    <div v-if="setup.regime === 'stepped'" class="few" role="radiogroup" aria-label="Phase">
      <button
        v-for="one in before.phases"
        :key="one"
        type="button"
        role="radio"
        :aria-checked="before.phase.value === one"
        @click="before.phase.value = one"
      >
        {{ PHASE[one] }}
      </button>
    </div>
    <div v-if="banks.length > 1" class="few" role="radiogroup" aria-label="Bank">
      <button
        v-for="one in [null, 0, 1]"
        :key="String(one)"
        type="button"
        role="radio"
        :aria-checked="before.bank.value === one"
        @click="before.bank.value = one"
      >
        {{ one === null ? 'both banks' : banks[one]!.join(' ') }}
      </button>
    </div>
    <button v-if="missing" class="side-act" type="button" @click="before.all">
      All confirmed <span class="key">A</span>
    </button>
    <StartTicks
      :conditions="before.form.value?.start ?? []"
      :ticked="before.ticked.value"
      @turn="before.turn"
    />
    <p class="few">
      <button type="button" @click="timer('warm up', 10)">Time warm-up, 10 min</button>
      <button type="button" @click="timer('purge the hoses', 2)">Time purge, 2 min</button>
    </p>
    <CautionList :cautions="before.form.value?.cautions ?? []" :brief="test.runs.length > 0" />
    <div class="go">
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <ReaderChoice v-model="reader" :exercise="exercise.is.value" />
      <p class="big">{{ clock(setup.planned_s) }}</p>
      <p v-if="job.view.value?.closed" class="muted">
        This job is closed. Reopen it in Prove before measuring again.
      </p>
      <template v-else-if="repeat.due.value">
        <p class="muted">Injectors moved since this test. The repeat is a test of its own.</p>
        <button class="main-act" type="button" @click="repeat.prepare">Prepare repeat, same setup</button>
        <p v-if="repeat.wrong.value" class="wrong" role="alert">{{ repeat.wrong.value }}</p>
      </template>
      <template v-else>
        <button class="main-act" type="button" @click="begin(true)">
          Start run {{ next }} <span class="key">space</span>
        </button>
        <button v-if="!exercise.is.value" class="side-act" type="button" @click="begin(false)">
          Enter a finished run <span class="key">T</span>
        </button>
      </template>
    </div>
    <p class="muted small">
      Bottles {{ setup.capacity_ml }} ml, marks every {{ setup.graduation_ml }} ml. One run screens; a
      replacement needs {{ wanted }} ({{ rules }}).
    </p>
    <RouterLink class="side-act" :to="`/jobs/${job.id.value}/decide`">Go to Decide</RouterLink>
    <button class="link-act" type="button" @click="$emit('other')">Change bottles or setup</button>
    <button v-if="read" class="link-act" type="button" @click="rejudging = true">
      View by today’s limits
    </button>
    <RejudgeDialog v-if="rejudging" @close="rejudging = false" />
  </div>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 11px;
}
/* The one main act stays in sight, however much is asked before it. */
.go {
  position: sticky;
  bottom: 0;
  background: var(--paper);
  border-top: 2px solid var(--ink);
  padding: 8px 0;
  display: grid;
  gap: 8px;
}
.big {
  font-size: 2.4rem;
  font-weight: 700;
  line-height: 1.1;
}
.few {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.few button {
  min-height: 44px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 10px;
  cursor: pointer;
}
.few button[aria-checked='true'] {
  background: var(--ink);
  border-color: var(--ink);
  color: var(--sheet);
  font-weight: 700;
}
</style>
