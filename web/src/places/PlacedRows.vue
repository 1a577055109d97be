<script setup lang="ts">
import { computed } from 'vue';
import type { Refusal } from '@/api/client';
import type { Fuelling, Placement } from '@/api/types';
import StripRow from '@/strip/StripRow.vue';
import FuelBars from './FuelBars.vue';

/** What goes into each cylinder, what it gets and wants, and what comes of it. */
const props = defineProps<{
  placement: Placement;
  fuelling: Fuelling | null | undefined;
  wrong: Refusal | undefined;
}>();
const wants = defineModel<Record<number, string>>('wants', { required: true });
const at = (cylinder: number) => props.placement.placed.find((one) => one.cylinder === cylinder);
const fuel = (cylinder: number) => props.fuelling?.cylinders.find((one) => one.cylinder === cylinder);
const reach = computed(() =>
  Math.max(
    0.05,
    ...(props.fuelling?.cylinders ?? []).flatMap((one) => [Math.abs(one.idle), Math.abs(one.full)]),
  ),
);
const tenth = (share: number) => {
  const tenths = Math.round(share * 1000) / 10;
  return `${tenths > 0 ? '+' : tenths < 0 ? '−' : ''}${Math.abs(tenths).toFixed(1)} %`;
};
</script>

<template>
  <StripRow word="fitted to">
    <template #default="{ cylinder }">
      <p
        v-if="at(cylinder)"
        class="goes"
        :class="{ moves: at(cylinder)!.sits !== cylinder, open: at(cylinder)!.share == null }"
      >
        <strong>{{ at(cylinder)!.label || '–' }}</strong>
        <span v-if="at(cylinder)!.sits !== cylinder" class="from"
          >{{ at(cylinder)!.sits }}→{{ cylinder }}</span
        >
        <span v-else class="muted">{{ at(cylinder)!.share == null ? 'not placed' : 'stays' }}</span>
      </p>
    </template>
  </StripRow>
  <StripRow word="gets">
    <template #default="{ cylinder }">
      <p class="gets">
        {{ at(cylinder)?.share == null ? '–' : tenth(at(cylinder)!.share!) }}
      </p>
    </template>
  </StripRow>
  <StripRow word="needs, %">
    <template #default="{ cylinder }">
      <input
        v-model="wants[cylinder]"
        data-cell
        inputmode="decimal"
        placeholder="0"
        :aria-label="`Cylinder ${cylinder} needs more by`"
        :aria-invalid="!!wrong?.about(`want${cylinder}`)"
      />
    </template>
  </StripRow>
  <template v-if="fuelling">
    <StripRow word="at idle">
      <template #default="{ cylinder }">
        <FuelBars v-if="fuel(cylinder)" :one="fuel(cylinder)!" :reach="reach" part="idle" />
      </template>
    </StripRow>
    <StripRow word="full load">
      <template #default="{ cylinder }">
        <FuelBars v-if="fuel(cylinder)" :one="fuel(cylinder)!" :reach="reach" part="full" />
      </template>
    </StripRow>
    <StripRow word="mixture">
      <template #default="{ cylinder }">
        <p class="runs" :class="{ risk: fuel(cylinder)?.risk }">{{ fuel(cylinder)?.word ?? '–' }}</p>
      </template>
    </StripRow>
  </template>
</template>

<style scoped>
.goes,
.gets,
.runs {
  padding: 8px min(10px, calc(8 * var(--cell)));
  display: grid;
}
.goes strong {
  font-size: clamp(0.62rem, calc(21 * var(--cell)), 1.2rem);
}
.goes .muted {
  font-size: clamp(0.68rem, calc(22 * var(--cell)), 1rem);
}
.moves {
  background: var(--act-soft);
  box-shadow: inset 0 -4px 0 var(--act);
}
.from {
  color: var(--act);
  font-weight: 700;
  font-size: clamp(0.85rem, calc(24 * var(--cell)), 1.4rem);
  white-space: nowrap;
}
.open {
  color: var(--muted);
}
.gets {
  font-size: clamp(0.72rem, calc(22 * var(--cell)), 1.3rem);
  white-space: nowrap;
  padding-inline: 4px;
}
.runs {
  padding: 8px min(10px, calc(8 * var(--cell)));
  display: grid;
}
.risk {
  color: var(--too-much);
  font-weight: 700;
}
</style>
