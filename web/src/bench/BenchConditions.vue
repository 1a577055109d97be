<script setup lang="ts">
import { computed } from 'vue';
import type { BenchForm } from '@/api/types';
import PresetBar from '@/entry/PresetBar.vue';
import SetCells from './SetCells.vue';
import { roundWord, useSession } from './useSession';
import type { Tubes } from './useTubes';

/** What the verdict hangs on stands above the readings: conditions of the round, and of the row in hand. */
const props = defineProps<{ form: BenchForm; tubes: Tubes; at: number | null; more: boolean }>();
const session = useSession();
const set = computed(() => props.form.set.filter((one) => props.more || !one.more));
const ofRow = computed(() => (props.at ? props.form.row.filter((one) => one.name !== 'ended') : []));
</script>

<template>
  <section v-if="set.length || ofRow.length" class="conditions" aria-label="Conditions">
    <PresetBar
      :check="form.test"
      :cells="form.set"
      :text="(cell) => session.cells.text({ cell, row: null, tag: null })"
      @say="(cell, typed) => session.cells.say({ cell, row: null, tag: null }, typed)"
    />
    <SetCells :forms="set" @next="tubes.next" />
    <SetCells
      v-if="ofRow.length && !form.by_points"
      :key="at!"
      :forms="form.row"
      :row="at"
      @next="tubes.next"
    />
    <details v-else-if="ofRow.length" class="row-cells">
      <summary>Other conditions for this row</summary>
      <div class="fields"><SetCells :forms="ofRow" :row="at" @next="tubes.next" /></div>
    </details>
    <button
      v-if="session.before.value && set.length && !session.verdict.value"
      class="side-act"
      type="button"
      @click="session.asBefore"
    >
      Use conditions of {{ roundWord(session.before.value) }}
    </button>
  </section>
</template>

<style scoped>
.conditions,
.fields {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 18px;
  align-items: end;
}
.conditions {
  grid-column: 1 / -1;
  padding: 10px 22px;
  border-bottom: 1px solid var(--line);
}
.row-cells summary {
  min-height: 44px;
  cursor: pointer;
  color: var(--act);
  display: flex;
  align-items: center;
}
</style>
