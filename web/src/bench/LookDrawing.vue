<script setup lang="ts">
/** An injector as it was seen: basket on top, seals, body, tip and holes, each as it was answered. */
defineProps<{ tip: string; seat: string; seals: string; basket: string; corrosion: string; holes: string }>();
</script>

<template>
  <svg class="look" viewBox="0 0 60 96" aria-hidden="true">
    <g class="basket" :class="`b${basket}`">
      <path v-if="basket !== '3'" d="M22 3 H38 V14 H22 Z" />
      <path v-if="basket !== '3'" class="mesh" d="M26 3 V14 M30 3 V14 M34 3 V14 M22 8.500 H38" />
      <path v-if="basket === '2'" class="torn" d="M26 14 L29 6 L32 14" />
    </g>
    <path class="body" d="M18 20 H42 V52 L37 60 H23 L18 52 Z" />
    <g v-if="corrosion === '1' || corrosion === '2'" class="rust">
      <circle
        v-for="n in corrosion === '2' ? 11 : 4"
        :key="n"
        :cx="21 + ((n * 7) % 19)"
        :cy="24 + ((n * 11) % 28)"
        r="2"
      />
    </g>
    <rect
      v-if="seals !== '2'"
      class="seal"
      :class="`s${seals}`"
      x="15"
      y="16"
      width="30"
      height="5"
      rx="2.5"
    />
    <rect class="seal" :class="`s${seals}`" x="15" y="53" width="30" height="5" rx="2.5" />
    <path class="tip" :class="`t${tip}`" d="M25 60 H35 V76 L30 84 L25 76 Z" />
    <path v-if="tip === '3'" class="bite" d="M25 70 l4 3 l-4 4 z M35 66 l-4 3 l4 4 z" />
    <path v-if="seat === '1'" class="scratch" d="M26 79 L34 75" />
    <path
      v-if="seat === '2'"
      class="wet"
      d="M30 85 c3.500 5 3.500 8 0 8.500 c-3.500 -.5 -3.500 -3.500 0 -8.500"
    />
    <g class="holes">
      <ellipse
        cx="27.500"
        cy="78"
        :rx="holes === '2' ? 2.4 : 1.1"
        ry="1.1"
        :class="{ shut: holes === '1' }"
      />
      <ellipse cx="32.500" cy="78" :rx="holes === '2' ? 2.4 : 1.1" ry="1.1" />
    </g>
  </svg>
</template>

<style scoped>
.look {
  display: block;
  height: 104px;
  margin: 6px auto 2px;
}
path,
rect {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.8;
}
.mesh {
  stroke-width: 0.8;
}
.b1 path:first-child {
  fill: var(--look);
}
.torn {
  stroke: var(--too-much);
}
.seal {
  fill: var(--ink);
}
.s1 {
  fill: none;
  stroke: var(--look);
  stroke-dasharray: 3 2;
}
.s2,
.s3 {
  fill: none;
  stroke: var(--too-much);
  stroke-dasharray: 1 3;
}
.t1 {
  fill: var(--ink);
}
.t2 {
  fill: var(--look);
}
.t3,
.bite {
  stroke: var(--too-much);
}
.bite {
  fill: var(--too-much);
}
.rust circle {
  fill: var(--look);
}
.scratch {
  stroke: var(--look);
}
.wet {
  fill: var(--fuel);
  stroke: var(--fuel);
}
.holes ellipse {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 0.8;
}
.holes .shut {
  fill: var(--too-little);
}
</style>
