import { useQuery } from '@tanstack/vue-query';
import { computed, type Ref } from 'vue';
import { ask } from '@/api/client';
import { makeJob, provideJob } from '@/job/useJob';

/** The job of a printed view with what is printed of it besides; also for the views below it. */
export function useReport(id: Ref<string>) {
  const job = makeJob(id);
  provideJob(job);
  const query = useQuery({
    queryKey: computed(() => ['report', id.value]),
    queryFn: () => ask('get', '/api/jobs/{job}/report', { params: { path: { job: id.value } } }),
  });
  const file = computed(() => job.view.value?.file);
  const report = computed(() => query.data.value);
  const pending = computed(() => job.query.isPending.value || query.isPending.value);
  const error = computed(() => job.query.error.value ?? query.error.value);
  const again = () => {
    void job.query.refetch();
    void query.refetch();
  };
  return { job, file, report, pending, error, again };
}
