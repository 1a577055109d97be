import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, ref, watch } from 'vue';
import { ask, refusal, type Refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { CodesView, SlotCode } from '@/api/types';
import { newId } from '@/domain/identity';
import { useJob } from '@/job/useJob';

/** How often a writing is looked at, ms. */
const LOOK = 200;

/** Codes of the job around this view: read, captured, written, with the writing watched to its end. */
export function useCodes() {
  const job = useJob();
  const cache = useQueryClient();
  const key = computed(() => ['codes', job.id.value]);
  const path = computed(() => `/jobs/${job.id.value}/codes`);
  const query = useQuery({
    queryKey: key,
    queryFn: () => ask<CodesView>('GET', path.value),
    refetchInterval: (held) => (held.state.data?.writing?.running ? LOOK : false),
  });
  const wrong = ref<Refusal>();
  const busy = ref(false);
  async function post(what: string, body: object) {
    busy.value = true;
    try {
      const send = what === 'knob' ? ask : act;
      cache.setQueryData(key.value, await send<CodesView>('POST', `${path.value}/${what}`, body));
      wrong.value = undefined;
      return true;
    } catch (error) {
      wrong.value = refusal(error);
      void query.refetch();
      return false;
    } finally {
      busy.value = false;
    }
  }
  const view = computed(() => query.data.value);
  // What was written changes what the rest of the job says.
  watch(
    () => view.value?.writing?.running,
    (running, before) => {
      if (before && !running) void cache.invalidateQueries({ queryKey: ['job', job.id.value] });
    },
  );
  const read = () => post('read', { id: newId() });
  const write = (what: 'plan' | 'put_back', writes: SlotCode[]) =>
    post('write', { id: newId(), what, writes });
  const knob = (what: string, to: string) => post('knob', { what, to });
  return { job, query, view, wrong, busy, post, read, write, knob };
}
