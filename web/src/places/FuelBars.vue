<script setup lang="ts">
import { computed } from 'vue';
import type { CylinderFuel } from '@/api/types';

/** How much more or less than the mean a cylinder gets, at idle and at full load: bars from a middle
 *  line, to one scale across the engine, with the doubt as a whisker. */
const props = defineProps<{ one: CylinderFuel; reach: number; part: 'idle' | 'full' }>();
/** Only what was called lean or rich at this pulse carries a colour of its own. */
const called = computed(() => props.one.runs.endsWith(props.part === 'idle' ? '_idle' : '_full'));
const share = computed(() => (props.part === 'idle' ? props.one.idle : props.one.full));
const u = computed(() => (props.part === 'idle' ? props.one.u_idle : props.one.u_full));
const at = (value: number) => 50 - (Math.max(-1, Math.min(1, value / props.reach)) * 100) / 2;
const says = computed(() => {
  const tenths = Math.round(share.value * 1000) / 10;
  return `${tenths > 0 ? '+' : tenths < 0 ? '−' : ''}${Math.abs(tenths).toFixed(1)} %`;
});
</script>

<template>
  <span class="fuel" :class="{ less: share < 0, called }">
    <span class="field" aria-hidden="true">
      <i
        class="bar"
        :style="{ top: `${Math.min(50, at(share))}%`, height: `${Math.abs(at(share) - 50)}%` }"
      ></i>
      <i
        class="whisker"
        :style="{ top: `${at(share + 2 * u)}%`, height: `${at(share - 2 * u) - at(share + 2 * u)}%` }"
      ></i>
    </span>
    <span class="number">{{ says }}</span>
  </span>
</template>

<style scoped>
.fuel {
  display: grid;
  justify-items: center;
  padding: 4px 0;
}
.field {
  position: relative;
  width: 46%;
  max-width: 44px;
  height: 64px;
  background: linear-gradient(var(--ink), var(--ink)) 0 50% / 100% 2px no-repeat;
}
i {
  position: absolute;
}
.bar {
  left: 0;
  right: 0;
  min-height: 2px;
  background: var(--edge);
}
.less .bar {
  background: repeating-linear-gradient(0deg, var(--edge) 0 4px, transparent 4px 6px);
}
.called .bar {
  background: var(--too-much);
}
.called.less .bar {
  background: repeating-linear-gradient(0deg, var(--too-little) 0 4px, transparent 4px 6px);
}
.called .number {
  font-weight: 700;
}
.whisker {
  left: calc(50% - 1px);
  width: 2px;
  background: var(--ink);
}
.number {
  font-size: clamp(0.7rem, calc(26 * var(--cell)), 1.05rem);
  white-space: nowrap;
}
</style>
