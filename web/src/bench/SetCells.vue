<script setup lang="ts">
import type { CellForm } from '@/api/types';
import { useSession } from './useSession';

/** Cells of the round, or of one row: answers to choose from, numbers, words. */
defineProps<{ cells: CellForm[]; row?: number | null }>();
const emit = defineEmits<{ next: [event: KeyboardEvent] }>();
const session = useSession();
const spot = (cell: CellForm, row: number | null | undefined) => ({
  cell: cell.name,
  row: row ?? null,
  tag: null,
});
</script>

<template>
  <div
    v-for="cell in cells"
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
      :class="{ done: session.text(spot(cell, row)) === '1' }"
      :aria-pressed="session.text(spot(cell, row)) === '1'"
      @click="session.say(spot(cell, row), session.text(spot(cell, row)) === '1' ? '0' : '1')"
    >
      {{ session.text(spot(cell, row)) === '1' ? cell.choices[1] : cell.choices[0] }}
    </button>
    <select
      v-else-if="cell.choices.length"
      :id="`set-${row ?? ''}-${cell.name}`"
      data-cell
      :value="session.text(spot(cell, row))"
      @change="session.say(spot(cell, row), ($event.target as HTMLSelectElement).value)"
    >
      <option value="">not said</option>
      <option v-for="(word, i) in cell.choices" :key="word" :value="String(i)">{{ word }}</option>
    </select>
    <input
      v-else
      :id="`set-${row ?? ''}-${cell.name}`"
      data-cell
      :inputmode="cell.words ? 'text' : 'decimal'"
      autocomplete="off"
      :value="session.text(spot(cell, row))"
      :aria-invalid="!!session.wrong[session.key(spot(cell, row))]"
      @input="session.type(spot(cell, row), ($event.target as HTMLInputElement).value)"
      @blur="session.keep(spot(cell, row))"
      @keydown.enter.prevent="emit('next', $event)"
    />
    <span v-if="cell.unit" class="muted small">{{ cell.unit }}</span>
    <span v-if="session.wrong[session.key(spot(cell, row))]" class="wrong small" role="alert">{{
      session.wrong[session.key(spot(cell, row))]
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
