<script setup lang="ts">
import type { Event, Fitting, FitStep } from '@/api/types';
import type { JobHandle } from '@/job/useJob';
import InjectorMark from '@/strip/InjectorMark.vue';
import StripRow from '@/strip/StripRow.vue';

/** One step of the card across the cylinders. */
type Row = Fitting['steps'][number];
const props = defineProps<{
  job: JobHandle;
  card: Fitting;
  row: Row;
  tell: (event: Event) => Promise<boolean>;
}>();
const emit = defineEmits<{ tapped: [cylinder: number] }>();
const tick = (row: Row, cylinder: number) => row.ticks.find((one) => one.cylinder === cylinder);
const left = (row: Row) => props.card.out.filter((cylinder) => !tick(row, cylinder));
const name = (row: Row, cylinder: number) => {
  const held = tick(row, cylinder);
  return held ? props.job.person(held.signed.by) || 'ticked' : '';
};
/** What stands in the cell, after what it is about. */
const said = (row: Row, cylinder: number) => {
  const out = props.card.out.includes(cylinder) || row !== props.card.steps[0];
  const held = name(row, cylinder);
  return held ? `: ${held}` : out ? '' : ': not removed';
};
function turn(row: Row, cylinder: number) {
  emit('tapped', cylinder);
  const fitted = { step: row.step as FitStep, cylinders: [cylinder], done: !tick(row, cylinder) };
  void props.tell({ what: 'fitted', ...fitted });
}
const all = (row: Row) => props.tell({ what: 'fitted', step: row.step, cylinders: left(row), done: true });
</script>

<template>
  <p class="step">
    <strong>{{ row.word }}</strong>
    <strong v-if="row.step === 'torque' && card.tightening.known" class="figure">{{
      card.tightening.stages.join(', then ')
    }}</strong>
    <span v-else class="muted">{{ row.why }}</span>
  </p>
  <StripRow>
    <template #gutter>
      <button
        v-if="left(row).length > 1"
        class="all"
        type="button"
        :aria-label="`tick all ${left(row).length}: ${row.word}`"
        @click="all(row)"
      >
        tick all {{ left(row).length }}
      </button>
    </template>
    <template #default="{ cylinder }">
      <button
        class="tick"
        type="button"
        :class="{ out: card.out.includes(cylinder), done: tick(row, cylinder) }"
        :aria-pressed="!!tick(row, cylinder)"
        :aria-label="`${row.word}, cylinder ${cylinder}${said(row, cylinder)}`"
        @click="turn(row, cylinder)"
      >
        <InjectorMark
          v-if="tick(row, cylinder) || card.out.includes(cylinder)"
          :mark="tick(row, cylinder) ? 'inside' : 'not_measured'"
          :size="28"
          silent
        />
        <span v-else class="stays">{{ row === card.steps[0] ? 'not removed' : '·' }}</span>
        <span v-if="tick(row, cylinder)" class="by">{{ name(row, cylinder) }}</span>
      </button>
    </template>
  </StripRow>
</template>

<style scoped>
.step {
  padding: 8px 8px 0 12px;
  border-top: 1px solid var(--line);
  line-height: 1.25;
}
.all,
.tick {
  min-height: 48px;
  border: 0;
  background: none;
  cursor: pointer;
}
.all {
  color: var(--act);
  text-decoration: underline;
  padding: 0 2px;
}
.tick {
  min-height: 48px;
  border: 0;
  background: none;
  cursor: pointer;
}
.tick.out {
  color: var(--ink);
  box-shadow: inset 0 0 0 2px var(--edge);
  border-radius: 8px;
}
.step > * + * {
  margin-left: 8px;
}
.figure {
  color: var(--act);
}
.tick.done {
  color: var(--inside);
  box-shadow: none;
}
.by,
.stays {
  font-size: clamp(0.62rem, calc(11 * var(--cell)), 0.9rem);
  overflow-wrap: anywhere;
}
</style>
