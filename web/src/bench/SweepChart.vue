<script setup lang="ts">
import { computed } from 'vue';
import type { SweepLine, Verdict } from '@/api/types';

/** Quantity over pulse width, one line an injector; where a line meets zero is its dead time. */
const props = defineProps<{ verdict: Verdict; selected: number | null }>();
const [W, H, L, B] = [360, 230, 34, 26];
const most = computed(() => ({
  x: Math.max(1, ...props.verdict.lines.flatMap((line) => line.points.map((p) => p[0]!))) * 1.05,
  y: Math.max(1, ...props.verdict.lines.flatMap((line) => line.points.map((p) => p[1]!))) * 1.08,
}));
const x = (ms: number) => L + (ms / most.value.x) * (W - L - 8);
const y = (mm3: number) => H - B - (mm3 / most.value.y) * (H - B - 8);
const step = (top: number) => {
  const raw = top / 5;
  const scale = 10 ** Math.floor(Math.log10(raw));
  return [1, 2, 5, 10].map((n) => n * scale).find((n) => n >= raw)!;
};
const marks = (top: number) => {
  const by = step(top);
  return Array.from({ length: Math.floor(top / by) + 1 }, (_, i) => Number((i * by).toPrecision(6)));
};
/** Tags stand one below the other along their lines, so that none covers another. */
const tagAt = (line: SweepLine, i: number) => {
  const high = most.value.y * (0.92 - (0.6 * i) / props.verdict.lines.length);
  return { x: x(line.offset_ms + high / line.slope) - 7, y: y(high) + 4 };
};
const tone = (tag: number) => props.verdict.lanes.find((lane) => lane.place === tag)?.mark ?? 'not_measured';
</script>

<template>
  <svg
    v-if="verdict.lines.length"
    class="chart"
    :viewBox="`0 0 ${W} ${H}`"
    role="img"
    aria-label="Quantity over pulse width"
  >
    <g class="grid">
      <template v-for="mark in marks(most.x)" :key="`x${mark}`">
        <line :x1="x(mark)" :x2="x(mark)" :y1="y(0)" :y2="8" />
        <text :x="x(mark)" :y="H - 9" text-anchor="middle">{{ mark }}</text>
      </template>
      <template v-for="mark in marks(most.y)" :key="`y${mark}`">
        <line :x1="L" :x2="W - 8" :y1="y(mark)" :y2="y(mark)" />
        <text :x="L - 6" :y="y(mark) + 4" text-anchor="end">{{ mark }}</text>
      </template>
      <text :x="W - 8" :y="H - 9" text-anchor="end">ms</text>
      <text :x="4" :y="14">mm³</text>
    </g>
    <g
      v-for="(line, i) in verdict.lines"
      :key="line.tag"
      :data-mark="tone(line.tag)"
      :class="{ picked: line.tag === selected }"
    >
      <line
        class="fit"
        :x1="x(line.offset_ms)"
        :y1="y(0)"
        :x2="x(most.x)"
        :y2="y(line.slope * (most.x - line.offset_ms))"
      />
      <line
        class="whisker"
        :x1="x(Math.max(0, line.offset_ms - 2 * line.u_offset_ms))"
        :x2="x(line.offset_ms + 2 * line.u_offset_ms)"
        :y1="y(0)"
        :y2="y(0)"
      />
      <rect
        v-for="point in line.points"
        :key="point[0]"
        :x="x(point[0]!) - 4"
        :y="y(point[1]!) - 4"
        width="8"
        height="8"
        :transform="`rotate(45 ${x(point[0]!)} ${y(point[1]!)})`"
      />
      <text class="tag" :x="tagAt(line, i).x" :y="tagAt(line, i).y" text-anchor="end">{{ line.tag }}</text>
    </g>
  </svg>
</template>

<style scoped>
.chart {
  display: block;
  width: 100%;
  max-height: 250px;
  padding: 0 10px;
}
.grid line {
  stroke: var(--line);
}
text {
  fill: var(--muted);
  font-size: 12px;
}
.fit {
  stroke: currentcolor;
  stroke-width: 2;
  opacity: 0.75;
}
.picked .fit {
  stroke-width: 4;
  opacity: 1;
}
.whisker {
  stroke: currentcolor;
  stroke-width: 7;
}
rect {
  fill: currentcolor;
}
.tag {
  fill: currentcolor;
  font-weight: 700;
  font-size: 14px;
}
</style>
