<script setup lang="ts">
import { computed } from 'vue';
import { clock } from '@/domain/time';
import { useJob } from '@/job/useJob';
import StripRow from '@/strip/StripRow.vue';
import ReturnResult from './ReturnResult.vue';
import { useCaught } from './useCaught';
import { useEntry } from './useEntry';

/**
 * While the clock runs: each bottle as a large target; a tap marks it full, with its time in it. Where an
 * instrument reads them, they fill as the bottles do.
 */
const job = useJob();
const entry = useEntry();
const caught = useCaught();
const holds = computed(() => job.test.value?.setup.capacity_ml ?? 100);
const line = computed(() => job.test.value?.setup.mark_ml ?? null);
const full = (ml: number) => Math.min(ml / holds.value, 1);
const mark = (cylinder: number) => entry.run.value && entry.runs.ofCylinder(entry.run.value, cylinder);
</script>

<template>
  <StripRow>
    <template #default="{ cylinder }">
      <button
        class="bottle"
        type="button"
        :class="{ full: mark(cylinder) && !caught.by.value, filling: caught.by.value }"
        :disabled="!entry.covered.value.includes(cylinder)"
        :aria-pressed="!!mark(cylinder)"
        :aria-label="`Mark bottle ${cylinder} full`"
        @click="entry.full(cylinder)"
      >
        <template v-if="caught.by.value">
          <span
            class="fuel"
            aria-hidden="true"
            :style="{ transform: `scaleY(${full(caught.level(cylinder) ?? 0)})` }"
          ></span>
          <span
            v-if="line"
            class="line"
            aria-hidden="true"
            :style="{ bottom: `${full(line) * 100}%` }"
          ></span>
        </template>
        <template v-if="mark(cylinder)">
          <strong>{{ mark(cylinder)!.kind === 'mark' ? 'mark' : 'full' }}</strong>
          <span class="at">{{ clock(mark(cylinder)!.value) }}</span>
        </template>
        <template v-else-if="caught.by.value">
          <strong class="level">{{ caught.level(cylinder)?.toFixed(1) ?? '–' }}</strong>
          <span class="tap">ml</span>
        </template>
        <span v-else-if="entry.covered.value.includes(cylinder)" class="tap">tap when full</span>
      </button>
    </template>
  </StripRow>
  <ReturnResult :verdict="undefined" />
</template>

<style scoped>
.bottle {
  width: 64%;
  height: min(300px, 38vh);
  margin: 26px auto 0;
  border: 3px solid var(--ink);
  border-top: 2px dashed var(--edge);
  border-radius: 0 0 8px 8px;
  background: var(--sheet);
  display: grid;
  align-content: end;
  justify-items: center;
  gap: 4px;
  padding: 0 2px 14px;
  cursor: pointer;
  font: inherit;
  color: var(--ink);
}
.bottle:disabled {
  border-style: dashed;
  border-color: var(--line);
  cursor: default;
}
.full {
  background: var(--fuel);
  border-top: 3px solid var(--ink);
  color: var(--sheet);
}
.filling {
  position: relative;
  overflow: hidden;
  align-content: start;
  padding-top: 12px;
}
.filling > * {
  position: relative;
}
.filling > strong,
.filling > .at,
.filling > .tap {
  background: var(--sheet);
  color: var(--ink);
  padding: 0 5px;
  line-height: 1.1;
}
.filling > .fuel {
  position: absolute;
  inset: 0;
  background: var(--fuel);
  transform-origin: bottom;
}
.filling > .line {
  position: absolute;
  left: 0;
  right: 0;
  border-top: 3px solid var(--ink);
}
.level {
  font-size: clamp(0.9rem, calc(22 * var(--cell)), 1.7rem);
}
.at {
  font-size: clamp(0.85rem, calc(24 * var(--cell)), 1.7rem);
  font-weight: 700;
}
.tap {
  font-size: 0.85rem;
  color: var(--muted);
  line-height: 1.2;
}
</style>
