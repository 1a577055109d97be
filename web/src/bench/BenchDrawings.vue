<script setup lang="ts">
import type { BenchTest } from '@/api/types';
import StripRow from '@/strip/StripRow.vue';
import LookDrawing from './LookDrawing.vue';
import SprayDrawing from './SprayDrawing.vue';
import { useSession } from './useSession';

/** What was seen, drawn as it was told: the body, or the spray. */
defineProps<{ test: BenchTest }>();
const session = useSession();
const told = (cell: string, tag: number) => session.cells.text({ cell, row: null, tag });
</script>

<template>
  <StripRow v-if="test === 'visual'">
    <template #default="{ cylinder: tag }">
      <LookDrawing
        :tip="told('tip', tag)"
        :seat="told('seat', tag)"
        :seals="told('seals', tag)"
        :basket="told('basket', tag)"
        :corrosion="told('corrosion', tag)"
        :holes="told('holes', tag)"
      />
    </template>
  </StripRow>
  <StripRow v-if="test === 'spray'">
    <template #default="{ cylinder: tag }">
      <SprayDrawing
        :pattern="told('pattern', tag)"
        :cone="told('cone', tag)"
        :symmetry="told('symmetry', tag)"
        :tail="told('tail', tag)"
        :dribble="told('dribble', tag)"
      />
    </template>
  </StripRow>
</template>
