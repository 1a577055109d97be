<script setup lang="ts">
import { LIMIT_COLUMN } from './words';

/** What each column of a file is: guessed by its words, changed by hand, remembered for the next file. */
const columns = defineModel<string[]>({ required: true });
defineProps<{ headings: readonly string[]; known: readonly string[] }>();
function mean(at: number, column: string) {
  columns.value = columns.value.map((one, i) => (i === at ? column : one === column ? '' : one));
}
</script>

<template>
  <fieldset>
    <legend>Columns</legend>
    <label v-for="(heading, at) in headings" :key="at">
      <span>{{ heading || `column ${at + 1}` }}</span>
      <select
        :value="columns[at]"
        :aria-label="`${heading} is`"
        @change="mean(at, ($event.target as HTMLSelectElement).value)"
      >
        <option value="">left out</option>
        <option v-for="column in known" :key="column" :value="column">
          {{ LIMIT_COLUMN[column] ?? column }}
        </option>
      </select>
    </label>
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 0;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(250px, 1fr));
  gap: 8px 18px;
}
label {
  display: grid;
  gap: 2px;
}
select {
  min-height: 46px;
  font: inherit;
  color: inherit;
  background: var(--sheet);
  border: 2px solid var(--edge);
  border-radius: 6px;
  padding: 0 8px;
}
</style>
