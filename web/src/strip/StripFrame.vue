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
/** A hundredth of a column's width. Each cell a container of its own would cost a layer for each. */
const cell = computed(() => {
  const beside = `2 * ${props.gutter} + ${(props.banks.length - 1) * 9}px`;
  return `calc((100cqw - (${beside})) / ${count.value * 100})`;
});
</script>

<template>
  <div
    class="strip"
    :class="{ some: count > 4, many: count > 6, crowd: count > 8 }"
    :style="{ '--strip-columns': columns, '--cell': cell }"
  >
    <StripRow>
      <template #gutter
        ><EngineEndDrawing v-if="firstAt" end="pulley" :first="firstAt === 'pulley'"
      /></template>
      <template #default="{ cylinder }">
        <button
          class="head"
          type="button"
          :aria-label="`${noun} ${cylinder}${labels[cylinder] ? ', injector ' + labels[cylinder] : ''}`"
          :aria-pressed="cylinder === selected"
          @click="emit('select', cylinder)"
        >
          <span class="number">{{ cylinder }}</span>
          <span class="label">{{ labels[cylinder] }}</span>
        </button>
      </template>
      <template #tail
        ><EngineEndDrawing v-if="firstAt" end="flywheel" :first="firstAt === 'flywheel'"
      /></template>
    </StripRow>
    <slot />
  </div>
</template>

<style scoped>
.strip {
  /* Numbers in a cell are sized by its width (--cell): twelve columns on a tablet still fit. */
  container-type: inline-size;
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
