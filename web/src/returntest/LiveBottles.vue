<script setup lang="ts">
import { clock } from '@/domain/time';
import StripRow from '@/strip/StripRow.vue';
import ReturnResult from './ReturnResult.vue';
import { useEntry } from './useEntry';

/** While the clock runs: each bottle as a large target; a tap marks it full, with its time in it. */
const entry = useEntry();
const mark = (cylinder: number) => entry.run.value && entry.runs.ofCylinder(entry.run.value, cylinder);
</script>

<template>
  <StripRow>
    <template #default="{ cylinder }">
      <button
        class="bottle"
        type="button"
        :class="{ full: mark(cylinder) }"
        :disabled="!entry.covered.value.includes(cylinder)"
        :aria-pressed="!!mark(cylinder)"
        :aria-label="`Mark bottle ${cylinder} full`"
        @click="entry.full(cylinder)"
      >
        <template v-if="mark(cylinder)">
          <strong>{{ mark(cylinder)!.kind === 'mark' ? 'mark' : 'full' }}</strong>
          <span class="at">{{ clock(mark(cylinder)!.value) }}</span>
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
