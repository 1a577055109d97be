<script setup lang="ts">
import { computed } from 'vue';

/** The picture of a spray, drawn from the words that were chosen. */
const props = defineProps<{
  pattern: string;
  cone: string;
  symmetry: string;
  tail: string;
  dribble: string;
}>();
const half = computed(() => ({ '1': 9, '2': 30 })[props.cone] ?? 19);
const lean = computed(() => (props.symmetry === '1' ? 13 : 0));
const said = computed(() => props.pattern !== '');
/** Lines of a spray: dense for mist, few for streaks, one for a jet. */
const rays = computed(() => {
  const count = { '0': 9, '1': 4, '2': 1 }[props.pattern] ?? 0;
  return Array.from({ length: count }, (_, i) => {
    const at = count === 1 ? 0 : (i / (count - 1)) * 2 - 1;
    return { x: 35 + lean.value + at * half.value, ragged: props.tail === '2' ? (i % 2) * 9 : 0 };
  });
});
</script>

<template>
  <svg class="spray" viewBox="0 0 70 78" aria-hidden="true">
    <path class="body" d="M27 0 H43 V14 L39 20 H31 L27 14 Z" />
    <line
      v-for="(ray, i) in rays"
      :key="i"
      class="ray"
      :class="{ solid: pattern === '2' }"
      x1="35"
      y1="21"
      :x2="ray.x"
      :y2="68 - ray.ragged"
    />
    <path v-if="tail === '1' && said" class="core" :d="`M35 21 L${33 + lean} 62 H${37 + lean} Z`" />
    <path v-if="dribble === '1'" class="drop" d="M35 24 c4 6 4 9 0 9.5 c-4 -.5 -4 -3.500 0 -9.500" />
    <path v-if="dribble === '2'" class="drop" d="M33 20 H37 V76 H33 Z" />
    <path v-if="pattern === '3'" class="none" d="M24 40 L46 58 M46 40 L24 58" />
  </svg>
</template>

<style scoped>
.spray {
  display: block;
  height: 78px;
  margin: 4px auto;
}
.body {
  fill: var(--ink);
}
.ray {
  stroke: var(--fuel);
  stroke-width: 1.6;
  stroke-dasharray: 3 2;
}
.ray.solid {
  stroke-width: 5;
  stroke-dasharray: none;
}
.core {
  fill: var(--fuel);
}
.drop {
  fill: var(--too-much);
}
.none {
  stroke: var(--too-little);
  stroke-width: 4;
}
</style>
