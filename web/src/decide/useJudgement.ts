import { keepPreviousData, useQuery } from '@tanstack/vue-query';
import { computed } from 'vue';
import { ask } from '@/api/client';
import { useJob } from '@/job/useJob';

/** The judgement of the job around this view, asked for anew whenever the job changed. */
export function useJudgement() {
  const job = useJob();
  const query = useQuery({
    queryKey: computed(() => ['judgement', job.id.value, job.query.dataUpdatedAt.value]),
    queryFn: () => ask('get', '/api/jobs/{job}/judgement', { params: { path: { job: job.id.value } } }),
    placeholderData: keepPreviousData,
    gcTime: 0,
  });
  const judgement = computed(() => query.data.value);
  const at = (cylinder: number) => judgement.value?.positions.find((one) => one.cylinder === cylinder);
  return { query, judgement, at };
}
