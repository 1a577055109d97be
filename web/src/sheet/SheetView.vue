<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';
import { ask } from '@/api/client';
import type { InstrumentView, SheetId } from '@/api/types';
import BecausePanel from '@/job/BecausePanel.vue';
import { useJob } from '@/job/useJob';
import StateLine from '@/shell/StateLine.vue';
import StripFrame from '@/strip/StripFrame.vue';
import StripRow from '@/strip/StripRow.vue';
import SheetColumns from './SheetColumns.vue';
import StageChecks from './StageChecks.vue';
import { useSheet } from './useSheet';

/** A check across the cylinders: entered cell by cell, judged as it fills. */
const job = useJob();
const route = useRoute();
const check = computed(() => String(route.params.check) as SheetId);
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
const PRESSING = ['too_much', 'too_little', 'questioned', 'undecided', 'look'];
const selected = computed(() => {
  if (tapped.value !== null) return tapped.value;
  const lanes = sheet.verdict.value?.lanes ?? [];
  const pressing = PRESSING.map((mark) => lanes.find((one) => one.mark === mark)).find(Boolean);
  return (pressing ?? lanes.find((one) => one.value != null))?.cylinder ?? null;
});
const lane = computed(() => sheet.verdict.value?.lanes.find((one) => one.cylinder === selected.value));

/** Enter leaves the cell and goes to the next: along the row, then down. */
function next(event: KeyboardEvent) {
  const all = [...document.querySelectorAll<HTMLElement>('.sheet [data-cell]')];
  const at = all.indexOf(event.target as HTMLElement);
  const to = all[at + 1];
  if (to) to.focus();
  else (event.target as HTMLElement).blur();
}
</script>

<template>
  <main class="sheet">
    <StateLine v-if="!form" :loading="!sheet.known.value" :error="null" empty="There is no such check." />
    <template v-else>
      <aside class="left">
        <StageChecks :stage="form.stage" />
        <h2>{{ form.title }}</h2>
        <p class="muted small">{{ form.says }}</p>
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
        <div v-for="cell in form.set" :key="cell.name" class="set">
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
        <p class="caution small">{{ form.caution }}</p>
        <button v-if="sheet.record.value" class="link-act" type="button" @click="sheet.begin()">
          Read the set anew
        </button>
      </aside>
      <section class="centre" :aria-label="form.title">
        <StripFrame
          :banks="view.banks"
          :first-at="layout.first_at"
          :labels="job.labels.value"
          :selected="selected"
          @select="tapped = $event"
        >
          <StripRow v-for="cell in form.each" :key="cell.name" :word="cell.word">
            <template #default="{ cylinder }">
              <input
                data-cell
                class="entry"
                inputmode="decimal"
                autocomplete="off"
                :aria-label="`${cell.word} of cylinder ${cylinder}`"
                :value="sheet.text(cell.name, cylinder)"
                :aria-invalid="!!sheet.wrong[sheet.name(cell.name, cylinder)]"
                @input="sheet.type(cell.name, cylinder, ($event.target as HTMLInputElement).value)"
                @blur="sheet.keep(cell.name, cylinder)"
                @keydown.enter.prevent="next"
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
        </StripFrame>
        <p v-if="sheet.view.value?.refused" class="bench-finding wrong" role="status">
          {{ sheet.view.value.refused }}
        </p>
        <p v-else-if="sheet.verdict.value" class="bench-finding" role="status">
          <strong>{{ sheet.verdict.value.headline }}</strong>
          <span v-for="line in sheet.verdict.value.advice" :key="line">{{ ' ' + line }}</span>
          <span v-for="flag in sheet.verdict.value.flags" :key="flag" class="flag">{{ flag }}</span>
        </p>
        <p v-else class="bench-finding muted">Type into the cells; each is kept as you leave it.</p>
      </section>
      <aside class="right">
        <BecausePanel
          v-if="lane && lane.because.length && sheet.verdict.value"
          :lane="lane"
          :verdict="sheet.verdict.value"
        />
        <p v-else class="muted">The reasons stand here once something is read.</p>
      </aside>
    </template>
  </main>
</template>

<style scoped>
.sheet {
  display: grid;
  grid-template-columns: 270px minmax(0, 1fr) 330px;
  min-height: calc(100vh - 114px);
}
.left {
  padding: 6px 18px 20px 22px;
  border-right: 1px solid var(--line);
  display: grid;
  gap: 10px;
  align-content: start;
}
.centre {
  padding: 8px 4px 16px;
  min-width: 0;
}
.right {
  background: var(--sheet);
  border-left: 1px solid var(--line);
  padding: 16px 20px;
}
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
input,
select {
  min-height: 46px;
  width: 100%;
  min-width: 0;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  color: inherit;
  font: inherit;
  font-weight: 700;
  padding: 0 8px;
}
.entry {
  display: block;
  width: calc(100% - 12px);
  margin: 5px 6px;
  text-align: center;
  font-size: clamp(0.95rem, 20cqw, 1.35rem);
  padding: 0 2px;
}
input[aria-invalid='true'] {
  border-color: var(--too-much);
}
@media (max-width: 1100px) {
  .sheet {
    grid-template-columns: 270px minmax(0, 1fr);
    grid-template-rows: auto 1fr;
  }
  .centre {
    grid-column: 1 / -1;
    grid-row: 1;
  }
}
</style>
