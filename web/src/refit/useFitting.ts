import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { ask, refusal, type Refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { Event, Fitting } from '@/api/types';
import { newId } from '@/domain/identity';
import { useJob } from '@/job/useJob';

/** The fitting card of the job around this view: ticked, and what was found. */
export function useFitting() {
  const job = useJob();
  const cache = useQueryClient();
  const key = computed(() => ['fitting', job.id.value]);
  const path = computed(() => `/jobs/${job.id.value}/fitting`);
  const query = useQuery({ queryKey: key, queryFn: () => ask<Fitting>('GET', path.value) });
  const wrong = ref<Refusal>();

  /** Tells what happened; says no where it was refused. */
  async function tell(event: Event) {
    try {
      await job.happened(event);
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
      cache.setQueryData(key.value, await act<Fitting>('POST', `${path.value}/tightening`, body));
      wrong.value = undefined;
      return true;
    } catch (error) {
      wrong.value = refusal(error);
      return false;
    }
  }
  return { job, query, card: computed(() => query.data.value), wrong, tell, tighten };
}
