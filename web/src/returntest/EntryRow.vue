<script setup lang="ts">
import { computed } from 'vue';
import { said } from '@/domain/readings';
import { clock } from '@/domain/time';
import { useJob } from '@/job/useJob';
import StripRow from '@/strip/StripRow.vue';
import { useEntry } from './useEntry';

/** One field in the column that is being read; the others show what stands. */
const entry = useEntry();
const job = useJob();
/** Enter alone: it ran as long as planned. */
const planned = computed(() => clock(job.test.value?.setup.planned_s ?? 0));
const run = computed(() => entry.correcting.value?.run ?? entry.run.value);
function held(cylinder: number): string {
  const reading = run.value && entry.runs.ofCylinder(run.value, cylinder);
  if (!reading) return '';
  return reading.kind === 'level' ? `${said(reading)} ml` : said(reading);
}
</script>

<template>
  <StripRow word="reading">
    <template #gutter>
      <input
        v-if="entry.cylinder.value === null"
        v-model="entry.typed.value"
        data-entry
        inputmode="none"
        autocomplete="off"
        :placeholder="planned"
        aria-label="Length of the run"
        :aria-invalid="!!entry.wrong.value"
        @keydown.enter.prevent="entry.keep()"
      />
      <span v-else class="muted small">reading</span>
    </template>
    <template #default="{ cylinder }">
      <div class="field">
        <input
          v-if="cylinder === entry.cylinder.value"
          v-model="entry.typed.value"
          data-entry
          inputmode="none"
          autocomplete="off"
          :aria-label="`Reading of cylinder ${cylinder}`"
          :aria-invalid="!!entry.wrong.value"
          aria-describedby="entry-wrong"
          @keydown.enter.prevent="entry.keep()"
        />
        <button v-else-if="entry.covered.value.includes(cylinder)" type="button" @click="entry.go(cylinder)">
          {{ held(cylinder) || '·' }}
        </button>
      </div>
    </template>
  </StripRow>
</template>

<style scoped>
.field {
  padding: 4px 5px;
}
input,
button {
  width: 100%;
  min-height: 52px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  font-size: min(1.4rem, var(--value));
  text-align: center;
  padding: 0;
  cursor: pointer;
}
button {
  border-color: var(--line);
  color: var(--muted);
  font-size: min(1rem, var(--value));
}
input {
  border: 3px solid var(--act);
  font-weight: 700;
}
input[aria-invalid='true'] {
  border-color: var(--too-much);
}
</style>
