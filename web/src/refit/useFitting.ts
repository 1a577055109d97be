import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { ask, refusal, type Refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { Event } from '@/api/types';
import { newId } from '@/domain/identity';
import { useJob, type Decided } from '@/job/useJob';

/** The fitting card of the job around this view: ticked, and what was found. */
export function useFitting() {
  const job = useJob();
  const cache = useQueryClient();
  const key = computed(() => ['fitting', job.id.value]);
  const params = computed(() => ({ path: { job: job.id.value } }));
  const query = useQuery({
    queryKey: key,
    queryFn: () => ask('get', '/api/jobs/{job}/fitting', { params: params.value }),
  });
  const wrong = ref<Refusal>();

  /** Tells what happened; says no where it was refused. */
  async function tell(event: Event, decision?: Decided) {
    try {
      await job.happened(event, undefined, decision);
      wrong.value = undefined;
      await query.refetch();
      return true;
    } catch (error) {
      wrong.value = refusal(error);
      return false;
    }
  }
  async function tighten(typed: string, source: string) {
    try {
      const body = { id: newId(), typed, source };
      cache.setQueryData(
        key.value,
        await act('post', '/api/jobs/{job}/fitting/tightening', { params: params.value, body }),
      );
      wrong.value = undefined;
      return true;
    } catch (error) {
      wrong.value = refusal(error);
      return false;
    }
  }
  return { job, query, card: computed(() => query.data.value), wrong, tell, tighten };
}
