<script setup lang="ts">
import type { CellForm } from '@/api/types';
import CellInput from '@/entry/CellInput.vue';
import { useSession } from './useSession';

/** Cells of the round, or of one row: answers to choose from, numbers, words. */
defineProps<{ forms: CellForm[]; row?: number | null }>();
const emit = defineEmits<{ next: [event: KeyboardEvent] }>();
const { cells } = useSession();
const spot = (cell: CellForm, row: number | null | undefined) => ({
  cell: cell.name,
  row: row ?? null,
  tag: null,
});
</script>

<template>
  <div
    v-for="cell in forms"
    :key="cell.name"
    class="set"
    :class="{ wide: cell.choices.length || cell.words }"
  >
    <label :for="`set-${row ?? ''}-${cell.name}`">{{ cell.word }}</label>
    <span v-if="cell.choices.length === 2" class="both" role="radiogroup" :aria-label="cell.word">
      <button
        v-for="(word, i) in cell.choices"
        :id="i ? undefined : `set-${row ?? ''}-${cell.name}`"
        :key="word"
        type="button"
        role="radio"
        :data-answer="`${cell.name}-${i}`"
        :aria-checked="cells.text(spot(cell, row)) === String(i)"
        @click="cells.say(spot(cell, row), String(i))"
      >
        {{ word }}
      </button>
    </span>
    <select
      v-else-if="cell.choices.length"
      :id="`set-${row ?? ''}-${cell.name}`"
      data-cell
      :value="cells.text(spot(cell, row))"
      @change="cells.say(spot(cell, row), ($event.target as HTMLSelectElement).value)"
    >
      <option value="">not stated</option>
      <option v-for="(word, i) in cell.choices" :key="word" :value="String(i)">{{ word }}</option>
    </select>
    <CellInput
      v-else
      :id="`set-${row ?? ''}-${cell.name}`"
      data-cell
      :inputmode="cell.words ? 'text' : 'decimal'"
      :cells="cells"
      :spot="spot(cell, row)"
      @keydown.enter.prevent="emit('next', $event)"
    />
    <span v-if="cell.unit" class="muted small">{{ cell.unit }}</span>
    <span v-if="cells.wrong[cells.name(spot(cell, row))]" class="wrong small" role="alert">{{
      cells.wrong[cells.name(spot(cell, row))]
    }}</span>
  </div>
</template>

<style scoped>
/* The word above its field: nothing is cut off, and fields stand side by side where there is room. */
.set {
  display: grid;
  grid-template-columns: 104px auto;
  gap: 2px 6px;
  align-items: center;
}
.set label {
  grid-column: 1 / -1;
  font-size: 0.85rem;
}
.set.wide {
  grid-template-columns: minmax(170px, auto);
}
.wrong {
  grid-column: 1 / -1;
}
.both {
  display: grid;
  grid-template-columns: 1fr 1fr;
}
.both button {
  min-height: 46px;
  min-width: 0;
  border: 2px dashed var(--edge);
  background: none;
  color: var(--muted);
  font: inherit;
  font-size: 0.85rem;
  line-height: 1.1;
  padding: 0 3px;
  cursor: pointer;
}
.both button:first-child {
  border-radius: 6px 0 0 6px;
  border-right: 0;
}
.both button:last-child {
  border-radius: 0 6px 6px 0;
}
.both button[aria-checked='true'] {
  border-style: solid;
  border-color: var(--ink);
  background: var(--ink);
  color: var(--sheet);
  font-weight: 700;
}
</style>
