<script setup lang="ts">
import { computed } from 'vue';
import type { Fuelling, FuellingAsk } from '@/api/types';

/** What the set means for the control unit: the pulse before and after on one scale, the duty. */
const props = defineProps<{ fuelling?: Fuelling | null; refused: string; asked: FuellingAsk }>();
const longest = computed(() =>
  Math.max(1, ...(props.fuelling?.pulses ?? []).flatMap((one) => [one.before_ms, one.after_ms])),
);
const wide = (ms: number) => `${(ms / longest.value) * 100}%`;
const ms = (value: number) => `${value.toFixed(2)} ms`;
</script>

<template>
  <section class="fuelling">
    <h2>For the ECU</h2>
    <p v-if="refused" class="wrong" role="alert">{{ refused }}</p>
    <template v-if="fuelling">
      <p class="says">{{ fuelling.says }}</p>
      <div v-for="one in fuelling.pulses" :key="one.name" class="pulse">
        <span class="name">{{ one.name }}</span>
        <span class="rail"
          ><i class="before" :style="{ width: wide(one.before_ms) }"></i>{{ ms(one.before_ms) }} now</span
        >
        <span class="rail"
          ><i :style="{ width: wide(one.after_ms) }"></i
          ><strong>{{ ms(one.after_ms) }} with this set</strong></span
        >
        <span class="muted small">{{ one.says }}</span>
      </div>
      <p>
        Duty at {{ asked.limit_rpm }} rpm:
        <strong :class="{ wrong: fuelling.always_open }">{{ Math.round(fuelling.duty * 100) }} %</strong>
        <span class="muted small">
          · dead times from {{ fuelling.dead_time_from }}; the ECU expects
          {{ asked.static_ml_min.toFixed(1) }} ml/min and {{ asked.dead_time_ms.toFixed(2) }} ms</span
        >
      </p>
      <p v-for="one in fuelling.advice" :key="one" class="caution">{{ one }}</p>
    </template>
    <details :open="!!refused">
      <summary>Enter ECU values</summary>
      <slot name="typed" />
    </details>
  </section>
</template>

<style scoped>
.fuelling {
  display: grid;
  gap: 10px;
}
.says {
  font-weight: 700;
}
.pulse {
  display: grid;
  gap: 2px;
}
.name::first-letter {
  text-transform: uppercase;
}
.rail {
  display: grid;
  font-size: 0.95rem;
}
.rail i {
  height: 12px;
  background: var(--fuel);
}
.rail .before {
  background: repeating-linear-gradient(90deg, var(--edge) 0 5px, transparent 5px 8px);
}
details {
  display: grid;
  gap: 8px;
}
summary {
  min-height: 44px;
  display: flex;
  align-items: center;
  cursor: pointer;
  color: var(--act);
  text-decoration: underline;
}
</style>
