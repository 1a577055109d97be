<script setup lang="ts">
import { computed } from 'vue';
import { ahead } from '@/api/clock';
import { clock } from '@/domain/time';
import { useNow } from '@/domain/useNow';
import { useSession } from './useSession';

/** How long the foam of a run still takes to settle; nothing once it has. */
const props = defineProps<{ ended: string }>();
const session = useSession();
const now = useNow();
const left = computed(() => {
  const waited = (now.value + ahead.value - Date.parse(props.ended)) / 1000;
  return (session.view.value?.foam_settle_s ?? 0) - waited;
});
</script>

<template>
  <span v-if="left > 0" class="foam">foam {{ clock(left) }}</span>
</template>

<style scoped>
.foam {
  font-weight: 700;
  font-size: 1.05rem;
  color: var(--look);
}
</style>
