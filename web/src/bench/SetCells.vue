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
    <button
      v-if="cell.choices.length === 2"
      :id="`set-${row ?? ''}-${cell.name}`"
      type="button"
      class="tick"
      :class="{ done: cells.text(spot(cell, row)) === '1' }"
      :aria-pressed="cells.text(spot(cell, row)) === '1'"
      @click="cells.say(spot(cell, row), cells.text(spot(cell, row)) === '1' ? '0' : '1')"
    >
      {{ cells.text(spot(cell, row)) === '1' ? cell.choices[1] : cell.choices[0] }}
    </button>
    <select
      v-else-if="cell.choices.length"
      :id="`set-${row ?? ''}-${cell.name}`"
      data-cell
      :value="cells.text(spot(cell, row))"
      @change="cells.say(spot(cell, row), ($event.target as HTMLSelectElement).value)"
    >
      <option value="">not said</option>
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
.set {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 84px 34px;
  gap: 0 8px;
  align-items: center;
}
.set.wide {
  grid-template-columns: minmax(0, 1fr) 130px;
}
.wrong {
  grid-column: 1 / -1;
}
.tick {
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
.tick {
  border-style: dashed;
  color: var(--muted);
  cursor: pointer;
}
.tick.done {
  border-style: solid;
  border-color: var(--inside);
  color: var(--inside);
}
</style>
