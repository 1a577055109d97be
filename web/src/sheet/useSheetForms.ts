import { useQuery } from '@tanstack/vue-query';
import { computed } from 'vue';
import { ask } from '@/api/client';
import { useJob } from '@/job/useJob';

/** Every check that is read cell by cell, as the core describes it for the fuel system of the job. */
export function useSheetForms() {
  const job = useJob();
  const fuel = computed(() => job.view.value?.file.job.intake.fuel_system);
  return useQuery({
    queryKey: computed(() => ['sheets', fuel.value]),
    queryFn: () => ask('get', '/api/sheets', { params: { query: { fuel: fuel.value } } }),
    staleTime: Infinity,
  });
}
