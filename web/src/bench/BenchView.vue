<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';
import type { BenchTest } from '@/api/types';
import { pastedColumn } from '@/entry/pastedColumn';
import { useStill } from '@/entry/useStill';
import BecausePanel from '@/job/BecausePanel.vue';
import { useKeys } from '@/shell/useKeys';
import StateLine from '@/shell/StateLine.vue';
import StripFrame from '@/strip/StripFrame.vue';
import BenchConditions from './BenchConditions.vue';
import BenchDrawings from './BenchDrawings.vue';
import BenchFile from './BenchFile.vue';
import BenchGrid from './BenchGrid.vue';
import BenchResult from './BenchResult.vue';
import ExerciseBench from '@/trainer/ExerciseBench.vue';
import BenchTake from './BenchTake.vue';
import BenchSide from './BenchSide.vue';
import RoundColumns from './RoundColumns.vue';
import RoundRail from './RoundRail.vue';
import ShimDrawer from './ShimDrawer.vue';
import SweepChart from './SweepChart.vue';
import TestTabs from './TestTabs.vue';
import { useBenchRows } from './useBenchRows';
import { makeSession, provideSession, type Spot } from './useSession';
import { useRailWords } from './useRailWords';
import { useTubes } from './useTubes';
import { tubesDownColumnsAcross, readingsFile } from '@/bench/words';

/** A bench session: rounds above, tests below them, the rail with its injectors in the middle. */
const route = useRoute();
const id = computed(() => String(route.params.id));
const test = computed(() => String(route.params.test) as BenchTest);
const session = makeSession(id, test);
provideSession(session);
useStill(() => session.view.value);
const root = ref<HTMLElement>();
const tubes = useTubes(root);

const labels = useRailWords(session);
const form = computed(() => session.form.value);
const more = ref(false);
const { rows, at, settle, warm, touched, more: addRow } = useBenchRows(session, () => test.value);
/** The regime that a cleaning is seen by: held open, the last one of the plan. */
const spoken = computed(() => session.judged(session.round.value, 'flow')?.verdict?.rows.at(-1)?.row ?? null);

const tapped = ref<number | null>(null);
const selected = computed(() => tapped.value ?? session.verdict.value?.pressing ?? null);
const lane = computed(() => session.verdict.value?.lanes.find((one) => one.place === selected.value));

/** A column pasted into a tube fills the tubes that follow it. */
function pasted(event: ClipboardEvent, spot: Spot) {
  const tags = session.tags.value;
  const from = tags.indexOf(spot.tag ?? 0);
  pastedColumn(event).forEach((value, i) => {
    const tag = tags[from + i];
    if (tag !== undefined) void session.cells.say({ ...spot, tag }, value);
  });
}

const wanted = computed(() => (session.verdict.value?.lanes ?? []).flatMap((one) => one.fit_um ?? []));
const filing = ref(false);
const filed = computed(() => test.value === 'flow' || test.value === 'map');
useKeys([
  {
    key: 'd',
    word: tubesDownColumnsAcross,
    within: (field) => field.matches('[data-cell]') && field.value === '',
    run: tubes.turn,
  },
  { key: 'f', word: readingsFile, run: () => (filing.value = filed.value) },
]);
</script>

<template>
  <StateLine
    v-if="!session.view.value"
    :loading="session.query.isPending.value"
    :error="session.query.error.value"
    @again="session.query.refetch()"
  />
  <template v-else>
    <RoundRail />
    <TestTabs :test="test" />
    <StateLine
      v-if="!form"
      :loading="session.forms.isPending.value"
      :error="session.forms.error.value"
      empty="This bench has no such test."
    />
    <main v-else ref="root" class="bench-page bench" @focusin="tubes.focused" @click="tubes.clicked">
      <BenchConditions :form="form" :tubes="tubes" :at="at" :more="more" />
      <aside aria-label="Entry" class="left">
        <BenchSide
          v-model:more="more"
          :test="test"
          :form="form"
          :tubes="tubes"
          :rows="rows.length"
          :filed="filed"
          @row="addRow"
          @file="filing = true"
        />
      </aside>
      <section class="centre" :aria-label="form.title">
        <p v-if="form.pulses && session.view.value.drive_refused" class="bench-finding stop" role="alert">
          <strong>{{ session.view.value.drive_refused }}</strong>
          <RouterLink :to="`/bench/${id}/drive`">Go to driver check</RouterLink>
        </p>
        <p v-if="session.refused.value" class="bench-finding wrong" role="status">
          {{ session.refused.value }}
        </p>
        <p v-else-if="session.verdict.value" class="bench-finding" role="status">
          <strong>{{ session.verdict.value.headline }}</strong>
          <span v-for="line in session.verdict.value.advice" :key="line">{{ line }}</span>
          <span v-for="flag in session.verdict.value.flags" :key="flag" class="flag">{{ flag }}</span>
        </p>
        <p v-else class="bench-finding muted">Fill in the fields; each saves as you leave it.</p>
        <p
          v-if="session.file.value!.setup.kind === 'diesel' && test === 'map' && settle && settle !== warm"
          class="run muted"
        >
          <template v-if="!session.verdict.value">{{ warm?.says }} Then </template>
          {{ settle.says }}: let it settle {{ settle.settle_s }} s, then count. Rows are in running order.
        </p>
        <ExerciseBench />
        <BenchTake v-if="!session.view.value.drive_refused" :row="rows.length ? at : null" />
        <StripFrame
          :banks="[session.tags.value]"
          noun="Injector"
          :labels="labels"
          :selected="selected"
          gutter="112px"
          @select="tapped = $event"
        >
          <BenchResult />
          <BenchDrawings :test="test" />
          <RoundColumns v-if="at && form.by_points" :row="at" :test="test" />
          <RoundColumns v-else-if="test === 'lift'" :row="1" test="lift" />
          <RoundColumns v-else-if="test === 'cleaning' && spoken" :row="spoken" test="flow" />
          <p v-if="form.by_points && !rows.length" class="run muted">
            This session has no test plan, so there is no point to read. Start another one with its plan.
          </p>
          <BenchGrid
            v-else
            :rows="rows"
            :more="more"
            :at="at"
            @next="tubes.next"
            @row="touched = $event"
            @pasted="pasted"
          />
        </StripFrame>
      </section>
      <aside aria-label="Because" class="right">
        <SweepChart
          v-if="session.verdict.value && test === 'sweep'"
          :verdict="session.verdict.value"
          :selected="selected"
        />
        <ShimDrawer v-if="test === 'lift'" :wanted="wanted" />
        <BecausePanel
          v-if="lane && lane.because.length"
          noun="Injector"
          :lane="lane"
          :verdict="{ schools: [] }"
        />
        <p v-else class="muted">Reasons appear here after the first reading.</p>
      </aside>
      <BenchFile v-if="filing" @close="filing = false" />
    </main>
  </template>
</template>

<style scoped>
.bench {
  min-height: calc(100vh - 158px);
  grid-template-rows: auto 1fr;
}
@media (max-width: 1100px) {
  /* Held upright: the rail comes first, the thumbs work below it. */
  .bench {
    grid-template-rows: auto auto 1fr;
  }
  .bench > .centre {
    grid-row: 2;
  }
}
.stop {
  border-color: var(--too-much);
  border-left-width: 12px;
  color: var(--too-much);
}
.run {
  padding: 6px 16px 0;
  font-size: 0.9rem;
}
</style>
