<script setup lang="ts">
import type { Row } from '@/api/types';
import { signed } from '@/domain/numbers';
import StripRow from '@/strip/StripRow.vue';
import InjectorMark from '@/strip/InjectorMark.vue';

/** Every phase of a stepped test in the same columns, each judged by itself. */
const props = defineProps<{ phases: Row[] }>();
const of = (phase: Row, cylinder: number) => phase.lanes.find((lane) => lane.place === cylinder);
const share = (value: number | null | undefined) => (value == null ? '' : signed(value));
const all = () => props.phases;
</script>

<template>
  <StripRow v-for="phase in all()" :key="phase.row" class="phase" :class="{ leads: phase.leads }">
    <template #gutter>
      <span class="small">{{ phase.name }}</span>
    </template>
    <template #default="{ cylinder }">
      <p class="cell" :data-mark="of(phase, cylinder)?.mark">
        <InjectorMark :mark="of(phase, cylinder)?.mark ?? 'not_measured'" :size="22" silent />
        <span>{{ of(phase, cylinder)?.shown || '–' }}</span>
        <span class="small">{{ share(of(phase, cylinder)?.share) }}</span>
      </p>
    </template>
    <template #tail><span v-if="phase.leads" class="small muted">leads</span></template>
  </StripRow>
</template>

<style scoped>
.phase {
  border-top: 1px solid var(--line);
}
.leads {
  background: var(--sheet);
  border-top: 2px solid var(--ink);
}
.cell {
  display: flex;
  flex-wrap: wrap;
  gap: 0 6px;
  justify-content: center;
  align-items: center;
  min-height: 40px;
  font-weight: 700;
}
</style>
