<script setup lang="ts">
import { computed } from 'vue';
import type { Passport } from '@/api/types';
import { day } from '@/domain/time';

/** One feature over the years: each value with its doubt (twice the uncertainty), from zero. */
const props = defineProps<{ trend: Passport['trends'][number] }>();
const [WIDE, HIGH] = [340, 120];
const top = computed(() => 1.12 * Math.max(...props.trend.points.map((one) => one.value + 2 * one.u)));
const times = computed(() => props.trend.points.map((one) => Date.parse(one.at)));
const x = (i: number) => {
  const [first, last] = [Math.min(...times.value), Math.max(...times.value)];
  return last > first ? 30 + ((times.value[i]! - first) / (last - first)) * (WIDE - 70) : WIDE / 2;
};
const y = (value: number) => HIGH - (Math.max(value, 0) / top.value) * HIGH;
/** Values of one day stand over each other: only the last of them is written. */
const apart = (i: number) => i === props.trend.points.length - 1 || x(i + 1) - x(i) > 34;
const line = computed(() => props.trend.points.map((one, i) => `${x(i)},${y(one.value)}`).join(' '));
</script>

<template>
  <figure>
    <figcaption>
      <strong>{{ trend.feature }}, {{ trend.unit }}</strong>
      <span class="muted small">{{ trend.condition }}; bars: twice the uncertainty</span>
    </figcaption>
    <svg :viewBox="`0 -14 ${WIDE} ${HIGH + 32}`" role="img" :aria-label="trend.says">
      <line class="axis" x1="0" :y1="HIGH" :x2="WIDE" :y2="HIGH" />
      <polyline :points="line" />
      <g v-for="(one, i) in trend.points" :key="one.at + i">
        <line
          class="doubt"
          :x1="x(i)"
          :x2="x(i)"
          :y1="y(one.value - 2 * one.u)"
          :y2="y(one.value + 2 * one.u)"
        />
        <circle :cx="x(i)" :cy="y(one.value)" r="3.5" />
        <text v-if="apart(i)" :x="x(i) + 8" :y="y(one.value) - 6">{{ one.shown }}</text>
      </g>
      <text class="when" x="0" :y="HIGH + 15">{{ day(trend.points[0]!.at) }}</text>
      <text class="when" :x="WIDE" :y="HIGH + 15" text-anchor="end">{{ day(trend.points.at(-1)!.at) }}</text>
    </svg>
  </figure>
</template>

<style scoped>
figcaption {
  display: flex;
  flex-wrap: wrap;
  gap: 0 10px;
}
figure {
  margin: 0;
  background: var(--sheet);
  border: 1px solid var(--line);
  padding: 10px 14px;
}
svg {
  width: 100%;
}
.axis {
  stroke: var(--edge);
}
polyline {
  fill: none;
  stroke: var(--edge);
  stroke-width: 1.5;
  stroke-dasharray: 4 4;
}
.doubt {
  stroke: var(--act);
  stroke-width: 2;
}
circle {
  fill: var(--act);
}
text {
  font-size: 13px;
  font-weight: 700;
  fill: var(--ink);
}
.when {
  font-size: 11px;
  font-weight: 400;
  fill: var(--muted);
}
</style>
