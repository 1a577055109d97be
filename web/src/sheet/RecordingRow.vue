<script setup lang="ts">
import type { Recording } from '@/api/types';
import StripRow from '@/strip/StripRow.vue';
import type { RecordingsHandle } from './useRecordings';

/** A file for each injector, in its own column, and what it looks like, all drawn to one scale. */
const props = defineProps<{ recordings: RecordingsHandle }>();
const { sound, newest, reading, byFile, read, take } = props.recordings;

/** Height of the drawing; loudness from 80 dB below the end of the scale, current to the highest. */
const H = 60;
const highest = () => {
  const peaks = [...newest.value.values()].map(({ found }) => (found.kind === 'ramp' ? found.of.peak_a : 0));
  return Math.max(...peaks, 0.1);
};
function line({ found }: Recording): string {
  if (found.kind === 'cranking') return '';
  const points = found.kind === 'sound' ? found.of.envelope : found.of.picture;
  const [from, to] = [points[0]?.[0] ?? 0, points.at(-1)?.[0] ?? 1];
  const height = (value: number) =>
    found.kind === 'sound' ? Math.max(0, (value + 80) / 80) : Math.max(0, value / highest());
  return points
    .map(
      (p) =>
        `${(((p[0]! - from) / (to - from || 1)) * 100).toFixed(1)},${(H - height(p[1]!) * H).toFixed(1)}`,
    )
    .join(' ');
}
function says({ found }: Recording): string {
  if (found.kind === 'sound') return `${found.of.ticks} of ${found.of.expected} ticks`;
  if (found.kind === 'cranking') return '';
  return found.of.kink_ms == null ? 'no kink' : `kink at ${found.of.kink_ms.toFixed(2)} ms`;
}
</script>

<template>
  <StripRow :word="sound ? 'sound' : 'current'">
    <template #default="{ cylinder }">
      <div class="one">
        <svg
          v-if="newest.get(cylinder)"
          :viewBox="`0 0 100 ${H}`"
          preserveAspectRatio="none"
          aria-hidden="true"
        >
          <polyline :points="line(newest.get(cylinder)!)" />
        </svg>
        <span v-if="newest.get(cylinder)" class="small">{{ says(newest.get(cylinder)!) }}</span>
        <button
          v-if="!byFile"
          class="side-act"
          type="button"
          :disabled="reading !== null"
          :aria-label="`Record cylinder ${cylinder}`"
          @click="take(cylinder)"
        >
          {{ reading === cylinder ? 'Recording' : newest.get(cylinder) ? 'Record again' : 'Record now' }}
        </button>
        <label v-else class="side-act">
          <span>{{
            reading === cylinder ? 'Reading' : newest.get(cylinder) ? 'Replace file' : 'Choose file'
          }}</span>
          <input
            type="file"
            :accept="sound ? '.wav,audio/wav' : '.csv,.txt,text/csv'"
            :aria-label="`Choose ${sound ? 'a WAV' : 'a CSV'} file for cylinder ${cylinder}`"
            @change="read(cylinder, $event)"
          />
        </label>
      </div>
    </template>
    <template #tail>
      <span v-if="byFile" class="muted small">{{ sound ? 'WAV' : 'CSV: s, A' }}</span>
    </template>
  </StripRow>
</template>

<style scoped>
.one {
  display: grid;
  gap: 4px;
  padding: 6px;
  justify-items: stretch;
  text-align: center;
}
svg {
  width: 100%;
  height: 60px;
  background: var(--sheet);
  border-bottom: 2px solid var(--ink);
}
polyline {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
  vector-effect: non-scaling-stroke;
}
label {
  position: relative;
  display: grid;
  place-items: center;
  min-width: 0;
  padding: 0 4px;
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
</style>
