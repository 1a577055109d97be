<script setup lang="ts">
import type { CellForm } from '@/api/types';

/** A check that is looked at: each question with its answers in sight, large enough for a glove. */
const props = defineProps<{ cells: CellForm[]; text: (cell: string) => string }>();
const emit = defineEmits<{ chose: [cell: string, value: string] }>();
const says = (cell: string, i: number) => props.text(cell) === String(i);
</script>

<template>
  <div class="board">
    <div v-for="cell in cells" :key="cell.name" class="row" role="group" :aria-label="cell.word">
      <span class="word">{{ cell.word }}</span>
      <span class="answers">
        <button
          v-for="(word, i) in cell.choices"
          :key="word"
          type="button"
          :data-answer="`${cell.name}-${i}`"
          :aria-pressed="says(cell.name, i)"
          @click="emit('chose', cell.name, says(cell.name, i) ? '' : String(i))"
        >
          {{ word }}
        </button>
      </span>
    </div>
  </div>
</template>

<style scoped>
.board {
  display: grid;
}
.row {
  display: grid;
  grid-template-columns: 150px minmax(0, 1fr);
  gap: 8px;
  align-items: center;
  padding: 10px 14px;
  border-bottom: 1px solid var(--line);
}
.word {
  font-size: 1.1rem;
}
.answers {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
button {
  min-height: 56px;
  padding: 0 15px;
  border: 2px solid var(--edge);
  border-radius: 8px;
  background: var(--sheet);
  font-size: 1.05rem;
  cursor: pointer;
}
button[aria-pressed='true'] {
  background: var(--ink);
  border-color: var(--ink);
  color: var(--sheet);
  font-weight: 700;
}
</style>
