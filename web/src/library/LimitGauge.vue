<script setup lang="ts">
import { computed } from 'vue';

/** A limit drawn to scale: the window that holds, what it was before, what the house measured. */
interface Window {
  lower: number | null;
  upper: number | null;
}
const props = defineProps<{
  now: Window;
  older?: Window[];
  reference?: { lower: number; upper: number; mean: number } | null;
  unit: string;
}>();

const WIDTH = 640;
const all = computed(() => [
  props.now,
  ...(props.older ?? []),
  ...(props.reference ? [props.reference] : []),
]);
const ends = computed(() =>
  all.value.flatMap((w) => [w.lower, w.upper]).filter((v): v is number => v !== null && v !== undefined),
);
/** From zero, unless the window is so narrow that zero would hide it. */
const scale = computed(() => {
  const high = Math.max(...ends.value, 1e-9);
  const low = Math.min(...ends.value);
  const both = props.now.lower !== null && props.now.upper !== null;
  const narrow = both && (high - low) / high < 0.35;
  const from = narrow ? low - (high - low) * 0.6 : 0;
  const to = narrow ? high + (high - low) * 0.6 : high * 1.3;
  return { from, to };
});
const x = (value: number) => ((value - scale.value.from) / (scale.value.to - scale.value.from)) * WIDTH;
const clamp = (value: number) => Math.min(WIDTH, Math.max(0, value));
const bar = (w: Window) => {
  const from = w.lower === null ? 0 : clamp(x(w.lower));
  const to = w.upper === null ? WIDTH : clamp(x(w.upper));
  return { x: from, width: Math.max(2, to - from) };
};
const tall = computed(() => 44 + 12 * (props.older?.length ?? 0) + (props.reference ? 18 : 0));
const compact = new Intl.NumberFormat('en-US', { notation: 'compact', maximumFractionDigits: 3 });
const label = (value: number) =>
  value >= 100_000 ? compact.format(value) : String(Math.round(value * 1000) / 1000);
const window = computed(() => props.now.lower !== null || props.now.upper !== null);
/** The numbers under the scale: the window's, or the house's own where there is no window. */
const numbers = computed(() =>
  (window.value
    ? [props.now.lower, props.now.upper]
    : [props.reference?.lower, props.reference?.upper]
  ).filter((v): v is number => v !== null && v !== undefined),
);
</script>

<template>
  <svg class="gauge" :viewBox="`-14 0 ${WIDTH + 28} ${tall + 20}`" aria-hidden="true">
    <defs>
      <pattern id="own" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <line x1="0" y1="0" x2="0" y2="7" stroke="var(--inside)" stroke-width="3" />
      </pattern>
    </defs>
    <rect class="track" x="0" y="8" :width="WIDTH" height="26" />
    <rect v-if="window" class="window" v-bind="bar(now)" y="8" height="26" />
    <template v-for="end in [now.lower, now.upper]" :key="String(end)">
      <line v-if="end !== null" class="end" :x1="clamp(x(end))" :x2="clamp(x(end))" y1="2" y2="40" />
    </template>
    <rect v-for="(w, i) in older ?? []" :key="i" class="older" v-bind="bar(w)" :y="40 + i * 12" height="5" />
    <g v-if="reference">
      <rect
        fill="url(#own)"
        :x="clamp(x(reference.lower))"
        :width="Math.max(2, x(reference.upper) - clamp(x(reference.lower)))"
        :y="tall - 16"
        height="12"
      />
      <line class="mean" :x1="x(reference.mean)" :x2="x(reference.mean)" :y1="tall - 20" :y2="tall" />
    </g>
    <text v-if="scale.from === 0" class="muted" x="0" :y="tall + 15">0</text>
    <text
      v-for="end in numbers"
      :key="`t${end}`"
      class="number"
      :x="clamp(x(end))"
      :y="tall + 16"
      text-anchor="middle"
    >
      {{ label(end) }}
    </text>
  </svg>
</template>

<style scoped>
.gauge {
  width: 100%;
  max-width: 680px;
  height: auto;
  display: block;
}
.track {
  fill: var(--rest);
}
.window {
  fill: var(--act-soft);
  stroke: var(--act);
  stroke-width: 2;
}
.end {
  stroke: var(--ink);
  stroke-width: 3;
}
.older {
  fill: var(--edge);
}
.mean {
  stroke: var(--inside);
  stroke-width: 3;
}
text {
  fill: var(--ink);
  font-size: 15px;
}
.number {
  font-weight: 700;
}
</style>
