<script setup lang="ts">
import { computed } from 'vue';
import type { BoardCard } from '@/api/types';
import { MARK } from '@/words';
import InjectorMark from './InjectorMark.vue';

/** The strip at the size of a line: number over mark, bank by bank. */
const props = defineProps<{ banks: BoardCard['banks'] }>();
const said = computed(() =>
  props.banks
    .flat()
    .map((lane) => `${lane.cylinder} ${MARK[lane.mark]}`)
    .join(', '),
);
</script>

<template>
  <span class="small-strip" role="img" :aria-label="said">
    <span v-for="(bank, b) in banks" :key="b" class="bank">
      <span v-for="lane in bank" :key="lane.cylinder" class="lane">
        <span class="no">{{ lane.cylinder }}</span>
        <InjectorMark :mark="lane.mark" :size="24" silent />
      </span>
    </span>
  </span>
</template>

<style scoped>
.small-strip {
  display: inline-flex;
  gap: 7px;
}
.bank {
  display: inline-flex;
}
.bank + .bank {
  border-left: 4px solid var(--ink);
  padding-left: 4px;
}
.lane {
  display: inline-flex;
  flex-direction: column;
  align-items: center;
  width: 32px;
  border-left: 1px solid var(--line);
}
.no {
  font-size: 0.8rem;
  color: var(--muted);
  line-height: 1.2;
}
</style>
