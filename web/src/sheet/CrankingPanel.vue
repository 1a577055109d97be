<script setup lang="ts">
import { computed } from 'vue';
import type { Recording } from '@/api/types';
import type { RecordingsHandle } from './useRecordings';
import { hintNoProof } from './words';

/** The current of the starter: a peak for each compression, in the firing order. A hint, no proof. */
const props = defineProps<{ recordings: RecordingsHandle; record?: Recording[] }>();
const newest = computed(() => props.record?.at(-1));
const cranked = computed(() => (newest.value?.found.kind === 'cranking' ? newest.value.found.of : undefined));
const W = 1000;
const H = 200;
const span = computed(() => {
  const points = cranked.value?.read.picture ?? [];
  const amps = points.map((p) => p[1]!);
  return { from: points[0]?.[0] ?? 0, to: points.at(-1)?.[0] ?? 1, top: Math.max(...amps, 1) * 1.05 };
});
const x = (t: number) => ((t - span.value.from) / (span.value.to - span.value.from)) * W;
const y = (amps: number) => H - (Math.max(amps, 0) / span.value.top) * H;
const line = computed(() =>
  (cranked.value?.read.picture ?? []).map((p) => `${x(p[0]!).toFixed(1)},${y(p[1]!).toFixed(1)}`).join(' '),
);
/** The peaks of the first turns, by the cylinder that each is. */
const peaks = computed(() => {
  if (!cranked.value) return [];
  const { order, read } = cranked.value;
  const apart = 120 / read.rpm / order.length;
  return Array.from({ length: order.length * 2 }, (_, i) => ({
    cylinder: order[i % order.length]!,
    at: (x(read.first_s + i * apart) / W) * 100,
  })).filter((one) => one.at < 100);
});
</script>

<template>
  <section class="cranking" aria-label="Cranking current">
    <p class="acts">
      <label class="side-act">
        <span>{{ recordings.reading.value ? 'Reading' : 'Choose file of the cranking current' }}</span>
        <input
          type="file"
          accept=".csv,.txt,text/csv"
          aria-label="Choose a CSV file of the cranking current"
          @change="recordings.read(1, $event)"
        />
      </label>
      <span class="muted small">{{ hintNoProof }}</span>
    </p>
    <figure v-if="cranked">
      <div class="marks" aria-hidden="true">
        <strong v-for="(one, i) in peaks" :key="i" :style="{ left: `${one.at}%` }">{{ one.cylinder }}</strong>
      </div>
      <svg
        :viewBox="`0 0 ${W} ${H}`"
        preserveAspectRatio="none"
        role="img"
        :aria-label="`Current of the starter over ${cranked.read.turns} turns of the firing order`"
      >
        <polyline :points="line" />
      </svg>
      <figcaption class="small">
        <strong>{{ Math.round(cranked.read.rpm) }} rpm</strong>, {{ cranked.read.turns }} turns of
        {{ cranked.order.join('-') }}.
        <span class="muted">Up to {{ Math.round(span.top) }} A.</span>
      </figcaption>
    </figure>
  </section>
</template>

<style scoped>
.cranking {
  padding: 8px 14px;
  display: grid;
  gap: 6px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
}
label {
  position: relative;
}
label input {
  position: absolute;
  inset: 0;
  opacity: 0;
  cursor: pointer;
  width: 100%;
}
label:focus-within {
  outline: 3px solid var(--act);
  outline-offset: 2px;
}
figure {
  margin: 0;
  display: grid;
  gap: 4px;
}
.marks {
  position: relative;
  height: 1.5em;
}
.marks strong {
  position: absolute;
  transform: translateX(-50%);
}
svg {
  width: 100%;
  height: 190px;
  background: var(--sheet);
  border: 1px solid var(--line);
}
polyline {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
  vector-effect: non-scaling-stroke;
}
</style>
