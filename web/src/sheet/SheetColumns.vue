<script setup lang="ts">
import { computed } from 'vue';
import type { Verdict } from '@/api/types';
import InjectorMark from '@/strip/InjectorMark.vue';
import StripRow from '@/strip/StripRow.vue';

/** What was read, as stems on one scale from zero, with the window behind them. */
const props = defineProps<{ verdict: Verdict }>();
const share = (value: number) =>
  `${(Math.min(Math.max(value, 0), props.verdict.scale) / props.verdict.scale) * 100}%`;
const lane = (cylinder: number) => props.verdict.lanes.find((one) => one.place === cylinder);
const band = computed(() => {
  const window = props.verdict.window;
  if (!window) return null;
  const [lower, upper] = [window[0] ?? 0, window[1] ?? props.verdict.scale];
  return { bottom: share(lower), height: share(upper - lower) };
});
const short = (value: number) => String(Number(value.toPrecision(3)));
</script>

<template>
  <StripRow v-if="verdict.lanes.some((one) => one.value != null)">
    <template #default="{ cylinder }">
      <div class="plot" :class="[lane(cylinder)?.mark ?? 'not_measured', { past: lane(cylinder)?.standing }]">
        <div v-if="band" class="band" :style="band"></div>
        <div
          v-if="lane(cylinder)?.value != null"
          class="stem"
          :style="{ height: share(lane(cylinder)!.value!) }"
        >
          <span class="cap"></span>
        </div>
        <div
          v-if="lane(cylinder)?.u"
          class="whisker"
          :style="{
            bottom: share(lane(cylinder)!.value! - 2 * lane(cylinder)!.u!),
            height: share(4 * lane(cylinder)!.u!),
          }"
        ></div>
      </div>
    </template>
    <template #tail>
      <div v-if="verdict.window" class="axis">
        <span v-if="verdict.window[1] != null" :style="{ bottom: share(verdict.window[1]) }">{{
          short(verdict.window[1])
        }}</span>
        <span v-if="verdict.window[0] != null" :style="{ bottom: share(verdict.window[0]) }"
          >{{ verdict.window_word }} {{ short(verdict.window[0]) }}</span
        >
      </div>
    </template>
  </StripRow>
  <StripRow>
    <template #gutter>
      <span class="muted small words">{{ verdict.unit }}<br v-if="verdict.also" />{{ verdict.also }}</span>
    </template>
    <template #default="{ cylinder }">
      <div class="result" :class="{ past: lane(cylinder)?.standing }">
        <p class="value">{{ lane(cylinder)?.shown || '–' }}</p>
        <p v-if="lane(cylinder)?.also" class="also">{{ lane(cylinder)!.also }}</p>
        <p v-if="lane(cylinder)?.standing" class="mark" data-mark="not_measured">
          <InjectorMark mark="not_measured" :size="30" silent />
          <span>{{ lane(cylinder)!.standing }}</span>
        </p>
        <p v-else class="mark" :data-mark="lane(cylinder)?.mark ?? 'not_measured'">
          <InjectorMark :mark="lane(cylinder)?.mark ?? 'not_measured'" :size="30" silent />
          <span>{{ lane(cylinder)?.word ?? 'not read' }}</span>
        </p>
      </div>
    </template>
  </StripRow>
</template>

<style scoped>
.plot {
  position: relative;
  height: min(250px, 30vh);
  margin-top: 14px;
  border-bottom: 2px solid var(--ink);
}
.band {
  position: absolute;
  inset-inline: 0;
  background: repeating-linear-gradient(-45deg, var(--inside) 0 1px, transparent 1px 7px);
  opacity: 0.65;
}
.stem {
  position: absolute;
  bottom: 0;
  left: 50%;
  width: 26px;
  margin-left: -13px;
  background: var(--fuel);
}
.cap {
  position: absolute;
  top: -3px;
  left: -9px;
  right: -9px;
  height: 6px;
  background: var(--ink);
}
.too_much .stem {
  background: var(--too-much);
}
.too_little .stem {
  background: var(--too-little);
}
.look .stem {
  background: var(--look);
}
.undecided .stem,
.questioned .stem {
  background: var(--undecided);
}
.whisker {
  position: absolute;
  left: 50%;
  width: 6px;
  margin-left: -3px;
  background: var(--ink);
  border: 1px solid var(--sheet);
}
/* What is not of now stays in sight, and is not drawn as a finding. */
.past .stem,
.past .whisker {
  opacity: 0.35;
}
.past .value {
  color: var(--muted);
  font-weight: 400;
}
.axis {
  position: relative;
  align-self: stretch;
  width: 100%;
  margin-top: 14px;
  font-size: 0.8rem;
  color: var(--inside);
}
.axis span {
  position: absolute;
  left: 0;
  transform: translateY(50%);
  white-space: nowrap;
}
.result {
  text-align: center;
  padding: 4px 2px 10px;
}
.value {
  font-size: clamp(1.1rem, calc(26 * var(--cell)), 2.1rem);
  font-weight: 700;
  line-height: 1.2;
}
.words {
  text-align: right;
}
.also {
  color: var(--muted);
  font-size: clamp(0.8rem, calc(16 * var(--cell)), 1.05rem);
}
.mark {
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
  align-items: center;
  gap: 0 6px;
  font-weight: 700;
  font-size: clamp(0.75rem, calc(14 * var(--cell)), 1.05rem);
}
</style>
