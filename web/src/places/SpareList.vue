<script setup lang="ts">
import { computed } from 'vue';
import type { Spare } from '@/api/types';
import { useJob } from '@/job/useJob';

/** Injectors of the shelf that could take the place of one that does not go back. */
defineProps<{ spares: Spare[] }>();
const emit = defineEmits<{ fitted: [] }>();
const job = useJob();
const view = computed(() => job.view.value!);
/** Cylinders whose injector is not to go back, and that hold no other yet. */
const renewed = computed(() =>
  view.value.seats
    .filter((seat) => job.decision(seat.cylinder)?.decision === 'replace')
    .filter((seat) => !taken.value.includes(seat.injector))
    .map((seat) => seat.cylinder),
);
const taken = computed(() =>
  (view.value.file.events ?? []).flatMap(({ event }) =>
    event.what === 'replaced' ? [event.injector.id] : [],
  ),
);
async function fit(spare: { injector: string; label: string }, cylinder: number) {
  const injector = { id: spare.injector, cylinder, label: spare.label };
  await job.happened({ what: 'replaced', injector, part: 'tested' });
  emit('fitted');
}
</script>

<template>
  <section>
    <h2>Spares for those not refitted</h2>
    <ol>
      <li v-for="one in spares" :key="one.injector">
        <strong>{{ one.label }}</strong> <span class="muted small">job {{ one.job_number }}</span>
        <span class="small">{{ one.says }}</span>
        <button
          v-for="cylinder in renewed"
          :key="cylinder"
          class="link-act"
          type="button"
          @click="fit(one, cylinder)"
        >
          Fit to cylinder {{ cylinder }}
        </button>
      </li>
    </ol>
  </section>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 0 8px;
  padding: 4px 0;
  border-bottom: 1px solid var(--line);
}
li .small:last-child {
  grid-column: 1 / -1;
}
</style>
