<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import type { EngineTest } from '@/api/types';
import { useStill } from '@/entry/useStill';
import BecausePanel from '@/job/BecausePanel.vue';
import { useJob } from '@/job/useJob';
import StateLine from '@/shell/StateLine.vue';
import StripFrame from '@/strip/StripFrame.vue';
import StripRow from '@/strip/StripRow.vue';
import CautionList from '@/job/CautionList.vue';
import AnswerBoard from './AnswerBoard.vue';
import ElectricalLine from './ElectricalLine.vue';
import ResidualGauge from './ResidualGauge.vue';
import SheetColumns from './SheetColumns.vue';
import SheetGrid from './SheetGrid.vue';
import SheetSetUp from './SheetSetUp.vue';
import CrankingPanel from './CrankingPanel.vue';
import PickOne from '@/shell/PickOne.vue';
import ExerciseRead from '@/trainer/ExerciseRead.vue';
import ReadBar from './ReadBar.vue';
import RecordingPicture from './RecordingPicture.vue';
import RecordingRow from './RecordingRow.vue';
import TracePanel from './TracePanel.vue';
import StageChecks from './StageChecks.vue';
import { useRecordings } from './useRecordings';
import { useSheet, type SheetSpot } from './useSheet';

/** A check across the cylinders: entered cell by cell, judged as it fills. */
const job = useJob();
const route = useRoute();
const check = computed(() => String(route.params.check) as EngineTest);
const sheet = useSheet(check);
useStill(() => sheet.view.value);
const view = computed(() => job.view.value!);
const layout = computed(() => view.value.file.job.intake.layout);
const order = computed(() => view.value.banks.flat());
const form = computed(() => sheet.form.value);

const tapped = ref<number | null>(null);
const selected = computed(() => tapped.value ?? sheet.verdict.value?.pressing ?? null);
/** A set of which something is not of now is spoken for by what the job says by now. */
const headline = computed(() =>
  sheet.verdict.value?.lanes.some((one) => one.standing)
    ? view.value.now.headline
    : sheet.verdict.value?.headline,
);
const lane = computed(() => sheet.verdict.value?.lanes.find((one) => one.place === selected.value));

/** Cells of the set first, then cylinder by cylinder: start and end of one belong together. */
const all = () => {
  const cells = [...document.querySelectorAll<HTMLElement>('.sheet [data-cell]')];
  const column = (cell: HTMLElement) => order.value.indexOf(Number(cell.dataset.of ?? -1));
  return cells
    .filter((cell) => cell.checkVisibility())
    .map((cell, i) => ({ cell, key: column(cell) * 1000 + i }))
    .sort((a, b) => a.key - b.key)
    .map((one) => one.cell);
};
/** Enter leaves the cell and goes to the next. */
function next(event: KeyboardEvent) {
  const cells = all();
  const to = cells[cells.indexOf(event.target as HTMLElement) + 1];
  if (to) to.focus();
  else (event.target as HTMLElement).blur();
}
/** The field that was touched last: an instrument reads into it. */
const touched = ref<SheetSpot>();
watch(check, () => (touched.value = undefined));
const more = ref(false);
const asked = computed(() => (form.value?.set ?? []).filter((cell) => more.value || !cell.more));
/** Checks that are only looked at have their questions in the middle, large. */
const looked = computed(() =>
  form.value?.each.length ? [] : asked.value.filter((one) => one.choices.length),
);
const beside = computed(() => asked.value.filter((cell) => !looked.value.includes(cell)));
const rows = computed(() => (form.value?.each ?? []).filter((cell) => more.value || !cell.more));
const recorded = computed(() => form.value?.recorded ?? undefined);
const cranked = computed(() => recorded.value?.kind === 'cranking');
const recordings = useRecordings({
  form: () => form.value,
  record: () => sheet.record.value,
  drive: () => sheet.cells.text({ cell: recorded.value?.drive ?? '', cylinder: null }),
  begin: () => sheet.needed(),
  say: (cylinder, cell, typed) => {
    // What the starter says is relative, and is judged as that.
    if (cranked.value) void sheet.cells.say({ cell: 'method', cylinder: null }, '1');
    void sheet.cells.say({ cell, cylinder }, typed);
  },
});
/** A kink that a person sees elsewhere: the figure is theirs from then on. */
const moved = (cylinder: number, ms: number) =>
  void sheet.cells.say({ cell: 'opens', cylinder }, `${ms.toFixed(2)} ms`);
const traced = computed(() => check.value === 'pressure_drop');
/** Cylinders in the order in which they were pulsed. */
const taken = computed(() => {
  const ends = (sheet.record.value?.readings ?? []).filter((one) => one.cell === 'end');
  return [...new Set(ends.map((one) => one.cylinder ?? 0))];
});
function takeOver(cylinder: number, start: number, end: number) {
  void sheet.cells.say({ cell: 'start', cylinder }, `${start.toFixed(2)} kPa`);
  void sheet.cells.say({ cell: 'end', cylinder }, `${end.toFixed(2)} kPa`);
}
</script>

<template>
  <main class="bench-page sheet">
    <StateLine v-if="!form" :loading="!sheet.known.value" :error="null" empty="No such check." />
    <template v-else>
      <StageChecks :stage="form.stage" />
      <aside aria-label="Conditions" class="left">
        <SheetSetUp v-model:more="more" :sheet="sheet" :form="form" :asked="beside" @next="next" />
      </aside>
      <section class="centre" :aria-label="form.title">
        <ElectricalLine
          v-if="form.stage === 'electrical' && !recorded && view.electrical"
          :electrical="view.electrical"
        />
        <p v-if="sheet.view.value?.refused" class="bench-finding wrong" role="status">
          {{ sheet.view.value.refused }}
        </p>
        <p
          v-else-if="sheet.verdict.value"
          class="bench-finding"
          :class="{ large: looked.length }"
          role="status"
        >
          <strong>{{ headline }}</strong>
          <span v-for="line in sheet.verdict.value.advice" :key="line">{{ ' ' + line }}</span>
          <span v-for="flag in sheet.verdict.value.flags" :key="flag" class="flag">{{ flag }}</span>
        </p>
        <p v-else class="bench-finding muted">
          {{
            looked.length
              ? 'Tap an answer; it saves at once.'
              : 'Fill in the cells; each saves as you leave it.'
          }}
        </p>
        <AnswerBoard
          v-if="looked.length"
          :cells="looked"
          :text="(cell) => sheet.cells.text({ cell, cylinder: null })"
          @chose="(cell, value) => sheet.cells.say({ cell, cylinder: null }, value)"
        />
        <PickOne
          v-if="recorded && recordings.sources.value.length > 1"
          v-model="recordings.source.value"
          class="sources"
          word="Recordings from"
          :options="recordings.sources.value"
        />
        <ExerciseRead v-if="view.file.job.exercise" :sheet="sheet" :touched="touched" />
        <ReadBar
          v-else
          :sheet="sheet"
          :form="form"
          :order="order"
          :touched="touched"
          @next="touched = $event"
        />
        <StripFrame
          :banks="view.banks"
          :first-at="layout.first_at"
          :labels="job.labels.value"
          :selected="selected"
          @select="tapped = $event"
        >
          <StripRow v-if="traced && taken.length > 1" word="test order">
            <template #default="{ cylinder }">
              <p class="taken">{{ taken.indexOf(cylinder) + 1 || '' }}</p>
            </template>
            <template #tail><span class="muted small">in this order</span></template>
          </StripRow>
          <RecordingRow v-if="recorded && !cranked" :recordings="recordings" />
          <SheetGrid
            :sheet="sheet"
            :form="form"
            :rows="rows"
            :order="order"
            @next="next"
            @touched="touched = $event"
          />
          <SheetColumns v-if="sheet.verdict.value" :verdict="sheet.verdict.value" />
          <ResidualGauge v-if="sheet.verdict.value?.residual.length" :verdict="sheet.verdict.value" />
        </StripFrame>
        <p v-if="recordings.wrong.value" class="bench-finding wrong" role="alert">
          {{ recordings.wrong.value }}
        </p>
        <CrankingPanel v-if="cranked" :recordings="recordings" :record="sheet.record.value?.recordings" />
        <RecordingPicture
          v-else-if="recorded"
          :recordings="recordings.newest.value"
          :cylinder="selected"
          @moved="moved"
        />
        <TracePanel
          v-if="traced"
          :record="sheet.record.value"
          :order="order"
          @take="takeOver"
          @needed="(then) => void sheet.needed().then(then)"
        />
      </section>
      <aside aria-label="Because" class="right">
        <BecausePanel
          v-if="lane && lane.because.length && sheet.verdict.value"
          :lane="lane"
          :verdict="sheet.verdict.value"
        />
        <p v-else-if="form.each.length" class="muted">Reasons appear here after the first reading.</p>
        <div v-else class="means">
          <h2>Meaning</h2>
          <p>{{ view.plan.steer }}</p>
          <h2>Cautions</h2>
          <CautionList :cautions="form.cautions" />
        </div>
      </aside>
    </template>
  </main>
</template>

<style scoped>
.means {
  display: grid;
  gap: 10px;
}
.sources {
  padding: 4px 14px;
}
.taken {
  text-align: center;
  color: var(--muted);
}
.large {
  font-size: 1.35rem;
  margin-bottom: 10px;
}
</style>
