<script setup lang="ts">
import { computed, ref } from 'vue';
import { refusal } from '@/api/client';
import type { RunRecord } from '@/api/types';
import { said } from '@/domain/readings';
import { useJob } from '@/job/useJob';
import PlainDialog from '@/shell/PlainDialog.vue';
import StripRow from '@/strip/StripRow.vue';
import { PHASE } from '@/words';
import { byHand, byInstrument } from '@/connections/words';
import { useEntry } from './useEntry';
import {
  rawTrace,
  correctLength,
  correctReading,
  lineCameOff,
  bottleMovedSpilt,
  engineSpeedNotSteady,
  engineNotWarm,
  readTooLate,
  begunByMistake,
} from '@/returntest/words';

/** Every run in the same columns. Tap a number to correct it: the old one is kept. */
const job = useJob();
const entry = useEntry();
/** A run that was taken back before anything was read in it leaves nothing. */
const left = (run: RunRecord) => !run.set_aside || run.readings.length > 0 || !!run.raw?.length;
const runs = computed(() => (job.test.value?.runs ?? []).filter(left).reverse());
const STATES = { running: 'running', reading: 'not timed', read: '', aside: 'not timed' };
const wrong = ref('');

/** Readings that were corrected, excluded or averaged, by their id. */
const worth = computed(() => new Map(job.view.value?.singles.map((one) => [one.id, one])));
/** Runs that are averaged with others of the same phase. */
const averaged = (run: RunRecord) =>
  run.readings.some((one) => worth.value.get(one.id)?.standing === 'joined');
/** What a reading of this column said before it was corrected, and by whom. */
function before(run: RunRecord, cylinder: number) {
  const old = run.readings
    .filter((one) => one.cylinder === cylinder)
    .map((one) => ({ one, is: worth.value.get(one.id) }));
  const said_ = old.filter(({ is }) => is?.standing === 'superseded' && is.since);
  return said_
    .map(
      ({ one, is }) =>
        `${said(one)} ${is!.word} by ${job.person(is!.since!.by)}${is!.why ? `, ${is!.why}` : ''}`,
    )
    .join('; ');
}

function held(run: RunRecord, cylinder: number) {
  const reading = entry.runs.ofCylinder(run, cylinder);
  if (!reading) return undefined;
  return { reading, text: said(reading) };
}
const corrected = (run: RunRecord, cylinder: number) =>
  run.readings.filter((one) => one.cylinder === cylinder).length > 1;

const REASONS = [
  lineCameOff,
  bottleMovedSpilt,
  engineSpeedNotSteady,
  engineNotWarm,
  readTooLate,
  begunByMistake,
];
const asking = ref<RunRecord | null>(null);
async function aside(run: RunRecord, how: { reason: string; back: boolean }) {
  try {
    await job.change('post', '/api/runs/{run}/aside', {
      params: { path: { run: run.id } },
      body: how,
    });
    asking.value = null;
  } catch (error) {
    wrong.value = refusal(error).message;
  }
}
</script>

<template>
  <div v-if="runs.length" class="history">
    <StripRow v-for="run in runs" :key="run.id" :class="{ aside: run.set_aside }">
      <template #gutter>
        <button
          class="time"
          type="button"
          :disabled="!entry.runs.length(run) || !!run.set_aside"
          :title="correctLength"
          @click="entry.correct(run, entry.runs.length(run)!)"
        >
          run {{ run.number }}<template v-if="run.phase">, {{ PHASE[run.phase].toLowerCase() }}</template
          ><br />
          <span class="small muted">{{
            entry.runs.length(run)
              ? `${Math.round(entry.runs.length(run)!.value)} s`
              : STATES[entry.runs.now(run)?.state ?? 'aside']
          }}</span>
          <span v-if="!run.set_aside && averaged(run)" class="small muted mean">averaged</span>
        </button>
      </template>
      <template #default="{ cylinder }">
        <button
          v-if="held(run, cylinder)"
          class="cell"
          type="button"
          :disabled="!!run.set_aside"
          :data-of="`${run.number}-${cylinder}`"
          :title="correctReading"
          @click="entry.correct(run, held(run, cylinder)!.reading)"
        >
          {{ held(run, cylinder)!.text
          }}<span v-if="held(run, cylinder)!.reading.kind === 'level'" class="unit"> ml</span
          ><sup v-if="corrected(run, cylinder)" :title="before(run, cylinder)">c</sup>
          <span v-if="run.caught_by" class="by">{{
            held(run, cylinder)!.reading.shown_by ? byInstrument : byHand
          }}</span>
        </button>
      </template>
      <template #tail>
        <template v-if="run.set_aside">
          <span class="small muted"
            >excluded: {{ run.set_aside.reason }}, {{ job.person(run.set_aside.signed.by) }}</span
          >
          <button
            class="link-act small"
            type="button"
            :aria-label="`Undo exclusion of run ${run.number}`"
            @click="aside(run, { reason: '', back: true })"
          >
            undo
          </button>
        </template>
        <a
          v-if="run.raw?.length"
          class="small"
          :href="`/api/jobs/${job.id.value}/raw.csv?of=${run.id}`"
          :aria-label="`Export trace of run ${run.number}`"
          >{{ rawTrace }}</a
        >
        <button
          v-if="!run.set_aside && entry.runs.length(run)"
          class="link-act small"
          type="button"
          @click="asking = run"
        >
          exclude
        </button>
      </template>
    </StripRow>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <PlainDialog v-if="asking" :title="`Exclude run ${asking.number}: why?`" @close="asking = null">
      <p class="muted">Kept with its readings and reason, but left out of the verdict.</p>
      <button
        v-for="reason in REASONS"
        :key="reason"
        class="side-act"
        type="button"
        @click="aside(asking, { reason, back: false })"
      >
        {{ reason }}
      </button>
    </PlainDialog>
  </div>
</template>

<style scoped>
.history {
  border-top: 2px solid var(--ink);
}
.cell,
.time {
  width: 100%;
  min-height: 44px;
  border: 0;
  border-bottom: 1px solid var(--line);
  background: none;
  cursor: pointer;
  font-size: min(1rem, var(--value));
  padding: 0;
}
.time {
  text-align: right;
  line-height: 1.1;
}
.mean {
  display: block;
}
.aside {
  opacity: 0.6;
  text-decoration: line-through;
}
/* Where an instrument reads, what a person read is marked as that. */
.by {
  display: block;
  font-size: 0.72rem;
  color: var(--muted);
  line-height: 1;
}
sup {
  color: var(--act);
}
.link-act {
  font-size: 0.8rem;
}
</style>
