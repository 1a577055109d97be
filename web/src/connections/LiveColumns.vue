<script setup lang="ts">
import { computed } from 'vue';
import type { LiveView } from '@/api/types';

/** What an instrument shows now, channel by channel, on one scale. */
const props = defineProps<{ look: LiveView | undefined }>();
const values = computed(() => props.look?.values ?? []);
const top = computed(() => {
  const most = Math.max(...values.value.map(Math.abs), 0);
  const step = 10 ** Math.floor(Math.log10(most || 1));
  return Math.ceil((most || 1) / step) * step;
});
const shown = (value: number) => (Math.abs(value) >= 100 ? value.toFixed(0) : value.toFixed(1));
</script>

<template>
  <div class="live" :style="{ '--n': Math.max(values.length, 1) }" aria-live="off">
    <div v-for="(value, i) in values" :key="i" class="channel">
      <span class="value">{{ shown(value) }}</span>
      <span class="unit small">{{ look?.unit }}</span>
      <div v-if="values.length > 1" class="tube">
        <div class="fill" :style="{ height: `${(Math.abs(value) / top) * 100}%` }"></div>
      </div>
      <span v-if="values.length > 1" class="muted">{{ i + 1 }}</span>
    </div>
    <p v-if="!values.length" class="muted none">–</p>
  </div>
</template>

<style scoped>
.live {
  display: grid;
  grid-template-columns: repeat(var(--n), minmax(0, 1fr));
  gap: 10px;
  min-height: 150px;
  align-items: end;
}
.channel {
  display: grid;
  justify-items: center;
}
.value {
  font-size: clamp(1.3rem, calc(200px / var(--n) * 0.4), 3.4rem);
  font-weight: 700;
  line-height: 1.1;
}
.tube {
  width: min(64px, 80%);
  height: 110px;
  border: 3px solid var(--ink);
  border-top: 0;
  border-radius: 0 0 7px 7px;
  position: relative;
  overflow: hidden;
  background: var(--sheet);
}
.fill {
  position: absolute;
  inset: auto 0 0;
  background: var(--fuel);
}
.none {
  font-size: 2.4rem;
  text-align: center;
}
</style>
