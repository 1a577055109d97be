<script setup lang="ts">
import { computed } from 'vue';
import FoamTimer from './FoamTimer.vue';
import { useSession } from './useSession';

/** Beside a row of tubes: its grade, what it says, and how long its foam still settles. */
const props = defineProps<{ row: number; settles: boolean; grade: string; says: string; drawn: boolean }>();
const session = useSession();
/** When the run of the row ended; its foam settles from then on. */
const ended = computed(() => {
  const held = session.standing({ cell: 'ended', row: props.row, tag: null });
  return held?.value ? held.signed.at : '';
});
</script>

<template>
  <span class="tail">
    <strong v-if="grade">{{ grade }}</strong>
    <FoamTimer v-if="settles && ended" :ended="ended" />
    <button
      v-if="settles && !ended && !drawn"
      type="button"
      class="end"
      @click="session.cells.say({ cell: 'ended', row, tag: null }, '1')"
    >
      run ended
    </button>
    <span v-if="drawn" class="muted">{{ says }}</span>
  </span>
</template>

<style scoped>
.tail {
  display: grid;
  font-size: 0.78rem;
  line-height: 1.25;
}
.end {
  min-height: 44px;
  border: 2px dashed var(--edge);
  border-radius: 6px;
  background: none;
  cursor: pointer;
  font-size: 0.8rem;
}
</style>
