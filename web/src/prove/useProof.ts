import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { ask, refusal, type Refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { CodesView, Event, ProofView } from '@/api/types';
import { newId } from '@/domain/identity';
import { useJob } from '@/job/useJob';

/** The proof of the job around this view: told, read from the unit, closed. */
export function useProof() {
  const job = useJob();
  const cache = useQueryClient();
  const key = computed(() => ['proof', job.id.value]);
  const path = computed(() => `/jobs/${job.id.value}`);
  const query = useQuery({ queryKey: key, queryFn: () => ask<ProofView>('GET', `${path.value}/proof`) });
  const wrong = ref<Refusal>();
  const busy = ref(false);

  async function guarded(work: () => Promise<unknown>) {
    busy.value = true;
    try {
      await work();
      wrong.value = undefined;
      return true;
    } catch (error) {
      wrong.value = refusal(error);
      return false;
    } finally {
      busy.value = false;
    }
  }
  /** A step that changes the job: the answer is the proof, the rest is asked for anew. */
  const step = (what: string) =>
    guarded(async () => {
      const told = await act<ProofView>('POST', `${path.value}/${what}`, { id: newId() });
      cache.setQueryData(key.value, told);
      await job.query.refetch();
      void cache.invalidateQueries({ queryKey: ['board'] });
    });
  const tell = (event: Event) =>
    guarded(async () => {
      await job.happened(event);
      await query.refetch();
    });
  const knob = (what: string, to: string) =>
    guarded(() => ask<CodesView>('POST', `${path.value}/codes/knob`, { what, to }));
  return { job, query, view: computed(() => query.data.value), wrong, busy, step, tell, knob };
}
