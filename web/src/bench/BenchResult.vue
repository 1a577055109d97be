<script setup lang="ts">
import InjectorMark from '@/strip/InjectorMark.vue';
import StripRow from '@/strip/StripRow.vue';
import { useSession } from './useSession';

/** What the test in front says of each injector, with the shim that would fit. */
const session = useSession();
const laneOf = (tag: number) => session.verdict.value?.lanes.find((one) => one.place === tag);
/** Fits a shim: in a round of its own, so that each fit keeps its lift. */
async function fit(tag: number, size: number) {
  const round = session.round.value;
  const measured = session.standing({ cell: 'lift', row: null, tag });
  if (round?.stage !== 'adjusted' || measured?.value != null) await session.begin('adjusted');
  await session.cells.say({ cell: 'shim', row: null, tag }, String(size));
}
</script>

<template>
  <StripRow>
    <template #default="{ cylinder: tag }">
      <div class="result">
        <p v-if="laneOf(tag)?.shown" class="value">{{ laneOf(tag)!.shown }}</p>
        <p class="says" :data-mark="laneOf(tag)?.mark ?? 'not_measured'">
          <InjectorMark :mark="laneOf(tag)?.mark ?? 'not_measured'" :size="30" silent />
          <span>{{ laneOf(tag)?.word ?? 'not read' }}</span>
        </p>
        <button
          v-if="laneOf(tag)?.fit_um"
          class="main-act"
          type="button"
          @click="fit(tag, laneOf(tag)!.fit_um!)"
        >
          Fit {{ laneOf(tag)!.fit_um }} µm
        </button>
      </div>
    </template>
  </StripRow>
</template>

<style scoped>
.result {
  text-align: center;
  padding: 6px 2px 10px;
  display: grid;
  justify-items: center;
  gap: 2px;
}
.value {
  font-size: clamp(0.85rem, calc(17 * var(--cell)), 1.35rem);
  font-weight: 700;
  overflow-wrap: anywhere;
}
.says {
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
  align-items: center;
  gap: 0 6px;
  font-weight: 700;
  font-size: clamp(0.75rem, calc(14 * var(--cell)), 1.05rem);
}
</style>
