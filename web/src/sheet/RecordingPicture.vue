<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import type { Recording } from '@/api/types';

/**
 * The recording of the chosen injector large: the spectrum of its sound over time, or its current over
 * those of all others, so that the odd one is seen against the set.
 */
const props = defineProps<{ recordings: Map<number, Recording>; cylinder: number | null }>();
const emit = defineEmits<{ moved: [cylinder: number, kinkMs: number] }>();
/** The kink is being put elsewhere: the next tap says where. */
const moving = ref(false);
watch(
  () => props.cylinder,
  () => (moving.value = false),
);
function place(event: MouseEvent) {
  if (!moving.value || props.cylinder === null) return;
  const box = (event.currentTarget as SVGElement).getBoundingClientRect();
  const share = (event.clientX - box.left) / box.width;
  emit('moved', props.cylinder, span.value.from + share * (span.value.to - span.value.from));
  moving.value = false;
}

const W = 1000;
const H = 240;
const own = computed(() => (props.cylinder == null ? undefined : props.recordings.get(props.cylinder)));
const heard = computed(() => (own.value?.found.kind === 'sound' ? own.value.found.of : undefined));
/** One rectangle for each stretch of a row that is as loud: far fewer than one for each cell. */
const blocks = computed(() => {
  const rows = heard.value?.picture ?? [];
  const height = H / (rows.length || 1);
  return rows.flatMap((row, r) => {
    const width = W / row.length;
    return [...row.matchAll(/([1-9a-f])\1*/g)].map((run) => ({
      x: run.index * width,
      y: H - (r + 1) * height,
      width: run[0].length * width,
      height,
      loud: parseInt(run[1]!, 16) / 15,
    }));
  });
});
const ramps = computed(() =>
  [...props.recordings.values()].flatMap((one) =>
    one.found.kind === 'ramp' ? [{ cylinder: one.cylinder, ramp: one.found.of }] : [],
  ),
);
const span = computed(() => {
  const points = ramps.value.flatMap((one) => one.ramp.picture);
  const [times, amps] = [points.map((p) => p[0]!), points.map((p) => p[1]!)];
  return { from: Math.min(...times, 0), to: Math.max(...times, 1), top: Math.max(...amps, 0.1) * 1.05 };
});
const x = (ms: number) => ((ms - span.value.from) / (span.value.to - span.value.from)) * W;
const y = (amps: number) => H - (Math.max(amps, 0) / span.value.top) * H;
const line = (picture: number[][]) =>
  picture.map((p) => `${x(p[0]!).toFixed(1)},${y(p[1]!).toFixed(1)}`).join(' ');
const at = (picture: number[][], ms: number) =>
  picture.reduce((best, p) => (Math.abs(p[0]! - ms) < Math.abs(best[0]! - ms) ? p : best), picture[0]!)[1]!;
const ticks = computed(() => Array.from({ length: Math.floor(span.value.to) + 1 }, (_, ms) => ms));
</script>

<template>
  <figure v-if="heard">
    <svg
      :viewBox="`0 0 ${W} ${H}`"
      preserveAspectRatio="none"
      role="img"
      :aria-label="`Spectrum of cylinder ${cylinder}: ${heard.ticks} of ${heard.expected} ticks`"
    >
      <rect v-for="(one, i) in blocks" :key="i" v-bind="one" :opacity="one.loud" />
    </svg>
    <figcaption class="small">
      <strong>Cylinder {{ cylinder }}: {{ heard.ticks }} of {{ heard.expected }} ticks</strong>
      <span v-if="heard.rate_hz != null">, {{ heard.rate_hz.toFixed(2) }} per second</span>
      <span v-if="heard.sharpness_hz != null">, sharpness {{ Math.round(heard.sharpness_hz) }} Hz</span>
      <span class="muted">. Upwards 0.7 to 9 kHz, to the right {{ heard.seconds.toFixed(1) }} s.</span>
      <span v-if="heard.clipped" class="wrong"> Clipped: record again at a lower level.</span>
    </figcaption>
  </figure>
  <figure v-else-if="ramps.length">
    <svg
      :viewBox="`0 0 ${W} ${H}`"
      preserveAspectRatio="none"
      role="img"
      :aria-label="`Current of ${ramps.length} injectors, one over the other`"
      :class="{ moving }"
      @click="place"
    >
      <line v-for="ms in ticks" :key="ms" :x1="x(ms)" :x2="x(ms)" y1="0" :y2="H" class="tick" />
      <polyline
        v-for="one in ramps"
        :key="one.cylinder"
        :points="line(one.ramp.picture)"
        :class="{ own: one.cylinder === cylinder }"
      />
      <template v-for="one in ramps" :key="`kink-${one.cylinder}`">
        <line
          v-if="one.ramp.kink_ms != null && one.cylinder === cylinder"
          :x1="x(one.ramp.kink_ms)"
          :x2="x(one.ramp.kink_ms)"
          :y1="y(at(one.ramp.picture, one.ramp.kink_ms)) - 30"
          :y2="H"
          class="kink"
        />
      </template>
    </svg>
    <figcaption class="small">
      <strong v-if="own?.found.kind === 'ramp'">
        Cylinder {{ cylinder }}: {{ own.found.of.peak_a.toFixed(2) }} A peak,
        {{ own.found.of.kink_ms == null ? 'no kink' : `kink at ${own.found.of.kink_ms.toFixed(2)} ms` }}
      </strong>
      <span v-if="own?.found.kind === 'ramp' && own.found.of.resistance_ohm != null"
        >, circuit {{ own.found.of.resistance_ohm.toFixed(1) }} Ω</span
      >
      <span v-if="own?.found.kind === 'ramp' && own.found.of.inductance_mh != null"
        >, {{ own.found.of.inductance_mh.toFixed(1) }} mH</span
      >
      <span class="muted">. A line each millisecond; up to {{ span.top.toFixed(1) }} A.</span>
      <button v-if="own?.found.kind === 'ramp'" class="link-act" type="button" @click="moving = !moving">
        {{ moving ? 'Tap where it is' : 'Move kink' }}
      </button>
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 12px 14px;
  display: grid;
  gap: 6px;
}
svg {
  width: 100%;
  height: 220px;
  background: var(--sheet);
  border: 1px solid var(--line);
}
rect {
  fill: var(--ink);
  shape-rendering: crispEdges;
}
polyline {
  fill: none;
  stroke: var(--muted);
  stroke-width: 1.5;
  vector-effect: non-scaling-stroke;
}
polyline.own {
  stroke: var(--ink);
  stroke-width: 3.5;
}
.moving {
  cursor: crosshair;
  outline: 3px solid var(--act);
}
.tick {
  stroke: var(--line);
  stroke-width: 1;
  vector-effect: non-scaling-stroke;
}
.kink {
  stroke: var(--act);
  stroke-width: 3;
  stroke-dasharray: 6 4;
  vector-effect: non-scaling-stroke;
}
</style>
