<script setup lang="ts">
import { computed } from 'vue';
import type { FamilyDetail } from '@/api/types';

/** What is specified of a family, and what is not. */
const props = defineProps<{ detail: FamilyDetail; tightening: readonly string[] }>();
const specification = computed(() => {
  const { detail } = props;
  const code = detail.code;
  return [
    { word: 'Drive voltage', says: detail.drive_voltage_v != null ? `${detail.drive_voltage_v} V` : '' },
    {
      word: 'Maximum',
      says: [
        detail.peak_voltage_v != null ? `${detail.peak_voltage_v} V` : '',
        detail.peak_current_a != null ? `${detail.peak_current_a} A` : '',
      ]
        .filter(Boolean)
        .join(', '),
    },
    { word: 'Trim code', says: code ? `${code.length} characters${code.check ? ', with a check' : ''}` : '' },
    { word: 'Tightening', says: props.tightening.join('; ') },
    {
      word: 'Maximum cleanings',
      says: detail.cleaning_cycles != null ? String(detail.cleaning_cycles) : '',
    },
    { word: 'Service life', says: detail.service_life_h != null ? `${detail.service_life_h} h` : '' },
    { word: 'Cleaning', says: detail.cleaning == null ? '' : detail.cleaning ? 'allowed' : 'not allowed' },
  ];
});
</script>

<template>
  <dl class="spec">
    <div v-for="line in specification" :key="line.word">
      <dt class="muted small">{{ line.word }}</dt>
      <dd :class="{ none: !line.says }">{{ line.says || 'not specified' }}</dd>
    </div>
  </dl>
</template>

<style scoped>
.spec {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  margin: 0;
  border-top: 2px solid var(--ink);
}
.spec > div {
  padding: 7px 12px 8px 0;
  border-bottom: 1px solid var(--line);
}
dd {
  margin: 0;
  font-size: 1.1rem;
  font-weight: 700;
}
dd.none {
  font-weight: 400;
  font-size: 1rem;
  color: var(--muted);
}
@media (max-width: 700px) {
  .spec {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
