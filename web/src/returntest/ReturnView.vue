<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { useStill } from '@/entry/useStill';
import BecausePanel from '@/job/BecausePanel.vue';
import { useJob } from '@/job/useJob';
import { useKeys } from '@/shell/useKeys';
import { cylinderKeys } from '@/strip/cylinderKeys';
import StripFrame from '@/strip/StripFrame.vue';
import type { SetUpPreview } from '@/api/types';
import StageChecks from '@/sheet/StageChecks.vue';
import BeforeTest from './BeforeTest.vue';
import ConfirmReturn from './ConfirmReturn.vue';
import EntryPanel from './EntryPanel.vue';
import EntryRow from './EntryRow.vue';
import LiveBottles from './LiveBottles.vue';
import PhaseRows from './PhaseRows.vue';
import ReturnColumns from './ReturnColumns.vue';
import RunHistory from './RunHistory.vue';
import RunningPanel from './RunningPanel.vue';
import RunPanel from './RunPanel.vue';
import SetUpPanel from './SetUpPanel.vue';
import { provideCaught } from './useCaught';
import { provideEntry } from './useEntry';
import { cylinderSelectBottleFull } from '@/returntest/words';

/** The return test of one job: set up, run, read, judge. */
const job = useJob();
const view = computed(() => job.view.value!);
const layout = computed(() => view.value.file.job.intake.layout);
const entry = provideEntry(job);
const caught = provideCaught(job, entry);
useStill(() => job.view.value);
const router = useRouter();
// Petrol has no return: its first check on the engine is another one.
const instead = (['pressure_drop', 'cutout'] as const).find((check) => view.value.fits.includes(check));
if (!view.value.has_return && instead) void router.replace(`/jobs/${job.id.value}/on-engine/${instead}`);
const settingUp = ref(false);
const preview = ref<SetUpPreview>();
const byHouse = ref(false);
const preparing = computed(() => !job.test.value || settingUp.value);
const now = computed(() => (settingUp.value ? undefined : entry.runs.now(entry.run.value)?.state));
const correcting = computed(() => entry.correcting.value !== null);
const reading = computed(() => now.value === 'reading' || correcting.value);

/** A set of which something is not of now is spoken for by what the job says by now. */
const headline = computed(() =>
  job.judged.value?.lanes.some((one) => one.standing)
    ? job.view.value!.now.headline
    : job.judged.value?.headline,
);
// The eye goes where something is wrong: the most pressing column is chosen until one is tapped.
const tapped = ref<number | null>(null);
const selected = computed(() => tapped.value ?? job.judged.value?.pressing ?? null);
const lane = computed(() => job.judged.value?.lanes.find((one) => one.place === selected.value));
watch(job.test, (now, before) => {
  if (now?.id !== before?.id) settingUp.value = false;
});

function pick(cylinder: number) {
  if (now.value === 'running') void entry.full(cylinder);
  else if (now.value === 'reading') entry.go(cylinder);
  else tapped.value = cylinder;
}
useKeys(cylinderKeys(layout.value.cylinders, pick, (cylinder) => cylinderSelectBottleFull(cylinder)));
</script>

<template>
  <main class="bench-page return" :class="{ reading }">
    <StageChecks stage="on_engine" />
    <aside aria-label="Run" class="left">
      <SetUpPanel
        v-if="preparing"
        v-model:by-house="byHouse"
        @done="settingUp = false"
        @preview="preview = $event"
      />
      <RunningPanel v-else-if="now === 'running'" />
      <EntryPanel v-else-if="reading" />
      <RunPanel v-else @other="settingUp = true" />
    </aside>
    <section class="centre" aria-label="Return test">
      <p v-if="now === 'running'" class="bench-finding" role="status">
        <strong>Run {{ entry.run.value?.number }} is running.</strong>
        <span v-if="caught.by.value">Bottles read by: {{ caught.by.value.name }}.</span>
        <span v-else>Tap a bottle, or press its number, the moment it is full. Tap again to undo.</span>
      </p>
      <p v-else-if="job.judged.value" class="bench-finding" role="status">
        <strong>{{ headline }}</strong>
        <span>{{ job.judged.value.advice.join(' ') }}</span>
        <span v-for="flag in job.judged.value.flags" :key="flag" class="flag">{{ flag }}</span>
      </p>
      <p v-else class="bench-finding muted">
        {{
          job.test.value
            ? 'No readings yet. Start a run or enter a finished one.'
            : 'Enter bottles and conditions first; the columns fill as you read.'
        }}
      </p>
      <StripFrame
        :banks="view.banks"
        :first-at="layout.first_at"
        :labels="now || preparing ? job.labels.value : job.labelsThen()"
        :selected="reading ? entry.cylinder.value : selected"
        @select="pick"
      >
        <EntryRow v-if="reading" />
        <LiveBottles v-if="now === 'running'" />
        <ReturnColumns v-else :verdict="job.judged.value" :compact="reading" />
        <PhaseRows
          v-if="now !== 'running' && job.judged.value?.rows.length"
          :phases="job.judged.value.rows"
        />
        <RunHistory />
      </StripFrame>
    </section>
    <aside aria-label="Because" class="right">
      <BeforeTest v-if="preparing && preview" v-model:by-house="byHouse" :preview="preview" />
      <p v-else-if="now === 'running'" class="muted">The result appears here when the bottles are read.</p>
      <BecausePanel v-else-if="lane && job.judged.value" :lane="lane" :verdict="job.judged.value">
        <ConfirmReturn
          v-if="lane.said.code === 'doubtful' && lane.mark === 'questioned'"
          :cylinder="lane.place"
        />
      </BecausePanel>
      <p v-else class="muted">Reasons appear here after the first reading.</p>
    </aside>
  </main>
</template>
