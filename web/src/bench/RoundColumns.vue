<script setup lang="ts">
import { computed } from 'vue';
import type { BenchTest } from '@/api/types';
import StripRow from '@/strip/StripRow.vue';
import { roundWord, useSession } from './useSession';

/** One row over all rounds: before and after stand beside each other in the same column. */
const props = defineProps<{ row: number; test: BenchTest }>();
const session = useSession();
const shown = computed(() =>
  session.rounds.value
    .map((round) => ({
      round,
      row: session.judged(round, props.test)?.verdict?.rows.find((one) => one.row === props.row),
    }))
    .filter((one) => one.row),
);
const window = computed(() => shown.value.at(-1)?.row?.window ?? null);
const scale = computed(() => {
  // A reading in question does not flatten the others.
  const believed = shown.value.flatMap((one) => one.row!.lanes.filter((lane) => lane.mark !== 'questioned'));
  const values = believed.map((lane) => lane.value ?? 0);
  return Math.max(...values, window.value?.[1] ?? 0) * 1.12 || 1;
});
const share = (value: number) => `${Math.min(100, Math.max(0, (value / scale.value) * 100))}%`;
const band = computed(() => {
  if (!window.value) return null;
  const [lower, upper] = [window.value[0] ?? 0, window.value[1] ?? scale.value];
  return { bottom: share(lower), height: share(upper - lower) };
});
const lane = (at: (typeof shown.value)[number], tag: number) =>
  at.row!.lanes.find((one) => one.place === tag);
const short = (value: number) => String(Number(value.toPrecision(3)));
/** Both ends of the window; one line where they stand too close to be read apart. */
const edges = computed(() => {
  const [lower, upper] = window.value ?? [null, null];
  if (lower != null && upper != null && (upper - lower) / scale.value < 0.13) {
    return [{ at: (lower + upper) / 2, word: `${short(lower)}–${short(upper)}` }];
  }
  return [lower, upper].filter((one) => one != null).map((at) => ({ at: at!, word: short(at!) }));
});
</script>

<template>
  <StripRow v-if="shown.length">
    <template #gutter>
      <span class="muted small words"
        >{{ shown.at(-1)!.row!.name }}<br />{{ shown.at(-1)!.row!.unit }}
        <template v-if="shown.length > 1"
          ><br />{{ shown.map((one) => roundWord(one.round)).join(' → ') }}</template
        >
      </span>
    </template>
    <template #default="{ cylinder: tag }">
      <div class="plot">
        <div v-if="band" class="band" :style="band"></div>
        <div class="stems">
          <div
            v-for="(at, i) in shown"
            :key="at.round.id"
            class="stem"
            :class="{ old: i < shown.length - 1 }"
            :data-mark="lane(at, tag)?.mark ?? 'not_measured'"
            :style="{ height: share(lane(at, tag)?.value ?? 0) }"
            :title="`${roundWord(at.round)}: ${lane(at, tag)?.shown ?? 'not read'}`"
          ></div>
        </div>
        <div
          v-if="lane(shown.at(-1)!, tag)?.u"
          class="whisker"
          :style="{
            bottom: share(lane(shown.at(-1)!, tag)!.value! - 2 * lane(shown.at(-1)!, tag)!.u!),
            height: share(4 * lane(shown.at(-1)!, tag)!.u!),
          }"
        ></div>
      </div>
      <p class="value">{{ lane(shown.at(-1)!, tag)?.shown || '–' }}</p>
    </template>
    <template #tail>
      <div v-if="window" class="axis">
        <span v-for="edge in edges" :key="edge.word" :style="{ bottom: share(edge.at) }">{{
          edge.word
        }}</span>
      </div>
    </template>
  </StripRow>
</template>

<style scoped>
.plot {
  position: relative;
  height: 132px;
  margin-top: 6px;
  border-bottom: 2px solid var(--ink);
}
.band {
  position: absolute;
  inset-inline: 0;
  background: repeating-linear-gradient(-45deg, var(--inside) 0 1px, transparent 1px 7px);
  opacity: 0.65;
}
.stems {
  position: absolute;
  inset: 0;
  display: flex;
  align-items: flex-end;
  justify-content: center;
  gap: 4px;
}
.stem {
  width: 20px;
  background: var(--fuel);
  border-top: 6px solid var(--ink);
  position: relative;
}
.stem[data-mark='too_much'],
.stem[data-mark='too_little'],
.stem[data-mark='look'],
.stem[data-mark='undecided'],
.stem[data-mark='questioned'] {
  background: currentcolor;
}
/* Earlier rounds stand hollow: what was, beside what is. */
.old {
  width: 13px;
  background: none !important;
  border: 2px solid var(--muted);
  border-bottom: 0;
}
.whisker {
  position: absolute;
  right: calc(50% - 3px);
  width: 5px;
  background: var(--ink);
  border: 1px solid var(--sheet);
}
.value {
  text-align: center;
  font-weight: 700;
  font-size: clamp(0.95rem, calc(22 * var(--cell)), 1.5rem);
}
.axis {
  position: relative;
  height: 132px;
  width: 100%;
  font-size: 0.78rem;
  color: var(--inside);
  align-self: start;
  margin-top: 6px;
}
.axis span {
  position: absolute;
  left: 0;
  transform: translateY(50%);
}
.words {
  text-align: right;
}
</style>
