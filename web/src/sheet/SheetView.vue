<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';
import { ask } from '@/api/client';
import type { InstrumentView, EngineTest } from '@/api/types';
import BecausePanel from '@/job/BecausePanel.vue';
import { useJob } from '@/job/useJob';
import StateLine from '@/shell/StateLine.vue';
import StripFrame from '@/strip/StripFrame.vue';
import StripRow from '@/strip/StripRow.vue';
import CautionList from '@/job/CautionList.vue';
import StartTicks from '@/job/StartTicks.vue';
import AnswerBoard from './AnswerBoard.vue';
import ChoiceCell from './ChoiceCell.vue';
import ElectricalLine from './ElectricalLine.vue';
import ResidualGauge from './ResidualGauge.vue';
import SheetColumns from './SheetColumns.vue';
import TracePanel from './TracePanel.vue';
import StageChecks from './StageChecks.vue';
import { useSheet } from './useSheet';

/** A check across the cylinders: entered cell by cell, judged as it fills. */
const job = useJob();
const route = useRoute();
const check = computed(() => String(route.params.check) as EngineTest);
const sheet = useSheet(check);
const view = computed(() => job.view.value!);
const layout = computed(() => view.value.file.job.intake.layout);
const order = computed(() => view.value.banks.flat());
const form = computed(() => sheet.form.value);

const instruments = useQuery({
  queryKey: ['instruments'],
  queryFn: () => ask<InstrumentView[]>('GET', '/instruments'),
});
const suited = computed(() =>
  (instruments.data.value ?? []).filter((one) => one.instrument.kind === form.value?.instrument),
);

const tapped = ref<number | null>(null);
const selected = computed(() => tapped.value ?? sheet.verdict.value?.pressing ?? null);
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
/** A column pasted into a cell fills the cells of the following cylinders too. */
function paste(event: ClipboardEvent, cell: string, cylinder: number) {
  const lines = (event.clipboardData?.getData('text') ?? '').split(/[\r\n\t]+/).map((line) => line.trim());
  const values = lines.filter(Boolean);
  if (values.length < 2) return;
  event.preventDefault();
  const from = order.value.indexOf(cylinder);
  values.forEach((value, i) => {
    const to = order.value[from + i];
    if (to !== undefined) sheet.say(cell, to, value);
  });
}
const more = ref(false);
const asked = computed(() => (form.value?.set ?? []).filter((cell) => more.value || !cell.more));
/** Checks that are only looked at have their questions in the middle, large. */
const looked = computed(() =>
  form.value?.each.length ? [] : asked.value.filter((one) => one.choices.length),
);
const beside = computed(() => asked.value.filter((cell) => !looked.value.includes(cell)));
const rows = computed(() => (form.value?.each ?? []).filter((cell) => more.value || !cell.more));
const folds = computed(() =>
  [...(form.value?.set ?? []), ...(form.value?.each ?? [])].some((one) => one.more),
);
const traced = computed(() => check.value === 'pressure_drop');
/** Cylinders in the order in which they were pulsed. */
const taken = computed(() => {
  const ends = (sheet.record.value?.readings ?? []).filter((one) => one.cell === 'end');
  return [...new Set(ends.map((one) => one.cylinder ?? 0))];
});
function takeOver(cylinder: number, start: number, end: number) {
  sheet.say('start', cylinder, start.toFixed(2));
  sheet.say('end', cylinder, end.toFixed(2));
}
</script>

<template>
  <main class="bench-page sheet">
    <StateLine v-if="!form" :loading="!sheet.known.value" :error="null" empty="There is no such check." />
    <template v-else>
      <StageChecks :stage="form.stage" />
      <aside class="left">
        <h2>{{ form.title }}</h2>
        <p class="muted small">{{ form.says }}</p>
        <CautionList
          v-if="form.each.length"
          :cautions="form.cautions"
          :brief="!!sheet.record.value?.readings.length"
        />
        <label v-if="suited.length && !sheet.record.value" class="pick">
          Read with
          <select id="instrument" v-model="sheet.instrument.value">
            <option value="">not listed</option>
            <option v-for="one in suited" :key="one.instrument.id" :value="one.instrument.id">
              {{ one.instrument.name }}{{ one.overdue ? ', overdue' : '' }}
            </option>
          </select>
        </label>
        <p v-else-if="sheet.record.value?.instrument" class="small">
          Read with <strong>{{ sheet.record.value.instrument.name }}</strong>
        </p>
        <StartTicks
          :conditions="form.start"
          :ticked="sheet.ticked.value"
          @turn="(id, on) => sheet.say(`start_${id}`, null, on ? '1' : '0')"
        />
        <div v-for="cell in beside" :key="cell.name" class="set">
          <label :for="`set-${cell.name}`">{{ cell.word }}</label>
          <select
            v-if="cell.choices.length"
            :id="`set-${cell.name}`"
            data-cell
            :value="sheet.text(cell.name, null)"
            @change="
              (sheet.type(cell.name, null, ($event.target as HTMLSelectElement).value),
              sheet.keep(cell.name, null))
            "
          >
            <option value="">not said</option>
            <option v-for="(word, i) in cell.choices" :key="word" :value="String(i)">{{ word }}</option>
          </select>
          <input
            v-else
            :id="`set-${cell.name}`"
            data-cell
            inputmode="decimal"
            autocomplete="off"
            :value="sheet.text(cell.name, null)"
            :aria-invalid="!!sheet.wrong[sheet.name(cell.name, null)]"
            @input="sheet.type(cell.name, null, ($event.target as HTMLInputElement).value)"
            @blur="sheet.keep(cell.name, null)"
            @keydown.enter.prevent="next"
          />
          <span class="muted small">{{ cell.unit }}</span>
          <span v-if="sheet.wrong[sheet.name(cell.name, null)]" class="wrong small" role="alert">{{
            sheet.wrong[sheet.name(cell.name, null)]
          }}</span>
        </div>
        <button v-if="folds" class="link-act" type="button" :aria-expanded="more" @click="more = !more">
          {{ more ? 'Fewer fields' : 'Fuel left in the cylinders, waiting time' }}
        </button>
        <button v-if="sheet.record.value" class="link-act" type="button" @click="sheet.begin()">
          Read the set anew
        </button>
      </aside>
      <section class="centre" :aria-label="form.title">
        <ElectricalLine v-if="form.stage === 'electrical' && view.electrical" :electrical="view.electrical" />
        <p v-if="sheet.view.value?.refused" class="bench-finding wrong" role="status">
          {{ sheet.view.value.refused }}
        </p>
        <p
          v-else-if="sheet.verdict.value"
          class="bench-finding"
          :class="{ large: looked.length }"
          role="status"
        >
          <strong>{{ sheet.verdict.value.headline }}</strong>
          <span v-for="line in sheet.verdict.value.advice" :key="line">{{ ' ' + line }}</span>
          <span v-for="flag in sheet.verdict.value.flags" :key="flag" class="flag">{{ flag }}</span>
        </p>
        <p v-else class="bench-finding muted">
          {{
            looked.length
              ? 'Tap an answer; it is kept at once.'
              : 'Type into the cells; each is kept as you leave it.'
          }}
        </p>
        <AnswerBoard
          v-if="looked.length"
          :cells="looked"
          :text="(cell) => sheet.text(cell, null)"
          @chose="(cell, value) => sheet.say(cell, null, value)"
        />
        <StripFrame
          :banks="view.banks"
          :first-at="layout.first_at"
          :labels="job.labels.value"
          :selected="selected"
          @select="tapped = $event"
        >
          <StripRow v-if="traced && taken.length > 1" word="taken">
            <template #default="{ cylinder }">
              <p class="taken">{{ taken.indexOf(cylinder) + 1 || '' }}</p>
            </template>
            <template #tail><span class="muted small">in this order</span></template>
          </StripRow>
          <StripRow v-for="cell in rows" :key="cell.name" :word="cell.word">
            <template #default="{ cylinder }">
              <ChoiceCell
                v-if="cell.choices.length"
                :word="cell.word"
                :choices="cell.choices"
                :cylinder="cylinder"
                :value="sheet.text(cell.name, cylinder)"
                @chose="sheet.say(cell.name, cylinder, $event)"
              />
              <input
                v-else
                data-cell
                :data-of="cylinder"
                class="entry"
                inputmode="decimal"
                autocomplete="off"
                :aria-label="`${cell.word} of cylinder ${cylinder}`"
                :value="sheet.text(cell.name, cylinder)"
                :aria-invalid="!!sheet.wrong[sheet.name(cell.name, cylinder)]"
                @input="sheet.type(cell.name, cylinder, ($event.target as HTMLInputElement).value)"
                @blur="sheet.keep(cell.name, cylinder)"
                @keydown.enter.prevent="next"
                @paste="paste($event, cell.name, cylinder)"
              />
            </template>
            <template #tail
              ><span class="muted small">{{ cell.unit }}</span></template
            >
          </StripRow>
          <template v-for="cylinder in order" :key="cylinder">
            <template v-for="cell in form.each" :key="cell.name">
              <p v-if="sheet.wrong[sheet.name(cell.name, cylinder)]" class="wrong" role="alert">
                Cylinder {{ cylinder }}: {{ sheet.wrong[sheet.name(cell.name, cylinder)] }}
              </p>
            </template>
          </template>
          <SheetColumns v-if="sheet.verdict.value" :verdict="sheet.verdict.value" />
          <ResidualGauge v-if="sheet.verdict.value?.residual.length" :verdict="sheet.verdict.value" />
        </StripFrame>
        <TracePanel
          v-if="traced"
          :record="sheet.record.value"
          :order="order"
          @take="takeOver"
          @needed="(then) => void sheet.begin().then(then)"
        />
      </section>
      <aside class="right">
        <BecausePanel
          v-if="lane && lane.because.length && sheet.verdict.value"
          :lane="lane"
          :verdict="sheet.verdict.value"
        />
        <p v-else-if="form.each.length" class="muted">The reasons stand here once something is read.</p>
        <div v-else class="means">
          <h2>What it means</h2>
          <p>{{ view.plan.steer }}</p>
          <h2>Before it</h2>
          <CautionList :cautions="form.cautions" />
        </div>
      </aside>
    </template>
  </main>
</template>

<style scoped>
.set {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 86px 34px;
  gap: 0 8px;
  align-items: center;
}
.set .wrong {
  grid-column: 1 / -1;
}
.pick {
  display: grid;
  gap: 2px;
}
.pick select {
  min-height: 46px;
}
.means {
  display: grid;
  gap: 10px;
}
.taken {
  text-align: center;
  color: var(--muted);
}
.large {
  font-size: 1.35rem;
  margin-bottom: 10px;
}
input.entry {
  display: block;
  width: calc(100% - 12px);
  margin: 5px 6px;
  text-align: center;
  font-size: clamp(0.95rem, calc(20 * var(--cell)), 1.35rem);
  padding: 0 2px;
}
</style>
