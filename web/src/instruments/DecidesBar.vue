<script setup lang="ts">
import { computed } from 'vue';
import type { CanDecide } from '@/api/types';

/** What readings of an instrument could be called, along the scale of the limit. */
const props = defineProps<{ can: CanDecide; lower: number | null; upper: number | null; small?: boolean }>();
const width = computed(() => (props.small ? 330 : 600));
const high = computed(() => {
  const ends = [props.upper, props.lower, props.can.above_from, props.can.inside?.[1]];
  return Math.max(...ends.map((v) => v ?? 0)) * 1.12;
});
const low = computed(() => {
  if (props.lower === null) return 0;
  const room = ((props.upper ?? props.lower) - props.lower) * 0.5 + 3 * props.can.u;
  return Math.max(0, props.lower - room);
});
const x = (value: number) =>
  Math.min(width.value, Math.max(0, ((value - low.value) / (high.value - low.value)) * width.value));
const inside = computed(() => {
  const span = props.can.inside;
  if (!span) return null;
  const from = props.lower === null ? 0 : x(span[0]!);
  const to = props.upper === null ? width.value : x(span[1]!);
  return { x: from, width: Math.max(3, to - from) };
});
const above = computed(() => (props.can.above_from == null ? null : x(props.can.above_from)));
const label = (value: number) => String(Math.round(value * 1000) / 1000);
</script>

<template>
  <svg class="bar" :viewBox="`-20 0 ${width + 40} 96`" role="img" :aria-label="can.sentence">
    <defs>
      <pattern id="blind" width="9" height="9" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="9" height="9" fill="var(--sheet)" />
        <line x1="0" y1="0" x2="0" y2="9" stroke="var(--undecided)" stroke-width="3" />
      </pattern>
    </defs>
    <rect x="0" y="24" :width="width" height="34" fill="url(#blind)" />
    <rect v-if="inside" v-bind="inside" y="24" height="34" class="inside" />
    <rect v-if="above !== null" :x="above" y="24" :width="width - above" height="34" class="above" />
    <text v-if="inside && inside.width > 90" :x="inside.x + inside.width / 2" y="47" class="on">within</text>
    <text v-if="above !== null && width - above > 70" :x="(above + width) / 2" y="47" class="on">above</text>
    <template v-for="end in [lower, upper]" :key="String(end)">
      <g v-if="end !== null">
        <line :x1="x(end)" :x2="x(end)" y1="14" y2="68" class="limit" />
        <text :x="x(end)" y="86" class="number">{{ label(end) }}</text>
      </g>
    </template>
  </svg>
</template>

<style scoped>
.bar {
  width: 100%;
  height: auto;
  display: block;
}
.inside {
  fill: var(--inside);
}
.above {
  fill: var(--too-much);
}
.limit {
  stroke: var(--ink);
  stroke-width: 3;
}
text {
  text-anchor: middle;
  fill: var(--ink);
  font-size: 16px;
}
.on {
  fill: var(--sheet);
  font-weight: 700;
}
.number {
  font-weight: 700;
}
</style>
