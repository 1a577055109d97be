<script setup lang="ts">
import { computed } from 'vue';
import type { EngineEnd } from '@/api/types';
import EngineEndDrawing from './EngineEndDrawing.vue';
import StripRow from './StripRow.vue';
import { provideStrip } from './useStrip';

/**
 * The strip: the injectors of a job side by side, in the engine's physical order and bank by bank.
 * Every stage draws its rows into these columns (`StripRow` in the default slot).
 */
const props = withDefaults(
  defineProps<{
    banks: number[][];
    /** Which end of an engine is cylinder 1; none on a bench rail. */
    firstAt?: EngineEnd;
    noun?: string;
    labels?: Record<number, string>;
    selected?: number | null;
    gutter?: string;
  }>(),
  { labels: () => ({}), selected: null, gutter: '84px', firstAt: undefined, noun: 'Cylinder' },
);
const emit = defineEmits<{ select: [cylinder: number] }>();

provideStrip(computed(() => ({ banks: props.banks, selected: props.selected })));

const count = computed(() => props.banks.flat().length);
const columns = computed(() => {
  const banks = props.banks.map((bank) => `repeat(${bank.length}, minmax(0, 1fr))`);
  return `${props.gutter} ${banks.join(' 9px ')} ${props.gutter}`;
});
/** The same, turned: a row for each injector, the gap between banks, word above and tail below. */
const rows = computed(() => {
  const banks = props.banks.map((bank) => `repeat(${bank.length}, auto)`);
  return `auto ${banks.join(' 9px ')} auto`;
});
/** A hundredth of a column's width. Each cell a container of its own would cost a layer for each. */
const cell = computed(() => {
  const beside = `2 * ${props.gutter} + ${(props.banks.length - 1) * 9}px`;
  return `calc((100cqw - (${beside})) / ${count.value * 100})`;
});
</script>

<template>
  <div class="strip-box">
    <div
      class="strip"
      :class="{ some: count > 4, many: count > 6, crowd: count > 8 }"
      :style="{ '--strip-columns': columns, '--strip-rows': rows, '--cell': cell }"
    >
      <StripRow>
        <template #gutter
          ><EngineEndDrawing v-if="firstAt" end="pulley" :first="firstAt === 'pulley'"
        /></template>
        <template #default="{ cylinder }">
          <button
            class="head"
            type="button"
            :aria-label="`${noun} ${cylinder} ${labels[cylinder] ?? ''}`.trim()"
            :aria-pressed="cylinder === selected"
            @click="emit('select', cylinder)"
          >
            <span class="number">{{ cylinder }}</span>{{ ' ' }}
            <span class="label">{{ labels[cylinder] }}</span>
          </button>
        </template>
        <template #tail
          ><EngineEndDrawing v-if="firstAt" end="flywheel" :first="firstAt === 'flywheel'"
        /></template>
      </StripRow>
      <slot />
    </div>
  </div>
</template>

<style scoped>
.strip-box {
  container-type: inline-size;
}
.strip {
  /* Numbers in a cell are sized by its width (--cell): twelve columns on a tablet still fit. */
  --number: 2.3rem;
  --value: 2.1rem;
  --word: 1.05rem;
}
.some {
  --value: 1.8rem;
}
.some :deep(.mark) {
  flex-direction: column;
}
.many {
  --number: 1.7rem;
  --value: 1.45rem;
  --word: 0.85rem;
}
.crowd {
  --number: 1.4rem;
  --value: 1.15rem;
  --word: 0.72rem;
}
/* More than eight on an upright tablet: the grid turns, and each injector has a row of its own with
   fields that a glove can meet. */
@media screen and (max-width: 900px) {
  .crowd {
    --value: 1.3rem;
    --number: 1.5rem;
    --word: 0.9rem;
    --cell: 1px !important;
    display: grid;
    grid-auto-flow: column;
    grid-auto-columns: minmax(96px, 1fr);
    grid-template-rows: var(--strip-rows);
    overflow-x: auto;
  }
  .crowd > :deep(*) {
    grid-row: 1 / -1;
  }
  .crowd > :deep(.strip-row) {
    display: grid;
    grid-template: subgrid / minmax(0, 1fr);
  }
  .crowd > :deep(.strip-row:first-child) {
    position: sticky;
    left: 0;
    z-index: 2;
    background: var(--paper);
    border-right: 2px solid var(--ink);
  }
  .crowd :deep(.cell) {
    border-left: 0;
    border-top: 1px solid var(--line);
    min-height: 56px;
    display: grid;
    align-items: center;
  }
  .crowd :deep(.between) {
    border-left: 0;
    border-top: 4px solid var(--ink);
    margin: 5px 0 0;
  }
  .crowd :deep(.gutter) {
    justify-content: center;
    padding: 2px 4px;
    text-align: center;
  }
  .crowd :deep(.plot) {
    height: 52px;
    margin: 2px 0;
  }
  .crowd :deep(.few) {
    grid-auto-flow: column;
    grid-auto-columns: 1fr;
  }
  .crowd :deep(.axis) {
    display: none;
  }
  .crowd .label {
    display: inline;
  }
}
.head {
  width: 100%;
  min-height: 56px;
  background: none;
  border: 0;
  cursor: pointer;
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  justify-content: space-between;
  gap: 0 6px;
  padding: 4px 8px 4px 10px;
  text-align: left;
}
.number {
  font-size: var(--number);
  font-weight: 700;
  line-height: 1.1;
}
.label {
  font-size: 0.78rem;
  color: var(--muted);
  overflow: hidden;
  text-overflow: ellipsis;
}
.crowd .label {
  display: none;
}
</style>
