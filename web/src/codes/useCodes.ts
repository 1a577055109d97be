import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, ref, watch } from 'vue';
import { ask, refusal, type Refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { CaptureRequest, CodesView, SlotCode } from '@/api/types';
import { newId } from '@/domain/identity';
import { useJob } from '@/job/useJob';

/** How often a writing is looked at, ms. */
const LOOK = 200;

/** Codes of the job around this view: read, captured, written, with the writing watched to its end. */
export function useCodes() {
  const job = useJob();
  const cache = useQueryClient();
  const key = computed(() => ['codes', job.id.value]);
  const params = computed(() => ({ path: { job: job.id.value } }));
  const query = useQuery({
    queryKey: key,
    queryFn: () => ask('get', '/api/jobs/{job}/codes', { params: params.value }),
    refetchInterval: (held) => (held.state.data?.writing?.running ? LOOK : false),
  });
  const wrong = ref<Refusal>();
  const busy = ref(false);
  async function guarded(done: () => Promise<CodesView>) {
    busy.value = true;
    try {
      cache.setQueryData(key.value, await done());
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
  const read = () =>
    guarded(() => act('post', '/api/jobs/{job}/codes/read', { params: params.value, body: { id: newId() } }));
  const write = (what: 'plan' | 'put_back', writes: SlotCode[]) =>
    guarded(() => {
      const body = { id: newId(), what, writes };
      return act('post', '/api/jobs/{job}/codes/write', { params: params.value, body });
    });
  const capture = (body: CaptureRequest) =>
    guarded(() => act('post', '/api/jobs/{job}/codes/captured', { params: params.value, body }));
  const knob = (what: string, to: string) =>
    guarded(() => ask('post', '/api/jobs/{job}/codes/knob', { params: params.value, body: { what, to } }));
  return { job, query, view, wrong, busy, capture, read, write, knob };
}
