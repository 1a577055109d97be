<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import type { BenchTest } from '@/api/types';
import BecausePanel from '@/job/BecausePanel.vue';
import CautionList from '@/job/CautionList.vue';
import { sayHeadline } from '@/shell/useHeadline';
import { useKeys } from '@/shell/useKeys';
import StateLine from '@/shell/StateLine.vue';
import InjectorMark from '@/strip/InjectorMark.vue';
import StripFrame from '@/strip/StripFrame.vue';
import StripRow from '@/strip/StripRow.vue';
import { BENCH } from '@/words';
import BenchFile from './BenchFile.vue';
import BenchGrid from './BenchGrid.vue';
import BenchPad from './BenchPad.vue';
import BenchTimers from './BenchTimers.vue';
import LookDrawing from './LookDrawing.vue';
import RoundColumns from './RoundColumns.vue';
import RoundRail from './RoundRail.vue';
import SetCells from './SetCells.vue';
import ShimDrawer from './ShimDrawer.vue';
import SprayDrawing from './SprayDrawing.vue';
import SweepChart from './SweepChart.vue';
import TestTabs from './TestTabs.vue';
import { makeSession, provideSession, roundWord, type Spot } from './useSession';
import { useTubes } from './useTubes';

/** A bench session: rounds above, tests below them, the rail with its injectors in the middle. */
const route = useRoute();
const id = computed(() => String(route.params.id));
const test = computed(() => String(route.params.test) as BenchTest);
const session = makeSession(id, test);
provideSession(session);
const root = ref<HTMLElement>();
const tubes = useTubes(root);

watch(
  session.file,
  (file) => {
    if (!file) return;
    const jobs = [...new Set(file.injectors.map((one) => one.job_number))];
    sayHeadline(
      `${BENCH[file.setup.kind]}, session ${file.number}`,
      [
        `${file.injectors.length === 1 ? 'one injector' : `${file.injectors.length} injectors`} of job ${jobs.join(' and ')}`,
        file.setup.bench?.name,
      ]
        .filter(Boolean)
        .join(', '),
    );
  },
  { immediate: true },
);

const injectors = computed(() => session.file.value?.injectors ?? []);
const several = computed(() => new Set(injectors.value.map((one) => one.job)).size > 1);
/** Where each hangs in this round, and whose it is. */
const labels = computed(() =>
  Object.fromEntries(
    injectors.value.map((one) => {
      const place = session.round.value?.places.find((held) => held.tag === one.tag);
      const hangs = place && place.position !== one.tag ? `, at ${place.position}` : '';
      const whose = several.value ? ` ${one.job_number}` : '';
      return [one.tag, `${one.label || `${one.job_number}·${one.cylinder}`}${whose}${hangs}`];
    }),
  ),
);
const form = computed(() => session.form.value);
const more = ref(false);
const folds = computed(() =>
  [...(form.value?.set ?? []), ...(form.value?.each ?? [])].some((one) => one.more),
);
const set = computed(() => (form.value?.set ?? []).filter((one) => more.value || !one.more));

/** Rows that stand: the points of the plan, or as many as were begun and one more. */
const added = ref(0);
watch(test, () => (added.value = 0));
const rows = computed(() => {
  if (!form.value) return [];
  if (form.value.by_points) {
    const order = session.view.value?.order.map((one) => one.row).filter((row) => row != null) as number[];
    return order.length ? order : (session.file.value?.setup.points ?? []).map((_, i) => i + 1);
  }
  if (!form.value.most_rows) return [];
  const begun = (session.file.value?.cells ?? [])
    .filter((one) => one.test === test.value && one.round === session.round.value?.id)
    .map((one) => one.row ?? 0);
  const count = Math.min(form.value.most_rows, Math.max(...begun, 0) + 1 + added.value);
  return Array.from({ length: Math.max(count, Math.min(3, form.value.most_rows)) }, (_, i) => i + 1);
});
const touched = ref<number | null>(null);
watch([test, () => session.round.value?.id], () => (touched.value = null));
/** The row that is drawn large: the one that is typed into, else the widest apart. */
const at = computed(() => {
  if (touched.value && rows.value.includes(touched.value)) return touched.value;
  const drawn = session.verdict.value?.rows ?? [];
  const bad = drawn.find((row) =>
    row.lanes.some((one) => ['too_much', 'too_little', 'questioned'].includes(one.mark)),
  );
  return (bad ?? drawn.at(-1))?.row ?? rows.value[0] ?? null;
});
const settle = computed(() => session.view.value?.order.find((one) => one.row === at.value));
const warm = computed(() => session.view.value?.order.find((one) => one.row == null));

/** The regime that a cleaning is seen by: held open, the last one of the plan. */
const spoken = computed(() => session.judged(session.round.value, 'flow')?.verdict?.rows.at(-1)?.row ?? null);

const tapped = ref<number | null>(null);
const selected = computed(() => tapped.value ?? session.verdict.value?.pressing ?? null);
const lane = computed(() => session.verdict.value?.lanes.find((one) => one.place === selected.value));
const laneOf = (tag: number) => session.verdict.value?.lanes.find((one) => one.place === tag);
const told = (cell: string, tag: number) => session.text({ cell, row: null, tag });

/** A column pasted into a tube fills the tubes that follow it. */
function pasted(event: ClipboardEvent, spot: Spot) {
  const lines = (event.clipboardData?.getData('text') ?? '').split(/[\r\n\t]+/).map((one) => one.trim());
  const values = lines.filter(Boolean);
  if (values.length < 2) return;
  event.preventDefault();
  const tags = session.tags.value;
  const from = tags.indexOf(spot.tag ?? 0);
  values.forEach((value, i) => {
    const tag = tags[from + i];
    if (tag !== undefined) void session.say({ ...spot, tag }, value);
  });
}

/** Fits a shim: in a round of its own, so that each fit keeps its lift. */
async function fit(tag: number, size: number) {
  const round = session.round.value;
  const measured = session.standing({ cell: 'lift', row: null, tag });
  if (round?.stage !== 'adjusted' || measured?.value != null) await session.begin('adjusted');
  await session.say({ cell: 'shim', row: null, tag }, String(size));
}
const wanted = computed(() => (session.verdict.value?.lanes ?? []).flatMap((one) => one.fit_um ?? []));
const filing = ref(false);
const filed = computed(() => test.value === 'flow' || test.value === 'map');
useKeys([
  {
    key: 'd',
    word: 'tubes down the columns or across the rows',
    within: (field) => field.matches('[data-cell]') && field.value === '',
    run: tubes.turn,
  },
  { key: 'f', word: 'readings from a file', run: () => (filing.value = filed.value) },
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
      <aside class="left">
        <h2>{{ form.title }}</h2>
        <p v-if="!session.verdict.value" class="muted small">{{ form.says }}</p>
        <CautionList :cautions="form.cautions" :brief="!!session.verdict.value" />
        <button
          v-if="session.before.value && set.length && !session.verdict.value"
          class="side-act"
          type="button"
          @click="session.asBefore"
        >
          Conditions as before, {{ roundWord(session.before.value) }}
        </button>
        <SetCells :cells="set" @next="tubes.next" />
        <SetCells
          v-if="at && form.row.length && !form.by_points"
          :key="at"
          :cells="form.row"
          :row="at"
          @next="tubes.next"
        />
        <details v-else-if="at && form.row.length" class="row-cells">
          <summary>This row: other conditions</summary>
          <SetCells :cells="form.row.filter((one) => one.name !== 'ended')" :row="at" @next="tubes.next" />
        </details>
        <p class="links">
          <button v-if="form.most_rows > rows.length" class="link-act" type="button" @click="added += 1">
            One more row
          </button>
          <button v-if="folds" class="link-act" type="button" :aria-expanded="more" @click="more = !more">
            {{ more ? 'Fewer fields' : 'More fields' }}
          </button>
          <button v-if="filed" class="link-act" type="button" @click="filing = true">
            From a file <span class="key">F</span>
          </button>
        </p>
        <BenchTimers v-if="test === 'cleaning'" :job="injectors[0]?.job ?? ''" />
        <a
          v-if="test === 'supply_offset' && session.verdict.value"
          class="side-act"
          :href="`/api/bench/${id}/supply.csv`"
          download
          >Table as CSV</a
        >
        <BenchPad
          v-if="form.each.some((one) => !one.choices.length && !one.words)"
          :down="tubes.down.value"
          @press="tubes.press"
          @back="tubes.back"
          @next="tubes.next()"
          @turn="tubes.turn"
        />
      </aside>
      <section class="centre" :aria-label="form.title">
        <p v-if="form.pulses && session.view.value.drive_refused" class="bench-finding stop" role="alert">
          <strong>{{ session.view.value.drive_refused }}</strong>
          <RouterLink :to="`/bench/${id}/drive`">To the drive guard</RouterLink>
        </p>
        <p v-if="session.refused.value" class="bench-finding wrong" role="status">
          {{ session.refused.value }}
        </p>
        <p v-else-if="session.verdict.value" class="bench-finding" role="status">
          <strong>{{ session.verdict.value.headline }}</strong>
          <span v-for="line in session.verdict.value.advice" :key="line">{{ line }}</span>
          <span v-for="flag in session.verdict.value.flags" :key="flag" class="flag">{{ flag }}</span>
        </p>
        <p v-else class="bench-finding muted">Each reading is kept as you leave its field.</p>
        <p v-if="session.file.value!.setup.kind === 'diesel' && test === 'map' && settle" class="run muted">
          <template v-if="!session.verdict.value">{{ warm?.says }} Then </template>
          {{ settle.says }}: settle {{ settle.settle_s }} s, then count. Rows stand in the order of running.
        </p>
        <StripFrame
          :banks="[session.tags.value]"
          noun="Injector"
          :labels="labels"
          :selected="selected"
          gutter="112px"
          @select="tapped = $event"
        >
          <StripRow v-if="session.verdict.value">
            <template #default="{ cylinder: tag }">
              <div class="result">
                <p v-if="laneOf(tag)?.shown" class="value">{{ laneOf(tag)!.shown }}</p>
                <p class="says" :data-mark="laneOf(tag)?.mark ?? 'not_measured'">
                  <InjectorMark :mark="laneOf(tag)?.mark ?? 'not_measured'" :size="30" silent />
                  <span>{{ laneOf(tag)?.word ?? 'not read' }}</span>
                </p>
                <button
                  v-if="laneOf(tag)?.fit_um"
                  class="main-act"
                  type="button"
                  @click="fit(tag, laneOf(tag)!.fit_um!)"
                >
                  Fit {{ laneOf(tag)!.fit_um }}
                </button>
              </div>
            </template>
          </StripRow>
          <StripRow v-if="test === 'visual'">
            <template #default="{ cylinder: tag }">
              <LookDrawing
                :tip="told('tip', tag)"
                :seat="told('seat', tag)"
                :seals="told('seals', tag)"
                :basket="told('basket', tag)"
                :corrosion="told('corrosion', tag)"
                :holes="told('holes', tag)"
              />
            </template>
          </StripRow>
          <StripRow v-if="test === 'spray'">
            <template #default="{ cylinder: tag }">
              <SprayDrawing
                :pattern="told('pattern', tag)"
                :cone="told('cone', tag)"
                :symmetry="told('symmetry', tag)"
                :tail="told('tail', tag)"
                :dribble="told('dribble', tag)"
              />
            </template>
          </StripRow>
          <RoundColumns v-if="at && form.by_points" :row="at" :test="test" />
          <RoundColumns v-else-if="test === 'lift'" :row="1" test="lift" />
          <RoundColumns v-else-if="test === 'cleaning' && spoken" :row="spoken" test="flow" />
          <p v-if="form.by_points && !rows.length" class="run muted">
            This session has no test plan, so there is no point to read. Begin another one with its plan.
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
      <aside class="right">
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
        <p v-else class="muted">The reasons stand here once something is read.</p>
      </aside>
      <BenchFile v-if="filing" @close="filing = false" />
    </main>
  </template>
</template>

<style scoped>
.bench {
  min-height: calc(100vh - 158px);
  grid-template-rows: 1fr;
}
@media (max-width: 1100px) {
  /* Held upright: the rail comes first, the thumbs work below it. */
  .bench {
    grid-template-rows: auto 1fr;
  }
  .bench > .centre {
    grid-row: 1;
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
.row-cells summary {
  min-height: 44px;
  cursor: pointer;
  color: var(--act);
}
.links {
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
}
.result {
  text-align: center;
  padding: 6px 2px 10px;
  display: grid;
  justify-items: center;
  gap: 2px;
}
.value {
  font-size: clamp(0.85rem, calc(17 * var(--cell)), 1.35rem);
  font-weight: 700;
  overflow-wrap: anywhere;
}
.says {
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
  align-items: center;
  gap: 0 6px;
  font-weight: 700;
  font-size: clamp(0.75rem, calc(14 * var(--cell)), 1.05rem);
}
</style>
