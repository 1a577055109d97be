import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { ask, refusal, type Refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { Event, LearnedRequest } from '@/api/types';
import { newId } from '@/domain/identity';
import { useJob } from '@/job/useJob';

/** What the program does itself for the proof. */
export type ProofStep = 'proof/learned' | 'proof/clear' | 'close';

/** The proof of the job around this view: told, read from the unit, closed. */
export function useProof() {
  const job = useJob();
  const cache = useQueryClient();
  const key = computed(() => ['proof', job.id.value]);
  const params = computed(() => ({ path: { job: job.id.value } }));
  const query = useQuery({
    queryKey: key,
    queryFn: () => ask('get', '/api/jobs/{job}/proof', { params: params.value }),
  });
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
  const step = (what: ProofStep) =>
    guarded(async () => {
      const told = await act('post', `/api/jobs/{job}/${what}`, {
        params: params.value,
        body: { id: newId() },
      });
      cache.setQueryData(key.value, told);
      // What is shown is true already: nobody's next press waits for the rest of the page.
      void job.query.refetch();
      void cache.invalidateQueries({ queryKey: ['board'] });
    });
  const tell = (event: Event) =>
    guarded(async () => {
      await job.happened(event);
      await query.refetch();
    });
  /** What somebody saw on another scan tool, as typed. */
  const seen = (body: LearnedRequest) =>
    guarded(async () => {
      const told = await act('post', '/api/jobs/{job}/proof/by-hand', { params: params.value, body });
      cache.setQueryData(key.value, told);
      await job.query.refetch();
    });
  const knob = (what: string, to: string) =>
    guarded(() => ask('post', '/api/jobs/{job}/codes/knob', { params: params.value, body: { what, to } }));
  return { job, query, view: computed(() => query.data.value), wrong, busy, step, tell, seen, knob };
}
