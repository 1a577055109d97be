<script setup lang="ts">
import { computed } from 'vue';

/**
 * One feature of one set, on the scale of the whole shelf: a hair for every injector of the shelf, a
 * band as wide as the tolerance, and a tooth for each member. The same scale for every set, so the
 * eye sees where on the shelf a set was taken from and how much of its band it fills.
 */
const props = defineProps<{
  shelf: number[];
  members: number[];
  /** A share, or a difference. */
  tolerance: number;
  ratio: boolean;
  told: boolean;
}>();
const ends = computed(() => {
  const all = [...props.shelf, ...props.members];
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const air = (high - low) * 0.06 || high * 0.02;
  return [low - air, high + air] as const;
});
const at = (value: number) => ((value - ends.value[0]) / (ends.value[1] - ends.value[0])) * 100;
const band = computed(() => {
  const [low, high] = [Math.min(...props.members), Math.max(...props.members)];
  const wide = props.ratio ? low * props.tolerance : props.tolerance;
  const middle = (low + high) / 2;
  const [left, right] = [at(middle - wide / 2), at(middle + wide / 2)].map((x) =>
    Math.min(100, Math.max(0, x)),
  );
  return { left: `${left}%`, width: `${right! - left!}%` };
});
</script>

<template>
  <span class="comb" :class="{ told }" aria-hidden="true">
    <i v-for="(value, i) in shelf" :key="i" class="hair" :style="{ left: `${at(value)}%` }"></i>
    <i class="band" :style="band"></i>
    <i v-for="(value, i) in members" :key="`m${i}`" class="tooth" :style="{ left: `${at(value)}%` }"></i>
  </span>
</template>

<style scoped>
.comb {
  position: relative;
  display: block;
  height: 34px;
  border-bottom: 3px solid var(--ink);
}
i {
  position: absolute;
  bottom: 0;
}
.hair {
  width: 1px;
  height: 9px;
  background: var(--edge);
}
.band {
  top: 4px;
  background: repeating-linear-gradient(135deg, var(--undecided) 0 2px, transparent 2px 7px);
  border: 2px solid var(--undecided);
  border-bottom: 0;
  border-radius: 5px 5px 0 0;
}
.told .band {
  background: color-mix(in srgb, var(--inside) 22%, transparent);
  border-color: var(--inside);
}
.tooth {
  width: 4px;
  margin-left: -2px;
  height: 22px;
  background: var(--ink);
}
</style>
