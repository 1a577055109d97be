<script setup lang="ts">
import { computed } from 'vue';
import type { Lane, Verdict } from '@/api/types';
import { plain } from '@/domain/numbers';
import StripRow from '@/strip/StripRow.vue';
import ReturnResult from './ReturnResult.vue';

/** The bottles as rates on one scale from zero, with reference band, limit and whiskers. */
const props = withDefaults(
  defineProps<{ verdict: Verdict | undefined; compact?: boolean; print?: boolean }>(),
  {
    compact: false,
    print: false,
  },
);

const top = computed(() => props.verdict?.scale ?? 40);
const share = (value: number) => `${(Math.min(Math.max(value, 0), top.value) / top.value) * 100}%`;
/** Whole numbers on the axis where the scale can be divided so. */
const ticks = computed(() => {
  const parts = [4, 3, 5].find((n) => Number.isInteger(top.value / n)) ?? 4;
  return Array.from({ length: parts + 1 }, (_, i) => (i * top.value) / parts);
});
const lane = (cylinder: number): Lane | undefined =>
  props.verdict?.lanes.find((one) => one.place === cylinder);
const whisker = (of: Lane) => {
  const [rate, u] = [of.value ?? 0, of.u ?? 0];
  return { bottom: share(rate - 2 * u), height: share(4 * u) };
};
</script>

<template>
  <StripRow :class="{ compact, print }">
    <template #gutter>
      <div class="axis">
        <span v-for="tick in ticks" :key="tick" :style="{ bottom: share(tick) }">{{ plain(tick) }}</span>
      </div>
    </template>
    <template #default="{ cylinder }">
      <div
        class="plot"
        :class="[lane(cylinder)?.mark ?? 'not_measured', { past: !print && lane(cylinder)?.standing }]"
      >
        <div v-for="tick in ticks" :key="tick" class="tick" :style="{ bottom: share(tick) }"></div>
        <div
          v-if="verdict?.window"
          class="band"
          :style="{
            bottom: share(verdict.window[0]!),
            height: share(verdict.window[1]! - verdict.window[0]!),
          }"
        ></div>
        <div class="bottle">
          <div class="fill" :style="{ height: share(lane(cylinder)?.value ?? 0) }">
            <span v-if="lane(cylinder)?.at_least" class="up" aria-hidden="true">↑</span>
          </div>
          <div
            v-if="lane(cylinder)?.u && !lane(cylinder)?.at_least"
            class="whisker"
            :style="whisker(lane(cylinder)!)"
          ></div>
        </div>
        <div v-if="verdict?.limit" class="limit" :style="{ bottom: share(verdict.limit) }"></div>
      </div>
    </template>
    <template #tail>
      <div class="axis right">
        <span v-if="verdict?.limit" class="at-limit" :style="{ bottom: share(verdict.limit) }"
          >limit {{ plain(verdict.limit) }}</span
        >
        <span v-if="verdict?.reference" class="alike" :style="{ bottom: share(verdict.reference) }"
          >in line</span
        >
      </div>
    </template>
  </StripRow>
  <ReturnResult :verdict="verdict" :print="print" />
</template>

<style scoped>
.axis {
  position: relative;
  width: 100%;
  align-self: stretch;
  margin-top: 26px;
  font-size: 0.8rem;
  color: var(--muted);
}
.axis span {
  position: absolute;
  right: 0;
  transform: translateY(50%);
  white-space: nowrap;
}
.axis.right span {
  right: auto;
  left: 0;
}
.at-limit {
  color: var(--too-much);
}
.alike {
  color: var(--inside);
}
.plot {
  position: relative;
  height: min(300px, 38vh);
  margin-top: 26px;
}
/* What is not of now stays in sight, and is not drawn as a finding. */
.past .bottle,
.past .whisker {
  opacity: 0.35;
}
.compact .plot {
  height: 170px;
}
.tick,
.limit {
  position: absolute;
  left: 0;
  right: 0;
  border-top: 1px solid var(--line);
}
.limit {
  border-top: 3px dashed var(--too-much);
}
.band {
  position: absolute;
  left: 0;
  right: 0;
  background: repeating-linear-gradient(-45deg, transparent 0 5px, var(--inside) 5px 6px);
  opacity: 0.45;
}
.bottle {
  position: absolute;
  inset: 0 22% 0 22%;
  border: 3px solid var(--ink);
  border-top: 0;
  border-radius: 0 0 8px 8px;
  background: var(--sheet);
  overflow: hidden;
}
.fill {
  position: absolute;
  left: 0;
  right: 0;
  bottom: 0;
  background: var(--fuel);
  text-align: center;
  color: var(--sheet);
  font-weight: 700;
}
.too_much .fill {
  background: var(--too-much);
}
.look .fill {
  background: var(--look);
}
.undecided .fill {
  background: repeating-linear-gradient(90deg, var(--undecided) 0 7px, var(--fuel) 7px 10px);
}
.questioned .fill {
  background: var(--questioned);
}
.up {
  font-size: 1.5rem;
  line-height: 1.1;
}
.whisker {
  position: absolute;
  left: calc(50% - 2px);
  width: 4px;
  min-height: 3px;
  background: var(--ink);
  box-shadow: 0 0 0 1px var(--sheet);
}
@media print {
  .fill,
  .band {
    print-color-adjust: exact;
  }
}
</style>
