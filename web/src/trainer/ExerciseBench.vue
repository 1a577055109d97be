<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { ask, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import { useSession } from '@/bench/useSession';
import { newId } from '@/domain/identity';
import { readingsFrom } from './words';

/** The bench of an exercise: it runs everything that is still open in this round. */
const session = useSession();
const owner = computed(() => session.file.value?.injectors[0]?.job ?? '');
const job = useQuery({
  queryKey: computed(() => ['job', owner.value]),
  queryFn: () => ask('get', '/api/jobs/{job}', { params: { path: { job: owner.value } } }),
  enabled: computed(() => !!owner.value),
});
const is = computed(() => !!job.data.value?.file.job.exercise);
const wrong = ref('');
const busy = ref(false);

async function run() {
  busy.value = true;
  try {
    await act('post', '/api/bench/{session}/exercise', {
      params: { path: { session: session.id.value } },
      body: { id: newId(), cell: null, cylinder: null },
    });
    await session.query.refetch();
    wrong.value = '';
  } catch (error) {
    wrong.value = refusal(error).message;
  }
  busy.value = false;
}
</script>

<template>
  <div v-if="is" class="reads">
    <button class="main-act" type="button" :disabled="busy" @click="run">Run bench</button>
    <RouterLink class="side-act" :to="`/jobs/${owner}/decide`">Decide</RouterLink>
    <span class="muted">{{ readingsFrom }}</span>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
  </div>
</template>
