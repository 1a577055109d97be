<script setup lang="ts">
import { computed } from 'vue';
import type { Caution } from '@/api/types';

/**
 * Cautions of a step: hazard, action, who. Full before the step; once it is under way the hazards
 * stay in sight and open with a tap.
 */
const props = defineProps<{ cautions: Caution[]; brief?: boolean }>();
/** Who may do it, said once. */
const who = computed(() => [...new Set(props.cautions.map((one) => one.who))]);
</script>

<template>
  <component :is="brief ? 'details' : 'div'" v-if="cautions.length" class="cautions" aria-label="Cautions">
    <summary v-if="brief">
      <strong v-for="one in cautions" :key="one.hazard" class="hazard">{{ one.hazard }}</strong>
    </summary>
    <p v-for="one in cautions" :key="one.hazard">
      <strong>{{ one.hazard }}</strong> {{ one.action }}
    </p>
    <p v-for="one in who" :key="one" class="muted">{{ one }}</p>
  </component>
</template>

<style scoped>
.cautions {
  border-left: 5px solid var(--look);
  padding: 1px 0 1px 12px;
  font-size: 0.875rem;
}
p + p {
  margin-top: 6px;
}
summary {
  cursor: pointer;
  min-height: 44px;
  font-size: 0.8rem;
  line-height: 1.3;
}
.hazard {
  display: block;
}
summary {
  list-style: none;
}
@media print {
  .cautions > * {
    display: block;
  }
}
</style>
