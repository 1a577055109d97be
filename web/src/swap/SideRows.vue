<script setup lang="ts">
import { computed } from 'vue';
import type { SwapVerdict } from '@/api/types';
import { signed } from '@/domain/numbers';
import StripRow from '@/strip/StripRow.vue';

/** Before and after in the same columns, as shares from the others on one scale about zero. */
const props = defineProps<{ swap: SwapVerdict }>();
const top = computed(() =>
  Math.max(
    0.3,
    ...props.swap.lanes.flatMap((lane) => [lane.before, lane.after].map((v) => Math.abs(v ?? 0))),
  ),
);
const of = (cylinder: number, which: 'before' | 'after') =>
  props.swap.lanes.find((lane) => lane.cylinder === cylinder)?.[which] ?? null;
const bar = (share: number) => {
  const height = `${(Math.min(Math.abs(share), top.value) / top.value) * 50}%`;
  return share >= 0 ? { bottom: '50%', height } : { top: '50%', height };
};
const percent = (share: number | null) => (share === null ? '–' : signed(share));
const odd = (cylinder: number) => cylinder === props.swap.from || cylinder === props.swap.to;
</script>

<template>
  <StripRow v-for="which in ['before', 'after'] as const" :key="which" :word="which">
    <template #default="{ cylinder }">
      <div class="plot" :class="{ odd: odd(cylinder) }">
        <div class="zero"></div>
        <div
          v-if="of(cylinder, which) !== null"
          class="bar"
          :class="which"
          :style="bar(of(cylinder, which)!)"
        ></div>
      </div>
      <p class="value" :class="{ odd: odd(cylinder) }">{{ percent(of(cylinder, which)) }}</p>
    </template>
  </StripRow>
</template>

<style scoped>
.plot {
  position: relative;
  height: 96px;
  margin-top: 8px;
}
.zero {
  position: absolute;
  inset-inline: 0;
  top: 50%;
  border-top: 2px solid var(--ink);
}
.bar {
  position: absolute;
  left: 32%;
  right: 32%;
  background: var(--edge);
}
.odd .bar {
  background: var(--too-much);
}
.odd .bar.before {
  background: repeating-linear-gradient(45deg, var(--too-much) 0 5px, transparent 5px 9px);
  border: 2px solid var(--too-much);
}
.value {
  text-align: center;
  font-size: clamp(0.9rem, calc(22 * var(--cell)), 1.4rem);
}
.value.odd {
  font-weight: 700;
}
</style>
