<script setup lang="ts">
import { computed } from 'vue';
import type { Cost } from '@/api/types';
import { useProfile } from '@/start/useProfile';

/** One or all: what each costs as the odds of a comeback rise, and where the lines cross. */
const props = defineProps<{ cost: Cost }>();
const [WIDE, HIGH] = [300, 112];
const most = computed(() =>
  Math.min(1, Math.max(0.2, 2 * props.cost.odds, 1.35 * (props.cost.break_even ?? 0))),
);
const one = computed(() => props.cost.options[0]!);
const all = computed(() => props.cost.options[1]!);
/** The total of the first option is a straight line over the odds; that of the whole set is level. */
const at = (odds: number) => one.value.at_zero + one.value.for_odds * odds;
const top = computed(() => 1.1 * Math.max(all.value.total, at(most.value), one.value.total));
const x = (odds: number) => (odds / most.value) * WIDE;
const { money } = useProfile();
const y = (cost: number) => HIGH - (cost / top.value) * HIGH;
</script>

<template>
  <section aria-label="Costs">
    <h2 class="minor">Cost of one or all</h2>
    <p>
      <strong>{{ cost.says }}</strong>
    </p>
    <svg :viewBox="`0 -6 ${WIDE} ${HIGH + 24}`" role="img" :aria-label="cost.says">
      <line class="axis" x1="0" :y1="HIGH" :x2="WIDE" :y2="HIGH" />
      <line class="all" x1="0" :y1="y(all.total)" :x2="WIDE" :y2="y(all.total)" />
      <line class="one" x1="0" :y1="y(at(0))" :x2="WIDE" :y2="y(at(most))" />
      <line class="odds" :x1="x(cost.odds)" y1="0" :x2="x(cost.odds)" :y2="HIGH" />
      <circle v-if="cost.break_even" class="even" :cx="x(cost.break_even)" :cy="y(all.total)" r="5" />
      <text :x="x(cost.odds) + 4" y="6">here {{ Math.round(cost.odds * 100) }} %</text>
      <text v-if="cost.break_even" :x="x(cost.break_even)" :y="y(all.total) - 9" text-anchor="end">
        {{ Math.round(cost.break_even * 100) }} %
      </text>
      <text x="0" :y="HIGH + 14">0 %</text>
      <text :x="WIDE" :y="HIGH + 14" text-anchor="end">{{ Math.round(most * 100) }} % come back</text>
    </svg>
    <dl>
      <div v-for="(option, i) in cost.options" :key="option.name">
        <dt :class="i ? 'all' : 'one'">{{ option.name }}</dt>
        <dd>
          <strong>{{ money(option.total) }}</strong> <code>{{ option.arithmetic }}</code>
        </dd>
      </div>
    </dl>
    <p class="muted small">{{ cost.odds_reason }}. Prices and odds come from the workshop rules.</p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 6px;
}
svg {
  width: 100%;
  max-width: 420px;
}
text {
  font-size: 10px;
  fill: var(--ink);
}
.axis {
  stroke: var(--ink);
}
line.one {
  stroke: var(--act);
  stroke-width: 3;
}
line.all {
  stroke: var(--ink);
  stroke-width: 3;
  stroke-dasharray: 7 4;
}
.odds {
  stroke: var(--muted);
  stroke-dasharray: 2 3;
}
.even {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 2.5;
}
dl {
  margin: 0;
  display: grid;
  gap: 4px;
}
dt {
  border-left: 6px solid var(--act);
  padding-left: 8px;
}
dt.all {
  border-left-style: dashed;
  border-color: var(--ink);
}
dd {
  margin: 0 0 0 14px;
}
code {
  display: block;
  font: inherit;
  font-size: 0.8rem;
  color: var(--muted);
}
</style>
