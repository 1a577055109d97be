<script setup lang="ts">
import type { Mark } from '@/api/types';
import { MARK } from '@/words';

/** Needle over seat: the state of one injector. Outline, word and colour say the same thing. */
withDefaults(defineProps<{ mark: Mark; size?: number; silent?: boolean }>(), { size: 28, silent: false });
</script>

<template>
  <svg
    class="mark"
    :data-mark="mark"
    viewBox="0 0 28 28"
    :width="size"
    :height="size"
    :role="silent ? 'presentation' : 'img'"
    :aria-label="silent ? undefined : MARK[mark]"
  >
    <path v-if="mark !== 'questioned'" class="seat" d="M3 15 L14 25.5 L25 15" />
    <path v-if="mark === 'inside'" class="needle" d="M9 3 H19 V13 L14 20 L9 13 Z" />
    <g v-else-if="mark === 'too_much'">
      <path class="needle" d="M9 1 H19 V7.5 L14 13 L9 7.5 Z" />
      <path class="needle" d="M14 14.5 C16.6 17.6 16.4 20.6 14 20.8 C11.6 20.6 11.4 17.6 14 14.5 Z" />
    </g>
    <g v-else-if="mark === 'too_little'">
      <path class="needle" d="M9 9.5 H19 V13 L14 20 L9 13 Z" />
      <path class="bar" d="M5.5 5 H22.5" />
    </g>
    <path v-else-if="mark === 'look'" class="outline" d="M9.5 3.5 H18.5 V12.5 L14 18.5 L9.5 12.5 Z" />
    <path v-else-if="mark === 'undecided'" class="dashed" d="M9.5 3.5 H18.5 V12.5 L14 18.5 L9.5 12.5 Z" />
    <circle v-else-if="mark === 'questioned'" class="needle" cx="14" cy="14" r="4.6" />
  </svg>
</template>

<style scoped>
.mark {
  display: inline-block;
  vertical-align: middle;
  flex: none;
}
.seat,
.outline,
.dashed,
.bar {
  fill: none;
  stroke: currentcolor;
  stroke-width: 2.6;
}
.dashed {
  stroke-dasharray: 3 2.4;
}
.needle {
  fill: currentcolor;
}
</style>
