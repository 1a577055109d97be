<script setup lang="ts">
import type { EngineEnd } from '@/api/types';

/** Belt pulley or flywheel, so that nobody has to remember which end is left. */
defineProps<{ end: EngineEnd; first: boolean }>();
</script>

<template>
  <span class="end" :title="end === 'pulley' ? 'pulley end' : 'flywheel end'">
    <svg viewBox="0 0 40 40" width="36" height="36" aria-hidden="true">
      <g v-if="end === 'pulley'">
        <circle cx="16" cy="20" r="13" />
        <circle cx="16" cy="20" r="5" />
        <path d="M18 7.2 H40 M18 32.8 H40" />
      </g>
      <g v-else>
        <circle cx="22" cy="20" r="15" stroke-dasharray="3.2 2" stroke-width="4" />
        <circle cx="22" cy="20" r="12" />
        <circle cx="22" cy="20" r="3" />
      </g>
    </svg>
    <span class="word">{{ end }}<template v-if="first">, 1 is here</template></span>
  </span>
</template>

<style scoped>
.end {
  display: flex;
  flex-direction: column;
  align-items: center;
  color: var(--muted);
}
svg g {
  fill: none;
  stroke: currentcolor;
  stroke-width: 2;
}
.word {
  font-size: 0.72rem;
  text-align: center;
  line-height: 1.15;
}
</style>
